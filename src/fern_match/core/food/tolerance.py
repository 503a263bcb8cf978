"""How much of polyols, allulose and fibre people usually stand.

Worked example: 15 g of maltitol, of which 30 g often have a laxative effect: half of a dose.
"""

from collections.abc import Iterable
from functools import cache

from fern_match.core.data import rows
from fern_match.core.food.ingredients import Ingredient, Pantry
from fern_match.core.food.nutrients import Nutrient


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
