"""What several foods are together: their allergens, whether they are vegan, and what of it nobody knows.

Worked example: milk powder (milk), sugar (none) and crunch bits from a packet without a word on allergens: milk is in it, and of
the crunch bits it is not known. Silence is never taken for "none".
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from fern_match.core.food.ingredients import Ingredient, asked_of_makers
from fern_match.core.food.nutrients import Nutrient

# Tree nuts by name, pine nuts by the law of the US, Canada and Australia and held so everywhere; and the words under which labels
# declare them together.
TREE_NUTS = frozenset({"almond", "brazil nut", "cashew", "hazelnut", "macadamia", "pecan", "pine nut", "pistachio", "walnut"})
OF_ANIMALS = frozenset({"milk", "egg", "fish", "crustaceans", "molluscs"})  # allergens that no vegan thing holds
NUTS_TOGETHER = frozenset({"nuts", "tree nuts"})
_VEGAN_ORDER = ("yes", "check", "no")  # the later one decides


@dataclass(frozen=True, slots=True)
class MayHold:
    """An allergen that something may hold: its maker knows."""

    allergen: str
    foods: tuple[str, ...]  # by name


@dataclass(frozen=True, slots=True, kw_only=True)
class Allergens:
    """What foods hold for sure, and whose allergens are not all known."""

    holds: tuple[str, ...]  # in alphabetical order
    not_known: tuple[str, ...]  # names of foods
    may: tuple[MayHold, ...] = ()  # beside what it holds

    @property
    def known(self) -> bool:
        """Whether the list is whole."""
        return not self.not_known and not self.may


def allergens_of(foods: Iterable[Ingredient], strangers: Iterable[str] = ()) -> Allergens:
    """The allergens of foods together.

    Args:
        foods: Of the pantry.
        strangers: Names of what is in it as well, and no table knows.
    """
    found, unknown = set(), []
    doubts: dict[str, list[str]] = {}
    for food in foods:
        found |= set(food.allergens)
        for one in may_hold(food):
            if food.name not in doubts.setdefault(one, []):
                doubts[one].append(food.name)
        if not food.allergens_known and not may_hold(food):
            unknown.append(food.name)
    may = {key: who for key, who in sorted(doubts.items()) if key not in found}
    names = tuple(dict.fromkeys((*unknown, *strangers)))
    return Allergens(holds=tuple(sorted(found)), not_known=names, may=tuple(MayHold(key, tuple(who)) for key, who in may.items()))


def together(parts: Sequence[Allergens]) -> Allergens:
    """The allergens of several things handed round together.

    Args:
        parts: Of each.
    """
    holds = {one for part in parts for one in part.holds}
    may: dict[str, dict[str, None]] = {}
    for one in (doubt for part in parts for doubt in part.may):
        may.setdefault(one.allergen, {}).update(dict.fromkeys(one.foods))
    return Allergens(
        holds=tuple(sorted(holds)),
        not_known=tuple(dict.fromkeys(name for part in parts for name in part.not_known)),
        may=tuple(MayHold(key, tuple(who)) for key, who in sorted(may.items()) if key not in holds),
    )


def unexplained(declared: Iterable[str], held: Iterable[str]) -> tuple[str, ...]:
    """Allergens that a label declares and nothing on a list holds; any tree nut explains “tree nuts”.

    Args:
        declared: As the label says, in the tables' words.
        held: By the list.
    """
    there = set(held)
    if there & TREE_NUTS:
        there |= NUTS_TOGETHER
    return tuple(one for one in declared if one not in there)


def may_hold(food: Ingredient) -> tuple[str, ...]:
    """Allergens that some makers' versions of an ingredient hold; none of one whose allergens are all known.

    Source: data/may_hold.csv, usual recipes of such goods (fair).
    """
    return () if food.allergens_known else asked_of_makers().get(food.id, ())


def vegan_of(foods: Iterable[Ingredient], *, strangers: bool = False) -> str:
    """Whether foods together are vegan: "yes", "no", or "check" where it depends on a maker; of nothing it is "check".

    Args:
        foods: Of the pantry.
        strangers: Whether something is in it as well that no table knows.
    """
    words = [food.vegan if food.vegan in _VEGAN_ORDER else "check" for food in foods]
    words += ["check"] if strangers else []
    return max(words, key=_VEGAN_ORDER.index, default="check")


def lacking(foods: Iterable[Ingredient], nutrients: Sequence[Nutrient]) -> tuple[str, ...]:
    """Names of foods of which one of the figures is not known, each once.

    Args:
        nutrients: The figures that are asked for.
    """
    return tuple(dict.fromkeys(food.name for food in foods if not all(food.knows(one) for one in nutrients)))


def allergens_in_words(found: Allergens) -> str:
    """What of allergens there is to say, with what nobody knows; empty where all is known and there is none."""
    held = f"By the pantry this holds {listed(found.holds)}." if found.holds else ""
    asked = f"Whether {listed(found.not_known)} holds others is not known: read the packet." if found.not_known else ""
    may = " ".join(f"{listed(one.foods)} may hold {one.allergen}: ask the maker, or read the packet." for one in found.may)
    return " ".join(one for one in (held, may, asked) if one)


def listed(names: Sequence[str]) -> str:
    """Names as a sentence lists them: "milk", "milk and soy"; at least one."""
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
