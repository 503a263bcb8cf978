"""The statement: its order, its percentages, its small groups, and the water it need not list."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from fern_match.core.estimate.problem import WATER, Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.terms import (
    FREE_ORDER_BELOW,
    ORDER_FIXED,
    ORDER_RELATIVE,
    AmountsTerm,
    Evidence,
    Kind,
    LimitsTerm,
    OrderTerm,
)
from fern_match.core.label.statement import StatementItem

_PERCENT_HALF, _PERCENT_HALF_SMALL = 0.5, 0.25
_PERCENT_RELATIVE_SD, _PERCENT_FIXED_SD = 0.02, 0.05
_WATER_LISTED_SD = 0.5
_MOST_INSIDE = 60.0  # shares that add up to more inside a bracket without a share are of the bracket [%]
_WATER_LISTED_FROM = 5.0  # EU and UK: added water up to 5 % of the finished piece need not be listed


def _counting(problem: Problem, item: StatementItem) -> Floats:
    """1 for each part that counts towards a statement item."""
    keys = {leaf.key for leaf in item.leaves()}
    return np.array([float(part.item in keys) for part in problem.parts])


def _is_water(problem: Problem, item: StatementItem) -> bool:
    return problem.reading.ingredient_of.get(item.key) == WATER


def _water_counting(problem: Problem) -> tuple[Floats, Floats]:
    """Added water by difference: all added water less all water lost."""
    parts = np.array([float(part.ingredient_id == WATER) for part in problem.parts])
    return parts, np.ones(len(problem.layers))


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
        ordered = [item for item in siblings if item.at_most_percent is None and _counting(problem, item).any()]
        if not region.water_by_difference:
            ordered = [item for item in ordered if not _is_water(problem, item)]
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
        free_below=FREE_ORDER_BELOW if region.ends_freely else 0.0,
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
    if problem.reading.study.region.water_by_difference and any(_is_water(problem, item) for item in unit.items):
        return _water_counting(problem)
    return np.sum([_counting(problem, item) for item in unit.items], axis=0), np.zeros(layers)


def _sibling_lists(items: Sequence[StatementItem]) -> list[Sequence[StatementItem]]:
    lists = [items]
    for item in items:
        if item.items:
            lists += [part for part in _sibling_lists(item.items) if not (item.free_order and part is item.items)]
    return lists


def _order_evidence(a: _Unit, b: _Unit) -> Evidence:
    return Evidence(
        id=f"order:{a.key}|{b.key}",
        kind=Kind.ORDER,
        title=f"{a.name} before {b.name}",
        names=(a.name, b.name),
        seen="at least as much",
        unit="g per 100 g",
        seen_low=0.0,
    )


def percents_term(problem: Problem) -> AmountsTerm | None:
    """Percentages the statement declares; None without any."""
    reading = problem.reading
    items = [item for item in _of_piece(reading.statement.items) if item.percent is not None and _counting(problem, item).any()]
    if not items:
        return None
    halves = [
        _PERCENT_HALF if item.percent_decimals == 0 else max(_PERCENT_HALF_SMALL, 0.5 * 10.0**-item.percent_decimals)
        for item in items
    ]
    percents = np.array([[item.percent or 0.0] for item in items])
    half = np.array(halves)[:, None]
    low, high = np.maximum(percents - half, 0.0), percents + half
    return AmountsTerm(
        evidence=tuple(
            _percent_evidence(item, float(lo), float(hi)) for item, lo, hi in zip(items, low[:, 0], high[:, 0], strict=True)
        ),
        low=low,
        high=high,
        sd=_PERCENT_RELATIVE_SD * percents + _PERCENT_FIXED_SD,
        counts=np.stack([_counting(problem, item) for item in items]),
    )


def limits_term(problem: Problem) -> LimitsTerm | None:
    """Names in a small group, and water that is not listed, are at most so much; None without any."""
    reading = problem.reading
    none_lost = np.zeros(len(problem.layers))
    entries: list[tuple[Evidence, float, float, Floats, Floats]] = []
    for item in _all_items(reading.statement.items):
        limit, counts = item.at_most_percent, _counting(problem, item)
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


def _all_items(items: Sequence[StatementItem]) -> list[StatementItem]:
    return [found for item in items for found in (item, *_all_items(item.items))]


def _of_piece(items: Sequence[StatementItem], above: StatementItem | None = None) -> list[StatementItem]:
    """Names whose declared share is of the whole piece: those that add up to more than their bracket’s are of the bracket."""
    inside = sum(item.percent or 0.0 for item in items)
    most = 100.0 if above is None else (above.percent if above.percent is not None else _MOST_INSIDE)
    own = [] if above is not None and inside > most + _PERCENT_HALF else list(items)
    return own + [found for item in items if item.items for found in _of_piece(item.items, item)]


def _percent_evidence(item: StatementItem, low: float, high: float) -> Evidence:
    return Evidence(
        id=f"percent:{item.key}",
        kind=Kind.PERCENT,
        title=f"{item.name}, declared",
        seen=f"{item.percent:g} %",
        unit="%",
        seen_low=low,
        seen_high=high,
    )


def _small_evidence(item: StatementItem, limit: float) -> Evidence:
    return Evidence(
        id=f"small:{item.key}",
        kind=Kind.SMALL,
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
    counts, lost = _water_counting(problem)
    if not reading.study.region.water_by_difference or listed or not reading.statement.items or not counts.any():
        return []
    evidence = Evidence(
        id="small:unlisted water",
        kind=Kind.SMALL,
        title="Water is not listed",
        seen=f"at most {_WATER_LISTED_FROM:g} %",
        unit="%",
        seen_low=0.0,
        seen_high=_WATER_LISTED_FROM,
    )
    return [(evidence, _WATER_LISTED_FROM, _WATER_LISTED_SD, counts, lost)]
