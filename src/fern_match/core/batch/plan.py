"""What the user asked of a batch, as typed."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, ClassVar

from fern_match.core.record import STRICT, Count, told
from fern_match.core.record.texts import Cell, Key


class PlanBy(StrEnum):
    """What says how much is made."""

    PIECES = "pieces"
    PAN = "pan"  # poured or pressed, and cut
    MOULD = "mould"  # cavities or lined cups: the piece takes their size
    SCOOP = "scoop"  # one layer is portioned by it
    CUTTER = "cutter"  # one layer is rolled out and cut with it
    AMOUNT = "amount"  # so much of one layer
    WHOLE = "whole"  # whole units of one ingredient: one egg white, one can
    HOUSE = "house"  # as many as what is in the house gives


class Keeps(StrEnum):
    """What stays as it is where a pan is not the one that was meant."""

    THICKNESS = "thickness"
    AMOUNTS = "amounts"


LEFT_OUT = "none"  # in place of an ingredient's id: nothing instead


@dataclass(frozen=True, slots=True, kw_only=True)
class Lot:
    """Pieces from the same bowl that are made otherwise: without nuts, with another crust, in a spare mould."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    name: Cell = told("name", default="")
    pieces: Cell = told("pieces", default="")
    mark: Cell = told("mark", default="")  # how they are told apart, or where they are
    # by a layer's id, or by layer and line joined with two hyphens: an ingredient's id instead, or "none"
    instead: Annotated[Mapping[Key, Cell], Count(40)] = told("{0} instead", keys=("layer",), factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchPlan:
    """A version, how much of it, in what, and what differs from the usual."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    version: Key = told("version", says="version", refers="version")
    pieces: Cell = told("Pieces wanted", default="")
    # per cent of what is made, by layer
    left_on_tools: Annotated[Mapping[Key, Cell], Count(400)] = told("{0}, stays on tools", keys=("layer",), factory=dict)
    # amounts by ingredient
    in_house: Annotated[Mapping[Key, Cell], Count(400)] = told("{0}, in the house", keys=("ingredient",), factory=dict)
    # of what is worked in until a layer holds: what was left of the amount set out
    left_over: Annotated[Mapping[Key, Cell], Count(400)] = told("{0}, left of what was set out", keys=("layer",), factory=dict)
    breaks: Cell = told("Breaks or is tasted", default="")  # per cent of the pieces
    by: PlanBy = told("How much goes by", default=PlanBy.PIECES)
    gear: Cell = told("Made in", default="", silent="an id of the kitchen's gear; how much goes by it is told")
    gear_count: Cell = told("How many of it", default="")  # pans, moulds, trays of cups
    keeps: Keeps = told("In another pan stays", default=Keeps.THICKNESS)
    cut_length: Cell = told("Cut, long", default="")
    cut_width: Cell = told("Cut, wide", default="")
    trim: Cell = told("Trimmed from each side", default="")
    portioned: Cell = told("Portioned layer", default="", silent="a layer's id; its amount is told")
    rolled: Cell = told("Rolled, thick", default="")
    amount: Cell = told("Amount", default="")  # of the portioned layer, or of the ingredient that sets the batch
    whole: Cell = told("Sets the batch", default="", silent="an ingredient's id; its amount is told")
    shell: Cell = told("Shell, thick", default="")
    cap: Cell = told("Cap, thick", default="")
    dip_bowl: Cell = told("Dipped in", default="", silent="an id of the kitchen's gear; the depth is told")
    dip_depth: Cell = told("Depth left for the last piece", default="")
    room: Cell = told("Room on the day", default="")
    humidity: Cell = told("Humidity on the day", default="")
    made_on: Cell = told("Made on", default="")
    lots: Annotated[tuple[Lot, ...], Count(20)] = told("lots", label="Lot {name}", noun="lot", default=())
    wrapped_in: Annotated[tuple[Key, ...], Count(40)] = told(
        "Wrapped in", default=(), silent="ids of the kitchen's wrapping; what it takes is told"
    )
