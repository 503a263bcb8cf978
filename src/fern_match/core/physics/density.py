"""Density of a finished layer at 20 C from what it is made of."""

from collections.abc import Mapping
from functools import cache

from fern_match.core.data import rows
from fern_match.core.errors import OutOfRange, check_range
from fern_match.core.food import Nutrient, Pantry
from fern_match.core.food.together import lacking

# True densities at 20 C by Choi and Okos (1986), from their polynomials [g/cm3].
WATER, PROTEIN, LIQUID_FAT, CARBOHYDRATE, FIBRE, ASH = 0.99574, 1.31953, 0.91724, 1.59289, 1.30418, 2.41819
ALCOHOL = 0.789
USUAL = 1.3  # of an ingredient of which a figure is not known: between fat and sugar, as confections usually are (approximate)
_PARTS = (
    Nutrient.WATER,
    Nutrient.PROTEIN,
    Nutrient.FAT,
    Nutrient.CARBOHYDRATE,
    Nutrient.FIBRE,
    Nutrient.ASH,
    Nutrient.ALCOHOL,
)


def mixture_density_g_cm3(grams: Mapping[str, float], water_lost_g: float, porosity: float, pantry: Pantry) -> float:
    """Density of a finished mixture at 20 C [g/cm3], air included.

    1/rho = sum of mass shares over component densities, fats part solid by kind; then rho (1 - porosity).

    Args:
        grams: Ingredient id -> grams as added; their sum is above 0.
        water_lost_g: Water driven off [g], less than the sum.
        porosity: Volume share of air, 0 to 0.95.

    Raises:
        OutOfRange: nothing is left, or porosity is outside.

    Source: Choi and Okos (1986), components at 20 C; solid fat from data/solid_fat.csv (approximate).
    Accuracy: about 3 % for dense layers of known composition, 10 to 15 % for aerated ones.
    """
    check_range("porosity", porosity, 0.0, 0.95)
    finished = sum(grams.values()) - water_lost_g
    if not finished > 0:
        raise OutOfRange("finished mass", finished, 0.0, float("inf"), "g")
    volume = -water_lost_g / WATER + sum(amount * airless_volume_cm3_g(name, pantry) for name, amount in grams.items())
    return finished / max(volume, 1e-9) * (1 - porosity)


def airless_volume_cm3_g(ingredient_id: str, pantry: Pantry) -> float:
    """Airless volume of a gram of an ingredient [cm3/g]; of one that lacks a figure as confections usually have.

    Source: as `mixture_density_g_cm3`.
    """
    food = pantry[ingredient_id]
    if lacking([food], _PARTS):
        return 1 / USUAL
    fibre, fat = food.amount(Nutrient.FIBRE), food.amount(Nutrient.FAT)
    volume = (
        food.amount(Nutrient.WATER) / WATER
        + food.amount(Nutrient.PROTEIN) / PROTEIN
        + (food.amount(Nutrient.CARBOHYDRATE) - fibre) / CARBOHYDRATE
        + fibre / FIBRE
        + food.amount(Nutrient.ASH) / ASH
        + food.amount(Nutrient.ALCOHOL) / ALCOHOL
    )
    known = 0.0
    for nutrient, density in _fat_kinds().items():
        grams = food.amount(nutrient) if food.knows(nutrient) else 0.0
        known += grams
        volume += grams / density
    return (volume + max(0.0, fat - known) / LIQUID_FAT) / 100


@cache
def _fat_kinds() -> dict[Nutrient, float]:
    """Density of each kind of fat at 20 C, its solid share counted [g/cm3]."""
    kinds = {}
    for row in rows("solid_fat.csv"):
        solid = float(row["solid_at_20c"])
        kinds[Nutrient(row["column"])] = 1 / (solid / float(row["solid_g_cm3"]) + (1 - solid) / float(row["liquid_g_cm3"]))
    return kinds
