"""Undo and redo: any sequence of edits, undos and redos leaves what replaying the net edits leaves; and tells it."""

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests import any_match
from tests.store.conftest import Keep, keeper

from fern_match.core.errors import NotKnown
from fern_match.core.match import Match
from fern_match.core.study.record import Study
from fern_match.store import Database, NothingThere, Stale, UndoState
from fern_match.store.moments import moments, undo_state
from fern_match.store.trees import NewTree, create, load

ACTIONS = st.lists(st.one_of(any_match.matches(), st.just("undo"), st.just("redo")), max_size=14)


@pytest.fixture(scope="module")
def one_database(tmp_path_factory: pytest.TempPathFactory) -> Database:
    """A database for many histories."""
    return Database(tmp_path_factory.mktemp("histories") / "history.db")


@given(first=any_match.matches(), actions=ACTIONS)
@settings(max_examples=25)
def test_any_sequence_equals_its_net_edits(one_database: Database, first: Match, actions: list[Match | str]) -> None:
    """Edits of anything: a stack kept here by hand against the database, after every action; then every state once more."""
    with one_database.writing() as session:
        keep = keeper(one_database, create(session, NewTree.of(first, {})))
    done, undone, revision, states = [first], [], 1, {1: first}
    for action in actions:
        if isinstance(action, Match):
            saved = keep.save(revision, lambda _, to=action: to)
            if saved.revision != revision:
                done.append(saved.whole)  # the edit, without what hung on layers it removed
                undone.clear()
            revision = saved.revision
        else:
            taken, go = (done[1:], keep.undo) if action == "undo" else (undone, keep.redo)
            if not taken:
                with pytest.raises(NothingThere):
                    go(revision)
            else:
                revision = go(revision).revision
                (undone if action == "undo" else done).append((done if action == "undo" else undone).pop())
        with one_database.reading() as session:
            assert load(session, keep.tree_id, Match).whole == done[-1]
        states[revision] = done[-1]
    for number, state in states.items():
        revision = keep.return_to(revision, number).revision
        with one_database.reading() as session:
            assert load(session, keep.tree_id, Match).whole == state


def renamed(name: str) -> Callable[[Match], Match]:
    """A change that gives a name."""
    return lambda match: replace(match, study=replace(match.study, name=name))


def test_undo_reaches_across_a_restart(tmp_path: Path, small_study: Study) -> None:
    """Until the match was made."""
    first = Database(tmp_path / "again.db")
    with first.writing() as session:
        made = create(session, NewTree.of(Match(study=small_study), {}))
    keeper(first, made).save(1, renamed("Other"))
    first.close()
    second = Database(tmp_path / "again.db")
    keeper(second, made).undo(2)
    with second.reading() as session:
        assert load(session, made, Match).whole.study == small_study
        assert undo_state(session, made, 3).undo is None


def test_each_undo_says_what_it_undid(database: Database, kept: Keep, small_study: Study) -> None:
    """Three changes, three undos, one done again: every line names its own change."""
    keep = kept(Match(study=small_study))
    for number, name in enumerate(("One", "Two", "Three"), 1):
        keep.save(number, renamed(name))
    for number in (4, 5, 6):
        keep.undo(number)
    keep.redo(7)
    with database.reading() as session:
        told = [moment.words for moment in moments(session, keep.tree_id)]
        now = undo_state(session, keep.tree_id, 8)
    changes = ["Name: One, was Harbour Light", "Name: Two, was One", "Name: Three, was Two"]
    assert [words[0] for words in reversed(told)] == [
        "Made",
        *changes,
        *(f"Undone: {change}" for change in reversed(changes)),
        f"Done again: {changes[0]}",
    ]
    assert now == UndoState(undo=changes[0], redo=changes[1])


def test_the_list_of_changes_goes_back_to_the_beginning(database: Database, kept: Keep, small_study: Study) -> None:
    """A hundred at a time."""
    keep = kept(Match(study=small_study))
    for number in range(1, 131):
        keep.save(number, renamed(f"Name {number}"))
    with database.reading() as session:
        newest = moments(session, keep.tree_id)
        oldest = moments(session, keep.tree_id, before=newest[-1].number)
    assert [moment.number for moment in (*newest, *oldest)] == list(range(131, 0, -1))


def test_undo_refuses_where_another_wrote(kept: Keep, small_study: Study) -> None:
    """It would take back what was not seen; nor is there a revision from the future."""
    keep = kept(Match(study=small_study))
    keep.save(1, renamed("A"))
    keep.save(2, renamed("B"))
    for go in (keep.undo, keep.redo, lambda made_on: keep.return_to(made_on, 1)):
        with pytest.raises(Stale) as caught:
            go(2)
        assert (caught.value.made_on, caught.value.newest) == (2, 3)
    with pytest.raises(NotKnown):
        keep.return_to(3, 99)
