"""A database of an older version opens with everything in it, its history too."""

import json
import shutil
from pathlib import Path

import pytest
from sqlalchemy import text
from tests.store.conftest import keeper

from fern_match.core.kitchen import Kitchen
from fern_match.core.match import Match
from fern_match.core.measures import Measures
from fern_match.core.study.record import PieceSize, Whereabouts
from fern_match.exchange import read_match_file
from fern_match.store import Database
from fern_match.store.database import engine_of, migrate
from fern_match.store.moments import moments, undo_state
from fern_match.store.trees import house, listed, load

DATA = Path(__file__).parents[1] / "data"
OLD_MATCH = """
    insert into matches
    (id, revision, created_at, changed_at, name, maker, region, net_weight, pieces_per_pack, serving, basis, statement)
    values ('m', 3, '2026-01-02', '2026-01-03', 'Harbour Light', 'Ferrywright', 'US', '1.5 oz', '1', '', 'serving', 'Sugar')
"""
OLD_LAYER = """
    insert into layers (match_id, id, position, name, family, place, host)
    values ('m', 'coat', 0, 'Coat', 'dark-coat', 'coat', null)
"""
OLD_READING = "insert into readings (match_id, subject, position, typed) values ('m', 'coat', 0, '16.2')"
OLD_KITCHEN = "insert into kitchen (id, scale_step, measures, mass_unit) values (1, '1 g', 'US', 'oz')"


@pytest.mark.parametrize("version", ["0001", "0002", "0003", "0004"])
def test_an_older_database_is_brought_up(tmp_path: Path, version: str) -> None:
    """What hung on its matches hangs there still, what is new is empty, and a change can be undone."""
    path = tmp_path / "old.db"
    engine = engine_of(path, write=True)
    migrate(engine, to=version)
    with engine.begin() as connection:
        for statement in (OLD_MATCH, OLD_LAYER, OLD_READING):
            connection.execute(text(statement))
        if version in {"0003", "0004"}:
            connection.execute(text(OLD_KITCHEN))
    engine.dispose()
    database = Database(path)
    with database.reading() as session:
        kept = load(session, "m", Match)
        kitchen = house(session).whole.kitchen
    study = kept.whole.study
    assert (kept.revision, study.name, study.label.net_weight) == (3, "Harbour Light", "1.5 oz")
    assert [layer.id for layer in study.layers] == ["coat"]
    assert [(one.subject, one.typed) for one in study.readings] == [("coat", "16.2")]
    assert study.size == PieceSize()
    assert kitchen.scale_step == ("1 g" if version in {"0003", "0004"} else Kitchen().scale_step)
    assert kitchen.altitude == ""
    keep = keeper(database, "m")
    keep.save(3, lambda match: Match(study=match.study, versions=match.versions, pinned=()))
    assert keep.save(3, lambda _: Match(study=study)).revision == 3
    database.close()


@pytest.fixture
def of_rows(tmp_path: Path) -> Database:
    """A database of before matches were kept in parts, with eleven revisions: edits, undos, a return; an id with a slash."""
    shutil.copy(DATA / "kept_in_rows.db", tmp_path / "rows.db")
    return Database(tmp_path / "rows.db")


def test_a_database_of_rows_opens_with_all_it_holds(of_rows: Database) -> None:
    """The match as its own file of that time has it, in the list, with the kitchen, and what was deleted."""
    with of_rows.reading() as session:
        lines, gone, kitchen = listed(session), listed(session, deleted=True), house(session).whole.kitchen
        match_id = next(one.id for one in lines if one.line["name"] == "Harbour Light")
        match = load(session, match_id, Match).whole
    assert match == read_match_file((DATA / "match_file_1.json").read_bytes())
    assert {one.line["name"] for one in lines} == {"Harbour Light", "Second"}
    assert [one.line["name"] for one in gone] == ["Gone"]
    assert (kitchen.scale_step, kitchen.measures, kitchen.altitude) == ("1 g", Measures.US, "1600 m")
    study = match.study
    odd = study.layers[2]
    assert (odd.id, odd.name, odd.host) == ("odd-id-1", "Nuts", "caramel")
    assert [one.typed for one in study.readings if one.subject == odd.id] == ["2.1"]
    assert study.placements == {"salt": {odd.id: Whereabouts.NO}}
    assert study.doubted == (f"weighing:{odd.id}",)
    assert match.batches[0].left_on_tools == {odd.id: "4"}


def test_its_history_comes_along(of_rows: Database) -> None:
    """Every revision can be returned to; each undo names its own change; undo and redo go on where they stood."""
    with of_rows.reading() as session:
        match_id = next(one.id for one in listed(session) if one.line["name"] == "Harbour Light")
        told = {one.number: one.words[0] for one in moments(session, match_id)}
        state = undo_state(session, match_id, 11)
        now = load(session, match_id, Match).whole
    assert told[4] == "Total fat: 11, was 10"
    assert (told[5], told[6]) == ("Undone: Total fat: 11, was 10", "Undone: Maker: Hollin & Rook, was Ferrywright")
    assert told[7] == "Done again: Maker: Hollin & Rook, was Ferrywright"
    assert (told[10], told[11]) == ("Returned to revision 2", "Undone: Returned to revision 2")
    assert state.undo is not None
    assert state.undo.startswith("Pieces wanted: 24")
    keep = keeper(of_rows, match_id)
    keep.undo(11)
    keep.redo(12)
    for number, maker in ((2, "Ferrywright"), (3, "Hollin & Rook"), (9, "Hollin & Rook")):
        with of_rows.reading() as session:
            revision = load(session, match_id, Match).revision
        assert keep.return_to(revision, number).whole.study.maker == maker
    with of_rows.reading() as session:
        assert load(session, match_id, Match).whole == now


def test_contents_say_their_format(of_rows: Database) -> None:
    """So that a later version knows what to bring up to date."""
    with of_rows.reading() as session:
        assert session.execute(text("select distinct format from contents")).scalars().all() == [2]
        words = session.execute(text("select words from changes")).scalars().all()
    assert all(isinstance(json.loads(one), list) for one in words)
