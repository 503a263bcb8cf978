"""Trees made, found and listed: matches, and the one house."""

import json
import secrets
from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any, Generic, TypeVar

from sqlalchemy import delete, func, select, text, update
from sqlalchemy.orm import Session

from fern_match.core.errors import NotKnown
from fern_match.core.house import House
from fern_match.core.match import Match
from fern_match.core.record.parts import PartKey, part_types, parts_of, whole_of
from fern_match.store.contents import Packed, keep, records
from fern_match.store.cook_log import with_logs
from fern_match.store.images import keep_images, with_images, without_images
from fern_match.store.tables import ChangePartRow, ChangeRow, PartRow, TreeRow

DELETED_KEPT_DAYS = 30
HOUSE = "house"  # the id of the one house
Whole = TypeVar("Whole", Match, House)
WHOLES: Mapping[str, type] = {"match": Match, "house": House}


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept(Generic[Whole]):
    """A tree as it is kept: its revision and as much of it as was asked for."""

    id: str
    revision: int
    whole: Whole


@dataclass(frozen=True, slots=True, kw_only=True)
class Pointer:
    """Where a part of a tree stands among its kind, and what its content is."""

    position: int
    hash: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Listed:
    """A line of the list of matches."""

    id: str
    revision: int
    changed_at: datetime
    archived: bool
    deleted_at: datetime | None
    line: Any  # as it was kept, JSON values
    picture: Any  # the same; None where there is none yet
    counts: Mapping[str, int]  # parts by kind

    @property
    def days_left(self) -> int:
        """How many days a deleted match is still kept; none where it was not deleted."""
        return 0 if self.deleted_at is None else max(0, DELETED_KEPT_DAYS - (now() - self.deleted_at).days)


def now() -> datetime:
    """The present moment, as it is kept: UTC."""
    return datetime.now(UTC).replace(tzinfo=None)


@dataclass(frozen=True, slots=True)
class NewTree:
    """A tree ready to be kept: written and compressed before the transaction begins."""

    kind: str
    parts: tuple[tuple[PartKey, int, Packed], ...]
    line: str
    images: tuple[tuple[str, bytes], ...] = ()

    @classmethod
    def of(cls, whole: Match | House, line: Any) -> "NewTree":
        """A whole, packed.

        Args:
            line: What the list shows of it, as JSON values.
        """
        kind = next(kind for kind, known in WHOLES.items() if isinstance(whole, known))
        images: tuple[tuple[str, bytes], ...] = ()
        if isinstance(whole, Match):
            whole, images = without_images(whole)
        positions: dict[str, int] = {}
        packed = []
        for key, part in parts_of(whole).items():
            positions[key.kind] = positions.get(key.kind, -1) + 1
            packed.append((key, positions[key.kind], Packed(part)))
        return cls(kind, tuple(packed), json.dumps(line, ensure_ascii=False), images)


def create(session: Session, new: NewTree, tree_id: str | None = None, *, revision: int = 1) -> str:
    """Keeps a new tree; its id.

    Args:
        tree_id: Of its own, or None for a fresh one.
        revision: Of its first state, 0 or more.
    """
    made = tree_id or secrets.token_hex(6)
    session.add(TreeRow(id=made, kind=new.kind, revision=revision, created_at=now(), changed_at=now(), line=new.line, picture=""))
    session.flush()
    keep(session, (packed for _, _, packed in new.parts))
    keep_images(session, made, new.images)
    session.add(
        ChangeRow(tree_id=made, number=revision, saved_at=now(), cause="made", of=None, words="[]", undo_to=None, redo_to=None)
    )
    for key, position, packed in new.parts:
        session.add(PartRow(tree_id=made, kind=key.kind, id=key.id, position=position, hash=packed.hash))
        session.add(
            ChangePartRow(
                tree_id=made, kind=key.kind, id=key.id, number=revision, position_after=position, hash_after=packed.hash
            )
        )
    return made


def load(session: Session, tree_id: str, whole: type[Whole], kinds: Collection[str] | None = None) -> Kept[Whole]:
    """A tree, or only some kinds of its parts.

    Args:
        kinds: Which kinds of parts; None for all. A match's study is always there.

    Raises:
        NotKnown: there is no such tree.
    """
    return load_where(session, tree_id, whole, lambda key: kinds is None or key.kind in kinds)


def load_where(session: Session, tree_id: str, whole: type[Whole], wanted: Callable[[PartKey], bool]) -> Kept[Whole]:
    """A tree with those of its parts that are wanted, and its single parts.

    Args:
        wanted: Says of a part's key whether to load it.

    Raises:
        NotKnown: there is no such tree.
    """
    revision = revision_of(session, tree_id, whole)
    found = {key: one for key, one in pointers(session, tree_id).items() if wanted(key) or key.kind == key.id}
    return Kept(id=tree_id, revision=revision, whole=assembled(session, whole, found))


def revision_of(session: Session, tree_id: str, whole: type) -> int:
    """The newest revision of a tree.

    Raises:
        NotKnown: there is no such tree, or it is deleted.
    """
    kind = next(kind for kind, known in WHOLES.items() if known is whole)
    revision = session.scalar(
        select(TreeRow.revision).where(TreeRow.id == tree_id, TreeRow.kind == kind, TreeRow.deleted_at.is_(None))
    )
    if revision is None:
        raise NotKnown(kind, tree_id)
    return revision


def pointers(session: Session, tree_id: str) -> dict[PartKey, Pointer]:
    """The parts of a tree as it is now, each kind in its order."""
    rows = session.execute(
        select(PartRow.kind, PartRow.id, PartRow.position, PartRow.hash)
        .where(PartRow.tree_id == tree_id)
        .order_by(PartRow.kind, PartRow.position)
    )
    return {PartKey(kind, part): Pointer(position=position, hash=content) for kind, part, position, content in rows}


def assembled(session: Session, whole: type[Whole], found: Mapping[PartKey, Pointer]) -> Whole:
    """The whole that pointers make.

    Args:
        found: Part -> where it stands and its content.
    """
    types = part_types(whole)
    parts = records(session, {one.hash: (key.kind, types[key.kind]) for key, one in found.items()})
    in_order = sorted(found.items(), key=lambda entry: entry[1].position)
    return whole_of(whole, ((key, parts[one.hash]) for key, one in in_order))


def counts(session: Session, tree_id: str) -> dict[str, int]:
    """How many parts of each kind a tree has."""
    rows = session.execute(select(PartRow.kind, func.count()).where(PartRow.tree_id == tree_id).group_by(PartRow.kind))
    return {kind: int(count) for kind, count in rows}


def house(session: Session) -> Kept[House]:
    """The house; a usual one of revision 0 before anything was set."""
    if session.get(TreeRow, HOUSE) is None:
        return Kept(id=HOUSE, revision=0, whole=House())
    return load(session, HOUSE, House)


def house_revision(session: Session) -> int:
    """The newest revision of the house; 0 before anything was set."""
    return session.scalar(select(TreeRow.revision).where(TreeRow.id == HOUSE)) or 0


def listed(session: Session, *, deleted: bool = False) -> list[Listed]:
    """All matches, those put away at the end, the last changed first.

    Args:
        deleted: Those that were deleted and are still kept, instead, the last deleted first.
    """
    by_tree: dict[str, dict[str, int]] = {}
    rows = session.execute(select(PartRow.tree_id, PartRow.kind, func.count()).group_by(PartRow.tree_id, PartRow.kind))
    for tree_id, kind, count in rows:
        by_tree.setdefault(tree_id, {})[kind] = count
    trees = session.scalars(
        select(TreeRow)
        .where(TreeRow.kind == "match", TreeRow.deleted_at.is_not(None) if deleted else TreeRow.deleted_at.is_(None))
        .order_by(TreeRow.deleted_at.desc(), TreeRow.archived, TreeRow.changed_at.desc(), TreeRow.id)
    )
    return [
        Listed(
            id=row.id,
            revision=row.revision,
            changed_at=row.changed_at,
            archived=row.archived,
            deleted_at=row.deleted_at,
            line=json.loads(row.line),
            picture=json.loads(row.picture) if row.picture else None,
            counts=by_tree.get(row.id, {}),
        )
        for row in trees
    ]


def keep_picture(session: Session, tree_id: str, picture: Any) -> None:
    """Keeps the small slice that the list shows of a match; no change of the match itself."""
    session.execute(update(TreeRow).where(TreeRow.id == tree_id).values(picture=json.dumps(picture)))


def set_deleted(session: Session, tree_id: str, *, deleted: bool) -> None:
    """Deletes a match, or brings a deleted one back; it is there until it is purged.

    Raises:
        NotKnown: there is no such match.
    """
    _mark(session, tree_id, deleted_at=now() if deleted else None)


def set_archived(session: Session, tree_id: str, *, archived: bool) -> None:
    """Puts a match away, or takes it out again.

    Raises:
        NotKnown: there is no such match.
    """
    _mark(session, tree_id, archived=archived)


def purge(session: Session) -> int:
    """Removes for good what was deleted a month ago, and contents nothing points at; how many matches that were."""
    old = now() - timedelta(days=DELETED_KEPT_DAYS)
    gone = session.scalars(delete(TreeRow).where(TreeRow.deleted_at < old).returning(TreeRow.id)).all()
    if gone:
        session.execute(
            text(
                "delete from contents where hash not in (select hash from parts union "
                "select hash_before from change_parts where hash_before is not null union "
                "select hash_after from change_parts where hash_after is not null)"
            )
        )
    return len(gone)


def _mark(session: Session, tree_id: str, **values: object) -> None:
    marked = session.scalar(
        update(TreeRow).where(TreeRow.id == tree_id, TreeRow.kind == "match").values(**values).returning(TreeRow.id)
    )
    if marked is None:
        raise NotKnown("match", tree_id)


def everything(session: Session, *, images: bool = False) -> tuple[House, list[Match]]:
    """The house and all matches that are not deleted.

    Args:
        session: Reading; all of it is of one moment.
        images: Whether their pictures come along.
    """
    ids: Iterable[str] = session.scalars(
        select(TreeRow.id)
        .where(TreeRow.kind == "match", TreeRow.deleted_at.is_(None))
        .order_by(TreeRow.archived, TreeRow.changed_at.desc(), TreeRow.id)
    ).all()
    found = []
    for tree_id in ids:
        match = with_logs(session, tree_id, load(session, tree_id, Match).whole)
        found.append(with_images(session, tree_id, match) if images else match)
    return house(session).whole, found
