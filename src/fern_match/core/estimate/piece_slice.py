"""The slice: the estimated layers as a cut face, to scale."""

from fern_match.core.estimate.result import Estimate, LayerEstimate
from fern_match.core.families import Families
from fern_match.core.food import Pantry
from fern_match.core.physics.cut_face import CutFace, Slab, cut_face
from fern_match.core.physics.density import mixture_density_g_cm3
from fern_match.core.study.record import Layer, Place


def slice_of(
    estimate: Estimate,
    build: tuple[Layer, ...],
    pantry: Pantry,
    families: Families,
    box_mm: tuple[float, float, float] | None = None,
) -> CutFace:
    """The cut face that the best values draw; its size is assumed until length, width and height are known.

    Args:
        build: The layers as the study orders them.
        box_mm: Measured length, width and height [mm].
    """
    by_id = {layer.layer_id: layer for layer in estimate.layers}
    volumes = {key: layer_volume_cm3(layer, pantry, families) for key, layer in by_id.items()}
    slabs = []
    for layer in build:
        if layer.id not in by_id or (layer.place is Place.INCLUSION and layer.host in by_id):
            continue
        inside = [other.id for other in build if other.place is Place.INCLUSION and other.host == layer.id and other.id in by_id]
        volume = volumes[layer.id] + sum(volumes[other] for other in inside)
        grams = by_id[layer.id].grams
        spread = volumes[layer.id] / grams.best if grams.best > 0 else 0.0
        low, high = (volume + spread * (end - grams.best) for end in (grams.low, grams.high))
        place = layer.place.value if layer.place is not Place.INCLUSION else Place.STACK.value
        slabs.append(Slab(layer.id, place, volume, low, high))
    return cut_face(slabs, box_mm)


def layer_volume_cm3(layer: LayerEstimate, pantry: Pantry, families: Families) -> float:
    """Volume of a layer of the mean piece, its family's usual air included [cm3].

    Source: `mixture_density_g_cm3`.
    """
    grams: dict[str, float] = {}
    for one in layer.ingredients:
        grams[one.ingredient_id] = grams.get(one.ingredient_id, 0.0) + one.grams.best
    porosity = families[layer.family].porosity_typical
    return layer.grams.best / mixture_density_g_cm3(grams, layer.water_lost_g.best, porosity, pantry)
