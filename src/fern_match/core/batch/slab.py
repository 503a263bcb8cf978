"""A slab that is poured or pressed into a pan and cut: how high it stands, how many pieces, what is cut away.

Worked example: a caramel of 10 g a piece at 1.33 g/cm3, cut 40 x 25 mm, stands 10 / 1.33 / 10 = 7.52 mm high. A pan of 200 x
200 mm, 5 mm trimmed, gives 4 x 7 = 28 pieces; it takes 10 g x 40,000 / 1000 = 400 g, of which 280 g are in the pieces and 30 %
are offcuts. 24 pieces' worth, 240 g, would stand 4.51 mm high in it.
"""

import math
from collections.abc import Sequence

from fern_match.core.batch.plan import Keeps
from fern_match.core.batch.portion import (
    Corner,
    CutPlan,
    LayerHeight,
    NoPortion,
    Piece,
    Portions,
    checked_pieces,
    off_words,
    pieces_words,
    rounds_for,
)
from fern_match.core.formulate import FormulaLayer
from fern_match.core.kitchen import GearReading, GearShape
from fern_match.core.physics.solids import coat_inside_box_cm3
from fern_match.core.study.record import Place

_CM2 = 100.0  # mm2 in a cm2
_HALVINGS = 50


def slab_heights(piece: Piece, area_cm2: float, share: float) -> tuple[LayerHeight, ...]:
    """How high each layer of a slab stands, from below.

    Args:
        piece: Of the version.
        area_cm2: Of the piece as it is cut [cm2], above 0.
        share: How high it stands of what was meant.
    """
    heights = []
    for layer in piece.formula.layers:
        if piece.is_coat(layer) or piece.lies_in(layer):
            continue
        inside = sum(piece.cm3(one) for one in piece.formula.layers if _host(piece, one) == layer.layer_id)
        meant = 10 * (piece.cm3(layer) + inside) / area_cm2
        heights.append(LayerHeight(layer_id=layer.layer_id, name=layer.name, meant_mm=meant, stands_mm=share * meant))
    return tuple(heights)


def in_pan(
    piece: Piece,
    pan: GearReading,
    cut_mm: tuple[float, float],
    trim_mm: float,
    *,
    pans: int | None = None,
    wanted: int | None = None,
    keeps: Keeps = Keeps.THICKNESS,
) -> Portions:
    """Pieces cut from a slab.

    Args:
        piece: Of the version.
        pan: Its length and width known.
        cut_mm: Length and width of a piece [mm], above 0.
        trim_mm: What is cut off each side [mm], 0 or more.
        pans: How many; where None as many as the wanted pieces take.
        wanted: How many pieces; as many as one pan gives where None.
        keeps: Whether the thickness stays and amounts follow, or the amounts for the wanted pieces are poured into it.

    Raises:
        NoPortion: no piece fits, or the slab is higher than the pan.
    """
    area = pan.area_cm2
    if area is None:
        raise NoPortion(f"{pan.gear.name}: {pan.problem or 'its size is to say.'}")
    length, width = pan.length.value or 0.0, pan.width.value or pan.length.value or 0.0
    is_round = pan.gear.shape is not GearShape.RECTANGLE
    corners, laid = _laid(length, width, trim_mm, cut_mm, is_round=is_round)
    if not corners:
        raise NoPortion(
            f"No piece of {cut_mm[0]:.4g} × {cut_mm[1]:.4g} mm fits in {pan.gear.name}, {length:g} × {width:g} mm"
            f"{f' with {trim_mm:g} mm off each side' if trim_mm else ''}."
        )
    per_pan = len(corners)
    poured = wanted if keeps is Keeps.AMOUNTS else None
    filled = rounds_for(per_pan, pans, wanted if poured is None else None)
    cut_cm2 = cut_mm[0] * cut_mm[1] / _CM2
    used = per_pan * cut_cm2 / area
    share = 1.0 if poured is None else poured * cut_cm2 / (area * filled)
    heights = slab_heights(piece, cut_cm2, share)
    slab = {one.layer_id for one in piece.formula.layers if not piece.is_coat(one)}
    high = sum(one.stands_mm for one in heights)
    if pan.depth.value is not None and high > pan.depth.value:
        raise NoPortion(
            f"The slab would stand {high:.1f} mm high and {pan.gear.name} is {pan.depth.value:g} mm deep: "
            "take a larger one, or more of them."
        )
    return Portions(
        pieces=checked_pieces(per_pan * filled),
        factors={} if poured is None else dict.fromkeys(slab, share),
        trimmed=dict.fromkeys(slab, 1 - used),
        words=(_count_words(pan, filled, per_pan, used, laid), *_height_words(heights, share, poured)),
        cut=CutPlan(
            length_mm=length,
            width_mm=width,
            round=is_round,
            trim_mm=trim_mm,
            piece_length_mm=laid[0],
            piece_width_mm=laid[1],
            corners=tuple(Corner(x, y) for x, y in corners),
            pans=filled,
            used=used,
            heights=heights,
        ),
    )


def cut_for(piece: Piece, box_mm: tuple[float, float, float]) -> tuple[float, float, float]:
    """Length and width to cut, and the coat that is added all round [mm], so that a coated piece comes to its measured size.

    Worked example: 10.5 cm3 of coat on a piece of 96 x 36 x 20 mm outside lie 0.9 mm thick; what is inside is cut 94.2 x 34.2 mm.

    Args:
        piece: Of the version.
        box_mm: Outside length, width and height [mm], above 0.
    """
    coat = sum(piece.cm3(one) for one in piece.formula.layers if piece.is_coat(one))
    low, high = 0.0, min(box_mm) / 2
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if coat_inside_box_cm3(*box_mm, middle) < coat else (low, middle)
    return box_mm[0] - 2 * low, box_mm[1] - 2 * low, low


def _host(piece: Piece, layer: FormulaLayer) -> str | None:
    placed = piece.build.get(layer.layer_id)
    return placed.host if placed is not None and placed.place is Place.INCLUSION else None


def _laid(
    length: float, width: float, trim: float, cut: tuple[float, float], *, is_round: bool
) -> tuple[tuple[tuple[float, float], ...], tuple[float, float]]:
    """Where pieces lie in a pan: in rows, turned whichever way gives more; in a round pan those that lie wholly inside."""
    best: tuple[tuple[tuple[float, float], ...], tuple[float, float]] = ((), cut)
    for long, wide in {cut, cut[::-1]}:
        across, down = (math.floor((side - 2 * trim) / one + 1e-9) for side, one in ((length, long), (width, wide)))
        if across <= 0 or down <= 0:
            continue
        checked_pieces(across * down)  # before they are laid out one by one
        left, top = (length - across * long) / 2, (width - down * wide) / 2
        corners = tuple((left + x * long, top + y * wide) for y in range(down) for x in range(across))
        if is_round:
            radius = length / 2 - trim
            corners = tuple(
                (x, y)
                for x, y in corners
                if all(math.hypot(a - length / 2, b - length / 2) <= radius for a in (x, x + long) for b in (y, y + wide))
            )
        if (len(corners), long) > (len(best[0]), best[1][0]):
            best = corners, (long, wide)
    return best


def _count_words(pan: GearReading, pans: int, per_pan: int, used: float, laid: tuple[float, float]) -> str:
    each = f"{pieces_words(per_pan)} of {laid[0]:.3g} × {laid[1]:.3g} mm"
    count = f"{pans} × {pan.gear.name}: {each} each" if pans > 1 else f"{pan.gear.name}: {each}"
    return f"{count}; {100 * (1 - used):.0f}\u00a0% of the slab is trimmings and offcuts."


def _height_words(heights: Sequence[LayerHeight], share: float, poured: int | None) -> tuple[str, ...]:
    if not heights:
        return ()
    high, meant = sum(one.stands_mm for one in heights), sum(one.meant_mm for one in heights)
    off = off_words(share - 1, "heavier", "lighter")
    if poured is None or not off:
        return (f"The slab stands {high:.1f} mm high, as the version’s pieces do.",)
    low, top = sorted((share, share**2))
    return (
        f"The amounts for {pieces_words(poured)} stand {high:.1f} mm high in it instead of {meant:.1f} mm: the slab of each "
        f"piece is {off}, its coat as in the version.",
        f"It cools and bakes sooner: {low:.2g} to {top:.2g} of the time, nearer to the latter in still air. Look early."
        if share < 1
        else f"It takes longer to cool and bake: {low:.2g} to {top:.2g} times as long, nearer to the first in still air.",
    )
