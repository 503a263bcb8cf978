"""Gear as typed, and as read: pans and frames, moulds, lined cups, scoops, cutters and bowls, each with its sizes.

Worked example: a mould of 15 half spheres of 28 mm: a cavity of 2/3 pi 14^3 = 5.75 mL, 86 mL in all; weighed with water it held
5.6 g, so 5.61 mL, and what was measured counts before what follows from a shape.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import ClassVar

from fern_match.core.measures.amounts import Typed, read_count, read_millilitres, read_millimetres
from fern_match.core.measures.numbers import Comma
from fern_match.core.measures.volumes import Measures
from fern_match.core.physics.solids import cup_cm3, cylinder_cm3, half_sphere_cm3, slab_cm3
from fern_match.core.record import STRICT, told
from fern_match.core.record.texts import Cell, Key, Name

MOST_CAVITIES = 500
_MOST_MM = 1500.0
_MM2 = 100.0  # in a cm2
_ML_PER_L, _WHOLE_FROM_ML = 1000.0, 100.0
_APART = 0.15  # a measured volume this far from that of the shape is worth a word


class GearKind(StrEnum):
    """What it is for."""

    PAN = "pan"  # pans, frames, trays with a rim, loaf tins: what is poured or pressed and cut
    MOULD = "mould"
    CUP = "cup"  # lined cups, filled by spoon
    SCOOP = "scoop"
    CUTTER = "cutter"
    BOWL = "bowl"


class GearShape(StrEnum):
    """Its inside: in plan for pans, cutters and bowls, of a cavity for moulds and cups."""

    RECTANGLE = "rectangle"
    ROUND = "round"
    HALF_SPHERE = "half sphere"
    TAPERED = "tapered cup"  # wider above
    OTHER = "other"  # as weighed with water


_SHAPES: Mapping[GearKind, tuple[GearShape, ...]] = {
    GearKind.MOULD: tuple(GearShape),
    GearKind.CUP: tuple(GearShape),
    GearKind.SCOOP: (GearShape.OTHER,),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Gear:
    """One thing one has; sizes inside, as typed."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    name: Name = told("name")
    kind: GearKind = told("kind")
    shape: GearShape = told("shape", default=GearShape.RECTANGLE)
    length: Cell = told("length", default="")  # the diameter of what is round; above, of a tapered cup
    width: Cell = told("width", default="")  # the diameter below, of a tapered cup
    depth: Cell = told("depth", default="")
    volume: Cell = told("volume", default="")  # of one cavity, cup or scoop
    cavities: Cell = told("cavities", default="")
    halves: bool = told("two halves make a piece", default=False)


@dataclass(frozen=True, slots=True, kw_only=True)
class GearReading:
    """Gear as read."""

    gear: Gear
    length: Typed  # mm
    width: Typed  # mm
    depth: Typed  # mm
    volume: Typed  # mL
    cavities: Typed

    @property
    def cells(self) -> Mapping[str, Typed]:
        """Its figures by field."""
        return {
            "length": self.length,
            "width": self.width,
            "depth": self.depth,
            "volume": self.volume,
            "cavities": self.cavities,
        }

    @property
    def wanted(self) -> tuple[str, ...]:
        """Fields that say something of gear of this kind and shape."""
        kind, shape = self.gear.kind, self.gear.shape
        if kind is GearKind.SCOOP:
            return ("volume",)
        sides = {GearShape.RECTANGLE: ("length", "width"), GearShape.TAPERED: ("length", "width")}.get(shape, ("length",))
        if kind in {GearKind.PAN, GearKind.BOWL}:
            return (*sides, "depth")
        if kind is GearKind.CUTTER:
            return sides
        cavity = {GearShape.HALF_SPHERE: ("length",), GearShape.OTHER: ()}.get(shape, (*sides, "depth"))
        return (*cavity, "volume", "cavities")

    @property
    def area_cm2(self) -> float | None:
        """Inside, from above [cm2]; None while a side is to say."""
        length, width = self.length.value, self.width.value
        if length is None:
            return None
        if self.gear.shape is GearShape.RECTANGLE:
            return length * width / _MM2 if width is not None else None
        return math.pi * (length / 2) ** 2 / _MM2 if self.gear.shape is not GearShape.OTHER else None

    def takes(self, long_mm: float, wide_mm: float) -> bool:
        """Whether a piece can lie flat in it; so taken where its sides are not known.

        Args:
            long_mm: Of the piece.
            wide_mm: Of the piece.
        """
        length, width = self.length.value, self.width.value
        if length is None:
            return True
        if self.gear.shape is not GearShape.RECTANGLE:
            return math.hypot(long_mm, wide_mm) <= length
        sides = sorted((length, length if width is None else width))
        return all(one <= side for one, side in zip(sorted((long_mm, wide_mm)), sides, strict=True))

    @property
    def shapes(self) -> tuple[GearShape, ...]:
        """Shapes that gear of its kind comes in."""
        return _SHAPES.get(self.gear.kind, (GearShape.RECTANGLE, GearShape.ROUND))

    @property
    def shape_ml(self) -> float | None:
        """What it holds by its shape [mL]; None where the shape does not say."""
        return inside_ml(self.gear.shape, self.length.value, self.width.value, self.depth.value)

    @property
    def holds_ml(self) -> float | None:
        """What one cavity, cup, scoop, pan or bowl holds to the rim [mL]: as measured, else by its shape."""
        return self.volume.value if self.volume.value is not None else self.shape_ml

    @property
    def pieces(self) -> int:
        """How many pieces come out of it at once."""
        cavities = int(self.cavities.value or 1)
        return max(1, cavities // 2) if self.gear.halves else cavities

    @property
    def problem(self) -> str | None:
        """The first thing that keeps it from being used; None where nothing does."""
        unread = next((one.problem for key, one in self.cells.items() if one.problem and key in self.wanted), None)
        if unread:
            return unread
        missing = self._missing()
        if missing:
            return f"Still to say: {missing}."
        if self.gear.halves and int(self.cavities.value or 1) % 2:
            return "Two halves make a piece, and the number of cavities is odd: one stays empty."
        by_shape, measured = self.shape_ml, self.volume.value
        if by_shape and measured and abs(measured / by_shape - 1) > _APART:
            return f"By its sizes it holds {by_shape:.3g} mL, as measured {measured:.3g} mL: what was measured counts."
        return None

    @property
    def words(self) -> str:
        """Its size, for a list."""
        sizes = [f"{one.value:.4g}" for one in (self.length, self.width, self.depth) if one.value is not None]
        size = f"{' × '.join(sizes)} mm" if sizes and self.gear.kind is not GearKind.SCOOP else ""
        holds = _volume_words(self.holds_ml) if self.holds_ml is not None and self.gear.kind is not GearKind.CUTTER else ""
        area = f"{self.area_cm2:.3g} cm²" if self.gear.kind is GearKind.PAN and self.area_cm2 is not None else ""
        many = f"{self.cavities.value:.0f} cavities" if (self.cavities.value or 0) > 1 else ""
        return ", ".join(one for one in (size, area, holds, many) if one)

    def _missing(self) -> str:
        kind = self.gear.kind
        if kind in {GearKind.MOULD, GearKind.CUP, GearKind.SCOOP}:
            return (
                "" if self.holds_ml is not None else "what it holds, or its sizes" if kind is not GearKind.SCOOP else "its number"
            )
        if self.area_cm2 is not None:
            return ""
        return "length and width" if self.gear.shape is GearShape.RECTANGLE else "the diameter"


def _volume_words(ml: float) -> str:
    """A volume for a list."""
    return f"{ml / _ML_PER_L:.1f} L" if ml >= _ML_PER_L else f"{ml:.0f} mL" if ml >= _WHOLE_FROM_ML else f"{ml:.1f} mL"


def inside_ml(shape: GearShape, length_mm: float | None, width_mm: float | None, depth_mm: float | None) -> float | None:
    """What a shape holds to the rim [mL]; None where a length is not known or the shape does not say.

    Args:
        shape: Of the inside.
        length_mm: Or the diameter, above of a tapered cup.
        width_mm: Or the diameter below, of a tapered cup.
        depth_mm: From the rim down.

    >>> round(inside_ml(GearShape.HALF_SPHERE, 28, None, None), 2)
    5.75
    """
    if length_mm is None:
        return None
    if shape is GearShape.HALF_SPHERE:
        return half_sphere_cm3(length_mm / 2)
    if depth_mm is None:
        return None
    if shape is GearShape.ROUND:
        return cylinder_cm3(length_mm, depth_mm)
    if width_mm is None or shape is GearShape.OTHER:
        return None
    if shape is GearShape.TAPERED:
        return cup_cm3(length_mm / 2, width_mm / 2, depth_mm)
    return slab_cm3(length_mm, width_mm, depth_mm)


def read_gear(gear: Gear, measures: Measures, comma: Comma) -> GearReading:
    """Gear with its figures read.

    Args:
        gear: As typed.
        measures: Whose spoons, where a volume is in them.
        comma: What a comma means.
    """
    length, width, depth = (
        read_millimetres(typed, most_mm=_MOST_MM, comma=comma) for typed in (gear.length, gear.width, gear.depth)
    )
    return GearReading(
        gear=gear,
        length=length,
        width=width,
        depth=depth,
        volume=read_millilitres(gear.volume, measures=measures, comma=comma),
        cavities=read_count(gear.cavities, most=MOST_CAVITIES, what="number of cavities", comma=comma),
    )
