"""Volumes and surfaces of pieces, cavities and coats; lengths in mm, volumes in cm3.

Worked example: a half sphere of 14 mm holds 2/3 pi 14^3 = 5747 mm3 = 5.747 cm3; a shell of 2 mm in it leaves 3.619 cm3.

Source: elementary geometry.
"""

import math

from fern_match.core.errors import check_range

_MM3 = 1000.0  # in a cm3
_MOST_MM = 10_000.0


def slab_cm3(length_mm: float, width_mm: float, height_mm: float, corner_mm: float = 0.0) -> float:
    """A slab or bar, its corners rounded in plan [cm3].

    Args:
        length_mm: 0 to 10,000.
        width_mm: 0 to 10,000.
        height_mm: 0 to 10,000.
        corner_mm: Radius of its four corners, 0 to half the shorter side.

    Raises:
        OutOfRange: a length is outside.

    >>> round(slab_cm3(50, 20, 15), 3), round(slab_cm3(50, 20, 15, 4), 3)
    (15.0, 14.794)
    """
    _check(length_mm, width_mm, height_mm)
    check_range("corner", corner_mm, 0.0, min(length_mm, width_mm) / 2, unit="mm")
    return height_mm * (length_mm * width_mm - (4 - math.pi) * corner_mm**2) / _MM3


def cylinder_cm3(diameter_mm: float, height_mm: float) -> float:
    """A cylinder [cm3].

    Args:
        diameter_mm: 0 to 10,000.
        height_mm: 0 to 10,000.

    Raises:
        OutOfRange: a length is outside.

    >>> round(cylinder_cm3(25, 15), 3)
    7.363
    """
    return cup_cm3(diameter_mm / 2, diameter_mm / 2, height_mm)


def cup_cm3(top_mm: float, bottom_mm: float, height_mm: float) -> float:
    """A cup: a cone cut off [cm3].

    Args:
        top_mm: Radius above, 0 to 10,000.
        bottom_mm: Radius below, 0 to 10,000.
        height_mm: 0 to 10,000.

    Raises:
        OutOfRange: a length is outside.

    >>> round(cup_cm3(20, 15, 15), 3)
    14.53
    """
    _check(top_mm, bottom_mm, height_mm)
    return math.pi * height_mm * (top_mm**2 + top_mm * bottom_mm + bottom_mm**2) / 3 / _MM3


def half_sphere_cm3(radius_mm: float) -> float:
    """Half a sphere [cm3].

    Args:
        radius_mm: 0 to 10,000.

    Raises:
        OutOfRange: it is outside.

    >>> round(half_sphere_cm3(14), 3), round(2 * half_sphere_cm3(12), 3)
    (5.747, 7.238)
    """
    _check(radius_mm)
    return 2 / 3 * math.pi * radius_mm**3 / _MM3


def sphere_cap_cm3(base_mm: float, height_mm: float) -> float:
    """What is cut off a sphere [cm3].

    Args:
        base_mm: Radius of the cut, 0 to 10,000.
        height_mm: 0 to 10,000.

    Raises:
        OutOfRange: a length is outside.

    >>> round(sphere_cap_cm3(14, 14), 3)
    5.747
    """
    _check(base_mm, height_mm)
    return math.pi * height_mm * (3 * base_mm**2 + height_mm**2) / 6 / _MM3


def coat_inside_box_cm3(
    length_mm: float,
    width_mm: float,
    height_mm: float,
    side_mm: float,
    top_mm: float | None = None,
    bottom_mm: float | None = None,
) -> float:
    """A coat within a box's outside measures [cm3].

    Args:
        length_mm: Outside, 0 to 10,000.
        width_mm: Outside, 0 to 10,000.
        height_mm: Outside, 0 to 10,000.
        side_mm: How thick at the sides and ends, up to half of the shorter.
        top_mm: How thick above; as the sides where None.
        bottom_mm: How thick below; as the sides where None.

    Raises:
        OutOfRange: a length is outside, or the coat leaves no room.

    >>> round(coat_inside_box_cm3(55, 24, 18, 1.2, 1.5, 1.8), 3)
    7.058
    """
    _check(length_mm, width_mm, height_mm)
    thick = (side_mm if top_mm is None else top_mm) + (side_mm if bottom_mm is None else bottom_mm)
    check_range("coat at the sides", side_mm, 0.0, min(length_mm, width_mm) / 2, unit="mm")
    check_range("coat above and below", thick, 0.0, height_mm, unit="mm")
    inside = (length_mm - 2 * side_mm) * (width_mm - 2 * side_mm) * (height_mm - thick)
    return (length_mm * width_mm * height_mm - inside) / _MM3


def _check(*lengths_mm: float) -> None:
    for one in lengths_mm:
        check_range("length", one, 0.0, _MOST_MM, unit="mm")
