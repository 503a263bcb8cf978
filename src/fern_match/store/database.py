"""The database file: opened with foreign keys, WAL and a busy timeout, migrated, one session per piece of work."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.orm import Session, sessionmaker

_MIGRATIONS = Path(__file__).parent / "migrations"
_BUSY_MS = 5000


class Database:
    """One SQLite file, or memory for tests."""

    def __init__(self, path: Path) -> None:
        """Opens the file, making it and its folder where they are missing; migrates it to today's tables.

        Args:
            path: Of the SQLite file.
        """
        path.parent.mkdir(parents=True, exist_ok=True)
        self.engine = engine_of(f"sqlite:///{path}")
        migrate(self.engine)
        self._sessions = sessionmaker(self.engine, expire_on_commit=False)

    @contextmanager
    def transaction(self) -> Iterator[Session]:
        """A session whose work is kept as a whole or not at all."""
        with self._sessions.begin() as session:
            yield session

    def close(self) -> None:
        """Lets go of the file."""
        self.engine.dispose()


def migrate(engine: Engine, *, to: str = "head") -> None:
    """Brings the tables up to date, or up to a version of them.

    Args:
        engine: Of the database.
        to: A revision of the migrations.
    """
    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, to)


def engine_of(url: str) -> Engine:
    """Connections as every part of the store wants them.

    Args:
        url: Of a SQLite database.
    """
    engine = create_engine(url, connect_args={"check_same_thread": False})

    @event.listens_for(engine, "connect")
    def on_connect(connection: Any, _record: object) -> None:
        connection.isolation_level = None  # transactions begin where `on_begin` says, not where the driver guesses
        cursor = connection.cursor()
        for pragma in ("foreign_keys=ON", "journal_mode=WAL", "synchronous=FULL", f"busy_timeout={_BUSY_MS}"):
            cursor.execute(f"PRAGMA {pragma}")
        cursor.close()

    @event.listens_for(engine, "begin")
    def on_begin(connection: Any) -> None:
        connection.exec_driver_sql("BEGIN IMMEDIATE")

    return engine
