"""The statement's order: each name weighs at least as much as the next."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr

from fern_match.core.estimate.evidence.counting import counting, is_water, water_counting
from fern_match.core.estimate.normal import log_below
from fern_match.core.estimate.problem import Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.state import Pull, State
from fern_match.core.estimate.terms import Evidence, Foreseen, Kind, only
from fern_match.core.label.statement import StatementItem

ORDER_RELATIVE, ORDER_FIXED = 0.05, 0.05  # how strictly descending order is kept [share, g per 100 g]
_FREE_BELOW = 2.0  # EU and UK: ingredients under 2 % may come last in any order [g per 100 g]


def _tail(_: Evidence, weights: Floats, foreseen: Foreseen) -> float:
    return float(weights @ ndtr(foreseen.mean / foreseen.sd))


def _expected(_: Evidence, low: float, __: float, pulls: bool) -> str:
    return "certain without it" if low >= 0 else "the rest says the opposite" if pulls else "the rest leaves it open"


def _sentence(piece: Evidence, _: float, __: float) -> str:
    first, second = piece.names
    return f"The order of {first} and {second} fights the rest: everything else makes {second} the heavier."


ORDER = Kind(id="order", group="Statement", is_figure=False, tail=_tail, expected=_expected, sentence=_sentence)


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
        return only(self, rows, "first", "second", "first_lost", "second_lost")


@dataclass(frozen=True, slots=True)
class _Unit:
    """What is ranked as one: a name, or the members of one class."""

    items: tuple[StatementItem, ...]

    @property
    def name(self) -> str:
        return " with ".join(item.name for item in self.items[:2]) + (" …" if len(self.items) > 2 else "")

    @property
    def key(self) -> str:
        return self.items[0].key


def order_term(problem: Problem) -> OrderTerm | None:
    """The order of the statement: each name at least as much as the next; None without any pair.

    Names of one class in one bracket are ranked by what they weigh together, and among themselves.
    """
    reading = problem.reading
    region = reading.study.region
    pairs: list[tuple[_Unit, _Unit]] = []
    for siblings in _sibling_lists(reading.statement.items):
        ordered = [item for item in siblings if item.at_most_percent is None and counting(problem, item).any()]
        if not region.water_by_difference:
            ordered = [item for item in ordered if not is_water(problem, item)]
        units = _units(ordered)
        pairs += itertools.pairwise(units)
        for unit in units:
            if len(unit.items) > 1 and not unit.items[0].alternatives:
                pairs += itertools.pairwise(_Unit((item,)) for item in unit.items)
    if not pairs:
        return None
    layers = len(problem.layers)
    columns = [(_side(problem, a, layers), _side(problem, b, layers)) for a, b in pairs]
    return OrderTerm(
        evidence=tuple(_order_evidence(a, b) for a, b in pairs),
        first=np.stack([first[0] for first, _ in columns], axis=0),
        second=np.stack([second[0] for _, second in columns], axis=0),
        first_lost=np.stack([first[1] for first, _ in columns], axis=0),
        second_lost=np.stack([second[1] for _, second in columns], axis=0),
        free_below=_FREE_BELOW if region.ends_freely else 0.0,
    )


def _units(items: Sequence[StatementItem]) -> list[_Unit]:
    units: list[_Unit] = []
    for item in items:
        last = units[-1].items[-1] if units else None
        same_class = last is not None and item.class_group and last.class_group == item.class_group
        choice = last is not None and item.name in last.alternatives
        if same_class or choice:
            units[-1] = _Unit((*units[-1].items, item))
        else:
            units.append(_Unit((item,)))
    return units


def _side(problem: Problem, unit: _Unit, layers: int) -> tuple[Floats, Floats]:
    if problem.reading.study.region.water_by_difference and any(is_water(problem, item) for item in unit.items):
        return water_counting(problem)
    return np.sum([counting(problem, item) for item in unit.items], axis=0), np.zeros(layers)


def _sibling_lists(items: Sequence[StatementItem]) -> list[Sequence[StatementItem]]:
    lists = [items]
    for item in items:
        if item.items:
            lists += [part for part in _sibling_lists(item.items) if not (item.free_order and part is item.items)]
    return lists


def _order_evidence(a: _Unit, b: _Unit) -> Evidence:
    return Evidence(
        id=f"order:{a.key}|{b.key}",
        kind=ORDER,
        title=f"{a.name} before {b.name}",
        names=(a.name, b.name),
        seen="at least as much",
        unit="g per 100 g",
        seen_low=0.0,
    )
