"""What a label would print for a computed value: the rounding rules forwards."""

import math

from fern_match.core.errors import check_range
from fern_match.core.label.intervals import us_step
from fern_match.core.label.rows import Region, RowId

_MOST = 1e6
_FINE = frozenset({RowId.FAT, RowId.SATURATES, RowId.TRANS_FAT, RowId.PROTEIN})
_FINE_UPTO, _LEAST_FINE, _WHOLE_FROM = 0.5, 0.05, 100.0
_TENTHS = frozenset({RowId.SATURATES, RowId.TRANS_FAT})


def printed(region: Region, row: RowId, value: float) -> str:
    """The figure a label would print, without its unit.

    Args:
        value: The computed amount on the label's basis, 0 to 1e6.

    Raises:
        OutOfRange: value is negative, too large or not a number.

    Source: as `declared_interval`.

    >>> printed(Region.US, RowId.FAT, 2.6), printed(Region.EU, RowId.FAT, 31.4)
    ('2.5', '31')
    """
    check_range("computed value", value, 0.0, _MOST)
    match region:
        case Region.US:
            return _us_printed(row, value)
        case Region.CA:
            return _ca_printed(row, value)
        case Region.AU:
            return _au_printed(row, value)
    return _eu_printed(row, value)


def _ca_printed(row: RowId, value: float) -> str:
    """Canada's finer steps below half a gram of fat and of protein; elsewhere as in the US."""
    if row in _FINE and value < _FINE_UPTO:
        return _fixed(value, 1) if value >= _LEAST_FINE else "0"
    return _us_printed(row, value)


def _au_printed(row: RowId, value: float) -> str:
    """Up to three figures, "less than" where there is next to nothing."""
    least = {RowId.ENERGY_KJ: 40.0, RowId.SODIUM: 5.0, RowId.ENERGY_KCAL: 10.0}.get(row, 1.0)
    if value < least and row not in {RowId.SATURATES}:
        return f"<{least:g}"
    if value >= _WHOLE_FROM or row in {RowId.ENERGY_KJ, RowId.ENERGY_KCAL, RowId.SODIUM}:
        return f"{_half_up(value):.0f}"
    return _fixed(value, 1)


def _us_printed(row: RowId, value: float) -> str:
    if value < {RowId.ENERGY_KCAL: 5.0, RowId.CHOLESTEROL: 2.0, RowId.SODIUM: 5.0}.get(row, 0.5) and row not in {
        RowId.CALCIUM,
        RowId.IRON,
        RowId.POTASSIUM,
    }:
        return "0"
    if row is RowId.CHOLESTEROL and value < 5:
        return "<5"
    step = us_step(row, value)
    figure = _half_up(value / step) * step
    return f"{figure:.1f}" if step < 1 and not figure.is_integer() else f"{figure:.0f}"


def _eu_printed(row: RowId, value: float) -> str:
    if row in {RowId.ENERGY_KJ, RowId.ENERGY_KCAL}:
        return f"{_half_up(value):.0f}"
    if row is RowId.SALT:
        return "<0.01" if value <= 0.0125 else _fixed(value, 1 if value >= 1 else 2)
    least = 0.1 if row in _TENTHS else 0.5
    if value <= least:
        return f"<{least:g}"
    return _fixed(value, 0 if value >= 10 else 1)


def _fixed(value: float, decimals: int) -> str:
    scale = 10**decimals
    return f"{_half_up(value * scale) / scale:.{decimals}f}"


def _half_up(value: float) -> float:
    return float(math.floor(value + 0.5 + 1e-9))
