"""What the user wrote down of a trial, as typed: what was reached and weighed, tasted and seen; and pictures."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, ClassVar

from fern_match.core.record import STRICT, Count, Signs, told
from fern_match.core.record.texts import Cell, Key, Name
from fern_match.core.study.record import PieceSize

Of = Annotated[str, Signs(170)]  # a layer and what of it: "caramel--end_heat", "caramel--line-2"
Words = Annotated[str, Signs(2000)]
WHOLE = ""  # the layer of what is about the whole piece


class Tasted(StrEnum):
    """How original and copy were tasted."""

    SIDE_BY_SIDE = "side by side"
    IN_TURN = "one after the other"
    REMEMBERED = "remembered"


class Whose(StrEnum):
    """Of which of the two something is."""

    ORIGINAL = "original"
    COPY = "copy"


class TestKind(StrEnum):
    """What a tasting asks."""

    __test__ = False  # not one of pytest's

    TRIANGLE = "triangle"  # which of three is the odd one
    PREFERENCE = "preference"  # which of two is liked better


class Kept(StrEnum):
    """How a piece was after some days."""

    AS_MADE = "as made"
    LESS_GOOD = "less good"
    NOT_GOOD = "no longer good"


@dataclass(frozen=True, slots=True, kw_only=True)
class Sheet:
    """What one taster marked, on lines from 0 to 10."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    taster: Cell = told("taster", default="")
    tasted: Tasted = told("tasted", default=Tasted.SIDE_BY_SIDE)
    original: Annotated[Mapping[Key, Cell], Count(40)] = told("{0}, original", keys=("sense",), factory=dict)
    copy: Annotated[Mapping[Key, Cell], Count(40)] = told("{0}, copy", keys=("sense",), factory=dict)
    words: Words = told("words", default="")


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnSense:
    """A line of one's own, with what its ends are called."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    name: Cell = told("sense", default="")
    low: Cell = told("at 0", default="")
    high: Cell = told("at 10", default="")


@dataclass(frozen=True, slots=True, kw_only=True)
class FaultSeen:
    """Something that is wrong."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    fault: Key = told("what is wrong", says="fault")
    layer: Cell = told("of layer", default="", silent="its name is told with the fault")


@dataclass(frozen=True, slots=True, kw_only=True)
class Serving:
    """What one taster was given: pieces under codes, in the order they lay."""

    __pydantic_config__: ClassVar = STRICT

    id: Key  # tells nothing of what it holds
    codes: Annotated[tuple[Cell, ...], Count(3)] = told("codes", silent="they are drawn, not decided")
    pieces: Annotated[tuple[Whose, ...], Count(3)] = told("pieces", silent="they are drawn, not decided")
    taster: Cell = told("taster", default="")
    answer: Cell = told("answer", default="")  # the code that was named; a dash for no preference


@dataclass(frozen=True, slots=True, kw_only=True)
class Tasting:
    """A blind tasting."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    kind: TestKind = told("what is asked", default=TestKind.TRIANGLE)
    servings: Annotated[tuple[Serving, ...], Count(200)] = told("servings", label="Serving", noun="serving", default=())


@dataclass(frozen=True, slots=True, kw_only=True)
class Day:
    """How a piece was after some days."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    days: Cell = told("days", default="")
    kept: Kept = told("it was", default=Kept.AS_MADE)
    where: Cell = told("kept in", default="")
    words: Words = told("words", default="")


@dataclass(frozen=True, slots=True, kw_only=True)
class Trial:
    """What came out of a batch."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    batch: Key = told("batch", refers="batch", silent="which batch it is of is its name")
    cook: Key | None = told("cook", refers="cook", default=None, silent="its log is read; which one it is is seen")
    name: Name = told("name", default="")
    tried_on: Cell = told("Tried on", default="")
    made: Cell = told("Pieces that came out", default="")
    whole: Cell = told("Of them whole", default="")
    # several readings each, by layer; of whole pieces by "piece"
    weighed: Annotated[Mapping[Key, Cell], Count(60)] = told("{0}, weighed", keys=("layer",), factory=dict)
    thick: Annotated[Mapping[Key, Cell], Count(60)] = told("{0}, thick", keys=("layer",), factory=dict)
    size: PieceSize = told("Size", factory=PieceSize)
    # what was reached and seen, by layer and clue: "118 °C", "yes"
    reached: Annotated[Mapping[Of, Cell], Count(600)] = told("{0}", keys=("reached",), factory=dict)
    # what went in otherwise than planned, by layer and line
    went_in: Annotated[Mapping[Of, Cell], Count(600)] = told("{0}, went in", keys=("line",), factory=dict)
    # what was there when a layer was made, and what stayed on tools, by layer
    came_out: Annotated[Mapping[Key, Cell], Count(60)] = told("{0}, came out", keys=("layer",), factory=dict)
    left: Annotated[Mapping[Key, Cell], Count(60)] = told("{0}, left on tools", keys=("layer",), factory=dict)
    faults: Annotated[tuple[FaultSeen, ...], Count(60)] = told("faults", label="{fault}", noun="fault", default=())
    sheets: Annotated[tuple[Sheet, ...], Count(200)] = told("score sheets", label="Sheet of {taster}", noun="sheet", default=())
    senses: Annotated[tuple[OwnSense, ...], Count(20)] = told("own senses", label="{name}", noun="sense", default=())
    tastings: Annotated[tuple[Tasting, ...], Count(20)] = told("tastings", label="Tasting {n}", noun="tasting", default=())
    days: Annotated[tuple[Day, ...], Count(60)] = told("days", label="After {days} days", noun="day", default=())
    words: Words = told("words", default="")


@dataclass(frozen=True, slots=True, kw_only=True)
class Photo:
    """A picture of the original or of a copy; the picture itself lies beside it, under its hash."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    of: Whose = told("of")
    trial: Key | None = told("trial", refers="trial", binds=True, default=None, silent="which trial it is of is seen")
    image: Annotated[str, Signs(64)] = told("picture", silent="a fingerprint")
    width_px: int = told("wide", silent="of the picture itself")
    height_px: int = told("high", silent="of the picture itself")
    wide: Cell = told("what is seen is wide", default="")  # so that both are shown at one scale
    # the picture itself as base64, in files alone; here it lies beside
    data: Annotated[str, Signs(700_000)] = told("picture", silent="it is no decision", default="")
    words: Words = told("words", default="")
