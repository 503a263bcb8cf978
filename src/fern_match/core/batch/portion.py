"""A piece of a version as batches see it: its layers with their places and volumes, and what is made of it.

Worked example: 10 g of a caramel at 1.33 g/cm3 are 7.52 cm3; a nut that lies in it adds to its height and not a layer of its own.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from fern_match.core.batch.scale import BY_THE_PIECE
from fern_match.core.families import Families
from fern_match.core.food import Pantry
from fern_match.core.formulate import Formula, FormulaLayer, layer_cm3
from fern_match.core.measures.pieces import MOST_PIECES
from fern_match.core.study.record import Layer, Place

SAME = 0.01  # relative: nobody sees it


@dataclass(eq=False)
class NoPortion(Exception):
    """No batch comes out of this gear, in words for the field."""

    sentence: str

    def __str__(self) -> str:
        return self.sentence


@dataclass(frozen=True, slots=True, kw_only=True)
class LayerHeight:
    """One layer of a slab [mm]."""

    layer_id: str
    name: str
    meant_mm: float
    stands_mm: float


@dataclass(frozen=True, slots=True)
class Corner:
    """The corner of a piece that is nearest to the pan's."""

    x_mm: float
    y_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class CutPlan:
    """A slab from above: the pan, what is trimmed, and the cuts [mm]."""

    length_mm: float
    width_mm: float
    round: bool
    trim_mm: float
    piece_length_mm: float  # as it lies along the pan's length
    piece_width_mm: float
    corners: tuple[Corner, ...]
    pans: int
    used: float  # share of the pan that is in pieces
    heights: tuple[LayerHeight, ...]  # from below


@dataclass(frozen=True, slots=True, kw_only=True)
class CavityPart:
    """What one layer takes of a cavity."""

    layer_id: str
    name: str
    grams: float
    ml: float
    meant_g: float
    spoons: str  # the same by spoon; empty where no spoon is near it


@dataclass(frozen=True, slots=True, kw_only=True)
class CavityPlan:
    """One cavity in section."""

    shape: str
    top_mm: float | None
    bottom_mm: float | None
    depth_mm: float | None
    shell_mm: float | None
    cap_mm: float | None
    holds_ml: float
    filling_ml: float
    filling_to_mm: float | None  # from the rim down: where the filling ends, the cap above
    parts: tuple[CavityPart, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Ring:
    """One layer of a ball, from the inside out."""

    layer_id: str
    name: str
    grams: float
    outer_mm: float  # diameter with all that is inside


@dataclass(frozen=True, slots=True, kw_only=True)
class BallPlan:
    """A ball in section."""

    rings: tuple[Ring, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetPlan:
    """A rolled sheet from above, with what is cut out of it at once [mm]."""

    length_mm: float
    width_mm: float
    thick_mm: float
    round: bool
    piece_length_mm: float
    piece_width_mm: float
    corners: tuple[Corner, ...]
    at_once: int
    from_scraps: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Portions:
    """How much is made, and in what."""

    pieces: int
    factors: Mapping[str, float] = field(default_factory=dict)  # by layer: of what the version has in a piece; 1 elsewhere
    trimmed: Mapping[str, float] = field(default_factory=dict)  # by layer: share of what leaves the tools that is cut away
    words: tuple[str, ...] = ()
    cut: CutPlan | None = None
    cavity: CavityPlan | None = None
    sheet: SheetPlan | None = None
    ball: BallPlan | None = None


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece of the version: its layers with their places and volumes."""

    formula: Formula
    build: Mapping[str, Layer]
    pantry: Pantry
    families: Families

    def cm3(self, layer: FormulaLayer) -> float:
        """Volume of a layer [cm3]."""
        return layer_cm3(layer, self.pantry, self.families) if layer.finished_g > 0 else 0.0

    def is_coat(self, layer: FormulaLayer) -> bool:
        """Whether it goes round the others."""
        placed = self.build.get(layer.layer_id)
        if placed is not None:
            return placed.place is Place.COAT
        kind = self.families.by_id.get(layer.family)
        return kind is not None and kind.place == "coat"

    def lies_in(self, layer: FormulaLayer) -> bool:
        """Whether it adds no height of its own: it is in another layer, or lies on top in pieces."""
        placed = self.build.get(layer.layer_id)
        return placed is not None and placed.place in {Place.INCLUSION, Place.TOPPING}

    def is_whole(self, layer: FormulaLayer) -> bool:
        """Whether it goes in by the piece, one fruit or nut each, so that no cavity changes how much of it there is."""
        return layer.family in BY_THE_PIECE

    def named(self, layer_id: str) -> FormulaLayer:
        """A layer by its id.

        Raises:
            NoPortion: the version has none of that id.
        """
        found = next((one for one in self.formula.layers if one.layer_id == layer_id), None)
        if found is None:
            raise NoPortion("Say which layer is portioned.")
        return found


def portioned(formula: Formula, factors: Mapping[str, float]) -> Formula:
    """A piece as it comes out: each layer larger or smaller as a whole.

    Args:
        formula: Of the version.
        factors: By layer; 1 where there is none.
    """

    def sized(layer: FormulaLayer) -> FormulaLayer:
        by = factors.get(layer.layer_id, 1.0)
        lines = tuple(replace(one, grams=one.grams * by, least_g=one.least_g * by) for one in layer.ingredients)
        return replace(layer, ingredients=lines, water_lost_g=layer.water_lost_g * by)

    return replace(formula, layers=tuple(map(sized, formula.layers)))


def checked_pieces(pieces: int) -> int:
    """So many pieces, where they can be planned at once.

    Args:
        pieces: 1 or more.

    Raises:
        NoPortion: they are more.
    """
    if pieces > MOST_PIECES:
        raise NoPortion(f"That gives {pieces} pieces; up to {MOST_PIECES} are planned at once.")
    return pieces


def rounds_for(each: int, said: int | None, wanted: int | None) -> int:
    """How often gear is filled: as said, else as often as the pieces that are wanted take, else once.

    Args:
        each: Pieces that come out of it at once, 1 or more.
        said: How many of it, or how often, the user said.
        wanted: How many pieces are wanted.
    """
    return said if said is not None else 1 if wanted is None else math.ceil(wanted / each)


def off_words(off: float, more: str = "more", less: str = "less") -> str:
    """How far something is off: “40 % more”; empty where nobody sees it.

    Args:
        off: Relative.
        more: What it is where it is above.
        less: What it is where it is below.
    """
    return "" if abs(off) < SAME else f"{100 * abs(off):.0f}\u00a0% {more if off > 0 else less}"


def pieces_words(count: int) -> str:
    """As in “24 pieces”.

    Args:
        count: 1 or more.
    """
    return "1 piece" if count == 1 else f"{count} pieces"
