"""Where two states of a record differ: one entry for each thing a user can commit."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final

from fern_match.core.record import FieldSpec, Shape, fields_of
from fern_match.core.record.shape import Kind


class _Absent:
    """Stands for what is not there; None is a value."""

    def __repr__(self) -> str:
        return "absent"


ABSENT: Final = _Absent()


@dataclass(frozen=True, slots=True)
class Step:
    """One step of the way into a record: a field, and in a list or mapping which entry of it."""

    spec: FieldSpec
    key: str | None = None  # of a mapping, or the id of an entry
    entry: Any = None  # of a list
    siblings: tuple[Any, ...] = ()  # the list it stands in


Path = tuple[Step, ...]


@dataclass(frozen=True, slots=True)
class Difference:
    """One thing that differs. A list whose order alone differs has its ids as values, and a last step without a key."""

    path: Path
    was: Any
    now: Any


def differences(before: Any, after: Any, path: Path = ()) -> Iterator[Difference]:
    """What differs between two records of one kind, in the order of their declaration."""
    for spec in fields_of(type(after)):
        was, now = getattr(before, spec.name), getattr(after, spec.name)
        if was != now:
            yield from _between(was, now, spec.shape, spec, path)


def _between(was: Any, now: Any, shape: Shape, spec: FieldSpec, path: Path) -> Iterator[Difference]:
    match shape.kind:
        case Kind.RECORD if was is not None and now is not None:
            yield from differences(was, now, (*path, Step(spec)))
        case Kind.MAPPING:
            yield from _of_mapping(was, now, shape, spec, path)
        case Kind.SET:
            for member in dict.fromkeys((*was, *now)):
                if (member in was) != (member in now):
                    step = Step(spec, key=member)
                    yield Difference((*path, step), *((member, ABSENT) if member in was else (ABSENT, member)))
        case Kind.ENTRIES:
            yield from _of_entries(was, now, spec, path)
        case _:
            yield Difference((*path, Step(spec)), was, now)


def _of_mapping(was: Any, now: Any, shape: Shape, spec: FieldSpec, path: Path) -> Iterator[Difference]:
    assert shape.inner is not None
    nested = shape.inner.kind is Kind.MAPPING
    for key in dict.fromkeys((*was, *now)):
        here = (*path, Step(spec, key=str(key)))
        old, new = was.get(key, {} if nested else ABSENT), now.get(key, {} if nested else ABSENT)
        if old == new:
            continue
        if nested:
            yield from _of_mapping(old, new, shape.inner, spec, here)
        else:
            yield Difference(here, old, new)


def _of_entries(was: Sequence[Any], now: Sequence[Any], spec: FieldSpec, path: Path) -> Iterator[Difference]:
    old, new = by_id(was), by_id(now)
    for key in dict.fromkeys((*new, *old)):
        before, after = old.get(key, ABSENT), new.get(key, ABSENT)
        if before == after:
            continue
        entry, siblings = (before, was) if after is ABSENT else (after, now)
        here = (*path, Step(spec, key=key, entry=entry, siblings=tuple(siblings)))
        if before is ABSENT or after is ABSENT:
            yield Difference(here, before, after)
        else:
            yield from differences(before, after, here)
    shared = [key for key in old if key in new]
    if shared != [key for key in new if key in old]:
        yield Difference((*path, Step(spec)), tuple(old), tuple(new))


def by_id(entries: Sequence[Any]) -> Mapping[str, Any]:
    """Entries by their ids, in their order."""
    return {entry.id: entry for entry in entries}
