"""The house: what belongs to the user and not to one match. Its parts are kept, undone and told as a match's are."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from typing import Annotated, ClassVar

from fern_match.core.food import Ingredient, Pantry
from fern_match.core.food.sound import NotSound, check_ingredient
from fern_match.core.kitchen import Gear, Kitchen, Wrap
from fern_match.core.record import STRICT, Count, told
from fern_match.core.record.parts import PartKey


@dataclass(frozen=True, slots=True, kw_only=True)
class House:
    """Each field holds one kind of part: the kitchen, and the ingredients that were added or changed."""

    __pydantic_config__: ClassVar = STRICT

    kitchen: Kitchen = told("kitchen", factory=Kitchen)
    # added to the pantry that ships with the product, or in place of one of its rows
    ingredients: Annotated[tuple[Ingredient, ...], Count(2000)] = told(
        "ingredients", label="{name}", noun="ingredient", default=()
    )


def with_ingredients(house: House, foods: Sequence[Ingredient], pantry: Pantry) -> House:
    """A house with ingredients added, or in the place of those it has: the one door, whether they come from a sheet, a packet, a
    component or a file. What is as it shipped is not kept.

    Args:
        house: As it is.
        foods: As they are to be.
        pantry: That ships with the product.

    Raises:
        NotSound: figures of one cannot be true together.
    """
    for food in foods:
        check_ingredient(food)
    fresh = {food.id: food for food in foods}
    kept = [fresh.pop(food.id, food) for food in house.ingredients]
    return replace(house, ingredients=tuple(food for food in (*kept, *fresh.values()) if pantry.by_id.get(food.id) != food))


def with_gear(house: House, gear: Sequence[Gear], wraps: Sequence[Wrap]) -> House:
    """A house whose kitchen has gear and wrapping that came with a match; what it has by the same id stays as it is.

    Args:
        house: As it is.
        gear: That came along.
        wraps: That came along.
    """
    own = house.kitchen
    there = {*(one.id for one in own.gear), *(one.id for one in own.wraps)}
    further = tuple(one for one in gear if one.id not in there)
    wrapping = tuple(one for one in wraps if one.id not in there)
    if not further and not wrapping:
        return house
    return replace(house, kitchen=replace(own, gear=(*own.gear, *further), wraps=(*own.wraps, *wrapping)))


def unsound_ingredients(house: House) -> list[PartKey]:
    """The ingredients whose figures cannot be true together, as two changes may make them."""
    found = []
    for food in house.ingredients:
        try:
            check_ingredient(food)
        except NotSound:
            found.append(PartKey("ingredients", food.id))
    return found


def on_shipped_rows(base: House, sides: Collection[House], pantry: Pantry) -> House:
    """A house in which rows that others lay over the shipped pantry stand as they shipped: what two changes of one are made on.

    Args:
        base: Before both changes.
        sides: After each of them.
        pantry: That ships with the product.
    """
    known = {food.id for food in base.ingredients}
    laid_over = {food.id for side in sides for food in side.ingredients if food.id in pantry and food.id not in known}
    everywhere = [key for key in laid_over if all(any(food.id == key for food in side.ingredients) for side in sides)]
    return replace(base, ingredients=(*base.ingredients, *(pantry[key] for key in sorted(everywhere))))
