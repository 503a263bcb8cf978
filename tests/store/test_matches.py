"""Matches are kept whole, saved on their revision, and survive the file being opened again."""

from dataclasses import replace
from pathlib import Path

import pytest
from sqlalchemy import text

from fern_match.core.errors import NotKnown
from fern_match.core.food import Pantry
from fern_match.core.formulate import Version, VersionIngredient, VersionLayer
from fern_match.core.match import BatchPlan, Match
from fern_match.core.study.record import Study, Whereabouts
from fern_match.store import Database, Stale, history, matches

VERSION = Version(
    id="v1",
    name="Faithful",
    parent=None,
    layers=(
        VersionLayer(
            layer_id="coat",
            name="Coat",
            family="dark-coat",
            finished_g=13.5,
            water_lost_g=0.0,
            ingredients=(VersionIngredient(ingredient_id="cocoa-mass", name="Cocoa mass", role="cocoa-solids", grams=13.5),),
        ),
    ),
)


@pytest.fixture
def database(tmp_path: Path) -> Database:
    """An empty database in a file."""
    return Database(tmp_path / "matches.db")


@pytest.fixture
def whole(small_study: Study) -> Match:
    """A match with something of everything."""
    study = replace(
        small_study,
        corrections={"sugar": "icing-sugar"},
        placements={("salt", "coat"): Whereabouts.NO},
        weighings={"piece": ("43", "42.5"), "coat": ("16.2", "odd")},
        doubted=frozenset({"row:fat"}),
    )
    plan = BatchPlan(id="b1", version_id="v1", pieces="24", left_on_tools={"coat": "4 %"})
    return Match(study=study, versions=(VERSION,), batches=(plan,))


def create(database: Database, match: Match) -> str:
    """Keeps a match and gives its id."""
    with database.transaction() as session:
        return matches.create(session, match).id


def test_a_match_comes_back_whole(database: Database, whole: Match) -> None:
    """Every part of it, in order."""
    match_id = create(database, whole)
    with database.transaction() as session:
        stored = matches.load(session, match_id)
    assert stored.match == whole
    assert stored.revision == 1


def test_a_match_outlives_the_process(tmp_path: Path, whole: Match) -> None:
    """Opened again tomorrow, it is all there."""
    first = Database(tmp_path / "kept.db")
    match_id = create(first, whole)
    first.close()
    second = Database(tmp_path / "kept.db")
    with second.transaction() as session:
        assert matches.load(session, match_id).match == whole


def test_a_save_is_the_next_revision(database: Database, whole: Match, pantry: Pantry) -> None:
    """And replaces what was there."""
    match_id = create(database, whole)
    changed = replace(whole, study=replace(whole.study, name="Renamed", weighings={}, layers=whole.study.layers[:1]))
    with database.transaction() as session:
        assert history.save_change(session, match_id, 1, lambda _: changed, pantry).revision == 2
    with database.transaction() as session:
        assert matches.load(session, match_id).match == changed


def test_a_save_of_nothing_new_is_no_revision(database: Database, whole: Match, pantry: Pantry) -> None:
    """Nothing to undo where nothing changed."""
    match_id = create(database, whole)
    with database.transaction() as session:
        assert history.save_change(session, match_id, 1, lambda match: match, pantry).revision == 1


def test_a_save_on_an_unknown_revision_is_refused(database: Database, whole: Match, pantry: Pantry) -> None:
    """The sentence says which revisions."""
    match_id = create(database, whole)
    with pytest.raises(Stale) as caught, database.transaction() as session:
        history.save_change(session, match_id, 7, lambda match: match, pantry)
    assert (caught.value.made_on, caught.value.newest) == (7, 1)


def test_a_failed_save_leaves_the_old_match(database: Database, whole: Match, pantry: Pantry) -> None:
    """A transaction is kept as a whole or not at all."""
    match_id = create(database, whole)
    with pytest.raises(RuntimeError), database.transaction() as session:
        history.save_change(session, match_id, 1, lambda match: replace(match, versions=(), batches=()), pantry)
        raise RuntimeError("pulled plug")
    with database.transaction() as session:
        assert matches.load(session, match_id).match == whole
        assert len(history.moments(session, match_id)) == 1


def test_deleting_takes_everything_along(database: Database, whole: Match) -> None:
    """Once it is purged, no row of any table stays behind."""
    match_id = create(database, whole)
    with database.transaction() as session:
        matches.set_deleted(session, match_id, deleted=True)
        session.execute(text("update matches set deleted_at = '2020-01-01 00:00:00'"))
    with database.transaction() as session:
        assert matches.purge(session) == 1
    with database.engine.begin() as connection:
        names = connection.execute(text("select name from sqlite_master where type='table' and name not like 'alembic%'"))
        for (table,) in names.all():
            assert connection.execute(text(f"select count(*) from {table}")).scalar() == 0, table


@pytest.mark.parametrize("action", ["load", "save", "remove"])
def test_an_unknown_match_is_named(database: Database, pantry: Pantry, action: str) -> None:
    """Whatever is asked of it."""
    with pytest.raises(NotKnown) as caught, database.transaction() as session:
        if action == "load":
            matches.load(session, "nope")
        elif action == "save":
            history.save_change(session, "nope", 1, lambda match: match, pantry)
        else:
            matches.set_deleted(session, "nope", deleted=True)
    assert caught.value.key == "nope"


def test_the_list_has_the_last_changed_first(database: Database, whole: Match, pantry: Pantry) -> None:
    """With counts of what each holds."""
    first, second = create(database, whole), create(database, replace(whole, versions=(), batches=()))
    with database.transaction() as session:
        history.save_change(session, first, 1, lambda match: replace(match, study=replace(match.study, maker="x")), pantry)
    with database.transaction() as session:
        listed = matches.summaries(session)
    assert [one.id for one in listed] == [first, second]
    assert (listed[0].layers, listed[0].versions, listed[0].batches) == (2, 1, 1)


@pytest.mark.parametrize(("pragma", "value"), [("foreign_keys", 1), ("journal_mode", "wal"), ("busy_timeout", 5000)])
def test_the_file_is_opened_safely(database: Database, pragma: str, value: object) -> None:
    """Foreign keys, WAL and a busy timeout on every connection."""
    with database.engine.connect() as connection:
        assert connection.exec_driver_sql(f"PRAGMA {pragma}").scalar() == value


def test_migrations_make_the_tables_that_the_code_has(database: Database) -> None:
    """Nothing would be migrated further."""
    from alembic.autogenerate import compare_metadata
    from alembic.migration import MigrationContext

    from fern_match.store.tables import Base

    with database.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
