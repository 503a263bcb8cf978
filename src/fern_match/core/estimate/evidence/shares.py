"""Shares that the statement declares, of the finished piece: of a layer's own list the finished layer, else amounts as used.

Worked example: a caramel of 12 g as added boils down to 10 g of a 40 g piece: "caramel 25 % (...)" says 10 g, not 12.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fern_match.core.estimate.evidence.counting import counting
from fern_match.core.estimate.normal import log_between
from fern_match.core.estimate.problem import Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.state import Pull, State
from fern_match.core.estimate.terms import Evidence, Foreseen, Kind, figure_expected, figure_sentence, interval_tail, only
from fern_match.core.label.statement import StatementItem

_PERCENT_HALF, _PERCENT_HALF_SMALL = 0.5, 0.25
_PERCENT_RELATIVE_SD, _PERCENT_FIXED_SD = 0.02, 0.05
_MOST_INSIDE = 60.0  # shares that add up to more inside a bracket without a share are of the bracket [%]
PERCENT = Kind(
    id="percent", group="Statement", is_figure=True, tail=interval_tail, expected=figure_expected, sentence=figure_sentence
)


@dataclass(frozen=True, slots=True, kw_only=True)
class AmountsTerm:
    """Declared percentages: amounts, of the finished piece, in an interval."""

    evidence: tuple[Evidence, ...]
    low: Floats  # [amounts, 1], g per 100 g finished
    high: Floats
    counts: Floats  # [amounts, parts]
    counts_lost: Floats  # [amounts, layers], 1 where the water that a layer loses does not count
    sd: Floats  # [amounts, 1]

    def _mean(self, state: State) -> Floats:
        mean: Floats = self.counts @ state.amount - self.counts_lost @ state.lost_g
        return mean

    def log_likelihood(self, state: State, pull: Pull | None) -> Floats:
        """Log probability that the amount lies in its interval."""
        mean = self._mean(state)
        value, by_low, by_high = log_between((self.low - mean) / self.sd, (self.high - mean) / self.sd)
        if pull is not None:
            by_mean = (by_low + by_high) / self.sd
            pull.amount -= self.counts.T @ by_mean
            pull.lost_g += self.counts_lost.T @ by_mean
        return value

    def expected(self, state: State) -> Foreseen:
        """The amount [g per 100 g finished]."""
        mean = self._mean(state)
        return Foreseen(mean, np.broadcast_to(self.sd, mean.shape))

    def only(self, rows: NDArray[np.intp]) -> "AmountsTerm":
        """With only some of its rows."""
        return only(self, rows, "low", "high", "counts", "counts_lost", "sd")


def percents_term(problem: Problem) -> AmountsTerm | None:
    """Percentages the statement declares; None without any."""
    reading = problem.reading
    items = [
        item
        for item in _of_piece(reading.statement.items)
        if item.percent is not None and not item.of_bracket and counting(problem, item).any()
    ]
    if not items:
        return None
    halves = [
        _PERCENT_HALF if item.percent_decimals == 0 else max(_PERCENT_HALF_SMALL, 0.5 * 10.0**-item.percent_decimals)
        for item in items
    ]
    percents = np.array([[item.percent or 0.0] for item in items])
    half = np.array(halves)[:, None]
    low, high = np.maximum(percents - half, 0.0), percents + half
    counted = [_counted(problem, item) for item in items]
    return AmountsTerm(
        evidence=tuple(
            _percent_evidence(item, float(lo), float(hi)) for item, lo, hi in zip(items, low[:, 0], high[:, 0], strict=True)
        ),
        low=low,
        high=high,
        sd=_PERCENT_RELATIVE_SD * percents + _PERCENT_FIXED_SD,
        counts=np.stack([counts for counts, _ in counted]),
        counts_lost=np.stack([lost for _, lost in counted]),
    )


def _counted(problem: Problem, item: StatementItem) -> tuple[Floats, Floats]:
    """What a share is of: all of the layers that a list describes, less the water they lose; else the amounts as used."""
    counts, lost = counting(problem, item), np.zeros(len(problem.layers))
    if not item.is_compound:
        return counts, lost
    keys = {leaf.key for leaf in item.leaves()}
    given = problem.reading.placing.compounds.get(item.key, ())
    for index, (layer, _) in enumerate(problem.layers):
        inside = [part for part in problem.parts if part.layer == index]
        if layer.id in given and all(part.item is None or part.item in keys for part in inside):
            counts = np.maximum(counts, problem.in_layer[index])
            lost[index] = 1.0
    return counts, lost


def _of_piece(items: Sequence[StatementItem], above: StatementItem | None = None) -> list[StatementItem]:
    """Names whose declared share is of the whole piece: those that add up to more than their bracket’s are of the bracket."""
    inside = sum(item.percent or 0.0 for item in items)
    most = 100.0 if above is None else (above.percent if above.percent is not None else _MOST_INSIDE)
    own = [] if above is not None and inside > most + _PERCENT_HALF else list(items)
    return own + [found for item in items if item.items for found in _of_piece(item.items, item)]


def _percent_evidence(item: StatementItem, low: float, high: float) -> Evidence:
    return Evidence(
        id=f"percent:{item.key}",
        kind=PERCENT,
        title=f"{item.name}, declared",
        seen=f"{item.percent:g} %",
        unit="%",
        seen_low=low,
        seen_high=high,
    )
