"""How far one lot of an ingredient may differ from the table, from `data/spreads.csv`."""

from functools import cache

from fern_match.core.data import rows
from fern_match.core.food.ingredients import Ingredient
from fern_match.core.food.nutrients import Nutrient

_ANY = "*"


def lot_spread(ingredient: Ingredient, nutrient: Nutrient) -> float:
    """Relative standard deviation of a lot's nutrient about the table [share, 0 to 1].

    The most particular row wins: category and nutrient, then category, then nutrient, then the rest. Fibre and minerals
    keep their own spread where the category's is smaller.

    Source: our judgement by class of food, docs/method/estimate.md ("Lots differ").
    """
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
