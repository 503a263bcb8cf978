"""The pantry: ingredients with their composition, read from `data/ingredients.csv`."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache

from fern_match.core.data import rows
from fern_match.core.errors import MissingValue, NotKnown
from fern_match.core.food.nutrients import Nutrient


@dataclass(frozen=True, slots=True, kw_only=True)
class Ingredient:
    """One thing a confectioner buys, and what 100 g of it hold."""

    id: str
    name: str
    category: str
    label_names: tuple[str, ...]
    per_100_g: Mapping[Nutrient, float | None]  # g or mg as the nutrient's name says; None is unknown, never zero
    polyol_kind: str | None
    density_g_ml: float | None  # as measured in a cup or spoon
    piece_g: float | None  # of one piece as `piece_name` says: an egg, a date, a stick of butter
    piece_name: str | None
    vegan: str  # yes, no, or check (depends on the maker)
    allergens: tuple[str, ...]
    note: str

    def amount(self, nutrient: Nutrient) -> float:
        """Grams (or milligrams, as the nutrient's name says) of a nutrient in 100 g.

        Args:
            nutrient: Which one.

        Raises:
            MissingValue: the table has no figure.
        """
        value = self.per_100_g[nutrient]
        if value is None:
            raise MissingValue(nutrient.value, self.name)
        return value

    def knows(self, nutrient: Nutrient) -> bool:
        """Whether the table has a figure for a nutrient.

        Args:
            nutrient: Which one.
        """
        return self.per_100_g[nutrient] is not None


@dataclass(frozen=True, slots=True)
class Pantry:
    """Ingredients by id."""

    by_id: Mapping[str, Ingredient]

    def __getitem__(self, ingredient_id: str) -> Ingredient:
        try:
            return self.by_id[ingredient_id]
        except KeyError:
            raise NotKnown("ingredient", ingredient_id) from None

    def __contains__(self, ingredient_id: object) -> bool:
        return ingredient_id in self.by_id

    def all(self) -> Iterable[Ingredient]:
        """Every ingredient, in the table's order."""
        return self.by_id.values()


@cache
def standard_pantry() -> Pantry:
    """The pantry that ships with the product: typical values, recalled and not measured (data/README.md)."""
    return Pantry({row["id"]: _ingredient(row) for row in rows("ingredients.csv")})


def _ingredient(row: Mapping[str, str]) -> Ingredient:
    return Ingredient(
        id=row["id"],
        name=row["name"],
        category=row["category"],
        label_names=tuple(name for name in row["label_names"].split("|") if name),
        per_100_g={nutrient: float(row[nutrient]) if row[nutrient] else None for nutrient in Nutrient},
        polyol_kind=row["polyol_kind"] or None,
        density_g_ml=float(row["density_g_ml"]) if row["density_g_ml"] else None,
        piece_g=float(row["piece_g"]) if row["piece_g"] else None,
        piece_name=row["piece_name"] or None,
        vegan=row["vegan"],
        allergens=tuple(allergen for allergen in row["allergens"].split("|") if allergen),
        note=row["note"],
    )
