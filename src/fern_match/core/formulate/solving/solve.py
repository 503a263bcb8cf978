"""Amounts that reach the targets: the layers in focus are free, everything else is given; one linear program.

Worked example: butter, sugar and flour at 2 : 1 : 3, 10 g finished with 3.0 % water: as added they hold 2/6 x 16.3 + 3/6 x 12.2 =
11.5 % water, so (0.115 - 0.03) / (1 - 0.03) = 8.8 % are driven off and 10 / (1 - 0.088) = 10.97 g are mixed, 3.66 g of it butter.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from fern_match.core.formulate.record.formula import Formula, FormulaIngredient, FormulaLayer
from fern_match.core.formulate.solving.choice import chosen
from fern_match.core.formulate.solving.held_back import held_back, impossible
from fern_match.core.formulate.solving.pose import pose
from fern_match.core.formulate.solving.posed import Placed, Posed, Room
from fern_match.core.formulate.solving.program import Unsolved
from fern_match.core.formulate.solving.targets import Target, with_got
from fern_match.core.study.reading import StudyReading


@dataclass(frozen=True, slots=True, kw_only=True)
class Solved:
    """Amounts were found."""

    formula: Formula
    targets: tuple[Target, ...]
    held_back: tuple[str, ...]  # what stops which target, and what would help

    @property
    def miss(self) -> float:
        """How far all targets together are missed, in their tolerances and weights."""
        return sum(target.weight * abs(target.gap) / target.tolerance for target in self.targets)


@dataclass(frozen=True, slots=True, kw_only=True)
class Impossible:
    """No amounts fit everything that is fixed; the version stays as it was."""

    why: str  # what would have to give; empty where that was not asked


@dataclass(frozen=True, slots=True, kw_only=True)
class TooLong:
    """It was not found out in the time there is; the version stays as it was."""

    why: str = "This is too large to be worked out at once. Solve a layer at a time, or lock what is settled."


Outcome = Solved | Impossible | TooLong


def solve(formula: Formula, targets: Sequence[Target], room: Room, reading: StudyReading) -> Outcome:
    """The amounts that come nearest to the targets.

    Hard are: the weight of each layer, locks, ratios and least amounts, the windows of its family's roles, its moisture, and what
    its process can drive off. Missing another target costs in proportion to its tolerance; keeping to the usual shares, few
    ingredients, little evaporation and money count for little, in that order.

    Args:
        formula: The version as it is; of layers that are not free everything stays.
        targets: What it is held to.
        room: What is free.
        reading: The study, with compositions and windows.

    Raises:
        Stopped: the room's should_stop said so.
    """
    if not any(layer.layer_id in room.free and layer.ingredients for layer in formula.layers):
        return Impossible(why="There is nothing to solve: no layer that is free has an ingredient. Add one first.")
    posed = pose(formula, targets, room, reading)
    values = chosen(posed) if room.swift else posed.program.solved(gap=room.gap)
    if values is Unsolved.TOO_LONG:
        return TooLong()
    if isinstance(values, Unsolved):
        return Impossible(why=impossible(posed) if room.explain or not room.swift else "")
    found = formula_of(formula, posed, values)
    reached = tuple(with_got(target, found, reading) for target in targets)
    asked = [one for one in reached if room.about is None or one.id in room.about]
    helps = held_back(posed, asked, reached) if room.explain else ()
    return Solved(formula=found, targets=reached, held_back=helps)


@dataclass(frozen=True, slots=True)
class LeastCost:
    """What amounts cost at least."""

    cost: float
    over: Mapping[str, float]  # limits that may give -> how far they are passed


def least_cost(formula: Formula, targets: Sequence[Target], room: Room, reading: StudyReading) -> LeastCost | None:
    """What solving would cost at least, were lines used in any share; None where nothing fits. Soon found.

    Args:
        formula: The version as it is.
        targets: What it is held to.
        room: What is free.
        reading: The study, with compositions and windows.
    """
    posed = pose(formula, targets, room, reading)
    values = posed.program.solved(parted=True)
    if isinstance(values, Unsolved):
        return None
    over = {limit: float(values[variable]) for limit, variable in posed.over.items()}
    return LeastCost(posed.program.cost_of(values), over)


def formula_of(formula: Formula, posed: Posed, values: np.ndarray) -> Formula:
    """A formula with the values of a program."""
    solved: Mapping[str, FormulaLayer] = {placed.layer.layer_id: _layer_of(placed, values) for placed in posed.layers}
    return replace(formula, layers=tuple(solved.get(layer.layer_id, layer) for layer in formula.layers))


def _solved(line: FormulaIngredient, grams: float) -> FormulaIngredient:
    """A line with its amount; one that was open, and is given none, stays open."""
    if line.locked:
        return line
    return replace(line, grams=grams, unread=line.unread and grams <= 0)


def _layer_of(placed: Placed, values: np.ndarray) -> FormulaLayer:
    lines = tuple(
        _solved(line, max(0.0, float(values[variable])))
        for variable, line in zip(placed.amounts, placed.layer.ingredients, strict=True)
    )
    return replace(placed.layer, ingredients=lines, water_lost_g=max(0.0, float(values[placed.lost])))
