"""What several foods are together: their allergens, whether they are vegan, and what of it nobody knows.

Worked example: milk powder (milk), sugar (none) and crunch bits from a packet without a word on allergens: milk is in it, and of
the crunch bits it is not known. Silence is never taken for "none".
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from fern_match.core.food.ingredients import Ingredient
from fern_match.core.food.nutrients import Nutrient

_VEGAN_ORDER = ("yes", "check", "no")  # the later one decides


@dataclass(frozen=True, slots=True, kw_only=True)
class Allergens:
    """What foods hold for sure, and whose allergens are not all known."""

    holds: tuple[str, ...]  # in alphabetical order
    not_known: tuple[str, ...]  # names of foods

    @property
    def known(self) -> bool:
        """Whether the list is whole."""
        return not self.not_known


def allergens_of(foods: Iterable[Ingredient], strangers: Iterable[str] = ()) -> Allergens:
    """The allergens of foods together.

    Args:
        foods: Of the pantry.
        strangers: Names of what is in it as well, and no table knows.
    """
    found, unknown = set(), []
    for food in foods:
        found |= set(food.allergens)
        if not food.allergens_known:
            unknown.append(food.name)
    return Allergens(holds=tuple(sorted(found)), not_known=tuple(dict.fromkeys((*unknown, *strangers))))


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
    return " ".join(one for one in (held, asked) if one)


def listed(names: Sequence[str]) -> str:
    """Names as a sentence lists them: "milk", "milk and soy"; at least one."""
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
