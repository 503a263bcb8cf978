"""Pointers of parts: as they were at a revision, and made to point elsewhere."""

from collections.abc import Collection, Mapping
from typing import Any

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session

from fern_match.core.record.parts import PartKey, parts_of
from fern_match.store.contents import Packed
from fern_match.store.tables import ChangePartRow, PartRow
from fern_match.store.trees import Pointer, pointers


def chosen(found: Mapping[PartKey, Pointer], wanted: Collection[PartKey] | None) -> dict[PartKey, Pointer]:
    """The parts wanted, and the single ones."""
    return {key: one for key, one in found.items() if wanted is None or key in wanted or key.kind == key.id}


def changed_since(session: Session, tree_id: str, number: int) -> set[PartKey]:
    """The parts that changed after a revision.

    Args:
        number: The revision.
    """
    rows = session.execute(
        select(ChangePartRow.kind, ChangePartRow.id)
        .where(ChangePartRow.tree_id == tree_id, ChangePartRow.number > number)
        .distinct()
    )
    return {PartKey(kind, part) for kind, part in rows}


def pointers_at(session: Session, tree_id: str, number: int, present: Mapping[PartKey, Pointer]) -> dict[PartKey, Pointer]:
    """The parts at a revision: those of now, but where something changed since, what stood there before that.

    Args:
        number: The revision.
        present: The parts as they are now.
    """
    rows = session.execute(
        select(
            ChangePartRow.kind,
            ChangePartRow.id,
            ChangePartRow.position_before,
            ChangePartRow.hash_before,
            func.min(ChangePartRow.number),
        )
        .where(ChangePartRow.tree_id == tree_id, ChangePartRow.number > number)
        .group_by(ChangePartRow.kind, ChangePartRow.id)
    )
    then = dict(present)
    for kind, part, position, content, _ in rows:
        if content is None or position is None:
            then.pop(PartKey(kind, part), None)
        else:
            then[PartKey(kind, part)] = Pointer(position=position, hash=content)
    return then


def places_of(whole: Any) -> dict[PartKey, int]:
    """Where each part stands among its kind."""
    found: dict[PartKey, int] = {}
    counted: dict[str, int] = {}
    for key in parts_of(whole):
        found[key] = counted.get(key.kind, 0)
        counted[key.kind] = found[key] + 1
    return found


def point_all(
    session: Session,
    tree_id: str,
    number: int,
    old: Collection[PartKey],
    new: Collection[PartKey],
    packed: Mapping[PartKey, Packed],
    positions: Mapping[PartKey, int],
) -> None:
    """Makes every part that came, went, changed or moved point where it should; one that comes in goes to the end.

    Args:
        number: The revision that this makes.
        old: The parts that the change worked on.
        packed: Contents of those that changed.
        positions: Where parts are to stand; without one a part stays where it is.
    """
    present = pointers(session, tree_id)
    last: dict[str, int] = {}
    for key, one in present.items():
        last[key.kind] = max(last.get(key.kind, -1), one.position)
    for key in old:
        if key not in new:
            _point(session, tree_id, number, key, present.get(key), None)
    for key in new:
        before = present.get(key)
        position = positions.get(key, before.position if before else None)
        if position is None:
            position = last[key.kind] = last.get(key.kind, -1) + 1
        content = packed[key].hash if key in packed else present[key].hash
        after = Pointer(position=position, hash=content)
        if after != before:
            _point(session, tree_id, number, key, before, after)


def _point(session: Session, tree_id: str, number: int, key: PartKey, before: Pointer | None, after: Pointer | None) -> None:
    """Makes a part point at another content, and notes what it was."""
    where = {"tree_id": tree_id, "kind": key.kind, "id": key.id}
    if after is None:
        session.execute(delete(PartRow).filter_by(**where))
    else:
        values = {"position": after.position, "hash": after.hash}
        session.execute(
            insert(PartRow).values(**where, **values).on_conflict_do_update(index_elements=["tree_id", "kind", "id"], set_=values)
        )
    session.add(
        ChangePartRow(
            **where,
            number=number,
            position_before=before.position if before else None,
            hash_before=before.hash if before else None,
            position_after=after.position if after else None,
            hash_after=after.hash if after else None,
        )
    )
