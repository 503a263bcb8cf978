"""What the statement on a packet adds to its panel: kinds of fat and sugar, allergens, whether it is vegan.

Worked example: a spread of 30 g fat and 55 g sugars, "sugar, palm oil, hazelnuts 13 %, skimmed milk powder": weighed by their
order, palm oil brings two thirds of the fat and hazelnuts the rest; the sugars are sucrose but for a little lactose.
"""

from collections.abc import Sequence
from dataclasses import replace

from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.label.rows import Region
from fern_match.core.physics.fats import fat_columns
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

STATEMENT = "its statement"
_SUGARS = (Nutrient.SUCROSE, Nutrient.GLUCOSE, Nutrient.FRUCTOSE, Nutrient.LACTOSE, Nutrient.MALTOSE)
_SOLIDS = (Nutrient.COCOA_SOLIDS_NONFAT, Nutrient.MILK_SOLIDS_NONFAT)
_VEGAN_ORDER = {"no": 2, "check": 1, "yes": 0}
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
    fat = figures.get(Nutrient.FAT) or 0.0
    fats = {column: _mean(parts, shares, column) for column in fat_columns().values()}
    _split(figures, origins, fats, fat, _mean(parts, shares, Nutrient.FAT))
    sugars = {column: _mean(parts, shares, column) for column in _SUGARS}
    _split(figures, origins, sugars, figures.get(Nutrient.SUGARS) or 0.0, sum(sugars.values()))
    for column in _SOLIDS:
        figures[column] = min(_mean(parts, shares, column), 100.0)
        origins[column] = STATEMENT
    sweet = sum((part.sweetness or 0.0) * share for part, share in zip(parts, shares, strict=True))
    return replace(
        food,
        per_100_g=figures,
        origins=origins,
        sweetness=round(sweet, 3),
        allergens=tuple(sorted({name for part in parts for name in part.allergens})),
        vegan=max((part.vegan for part in parts), key=lambda word: _VEGAN_ORDER.get(word, 1)),
        note="Composition estimated from the panel and the statement on its packet; not a full analysis.",
    )


def _shares(parts: Sequence[Ingredient], percents: dict[str, float]) -> list[float]:
    """How much of each there probably is [g/g]: as printed, else falling in the statement's order."""
    rest = 1 - sum(percents.get(part.id, 0.0) for part in parts)
    weights = [0.0 if part.id in percents else _FALLS**number for number, part in enumerate(parts)]
    total = sum(weights) or 1.0
    return [percents.get(part.id, max(0.0, rest) * weight / total) for part, weight in zip(parts, weights, strict=True)]


def _mean(parts: Sequence[Ingredient], shares: Sequence[float], column: Nutrient) -> float:
    return sum((part.per_100_g.get(column) or 0.0) * share for part, share in zip(parts, shares, strict=True))


def _split(
    figures: dict[Nutrient, float | None], origins: dict[Nutrient, str], kinds: dict[Nutrient, float], whole: float, theirs: float
) -> None:
    """Shares a figure of the panel out among its kinds, as the statement's parts have them."""
    for column, amount in kinds.items():
        figures[column] = round(whole * amount / theirs, 2) if theirs > 0 else 0.0
        origins[column] = STATEMENT
