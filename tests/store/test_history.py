"""Undo and redo: any sequence of edits, undos and redos leaves what replaying the net edits leaves."""

from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sqlalchemy import text
from tests import any_match

from fern_match.core.food import Pantry, standard_pantry
from fern_match.core.match import Match
from fern_match.core.study.record import Study
from fern_match.store import Database, NothingThere, history, matches

ACTIONS = st.lists(st.one_of(any_match.matches(), st.just("undo"), st.just("redo")), max_size=14)


@pytest.fixture(scope="module")
def one_database(tmp_path_factory: pytest.TempPathFactory) -> Database:
    """A database for many histories."""
    return Database(tmp_path_factory.mktemp("histories") / "history.db")


@given(first=any_match.matches(), actions=ACTIONS)
@settings(max_examples=60, deadline=None)
def test_any_sequence_equals_its_net_edits(one_database: Database, first: Match, actions: list[Match | str]) -> None:
    """Edits of anything at once: a stack kept here by hand against the database, after every action."""
    database, pantry = one_database, standard_pantry()
    with database.transaction() as session:
        stored = matches.create(session, first)
    done, undone = [first], []
    for action in actions:
        with database.transaction() as session:
            if isinstance(action, Match):
                stored = history.save_change(session, stored.id, stored.revision, lambda _, to=action: to, pantry)
                if action != done[-1]:
                    done.append(action)
                    undone.clear()
            else:
                taken, given_to, go = (done[1:], undone, history.undo) if action == "undo" else (undone, done, history.redo)
                if not taken:
                    with pytest.raises(NothingThere):
                        go(session, stored.id, stored.revision)
                else:
                    stored = go(session, stored.id, stored.revision)
                    given_to.append((done if action == "undo" else undone).pop())
        with database.transaction() as session:
            assert matches.load(session, stored.id).match == done[-1]


def renamed(name: str) -> object:
    """A change that gives a name."""
    return lambda match: replace(match, study=replace(match.study, name=name))


@pytest.fixture
def database(tmp_path: Path) -> Database:
    """An empty database."""
    return Database(tmp_path / "history.db")


def test_undo_reaches_across_a_restart(tmp_path: Path, small_study: Study, pantry: Pantry) -> None:
    """Until the match was made."""
    first = Database(tmp_path / "kept.db")
    with first.transaction() as session:
        made = matches.create(session, Match(study=small_study))
    with first.transaction() as session:
        history.save_change(session, made.id, 1, renamed("Other"), pantry)
    first.close()
    second = Database(tmp_path / "kept.db")
    with second.transaction() as session:
        assert history.undo(session, made.id, 2).match.study == small_study
        assert history.reach(session, matches.load(session, made.id)).undo is None


def test_a_match_from_before_revisions_can_be_undone_from_now_on(database: Database, small_study: Study, pantry: Pantry) -> None:
    """Its state is kept at its first change."""
    with database.transaction() as session:
        made = matches.create(session, Match(study=small_study))
        session.execute(text("delete from revisions"))
    with database.transaction() as session:
        assert history.reach(session, matches.load(session, made.id)) == history.Reach(undo=None, redo=None)
        history.save_change(session, made.id, 1, renamed("Other"), pantry)
    with database.transaction() as session:
        assert history.undo(session, made.id, 2).match.study == small_study


def test_words_survive_undoing_and_doing_again(database: Database, small_study: Study, pantry: Pantry) -> None:
    """The list says what was undone and what was done again."""
    with database.transaction() as session:
        made = matches.create(session, Match(study=small_study))
        history.save_change(session, made.id, 1, renamed("Other"), pantry)
        history.undo(session, made.id, 2)
        history.redo(session, made.id, 3)
        told = [moment.words for moment in history.moments(session, made.id)]
    change = "Name: Other, was Harbour Light"
    assert told == [(f"Done again: {change}",), (f"Undone: {change}",), (change,), ("Match made",)]
