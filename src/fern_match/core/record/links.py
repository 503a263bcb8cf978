"""What points at what: readings at their layer, inclusions at their host, batches at their version.

Worked example: in a study with the layers coat and nuts, a reading of nuts and an answer "salt is in nuts", taking nuts away
takes both along; a layer that lay in nuts lies in none.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cache
from typing import Any, TypeVar

from fern_match.core.record.shape import FieldSpec, Kind, Shape, fields_of

Record = TypeVar("Record")


@dataclass(frozen=True, slots=True)
class Link:
    """One field that points at something by its id."""

    place: tuple[str, ...]  # names of fields, keys and ids of entries, from the outside in
    kind: str  # layer, version
    target: str
    holder: Any  # what would go with its target: the entry, or the mapping's value; the target's own id where it can be empty


def targets(record: Any) -> Mapping[tuple[str, str], Any]:
    """Everything in a record and its single parts that can be pointed at: by kind and id, the entry itself."""
    found: dict[tuple[str, str], Any] = {}
    for spec in fields_of(type(record)):
        value = getattr(record, spec.name)
        if spec.shape.kind is Kind.ENTRIES and spec.provides:
            found |= {(spec.provides, entry.id): entry for entry in value}
        elif spec.shape.kind is Kind.RECORD and value is not None:
            found |= targets(value)
    return found


def links(record: Any, place: tuple[str, ...] = ()) -> Iterator[Link]:
    """Everything in a record that points at something.

    Args:
        place: Where the record itself stands.
    """
    for spec in fields_of(type(record)):
        value = getattr(record, spec.name)
        here = (*place, spec.name)
        if spec.shape.kind is Kind.ENTRIES:
            for entry in value:
                yield from links(entry, (*here, entry.id))
        elif spec.shape.kind is Kind.RECORD and value is not None:
            yield from links(value, here)
        elif spec.refers and value is not None:
            if spec.shape.kind is Kind.MAPPING:
                yield from _of_keys(value, spec.shape, here, spec.refers)
            else:
                yield Link(here, spec.refers, str(value), value if spec.shape.optional and not spec.binds else record)


def _of_keys(value: Any, shape: Shape, place: tuple[str, ...], kind: str) -> Iterator[Link]:
    assert shape.inner is not None
    for key, inner in value.items():
        if shape.inner.kind is Kind.MAPPING:
            yield from _of_keys(inner, shape.inner, (*place, str(key)), kind)
        else:
            yield Link((*place, str(key)), kind, str(key), inner)


@cache
def refers_to(record: type) -> frozenset[str]:
    """What kinds of things a class of records may point at, itself and inside: layer, version."""
    found: set[str] = set()
    for spec in fields_of(record):
        if spec.refers:
            found.add(spec.refers)
        if spec.shape.record is not None:
            found |= refers_to(spec.shape.record)
    return frozenset(found)


def without(record: Record, kind: str, target: str) -> Record:
    """A record without something that can be pointed at, and without what hangs on it.

    An entry that points at it goes, if it cannot do without or is bound to it; a field that may be empty is emptied; a mapping
    loses its key.

    Args:
        kind: Of what goes: layer, version.
    """
    changed: dict[str, Any] = {}
    for spec in fields_of(type(record)):
        value = getattr(record, spec.name)
        if value is not None:
            changed[spec.name] = _value_without(value, spec, spec.shape, kind, target)
    return replace(record, **changed)  # type: ignore[type-var]


def _value_without(value: Any, spec: FieldSpec, shape: Shape, kind: str, target: str) -> Any:
    match shape.kind:
        case Kind.ENTRIES:
            kept = [entry for entry in value if not (spec.provides == kind and entry.id == target)]
            return tuple(without(entry, kind, target) for entry in kept if not _hangs_on(entry, kind, target))
        case Kind.RECORD:
            return without(value, kind, target)
        case Kind.MAPPING if spec.refers == kind:
            assert shape.inner is not None
            if shape.inner.kind is Kind.MAPPING:
                kept_keys = {key: _value_without(inner, spec, shape.inner, kind, target) for key, inner in value.items()}
                return {key: inner for key, inner in kept_keys.items() if inner}
            return {key: inner for key, inner in value.items() if key != target}
        case Kind.SINGLE if spec.refers == kind and value == target:
            return None
    return value


def _hangs_on(entry: Any, kind: str, target: str) -> bool:
    """Whether an entry has a field that points at the target and cannot be empty."""
    return any(
        spec.refers == kind
        and spec.shape.kind is Kind.SINGLE
        and (spec.binds or not spec.shape.optional)
        and getattr(entry, spec.name) == target
        for spec in fields_of(type(entry))
    )
