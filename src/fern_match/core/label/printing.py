"""What a label would print for a computed value: the rounding rules forwards."""

import math

from fern_match.core.errors import check_range
from fern_match.core.label.intervals import us_step
from fern_match.core.label.rows import Region, RowId

_MOST = 1e6
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
    return _us_printed(row, value) if region.is_us else _eu_printed(row, value)


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
