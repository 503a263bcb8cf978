"""Weighings: whole pieces, layers, and what the net weight says of the piece."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fern_match.core.estimate.problem import Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.state import Pull, State
from fern_match.core.estimate.terms import Evidence, Foreseen, Kind, figure_expected, figure_sentence, only, point_tail
from fern_match.core.study.reading import StudyReading, WeighingReading

_LEAST_SHARE = 1e-300  # keeps a layer of nothing from dividing by it
BETWEEN_PIECES = 0.035  # pieces of one maker differ by 3 to 4 %
_PRIOR_READINGS = 3.0  # how many readings that judgement is worth against the user's own scatter
SCALE_SD_G = 0.06  # half of a 0.1 g step each way, two readings


WEIGHING, NET_WEIGHT = (
    Kind(id=name, group="Weighings", is_figure=True, tail=point_tail, expected=figure_expected, sentence=figure_sentence)
    for name in ("weighing", "net weight")
)


@dataclass(frozen=True, slots=True, kw_only=True)
class WeighingsTerm:
    """Means of readings: of layers, with what stays on the knife, and of whole pieces and the net weight."""

    evidence: tuple[Evidence, ...]
    grams: Floats  # [weighings, 1]
    sd: Floats
    holds: Floats  # [weighings, layers], 1 for each layer on the scale; all of them for the whole piece
    sticky: Floats  # [weighings, 1], 1 where the knife keeps some

    def _mean(self, state: State) -> tuple[Floats, Floats]:
        kept = 1 - state.knife * self.sticky
        return state.mass_g * (self.holds @ state.layer_share) * kept, kept

    def log_likelihood(self, state: State, pull: Pull | None) -> Floats:
        """Log density of the mean reading."""
        mean, kept = self._mean(state)
        off = (self.grams - mean) / self.sd
        if pull is not None:
            by_log_mean = off / self.sd * mean
            pull.log_mass += by_log_mean.sum(axis=0)
            part = by_log_mean / np.maximum(self.holds @ state.layer_share, _LEAST_SHARE)
            pull.log_share += (self.holds.T @ part) * state.layer_share
            pull.knife -= (by_log_mean / kept * self.sticky).sum(axis=0)
        value: Floats = -0.5 * off * off - np.log(self.sd)
        return value

    def expected(self, state: State) -> Foreseen:
        """The mean reading [g]."""
        mean, _ = self._mean(state)
        return Foreseen(mean, np.broadcast_to(self.sd, mean.shape))

    def only(self, rows: NDArray[np.intp]) -> "WeighingsTerm":
        """With only some of its rows."""
        return only(self, rows, "grams", "sd", "holds", "sticky")


def mean_reading_sd_g(grams: Sequence[float]) -> float:
    """Standard error of the mean of readings of pieces [g].

    The scatter between pieces is 3.5 % until the user's own readings say otherwise; the scale adds half its step.

    Args:
        grams: One reading or more [g].

    Source: docs/method/estimate.md ("Weighings").
    """
    mean = float(np.mean(grams))
    n = len(grams)
    own = float(np.var(grams, ddof=1)) if n > 1 else 0.0
    between = (_PRIOR_READINGS * (BETWEEN_PIECES * mean) ** 2 + (n - 1) * own) / (_PRIOR_READINGS + n - 1)
    return float(np.sqrt(SCALE_SD_G**2 + between / n))


def weighings_term(problem: Problem) -> WeighingsTerm | None:
    """Whole pieces and layers as weighed, and the net weight; None without any."""
    reading = problem.reading
    index = {layer.id: number for number, (layer, _) in enumerate(problem.layers)}
    entries: list[tuple[Evidence, float, float, Floats, float]] = []
    for weighing in reading.weighings:
        if not weighing.grams or not index.keys() >= set(weighing.layers):
            continue
        rows = [index[layer_id] for layer_id in weighing.layers]
        holds = np.ones(len(index))
        if rows:
            holds = np.zeros(len(index))
            holds[rows] = 1.0
        sticky = float(any(problem.layers[row][1].traits.sticky for row in rows))
        mean = float(np.mean(weighing.grams))
        entries.append((weighing_evidence(weighing, reading), mean, mean_reading_sd_g(weighing.grams), holds, sticky))
    prior = reading.piece_prior
    if prior is not None:
        evidence = Evidence(
            id="net_weight",
            kind=NET_WEIGHT,
            title="Net weight, per piece",
            seen=f"{prior.declared_g:.1f} g declared",
            unit="g",
            seen_low=prior.low_g,
            seen_high=prior.high_g,
            centre=prior.mean_g,
        )
        entries.append((evidence, prior.mean_g, prior.sd_g, np.ones(len(index)), 0.0))
    if not entries:
        return None
    return WeighingsTerm(
        evidence=tuple(entry[0] for entry in entries),
        grams=np.array([[entry[1]] for entry in entries]),
        sd=np.array([[entry[2]] for entry in entries]),
        holds=np.stack([entry[3] for entry in entries]),
        sticky=np.array([[entry[4]] for entry in entries]),
    )


def weighing_evidence(weighing: WeighingReading, reading: StudyReading) -> Evidence:
    """A weighing as it is listed.

    Args:
        weighing: Its readings, at least one.
    """
    names = {layer.id: layer.name for layer in reading.study.layers}
    count = len(weighing.grams)
    title = " with ".join(names[layer_id] for layer_id in weighing.layers) or "Whole piece"
    readings = "one reading" if count == 1 else f"{count} readings"
    mean = float(np.mean(weighing.grams))
    return Evidence(
        id=f"weighing:{weighing.subject}",
        kind=WEIGHING,
        title=f"{title}, weighed",
        seen=f"{mean:.2f} g" + (f" ({readings})" if count > 1 else ""),
        unit="g",
        seen_low=min(weighing.grams),
        seen_high=max(weighing.grams),
        centre=mean,
    )
