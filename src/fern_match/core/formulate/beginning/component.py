"""A layer of one's own as an ingredient: a caramel, a spread, to be used in any match."""

from collections.abc import Collection

from fern_match.core.errors import CoreError
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.food.together import allergens_of, vegan_of
from fern_match.core.formulate.record.formula import FormulaLayer
from fern_match.core.record import fresh_id

COMPONENT = "own component"


class NothingToKeep(CoreError):
    """A layer that weighs nothing."""

    def __str__(self) -> str:
        return "This layer weighs nothing yet, so there is nothing to keep as an ingredient."


def component_of(layer: FormulaLayer, name: str, pantry: Pantry, taken: Collection[str]) -> Ingredient:
    """A finished layer as an ingredient, per 100 g; a figure that one of its lines lacks is unknown.

    Args:
        layer: As read.
        name: What it is to be called.
        pantry: Compositions of its lines.
        taken: Ids that other ingredients have.

    Raises:
        NothingToKeep: the layer weighs nothing.

    Source: arithmetic; water less what is driven off, everything else stays.
    """
    finished = layer.finished_g
    if finished <= 0:
        raise NothingToKeep
    used = [one for one in layer.ingredients if one.there]
    lines = [(pantry[one.ingredient_id], one.grams) for one in used if one.ingredient_id in pantry]
    whole = len(lines) == len(used) and not any(one.unread for one in used)  # else nothing is known of some of it
    foods = [food for food, _ in lines]
    figures: dict[Nutrient, float | None] = {}
    for nutrient in Nutrient:
        known = whole and all(food.knows(nutrient) for food in foods)
        total = sum((food.per_100_g.get(nutrient) or 0.0) * grams for food, grams in lines)
        if nutrient is Nutrient.WATER:
            total -= 100 * layer.water_lost_g
        figures[nutrient] = round(max(0.0, total) / finished, 4) if known else None
    money = whole and all(food.price_per_kg is not None for food in foods)
    sweet = whole and all(food.sweetness is not None for food in foods)
    allergens, vegan = allergens_of(foods), vegan_of(foods, strangers=not whole)
    made = ", ".join(food.name.split(",")[0] for food, _ in sorted(lines, key=lambda pair: -pair[1]))
    return Ingredient(
        id=fresh_id(f"own {name}", taken),
        name=name.strip()[:120] or layer.name,
        category=COMPONENT,
        label_names=(name.strip().lower()[:120],) if name.strip() else (),
        per_100_g=figures,
        sweetness=round(sum((food.sweetness or 0.0) * grams for food, grams in lines) / finished, 4) if sweet else None,
        vegan=vegan,
        allergens=allergens.holds,
        allergens_known=whole and allergens.known,
        functions=(),
        price_per_kg=round(1000 * sum((food.price_per_kg or 0.0) * grams / 1000 for food, grams in lines) / finished, 2)
        if money
        else None,
        note=f"Your own, finished: {made}."[:2000],
    )
