"""Dipping: how much coat must stand in the bowl, and what is left of it.

Worked example: 24 pieces take 6.9 g each and 5 % drips off, 173.9 g; a bowl of 16 cm in which 20 mm must stand for the last one
holds 1.20 x 201.06 x 2 = 482.5 g more: 656.4 g to melt.

Source: arithmetic; density of melted chocolate approximate.
"""

COAT_G_CM3 = 1.20  # melted (approximate)
UNDER_MM = 5.0  # over the piece's height, so that it goes under (approximate)
_USUAL_PIECE_MM = 18.0  # high, where nobody has measured it (approximate)


def to_melt_g(pieces: int, coat_g: float, loss: float, area_cm2: float, left_mm: float) -> float:
    """How much coat must stand in a bowl so that the last piece still goes under [g].

    Args:
        pieces: To dip.
        coat_g: A piece takes.
        loss: What drips off and is trimmed, of what pieces take [g/g].
        area_cm2: Of the bowl [cm2].
        left_mm: Depth that the last piece needs.

    >>> round(to_melt_g(24, 6.9, 0.05, 201.06, 20), 1)
    656.4
    """
    return pieces * coat_g * (1 + loss) + spare_g(area_cm2, left_mm)


def spare_g(area_cm2: float, left_mm: float) -> float:
    """What is left of a coat in a bowl when the last piece is through [g].

    Args:
        area_cm2: Of the bowl [cm2], 0 or more.
        left_mm: Depth that the last piece needs, 0 or more.

    >>> round(spare_g(201.06, 35), 1)
    844.5
    """
    return COAT_G_CM3 * area_cm2 * left_mm / 10


def depth_for(piece_high_mm: float | None) -> float:
    """The depth of coat that a last piece goes under in [mm]: its height and 5 mm; of a usual piece where nobody measured.

    Args:
        piece_high_mm: Its height.
    """
    return (piece_high_mm or _USUAL_PIECE_MM) + UNDER_MM
