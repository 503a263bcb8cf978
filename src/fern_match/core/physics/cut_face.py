"""How layers lie on the cut face of a bar: a box with coats all round, layers stacked inside, to scale."""

from collections.abc import Sequence
from dataclasses import dataclass

from fern_match.core.errors import check_range

# Proportions of a bar nobody has measured: length and height as multiples of the width.
ASSUMED_LENGTH, ASSUMED_HEIGHT = 2.4, 0.62
_STEPS = 60


@dataclass(frozen=True, slots=True)
class Slab:
    """What is known of a layer's volume, in the order of the build."""

    id: str
    place: str  # coat, stack, core, topping; an inclusion's volume belongs to its host
    volume_cm3: float
    low_cm3: float
    high_cm3: float


@dataclass(frozen=True, slots=True)
class Band:
    """A rectangle on the cut face [mm], from the lower left corner; a coat's lies under all that is inside it."""

    id: str
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    thickness_mm: float
    thickness_low_mm: float
    thickness_high_mm: float


@dataclass(frozen=True, slots=True)
class CutFace:
    """The cut face of one piece."""

    width_mm: float
    height_mm: float
    length_mm: float
    size_assumed: bool
    bands: tuple[Band, ...]


def cut_face(slabs: Sequence[Slab], box_mm: tuple[float, float, float] | None = None) -> CutFace:
    """The cut face of a bar: in its own size where that was measured, else its volume in usual proportions.

    In a measured box every thickness is stretched alike, so that the layers fill the outline: families' usual air and rounded
    edges are the least sure of all that a volume is computed from.

    Args:
        slabs: All layers but inclusions, coats from outside in, then the stack from bottom to top; volumes above 0.
        box_mm: Measured length, width and height [mm], above 0; None where nobody has measured.

    Raises:
        OutOfRange: a volume or a side is 0 or less.
    """
    for slab in slabs:
        check_range("volume", slab.volume_cm3, 1e-12, 1e6, unit="cm3")
    total_mm3 = 1000 * sum(slab.volume_cm3 for slab in slabs)
    length, width, height = _assumed_box(total_mm3) if box_mm is None else box_mm
    for side in (length, width, height):
        check_range("side", side, 1e-3, 1e5, unit="mm")
    stretch = length * width * height / total_mm3
    bands, x, y = [], 0.0, 0.0
    inner = (length, width, height)
    for slab in slabs:
        if slab.place != "coat":
            continue
        thickness = coat_thickness_mm(inner, 1000 * slab.volume_cm3 * stretch)
        low, high = (thickness * end / slab.volume_cm3 for end in (slab.low_cm3, slab.high_cm3))
        bands.append(Band(slab.id, x, y, inner[1], inner[2], thickness, low, high))
        x, y = x + thickness, y + thickness
        inner = (inner[0] - 2 * thickness, inner[1] - 2 * thickness, inner[2] - 2 * thickness)
    area = max(inner[0] * inner[1], 1e-9) / (1000 * stretch)
    for slab in slabs:
        if slab.place == "coat":
            continue
        rise = slab.volume_cm3 / area
        bands.append(Band(slab.id, x, y, inner[1], rise, rise, slab.low_cm3 / area, slab.high_cm3 / area))
        y += rise
    return CutFace(width, height, length, box_mm is None, tuple(bands))


def _assumed_box(total_mm3: float) -> tuple[float, float, float]:
    width = (total_mm3 / (ASSUMED_LENGTH * ASSUMED_HEIGHT)) ** (1 / 3)
    return ASSUMED_LENGTH * width, width, ASSUMED_HEIGHT * width


def coat_thickness_mm(outer_mm: tuple[float, float, float], coat_mm3: float) -> float:
    """Even thickness of a coat inside a box's outline [mm]: LWH - (L-2t)(W-2t)(H-2t) = coat.

    Args:
        outer_mm: Length, width, height [mm], above 0.
        coat_mm3: Volume of the coat [mm3]; all of the box at most.

    Source: geometry of a box; solved by bisection.

    >>> round(coat_thickness_mm((50.0, 20.0, 15.0), 15000 - 47.6 * 17.6 * 12.6), 6)
    1.2
    """
    length, width, height = outer_mm
    low, high = 0.0, min(outer_mm) / 2
    for _ in range(_STEPS):
        middle = (low + high) / 2
        left = length * width * height - (length - 2 * middle) * (width - 2 * middle) * (height - 2 * middle)
        low, high = (middle, high) if left < coat_mm3 else (low, middle)
    return (low + high) / 2
