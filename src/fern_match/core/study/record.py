"""The study of an original as the user typed it: nothing corrected, nothing clamped, nothing lost."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from fern_match.core.label.rows import Basis, Region, RowId

PIECE = "piece"  # the subject of a weighing of whole pieces; any other subject is a layer's id


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


@dataclass(frozen=True, slots=True, kw_only=True)
class LabelText:
    """The label's figures as typed."""

    net_weight: str = ""
    pieces_per_pack: str = ""
    serving: str = ""
    basis: Basis = Basis.PER_100_G
    rows: Mapping[RowId, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceSize:
    """Outside dimensions of a piece as typed."""

    length: str = ""
    width: str = ""
    height: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Layer:
    """One edible part; coats from outside in, then the stack from bottom to top."""

    id: str
    name: str
    family: str
    place: Place
    host: str | None = None  # the layer an inclusion is in


@dataclass(frozen=True, slots=True, kw_only=True)
class Study:
    """All that was written down about one original."""

    name: str
    maker: str = ""
    region: Region = Region.EU
    label: LabelText = field(default_factory=LabelText)
    statement: str = ""
    corrections: Mapping[str, str] = field(default_factory=dict)  # statement item key -> ingredient id
    layers: tuple[Layer, ...] = ()
    placements: Mapping[tuple[str, str], Whereabouts] = field(default_factory=dict)  # (item key, layer id)
    weighings: Mapping[str, tuple[str, ...]] = field(default_factory=dict)  # subject -> readings as typed
    size: PieceSize = field(default_factory=PieceSize)
    doubted: frozenset[str] = frozenset()  # ids of evidence that is switched off
