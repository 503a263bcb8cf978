"""The log of a cook: entries added, read, and laid beside what a file brought along. Nothing in it is ever changed."""

import json
from collections.abc import Sequence
from dataclasses import replace

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from fern_match.core.cook import Entry, Logged
from fern_match.core.errors import CoreError
from fern_match.core.match import Match
from fern_match.core.record import check_limits
from fern_match.exchange.content import canonical, plain_of, record_of
from fern_match.store.tables import CookLogRow

MOST_ENTRIES = 20_000  # of one cook


class LogIsFull(CoreError):
    """A cook that has as many entries as are kept."""

    def __str__(self) -> str:
        return f"The log of this cook holds {MOST_ENTRIES} entries, as many as are kept. Begin another cook."


def logged(session: Session, tree_id: str, cook_id: str) -> tuple[Logged, ...]:
    """All entries of a cook that were written here, in their order."""
    rows = session.scalars(
        select(CookLogRow).where(CookLogRow.tree_id == tree_id, CookLogRow.cook_id == cook_id).order_by(CookLogRow.number)
    )
    return tuple(_of(row) for row in rows)


def add(session: Session, tree_id: str, cook_id: str, entries: Sequence[Entry], at_ms: int, after: int) -> int:
    """Adds entries; one that is there already, by its key, is not added again. The number of the last one there is.

    Args:
        entries: In their order.
        at_ms: When, by the clock of whoever keeps the log; never before the last entry.
        after: Number of the last entry that a file brought along; 0 where none did.

    Raises:
        LogIsFull: there are as many as are kept.
        NotFitting: an entry holds more than it may.
    """
    mine = (CookLogRow.tree_id == tree_id, CookLogRow.cook_id == cook_id)
    last, latest = session.execute(select(func.max(CookLogRow.number), func.max(CookLogRow.at_ms)).where(*mine)).one()
    number, moment = max(last or 0, after), max(at_ms, latest or 0)
    known = set(session.scalars(select(CookLogRow.key).where(*mine, CookLogRow.key.in_([one.key for one in entries]))))
    for entry in entries:
        if entry.key in known:
            continue
        known.add(entry.key)
        number += 1
        if number > MOST_ENTRIES:
            raise LogIsFull
        check_limits(entry)
        body = canonical(plain_of(entry)).decode()
        session.add(CookLogRow(tree_id=tree_id, cook_id=cook_id, number=number, at_ms=moment, key=entry.key, body=body))
    return number


def last_moment(session: Session, tree_id: str, cook_id: str) -> int:
    """When the last entry was written here [ms]; 0 where there is none."""
    found = session.scalar(select(func.max(CookLogRow.at_ms)).where(CookLogRow.tree_id == tree_id, CookLogRow.cook_id == cook_id))
    return found or 0


def with_logs(session: Session, tree_id: str, match: Match) -> Match:
    """A match with the log of each cook in it, to go out in a file."""
    return replace(match, cooks=tuple(replace(cook, log=(*cook.log, *logged(session, tree_id, cook.id))) for cook in match.cooks))


def _of(row: CookLogRow) -> Logged:
    entry = record_of(Entry, json.loads(row.body))
    return Logged(id=f"e{row.number}", number=row.number, at_ms=row.at_ms, entry=entry)
