"""Spoons and cups: what they hold by country, and what they hold of an ingredient."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from fern_match.core.errors import check_range


class Measures(StrEnum):
    """Whose spoons and cups."""

    US = "US"
    METRIC = "metric"
    UK = "UK"
    AU = "AU"


# Millilitres. US customary; metric and UK spoons of 5 and 15; the Australian tablespoon is 20; the UK cup is half a pint.
MILLILITRES: Mapping[Measures, Mapping[str, float]] = {
    Measures.US: {"tsp": 4.92892, "tbsp": 14.78676, "cup": 236.58824, "fl oz": 29.57353, "pint": 473.17647, "quart": 946.35295},
    Measures.METRIC: {"tsp": 5.0, "tbsp": 15.0, "cup": 250.0, "fl oz": 28.41306, "pint": 568.26125, "quart": 1136.5225},
    Measures.UK: {"tsp": 5.0, "tbsp": 15.0, "cup": 284.13063, "fl oz": 28.41306, "pint": 568.26125, "quart": 1136.5225},
    Measures.AU: {"tsp": 5.0, "tbsp": 20.0, "cup": 250.0, "fl oz": 28.41306, "pint": 568.26125, "quart": 1136.5225},
}
SPOON_ERROR = 0.08  # relative: levelling, packing, the spoon itself (approximate)
CUP_ERROR = 0.10
_QUARTERS = 4
_MOST_DENSITY = 3.0


@dataclass(frozen=True, slots=True)
class Scooped:
    """An amount in spoons or cups, to the nearest quarter, with what that holds."""

    words: str
    grams: float
    low_g: float  # one spoonful is like another within these
    high_g: float


def scooped(grams: float, density_g_ml: float, measures: Measures) -> Scooped | None:
    """An amount as spoons or cups a person would use; None where it is less than a quarter teaspoon or more than eight cups.

    Args:
        grams: The amount [g], above 0.
        density_g_ml: As measured in a cup or spoon [g/mL], above 0 and at most 3.
        measures: Whose spoons and cups.

    Raises:
        OutOfRange: density_g_ml is outside.

    Source: data/ingredients.csv for densities (typical values); spoon errors approximate.

    >>> scooped(100.0, 0.85, Measures.US).words
    '1/2 cup'
    """
    check_range("density", density_g_ml, 0.01, _MOST_DENSITY, unit="g/mL")
    sizes = MILLILITRES[measures]
    volume = grams / density_g_ml
    name = "cup" if volume >= sizes["cup"] * 0.22 else "tbsp" if volume >= sizes["tbsp"] * 0.95 else "tsp"
    count = Fraction(round(_QUARTERS * volume / sizes[name]), _QUARTERS)
    if count == 0 or volume > 8 * sizes["cup"]:
        return None
    held = float(count) * sizes[name] * density_g_ml
    error = CUP_ERROR if name == "cup" else SPOON_ERROR
    return Scooped(f"{_mixed(count)} {name}", held, held * (1 - error), held * (1 + error))


def _mixed(count: Fraction) -> str:
    whole, part = divmod(count, 1)
    if part == 0:
        return str(whole)
    return f"{whole} {part}" if whole else str(part)
