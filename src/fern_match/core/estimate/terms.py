"""What every kind of evidence has in common.

A kind says how surprising what was seen is beside what all the rest foresees, and puts that in words; a term answers for
several pieces of evidence of one kind at once: `log_likelihood` gives one column per piece and adds to the pull, `expected`
gives the mean and spread with which a particle foresees the figure. The next kind is one new file in `evidence/`.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, Protocol, TypeVar

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr

from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.state import Pull, State
from fern_match.core.measures.figures import range_words


@dataclass(frozen=True, slots=True)
class Foreseen:
    """What each particle expects to be seen, with its spread."""

    mean: Floats  # [pieces of evidence, particles], or [particles] of one piece
    sd: Floats


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """A sort of evidence."""

    id: str
    group: str  # the heading it is listed under
    is_figure: bool  # something read off a scale or a label, which can be read again
    tail: "Callable[[Evidence, Floats, Foreseen], float]"  # two-sided probability of something as odd, by weighted particles
    expected: "Callable[[Evidence, float, float, bool], str]"  # what the rest foresees, in words: low, high, whether it pulls
    sentence: "Callable[[Evidence, float, float], str]"  # what fights, given the low and high that the rest foresees


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


def only(term: AnyTerm, rows: NDArray[np.intp], *arrays: str) -> AnyTerm:
    """A term with only some of its pieces of evidence.

    Args:
        rows: Which ones.
        arrays: Names of the fields that have one row for each.
    """
    kept: dict[str, Any] = {name: getattr(term, name)[rows] for name in arrays}
    evidence = tuple(term.evidence[row] for row in rows)  # type: ignore[attr-defined]
    return replace(term, evidence=evidence, **kept)  # type: ignore[type-var]


# --- tails and words that several kinds share -----------------------------------------------------------------------------


def interval_tail(piece: Evidence, weights: Floats, foreseen: Foreseen) -> float:
    """Of an interval: how far what is foreseen lies outside it."""
    low = piece.seen_low if piece.seen_low is not None else -np.inf
    high = piece.seen_high if piece.seen_high is not None else np.inf
    return _two_sided(low, high, weights, foreseen)


def point_tail(piece: Evidence, weights: Floats, foreseen: Foreseen) -> float:
    """Of the mean of readings."""
    middle = piece.centre if piece.centre is not None else 0.0
    return _two_sided(middle, middle, weights, foreseen)


def limit_tail(piece: Evidence, weights: Floats, foreseen: Foreseen) -> float:
    """Of an upper limit: how probable it is that the rest keeps it."""
    return float(weights @ ndtr(((piece.seen_high or 0.0) - foreseen.mean) / foreseen.sd))


def _two_sided(low: float, high: float, weights: Floats, foreseen: Foreseen) -> float:
    at_most = float(weights @ ndtr((high - foreseen.mean) / foreseen.sd))
    at_least = float(weights @ ndtr((foreseen.mean - low) / foreseen.sd))
    return min(1.0, 2 * min(at_most, at_least))


def figure_expected(piece: Evidence, low: float, high: float, pulls: bool) -> str:
    """What was seen beside the range that the rest foresees.

    Args:
        low: Least that the rest foresees, in the evidence's unit.
        high: Most.
    """
    return f"seen {piece.seen} · expected {range_words(low, high)} {piece.unit}"


def figure_sentence(piece: Evidence, low: float, high: float) -> str:
    """A figure that fights the rest.

    Args:
        low: Least that the rest foresees, in the evidence's unit.
        high: Most.
    """
    return f"{piece.seen} was seen; everything else asks for {range_words(low, high, ' to ')} {piece.unit}."
