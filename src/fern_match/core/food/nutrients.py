"""The nutrients the composition table knows, by the name of their column."""

from enum import StrEnum


class Nutrient(StrEnum):
    """A column of the composition table; grams, or milligrams where the name says so, per 100 g as sold."""

    WATER = "water_g"
    PROTEIN = "protein_g"
    FAT = "fat_g"
    SATURATES = "saturated_fat_g"
    TRANS_FAT = "trans_fat_g"
    CHOLESTEROL = "cholesterol_mg"
    CARBOHYDRATE = "carbohydrate_g"
    FIBRE = "fibre_g"
    SUGARS = "sugars_g"
    ADDED_SUGARS = "added_sugars_g"
    SUCROSE = "sucrose_g"
    GLUCOSE = "glucose_g"
    FRUCTOSE = "fructose_g"
    LACTOSE = "lactose_g"
    MALTOSE = "maltose_g"
    STARCH = "starch_g"
    POLYOLS = "polyols_g"
    ALLULOSE = "allulose_g"
    ASH = "ash_g"
    ALCOHOL = "alcohol_g"
    SODIUM = "sodium_mg"
    POTASSIUM = "potassium_mg"
    CALCIUM = "calcium_mg"
    IRON = "iron_mg"
    COCOA_BUTTER = "cocoa_butter_g"
    MILK_FAT = "milk_fat_g"
    LAURIC_FAT = "lauric_fat_g"
    PALM_FAT = "palm_fat_g"
    SHEA_FAT = "shea_fat_g"
    HARDENED_FAT = "hardened_fat_g"
    COCOA_SOLIDS_NONFAT = "cocoa_solids_nonfat_g"
    MILK_SOLIDS_NONFAT = "milk_solids_nonfat_g"


# The origin of a carbohydrate that was printed without fibre, where the fibre itself is not known.
FIBRE_APART = "its packet, without its fibre"

_SALT_PER_SODIUM = 2.5  # Regulation (EU) 1169/2011, Annex I: salt is 2.5 times sodium; the one place it is said


def salt_g(sodium_mg: float) -> float:
    """Salt that stands for sodium [g].

    Args:
        sodium_mg: 0 or more [mg].

    Source: Regulation (EU) 1169/2011, Annex I.

    >>> salt_g(340.0)
    0.85
    """
    return _SALT_PER_SODIUM * sodium_mg / 1000


def sodium_mg(salt: float) -> float:
    """Sodium that a declared weight of salt stands for [mg].

    Args:
        salt: 0 or more [g].

    Source: as `salt_g`.

    >>> sodium_mg(0.85)
    340.0
    """
    return 1000 * salt / _SALT_PER_SODIUM


_WORDS = {
    Nutrient.SATURATES: "Saturated fat",
    Nutrient.COCOA_SOLIDS_NONFAT: "Cocoa solids, non-fat",
    Nutrient.MILK_SOLIDS_NONFAT: "Milk solids, non-fat",
    Nutrient.HARDENED_FAT: "Hardened fat",
}
# What each figure is called, and its unit, in the table's order.
NUTRIENT_TITLES: tuple[tuple[Nutrient, str, str], ...] = tuple(
    (
        nutrient,
        _WORDS.get(nutrient, nutrient.value.rpartition("_")[0].replace("_", " ").capitalize()),
        nutrient.value.rpartition("_")[2],
    )
    for nutrient in Nutrient
)
