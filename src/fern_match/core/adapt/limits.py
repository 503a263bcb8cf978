"""What a layer or a piece may hold at most under rules, as limits of the program.

Worked example: sugars at most 0.5 g in 100 g, a piece of 40 g, a layer of 10 g: 0.2 g for the piece, 0.045 g guide the layer.
"""

from collections.abc import Callable, Sequence

from fern_match.core.adapt.bench import Bench
from fern_match.core.adapt.rules import Rule, measured
from fern_match.core.food import Ingredient, load_per_gram
from fern_match.core.formulate import (
    Formula,
    FormulaLayer,
    PieceLimit,
    Property,
    Target,
)

_MOST_SWEETNESS = 0.08  # g of sugar equivalents by intense sweeteners in a g of a layer: more turns bitter
_LOAD_ALLOWED = 0.999  # of a single laxative dose, in a serving
_INSIDE = 1e-7


def layer_limits(layer: FormulaLayer, own: Sequence[Target], piece_g: float, bench: Bench, room: float) -> list[PieceLimit]:
    """Intense sweeteners by what turns bitter; of what the piece shares a limit, the layer's part by its weight and some room.

    Args:
        layer: To be solved alone.
        own: Its targets.
        piece_g: What the whole piece weighs [g].
        bench: The rules.
        room: Of its part by weight, above 0.
    """
    finished = next((one.wanted for one in own if one.what is Property.MASS), layer.finished_g)
    limits = [_bitter(layer.layer_id, layer.name, finished)]
    for rule in bench.rules:
        if rule.limit is not None and rule.measure:
            most = room * _limit_of_piece(rule, piece_g, bench) * finished / piece_g
            weigh = _weigher(rule.measure)
            limits.append(PieceLimit(id=f"{rule.id} guide", words="", weigh=weigh, most=most, layer_id=layer.layer_id))
    return limits


def piece_limits(formula: Formula, targets: Sequence[Target], bench: Bench) -> tuple[PieceLimit, ...]:
    """What the whole piece must hold to."""
    weights = {one.layer_id: one.wanted for one in targets if one.what is Property.MASS}
    masses = {layer.layer_id: weights.get(layer.layer_id, layer.finished_g) for layer in formula.layers}
    piece_g = sum(masses.values())
    limits = [_bitter(layer.layer_id, layer.name, masses[layer.layer_id]) for layer in formula.layers]
    for rule in bench.rules:
        if rule.limit is None or not rule.measure:
            continue
        scale = {"serving": bench.serving_g, "100 g": 100.0}.get(rule.basis, piece_g)
        limits.append(
            PieceLimit(
                id=f"{rule.id} limit",
                words=f"{rule.measure} at most {rule.limit:g} g a {rule.basis}",
                weigh=_weigher(rule.measure),
                most=_limit_of_piece(rule, piece_g, bench) - _INSIDE,
                step=0.5 * piece_g / scale,
                moved=f"{rule.measure} allowed to {rule.limit + 0.5:g} g a {rule.basis}",
            )
        )
    if bench.of_sugar and bench.serving_g > 0:
        limits.append(
            PieceLimit(
                id="load",
                words="polyols and fibre of a serving below what often upsets a stomach",
                weigh=load_per_gram,
                most=_LOAD_ALLOWED * piece_g / bench.serving_g,
            )
        )
    return tuple(limits)


def _limit_of_piece(rule: Rule, piece_g: float, bench: Bench) -> float:
    """A rule's limit for one piece [g]."""
    scale = {"serving": bench.serving_g, "100 g": 100.0}.get(rule.basis, piece_g)
    return (rule.limit or 0.0) * piece_g / scale


def _bitter(layer_id: str, name: str, finished_g: float) -> PieceLimit:
    return PieceLimit(
        id=f"{layer_id} intense",
        words=f"intense sweeteners in {name} at most 8 % of sugar's sweetness",
        weigh=lambda food: (food.sweetness or 0.0) if food.category == "intense-sweetener" else 0.0,
        most=_MOST_SWEETNESS * finished_g,
        layer_id=layer_id,
    )


def _weigher(measure: str) -> Callable[[Ingredient], float]:
    return lambda food: measured(food, measure)
