"""What must be said to whoever gets a piece, by region: sweeteners, polyols, alcohol, caffeine, glycerol, a coat's name.

Worked example: 14 g of maltitol in a piece of 40 g are 35 g in 100 g; in the EU a pack says "excessive consumption may produce
laxative effects" from 10, and that it is made with sweeteners.
"""

from collections.abc import Mapping

from fern_match.core.data import rows
from fern_match.core.families import Families
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.formulate.record.formula import Formula, FormulaLayer
from fern_match.core.formulate.record.properties import fat_by_kind
from fern_match.core.label.claims import polyol_words
from fern_match.core.label.rows import Region

_GLYCEROL = "glycerol"
_SWEETENERS = frozenset({"intense-sweetener", "polyol"})
_OTHER_FATS = frozenset({"lauric fat", "palm fat", "shea fat", "hardened fat"})  # kinds that are of neither cocoa nor milk
_SUGAR_FREE = 0.005  # g/g
_BOTH = frozenset({"sweeteners", "both"})  # that hang on what else is in it
_IN_GRAMS = 0.1
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
    foods, open_ = _foods(formula, pantry)
    in_100_g = 100 / formula.piece_g
    found = [f"Say on the pack: “{said}”." for said in polyol_words(region, polyols_by_kind(formula, pantry), serving_g)]
    for row in rows("to_say.csv"):
        if row["regions"] and region.value not in row["regions"].split("|"):
            continue
        grams = _of(row["what"], foods)
        if grams * in_100_g > float(row["from_g"]):
            found.append(row["words"].format(how_much=_how_much(grams * float(row["share"]))))
        elif row["what"] not in _BOTH and _of(row["what"], [(food, 1.0) for food in open_]) > 0:
            found.append(row["words"].format(how_much="how much is not known"))
    found += [said for layer in formula.layers for said in _no_chocolate(layer, region, pantry, families)]
    return tuple(dict.fromkeys(found))


def _of(what: str, foods: list[tuple[Ingredient, float]]) -> float:
    """Grams in a piece of what a row is about."""
    match what:
        case "sweeteners" | "both":
            sweet = sum(grams for food, grams in foods if _sweetens(food))
            return sweet if _is_sugared(foods) is (what == "both") else 0.0
        case "added sugars":
            return sum(grams * (food.per_100_g.get(Nutrient.ADDED_SUGARS) or 0.0) / 100 for food, grams in foods)
        case "alcohol":
            return sum(grams * (food.per_100_g.get(Nutrient.ALCOHOL) or 0.0) / 100 for food, grams in foods)
        case "glycerol":
            return sum(grams for food, grams in foods if food.category == "polyol" and food.polyol_kind == _GLYCEROL)
        case _:
            return sum(grams for food, grams in foods if food.id == what or what in food.name.lower())


def _sweetens(food: Ingredient) -> bool:
    """Whether a sweetener is in it by law: glycerol is none (E 422 keeps moist), nor what an emulsifier has of it."""
    return (food.category in _SWEETENERS or food.polyol_kind is not None) and food.polyol_kind != _GLYCEROL


def _how_much(grams: float) -> str:
    return f"about {grams:.1f} g a piece" if grams >= _IN_GRAMS else f"about {1000 * grams:.0f} mg a piece"


def _foods(formula: Formula, pantry: Pantry) -> tuple[list[tuple[Ingredient, float]], list[Ingredient]]:
    """What is in a piece with its grams, and what is in it in an amount that is open or was not read."""
    used: dict[str, float] = {}
    open_: list[Ingredient] = []
    for line in (line for layer in formula.layers for line in layer.ingredients if line.ingredient_id in pantry):
        if line.unread:
            open_.append(pantry[line.ingredient_id])
        elif line.grams > 0:
            used[line.ingredient_id] = used.get(line.ingredient_id, 0.0) + line.grams
    return [(pantry[key], grams) for key, grams in used.items()], open_


def _is_sugared(foods: list[tuple[Ingredient, float]]) -> bool:
    """Whether sugar is added in more than what “sugar free” leaves."""
    return _of("added sugars", foods) > _SUGAR_FREE * sum(grams for _, grams in foods)


def _no_chocolate(layer: FormulaLayer, region: Region, pantry: Pantry, families: Families) -> list[str]:
    """That a coat may not be called chocolate, for the fat it holds beside cocoa butter and milk fat."""
    family = families.by_id.get(layer.family)
    if family is None or family.place != "coat" or "compound" in family.sorts or layer.added_g <= 0:
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
