"""Whether an ingredient is vegan where it is bought: bone char is a question of American cane sugar alone."""

from functools import cache

from fern_match.core.data import rows
from fern_match.core.food import Ingredient
from fern_match.core.label.rows import Region

_BONE_CHAR = frozenset({Region.US, Region.CA})  # where cane sugar is filtered over it; in Europe practically never (fair)
_REFINED = frozenset({"sugar", "syrup"})


def vegan_in(food: Ingredient, region: Region) -> str:
    """Yes, no, or check where it depends on the maker.

    Args:
        food: Of the pantry.
        region: Where it is bought.
    """
    asked = food.vegan if food.vegan in {"yes", "no"} else "check"
    refined = food.category in _REFINED or food.id in _asked_for_refining()
    return "yes" if asked == "check" and refined and region not in _BONE_CHAR else asked


@cache
def _asked_for_refining() -> frozenset[str]:
    """What is asked about for nothing but how its sugar was refined.

    Source: data/ask_maker.csv.
    """
    found = (row["ingredients"].split("|") for row in rows("ask_maker.csv") if row["only_refining"])
    return frozenset(key for keys in found for key in keys)
