"""Differences in words: "Caramel, reading 2: 8.1 g, was 8.7 g"."""

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from fern_match.core.history.differences import ABSENT, Difference, Path, Step, by_id, differences
from fern_match.core.names import Names
from fern_match.core.record.shape import Kind, fields_of, plain

# Of lists, by what they are in memory (they are held here, so that nothing else takes their place): of each entry its number.
Numbers = dict[int, tuple[Sequence[Any], dict[str, tuple[str, int]]]]
_LONGEST = 60
_COMPUTED = re.compile(r"\d+\.\d{4,} g")  # more digits than anybody types: four of them are said
_BARE_FIGURE = re.compile(r"\d+(?:[.,]\d+)?")
_FIELD = re.compile(r"\{(\w+)\}")


def changes(before: Any, after: Any, names: Names) -> tuple[str, ...]:
    """One sentence for each thing that differs, in the order of the record."""
    numbers: Numbers = {}
    told = (sentence(difference, names, numbers) for difference in differences(before, after))
    return tuple(dict.fromkeys(one for one in told if one is not None))


def sentence(difference: Difference, names: Names, numbers: Numbers | None = None) -> str | None:
    """A difference in words; None where it says nothing.

    Args:
        difference: Of two records.
        names: What ids stand for.
        numbers: Of entries among their like, filled as they are counted: for many differences of one pair of records.
    """
    numbers = {} if numbers is None else numbers
    last, was, now = difference.path[-1], difference.was, difference.now
    spec = last.spec
    if spec.silent:
        return None
    if spec.shape.kind is Kind.ENTRIES and last.key is None:
        return f"Order of {spec.title} changed"
    if spec.shape.kind is Kind.SET:
        gone = now is ABSENT
        words = (spec.removed if gone else spec.added) or f"{spec.title}: {{0}} {'removed' if gone else 'added'}"
        return words.format(names.name(spec.says, was if gone else now))
    if spec.shape.kind is Kind.ENTRIES and not spec.value:
        return _coming_or_going(difference, names, numbers)
    title = title_of(difference.path, names, numbers)
    was, now = (_stands_for(last, value) for value in (was, now))
    empty = (ABSENT, "", None)
    if was in empty and now in empty:
        return None  # a field that appeared with nothing in it
    if now in empty:
        return f"{title}: taken away, was {value_of(last, was, names)}"
    if was in empty:
        return f"{title}: {value_of(last, now, names)}"
    return f"{title}: {value_of(last, now, names)}, was {value_of(last, was, names)}"


def title_of(path: Path, names: Names, numbers: Numbers | None = None) -> str:
    """What a user calls the thing at the end of a path: "Caramel, reading 2"."""
    numbers = {} if numbers is None else numbers
    parts: list[str] = []
    for at, step in enumerate(path):
        kind, last = step.spec.shape.kind, at == len(path) - 1
        if kind is Kind.ENTRIES and step.entry is not None:
            parts.append(_label(step, names, numbers))
        elif kind is Kind.MAPPING and last:
            keys = [one.key or "" for one in path if one.spec is step.spec]
            parts.append(
                step.spec.title.format(*(names.name(told, key) for told, key in zip(step.spec.keys, keys, strict=False)))
            )
        elif last and not (at and step.spec.name == path[at - 1].spec.value):
            parts.append(step.spec.title)
    title = ", ".join(part for part in parts if part)
    return title[:1].upper() + title[1:]


def value_of(step: Step, value: Any, names: Names) -> str:
    """A value as a user reads it, at most 60 signs.

    Args:
        step: The last of its path.
    """
    if value is ABSENT or value is None or value == "":
        return "none"
    spec = step.spec
    if spec.shape.kind is Kind.ENTRIES:
        numbers: Numbers = {}
        if isinstance(value, tuple | list):  # an order, as ids
            return _short(", ".join(_label(replace(step, entry=one), names, numbers) for one in _in_order(step.siblings, value)))
        spec = next((one for one in fields_of(type(step.entry)) if one.name == spec.value), spec)
        value = _stands_for(step, value)
    if value is True or value is False:
        return "yes" if value else "no"
    text = str(plain(value))
    if hasattr(value, "__dataclass_fields__"):
        text = "changed"
    elif spec.says == "grams":
        text = f"{text.strip()} g" if _BARE_FIGURE.fullmatch(text.strip()) else text
        text = f"{float(text.removesuffix(' g')):.4g} g" if _COMPUTED.fullmatch(text) else text
    elif spec.says:
        text = names.name(spec.says, text)
    return _short(text)


def _short(text: str) -> str:
    return text if len(text) <= _LONGEST else f"{text[: _LONGEST - 1]}…"


def _in_order(entries: Sequence[Any], ids: Sequence[str]) -> list[Any]:
    known = by_id(entries)
    return [known[key] for key in ids]


def _stands_for(step: Step, value: Any) -> Any:
    """An entry by the field that stands for it; anything else itself."""
    return getattr(value, step.spec.value) if step.spec.value and hasattr(value, "__dataclass_fields__") else value


def _coming_or_going(difference: Difference, names: Names, numbers: Numbers) -> str | None:
    step = difference.path[-1]
    if not step.spec.noun:
        return None
    title, done = title_of(difference.path, names, numbers), "removed" if difference.now is ABSENT else "added"
    return f"{title} {done}" if step.spec.noun in title.lower() else f"{title}: {step.spec.noun} {done}"


def _label(step: Step, names: Names, numbers: Numbers) -> str:
    """What an entry is called among its like."""

    def filled(entry: Any) -> str:
        told = {spec.name: spec for spec in fields_of(type(entry))}

        def value(found: re.Match[str]) -> str:
            name = found[1]
            return "{n}" if name == "n" else names.name(told[name].says, str(getattr(entry, name)))

        return _FIELD.sub(value, step.spec.label)

    own = filled(step.entry) or f"Unnamed {step.spec.noun}"
    if "{n}" not in own:
        return own
    if id(step.siblings) not in numbers:
        counted: Counter[str] = Counter()
        counts = {}
        for entry in step.siblings:
            label = filled(entry)
            counted[label] += 1
            counts[entry.id] = (label, counted[label])
        numbers[id(step.siblings)] = (step.siblings, counts)
    known = numbers[id(step.siblings)][1]
    label, number = known.get(step.entry.id, ("", 0))
    if label != own:
        number = 1 + sum(one == own for one, _ in known.values())
    return own.replace("{n}", str(number))
