"""The house: what belongs to the user and not to one match. Its parts are kept, undone and told as a match's are."""

from dataclasses import dataclass
from typing import Annotated, ClassVar

from fern_match.core.food import Ingredient
from fern_match.core.kitchen import Kitchen
from fern_match.core.record import STRICT, Count, told


@dataclass(frozen=True, slots=True, kw_only=True)
class House:
    """Each field holds one kind of part: the kitchen, and the ingredients that were added or changed."""

    __pydantic_config__: ClassVar = STRICT

    kitchen: Kitchen = told("kitchen", factory=Kitchen)
    # added to the pantry that ships with the product, or in place of one of its rows
    ingredients: Annotated[tuple[Ingredient, ...], Count(2000)] = told(
        "ingredients", label="{name}", noun="ingredient", default=()
    )
