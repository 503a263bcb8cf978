"""Water activity of a syrup phase by the usual models, and which of them speak where.

Worked example: 67 g sucrose in 33 g water: n = 100 x 67 / 342.3 / 33 = 0.593 mol per 100 g water, so by Money and Born
1 / (1 + 0.27 x 0.593) = 0.862. Only what is dissolved counts.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from fern_match.core.data import rows
from fern_match.core.errors import check_range
from fern_match.core.food import Ingredient, Nutrient
from fern_match.core.food.nutrients import salt_g

WATER_MOLAR_G = 18.015
_SALT, _PROTEIN = "salt", "protein"
_SALT_MOLAR_G, _SALT_GROVER, _PROTEIN_GROVER = 58.44, 9.0, 1.3
_MARGIN = 0.02  # added to the highest model, so that it errs on the safe side
_DRIEST = 0.65  # below it no model speaks
_SUGARS = (Nutrient.SUCROSE, Nutrient.GLUCOSE, Nutrient.FRUCTOSE, Nutrient.LACTOSE, Nutrient.MALTOSE)


@dataclass(frozen=True, slots=True)
class Solute:
    """A dissolved thing."""

    name: str
    molar_g: float
    norrish_k: float
    grover: float


@cache
def solutes() -> Mapping[str, Solute]:
    """What counts as dissolved, by name.

    Source: Norrish constants by Chirife et al. (1980), Grover's by Grover (1947); syrup dextrins approximate.
    """
    return {
        row["solute"]: Solute(row["solute"], float(row["molar_g"]), float(row["norrish_k"]), float(row["grover"]))
        for row in rows("solutes.csv")
    }


def solutes_per_100_g(food: Ingredient) -> dict[str, float]:
    """What of 100 g of an ingredient can dissolve [g], by solute; dextrins of syrups are what no column names."""
    found: dict[str, float] = {}
    for row in rows("solutes.csv"):
        if not row["nutrient"]:
            continue
        kind = row["polyol_kind"]
        other = row["solute"] == "other polyols" and food.polyol_kind not in _polyols()
        if row["nutrient"] == Nutrient.POLYOLS and (food.polyol_kind or "") != kind and not other:
            continue
        found[row["solute"]] = food.per_100_g.get(Nutrient(row["nutrient"])) or 0.0
    if food.category in {"syrup", "sugar", "fibre", "polyol"}:
        carbohydrate = food.per_100_g.get(Nutrient.CARBOHYDRATE) or 0.0
        named = sum(
            food.per_100_g.get(part) or 0.0 for part in (Nutrient.SUGARS, Nutrient.POLYOLS, Nutrient.ALLULOSE, Nutrient.STARCH)
        )
        found["syrup dextrins"] = max(0.0, carbohydrate - named)
    named_sugars = sum(food.per_100_g.get(one) or 0.0 for one in _SUGARS)
    found["sucrose"] = found.get("sucrose", 0.0) + max(0.0, (food.per_100_g.get(Nutrient.SUGARS) or 0.0) - named_sugars)
    found[_SALT] = salt_g(food.per_100_g.get(Nutrient.SODIUM) or 0.0)
    return {name: grams for name, grams in found.items() if grams > 0}


@cache
def _polyols() -> frozenset[str]:
    return frozenset(row["polyol_kind"] for row in rows("solutes.csv") if row["polyol_kind"])


def sucrose_solubility(temp_c: float) -> float:
    """Sucrose in a saturated solution in water [g per 100 g of solution].

    Args:
        temp_c: 0 to 100 degrees Celsius.

    Raises:
        OutOfRange: temp_c is outside.

    Source: Vavrinecz; 64.397 + 0.07251 T + 0.0020569 T^2 - 9.035e-6 T^3.

    >>> round(sucrose_solubility(20.0), 2)
    66.6
    """
    check_range("temperature", temp_c, 0.0, 100.0, unit="°C")
    return 64.397 + 0.07251 * temp_c + 0.0020569 * temp_c**2 - 9.035e-6 * temp_c**3


def norrish(dissolved: Mapping[str, float], water_g: float) -> float:
    """Water activity by Norrish: ln a = ln x_w - (sum of sqrt(K) x)^2.

    Args:
        dissolved: Solute -> grams.
        water_g: Above 0.

    Source: Norrish (1966).

    >>> round(norrish({"sucrose": 67.0}, 33.0), 3)
    0.851
    """
    moles, water = _moles(dissolved), water_g / WATER_MOLAR_G
    total = water + sum(moles.values())
    drop = sum(math.sqrt(solutes()[name].norrish_k) * amount / total for name, amount in moles.items())
    return math.exp(math.log(water / total) - drop**2) * _salt_factor(dissolved, water_g)


def money_born(dissolved: Mapping[str, float], water_g: float) -> float:
    """Water activity by Money and Born: 1 / (1 + 0.27 n), n in mol of sugars per 100 g of water.

    Args:
        dissolved: Solute -> grams.
        water_g: Above 0.

    Source: Money and Born (1951).
    """
    count = 100 * sum(_moles(dissolved).values()) / water_g
    return 1 / (1 + 0.27 * count) * _salt_factor(dissolved, water_g)


def grover(dissolved: Mapping[str, float], water_g: float) -> float | None:
    """Water activity by Grover: 1.04 - 0.10 E + 0.0045 E^2; None beyond E = 9, where it turns back.

    Args:
        dissolved: Solute -> grams.
        water_g: Above 0.

    Source: Grover (1947).
    """
    factors = {**{name: one.grover for name, one in solutes().items()}, _SALT: _SALT_GROVER, _PROTEIN: _PROTEIN_GROVER}
    strength = sum(factors[name] * grams for name, grams in dissolved.items()) / water_g
    return None if strength > 9 else min(1.0, 1.04 - 0.10 * strength + 0.0045 * strength**2)


def water_activity(dissolved: Mapping[str, float], water_g: float) -> float | None:
    """The estimate to use: the highest of the models that hold there, and 0.02 more; None below where any holds.

    Args:
        dissolved: Solute -> grams, only what is in solution.
        water_g: Water of the layer [g], above 0.

    Accuracy: 0.03 for a syrup, 0.06 where there is fat and protein. Measure before anyone relies on it.
    """
    if water_g <= 0:
        return None
    found = [norrish(dissolved, water_g)]
    by_moles = money_born(dissolved, water_g)
    if by_moles >= 0.75:
        found.append(by_moles)
    by_grover = grover(dissolved, water_g)
    if by_grover is not None and by_grover >= 0.60:
        found.append(by_grover)
    if max(found) < _DRIEST:
        return None
    return min(1.0, max(found) + _MARGIN)


def _moles(dissolved: Mapping[str, float]) -> dict[str, float]:
    known = solutes()
    return {name: grams / known[name].molar_g for name, grams in dissolved.items() if name in known}


def _salt_factor(dissolved: Mapping[str, float], water_g: float) -> float:
    """Salt beside sugars, by Ross's product.

    Source: fit to Chirife and Resnik (1984): 1 - 0.0330 m - 0.00105 m^2, m to 6 mol per kg of water.
    """
    molal = min(6.0, 1000 * dissolved.get(_SALT, 0.0) / _SALT_MOLAR_G / water_g)
    return 1 - 0.0330 * molal - 0.00105 * molal**2
