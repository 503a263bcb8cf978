"""Changes kept, merged, undone, redone; moments returned to."""

import zlib
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session, load_only

from fern_match.core.errors import CoreError, NotKnown
from fern_match.core.food import Pantry
from fern_match.core.history import Clashes, changes, merged
from fern_match.core.match import Match
from fern_match.exchange import read_match_file
from fern_match.store.matches import Stale, Step, StoredMatch, advance, load
from fern_match.store.tables import RevisionRow

_SHOWN = 200


class NothingThere(CoreError):
    """There is nothing to undo or redo."""


@dataclass(eq=False)
class FieldsClash(CoreError):
    """Two windows changed the same fields; the user decides."""

    clashes: Clashes

    def __str__(self) -> str:
        told = "; ".join(f"{one.title}: yours {one.mine}, there {one.theirs}" for one in self.clashes.fields)
        return f"The same was changed in another window. {told}. Nothing was overwritten; what you typed is still here."


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """One revision, as the list of changes shows it."""

    number: int
    saved_at: datetime
    words: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """What undo would take back and redo would bring again, in words; None where there is nothing."""

    undo: str | None
    redo: str | None


def save_change(
    session: Session,
    match_id: str,
    made_on: int,
    change: Callable[[Match], Match],
    pantry: Pantry,
    *,
    prefer_mine: bool = False,
) -> StoredMatch:
    """Keeps a change; one made on an older revision is merged with what came since.

    Args:
        session: In a transaction.
        match_id: Which match.
        made_on: The revision the change was made on.
        change: What it does to a match.
        pantry: For the words of the change.
        prefer_mine: Decide for this change where both touched a field.

    Raises:
        NotKnown: there is no such match.
        FieldsClash: the same field was changed since; nothing is written.
        Stale: the revision it was made on is not known.
    """
    newest = load(session, match_id)
    base = newest.match if made_on == newest.revision else _snapshot(session, newest, made_on)
    after = change(base)
    if made_on != newest.revision:
        outcome = merged(base, after, newest.match, prefer_mine=prefer_mine, pantry=pantry)
        if isinstance(outcome, Clashes):
            raise FieldsClash(outcome)
        after = outcome
    if after == newest.match:
        return newest
    words = changes(newest.match, after, pantry)
    return advance(session, newest, after, Step(words=words, undo_to=newest.revision, redo_to=None))


def undo(session: Session, match_id: str, made_on: int) -> StoredMatch:
    """The state before the last change, as a new revision.

    Args:
        session: In a transaction.
        match_id: Which match.
        made_on: The revision the user was looking at.

    Raises:
        Stale: another window wrote since.
        NothingThere: the match is as it was made.
    """
    newest, here = _here(session, match_id, made_on)
    if here is None or here.undo_to is None:
        raise NothingThere("There is nothing to undo: this is the match as it was made.")
    there = _row(session, match_id, here.undo_to)
    step = Step(words=_about("Undone", here.words), undo_to=there.undo_to, redo_to=here.number)
    return advance(session, newest, _content(there), step)


def redo(session: Session, match_id: str, made_on: int) -> StoredMatch:
    """What the last undo took back, as a new revision.

    Args:
        session: In a transaction.
        match_id: Which match.
        made_on: The revision the user was looking at.

    Raises:
        Stale: another window wrote since.
        NothingThere: nothing was undone.
    """
    newest, here = _here(session, match_id, made_on)
    if here is None or here.redo_to is None:
        raise NothingThere("There is nothing to redo: nothing was undone since the last change.")
    there = _row(session, match_id, here.redo_to)
    step = Step(words=_about("Done again", _change_words(session, there)), undo_to=there.undo_to, redo_to=there.redo_to)
    return advance(session, newest, _content(there), step)


def return_to(session: Session, match_id: str, made_on: int, number: int, pantry: Pantry) -> StoredMatch:
    """The state of an earlier moment, as a change that can itself be undone.

    Args:
        session: In a transaction.
        match_id: Which match.
        made_on: The revision the user was looking at.
        number: The moment.
        pantry: For the words of the change.

    Raises:
        Stale: another window wrote since.
        NotKnown: there is no such moment.
    """
    newest, _ = _here(session, match_id, made_on)
    then = _content(_row(session, match_id, number))
    words = (f"Returned to moment {number}", *changes(newest.match, then, pantry))
    return advance(session, newest, then, Step(words=words, undo_to=newest.revision, redo_to=None))


def moments(session: Session, match_id: str) -> list[Moment]:
    """The latest revisions, the newest first.

    Args:
        session: In a transaction.
        match_id: Which match.
    """
    rows = session.scalars(
        select(RevisionRow)
        .where(RevisionRow.match_id == match_id)
        .options(load_only(RevisionRow.number, RevisionRow.saved_at, RevisionRow.words))
        .order_by(RevisionRow.number.desc())
        .limit(_SHOWN)
    )
    return [Moment(number=row.number, saved_at=row.saved_at, words=tuple(row.words.splitlines())) for row in rows]


def reach(session: Session, stored: StoredMatch) -> Reach:
    """What undo and redo would do now.

    Args:
        session: In a transaction.
        stored: The newest state.
    """
    here = session.get(RevisionRow, (stored.id, stored.revision))
    if here is None:
        return Reach(undo=None, redo=None)
    back = " · ".join(_change_words(session, here)) if here.undo_to is not None else None
    forth = " · ".join(_change_words(session, _row(session, stored.id, here.redo_to))) if here.redo_to is not None else None
    return Reach(undo=back, redo=forth)


def state_at(session: Session, match_id: str, number: int) -> Match:
    """The match as it was at a moment.

    Args:
        session: In a transaction.
        match_id: Which match.
        number: The moment.

    Raises:
        NotKnown: there is no such moment.
    """
    return _content(_row(session, match_id, number))


def _here(session: Session, match_id: str, made_on: int) -> tuple[StoredMatch, RevisionRow | None]:
    newest = load(session, match_id)
    if newest.revision != made_on:
        raise Stale(made_on, newest.revision)
    return newest, session.get(RevisionRow, (match_id, newest.revision))


def _snapshot(session: Session, newest: StoredMatch, number: int) -> Match:
    row = session.get(RevisionRow, (newest.id, number))
    if row is None:
        raise Stale(number, newest.revision)
    return _content(row)


def _row(session: Session, match_id: str, number: int) -> RevisionRow:
    row = session.get(RevisionRow, (match_id, number))
    if row is None:
        raise NotKnown("moment", str(number))
    return row


def _content(row: RevisionRow) -> Match:
    return read_match_file(zlib.decompress(row.file))


def _change_words(session: Session, row: RevisionRow) -> tuple[str, ...]:
    """What the change was that a state came from, through any undoing and doing again."""
    words = tuple(row.words.splitlines())
    if words and words[0].startswith(("Undone: ", "Done again: ")) and row.undo_to is not None:
        same = session.scalar(
            select(RevisionRow.words)
            .where(RevisionRow.match_id == row.match_id, RevisionRow.undo_to == row.undo_to, RevisionRow.redo_to.is_(None))
            .order_by(RevisionRow.number)
            .limit(1)
        )
        return tuple((same or "").splitlines()) or words
    return words


def _about(verb: str, words: str | tuple[str, ...]) -> tuple[str, ...]:
    lines = words.splitlines() if isinstance(words, str) else list(words)
    lines = [line.removeprefix("Done again: ").removeprefix("Undone: ") for line in lines]
    return tuple(f"{verb}: {line}" for line in lines) or (verb,)
