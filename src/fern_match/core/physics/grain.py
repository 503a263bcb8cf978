"""Whether sugar stays in solution or grains: supersaturation, crystals, and what keeps it from graining.

Worked example: 88 g sucrose in 12 g water at 20 C: 100 g of saturated solution hold 66.60 g, so 12 g of water hold 23.9 g; the
other 64.1 g are crystals in a fondant, or 3.68 times too much in a caramel.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache

from fern_match.core.data import rows
from fern_match.core.errors import check_range
from fern_match.core.food import Ingredient, Nutrient
from fern_match.core.physics.water_activity import sucrose_solubility

ROOM_C = 20.0
_HARD_FROM_C = 55.0  # of a dry glass: 2 % of water takes it down by 20 to 30
_SYRUPY = 12.0  # g water in 100 g
_MOSTLY = 50.0  # g in 100 g
_HOLDS_LESS = 0.25
_DOCTORS_FROM = 1.0  # g that a gram of water holds: a polyol of which it holds less grains itself, and keeps nothing smooth


class GrainRisk(StrEnum):
    """What is to be expected of a low-water candy."""

    GRAINS = "grains almost surely"
    WHEN_BEATEN = "grains when stirred"
    RISKY = "may grain on keeping"
    STABLE = "stays smooth"
    STICKY = "stays smooth, and flows"


_RISKS = ((0.08, GrainRisk.GRAINS), (0.20, GrainRisk.WHEN_BEATEN), (0.30, GrainRisk.RISKY), (0.60, GrainRisk.STABLE))


@dataclass(frozen=True, slots=True)
class Crystals:
    """How a polyol crystallises."""

    holds_g: float  # that a gram of water holds at room temperature
    cools_kj_kg: float  # heat its crystals take up as they dissolve
    glass_c: float  # up to which its glass is hard, dry [degC]


@cache
def crystals() -> Mapping[str, Crystals]:
    """Polyols by their kind.

    Source: data/polyols.csv (approximate).
    """
    return {
        row["polyol_kind"]: Crystals(float(row["holds_g"]), float(row["cools_kj_kg"]), float(row["glass_c"]))
        for row in rows("polyols.csv")
    }


def makes_no_glass(food: Ingredient) -> bool:
    """Whether a sweetener has no glass that is hard in a room, and keeps that of others from being so.

    Source: data/polyols.csv; allulose by its own glass, below 0 degC (approximate).
    """
    kind = crystals().get(food.polyol_kind or "")
    if kind is not None:
        return kind.glass_c < _HARD_FROM_C
    return (food.per_100_g.get(Nutrient.ALLULOSE) or 0.0) > _MOSTLY


def crystallises(food: Ingredient) -> float:
    """How much of an ingredient makes crystals where it is meant to grain: sucrose, and polyols that are no syrup [g/g].

    Source: data/polyols.csv; polydextrose, fibres, allulose and syrups stay smooth (common knowledge of the trade).
    """
    per = food.per_100_g
    dry = (per.get(Nutrient.WATER) or 0.0) < _SYRUPY and food.polyol_kind in crystals()
    return ((per.get(Nutrient.SUCROSE) or 0.0) + (per.get(Nutrient.POLYOLS) or 0.0) * dry) / 100


def grained_g(dissolved: Mapping[str, float], water_g: float) -> dict[str, float]:
    """Polyols of which there is more than the water holds, and how much of each may crystallise [g].

    Args:
        dissolved: Solute -> grams, polyols by their names.
        water_g: Of the finished layer, 0 or more.

    >>> {name: round(grams, 1) for name, grams in grained_g({"erythritol": 3.0, "maltitol": 2.0}, 2.0).items()}
    {'erythritol': 1.8}
    """
    over = {name: dissolved.get(name, 0.0) - one.holds_g * water_g for name, one in crystals().items()}
    return {name: grams for name, grams in over.items() if grams > 0}


def doctor_share(dissolved: Mapping[str, float]) -> float:
    """Solids other than sucrose of all sugar solids [g/g]; 1 where there is no sucrose.

    Polyols that grain by themselves, such as erythritol, keep no other sugar from it: they do not count.

    Args:
        dissolved: Solute -> grams, polyols by their names.
    """
    sucrose = dissolved.get("sucrose", 0.0)
    grain = {name for name, one in crystals().items() if one.holds_g < _DOCTORS_FROM}
    others = sum(grams for name, grams in dissolved.items() if name not in {"sucrose", "salt", "protein"} | grain)
    return others / (others + sucrose) if others + sucrose > 0 else 1.0


def grain_risk(share: float) -> GrainRisk:
    """What a share of doctor sugars means for a low-water candy.

    Args:
        share: As `doctor_share`, 0 to 1.

    Raises:
        OutOfRange: share is outside.

    Source: working rule of candy makers (approximate).
    """
    check_range("doctor share", share, 0.0, 1.0)
    return next((risk for limit, risk in _RISKS if share < limit), GrainRisk.STICKY)


def sucrose_in_solution_g(sucrose_g: float, water_g: float, share: float, temp_c: float = ROOM_C) -> float:
    """Sucrose that stays dissolved once crystals may form [g].

    Args:
        sucrose_g: 0 or more.
        water_g: 0 or more.
        share: Of doctor sugars, 0 to 1: they lower what a gram of water holds.
        temp_c: 0 to 100 degrees Celsius.

    Source: solubility by Vavrinecz; the lowering r (1 - 0.25 D) approximate.

    >>> round(88.0 - sucrose_in_solution_g(88.0, 12.0, 0.0), 1)
    64.1
    """
    holds = sucrose_solubility(temp_c)
    return min(sucrose_g, water_g * holds / (100 - holds) * (1 - _HOLDS_LESS * share))


def supersaturation(sucrose_g: float, water_g: float, temp_c: float = ROOM_C) -> float:
    """How many times more sucrose there is than the water holds.

    Args:
        sucrose_g: 0 or more.
        water_g: Above 0.
        temp_c: 0 to 100 degrees Celsius.

    Raises:
        OutOfRange: temp_c or the water is outside.
    """
    check_range("water", water_g, 1e-9, 1e9, unit="g")
    holds = sucrose_solubility(temp_c)
    return sucrose_g / water_g / (holds / (100 - holds))
