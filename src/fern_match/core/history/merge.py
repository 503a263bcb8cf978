"""Two changes made on one state: different fields come together, the same field asks."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from fern_match.core.food import Pantry
from fern_match.core.history.changes import field_title
from fern_match.core.history.fields import LAYER_PARTS, Field, fields_of, match_of
from fern_match.core.match import Match

_ABSENT = object()
_ORDERS = frozenset({"layer order", "version order", "batch order"})


@dataclass(frozen=True, slots=True)
class Clash:
    """One field that both changed, differently."""

    title: str
    mine: str
    theirs: str


@dataclass(frozen=True, slots=True)
class Clashes:
    """The fields that have to be decided."""

    fields: tuple[Clash, ...]


def merged(
    base: Match, mine: Match, theirs: Match, *, prefer_mine: bool = False, pantry: Pantry | None = None
) -> Match | Clashes:
    """Both changes in one match, or the fields that both changed differently.

    Args:
        base: What both began with.
        mine: One change.
        theirs: The other.
        prefer_mine: Decide for the first where both changed a field.
        pantry: For names of ingredients in clashes.
    """
    was, my, their = fields_of(base), fields_of(mine), fields_of(theirs)
    together: dict[Field, Any] = {}
    clashes: list[Clash] = []
    for field in dict.fromkeys((*their, *my, *was)):
        old, own, other = (side.get(field, _ABSENT) for side in (was, my, their))
        if own in (old, other):
            chosen = other
        elif other == old or prefer_mine:
            chosen = own
        elif field[0] in _ORDERS:
            chosen = _order(old, own, other)
        else:
            clashes.append(Clash(field_title(field, theirs, pantry), _text(own), _text(other)))
            continue
        if chosen is not _ABSENT:
            together[field] = chosen
    return Clashes(tuple(clashes)) if clashes else match_of(_whole(together, my, their))


def _order(old: Any, own: Any, other: Any) -> tuple[str, ...]:
    """Their order, with what I added at its end and without what I removed."""
    before = () if old is _ABSENT else old
    kept = [key for key in other if key in own or key not in before]
    return (*kept, *(key for key in own if key not in kept and key not in before))


def _whole(together: dict[Field, Any], my: Mapping[Field, Any], their: Mapping[Field, Any]) -> dict[Field, Any]:
    """A layer that one side removed and the other edited is whole again, or wholly gone, as the order says."""
    for key in together["layer order",]:
        for part in LAYER_PARTS:
            if ("layer", key, part) not in together:
                side = my if ("layer", key, part) in my else their
                together["layer", key, part] = side["layer", key, part]
    return together


def _text(value: Any) -> str:
    return "taken away" if value is _ABSENT or value == "" else f"“{value}”"
