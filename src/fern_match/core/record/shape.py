"""The shape of a record's types, read once from its declaration: single values, records, mappings, lists of entries, sets."""

import dataclasses
import types
from collections.abc import Mapping
from dataclasses import dataclass
from enum import Enum, StrEnum
from typing import Annotated, Any, Union, get_args, get_origin, get_type_hints

from fern_match.core.record.declare import Count, Id, Signs


class Kind(StrEnum):
    """What sort of value a field holds."""

    SINGLE = "single"  # text, number, choice, yes or no: changed as a whole
    RECORD = "record"
    MAPPING = "mapping"
    ENTRIES = "entries"  # records with ids, in an order
    SET = "set"  # plain values, each there or not


@dataclass(frozen=True, slots=True)
class Shape:
    """What a field holds."""

    kind: Kind
    record: type | None = None  # of a record, or of the entries of a list
    inner: "Shape | None" = None  # of a mapping's values or a set's members
    key: "Shape | None" = None  # of a mapping's keys
    limit: Signs | Id | Count | None = None
    optional: bool = False  # whether it may be None


@dataclass(frozen=True, slots=True)
class FieldSpec:
    """A field of a record."""

    name: str
    shape: Shape
    title: str
    says: str
    keys: tuple[str, ...]
    label: str
    noun: str
    value: str
    refers: str
    provides: str
    added: str
    removed: str
    silent: str
    together: str
    follows: str
    binds: bool


_TEXTS = ("says", "label", "noun", "value", "refers", "provides", "added", "removed", "silent", "together", "follows")
_FIELDS: dict[type, tuple[FieldSpec, ...]] = {}  # read once for each class


def fields_of(record: type) -> tuple[FieldSpec, ...]:
    """The fields of a record's class, in their order."""
    if record not in _FIELDS:
        _FIELDS[record] = _read_fields(record)
    return _FIELDS[record]


def _read_fields(record: type) -> tuple[FieldSpec, ...]:
    hints = get_type_hints(record, include_extras=True)
    specs = []
    for one in dataclasses.fields(record):
        told = one.metadata
        texts = {name: told.get(name, "") for name in _TEXTS}
        title = told.get("called", one.name.replace("_", " "))
        shape, keys, binds = shape_of(hints[one.name]), told.get("keys", ()), told.get("binds", False)
        specs.append(FieldSpec(name=one.name, shape=shape, title=title, keys=keys, binds=binds, **texts))
    return tuple(specs)


def shape_of(hint: Any) -> Shape:
    """The shape of a type as written in a declaration.

    Args:
        hint: A type, perhaps annotated with its limit; a union counts as its part that is not None.
    """
    limit = None
    if get_origin(hint) is Annotated:
        hint, *notes = get_args(hint)
        limit = next((note for note in notes if isinstance(note, Signs | Id | Count)), None)
    if get_origin(hint) in {Union, types.UnionType}:
        found = shape_of(next(part for part in get_args(hint) if part is not type(None)))
        return dataclasses.replace(found, limit=limit or found.limit, optional=type(None) in get_args(hint))
    origin, arguments = get_origin(hint), get_args(hint)
    if origin is tuple:
        inner = shape_of(arguments[0])
        if inner.kind is Kind.RECORD:
            return Shape(Kind.ENTRIES, record=inner.record, limit=limit)
        return Shape(Kind.SET, inner=inner, limit=limit)
    if isinstance(origin, type) and issubclass(origin, Mapping):
        return Shape(Kind.MAPPING, inner=shape_of(arguments[1]), key=shape_of(arguments[0]), limit=limit)
    if dataclasses.is_dataclass(hint):
        return Shape(Kind.RECORD, record=hint if isinstance(hint, type) else None, limit=limit)
    return Shape(Kind.SINGLE, limit=limit)


def plain(value: object) -> object:
    """A single value as files have it: the text of a choice, else itself."""
    return value.value if isinstance(value, Enum) else value


def plural(noun: str) -> str:
    """More than one of what an entry is: "batches".

    >>> plural("batch"), plural("version")
    ('batches', 'versions')
    """
    return f"{noun}es" if noun.endswith(("ch", "s")) else f"{noun}s"
