"""How much of polyols, allulose and fibre people usually stand.

Worked example: 15 g of maltitol, of which 30 g often have a laxative effect: half of a dose.
"""

from collections.abc import Iterable
from functools import cache

from fern_match.core.data import rows
from fern_match.core.food.ingredients import Ingredient, Pantry
from fern_match.core.food.nutrients import Nutrient

UPSETS_SOME, OFTEN_UPSETS = 0.5, 1.0  # of a single laxative dose: from which people are told, and what it comes to
ALLOWED = 0.999  # of a dose in a serving: what proposals keep below
# Children stand about half of what adults do, by their weight (approximate).


def load_in_words(load: float, of: str) -> str:
    """What a share of a laxative dose means, for whoever eats it; empty where it means little.

    Args:
        load: Share of a single dose for a healthy adult, 0 or more.
        of: What holds it: "A piece", "A serving of 40 g".

    >>> load_in_words(0.62, "A piece")
    'A piece holds 62 % of the polyols, allulose and fibre that often upset a stomach: two may be too much; children stand half.'
    """
    if load >= OFTEN_UPSETS:
        return f"{of} reaches what often has a laxative effect: say so, and eat less of it; children stand half."
    if load >= UPSETS_SOME:
        share = f"{of} holds {100 * load:.0f} % of the polyols, allulose and fibre that often upset a stomach"
        return f"{share}: two may be too much; children stand half."
    return ""


def load_per_gram(food: Ingredient) -> float:
    """Share of a single laxative dose in a gram of an ingredient [1/g], for a healthy adult.

    Source: data/tolerances.csv, lower ends of what often gives symptoms (approximate).
    """
    load = 0.0
    for nutrient, kind, dose_g in _doses():
        amount = (food.per_100_g.get(nutrient) or 0.0) / 100
        own = food.polyol_kind == kind if nutrient is Nutrient.POLYOLS else not kind or food.id == kind
        if own:
            load += amount / dose_g
    return load


def load_of(amounts: Iterable[tuple[str, float]], pantry: Pantry) -> float:
    """Shares of a single laxative dose in amounts together; what the pantry does not hold counts for none.

    Args:
        amounts: Ingredients by id, with their grams.
        pantry: Compositions.
    """
    return sum(grams * load_per_gram(pantry[key]) for key, grams in amounts if key in pantry)


@cache
def _doses() -> tuple[tuple[Nutrient, str, float], ...]:
    """Nutrient, which polyol or ingredient, and how much of it is a single dose [g]."""
    return tuple((Nutrient(row["nutrient"]), row["polyol_kind"], float(row["single_dose_g"])) for row in rows("tolerances.csv"))
