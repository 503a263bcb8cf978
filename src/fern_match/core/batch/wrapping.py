"""What a batch is wrapped in: how many of each, how many packs, what they cost; only what is meant for food.

Worked example: 24 pieces of 60 x 25 x 18 mm in foil take a sheet of 98 x 101 mm each, and a roll of 300 mm x 10 m gives 297: one
roll. In boxes of 6, where 8 of them are a lot of their own: 3 boxes for 16, 2 for 8.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from fern_match.core.batch.lots import Lots
from fern_match.core.food.together import listed
from fern_match.core.kitchen import WrapKind, WrapReading, sheets_of

OVERLAP_MM = 15.0  # of a sheet round a piece, where its sides meet (approximate)
ENDS_MM = 10.0  # of a sheet beyond each end, beside half the height, folded in (approximate)


@dataclass(frozen=True, slots=True, kw_only=True)
class WrapLine:
    """What a batch takes of one kind of wrapping."""

    id: str
    name: str
    count: int | None  # None where it cannot be said
    packs: int | None  # None where nobody said how many there are in one
    cost: float | None  # of the packs; None while their price is not known
    words: str  # what it comes to, or why it is not counted


@dataclass(frozen=True, slots=True, kw_only=True)
class Wrapping:
    """All that a batch is wrapped in."""

    lines: tuple[WrapLine, ...]
    cost: float | None  # of those whose price is known; None where none is
    words: str  # empty where nothing is chosen


def sheet_for(box_mm: tuple[float, float, float]) -> tuple[float, float]:
    """The sheet that wraps a piece [mm]: along it and round it.

    Args:
        box_mm: Length, width and height of a piece, above 0.

    Source: round it once with an overlap of 15 mm, ends folded over half the height and 10 mm (ours, approximate).

    >>> sheet_for((60.0, 25.0, 18.0))
    (98.0, 101.0)
    """
    length, width, height = box_mm
    return length + height + 2 * ENDS_MM, 2 * (width + height) + OVERLAP_MM


def wrapping_of(
    chosen: Sequence[WrapReading],
    pieces: int,
    lots: Lots | None,
    pans: int,
    box_mm: tuple[float, float, float] | None,
) -> Wrapping:
    """What a batch takes of what it is wrapped in.

    Args:
        chosen: Of the kitchen's wrapping.
        pieces: That are made, 1 or more.
        lots: How they are made: each lot is boxed apart.
        pans: In how many they are made, for liners.
        box_mm: A piece as measured; None where nobody measured one.
    """
    made = [one.pieces for one in lots.made] if lots is not None and lots.made else [pieces]
    lines = tuple(_line(one, made, pans, box_mm) for one in chosen)
    known = [one.cost for one in lines if one.cost is not None]
    cost = sum(known) if known else None
    lacking = [one.name.lower() for one in lines if one.cost is None]
    words = ""
    if cost is not None:
        words = f"Wrapping comes to {cost:.2f}" + (f"; not counted: {listed(lacking)}." if lacking else ".")
    return Wrapping(lines=lines, cost=cost, words=words)


def _line(one: WrapReading, made: Sequence[int], pans: int, box_mm: tuple[float, float, float] | None) -> WrapLine:
    wrap, pieces = one.wrap, sum(made)
    if not wrap.for_food:
        return _told(one, None, "Nobody said that it is meant for food: read its packet, then tick it in the kitchen.")
    if wrap.kind is WrapKind.SHEET:
        return _sheets(one, pieces, box_mm)
    if wrap.kind is WrapKind.LINER:
        return _in_packs(one, pans, f"{pans}, one for each pan or frame")
    if wrap.kind is WrapKind.CASE:
        return _in_packs(one, pieces, f"{pieces}, one a piece")
    if one.holds.value is None:
        return _told(one, None, "Say in the kitchen how many pieces go into one.")
    count = sum(math.ceil(each / one.holds.value) for each in made)
    return _in_packs(one, count, f"{count} for {pieces} pieces{', each lot apart' if len(made) > 1 else ''}")


def _sheets(one: WrapReading, pieces: int, box_mm: tuple[float, float, float] | None) -> WrapLine:
    if box_mm is None:
        return _told(one, pieces, "One sheet a piece; its size follows where a piece was measured and is made as large as that.")
    sheet, along, across = sheet_for(box_mm), one.length.value, one.width.value
    size = f"{sheet[0]:.0f} × {sheet[1]:.0f} mm"
    if along is None or across is None:
        return _told(one, pieces, f"{pieces} sheets of {size}.")
    gives = sheets_of(along, across, sheet)
    if gives < 1:
        return _told(one, None, f"A piece takes a sheet of {size}: this one is too small.")
    packs = math.ceil(pieces / gives)
    return _told(one, pieces, f"{pieces} sheets of {size}; {gives} come out of one, so {packs} to have.", packs)


def _in_packs(one: WrapReading, count: int, said: str) -> WrapLine:
    if one.pack.value is None:
        return _told(one, count, f"{said}.")
    packs = math.ceil(count / one.pack.value)
    left = int(packs * one.pack.value - count)
    return _told(one, count, f"{said}: {packs} {'pack' if packs == 1 else 'packs'}, {left} stay in.", packs)


def _told(one: WrapReading, count: int | None, words: str, packs: int | None = None) -> WrapLine:
    price = one.price.value
    cost = packs * price if packs is not None and price is not None else None
    return WrapLine(id=one.wrap.id, name=one.wrap.name, count=count, packs=packs, cost=cost, words=words)
