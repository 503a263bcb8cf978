"""What a declared net weight says about the mean piece."""

import math
from dataclasses import dataclass

from fern_match.core.errors import check_range
from fern_match.core.label.rows import Region

_LEAST_G, _MOST_G = 1.0, 10_000.0
_OVERFILL = 1.02  # packers aim 1 to 3 % over (approximate)
_RELATIVE_SD = 0.02
_MOST_OVERFILL = 1.10
# EU and UK: tolerable negative error by nominal quantity: (up to g, share of nominal, fixed g).
_EU_STEPS = (
    (50, 0.09, 0),
    (100, 0, 4.5),
    (200, 0.045, 0),
    (300, 0, 9),
    (500, 0.03, 0),
    (1000, 0, 15),
    (10_000, 0.015, 0),
)
# US: maximum allowable variation (approximate): (below g, share, fixed g).
_US_STEPS = (
    (36, 0.10, 0),
    (54, 0, 3.6),
    (81, 0, 5.4),
    (117, 0, 7.2),
    (154, 0, 9.0),
    (208, 0, 10.8),
    (263, 0, 12.7),
    (317, 0, 14.5),
)
_US_LARGEST_G = 18.1


@dataclass(frozen=True, slots=True)
class MeanPiece:
    """What the label alone says about the mean piece's mass."""

    declared_g: float  # its share of the net weight
    mean_g: float
    sd_g: float
    low_g: float  # no lawful single pack is lighter
    high_g: float  # hardly any packer gives more away


def tolerable_shortfall_g(region: Region, nominal_g: float) -> float:
    """How much lighter than declared a single pack may be [g].

    Args:
        nominal_g: Declared net weight [g], 1 to 10,000.

    Raises:
        OutOfRange: nominal_g is outside.

    Source: EU and UK Directive 76/211/EEC, rounded up to 0.1 g; US NIST Handbook 133 (approximate).

    >>> tolerable_shortfall_g(Region.EU, 45)
    4.1
    """
    check_range("net weight", nominal_g, _LEAST_G, _MOST_G, unit="g")
    if region.counts_fibre:
        for below, share, fixed in _US_STEPS:
            if nominal_g < below:
                return share * nominal_g + fixed
        return _US_LARGEST_G
    share, fixed = next((share, fixed) for up_to, share, fixed in _EU_STEPS if nominal_g <= up_to)
    return math.ceil(round((share * nominal_g + fixed) * 10, 6)) / 10


def mean_piece_from_label(region: Region, net_weight_g: float, pieces: int) -> MeanPiece:
    """What the declared net weight says about the mean piece.

    A declared weight is an average that packers exceed by 1 to 3 %: mean 1.02 of it, sd 2 %.

    Args:
        net_weight_g: Of the pack [g], 1 to 10,000.
        pieces: In the pack, 1 to 200.

    Raises:
        OutOfRange: net_weight_g or pieces is outside.

    Source: as `tolerable_shortfall_g`; overfill approximate.
    """
    check_range("pieces per pack", pieces, 1, 200)
    share_g = check_range("net weight", net_weight_g, _LEAST_G, _MOST_G, unit="g") / pieces
    return MeanPiece(
        declared_g=share_g,
        mean_g=_OVERFILL * share_g,
        sd_g=_RELATIVE_SD * share_g,
        low_g=(net_weight_g - tolerable_shortfall_g(region, net_weight_g)) / pieces,
        high_g=_MOST_OVERFILL * share_g,
    )
