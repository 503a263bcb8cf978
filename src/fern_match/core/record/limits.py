"""The one place where limits are held: files, saves and merges all come through here, and get a sentence.

>>> from fern_match.core.study.record import Study
>>> check_limits(Study(name="x" * 130))
Traceback (most recent call last):
fern_match.core.record.limits.NotFitting: Name: 130 signs; at most 120 are kept.
"""

import math
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from fern_match.core.errors import CoreError
from fern_match.core.record.declare import Count, Id, Signs
from fern_match.core.record.shape import FieldSpec, Kind, Shape, fields_of

_CONTROL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f]")
_SHOWN = 40


@dataclass(eq=False)
class NotFitting(CoreError):
    """Something in a record is longer, more or other than it may be."""

    field: str  # names of fields from the outside in, with dots
    sentence: str

    def __str__(self) -> str:
        return self.sentence


def check_limits(record: Any) -> None:
    """Refuses a record that holds more than it may, or two entries of one id.

    Raises:
        NotFitting: at the first place that does not fit.
    """
    for place, title, problem in _problems(record, ()):
        raise NotFitting(".".join(place), f"{title}: {problem}")


Problem = tuple[tuple[str, ...], str, str]  # place, title, what is wrong


def _problems(record: Any, place: tuple[str, ...]) -> Iterator[Problem]:
    for spec in fields_of(type(record)):
        yield from _of_value(getattr(record, spec.name), spec.shape, (*place, spec.name), spec)


def _of_value(value: Any, shape: Shape, place: tuple[str, ...], spec: FieldSpec) -> Iterator[Problem]:
    if value is None:
        return
    title = _title(spec, place)
    if isinstance(value, float) and not math.isfinite(value):
        yield place, title, f"{value} is no figure."
    if isinstance(shape.limit, Count) and len(value) > shape.limit.most:
        yield place, title, f"{len(value)} of them; at most {shape.limit.most} are kept."
    match shape.kind:
        case Kind.SINGLE:
            yield from ((place, title, problem) for problem in _of_text(value, shape))
        case Kind.RECORD:
            yield from _problems(value, place)
        case Kind.MAPPING:
            assert shape.key is not None
            assert shape.inner is not None
            for key, inner in value.items():
                yield from ((place, title, problem) for problem in _of_text(key, shape.key))
                yield from _of_value(inner, shape.inner, (*place, str(key)), spec)
        case Kind.SET:
            assert shape.inner is not None
            for member in value:
                yield from ((place, title, problem) for problem in _of_text(member, shape.inner))
        case Kind.ENTRIES:
            yield from _of_entries(value, place, spec)


def _of_entries(entries: Any, place: tuple[str, ...], spec: FieldSpec) -> Iterator[Problem]:
    seen = set()
    for entry in entries:
        if entry.id in seen:
            yield place, _title(spec, place), f"two of them have the id “{entry.id[:_SHOWN]}”."
        seen.add(entry.id)
        yield from _problems(entry, (*place, entry.id))


def _of_text(value: object, shape: Shape) -> Iterator[str]:
    if not isinstance(value, str):
        return
    limit = shape.limit
    if isinstance(limit, Signs) and len(value) > limit.most:
        yield f"{len(value)} signs; at most {limit.most} are kept."
    if isinstance(limit, Id) and not re.fullmatch(limit.pattern, value):
        yield (
            f"“{value[:_SHOWN]}” cannot be an id; it takes up to {limit.most} letters, digits, hyphens and underscores, and "
            "begins with a letter or digit."
        )
    if any("\ud800" <= sign <= "\udfff" for sign in value):
        yield "half of a sign stands in it, which cannot be kept; type it again."
    if found := _CONTROL.search(value):
        yield f"the sign U+{ord(found[0]):04X} cannot be kept; it is not writing."


def _title(spec: FieldSpec, place: tuple[str, ...]) -> str:
    """What the field is called; a mapping by its last key."""
    title = spec.title
    if spec.keys:
        keys = place[-len(spec.keys) :]
        title = title.format(*(key[:_SHOWN] for key in keys)) if len(keys) == len(spec.keys) else title
    return title[:1].upper() + title[1:]
