"""What the statement on a packet adds to its panel: kinds of fat and sugar, allergens, whether it is vegan.

Worked example: a spread of 30 g fat and 55 g sugars, "sugar, palm oil, hazelnuts 13 %, skimmed milk powder": weighed by their
order, palm oil brings two thirds of the fat and hazelnuts the rest; the sugars are sucrose but for a little lactose.
"""

from collections.abc import Sequence
from dataclasses import replace

from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.food.nutrients import FIBRE_APART
from fern_match.core.food.together import allergens_of, vegan_of
from fern_match.core.label.rows import Region
from fern_match.core.physics.fats import fat_columns
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

STATEMENT = "its statement"
_SUGARS = (Nutrient.SUCROSE, Nutrient.GLUCOSE, Nutrient.FRUCTOSE, Nutrient.LACTOSE, Nutrient.MALTOSE)
_SOLIDS = (Nutrient.COCOA_SOLIDS_NONFAT, Nutrient.MILK_SOLIDS_NONFAT)
# What a panel is often silent on, and what names on the statement tell once all of them are known.
_SILENT = (Nutrient.FIBRE, Nutrient.POLYOLS, Nutrient.ALLULOSE, Nutrient.ALCOHOL, Nutrient.STARCH, Nutrient.TRANS_FAT)
_FALLS = 0.62  # of the one before it, by order in a statement (approximate)


def with_statement(food: Ingredient, statement: str, region: Region, pantry: Pantry) -> Ingredient:
    """An ingredient with what its statement says beside its panel; the panel's own figures stay.

    Args:
        food: From its panel.
        statement: As printed; what is not understood adds nothing.
        region: Whose packet it is.
        pantry: What names mean.
    """
    if not statement.strip():
        return food
    reading = StudyReading(Study(name=food.name, region=region, statement=statement), pantry)
    parts = [pantry[key] for key in dict.fromkeys(reading.ingredient_of.values()) if key in pantry]
    if not parts:
        return food
    percents = {
        reading.ingredient_of[leaf.key]: leaf.percent / 100
        for leaf in reading.statement.leaves()
        if leaf.percent is not None and leaf.key in reading.ingredient_of
    }
    shares = _shares(parts, percents)
    figures = dict(food.per_100_g)
    origins = dict(food.origins)
    fat, sugar = figures.get(Nutrient.FAT), figures.get(Nutrient.SUGARS)
    fats = {column: _mean(parts, shares, column) for column in fat_columns().values()}
    _split(figures, origins, fats, fat, _mean(parts, shares, Nutrient.FAT))
    sugars = {column: _mean(parts, shares, column) for column in (*_SUGARS, Nutrient.ADDED_SUGARS)}
    _split(figures, origins, sugars, sugar, sum(amount for column, amount in sugars.items() if column in _SUGARS))
    for column in _SOLIDS:
        figures[column] = min(_mean(parts, shares, column), 100.0)
        origins[column] = STATEMENT
    if reading.all_known:
        _fill(figures, origins, parts, shares)
    sweet = sum((part.sweetness or 0.0) * share for part, share in zip(parts, shares, strict=True))
    allergens, vegan = allergens_of(parts), vegan_of(parts)
    return replace(
        food,
        per_100_g=figures,
        origins=origins,
        sweetness=round(sweet, 3),
        polyol_kind=food.polyol_kind or next((part.polyol_kind for part in parts if part.polyol_kind), None),
        allergens=allergens.holds,
        allergens_known=allergens.known and reading.all_known,
        vegan="check" if vegan == "yes" and not reading.all_known else vegan,
        note="Composition estimated from the panel and the statement on its packet; not a full analysis.",
    )


def _shares(parts: Sequence[Ingredient], percents: dict[str, float]) -> list[float]:
    """How much of each there probably is [g/g]: as printed, else falling in the statement's order."""
    rest = 1 - sum(percents.get(part.id, 0.0) for part in parts)
    weights = [0.0 if part.id in percents else _FALLS**number for number, part in enumerate(parts)]
    total = sum(weights) or 1.0
    return [percents.get(part.id, max(0.0, rest) * weight / total) for part, weight in zip(parts, weights, strict=True)]


def _fill(
    figures: dict[Nutrient, float | None], origins: dict[Nutrient, str], parts: Sequence[Ingredient], shares: Sequence[float]
) -> None:
    """What the panel is silent on, from the parts; then carbohydrate is whole, and water what is left."""
    for column in _SILENT:
        if figures.get(column) is None:
            figures[column] = round(_mean(parts, shares, column), 2)
            origins[column] = STATEMENT
    carbohydrate, fibre = figures.get(Nutrient.CARBOHYDRATE), figures.get(Nutrient.FIBRE)
    if origins.get(Nutrient.CARBOHYDRATE) == FIBRE_APART and carbohydrate is not None and fibre is not None:
        figures[Nutrient.CARBOHYDRATE] = round(carbohydrate + fibre, 2)
        origins[Nutrient.CARBOHYDRATE] = STATEMENT
    solids = [figures.get(one) for one in (Nutrient.FAT, Nutrient.CARBOHYDRATE, Nutrient.PROTEIN, Nutrient.ASH)]
    known = [one for one in solids if one is not None]
    if figures.get(Nutrient.WATER) is None and len(known) == len(solids):
        figures[Nutrient.WATER] = round(max(0.0, 100.0 - sum(known)), 2)
        origins[Nutrient.WATER] = STATEMENT


def _mean(parts: Sequence[Ingredient], shares: Sequence[float], column: Nutrient) -> float:
    return sum((part.per_100_g.get(column) or 0.0) * share for part, share in zip(parts, shares, strict=True))


def _split(
    figures: dict[Nutrient, float | None],
    origins: dict[Nutrient, str],
    kinds: dict[Nutrient, float],
    whole: float | None,
    theirs: float,
) -> None:
    """Shares a figure of the panel out among its kinds, as the statement's parts have them; of none that is not known."""
    if whole is None:
        return
    for column, amount in kinds.items():
        figures[column] = round(whole * amount / theirs, 2) if theirs > 0 else 0.0
        origins[column] = STATEMENT
