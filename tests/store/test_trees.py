"""Trees are kept whole, saved on their revision, merged, and survive the file being opened again."""

import sqlite3
import threading
from collections.abc import Callable
from contextlib import closing
from dataclasses import replace
from pathlib import Path

import pytest
from sqlalchemy import func, select, text
from tests.store.conftest import Keep, keeper

from fern_match.core.batch import BatchPlan
from fern_match.core.errors import NotKnown
from fern_match.core.food import Ingredient, Pantry, standard_pantry
from fern_match.core.formulate import Version, VersionIngredient, VersionLayer
from fern_match.core.house import House
from fern_match.core.kitchen import Kitchen
from fern_match.core.match import Match
from fern_match.core.record import NotFitting
from fern_match.core.record.parts import PartKey
from fern_match.core.study.record import Layer, Place, Reading, Study, Whereabouts, weighed
from fern_match.store import HOUSE, CannotKeep, Clash, Database, Keeper, Stale
from fern_match.store.backup import restore
from fern_match.store.moments import moments
from fern_match.store.tables import ChangePartRow, ContentRow
from fern_match.store.trees import everything, house, listed, load, purge, set_archived, set_deleted

LINE = VersionIngredient(id="1", ingredient="cocoa-mass", name="Cocoa mass", role="cocoa-solids", amount="13.5 g")
VERSION = Version(
    id="v1", name="Faithful", layers=(VersionLayer(id="coat", name="Coat", family="dark-coat", ingredients=(LINE,)),)
)
PLAN = BatchPlan(id="b1", version="v1", pieces="24", left_on_tools={"coat": "4 %"})


@pytest.fixture
def whole(small_study: Study, pantry: Pantry) -> Match:
    """A match with something of everything."""
    study = replace(
        small_study,
        corrections={"sugar": "icing-sugar"},
        placements={"salt": {"coat": Whereabouts.NO}},
        readings=weighed({"piece": ("43", "42.5"), "coat": ("16.2", "odd")}),
        doubted=("row:fat",),
    )
    return Match(study=study, versions=(VERSION,), batches=(PLAN,), pinned=(pantry["cocoa-mass"],))


def named(name: str) -> Callable[[Match], Match]:
    """A change that gives a name."""
    return lambda match: replace(match, study=replace(match.study, name=name))


def now(database: Database, tree_id: str) -> Match:
    """A match as it is."""
    with database.reading() as session:
        return load(session, tree_id, Match).whole


def test_a_match_comes_back_whole_tomorrow(tmp_path: Path, whole: Match) -> None:
    """Every part of it, in order, after the file was closed."""
    from fern_match.store.trees import NewTree, create

    first = Database(tmp_path / "kept.db")
    with first.writing() as session:
        match_id = create(session, NewTree.of(whole, {}))
    first.close()
    assert now(Database(tmp_path / "kept.db"), match_id) == whole


def test_a_save_writes_what_changed_and_no_more(database: Database, kept: Keep, whole: Match) -> None:
    """One field of the study: one content and one pointer more, whatever else there is."""
    keep = kept(replace(whole, versions=tuple(replace(VERSION, id=f"v{n}") for n in range(1, 31))))
    with database.reading() as session:
        before = [session.scalar(select(func.count()).select_from(table)) or 0 for table in (ContentRow, ChangePartRow)]
    keep.save(1, named("Other"), [PartKey("study", "study")])
    with database.reading() as session:
        after = [session.scalar(select(func.count()).select_from(table)) or 0 for table in (ContentRow, ChangePartRow)]
    assert [late - early for late, early in zip(after, before, strict=True)] == [1, 1]
    assert len(now(database, keep.tree_id).versions) == 30


def test_a_save_of_nothing_new_is_no_revision(kept: Keep, whole: Match) -> None:
    """Nothing to undo where nothing changed."""
    assert kept(whole).save(1, lambda match: match).revision == 1


def test_a_save_on_an_unknown_revision_is_refused(kept: Keep, whole: Match) -> None:
    """The sentence says which revisions."""
    with pytest.raises(Stale) as caught:
        kept(whole).save(7, named("x"))
    assert (caught.value.made_on, caught.value.newest) == (7, 1)


def test_two_changes_of_different_parts_come_together(database: Database, kept: Keep, whole: Match) -> None:
    """One window renames, the other plans, each loading only what it touches."""
    keep = kept(whole)
    keep.save(1, named("Other"), [PartKey("study", "study")])
    plan = lambda match: replace(match, batches=(replace(PLAN, pieces="12"),))  # noqa: E731
    keep.save(1, plan, [PartKey("batches", "b1"), PartKey("versions", "v1")])
    assert (now(database, keep.tree_id).study.name, now(database, keep.tree_id).batches[0].pieces) == ("Other", "12")


def test_a_clash_asks_and_a_decision_holds_only_for_what_was_seen(database: Database, kept: Keep, whole: Match) -> None:
    """Mine wins over revision 2, which was shown; the third window's word, not seen yet, asks again."""
    keep = kept(whole)
    keep.save(1, named("Second"))
    with pytest.raises(Clash) as caught:
        keep.save(1, named("Mine"))
    assert caught.value.revision == 2
    keep.save(2, named("Third"))
    with pytest.raises(Clash) as again:
        keep.save(1, named("Mine"), decided_on=2)
    assert again.value.revision == 3
    assert keep.save(1, named("Mine"), decided_on=3).whole.study.name == "Mine"


def test_removing_a_layer_takes_what_hung_on_it(database: Database, kept: Keep, whole: Match) -> None:
    """Its readings and placements go with it, and come back with undo."""
    keep = kept(whole)
    keep.save(1, lambda match: replace(match, study=replace(match.study, layers=match.study.layers[1:])))
    study = now(database, keep.tree_id).study
    assert {reading.subject for reading in study.readings} == {"piece"}
    assert study.placements == {}
    keep.undo(2)
    assert now(database, keep.tree_id) == whole


def test_a_batch_of_a_version_that_went_meanwhile_asks(kept: Keep, whole: Match) -> None:
    """However little of the match each save loads."""
    keep = kept(replace(whole, batches=()))
    keep.save(1, lambda match: replace(match, versions=()), [PartKey("versions", "v1")])
    with pytest.raises(Clash, match="Faithful"):
        keep.save(1, lambda match: replace(match, batches=(PLAN,)), [PartKey("batches", "b1"), PartKey("versions", "v1")])


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda match: replace(match, study=replace(match.study, name="x" * 121)), "121 signs; at most 120"),
        (lambda match: replace(match, study=replace(match.study, maker="a\x00b")), "U+0000"),
        (lambda match: replace(match, study=replace(match.study, layers=match.study.layers * 2)), "have the id “coat”"),
        (
            lambda match: replace(match, study=replace(match.study, readings=(Reading(id="a/b", subject="piece", typed="1"),))),
            "cannot be an id",
        ),
        (lambda match: replace(match, versions=tuple(replace(VERSION, id=f"v{n}") for n in range(201))), "at most 200"),
    ],
)
def test_what_does_not_fit_is_refused_with_a_sentence(
    database: Database, kept: Keep, whole: Match, change: Callable[[Match], Match], words: str
) -> None:
    """And nothing of it is kept."""
    keep = kept(whole)
    with pytest.raises(NotFitting, match=words.replace("+", r"\+")):
        keep.save(1, change)
    assert now(database, keep.tree_id) == whole


def test_merging_cannot_bring_in_more_than_fits(kept: Keep, whole: Match) -> None:
    """18 layers, and two windows that add two each."""

    def layers(*names: str) -> Callable[[Match], Match]:
        more = tuple(Layer(id=name, name=name, family="soft-caramel", place=Place.STACK) for name in names)
        return lambda match: replace(match, study=replace(match.study, layers=(*match.study.layers, *more)))

    keep = kept(layers(*(f"l{n}" for n in range(16)))(whole))
    keep.save(1, layers("a", "b"))
    with pytest.raises(NotFitting, match="22 of them; at most 20"):
        keep.save(1, layers("c", "d"))


def test_a_match_never_grows_beyond_what_a_file_brings_in(kept: Keep, whole: Match) -> None:
    """8 MB of content; the sentence says so."""
    statement = "x" * 19_000
    lines = tuple(replace(LINE, id=f"l{n}", name=statement[:120], amount=statement[:200]) for n in range(200))
    heavy = replace(VERSION, layers=tuple(replace(VERSION.layers[0], id=f"y{n}", ingredients=lines) for n in range(20)))
    keep = kept(whole)
    with pytest.raises(NotFitting, match="more than 8 MB"):
        keep.save(1, lambda match: replace(match, versions=tuple(replace(heavy, id=f"v{n}") for n in range(1, 9))))


def test_many_writers_at_once_lose_nothing(database: Database, kept: Keep, whole: Match) -> None:
    """Eight threads on one match, each adding its readings."""
    keep = kept(replace(whole, study=replace(whole.study, readings=())))

    def write(who: int) -> None:
        for number in range(6):
            reading = Reading(id=f"w{who}-{number}", subject="piece", typed=str(number))
            keep.save(
                1, lambda match, one=reading: replace(match, study=replace(match.study, readings=(*match.study.readings, one)))
            )

    writers = [threading.Thread(target=write, args=(who,)) for who in range(8)]
    for writer in writers:
        writer.start()
    for writer in writers:
        writer.join()
    assert len(now(database, keep.tree_id).study.readings) == 48
    with database.reading() as session:
        assert len(moments(session, keep.tree_id)) == 49


def test_readers_see_one_state_and_lock_nobody_out(database: Database, kept: Keep, whole: Match) -> None:
    """A read begun before a save goes on with what it saw, and the save does not wait for it."""
    keep = kept(whole)
    with database.reading() as session:
        assert load(session, keep.tree_id, Match).revision == 1
        keep.save(1, named("Meanwhile"))
        assert load(session, keep.tree_id, Match).whole.study.name == whole.study.name
        with pytest.raises(Exception, match="readonly"):
            session.execute(text("delete from trees"))


def test_a_writer_has_the_lock_from_its_beginning(database: Database, kept: Keep, whole: Match) -> None:
    """Two that read before they write would both go by a state that one of them changes: the second waits at the door."""
    kept(whole)
    with closing(sqlite3.connect(database.engine.url.database or "", timeout=0)) as other:
        with database.writing(), pytest.raises(sqlite3.OperationalError, match="locked"):
            other.execute("BEGIN IMMEDIATE")
        other.execute("BEGIN IMMEDIATE")


def test_deleting_takes_everything_along(database: Database, kept: Keep, whole: Match) -> None:
    """Once it is purged, no row of any table stays behind."""
    keep = kept(whole)
    keep.save(1, named("x"))
    with database.writing() as session:
        set_deleted(session, keep.tree_id, deleted=True)
        session.execute(text("update trees set deleted_at = '2020-01-01 00:00:00'"))
    with database.reading() as session:
        assert [one.id for one in listed(session, deleted=True)] == [keep.tree_id]
    with database.writing() as session:
        assert purge(session) == 1
    with database.engine.begin() as connection:
        names = connection.execute(text("select name from sqlite_master where type='table' and name not like 'alembic%'"))
        for (table,) in names.all():
            assert connection.execute(text(f"select count(*) from {table}")).scalar() == 0, table


@pytest.mark.parametrize("action", ["load", "save", "undo", "remove"])
def test_an_unknown_match_is_named(database: Database, action: str) -> None:
    """Whatever is asked of it."""
    with pytest.raises(NotKnown) as caught:
        if action == "load":
            now(database, "nope")
        elif action == "save":
            keeper(database, "nope").save(1, named("x"))
        elif action == "undo":
            keeper(database, "nope").undo(1)
        else:
            with database.writing() as session:
                set_deleted(session, "nope", deleted=True)
    assert caught.value.key == "nope"


def test_the_list_has_the_last_changed_first(database: Database, kept: Keep, whole: Match) -> None:
    """With its line and counts; those put away at the end."""
    first, second = kept(whole), kept(replace(whole, versions=(), batches=()))
    first.save(1, named("Changed"))
    with database.reading() as session:
        lines = listed(session)
    assert [one.id for one in lines] == [first.tree_id, second.tree_id]
    assert lines[0].line == {"name": "Changed"}
    assert (lines[0].counts["versions"], lines[0].counts["batches"]) == (1, 1)
    with database.writing() as session:
        set_archived(session, first.tree_id, archived=True)
    with database.reading() as session:
        assert [one.id for one in listed(session)] == [second.tree_id, first.tree_id]


def house_keeper(database: Database) -> Keeper[House]:
    """Keeps the house."""
    from fern_match.core.families import standard_families

    return Keeper(
        database=database, tree_id=HOUSE, whole=House, pantry=standard_pantry(), families=standard_families(), line=lambda _: {}
    )


def test_the_kitchen_is_kept_and_undone_as_a_match_is(database: Database) -> None:
    """From a usual one that nobody has set, through two windows, and back."""
    keep = house_keeper(database)
    keep.save(0, lambda was: replace(was, kitchen=replace(was.kitchen, altitude="1600 m")))
    both = keep.save(0, lambda was: replace(was, kitchen=replace(was.kitchen, scale_step="1 g")))
    assert both.whole.kitchen == Kitchen(altitude="1600 m", scale_step="1 g")
    keep.undo(2)
    keep.undo(3)
    with database.reading() as session:
        assert house(session).whole == House()
        assert [one.words[0] for one in moments(session, HOUSE)][:2] == [
            "Undone: Height above the sea: 1600 m",
            "Undone: Smallest step of the scale: 1 g, was 0.1 g",
        ]


def test_a_restore_adds_what_is_not_here(database: Database, kept: Keep, whole: Match) -> None:
    """Nothing twice; the kitchen only where none was set up, ingredients wherever they are not here."""
    keep = kept(whole)
    other = replace(whole, study=replace(whole.study, name="Other"))
    own = Ingredient(id="own-bits", name="Bits", category="own")
    mine = House(kitchen=Kitchen(altitude="900 m"))
    first = restore(house_keeper(database), mine, [whole, other], lambda match: {"name": match.study.name})
    assert (first.added, first.already_here, first.kitchen_taken) == (1, 1, True)
    theirs = House(kitchen=Kitchen(altitude="1 m"), ingredients=(own,))
    again = restore(house_keeper(database), theirs, [whole, other], lambda _: {})
    assert (again.added, again.already_here, again.ingredients, again.kitchen_taken) == (0, 2, 1, False)
    assert "1 ingredients of its own pantry added" in again.words
    assert "kitchen stays" in again.words
    changed = replace(theirs, ingredients=(replace(own, note="theirs"),))
    assert restore(house_keeper(database), changed, [], lambda _: {}).ingredients_here == 1
    with database.reading() as session:
        found, matches = everything(session)
    assert found == replace(mine, ingredients=(own,))
    assert {match.study.name for match in matches} == {whole.study.name, "Other"}
    assert now(database, keep.tree_id) == whole


def test_two_restores_at_once_double_nothing(database: Database, whole: Match) -> None:
    """The second finds what the first has added, whatever came first."""
    others = [replace(whole, study=replace(whole.study, name=f"Match {number}")) for number in range(12)]
    doing = [threading.Thread(target=restore, args=(house_keeper(database), House(), others, lambda _: {})) for _ in range(3)]
    for one in doing:
        one.start()
    for one in doing:
        one.join()
    with database.reading() as session:
        assert len(everything(session)[1]) == 12


@pytest.mark.parametrize(
    ("pragma", "value"), [("foreign_keys", 1), ("journal_mode", "wal"), ("busy_timeout", 5000), ("synchronous", 2)]
)
def test_the_file_is_opened_safely(database: Database, pragma: str, value: object) -> None:
    """Foreign keys, WAL, a busy timeout and full synchronising on every connection."""
    with database.engine.connect() as connection:
        assert connection.exec_driver_sql(f"PRAGMA {pragma}").scalar() == value


def test_migrations_make_the_tables_that_the_code_has(database: Database) -> None:
    """Nothing would be migrated further."""
    from alembic.autogenerate import compare_metadata
    from alembic.migration import MigrationContext

    from fern_match.store.tables import Base

    with database.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []


def junk(path: Path) -> None:
    """No database at all."""
    path.write_bytes(b"not a database, certainly not one" * 100)


def foreign(path: Path) -> None:
    """Another program's."""
    with closing(sqlite3.connect(path)) as connection, connection:
        connection.execute("create table songs (title text)")


def from_the_future(path: Path) -> None:
    """Of a version that does not exist yet."""
    Database(path).close()
    with closing(sqlite3.connect(path)) as connection, connection:
        connection.execute("update alembic_version set version_num = '9999'")


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (junk, "not a database of this program"),
        (foreign, "database of another program"),
        (from_the_future, "newer version"),
        (lambda path: path.mkdir(), "cannot be opened"),
    ],
)
def test_a_file_that_cannot_be_opened_gets_a_sentence(tmp_path: Path, make: Callable[[Path], None], words: str) -> None:
    """With its name; and it stays as it was."""
    path = tmp_path / "other.db"
    make(path)
    before = path.read_bytes() if path.is_file() else b""
    with pytest.raises(CannotKeep, match=words) as caught:
        Database(path)
    assert "other.db" in str(caught.value)
    assert (path.read_bytes() if path.is_file() else b"") == before
