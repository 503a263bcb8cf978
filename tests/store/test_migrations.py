"""A database of an older version opens with everything in it."""

from pathlib import Path

import pytest
from alembic import command
from alembic.config import Config
from sqlalchemy import text

from fern_match.core.kitchen import Kitchen
from fern_match.core.match import Match
from fern_match.core.study.record import PieceSize, Study
from fern_match.store import Database, matches
from fern_match.store.database import engine_of, migrate
from fern_match.store.kitchen import load_kitchen

OLD_MATCH = """
    insert into matches
    (id, revision, created_at, changed_at, name, maker, region, net_weight, pieces_per_pack, serving, basis, statement)
    values ('m', 3, '2026-01-02', '2026-01-03', 'Harbour Light', 'Ferrywright', 'US', '1.5 oz', '1', '', 'serving', 'Sugar')
"""
OLD_LAYER = """
    insert into layers (match_id, id, position, name, family, place, host)
    values ('m', 'coat', 0, 'Coat', 'dark-coat', 'coat', null)
"""
OLD_KITCHEN = "insert into kitchen (id, scale_step, measures, mass_unit) values (1, '1 g', 'US', 'oz')"


@pytest.mark.parametrize("version", ["0001", "0002", "0003"])
def test_an_older_database_is_brought_up(tmp_path: Path, version: str) -> None:
    """What hung on its matches hangs there still, and what is new is empty."""
    path = tmp_path / "old.db"
    engine = engine_of(f"sqlite:///{path}")
    migrate(engine, to=version)
    with engine.begin() as connection:
        connection.execute(text(OLD_MATCH))
        connection.execute(text(OLD_LAYER))
        if version == "0003":
            connection.execute(text(OLD_KITCHEN))
    engine.dispose()
    database = Database(path)
    with database.transaction() as session:
        study = matches.load(session, "m").match.study
        kitchen = load_kitchen(session)
    assert (study.name, study.label.net_weight) == ("Harbour Light", "1.5 oz")
    assert [layer.id for layer in study.layers] == ["coat"]
    assert study.size == PieceSize()
    assert kitchen.scale_step == ("1 g" if version == "0003" else Kitchen().scale_step)
    assert kitchen.altitude == ""
    database.close()


def test_going_back_keeps_what_the_older_version_knows(tmp_path: Path, small_study: Study) -> None:
    """Down to the first tables, layers and readings stay."""
    path = tmp_path / "new.db"
    database = Database(path)
    with database.transaction() as session:
        matches.create(session, Match(study=small_study))
    config = Config()
    config.set_main_option("script_location", "fern_match.store:migrations")
    with database.engine.begin() as connection:
        config.attributes["connection"] = connection
        command.downgrade(config, "0001")
        counts = [
            connection.execute(text(f"select count(*) from {table}")).scalar() for table in ("matches", "layers", "readings")
        ]
    assert counts == [1, 2, 1]
    database.close()
