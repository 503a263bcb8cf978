"""How many pieces a scoop, a bowl of filling or whole units of an ingredient give.

Worked example: a level #60 scoop holds 15.8 mL; of a filling of 1.25 g/cm3 that are 19.7 g, 18.1 to 21.3 g from one filling to
another; where 12.6 g were meant, 57 % more.
"""

import math

from fern_match.core.batch.portion import (
    Corner,
    NoPortion,
    Piece,
    Portions,
    SheetPlan,
    checked_pieces,
    off_words,
    pieces_words,
)
from fern_match.core.kitchen import GearReading, GearShape

_TOLD_G = 0.05
_ROUNDS_SIDE_BY_SIDE = math.pi / (2 * math.sqrt(3))  # of a sheet, each in the gap of the next row
_SHEET_WIDE_MM = 320.0  # that a pin rolls (approximate)
_OF_A_SHEET = 0.9  # the rest is its ragged edge (approximate)


def by_scoop(piece: Piece, scoop: GearReading, layer_id: str, pieces: int) -> Portions:
    """One layer portioned by a level scoop, the others as they are.

    Args:
        piece: Of the version.
        scoop: What it holds known.
        layer_id: Of the layer.
        pieces: 1 or more.

    Raises:
        NoPortion: nothing is known of the scoop, or the version has no such layer.
    """
    layer, ml = piece.named(layer_id), scoop.holds_ml
    if ml is None:
        raise NoPortion(f"{scoop.gear.name}: {scoop.problem or 'what it holds is to say.'}")
    volume = piece.cm3(layer)
    if volume <= 0:
        raise NoPortion(f"{layer.name} weighs nothing yet.")
    factor = ml / volume
    grams = layer.finished_g * factor
    low, high = ((scoop.volume.low or ml) / ml, (scoop.volume.high or ml) / ml)
    words = (
        f"{scoop.gear.name}, level, holds {ml:.3g} mL: {grams:.3g} g of {layer.name} "
        f"({low * grams:.3g} to {high * grams:.3g} g), {_against(layer.finished_g, grams)}.",
    )
    return Portions(pieces=pieces, factors={layer_id: factor}, words=words)


def by_cutter(piece: Piece, cutter: GearReading, layer_id: str, pieces: int, rolled_mm: float | None) -> Portions:
    """One layer rolled out and cut, the scraps rolled out once more; the others as they are.

    Args:
        piece: Of the version.
        cutter: Its size known.
        layer_id: Of the layer.
        pieces: 1 or more.
        rolled_mm: How thick it is rolled [mm], before it is baked; as the version's layer where None.

    Raises:
        NoPortion: nothing is known of the cutter, or the version has no such layer.
    """
    layer, area = piece.named(layer_id), cutter.area_cm2
    if area is None:
        raise NoPortion(f"{cutter.gear.name}: {cutter.problem or 'its size is to say.'}")
    volume = piece.cm3(layer)
    if volume <= 0:
        raise NoPortion(f"{layer.name} weighs nothing yet.")
    meant_mm = 10 * volume / area
    thick = meant_mm if rolled_mm is None else rolled_mm
    factor = thick / meant_mm
    first = _OF_A_SHEET * (_ROUNDS_SIDE_BY_SIDE if cutter.gear.shape is GearShape.ROUND else 1.0)
    used = first + (1 - first) * first
    grams = layer.finished_g * factor
    words = (
        f"{cutter.gear.name}: {layer.name} {thick:.1f} mm thick, {grams:.3g} g each, {_against(layer.finished_g, grams)}.",
        f"{pieces_words(pieces)} take {area * pieces / first:.0f} cm² of sheet at once, {area * pieces / used:.0f} cm² with "
        f"the scraps rolled out once more: {100 * (1 - first):.0f} % are scraps, {100 * (1 - used):.0f} % after that. Rolled "
        "again they toughen: bake those as a sample.",
    )
    sheet = sheet_of(cutter, pieces, first, used, thick)
    return Portions(pieces=pieces, factors={layer_id: factor}, trimmed={layer_id: 1 - used}, words=words, sheet=sheet)


def sheet_of(cutter: GearReading, pieces: int, first: float, used: float, thick_mm: float) -> SheetPlan:
    """The rolled sheet from above: what is cut out of it at once, side by side, and what its scraps still give.

    Args:
        cutter: Its size known.
        pieces: 1 or more.
        first: Share of a sheet that is cut out at once [1].
        used: The same with its scraps rolled out once more [1].
        thick_mm: As it is rolled [mm].
    """
    length = cutter.length.value or 0.0
    width = length if cutter.gear.shape is GearShape.ROUND else cutter.width.value or length
    at_once = min(pieces, math.ceil(pieces * first / used))
    rounds = cutter.gear.shape is GearShape.ROUND
    across = max(1, min(at_once, int(_SHEET_WIDE_MM // length)))
    pitch = width * (math.sqrt(3) / 2 if rounds and across > 1 else 1.0)
    edge = (1 - math.sqrt(_OF_A_SHEET)) / 2
    side = across * length + (length / 2 if rounds and at_once > across else 0.0)
    rows = math.ceil(at_once / across)
    high = (rows - 1) * pitch + width
    wide_all, high_all = side / (1 - 2 * edge), high / (1 - 2 * edge)
    corners = tuple(
        Corner(
            x_mm=edge * wide_all + (number % across) * length + (length / 2 if rounds and (number // across) % 2 else 0.0),
            y_mm=edge * high_all + (number // across) * pitch,
        )
        for number in range(at_once)
    )
    return SheetPlan(
        length_mm=wide_all,
        width_mm=high_all,
        thick_mm=thick_mm,
        round=rounds,
        piece_length_mm=length,
        piece_width_mm=width,
        corners=corners,
        at_once=at_once,
        from_scraps=pieces - at_once,
    )


def by_amount(piece: Piece, layer_id: str, grams: float, left_on_tools: float) -> Portions:
    """As many pieces as a bowl of one layer gives.

    Args:
        piece: Of the version.
        layer_id: Of the layer.
        grams: Of it, finished, above 0.
        left_on_tools: Share that stays on tools [g/g], below 1.

    Raises:
        NoPortion: the version has no such layer, or it is not enough for one piece.
    """
    layer = piece.named(layer_id)
    if layer.finished_g <= 0:
        raise NoPortion(f"{layer.name} weighs nothing yet.")
    usable = grams * (1 - left_on_tools)
    pieces = _whole_pieces(usable / layer.finished_g, f"{grams:.4g} g of {layer.name}")
    left = usable - pieces * layer.finished_g
    return Portions(
        pieces=pieces, words=(f"{grams:.4g} g of {layer.name} fill {pieces_words(pieces)}; {left:.2g} g of it are left over.",)
    )


def by_whole(name: str, have_g: float, takes_g: float) -> Portions:
    """As many pieces as whole units of one ingredient give.

    Args:
        name: Of the ingredient.
        have_g: Of it, above 0.
        takes_g: For one piece, with what stays on tools.

    Raises:
        NoPortion: it is not enough for one piece, or no piece takes any.
    """
    if takes_g <= 0:
        raise NoPortion(f"No piece takes any {name.lower()}.")
    pieces = _whole_pieces(have_g / takes_g, f"{have_g:.3g} g of {name.lower()}")
    left = have_g - pieces * takes_g
    rest = f"; {left:.2g} g of it are left over" if left > _TOLD_G else ", nothing of it left over"
    return Portions(pieces=pieces, words=(f"{have_g:.3g} g of {name.lower()} are enough for {pieces_words(pieces)}{rest}.",))


def _whole_pieces(exact: float, what: str) -> int:
    pieces = math.floor(exact * (1 + 1e-9))
    if pieces < 1:
        raise NoPortion(f"{what[0].upper()}{what[1:]} is not enough for one piece.")
    return checked_pieces(pieces)


def _against(meant: float, now: float) -> str:
    off = off_words(now / meant - 1)
    return f"{off} than meant" if off else "as meant"
