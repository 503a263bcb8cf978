"""What must be said to whoever gets a piece, by region: sweeteners, polyols, alcohol, caffeine, glycerol, a coat's name.

Worked example: 14 g of maltitol in a piece of 40 g are 35 g in 100 g; in the EU a pack says "excessive consumption may produce
laxative effects" from 10, and that it is made with sweeteners.
"""

from collections.abc import Mapping
from functools import cache

from fern_match.core.data import rows
from fern_match.core.families import Families
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.formulate.record.formula import Formula, FormulaLayer
from fern_match.core.formulate.record.properties import fat_by_kind
from fern_match.core.label.claims import polyol_words
from fern_match.core.label.rows import Region

_SWEETENERS = frozenset({"intense-sweetener", "polyol"})
_OTHER_FATS = frozenset({"lauric fat", "palm fat", "shea fat", "hardened fat"})  # kinds that are of neither cocoa nor milk
_SUGAR_FREE = 0.005  # g/g
_PER_CENT = 100.0


def polyols_by_kind(formula: Formula, pantry: Pantry) -> Mapping[str, float]:
    """Polyols in 100 g of the finished piece by kind [g]; empty where the piece weighs nothing."""
    found: dict[str, float] = {}
    for layer in formula.layers:
        for one in layer.ingredients:
            food = pantry.by_id.get(one.ingredient_id)
            grams = one.grams * (food.per_100_g.get(Nutrient.POLYOLS) or 0.0) / 100 if food is not None else 0.0
            if food is not None and grams > 0:
                kind = food.polyol_kind or "others"
                found[kind] = found.get(kind, 0.0) + 100 * grams / formula.piece_g if formula.piece_g > 0 else 0.0
    return found


def to_say(formula: Formula, region: Region, serving_g: float | None, pantry: Pantry, families: Families) -> tuple[str, ...]:
    """Sentences for a card, a pack or a table, with the law or the reason each rests on.

    Args:
        formula: As read.
        region: Whose rules.
        serving_g: What a serving weighs [g]; None where nobody says.
        pantry: Compositions.
        families: For what coats.

    Source: data/to_say.csv and polyol_warnings.csv, each with its law; verify the current text, and ask a qualified person.
    """
    if formula.piece_g <= 0:
        return ()
    used: dict[str, float] = {}
    for layer in formula.layers:
        for line in layer.ingredients:
            if line.grams > 0 and line.ingredient_id in pantry:
                used[line.ingredient_id] = used.get(line.ingredient_id, 0.0) + line.grams
    foods = [(pantry[key], grams) for key, grams in used.items()]
    in_100_g = 100 / formula.piece_g
    found = [f"Say on the pack: “{said}”." for said in polyol_words(region, polyols_by_kind(formula, pantry), serving_g)]
    for row in _rows():
        if row["regions"] and region.value not in row["regions"].split("|"):
            continue
        grams = _of(row["what"], foods)
        if grams * in_100_g > float(row["from_g"]) and (row["what"] != "both" or grams > 0):
            found.append(row["words"].format(piece=grams, mg=1000 * grams))
    found += [said for layer in formula.layers for said in _no_chocolate(layer, region, pantry, families)]
    return tuple(dict.fromkeys(found))


def _of(what: str, foods: list[tuple[Ingredient, float]]) -> float:
    """Grams in a piece of what a row is about."""
    match what:
        case "sweeteners":
            sweet = sum(grams for food, grams in foods if food.category in _SWEETENERS or food.polyol_kind is not None)
            return sweet if not _is_sugared(foods) else 0.0
        case "both":
            sweet = sum(grams for food, grams in foods if food.category in _SWEETENERS or food.polyol_kind is not None)
            return sweet if _is_sugared(foods) else 0.0
        case "added sugars":
            return sum(grams * (food.per_100_g.get(Nutrient.ADDED_SUGARS) or 0.0) / 100 for food, grams in foods)
        case "alcohol":
            return sum(grams * (food.per_100_g.get(Nutrient.ALCOHOL) or 0.0) / 100 for food, grams in foods)
        case "glycerol":
            return sum(grams for food, grams in foods if "glycerol" in food.id)
        case "caffeine":
            return sum(grams * _caffeine().get(food.id, 0.0) for food, grams in foods)
        case _:
            return sum(grams for food, grams in foods if food.id == what)


def _is_sugared(foods: list[tuple[Ingredient, float]]) -> bool:
    """Whether sugar is added in more than what “sugar free” leaves."""
    return _of("added sugars", foods) > _SUGAR_FREE * sum(grams for _, grams in foods)


def _no_chocolate(layer: FormulaLayer, region: Region, pantry: Pantry, families: Families) -> list[str]:
    """That a coat may not be called chocolate, for the fat it holds beside cocoa butter and milk fat."""
    family = families.by_id.get(layer.family)
    if family is None or family.place != "coat" or "compound" in family.id or layer.added_g <= 0:
        return []
    other = sum(grams for kind, grams in fat_by_kind([layer], pantry).items() if kind in _OTHER_FATS)
    bought = any(
        pantry[line.ingredient_id].category == "chocolate" and line.grams > layer.added_g / 2
        for line in layer.ingredients
        if line.ingredient_id in pantry
    )
    most = 0.05 if region in {Region.EU, Region.UK, Region.AU} else 0.01
    if bought or other <= most * layer.added_g:
        return []
    share = f"{_PER_CENT * other / layer.added_g:.0f} % of {layer.name}"
    return [f"{share} is fat of neither cocoa nor milk: it may not be called chocolate. Say “coating”."]


@cache
def _rows() -> tuple[dict[str, str], ...]:
    return tuple(rows("to_say.csv"))


@cache
def _caffeine() -> Mapping[str, float]:
    """Caffeine of a gram [g/g]."""
    return {"instant-coffee-powder": 0.032, "ground-coffee": 0.012, "matcha-powder": 0.03, "guarana-powder": 0.04}
