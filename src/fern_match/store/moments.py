"""What changed, as it is listed: revisions in words, and where undoing and doing again lead."""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from fern_match.core.errors import NotKnown
from fern_match.store.tables import ChangeRow

_SHOWN = 100
_WORDS_SHOWN = 3  # of one change, where there is little room


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """One revision, as the list of changes shows it."""

    number: int
    saved_at: datetime
    words: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class UndoState:
    """What undo would take back and redo would bring again, in words; None where there is nothing."""

    undo: str | None
    redo: str | None


def moments(session: Session, tree_id: str, *, before: int | None = None) -> list[Moment]:
    """A hundred revisions, the newest first.

    Args:
        before: Only those before this one; None for the newest.
    """
    rows = session.scalars(
        select(ChangeRow)
        .where(ChangeRow.tree_id == tree_id, ChangeRow.number < before if before is not None else ChangeRow.number >= 0)
        .order_by(ChangeRow.number.desc())
        .limit(_SHOWN)
    ).all()
    about = {row.of for row in rows if row.of is not None}
    own = {
        row.number: row
        for row in session.scalars(select(ChangeRow).where(ChangeRow.tree_id == tree_id, ChangeRow.number.in_(about)))
    }
    return [Moment(number=row.number, saved_at=row.saved_at, words=_told(row, own)) for row in rows]


def undo_state(session: Session, tree_id: str, revision: int) -> UndoState:
    """What undo and redo would do now.

    Args:
        revision: Its newest.
    """
    here = session.get(ChangeRow, (tree_id, revision))
    if here is None:
        return UndoState(undo=None, redo=None)
    root = root_of(session, here)
    undo = _short(root) if root.undo_to is not None else None
    redo = _short(root_of(session, row_of(session, tree_id, here.redo_to))) if here.redo_to is not None else None
    return UndoState(undo=undo, redo=redo)


def _told(row: ChangeRow, own: Mapping[int, ChangeRow]) -> tuple[str, ...]:
    words = tuple(json.loads(row.words))
    about = own.get(row.of) if row.of is not None else None
    match row.cause:
        case "made":
            return ("Made",)
        case "return":
            return (f"Returned to revision {row.of}", *words)
        case "undo" | "redo" if about is not None:
            verb = "Undone" if row.cause == "undo" else "Done again"
            return tuple(f"{verb}: {sentence}" for sentence in _told(about, {})) or (verb,)
    return words


def _short(row: ChangeRow) -> str:
    words = _told(row, {})
    more = f" · and {len(words) - _WORDS_SHOWN} more" if len(words) > _WORDS_SHOWN else ""
    return " · ".join(words[:_WORDS_SHOWN]) + more or "the last change"


def root_of(session: Session, row: ChangeRow) -> ChangeRow:
    """The change that made the state which undoing and doing again led back to."""
    if row.cause == "redo" and row.of is not None:
        return row_of(session, row.tree_id, row.of)
    if row.cause == "undo" and row.of is not None:
        undone = row_of(session, row.tree_id, row.of)
        return root_of(session, row_of(session, row.tree_id, undone.undo_to)) if undone.undo_to is not None else row
    return row


def row_of(session: Session, tree_id: str, number: int | None) -> ChangeRow:
    """One change.

    Args:
        number: The revision it made.

    Raises:
        NotKnown: there is no such revision.
    """
    row = session.get(ChangeRow, (tree_id, number)) if number is not None else None
    if row is None:
        raise NotKnown("revision", str(number))
    return row
