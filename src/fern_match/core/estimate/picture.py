"""A piece by its look: a small slice for lists, from the estimate or, before there is one, from usual proportions."""

from collections.abc import Sequence
from dataclasses import dataclass

from fern_match.core.families import Families, Family
from fern_match.core.food import Pantry
from fern_match.core.physics.cut_face import CutFace, Slab, cut_face
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, Place, Study

_USUAL_DENSITY_G_CM3 = 1.25  # of most fillings without air (approximate)
_USUAL_PIECE_G = 40.0


@dataclass(frozen=True, slots=True)
class SmallBand:
    """A rectangle of a layer, in shares of the slice's width, from the lower left corner."""

    x: float
    y: float
    width: float
    height: float
    texture: str
    tone: str


@dataclass(frozen=True, slots=True)
class SmallSlice:
    """A cut face without its measures."""

    height: float  # as a share of its width
    rough: bool  # drawn from usual proportions
    bands: tuple[SmallBand, ...]


def small_slice(face: CutFace, reading: StudyReading, *, rough: bool = False) -> SmallSlice:
    """A cut face as a list shows it.

    Args:
        rough: Whether it is drawn from usual proportions.
    """
    looks = {layer.id: family.traits for layer, family in reading.build}
    wide = face.width_mm
    bands = [
        SmallBand(
            x=round(band.x_mm / wide, 4),
            y=round(band.y_mm / wide, 4),
            width=round(band.width_mm / wide, 4),
            height=round(band.height_mm / wide, 4),
            texture=looks[band.id].texture,
            tone=looks[band.id].tone,
        )
        for band in face.bands
        if band.id in looks
    ]
    return SmallSlice(height=round(face.height_mm / wide, 4), rough=rough, bands=tuple(bands))


def rough_slice(reading: StudyReading) -> SmallSlice | None:
    """The slice of a build in its families' usual proportions; None where there is no build."""
    build = reading.build
    total = sum(family.traits.usual_weight for _, family in build)
    if not build or total <= 0:
        return None
    piece_g = reading.piece_prior.mean_g if reading.piece_prior else _USUAL_PIECE_G
    volumes = {layer.id: _volume_cm3(family, piece_g / total) for layer, family in build}
    ids = set(volumes)
    slabs = []
    for layer, _ in build:
        if layer.place is Place.INCLUSION and layer.host in ids:
            continue
        volume = volumes[layer.id] + sum(volumes[other.id] for other, _ in build if _lies_in(other, layer))
        place = Place.STACK.value if layer.place is Place.INCLUSION else layer.place.value
        slabs.append(Slab(layer.id, place, volume, volume, volume))
    return small_slice(cut_face(slabs, reading.size.box_mm), reading, rough=True)


def slice_of_build(layers: Sequence[Layer], pantry: Pantry, families: Families) -> SmallSlice | None:
    """The slice of layers that nothing else is known of."""
    return rough_slice(StudyReading(Study(name="build", layers=tuple(layers)), pantry, families))


def _volume_cm3(family: Family, grams_per_weight: float) -> float:
    return family.traits.usual_weight * grams_per_weight / (_USUAL_DENSITY_G_CM3 * (1 - family.porosity_typical))


def _lies_in(other: Layer, layer: Layer) -> bool:
    return other.place is Place.INCLUSION and other.host == layer.id
