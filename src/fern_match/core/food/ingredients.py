"""The pantry: ingredients with their composition, read from `data/ingredients.csv`."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from functools import cache, cached_property
from typing import Annotated, Any, ClassVar

from fern_match.core.data import rows
from fern_match.core.errors import MissingValue, NotKnown
from fern_match.core.food.nutrients import Nutrient
from fern_match.core.record import STRICT, Count, Signs, digest, told
from fern_match.core.record.texts import Cell, Key, Name


@dataclass(frozen=True, slots=True, kw_only=True)
class Ingredient:
    """One thing a confectioner buys, and what 100 g of it hold."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    name: Name = told("name")
    category: Name = told("category")
    label_names: Annotated[tuple[Cell, ...], Count(60)] = told("names on labels", default=())
    # g or mg as the nutrient's name says; None is unknown, never zero
    per_100_g: Annotated[Mapping[Nutrient, float | None], Count(60)] = told("{0} in 100 g", keys=("nutrient",), factory=dict)
    polyol_kind: Name | None = told("kind of polyol", default=None)
    sweetness: float | None = told("sweetness", default=None)  # relative to sucrose at equal mass
    density_g_ml: float | None = told("density", default=None)  # as measured in a cup or spoon
    piece_g: float | None = told("weight of a piece", default=None)  # as `piece_name` says: an egg, a date, a stick of butter
    piece_name: Name | None = told("name of a piece", default=None)
    vegan: Name = told("vegan", default="check")  # yes, no, or check (depends on the maker)
    allergens: Annotated[tuple[Name, ...], Count(30)] = told("allergens", default=())
    allergens_known: bool = told("allergens are all known", default=False)  # else there may be others: silence is not "none"
    functions: Annotated[tuple[Name, ...], Count(30)] = told("functions", default=())  # what it can do in a recipe
    price_per_kg: float | None = told("price per kg", default=None)  # typical, in euros or dollars: a starting point
    note: Annotated[str, Signs(2000)] = told("note", default="")
    # where a figure comes from that is not the table's: a packet, a statement, the user
    origins: Annotated[Mapping[Nutrient, Name], Count(60)] = told(
        "origin of {0}", keys=("nutrient",), silent="it goes with its figure", factory=dict
    )

    @property
    def pours(self) -> bool:
        """Whether it is thin enough to drip: half of it or more is water and alcohol."""
        return sum(self.per_100_g.get(part) or 0.0 for part in (Nutrient.WATER, Nutrient.ALCOHOL)) >= 50.0

    def amount(self, nutrient: Nutrient) -> float:
        """Grams (or milligrams, as the nutrient's name says) of a nutrient in 100 g.

        Raises:
            MissingValue: the table has no figure.
        """
        value = self.per_100_g.get(nutrient)
        if value is None:
            raise MissingValue(nutrient.value, self.name)
        return value

    def knows(self, nutrient: Nutrient) -> bool:
        """Whether the table has a figure for a nutrient."""
        return self.per_100_g.get(nutrient) is not None


@dataclass(frozen=True)
class Pantry:
    """Ingredients by id."""

    by_id: Mapping[str, Ingredient]

    def __reduce__(self) -> tuple[Any, ...]:
        """Sent by what it is made of, without what was worked out of it."""
        return Pantry, (self.by_id,)

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

    @cached_property
    def key(self) -> str:
        """A fingerprint of every figure, for results that rest on them."""
        return digest({key: _digest(food) for key, food in self.by_id.items()})

    def with_own(self, own: Iterable[Ingredient]) -> "Pantry":
        """This pantry with ingredients added, or in the place of those it has."""
        laid = {food.id: food for food in own if self.by_id.get(food.id) != food}
        return Pantry({**self.by_id, **laid}) if laid else self

    def with_pinned(self, pinned: Iterable[Ingredient]) -> "Pantry":
        """This pantry, but with a match's own compositions where it has pinned them; prices are always today's."""
        return self.with_own(
            replace(food, price_per_kg=self.by_id[food.id].price_per_kg) if food.id in self.by_id else food for food in pinned
        )


_DIGESTS: dict[int, tuple[Ingredient, str]] = {}  # by identity, with what it is the identity of, so that it stays its own
_MOST_DIGESTS = 10_000


def _digest(food: Ingredient) -> str:
    """The fingerprint of an ingredient, worked out once: the same records are asked about with every request."""
    known = _DIGESTS.get(id(food))
    if known is None:
        if len(_DIGESTS) >= _MOST_DIGESTS:
            _DIGESTS.clear()
        known = _DIGESTS[id(food)] = (food, digest(food))
    return known[1]


@cache
def standard_pantry() -> Pantry:
    """The pantry that ships with the product: typical values, recalled and not measured (data/README.md)."""
    return Pantry({row["id"]: _ingredient(row) for row in rows("ingredients.csv")})


@cache
def asked_of_makers() -> Mapping[str, tuple[str, ...]]:
    """Ingredient id -> allergens that some makers' versions of it hold: of these not all is known until one has read the packet.

    Source: data/may_hold.csv, usual recipes of such goods (fair).
    """
    return {key: tuple(row["may_hold"].split("|")) for row in rows("may_hold.csv") for key in row["ingredients"].split("|")}


def _ingredient(row: Mapping[str, str]) -> Ingredient:
    return Ingredient(
        id=row["id"],
        name=row["name"],
        category=row["category"],
        label_names=_listed(row["label_names"]),
        per_100_g={nutrient: _figure(row[nutrient]) for nutrient in Nutrient},
        polyol_kind=row["polyol_kind"] or None,
        sweetness=_figure(row["sweetness"]),
        density_g_ml=_figure(row["density_g_ml"]),
        piece_g=_figure(row["piece_g"]),
        piece_name=row["piece_name"] or None,
        vegan=row["vegan"],
        allergens=_listed(row["allergens"]),
        allergens_known=row["id"] not in asked_of_makers(),
        functions=_listed(row["functions"]),
        price_per_kg=_figure(row["typical_price_per_kg"]),
        note=row["note"],
    )


def _figure(text: str) -> float | None:
    return float(text) if text else None


def _listed(text: str) -> tuple[str, ...]:
    return tuple(entry for entry in text.split("|") if entry)
