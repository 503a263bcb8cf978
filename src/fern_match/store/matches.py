"""Matches kept, found, saved on the revision they were made on."""

import secrets
import zlib
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from sqlalchemy import delete, select, update
from sqlalchemy.orm import Session, selectinload

from fern_match.core.errors import CoreError, NotKnown
from fern_match.core.match import Match
from fern_match.exchange import written_match_file
from fern_match.store.rows import child_rows, match_of, write_single_fields
from fern_match.store.tables import (
    BatchRow,
    CorrectionRow,
    DoubtRow,
    LabelRowRow,
    LayerRow,
    MatchRow,
    PlacementRow,
    ReadingRow,
    RevisionRow,
    VersionLayerRow,
    VersionRow,
)

DELETED_KEPT_DAYS = 30
_CHILDREN = (LabelRowRow, CorrectionRow, LayerRow, PlacementRow, ReadingRow, DoubtRow, BatchRow, VersionRow)


@dataclass(eq=False)
class Stale(CoreError):
    """A save was made on a revision that is no longer the newest."""

    made_on: int
    newest: int

    def __str__(self) -> str:
        return (
            f"This match was changed in another window since (revision {self.newest}; yours was made on "
            f"{self.made_on}). "
            "Nothing was overwritten; what you typed is still here."
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredMatch:
    """A match with its id and revision."""

    id: str
    revision: int
    match: Match


@dataclass(frozen=True, slots=True, kw_only=True)
class MatchSummary:
    """A line of the list of matches."""

    id: str
    revision: int
    name: str
    maker: str
    region: str
    net_weight: str
    layers: int
    versions: int
    batches: int
    changed_at: datetime
    archived: bool


def create(session: Session, match: Match) -> StoredMatch:
    """Keeps a new match.

    Args:
        session: In a transaction.
        match: All of it.
    """
    match_id = secrets.token_hex(6)
    row = MatchRow(id=match_id, revision=1, created_at=_now(), changed_at=_now())
    write_single_fields(row, match.study)
    session.add(row)
    session.flush()
    session.add_all(child_rows(match_id, match))
    stored = StoredMatch(id=match_id, revision=1, match=match)
    _keep(session, stored, Step(words=("Match made",), undo_to=None, redo_to=None))
    return stored


def load(session: Session, match_id: str) -> StoredMatch:
    """One match, whole.

    Args:
        session: In a transaction.
        match_id: Which.

    Raises:
        NotKnown: there is no such match.
    """
    relations = [
        MatchRow.label_rows,
        MatchRow.corrections,
        MatchRow.layers,
        MatchRow.placements,
        MatchRow.readings,
        MatchRow.doubts,
    ]
    row = session.scalar(
        select(MatchRow)
        .where(MatchRow.id == match_id, MatchRow.deleted_at.is_(None))
        .options(
            *(selectinload(relation) for relation in relations),
            selectinload(MatchRow.versions).selectinload(VersionRow.layers).selectinload(VersionLayerRow.ingredients),
            selectinload(MatchRow.batches).selectinload(BatchRow.losses),
            selectinload(MatchRow.batches).selectinload(BatchRow.in_house),
        )
    )
    if row is None:
        raise NotKnown("match", match_id)
    return StoredMatch(id=row.id, revision=row.revision, match=match_of(row))


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """What a new revision says of itself, and where undo and redo lead from it."""

    words: tuple[str, ...]
    undo_to: int | None
    redo_to: int | None


def advance(session: Session, newest: StoredMatch, match: Match, step: Step) -> StoredMatch:
    """Keeps a changed match as the next revision.

    Args:
        session: In a transaction.
        newest: The match as loaded in this transaction.
        match: All of the changed one.
        step: For its history.

    Raises:
        Stale: another change came first; nothing is written.
    """
    if session.get(RevisionRow, (newest.id, newest.revision)) is None:  # a match from before revisions were kept
        _keep(session, newest, Step(words=(), undo_to=None, redo_to=None))
    moved = session.scalar(
        update(MatchRow)
        .where(MatchRow.id == newest.id, MatchRow.revision == newest.revision)
        .values(revision=newest.revision + 1, changed_at=_now())
        .returning(MatchRow.revision)
    )
    if moved is None:
        raise Stale(newest.revision, session.scalar(select(MatchRow.revision).where(MatchRow.id == newest.id)) or 0)
    for table in _CHILDREN:
        session.execute(delete(table).where(table.match_id == newest.id))
    write_single_fields(session.get_one(MatchRow, newest.id), match.study)
    session.add_all(child_rows(newest.id, match))
    stored = StoredMatch(id=newest.id, revision=moved, match=match)
    _keep(session, stored, step)
    return stored


def _keep(session: Session, stored: StoredMatch, step: Step) -> None:
    file = zlib.compress(written_match_file(stored.match).encode(), 6)
    session.add(
        RevisionRow(
            match_id=stored.id,
            number=stored.revision,
            saved_at=_now(),
            words="\n".join(step.words),
            undo_to=step.undo_to,
            redo_to=step.redo_to,
            file=file,
        )
    )


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


def set_deleted(session: Session, match_id: str, *, deleted: bool) -> None:
    """Deletes a match, or brings a deleted one back; it is there until it is purged.

    Args:
        session: In a transaction.
        match_id: Which.
        deleted: Which of the two.

    Raises:
        NotKnown: there is no such match.
    """
    _mark(session, match_id, deleted_at=_now() if deleted else None)


def set_archived(session: Session, match_id: str, *, archived: bool) -> None:
    """Puts a match away, or takes it out again.

    Args:
        session: In a transaction.
        match_id: Which.
        archived: Which of the two.

    Raises:
        NotKnown: there is no such match.
    """
    _mark(session, match_id, archived=archived)


def purge(session: Session) -> int:
    """Removes for good what was deleted a month ago; how many matches that were.

    Args:
        session: In a transaction.
    """
    old = _now() - timedelta(days=DELETED_KEPT_DAYS)
    gone = session.scalars(delete(MatchRow).where(MatchRow.deleted_at < old).returning(MatchRow.id))
    return len(gone.all())


def _mark(session: Session, match_id: str, **values: object) -> None:
    marked = session.scalar(update(MatchRow).where(MatchRow.id == match_id).values(**values).returning(MatchRow.id))
    if marked is None:
        raise NotKnown("match", match_id)


def summaries(session: Session) -> list[MatchSummary]:
    """All matches, the last changed first.

    Args:
        session: In a transaction.
    """
    rows = session.scalars(
        select(MatchRow)
        .options(selectinload(MatchRow.layers), selectinload(MatchRow.versions), selectinload(MatchRow.batches))
        .where(MatchRow.deleted_at.is_(None))
        .order_by(MatchRow.archived, MatchRow.changed_at.desc(), MatchRow.id)
    )
    return [
        MatchSummary(
            id=row.id,
            revision=row.revision,
            name=row.name,
            maker=row.maker,
            region=row.region,
            net_weight=row.net_weight,
            layers=len(row.layers),
            versions=len(row.versions),
            batches=len(row.batches),
            changed_at=row.changed_at,
            archived=row.archived,
        )
        for row in rows
    ]
