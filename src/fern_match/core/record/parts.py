"""The parts a whole is kept in: each field of its class holds one kind, a single part or several with ids."""

from collections.abc import Iterable, Mapping
from typing import Any, NamedTuple, TypeVar

from fern_match.core.record.shape import Kind, fields_of

Whole = TypeVar("Whole")


class PartKey(NamedTuple):
    """Which part: the field it stands in, and its id; a single part has its field's name as id."""

    kind: str
    id: str


def part_types(whole: type) -> Mapping[str, type]:
    """The class of each kind of part."""
    return {spec.name: spec.shape.record for spec in fields_of(whole) if spec.shape.record is not None}


def parts_of(whole: Any) -> dict[PartKey, Any]:
    """The parts of a whole, each kind in its order."""
    parts: dict[PartKey, Any] = {}
    for spec in fields_of(type(whole)):
        value = getattr(whole, spec.name)
        if spec.shape.kind is Kind.ENTRIES:
            parts |= {PartKey(spec.name, entry.id): entry for entry in value}
        else:
            parts[PartKey(spec.name, spec.name)] = value
    return parts


def whole_of(whole: type[Whole], parts: Iterable[tuple[PartKey, Any]]) -> Whole:
    """The whole that parts make; every single part must be among them.

    Args:
        parts: With their keys, each kind in its order.
    """
    found: dict[str, list[Any]] = {}
    for key, part in parts:
        found.setdefault(key.kind, []).append(part)
    several = {spec.name for spec in fields_of(whole) if spec.shape.kind is Kind.ENTRIES}
    return whole(**{kind: tuple(entries) if kind in several else entries[0] for kind, entries in found.items()})
