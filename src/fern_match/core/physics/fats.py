"""Fat by kind: how much of it is solid at a temperature, and what share of another kind a fat takes.

Worked example: 80 g cocoa butter with 20 g milk fat: 0.8 x 76 + 0.2 x 20 = 64.8 % solid at 20 C.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from fern_match.core.data import rows
from fern_match.core.errors import NotKnown
from fern_match.core.food import Ingredient, Nutrient

LIQUID_OIL = "liquid oil"
COCOA_BUTTER, LAURIC = "cocoa butter", "lauric fat"
TEMPERATURES = (10, 20, 25, 30, 35)
_MIXED = 0.05  # share of either from which lauric fat and cocoa butter do not add up


@dataclass(frozen=True, slots=True)
class FatLimit:
    """What share of another fat a fat takes, of all fat [g/g]."""

    in_fat: str
    other: str
    fine_to: float
    soft_to: float
    fails: str
    what: str


@cache
def fat_columns() -> Mapping[str, Nutrient]:
    """The kinds of fat that the composition table tells apart; what is left of the fat is liquid oil."""
    return {row["kind"]: Nutrient(row["column"]) for row in rows("solid_fat.csv")}


def fat_kinds_per_100_g(food: Ingredient) -> dict[str, float]:
    """Fat of 100 g of an ingredient by kind, liquid oil included [g]; a kind the table does not know counts as liquid oil."""
    kinds = {kind: food.per_100_g.get(column) or 0.0 for kind, column in fat_columns().items()}
    kinds[LIQUID_OIL] = max(0.0, (food.per_100_g.get(Nutrient.FAT) or 0.0) - sum(kinds.values()))
    return kinds


def solid_share(kind: str, temp_c: int) -> float:
    """Share of a kind of fat that is solid [g/g], tempered where it matters.

    Args:
        kind: As in `fat_columns`, or liquid oil.
        temp_c: 10, 20, 25, 30 or 35 degrees Celsius.

    Raises:
        NotKnown: the table has no such kind or temperature.

    Source: data/solid_fat.csv (approximate).
    """
    if kind == LIQUID_OIL:
        return 0.0
    try:
        return _solids()[kind][temp_c]
    except KeyError:
        raise NotKnown("fat at a temperature", f"{kind}, {temp_c} °C") from None


def solid_fat_g(kinds: Mapping[str, float], temp_c: int) -> float | None:
    """Solid fat of a blend [g]; None where lauric fat and cocoa butter mix, for which the rule of shares is wrong.

    Args:
        kinds: Kind -> grams.
        temp_c: As `solid_share`.

    Source: shares add up within 5 points for cocoa butter with up to 30 % milk fat or oil (approximate).

    >>> round(solid_fat_g({"cocoa butter": 80.0, "milk fat": 20.0}, 20), 2)
    64.8
    """
    if not adds_up(kinds):
        return None
    return sum(grams * solid_share(kind, temp_c) for kind, grams in kinds.items() if grams)


def adds_up(kinds: Mapping[str, float]) -> bool:
    """Whether solid shares of a blend may be added: not where lauric fat and cocoa butter mix."""
    total = sum(kinds.values())
    if total <= 0:
        return True
    return min(kinds.get(COCOA_BUTTER, 0.0), kinds.get(LAURIC, 0.0)) / total <= _MIXED


@cache
def fat_limits() -> tuple[FatLimit, ...]:
    """Shares of other fats that a fat takes, of all fat.

    Source: data/fat_limits.csv (approximate).
    """
    return tuple(
        FatLimit(row["in_fat"], row["other"], float(row["fine_to"]), float(row["soft_to"]), row["fails"], row["what"])
        for row in rows("fat_limits.csv")
    )


@cache
def _solids() -> Mapping[str, Mapping[int, float]]:
    return {row["kind"]: {temp: float(row[f"solid_at_{temp}c"]) for temp in TEMPERATURES} for row in rows("solid_fat.csv")}
