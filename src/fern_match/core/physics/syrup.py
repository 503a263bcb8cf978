"""Where a syrup boils, and how much water is left in it at a temperature: both ways.

Worked example: 600 g sugar, 500 g glucose syrup of 80 % solids and 150 g water, boiled to 120 °C at sea level: the dissolved
solids are 60 sugar : 40 syrup, of which 89.26 % are solids at that heat, so 1000 / 0.8926 = 1120.3 g are left of 1250 g.
"""

from bisect import bisect_right
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from math import log

from fern_match.core.data import rows
from fern_match.core.errors import check_range
from fern_match.core.food import Ingredient, Nutrient
from fern_match.core.physics.water_activity import norrish, solutes_per_100_g

_NORRISH_TO = 0.85  # solids, up to which Norrish tells a mixture from sucrose
_ALIKE_FROM = 0.97  # from here all sugars boil alike
_MOST = 0.995
_HALVINGS = 60
_SUCROSE = {"sucrose": 1.0}
_WATER_BOILS_C = 100.0
_DRIEST = 0.99
_NEEDED = (Nutrient.WATER, Nutrient.SUGARS)


@dataclass(frozen=True, slots=True, kw_only=True)
class Syrup:
    """What foods make together in a pan [g]."""

    dissolved: Mapping[str, float]  # solute of data/solutes.csv -> grams
    water_g: float
    total_g: float
    known: bool  # whether it is known of all of them how much water and sugar they hold


def syrup_of(foods: Iterable[tuple[Ingredient | None, float]]) -> Syrup:
    """What foods make together in a pan.

    Args:
        foods: Each with its grams; None of one that nobody knows.
    """
    dissolved: dict[str, float] = {}
    water = total = 0.0
    known = True
    for food, grams in foods:
        total += grams
        if grams > 0 and (food is None or any(food.per_100_g.get(what) is None for what in _NEEDED)):
            known = False
        if food is None:
            continue
        water += grams / 100 * (food.per_100_g.get(Nutrient.WATER) or 0.0)
        for name, per_100_g in solutes_per_100_g(food).items():
            dissolved[name] = dissolved.get(name, 0.0) + grams / 100 * per_100_g
    return Syrup(dissolved=dissolved, water_g=water, total_g=total, known=known)


@cache
def _table() -> tuple[tuple[float, ...], tuple[float, ...]]:
    found = [(float(row["solids_pct"]) / 100, float(row["boils_c"])) for row in rows("boiling_sucrose.csv")]
    return tuple(one for one, _ in found), tuple(other for _, other in found)


def sucrose_boils_c(solids: float) -> float:
    """Where a solution of pure sucrose boils at sea level [degC].

    Args:
        solids: Share of sucrose [g/g], 0 to 0.995; beyond the table's last point its last slope goes on.

    Raises:
        OutOfRange: solids is outside.

    Accuracy: 0.3 degC to 75 %, 1 to 85 %, 2 to 92 %, 4 above (approximate).
    Source: data/boiling_sucrose.csv, smoothed from published values of the kind in Bates (1942), Pancoast and Junk (1980).

    >>> sucrose_boils_c(0.85)
    116.0
    """
    check_range("solids", solids, 0.0, _MOST)
    shares, heats = _table()
    at = min(bisect_right(shares, solids), len(shares) - 1)
    low, high = shares[at - 1], shares[at]
    return heats[at - 1] + (heats[at] - heats[at - 1]) * (solids - low) / (high - low)


def boils_c(dissolved: Mapping[str, float], solids: float) -> float:
    """Where a syrup of mixed solutes boils at sea level [degC].

    Args:
        dissolved: Solute of data/solutes.csv -> grams, in any unit: only their ratio counts; not empty.
        solids: Dissolved share of the water phase [g/g], 0 to 0.995.

    Raises:
        OutOfRange: solids is outside.

    Accuracy: 1.5 degC to 85 %, 4 above (approximate).
    Source: 100 + (sucrose's elevation) times the ratio of Norrish's ln a_w; that ratio fades to 1 between 85 and 97 %.

    >>> round(boils_c({"sucrose": 60, "glucose syrup 42 DE": 40}, 0.80), 1)
    109.7
    """
    plain = sucrose_boils_c(solids)
    return _WATER_BOILS_C + (plain - _WATER_BOILS_C) * _factor(dissolved, solids)


def boils_with_c(dissolved: Mapping[str, float], water_g: float) -> float | None:
    """Where a pan boils at sea level with so much water left in it [degC]; None where nothing is dissolved, or no water is left.

    Args:
        dissolved: Solute -> grams.
        water_g: Left in the pan [g].

    Accuracy: as `boils_c`; beyond 99 % solids that of 99 %.
    """
    solids = sum(dissolved.values())
    if solids <= 0 or water_g <= 0:
        return None
    return boils_c(dissolved, min(_DRIEST, solids / (solids + water_g)))


def _factor(dissolved: Mapping[str, float], solids: float) -> float:
    if solids <= 0.01 or solids >= _ALIKE_FROM:
        return 1.0
    if solids <= _NORRISH_TO:
        return _log(dissolved, solids) / _log(_SUCROSE, solids)
    edge = _log(dissolved, _NORRISH_TO) / _log(_SUCROSE, _NORRISH_TO)
    return 1 + (edge - 1) * (_ALIKE_FROM - solids) / (_ALIKE_FROM - _NORRISH_TO)


def _log(dissolved: Mapping[str, float], solids: float) -> float:
    total = sum(dissolved.values())
    return log(norrish({name: grams / total for name, grams in dissolved.items()}, (1 - solids) / solids))


def solids_at(dissolved: Mapping[str, float], temp_c: float) -> float:
    """Dissolved share of the water phase of a syrup that boils at a temperature at sea level [g/g].

    Args:
        dissolved: Solute -> grams; only their ratio counts; not empty.
        temp_c: 100 to 160 degrees Celsius.

    Raises:
        OutOfRange: temp_c is outside.

    Source: `boils_c`, inverted by bisection.

    >>> round(solids_at({"allulose": 1.0}, 118.0), 3)
    0.832
    """
    check_range("temperature", temp_c, 100.0, 160.0, unit="°C")
    low, high = 0.0, _MOST
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if boils_c(dissolved, middle) < temp_c else (low, middle)
    return (low + high) / 2


def mass_left_g(dissolved: Mapping[str, float], others_g: float, temp_c: float) -> float:
    """What is in the pan when a boil ends at a temperature [g].

    Args:
        dissolved: Solute -> grams in the pan; not empty.
        others_g: Fat, milk solids, fruit fibre: what is neither dissolved nor water [g], 0 or more.
        temp_c: As at sea level, 100 to 160 degrees Celsius.

    Raises:
        OutOfRange: temp_c is outside.

    >>> round(mass_left_g({"sucrose": 1000.0}, 0.0, 118.0), 1)
    1155.2
    """
    return sum(dissolved.values()) / solids_at(dissolved, temp_c) + others_g
