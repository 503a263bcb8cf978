"""What each kind of evidence says about a state: log-likelihoods, their gradients, and what was to be expected.

Every term answers for several pieces of evidence at once: `log_likelihood` gives one column per piece and adds to the pull;
`expected` gives the mean and spread with which a particle foresees the figure.
"""

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any, Protocol, TypeVar

import numpy as np
from numpy.typing import NDArray

from fern_match.core.estimate.normal import log_below, log_between
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.state import Pull, State

ORDER_RELATIVE, ORDER_FIXED = 0.05, 0.05  # how strictly descending order is kept [share, g per 100 g]
FREE_ORDER_BELOW = 2.0  # EU and UK: ingredients under 2 % may come last in any order [g per 100 g]


class Kind(StrEnum):
    """What sort of evidence it is."""

    LABEL_ROW = "label row"
    ORDER = "order"
    PERCENT = "percent"
    SMALL = "2 % or less"
    WEIGHING = "weighing"
    NET_WEIGHT = "net weight"
    RULE = "chocolate rule"


@dataclass(frozen=True, slots=True, kw_only=True)
class Evidence:
    """One thing known about the original."""

    id: str
    kind: Kind
    title: str
    seen: str  # in words, with its unit
    unit: str
    seen_low: float | None = None
    seen_high: float | None = None
    centre: float | None = None  # the mean of readings
    names: tuple[str, ...] = ()  # of the order's two, the earlier first


@dataclass(frozen=True, slots=True)
class Foreseen:
    """What each particle expects to be seen, with its spread."""

    mean: Floats  # [pieces of evidence, particles]
    sd: Floats


class Term(Protocol):
    """Evidence of one kind. Arrays are [pieces of evidence, particles]."""

    @property
    def evidence(self) -> tuple[Evidence, ...]:
        """Its pieces of evidence."""
        ...

    def log_likelihood(self, state: State, pull: Pull | None) -> Floats:
        """Per piece of evidence and particle; adds its gradient to the pull when there is one."""
        ...

    def expected(self, state: State) -> Foreseen:
        """What each particle foresees, in the evidence's unit."""
        ...

    def only(self, rows: NDArray[np.intp]) -> "Term":
        """The term with only some of its pieces of evidence."""
        ...


AnyTerm = TypeVar("AnyTerm")


def _only(term: AnyTerm, rows: NDArray[np.intp], *arrays: str) -> AnyTerm:
    """A term with only some of its pieces of evidence; the arrays named have one row for each."""
    kept: dict[str, Any] = {name: getattr(term, name)[rows] for name in arrays}
    evidence = tuple(term.evidence[row] for row in rows)  # type: ignore[attr-defined]
    return replace(term, evidence=evidence, **kept)  # type: ignore[type-var]


@dataclass(frozen=True, slots=True, kw_only=True)
class RowsTerm:
    """Panel rows: intervals about sums over ingredients, whose lots differ from the table."""

    evidence: tuple[Evidence, ...]
    low: Floats  # [rows, 1], on the label's basis; far below zero where nothing less exists
    high: Floats
    per_gram: Floats  # [rows, parts], in the row's unit per g as added, scaled to the basis
    same_lot: Floats  # [ingredients, parts]
    lot_variance: Floats  # [rows, ingredients], in row units per g, squared
    relative_sd: Floats  # [rows, 1]
    floor: Floats  # [rows, 1]

    def _spread(self, state: State) -> tuple[Floats, Floats, Floats]:
        mean = self.per_gram @ state.amount
        of_lot = self.same_lot @ state.amount
        variance = self.lot_variance @ (of_lot * of_lot)
        variance += (self.relative_sd * mean) ** 2
        variance += self.floor**2
        return mean, of_lot, np.sqrt(variance)

    def log_likelihood(self, state: State, pull: Pull | None) -> Floats:
        """Log probability that a true value near the recomputed one lies in the declared interval."""
        mean, of_lot, sd = self._spread(state)
        at_low, at_high = (self.low - mean) / sd, (self.high - mean) / sd
        value, by_low, by_high = log_between(at_low, at_high)
        if pull is not None:
            by_variance = -(by_low * at_low + by_high * at_high) / (2 * sd * sd)
            by_mean = -(by_low + by_high) / sd + by_variance * (2 * self.relative_sd**2) * mean
            pull.amount += self.per_gram.T @ by_mean
            pull.amount += self.same_lot.T @ (2 * of_lot * (self.lot_variance.T @ by_variance))
        return value

    def expected(self, state: State) -> Foreseen:
        """The recomputed row and its spread."""
        mean, _, sd = self._spread(state)
        return Foreseen(mean, sd)

    def only(self, rows: NDArray[np.intp]) -> "RowsTerm":
        """With only some of its rows."""
        return _only(self, rows, "low", "high", "per_gram", "lot_variance", "relative_sd", "floor")


@dataclass(frozen=True, slots=True, kw_only=True)
class OrderTerm:
    """Descending order of neighbours on the statement."""

    evidence: tuple[Evidence, ...]
    first: Floats  # [pairs, parts], what counts towards the earlier name
    second: Floats
    first_lost: Floats  # [pairs, layers], water lost that counts against it (added water by difference)
    second_lost: Floats
    free_below: float  # g per 100 g under which order is free; 0 for strict order

    def _sides(self, state: State) -> tuple[Floats, Floats, Floats, Floats]:
        a = self.first @ state.amount - self.first_lost @ state.lost_g
        b = self.second @ state.amount - self.second_lost @ state.lost_g
        at_least = np.maximum(a, self.free_below)
        return a, b, at_least, ORDER_RELATIVE * at_least + ORDER_FIXED

    def log_likelihood(self, state: State, pull: Pull | None) -> Floats:
        """Log probability that the earlier name is the heavier."""
        a, b, at_least, spread = self._sides(state)
        x = (at_least - b) / spread
        value, slope = log_below(x)
        if pull is not None:
            by_b = -slope / spread
            by_a = -by_b * (1 - ORDER_RELATIVE * x) * (a > self.free_below)
            pull.amount += self.first.T @ by_a + self.second.T @ by_b
            pull.lost_g -= self.first_lost.T @ by_a + self.second_lost.T @ by_b
        return value

    def expected(self, state: State) -> Foreseen:
        """By how much the earlier name is the heavier [g per 100 g]; below 0 it is the lighter."""
        _, b, at_least, spread = self._sides(state)
        return Foreseen(at_least - b, spread)

    def only(self, rows: NDArray[np.intp]) -> "OrderTerm":
        """With only some of its rows."""
        return _only(self, rows, "first", "second", "first_lost", "second_lost")


@dataclass(frozen=True, slots=True, kw_only=True)
class AmountsTerm:
    """Declared percentages: amounts as used, of the finished piece, in an interval."""

    evidence: tuple[Evidence, ...]
    low: Floats  # [amounts, 1], g per 100 g finished
    high: Floats
    counts: Floats  # [amounts, parts]
    sd: Floats  # [amounts, 1]

    def log_likelihood(self, state: State, pull: Pull | None) -> Floats:
        """Log probability that the amount lies in its interval."""
        mean = self.counts @ state.amount
        value, by_low, by_high = log_between((self.low - mean) / self.sd, (self.high - mean) / self.sd)
        if pull is not None:
            pull.amount -= self.counts.T @ ((by_low + by_high) / self.sd)
        return value

    def expected(self, state: State) -> Foreseen:
        """The amount as used [g per 100 g finished]."""
        mean = self.counts @ state.amount
        return Foreseen(mean, np.broadcast_to(self.sd, mean.shape))

    def only(self, rows: NDArray[np.intp]) -> "AmountsTerm":
        """With only some of its rows."""
        return _only(self, rows, "low", "high", "counts", "sd")


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
        return _only(self, rows, "most", "counts", "counts_lost", "sd")


@dataclass(frozen=True, slots=True, kw_only=True)
class WeighingsTerm:
    """Means of readings: of layers, with what stays on the knife, and of whole pieces and the net weight."""

    evidence: tuple[Evidence, ...]
    grams: Floats  # [weighings, 1]
    sd: Floats
    layer: NDArray[np.intp]  # [weighings], the number of layers stands for the whole piece
    sticky: Floats  # [weighings, 1], 1 where the knife keeps some

    def _mean(self, state: State) -> tuple[Floats, Floats]:
        with_whole = np.vstack([state.layer_share, np.ones_like(state.mass_g)])
        kept = 1 - state.knife * self.sticky
        return state.mass_g * with_whole[self.layer] * kept, kept

    def log_likelihood(self, state: State, pull: Pull | None) -> Floats:
        """Log density of the mean reading."""
        mean, kept = self._mean(state)
        off = (self.grams - mean) / self.sd
        if pull is not None:
            by_log_mean = off / self.sd * mean
            pull.log_mass += by_log_mean.sum(axis=0)
            for row, layer in enumerate(self.layer):
                if layer < len(state.layer_share):
                    pull.log_share[layer] += by_log_mean[row]
            pull.knife -= (by_log_mean / kept * self.sticky).sum(axis=0)
        value: Floats = -0.5 * off * off - np.log(self.sd)
        return value

    def expected(self, state: State) -> Foreseen:
        """The mean reading [g]."""
        mean, _ = self._mean(state)
        return Foreseen(mean, np.broadcast_to(self.sd, mean.shape))

    def only(self, rows: NDArray[np.intp]) -> "WeighingsTerm":
        """With only some of its rows."""
        return _only(self, rows, "grams", "sd", "layer", "sticky")
