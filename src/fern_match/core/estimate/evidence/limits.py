"""Upper limits: "2 % or less" groups, and water that is too little to be listed."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fern_match.core.estimate.evidence.counting import all_items, counting, water_counting
from fern_match.core.estimate.evidence.order import ORDER_FIXED, ORDER_RELATIVE
from fern_match.core.estimate.normal import log_below
from fern_match.core.estimate.problem import WATER, Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.state import Pull, State
from fern_match.core.estimate.terms import Evidence, Foreseen, Kind, figure_expected, limit_tail, only
from fern_match.core.label.statement import StatementItem
from fern_match.core.measures.figures import range_words

_WATER_LISTED_SD = 0.5
_WATER_LISTED_FROM = 5.0  # EU, UK, Australia: added water up to 5 % of the finished piece need not be listed


def _expected(piece: Evidence, low: float, high: float, pulls: bool) -> str:
    return figure_expected(piece, max(0.0, low), max(0.0, high), pulls)


def _sentence(piece: Evidence, low: float, high: float) -> str:
    return f"{piece.title}: everything else asks for {range_words(low, high, ' to ')} %. Check which layers it is in."


SMALL = Kind(id="2 % or less", group="Statement", is_figure=False, tail=limit_tail, expected=_expected, sentence=_sentence)


@dataclass(frozen=True, slots=True, kw_only=True)
class LimitsTerm:
    """Upper limits: "2 % or less", and water that is too little to be listed."""

    evidence: tuple[Evidence, ...]
    most: Floats  # [limits, 1], g per 100 g finished
    counts: Floats  # [limits, parts]
    counts_lost: Floats  # [limits, layers], water lost that counts against the amount
    sd: Floats  # [limits, 1]

    def _mean(self, state: State) -> Floats:
        mean: Floats = self.counts @ state.amount - self.counts_lost @ state.lost_g
        return mean

    def log_likelihood(self, state: State, pull: Pull | None) -> Floats:
        """Log probability that the amount is below its limit."""
        value, slope = log_below((self.most - self._mean(state)) / self.sd)
        if pull is not None:
            by_mean = -slope / self.sd
            pull.amount += self.counts.T @ by_mean
            pull.lost_g -= self.counts_lost.T @ by_mean
        return value

    def expected(self, state: State) -> Foreseen:
        """The amount as used [g per 100 g finished]."""
        mean = self._mean(state)
        return Foreseen(mean, np.broadcast_to(self.sd, mean.shape))

    def only(self, rows: NDArray[np.intp]) -> "LimitsTerm":
        """With only some of its rows."""
        return only(self, rows, "most", "counts", "counts_lost", "sd")


def limits_term(problem: Problem) -> LimitsTerm | None:
    """Names in a small group, and water that is not listed, are at most so much; None without any."""
    reading = problem.reading
    none_lost = np.zeros(len(problem.layers))
    entries: list[tuple[Evidence, float, float, Floats, Floats]] = []
    for item in all_items(reading.statement.items):
        limit, counts = item.at_most_percent, counting(problem, item)
        if limit is not None and counts.any():
            entries.append((_small_evidence(item, limit), limit, ORDER_RELATIVE * limit + ORDER_FIXED, counts, none_lost))
    entries += _unlisted_water(problem)
    if not entries:
        return None
    return LimitsTerm(
        evidence=tuple(entry[0] for entry in entries),
        most=np.array([[entry[1]] for entry in entries]),
        sd=np.array([[entry[2]] for entry in entries]),
        counts=np.stack([entry[3] for entry in entries]),
        counts_lost=np.stack([entry[4] for entry in entries]),
    )


def _small_evidence(item: StatementItem, limit: float) -> Evidence:
    return Evidence(
        id=f"small:{item.key}",
        kind=SMALL,
        title=f"{item.name}, in the small group",
        seen=f"at most {limit:g} %",
        unit="%",
        seen_low=0.0,
        seen_high=limit,
    )


def _unlisted_water(problem: Problem) -> list[tuple[Evidence, float, float, Floats, Floats]]:
    """EU and UK: water that is not on the statement makes at most 5 % of the finished piece, by difference."""
    reading = problem.reading
    listed = WATER in reading.ingredient_of.values()
    counts, lost = water_counting(problem)
    if not reading.study.region.water_by_difference or listed or not reading.statement.items or not counts.any():
        return []
    evidence = Evidence(
        id="small:unlisted water",
        kind=SMALL,
        title="Water is not listed",
        seen=f"at most {_WATER_LISTED_FROM:g} %",
        unit="%",
        seen_low=0.0,
        seen_high=_WATER_LISTED_FROM,
    )
    return [(evidence, _WATER_LISTED_FROM, _WATER_LISTED_SD, counts, lost)]
