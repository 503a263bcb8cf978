"""The slice of a version: its layers as a cut face, in the places the study gives them."""

from collections.abc import Sequence

from fern_match.core.families import Families
from fern_match.core.food import Pantry
from fern_match.core.formulate.record.formula import Formula, FormulaLayer
from fern_match.core.physics.cut_face import CutFace, Slab, cut_face
from fern_match.core.physics.density import mixture_density_g_cm3
from fern_match.core.study.record import Layer, Place


def slice_of_version(
    formula: Formula,
    build: Sequence[Layer],
    pantry: Pantry,
    families: Families,
    box_mm: tuple[float, float, float] | None = None,
) -> CutFace | None:
    """The cut face that a formula draws; a layer the study does not place is stacked on top. None where nothing weighs anything.

    Args:
        formula: For one piece.
        build: The layers as the study orders them.
        pantry: For densities.
        families: For the usual air.
        box_mm: Measured length, width and height of the original [mm].
    """
    volumes = {layer.layer_id: layer_cm3(layer, pantry, families) for layer in formula.layers if layer.finished_g > 0}
    placed = {layer.id: layer for layer in build}
    slabs = []
    for layer_id in [*(layer.id for layer in build if layer.id in volumes), *(key for key in volumes if key not in placed)]:
        layer = placed.get(layer_id)
        if layer is not None and layer.place is Place.INCLUSION and layer.host in volumes:
            continue
        inside = [one.id for one in build if one.place is Place.INCLUSION and one.host == layer_id and one.id in volumes]
        volume = volumes[layer_id] + sum(volumes[other] for other in inside)
        place = Place.STACK if layer is None or layer.place is Place.INCLUSION else layer.place
        slabs.append(Slab(layer_id, place.value, volume, volume, volume))
    return cut_face(slabs, box_mm) if slabs else None


def layer_cm3(layer: FormulaLayer, pantry: Pantry, families: Families) -> float:
    """Volume of a finished layer of one piece, with its family's usual air [cm3].

    Args:
        layer: Weighing more than nothing.
        pantry: Compositions; what it lacks counts by weight as the rest.
        families: For the air.
    """
    grams: dict[str, float] = {}
    for one in layer.ingredients:
        if one.ingredient_id in pantry:
            grams[one.ingredient_id] = grams.get(one.ingredient_id, 0.0) + one.grams
    added = sum(grams.values())
    if added <= layer.water_lost_g:
        return layer.finished_g / 1.2
    porosity = families[layer.family].porosity_typical if layer.family in families else 0.0
    return layer.finished_g / mixture_density_g_cm3(grams, layer.water_lost_g, porosity, pantry)
