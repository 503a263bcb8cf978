"""What a layer or a piece amounts to: properties that add up over grams, and the label's rows.

Worked example: 6 g sugar (sweetness 1) with 4 g cream (36.1 g fat, 0.01): 6.04 g sucrose equivalents and 1.44 g fat, however much
water is driven off.
"""

from collections.abc import Iterable, Mapping

from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.food.nutrients import salt_g
from fern_match.core.formulate.record.formula import Formula, FormulaLayer
from fern_match.core.formulate.record.version import Property
from fern_match.core.label.rows import Region, RowId, panel_rows, row_per_100_g
from fern_match.core.physics.fats import adds_up, fat_columns, fat_kinds_per_100_g, solid_share

_NUTRIENTS: Mapping[Property, Nutrient] = {
    Property.WATER: Nutrient.WATER,
    Property.FAT: Nutrient.FAT,
    Property.SUGARS: Nutrient.SUGARS,
    Property.PROTEIN: Nutrient.PROTEIN,
    Property.FIBRE: Nutrient.FIBRE,
    Property.COCOA: Nutrient.COCOA_SOLIDS_NONFAT,
    Property.MILK_SOLIDS: Nutrient.MILK_SOLIDS_NONFAT,
}
UNITS: Mapping[Property, str] = {Property.SWEETNESS: "g of sugar"}
# What a person would notice, relative to the wanted value, and the least of it in the layer [g/g] (approximate).
NOTICED: Mapping[Property, tuple[float, float]] = {
    Property.MASS: (0.02, 0.0),
    Property.WATER: (0.05, 0.005),
    Property.FAT: (0.04, 0.006),
    Property.SWEETNESS: (0.05, 0.005),
    Property.SUGARS: (0.05, 0.01),
    Property.PROTEIN: (0.12, 0.004),
    Property.SALT: (0.15, 0.0006),
    Property.FIBRE: (0.20, 0.008),
    Property.COCOA: (0.10, 0.006),
    Property.MILK_SOLIDS: (0.12, 0.006),
    Property.SOLID_FAT: (0.08, 0.008),
}


def per_gram(food: Ingredient, what: Property) -> float:
    """What a gram of an ingredient is known to add to a property [g/g]; `knows` says whether that is all there is to know.

    Salt is 2.5 times sodium; sweetness is in grams of sucrose; solid fat is by kind at 20 degrees Celsius.

    Source: data/ingredients.csv, data/solid_fat.csv.
    """
    if what is Property.MASS:
        return 1.0
    if what is Property.SWEETNESS:
        return food.sweetness or 0.0
    if what is Property.SALT:
        return salt_g(food.per_100_g.get(Nutrient.SODIUM) or 0.0) / 100
    if what is Property.SOLID_FAT:
        return sum(grams * solid_share(kind, 20) for kind, grams in fat_kinds_per_100_g(food).items()) / 100
    return (food.per_100_g.get(_NUTRIENTS[what]) or 0.0) / 100


def knows(food: Ingredient, what: Property) -> bool:
    """Whether the table has every figure that a property of an ingredient is made of."""
    match what:
        case Property.MASS:
            return True
        case Property.SWEETNESS:
            return food.sweetness is not None
        case Property.SALT:
            return food.knows(Nutrient.SODIUM)
        case Property.SOLID_FAT:
            no_fat = food.per_100_g.get(Nutrient.FAT) == 0
            return no_fat or (food.knows(Nutrient.FAT) and all(food.knows(column) for column in fat_columns().values()))
    return food.knows(_NUTRIENTS[what])


def not_known(layers: Iterable[FormulaLayer], what: Property, pantry: Pantry) -> tuple[str, ...]:
    """Names of lines of which it is not known what they add to a property, each once; what a line weighs is known."""
    if what is Property.MASS:
        return ()
    return tuple(
        dict.fromkeys(
            one.name
            for layer in layers
            for one in layer.ingredients
            if one.grams > 0 and (one.ingredient_id not in pantry or not knows(pantry[one.ingredient_id], what))
        )
    )


def amount_of(layers: Iterable[FormulaLayer], what: Property, pantry: Pantry) -> float:
    """A property of layers together as far as it is known [g]: water and mass less what was driven off."""
    total = 0.0
    for layer in layers:
        if what is Property.MASS:  # of what the pantry does not hold as well
            total += layer.added_g
        else:
            total += sum(
                one.grams * per_gram(pantry[one.ingredient_id], what) for one in layer.ingredients if one.ingredient_id in pantry
            )
        if what in {Property.MASS, Property.WATER}:
            total -= layer.water_lost_g
    return max(0.0, total)


def fat_by_kind(layers: Iterable[FormulaLayer], pantry: Pantry) -> dict[str, float]:
    """Fat of layers by kind [g]."""
    kinds: dict[str, float] = {}
    for layer in layers:
        for one in layer.ingredients:
            if one.ingredient_id not in pantry:
                continue
            for kind, grams in fat_kinds_per_100_g(pantry[one.ingredient_id]).items():
                kinds[kind] = kinds.get(kind, 0.0) + grams * one.grams / 100
    return kinds


def solid_fat_counts(layers: Iterable[FormulaLayer], pantry: Pantry) -> bool:
    """Whether solid shares of the fats may be added: not where lauric fat and cocoa butter mix."""
    return adds_up(fat_by_kind(layers, pantry))


def row_per_gram(food: Ingredient, row: RowId, region: Region) -> float:
    """What a gram of an ingredient is known to add to a row of the label, in the row's unit; see `unknown_rows`."""
    return (row_per_100_g(food, row, region) or 0.0) / 100


def rows_per_100_g(formula: Formula, region: Region, pantry: Pantry) -> dict[RowId, float | None]:
    """The label's rows for 100 g of the finished piece, in the rows' units; empty where the piece weighs nothing.

    A row to which one of the ingredients adds nobody knows what is None.
    """
    piece_g = formula.piece_g
    if piece_g <= 0:
        return {}
    found: dict[RowId, float | None] = {}
    for spec in panel_rows(region):
        total = sum(
            one.grams * row_per_gram(pantry[one.ingredient_id], spec.id, region)
            for layer in formula.layers
            for one in layer.ingredients
            if one.ingredient_id in pantry
        )
        found[spec.id] = None if unknown_rows(formula, spec.id, region, pantry) else 100 / piece_g * total
    return found


def unknown_rows(formula: Formula, row: RowId, region: Region, pantry: Pantry) -> tuple[str, ...]:
    """Names of lines of which it is not known what they add to a row, each once."""
    return tuple(
        dict.fromkeys(
            one.name
            for layer in formula.layers
            for one in layer.ingredients
            if one.grams > 0
            and (one.ingredient_id not in pantry or row_per_100_g(pantry[one.ingredient_id], row, region) is None)
        )
    )
