"""One layer solved alone under rules, by the family and the ingredients that come nearest."""

from collections.abc import Sequence
from dataclasses import replace

from fern_match.core.adapt.bench import Bench
from fern_match.core.adapt.limits import layer_limits
from fern_match.core.adapt.offer import kinds_for, offered
from fern_match.core.adapt.rules import measured
from fern_match.core.adapt.swaps import System
from fern_match.core.formulate import (
    Formula,
    FormulaLayer,
    Room,
    Solved,
    Target,
    solve,
)

_GAP, _SECONDS = 0.02, 0.5
LEAST_G = 1e-5
PARTS = (0.9, 3.0)  # of a layer's share of what the piece may hold


def best_layer(
    formula: Formula,
    layer: FormulaLayer,
    targets: Sequence[Target],
    system: System | None,
    bench: Bench,
    parts: Sequence[float],
    *,
    grouped: bool = True,
) -> tuple[FormulaLayer, FormulaLayer] | None:
    """The family and ingredients that come nearest for one layer, and all that was on offer for it.

    A layer in which nothing is touched stays as it is.
    """
    own = [one for one in targets if one.layer_id == layer.layer_id]
    if _untouched(layer, bench, system):
        return layer, layer
    kinds = kinds_for(layer, system, bench)
    for group in kinds if grouped else [[one for kind in kinds for one in kind]]:
        best: tuple[float, FormulaLayer, FormulaLayer] | None = None
        for family in group:
            lines = offered(layer, family, system, bench)
            if not lines:
                continue
            trial = replace(layer, family=family.id, ingredients=lines, water_lost_g=0.0)
            tried = replace(formula, layers=tuple(trial if one is layer else one for one in formula.layers))
            solved = _tried(tried, trial, own, formula.piece_g, system, bench, parts)
            if solved is None:
                continue
            made = next(one for one in solved.formula.layers if one.layer_id == layer.layer_id)
            made = replace(made, ingredients=tuple(line for line in made.ingredients if line.grams > LEAST_G))
            cost = solved.miss + 0.2 * len(made.ingredients) + (0.0 if family.id == layer.family else 0.5)
            if best is None or cost < best[0]:
                best = (cost, made, trial)
        if best is not None:
            return best[1], best[2]
    return None


def _tried(
    tried: Formula,
    trial: FormulaLayer,
    own: Sequence[Target],
    piece_g: float,
    system: System | None,
    bench: Bench,
    parts: Sequence[float],
) -> Solved | None:
    """A layer solved alone, with the first of some parts of the piece's limits that is enough."""
    for part in parts if any(rule.limit is not None for rule in bench.rules) else parts[:1]:
        key = (trial.layer_id, trial.family, system.id if system is not None else "", part)
        if key not in bench.solved:
            limits = layer_limits(trial, own, piece_g, bench, part)
            room = Room(free=[trial.layer_id], choose=True, explain=False, limits=limits, gap=_GAP, seconds=_SECONDS)
            found = solve(tried, own, room, reading=bench.reading, pantry=bench.pantry, families=bench.families)
            bench.solved[key] = found if found.impossible is None else None
        solved = bench.solved[key]
        if solved is not None:
            return solved
    return None


def _untouched(layer: FormulaLayer, bench: Bench, system: System | None) -> bool:
    """Whether a layer may stay: nothing forbidden in it, and nothing that a limit is about."""
    for line in layer.ingredients:
        food = bench.pantry.by_id.get(line.ingredient_id)
        if food is None or not bench.allowed(food, system):
            return False
        if bench.of_sugar and any(
            measured(food, rule.measure) * line.grams > 0.01 * layer.finished_g for rule in bench.rules if rule.measure
        ):
            return False
    return True
