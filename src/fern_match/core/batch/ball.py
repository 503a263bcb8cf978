"""A ball in section: core, paste, coat and crust as rings, from the inside out.

Worked example: a hazelnut of 1.1 cm3 in 8 cm3 of paste under 3 cm3 of coat: radii 6.4, 12.9 and 14.2 mm.
"""

import math
from collections.abc import Mapping

from fern_match.core.batch.portion import BallPlan, Piece, Ring
from fern_match.core.formulate import FormulaLayer
from fern_match.core.study.record import Place

_MM_PER_CM = 10.0
_INSIDE_OUT = (Place.INCLUSION, Place.CORE, Place.STACK, Place.COAT, Place.TOPPING)


def radius_mm(cm3: float) -> float:
    """Of a ball [mm].

    Args:
        cm3: Its volume, 0 or more.

    >>> round(radius_mm(9.1), 1)
    13.0
    """
    return _MM_PER_CM * math.cbrt(3 * cm3 / (4 * math.pi))


def ball_of(piece: Piece, factors: Mapping[str, float]) -> BallPlan | None:
    """The rings of a piece that is portioned and rolled; None of one that is layered, or has no core.

    Args:
        piece: Of the version.
        factors: By layer: how much larger it comes out; 1 elsewhere.
    """
    placed = {key: one.place for key, one in piece.build.items()}
    layers = [one for one in piece.formula.layers if one.finished_g > 0]
    cores = [one for one in layers if placed.get(one.layer_id) is Place.CORE]
    if len(cores) != 1 or any(placed.get(one.layer_id, Place.STACK) is Place.STACK and not piece.is_coat(one) for one in layers):
        return None

    def depth(layer: FormulaLayer) -> int:
        place = Place.COAT if piece.is_coat(layer) else placed.get(layer.layer_id, Place.STACK)
        return _INSIDE_OUT.index(place)

    inside_out = sorted(layers, key=lambda one: (depth(one), -layers.index(one)))
    rings, volume = [], 0.0
    for layer in inside_out:
        factor = factors.get(layer.layer_id, 1.0)
        volume += factor * piece.cm3(layer)
        rings.append(
            Ring(layer_id=layer.layer_id, name=layer.name, grams=factor * layer.finished_g, outer_mm=2 * radius_mm(volume))
        )
    return BallPlan(rings=tuple(rings))
