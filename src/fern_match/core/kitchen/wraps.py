"""Wrapping as typed, and as read: cases, liners, foil and film, bags and boxes, kept once with what they cost.

Worked example: a roll of foil of 300 mm x 10 m gives 3 x 99 = 297 sheets of 98 x 101 mm; turned the other way 2 x 102 = 204.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import ClassVar

from fern_match.core.measures.amounts import Typed, read_count, read_millimetres, read_money
from fern_match.core.measures.numbers import Comma
from fern_match.core.record import STRICT, told
from fern_match.core.record.texts import Cell, Key, Name

_MOST_IN_A_PACK = 100_000
_MOST_IN_ONE = 1000
_LONGEST_MM = 300_000.0


class WrapKind(StrEnum):
    """What it is for."""

    CASE = "case"  # a piece sits in it
    SHEET = "sheet"  # foil, film or paper, from a roll or in sheets, cut to a piece
    LINER = "liner"  # lines a pan, a frame or a mould
    BAG = "bag"
    BOX = "box"


_FIELDS: Mapping[WrapKind, tuple[str, ...]] = {
    WrapKind.CASE: ("pack", "price"),
    WrapKind.SHEET: ("length", "width", "price"),
    WrapKind.LINER: ("pack", "price"),
    WrapKind.BAG: ("holds", "pack", "price"),
    WrapKind.BOX: ("holds", "pack", "price"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Wrap:
    """One kind of wrapping one has or buys; figures as typed."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    name: Name = told("name")
    kind: WrapKind = told("kind")
    holds: Cell = told("pieces in one", default="")
    length: Cell = told("length", default="")  # of a roll or a sheet
    width: Cell = told("width", default="")
    pack: Cell = told("in a pack", default="")
    price: Cell = told("price", default="")
    for_food: bool = told("meant for food", default=False)


@dataclass(frozen=True, slots=True, kw_only=True)
class WrapReading:
    """Wrapping as read."""

    wrap: Wrap
    holds: Typed
    length: Typed  # mm
    width: Typed  # mm
    pack: Typed
    price: Typed

    @property
    def cells(self) -> Mapping[str, Typed]:
        """Its figures that say something of its kind, by field."""
        return {field: getattr(self, field) for field in _FIELDS[self.wrap.kind]}


def read_wrap(wrap: Wrap, comma: Comma) -> WrapReading:
    """Wrapping with its figures read.

    Args:
        wrap: As typed.
        comma: What a comma means.
    """
    return WrapReading(
        wrap=wrap,
        holds=read_count(wrap.holds, most=_MOST_IN_ONE, what="number of pieces in one", comma=comma),
        length=read_millimetres(wrap.length, most_mm=_LONGEST_MM, comma=comma),
        width=read_millimetres(wrap.width, most_mm=_LONGEST_MM, comma=comma),
        pack=read_count(wrap.pack, most=_MOST_IN_A_PACK, what="number in a pack", comma=comma),
        price=read_money(wrap.price, comma=comma),
    )


def sheets_of(length_mm: float, width_mm: float, sheet_mm: tuple[float, float]) -> int:
    """How many sheets come out of a roll or a larger sheet, all laid alike.

    Args:
        length_mm: Of the roll, above 0.
        width_mm: Of the roll, above 0.
        sheet_mm: The sides of a sheet, above 0.

    >>> sheets_of(10_000, 300, (98, 101))
    297
    """
    one, other = sheet_mm
    ways = [(length_mm // along) * (width_mm // across) for along, across in ((one, other), (other, one))]
    return int(max(ways))
