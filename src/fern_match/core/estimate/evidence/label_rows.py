"""Label rows: what the formula's nutrients must print as."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fern_match.core.estimate.normal import log_between
from fern_match.core.estimate.problem import Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.state import Pull, State
from fern_match.core.estimate.terms import Evidence, Foreseen, Kind, figure_expected, figure_sentence, interval_tail, only
from fern_match.core.food.spreads import lot_spread
from fern_match.core.label.intervals import Interval
from fern_match.core.label.rows import ROW_NUTRIENT, Region, RowId, panel_rows, row_per_100_g
from fern_match.core.study.reading import RowReading

_ENERGY_ROWS = frozenset({RowId.ENERGY_KCAL, RowId.ENERGY_KJ})
_ENERGY_MADE_OF = frozenset({RowId.FAT, RowId.CARBOHYDRATE, RowId.PROTEIN})
_ENERGY_RELATIVE_SD = 0.03
_MODEL_RELATIVE_SD = 0.01
_NOTHING_LESS = 1e3  # stands for no lower end, where a declared 0 begins
_FLOOR_PER_100_G = {"g": 0.01, "mg": 0.5, "kcal": 2.0, "kJ": 8.0}


LABEL_ROW = Kind(
    id="label row", group="Label", is_figure=True, tail=interval_tail, expected=figure_expected, sentence=figure_sentence
)


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
        return only(self, rows, "low", "high", "per_gram", "lot_variance", "relative_sd", "floor")


def rows_term(problem: Problem) -> RowsTerm | None:
    """The label rows that are evidence; None without any."""
    reading = problem.reading
    if reading.basis_g is None:
        return None
    rows = [row for row in reading.rows if _row_counts(row, problem)]
    if not rows:
        return None
    region, scale = reading.study.region, reading.basis_g / 100.0
    ingredients = sorted({part.ingredient_id for part in problem.parts})
    same_lot = np.array([[float(part.ingredient_id == name) for part in problem.parts] for name in ingredients])
    table = np.array([[row_per_100_g(problem.pantry[name], row.row, region) or 0.0 for name in ingredients] for row in rows])
    lots = np.array([[_lot_sd(problem, name, row.row) for name in ingredients] for row in rows])
    per_gram = table / 100.0 * scale
    low = np.array([[reading.intervals[row.row].low] for row in rows])
    high = np.array([[reading.intervals[row.row].high] for row in rows])
    return RowsTerm(
        evidence=tuple(row_evidence(row, region, reading.intervals[row.row]) for row in rows),
        low=np.where(low <= 0, -_NOTHING_LESS * (high + 1), low),
        high=high,
        per_gram=per_gram @ same_lot,
        same_lot=same_lot,
        lot_variance=(lots * per_gram) ** 2,
        relative_sd=np.array([[np.hypot(_relative_sd(row.row), reading.basis_relative_sd)] for row in rows]),
        floor=np.array([[_FLOOR_PER_100_G[_unit(row.row, region)] * scale] for row in rows]),
    )


def _row_counts(row: RowReading, problem: Problem) -> bool:
    """Whether a row is evidence: energy only where a row it is made of is missing; no row the table cannot compute."""
    if row.row not in problem.reading.intervals:
        return False
    region = problem.reading.study.region
    declared = set(problem.reading.intervals)
    if row.row in _ENERGY_ROWS and (
        declared >= _ENERGY_MADE_OF or (row.row is RowId.ENERGY_KJ and RowId.ENERGY_KCAL in declared)
    ):
        return False
    return all(row_per_100_g(problem.pantry[part.ingredient_id], row.row, region) is not None for part in problem.parts)


def _lot_sd(problem: Problem, ingredient_id: str, row: RowId) -> float:
    return 0.03 if row in _ENERGY_ROWS else lot_spread(problem.pantry[ingredient_id], ROW_NUTRIENT[row])


def _relative_sd(row: RowId) -> float:
    return _ENERGY_RELATIVE_SD if row in _ENERGY_ROWS else _MODEL_RELATIVE_SD


def _unit(row: RowId, region: Region) -> str:
    return next(spec.unit for spec in panel_rows(region) if spec.id is row)


def row_evidence(row: RowReading, region: Region, interval: Interval) -> Evidence:
    """A label row as it is listed.

    Args:
        interval: What it stands for, both columns counted.
    """
    spec = next(spec for spec in panel_rows(region) if spec.id is row.row)
    return Evidence(
        id=f"row:{row.row}",
        kind=LABEL_ROW,
        title=spec.short,
        seen=f"{row.figure.words} {spec.unit}" if row.figure else "the other column",
        unit=spec.unit,
        seen_low=interval.low,
        seen_high=interval.high,
    )
