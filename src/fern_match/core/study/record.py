"""The study of an original as the user typed it: nothing corrected, nothing clamped, nothing lost."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, ClassVar

from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.record import STRICT, Count, told
from fern_match.core.record.texts import Cell, EvidenceKey, ItemKey, Key, Name, Statement

PIECE = "piece"  # the subject of a weighing of whole pieces; any other subject is a layer's id
TOGETHER = "+"  # between two layers weighed together
LEAVE_OUT = "none"  # the correction that says a name is no ingredient of the pantry


class Place(StrEnum):
    """Where a layer sits in the piece."""

    COAT = "coat"
    STACK = "stack"
    CORE = "core"
    INCLUSION = "inclusion"
    TOPPING = "topping"


class Whereabouts(StrEnum):
    """Whether a named ingredient is in a layer."""

    YES = "yes"
    NO = "no"
    MAYBE = "maybe"


class Meaning(StrEnum):
    """What the bracket after a name means."""

    INGREDIENT = "ingredient"  # what a bought ingredient is made of
    LAYER = "layer"  # a layer's own list
    PARTS = "parts"  # what stands for the name: "vegetable fats (palm, shea)"


@dataclass(frozen=True, slots=True, kw_only=True)
class LabelText:
    """The label's figures as typed."""

    __pydantic_config__: ClassVar = STRICT

    net_weight: Cell = told("Net weight", default="")
    pieces_per_pack: Cell = told("Pieces in the pack", default="")
    serving: Cell = told("Serving", default="")
    servings: Cell = told("Servings in the pack", default="")
    price: Cell = told("Shop price of the pack", default="")
    basis: Basis = told("Figures are per", default=Basis.PER_100_G)
    rows: Annotated[Mapping[RowId, Cell], Count(60)] = told("{0}", keys=("row",), factory=dict)
    # the panel's other column: per 100 g where the first is per serving, and the other way round
    other_rows: Annotated[Mapping[RowId, Cell], Count(60)] = told("{0}, other column", keys=("row",), factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceSize:
    """Outside dimensions of a piece as typed."""

    __pydantic_config__: ClassVar = STRICT

    length: Cell = told("Piece, long", default="")
    width: Cell = told("Piece, wide", default="")
    height: Cell = told("Piece, high", default="")


@dataclass(frozen=True, slots=True, kw_only=True)
class Layer:
    """One edible part; coats from outside in, then the stack from bottom to top."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    name: Name = told("name")
    family: Key = told("family", says="family")
    place: Place = told("place")
    host: Key | None = told("lies in", says="layer", refers="layer", default=None)  # the layer an inclusion is in


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """One weighing as typed."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    subject: Key = told("weighed", says="subject", refers="layer", together="reading")  # PIECE or a layer's id
    typed: Cell = told("reading", says="grams", together="reading")
    also: Key | None = told(
        "weighed with", says="layer", refers="layer", binds=True, together="reading", default=None
    )  # a layer that could not be parted from it

    @property
    def what(self) -> str:
        """What was weighed: PIECE, a layer's id, or two joined by a plus."""
        return self.subject if self.also is None else TOGETHER.join(sorted((self.subject, self.also)))


class Spot(StrEnum):
    """Where on a cut face a thickness was measured."""

    ANYWHERE = "anywhere"
    TOP = "top"
    SIDE = "side"
    BOTTOM = "bottom"


@dataclass(frozen=True, slots=True, kw_only=True)
class Thickness:
    """One thickness of a layer as typed."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    layer: Key = told("layer", says="layer", refers="layer", together="reading")
    typed: Cell = told("thickness", together="reading")
    spot: Spot = told("where", default=Spot.ANYWHERE)


@dataclass(frozen=True, slots=True, kw_only=True)
class Study:
    """All that was written down about one original."""

    __pydantic_config__: ClassVar = STRICT

    name: Name = told("Name")
    maker: Name = told("Maker", default="")
    region: Region = told("Label from", default=Region.EU)
    label: LabelText = told("Label", factory=LabelText)
    statement: Statement = told("Ingredient statement", default="")
    sentence: Cell = told("What the pack says it is", default="")
    corrections: Annotated[Mapping[ItemKey, Key], Count(400)] = told(
        "“{0}” taken for", keys=("item",), says="ingredient", factory=dict
    )
    # statement item -> the user's own reading of its bracket
    meanings: Annotated[Mapping[ItemKey, Meaning], Count(400)] = told("Bracket after {0} read as", keys=("item",), factory=dict)
    layers: Annotated[tuple[Layer, ...], Count(20)] = told("layers", label="{name}", noun="layer", provides="layer", default=())
    # statement item -> layer -> the user's own answer
    placements: Annotated[Mapping[ItemKey, Mapping[Key, Whereabouts]], Count(2000)] = told(
        "{0} in {1}", keys=("item", "layer"), refers="layer", factory=dict
    )
    readings: Annotated[tuple[Reading, ...], Count(2400)] = told(
        "readings", label="{subject}, reading {n}", noun="reading", value="typed", default=()
    )
    size: PieceSize = told("Size", factory=PieceSize)
    thicknesses: Annotated[tuple[Thickness, ...], Count(400)] = told(
        "thicknesses", label="{layer}, thickness {n}", noun="thickness", value="typed", default=()
    )
    # marks from 0 to 10, as it was tasted when it was studied
    senses: Annotated[Mapping[Key, Cell], Count(40)] = told("{0}", keys=("sense",), factory=dict)
    # ids of evidence that is switched off
    doubted: Annotated[tuple[EvidenceKey, ...], Count(400)] = told(
        "Evidence switched off",
        says="evidence",
        added="Evidence switched off: {0}",
        removed="Evidence switched on: {0}",
        default=(),
    )


def weighed(typed: Mapping[str, Sequence[str]]) -> tuple[Reading, ...]:
    """Readings by subject as entries of a study, numbered within each subject.

    Args:
        typed: Subject -> its readings as typed.

    >>> weighed({"coat": ["16.2"]})[0].id
    'coat-1'
    """
    return tuple(
        Reading(id=f"{subject}-{number}", subject=subject, typed=text)
        for subject, texts in typed.items()
        for number, text in enumerate(texts, 1)
    )
