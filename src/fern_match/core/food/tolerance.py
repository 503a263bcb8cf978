"""How much of polyols, allulose and fibre people usually stand.

Worked example: 15 g of maltitol, of which 30 g often have a laxative effect: half of a dose.
"""

from fern_match.core.data import rows
from fern_match.core.food.ingredients import Ingredient
from fern_match.core.food.nutrients import Nutrient


def load_per_gram(food: Ingredient) -> float:
    """Share of a single laxative dose in a gram of an ingredient [1/g], for a healthy adult.

    Source: data/tolerances.csv, lower ends of what often gives symptoms (approximate).
    """
    load = 0.0
    for row in rows("tolerances.csv"):
        amount = (food.per_100_g.get(Nutrient(row["nutrient"])) or 0.0) / 100
        kind = row["polyol_kind"]
        own = food.polyol_kind == kind if row["nutrient"] == Nutrient.POLYOLS else not kind or food.id == kind
        if own:
            load += amount / float(row["single_dose_g"])
    return load
