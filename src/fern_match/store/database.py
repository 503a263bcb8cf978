"""The database file: opened safely, migrated; readers that lock nobody out, writers one at a time."""

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from alembic.util import CommandError
from sqlalchemy import URL, Engine, create_engine, event
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session, sessionmaker

from fern_match.core.errors import CoreError

_MIGRATIONS = Path(__file__).parent / "migrations"
_BUSY_MS = 5000


class CannotKeep(CoreError):
    """The file cannot be opened or written just now; the sentence says why and what to do."""


# What SQLite says, and what that means to the user.
_MEANINGS = (
    ("database is locked", "Another program holds the database. Close it, or wait a moment, and try again."),
    ("database or disk is full", "The disk is full. Make room, and try again."),
    ("readonly database", "The database cannot be written: its file or folder is read-only."),
    ("unable to open database file", "The database cannot be opened: look at its folder and who may write there."),
    ("file is not a database", "The file is not a database of this program. Choose another, or move it away."),
    ("malformed", "The database is damaged. Restore a backup into a new one."),
    ("disk i/o error", "The disk does not answer as it should. Look at it before going on."),
)


def meaning_of(error: Exception) -> CannotKeep:
    """A database error as a sentence."""
    text = str(error).lower()
    return CannotKeep(next((words for sign, words in _MEANINGS if sign in text), "The database did not answer as it should."))


class Database:
    """One SQLite file."""

    def __init__(self, path: Path) -> None:
        """Opens the file, making it and its folder where they are missing; migrates it to today's tables.

        Raises:
            CannotKeep: it is locked, read-only, full, another program's, or of a newer version of this one.
        """
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            _check_ours(path)
            self.engine = engine_of(path, write=True)
            migrate(self.engine)
        except (DatabaseError, sqlite3.DatabaseError, OSError) as error:
            raise CannotKeep(f"{path}: {meaning_of(error)}") from None
        self._readers = engine_of(path, write=False)
        self._writing = sessionmaker(self.engine, expire_on_commit=False)
        self._reading = sessionmaker(self._readers, expire_on_commit=False)

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """A session whose work is kept as a whole or not at all; one at a time, so that it should be short."""
        with self._writing.begin() as session:
            session.connection()  # takes the lock now, not at the first statement
            yield session

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """A session that sees one state of everything and locks nobody out; it cannot write."""
        with self._reading.begin() as session:
            yield session

    def close(self) -> None:
        """Lets go of the file."""
        self._readers.dispose()
        self.engine.dispose()


def _check_ours(path: Path) -> None:
    """Refuses another program's database, and one that a newer version of this program wrote, before anything is changed."""
    if not path.exists():
        return
    if path.is_dir():
        raise CannotKeep(f"{path} cannot be opened: it is a folder. Name a file in it.")
    with closing(sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True, timeout=_BUSY_MS / 1000)) as connection:
        names = {name for (name,) in connection.execute("select name from sqlite_master where type = 'table'")}
        if not names:
            return
        if "alembic_version" not in names or not names & {"matches", "trees"}:
            raise CannotKeep(f"{path} is a database of another program. Choose another file; nothing was changed in it.")
        version = connection.execute("select version_num from alembic_version").fetchone()
    try:
        ScriptDirectory(str(_MIGRATIONS)).get_revision(version[0] if version else "base")
    except CommandError:
        raise CannotKeep(f"{path} was written by a newer version of this program. Nothing was changed in it.") from None


def migrate(engine: Engine, *, to: str = "head") -> None:
    """Brings the tables up to date, or up to a version of them.

    Args:
        to: A revision of the migrations.
    """
    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, to)


def engine_of(path: Path, *, write: bool) -> Engine:
    """Connections as every part of the store wants them.

    Args:
        write: Whether its transactions take the write lock as they begin; else they cannot write at all.
    """
    engine = create_engine(URL.create("sqlite", database=str(path)), connect_args={"check_same_thread": False})

    @event.listens_for(engine, "connect")
    def on_connect(connection: Any, _record: object) -> None:
        connection.isolation_level = None  # transactions begin where `on_begin` says, not where the driver guesses
        cursor = connection.cursor()
        cursor.execute(f"PRAGMA busy_timeout={_BUSY_MS}")  # first: the others may have to wait for another program
        for pragma in ("foreign_keys=ON", "journal_mode=WAL", "synchronous=FULL", f"query_only={'OFF' if write else 'ON'}"):
            cursor.execute(f"PRAGMA {pragma}")
        cursor.close()

    @event.listens_for(engine, "begin")
    def on_begin(connection: Any) -> None:
        connection.exec_driver_sql("BEGIN IMMEDIATE" if write else "BEGIN")

    return engine
