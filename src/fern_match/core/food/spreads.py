"""How far one lot of an ingredient may differ from the table, from `data/spreads.csv`; wider where two sources disagree."""

import math
from functools import cache

from fern_match.core.data import rows
from fern_match.core.food.ingredients import Ingredient
from fern_match.core.food.nutrients import Nutrient

_ANY = "*"
_MOST_APART = 0.6


def lot_spread(ingredient: Ingredient, nutrient: Nutrient) -> float:
    """Relative standard deviation of a lot's nutrient about the table [share, 0 to 1].

    The most particular row wins: category and nutrient, then category, then nutrient, then the rest. Fibre and minerals
    keep their own spread where the category's is smaller. Where a second source says otherwise than the table, the spread is at
    least that of a figure of which the two are a sample: their difference over the root of two.

    Source: our judgement by class of food, docs/method/estimate.md ("Lots differ").

    >>> from fern_match.core.food import standard_pantry
    >>> round(lot_spread(standard_pantry()["molasses"], Nutrient.SUGARS), 2)  # 60 g here, 74.7 g elsewhere
    0.17
    """
    second, first = second_figure(ingredient, nutrient), ingredient.per_100_g.get(nutrient)
    apart = 0.0 if second is None or not first else min(_MOST_APART, abs(second - first) / (math.sqrt(2) * first))
    return max(apart, _by_class(ingredient, nutrient))


def second_figure(ingredient: Ingredient, nutrient: Nutrient) -> float | None:
    """What another source says, where it disagrees with the table's figure and that figure is still the ingredient's [per 100 g].

    Source: data/second_figures.csv.
    """
    first, second = _seconds().get((ingredient.id, nutrient.value), (None, None))
    return second if first is not None and ingredient.per_100_g.get(nutrient) == first else None


def _by_class(ingredient: Ingredient, nutrient: Nutrient) -> float:
    table = _table()
    particular = table.get((ingredient.category, nutrient.value))
    if particular is not None:
        return particular
    general = table.get((_ANY, nutrient.value))
    of_category = table.get((ingredient.category, _ANY))
    if general is not None and of_category is not None:
        return max(general, of_category)
    return general or of_category or table[_ANY, _ANY]


@cache
def _table() -> dict[tuple[str, str], float]:
    return {(row["category"], row["nutrient"]): float(row["relative_sd"]) for row in rows("spreads.csv")}


@cache
def _seconds() -> dict[tuple[str, str], tuple[float, float]]:
    return {
        (row["ingredient"], row["nutrient"]): (float(row["first"]), float(row["second"])) for row in rows("second_figures.csv")
    }
