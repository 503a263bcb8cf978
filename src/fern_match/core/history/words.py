"""Differences in words: "Caramel, reading 2: 8.1 g, was 8.7 g"."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from fern_match.core.families import Families
from fern_match.core.food import Pantry
from fern_match.core.history.differences import ABSENT, Difference, Path, Step, differences
from fern_match.core.house import House
from fern_match.core.label.rows import Region, panel_rows
from fern_match.core.match import Match
from fern_match.core.record.shape import Kind, fields_of, plain
from fern_match.core.study.record import LEAVE_OUT, PIECE

_LONGEST = 60
_BARE_FIGURE = re.compile(r"\d+(?:[.,]\d+)?")
_FIELD = re.compile(r"\{(\w+)\}")


@dataclass(frozen=True, slots=True)
class Names:
    """What things are called: looked up by what a field says it names."""

    pantry: Pantry
    families: Families
    layers: Mapping[str, str] = field(default_factory=dict)
    versions: Mapping[str, str] = field(default_factory=dict)
    rows: Mapping[str, str] = field(default_factory=dict)
    own: Mapping[str, str] = field(default_factory=dict)  # pinned ingredients

    @classmethod
    def of(cls, pantry: Pantry, families: Families, *wholes: Match | House) -> "Names":
        """The names of a match's own things, of all its states given; the later ones win.

        Args:
            wholes: States of one match; a house has no things of its own.
        """
        layers: dict[str, str] = {}
        versions: dict[str, str] = {}
        own: dict[str, str] = {}
        region = Region.EU
        for match in (whole for whole in wholes if isinstance(whole, Match)):
            for version in match.versions:
                versions[version.id] = version.name
                layers |= {layer.id: layer.name for layer in version.layers}
            layers |= {layer.id: layer.name for layer in match.study.layers}
            own |= {food.id: food.name for food in match.pinned}
            region = match.study.region
        titles = {spec.id.value: spec.title.removeprefix("of which ").capitalize() for spec in panel_rows(region)}
        named = {key: name or "Unnamed layer" for key, name in layers.items()}
        return cls(pantry, families, named, versions, titles, own)

    def name(self, kind: str, key: str) -> str:
        """What a user calls something.

        Args:
            kind: ingredient, family, layer, subject, version, row, item or evidence.
        """
        match kind:
            case "ingredient" if key == LEAVE_OUT:
                return "left out"
            case "ingredient":
                return self.pantry[key].name if key in self.pantry else self.own.get(key, key)
            case "family":
                return self.families[key].name if key in self.families else key
            case "layer" | "subject":
                return "Whole piece" if key == PIECE else self.layers.get(key, key)
            case "version":
                return self.versions.get(key, key)
            case "row":
                return self.rows.get(key, key.replace("_", " ").capitalize())
            case "item":
                return key.rpartition(" > ")[2]
            case "evidence":
                return self._evidence(key)
        return key

    def _evidence(self, key: str) -> str:
        kind, _, rest = key.partition(":")
        match kind:
            case "row":
                return self.name("row", rest)
            case "weighing":
                return f"{self.name('subject', rest)}, weighed"
            case "order":
                return " before ".join(self.name("item", item) for item in rest.split("|"))
            case "rule":
                layer, _, what = rest.partition(":")
                return f"{self.name('layer', layer)}: {what} by law"
            case "percent":
                return f"{self.name('item', rest)}, declared"
            case "small":
                return f"{self.name('item', rest)}, in the small group"
        return key.replace("_", " ").capitalize()


def changes(before: Any, after: Any, names: Names) -> tuple[str, ...]:
    """One sentence for each thing that differs, in the order of the record."""
    told = (sentence(difference, names) for difference in differences(before, after))
    return tuple(dict.fromkeys(one for one in told if one is not None))


def sentence(difference: Difference, names: Names) -> str | None:
    """A difference in words; None where it says nothing."""
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
        return _coming_or_going(difference, names)
    title = title_of(difference.path, names)
    was, now = (_stands_for(last, value) for value in (was, now))
    empty = (ABSENT, "", None)
    if was in empty and now in empty:
        return None  # a field that appeared with nothing in it
    if now in empty:
        return f"{title}: taken away, was {value_of(last, was, names)}"
    if was in empty:
        return f"{title}: {value_of(last, now, names)}"
    return f"{title}: {value_of(last, now, names)}, was {value_of(last, was, names)}"


def title_of(path: Path, names: Names) -> str:
    """What a user calls the thing at the end of a path: "Caramel, reading 2"."""
    parts: list[str] = []
    for at, step in enumerate(path):
        kind, last = step.spec.shape.kind, at == len(path) - 1
        if kind is Kind.ENTRIES and step.entry is not None:
            parts.append(_label(step, names))
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
        if isinstance(value, tuple | list):
            return ", ".join(names.name("layer", key) for key in value)[:_LONGEST]
        spec = next((one for one in fields_of(type(step.entry)) if one.name == spec.value), spec)
        value = _stands_for(step, value)
    if value is True or value is False:
        return "yes" if value else "no"
    text = str(plain(value))
    if hasattr(value, "__dataclass_fields__"):
        text = "changed"
    elif spec.says == "grams":
        text = f"{text.strip()} g" if _BARE_FIGURE.fullmatch(text.strip()) else text
    elif spec.says:
        text = names.name(spec.says, text)
    return text if len(text) <= _LONGEST else f"{text[: _LONGEST - 1]}…"


def _stands_for(step: Step, value: Any) -> Any:
    """An entry by the field that stands for it; anything else itself."""
    return getattr(value, step.spec.value) if step.spec.value and hasattr(value, "__dataclass_fields__") else value


def _coming_or_going(difference: Difference, names: Names) -> str | None:
    step = difference.path[-1]
    if not step.spec.noun:
        return None
    title, done = title_of(difference.path, names), "removed" if difference.now is ABSENT else "added"
    return f"{title} {done}" if step.spec.noun in title.lower() else f"{title}: {step.spec.noun} {done}"


def _label(step: Step, names: Names) -> str:
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
    alike = [entry.id for entry in step.siblings if filled(entry) == own]
    return own.replace("{n}", str(alike.index(step.entry.id) + 1 if step.entry.id in alike else len(alike) + 1))
