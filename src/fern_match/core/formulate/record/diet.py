"""Whether an ingredient is vegan where it is bought: bone char is a question of American cane sugar alone."""

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
    return "yes" if asked == "check" and food.category in _REFINED and region not in _BONE_CHAR else asked
