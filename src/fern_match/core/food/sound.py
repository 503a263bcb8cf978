"""Whether an ingredient's figures can be true together."""

from dataclasses import dataclass

from fern_match.core.errors import CoreError
from fern_match.core.food.ingredients import Ingredient
from fern_match.core.food.nutrients import NUTRIENT_TITLES, Nutrient

YOURS = "your figure"
_ROOM_G = 105.0
_PARTS = (
    (Nutrient.SUGARS, Nutrient.CARBOHYDRATE),
    (Nutrient.FIBRE, Nutrient.CARBOHYDRATE),
    (Nutrient.POLYOLS, Nutrient.CARBOHYDRATE),
    (Nutrient.SATURATES, Nutrient.FAT),
    (Nutrient.COCOA_BUTTER, Nutrient.FAT),
    (Nutrient.MILK_FAT, Nutrient.FAT),
    (Nutrient.LAURIC_FAT, Nutrient.FAT),
)
_MAIN = (Nutrient.WATER, Nutrient.PROTEIN, Nutrient.FAT, Nutrient.CARBOHYDRATE, Nutrient.ASH, Nutrient.ALCOHOL)
_ROUNDING_G = 0.6


@dataclass(eq=False)
class NotSound(CoreError):
    """Figures that no food has."""

    field: str
    sentence: str

    def __str__(self) -> str:
        return self.sentence


def check_ingredient(food: Ingredient) -> None:
    """Refuses figures that cannot be true together.

    Raises:
        NotSound: a part exceeds its whole, a figure is below 0 or above 100 g, all of them exceed 100 g, or a figure beside them
            is none that a food has.
    """
    _check_beside(food)
    titles = {nutrient: title for nutrient, title, _ in NUTRIENT_TITLES}
    for nutrient, value in food.per_100_g.items():
        most = 100.0 if nutrient.value.endswith("_g") else 100_000.0
        if value is not None and not 0 <= value <= most:  # NaN is not
            raise NotSound(nutrient, f"{titles[nutrient]} of {value:g} in 100 g is not between 0 and {most:g}.")
    for part, whole in _PARTS:
        inner, outer = food.per_100_g.get(part), food.per_100_g.get(whole)
        if inner is not None and outer is not None and inner > outer + _ROUNDING_G:
            raise NotSound(
                part, f"{titles[part]} ({inner:g} g) cannot exceed {titles[whole].lower()} ({outer:g} g), of which it is part."
            )
    total = sum(food.per_100_g.get(part) or 0.0 for part in _MAIN)
    if total > _ROOM_G:
        raise NotSound("water_g", f"Water, protein, fat, carbohydrate, ash and alcohol add up to {total:.0f} g in 100 g.")


_BESIDE = (  # field, title, least, most, unit; what no food goes beyond
    ("sweetness", "A sweetness", 0.0, 50_000.0, " times sugar"),
    ("density_g_ml", "A density", 0.01, 3.0, " g/mL"),
    ("piece_g", "A piece", 0.001, 100_000.0, " g"),
    ("price_per_kg", "A price", 0.0, 1_000_000.0, ""),
)
_VEGAN = ("yes", "no", "check")


def _check_beside(food: Ingredient) -> None:
    """Refuses a name, a word or a figure beside the composition that none can have; NaN and infinity among them."""
    if not food.name.strip():
        raise NotSound("name", "Say what it is called.")
    for field, title, least, most, unit in _BESIDE:
        value = getattr(food, field)
        if value is not None and not least <= value <= most:
            raise NotSound(field, f"{title} of {value:g}{unit} is not between {least:g} and {most:g}.")
    if food.vegan not in _VEGAN:
        raise NotSound("vegan", f"“{food.vegan[:40]}” is not yes, no or check.")
    listed = next((one for one in (*food.label_names, *food.allergens, *food.functions) if "|" in one), None)
    if listed is not None:
        raise NotSound("label_names", f"“{listed[:40]}” holds a bar (|), which parts names in files. Write them one by one.")
