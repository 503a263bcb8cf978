"""Which lines a layer is made from, by a few linear programs instead of a search over all choices.

Worked example: of butter, coconut oil and shea butter that could give 20 g of fat a linear program takes a little of each. With
each gram dearer the less there is of it, the next one takes most of the cheapest; what is left as crumbs is then left out.
"""

from collections.abc import Iterable, Mapping
from dataclasses import replace

import numpy as np

from fern_match.core.formulate.record.formula import Formula, FormulaLayer
from fern_match.core.formulate.solving.posed import Choice, Placed, Posed
from fern_match.core.formulate.solving.program import LimitKind, Unsolved

_ROUNDS = 2
_NODES, _GAP = 60, 0.05  # of the search among what is left, where the least amounts of what is used do not fit together
_HALF = 0.5
_NOTHING_G = 1e-6  # of a layer that is to weigh nothing
_SOFT = 0.01  # of what goes into the bowl, beside an amount, so that nothing becomes infinitely dear
_CRUMB, _PART = 1e-4, 0.3  # of what goes into the bowl, and of the least that makes sense: less is left out


def chosen(posed: Posed) -> np.ndarray | Unsolved:
    """Values of a program with few lines; or why there are none, whatever is chosen.

    They cost a line or so more than the cheapest, and are found in a tenth of the time.

    Args:
        posed: With lines that may be chosen.
    """
    program, choices = posed.program, [(placed, one) for placed in posed.layers for one in placed.choices]
    values = program.solved(parted=True)
    if isinstance(values, Unsolved) or not choices:
        return values
    for _ in range(_ROUNDS):
        dearer = {one.amount: program.costs[one.amount] + _by_the_gram(placed, one, values) for placed, one in choices}
        again = program.solved(costs=dearer, parted=True)
        values = values if isinstance(again, Unsolved) else again
    left_out: dict[int, float] = {}
    taken: dict[int, float] = {}
    for placed, one in choices:
        if values[one.amount] < min(_CRUMB * _bowl(placed, values), _PART * one.least):
            left_out |= {one.amount: 0.0, one.used: 0.0}
        else:
            taken[one.used] = 1.0
    beside: dict[int, float] = {}
    for number in _too_many(posed, values, taken):
        taken.pop(number)
        beside |= {one.amount: 0.0 for _, one in choices if one.used == number} | {number: 0.0}
    tokens = {
        number: 0.0
        for _, one in choices
        if one.used in taken and values[one.amount] < one.token
        for number in (one.amount, one.used)
    }
    for out in ({**left_out, **tokens}, left_out) if tokens else (left_out,):
        found = program.solved(fixed={**taken, **out, **beside}, parted=True)
        if not isinstance(found, Unsolved):
            return found
    found = program.solved(fixed=left_out, nodes=_NODES, gap=_GAP)
    if isinstance(found, Unsolved):
        return found
    for _, one in choices:  # whole numbers are whole within a tolerance: what is not used is to be nothing
        if found[one.used] < _HALF:
            left_out |= {one.amount: 0.0, one.used: 0.0}
    exact = program.solved(fixed=left_out, parted=True)
    return found if isinstance(exact, Unsolved) else exact


def _by_the_gram(placed: Placed, one: Choice, values: np.ndarray) -> float:
    """What a line costs by being one, spread over what there is of it: dearer by the gram the less that is."""
    if one.stays:
        return 0.0
    soft = _SOFT * _bowl(placed, values) / one.strength
    return one.price / max(float(values[one.amount]) + soft, _NOTHING_G)


def _too_many(posed: Posed, values: np.ndarray, taken: Mapping[int, float]) -> list[int]:
    """Of sets of which one is used, what is there beside the one there is most of, by what says that it is used."""
    amounts = {one.used: float(values[one.amount]) for placed in posed.layers for one in placed.choices}
    found: list[int] = []
    for limit in posed.program.limits:
        if limit.kind is LimitKind.ONE_OF:
            used = sorted((one for one in limit.terms if one in taken and one not in found), key=lambda one: -amounts[one])
            found += used[round(limit.high) :]
    return found


def _bowl(placed: Placed, values: np.ndarray) -> float:
    return float(sum(values[amount] for amount in placed.amounts))


def without_empty(formula: Formula, layer_ids: Iterable[str], least_g: float = 1e-4) -> Formula:
    """A formula without the lines that a choice left out.

    Args:
        layer_ids: The layers in which something was chosen.
        least_g: What counts as nothing [g].
    """
    chosen = set(layer_ids)

    def kept(layer: FormulaLayer) -> FormulaLayer:
        if layer.layer_id not in chosen:
            return layer
        return replace(layer, ingredients=tuple(line for line in layer.ingredients if line.grams > least_g or line.locked))

    return replace(formula, layers=tuple(kept(layer) for layer in formula.layers))
