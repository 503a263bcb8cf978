"""Which of a few ways to measure each line is taken, so that all together keep to the limits and come near to the targets.

Each line begins with its nearest way. Then one line at a time, or two of one layer together, is changed for another way as long
as that costs less: breaking what a piece must hold to costs most, then windows and weights, then targets, then being far from
the exact amount. It is the same on every machine, and takes milliseconds where a search over all combinations takes a second and
more.

Worked example: 87.4 g and 43.7 g in whole grams for a layer of 131 g: 87 and 44 weigh 131; 87 and 43 would be a gram short, which
costs more than the 0.3 g that 44 is beyond 43.7.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from fern_match.core.formulate import Formula
from fern_match.core.formulate.solving.posed import Posed
from fern_match.core.formulate.solving.prices import price
from fern_match.core.formulate.solving.program import LimitKind

Floats = NDArray[np.float64]
Key = tuple[str, int]  # layer, and number of the line in it

_MOST_ROUNDS = 400
_MOST_PAIRED = 150  # ways of a layer up to which two of its lines are changed together
_GAIN = 1e-9


@dataclass(frozen=True, slots=True)
class Option:
    """One way to measure a line."""

    grams: float  # for one piece
    price: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Steps:
    """What may be measured, and how exactly."""

    options: Mapping[Key, Sequence[Option]]  # a line without any stays as it is
    weight_room: Mapping[str, float]  # by layer: how far its weight may be off [g a piece]
    limits: frozenset[str]  # of what the piece must hold to, ids


def nearest_steps(formula: Formula, posed: Posed, steps: Steps) -> tuple[Formula, dict[Key, int]]:
    """A formula in amounts that can be measured, and for each line the number of the way that was taken.

    Args:
        formula: For one piece.
        posed: The same as a program: its limits and targets.
        steps: The ways there are.
    """
    search = _Search(formula, posed, steps)
    search.run()
    return search.formula(formula), dict(search.chosen)


class _Search:
    """One search: amounts, what they add up to, and what that costs."""

    def __init__(self, formula: Formula, posed: Posed, steps: Steps) -> None:
        placed = posed.layers
        self.keys: list[Key] = [(one.layer.layer_id, at) for one in placed for at in range(len(one.amounts))]
        columns = {variable: at for at, variable in enumerate(variable for one in placed for variable in one.amounts)}
        losses = {one.lost: at for at, one in enumerate(placed)}
        self.layer_of = np.array([at for at, one in enumerate(placed) for _ in one.amounts], dtype=np.intp)
        self.loses = np.array([one.layer.water_lost_g > 0 for one in placed])
        self.finished = np.array([one.layer.finished_g for one in placed])
        self.layer_ids = [one.layer.layer_id for one in placed]
        rows = [*_hard_rows(posed, steps, columns, losses), *_target_rows(posed, columns, losses)]
        self.by_line, self.by_loss = (np.zeros((len(rows), len(size))) for size in (columns, losses))
        for at, row in enumerate(rows):
            for variable, value in row.terms.items():
                if variable in columns:
                    self.by_line[at, columns[variable]] = value
                else:
                    self.by_loss[at, losses[variable]] = value
        self.low, self.high = (np.array([getattr(row, end) for row in rows])[:, None] for end in ("low", "high"))
        self.price = np.array([row.price for row in rows])[:, None]
        middles = np.array([row.middle for row in rows], dtype=float)[:, None]
        self.middle, self.centred = (
            np.nan_to_num(middles),
            np.where(np.isnan(middles), 0.0, price("beside the middle") * self.price),
        )
        self.of_loss = [
            [at for at, row in enumerate(rows) if self.by_loss[at, number] and row.bounds_loss] for number in range(len(placed))
        ]
        self.options = {key: steps.options[key] for key in self.keys if key in steps.options}
        self.chosen: dict[Key, int] = {}
        amounts = {(one.layer.layer_id, at): line.grams for one in placed for at, line in enumerate(one.layer.ingredients)}
        for key, found in self.options.items():
            apart = [abs(one.grams - amounts[key]) for one in found]
            self.chosen[key] = apart.index(min(apart))
        self.amounts = np.array([self._taken(key).grams if key in self.chosen else amounts[key] for key in self.keys])
        self.ways = sum(self._taken(key).price for key in self.chosen)
        self.lost = self._losses()

    def _taken(self, key: Key) -> Option:
        return self.options[key][self.chosen[key]]

    def _bowls(self) -> Floats:
        """What goes into the bowl of each layer."""
        return np.asarray(np.bincount(self.layer_of, self.amounts, len(self.layer_ids)), dtype=float)

    def _losses(self) -> Floats:
        """Water driven off in each layer as its amounts are now."""
        added = self.by_line @ self.amounts
        grams = self._bowls()
        return np.array(
            [self._lost(number, added[:, None], grams[number : number + 1])[0] for number in range(len(self.layer_ids))]
        )

    def _lost(self, layer: int, added: Floats, grams: Floats) -> Floats:
        """Water driven off in a layer so that it weighs what it should, as far as its process and its moisture let it.

        Args:
            layer: Its number.
            added: What each row comes to before any water goes, for each trial.
            grams: What goes into the bowl, for each trial.
        """
        if not self.loses[layer]:
            return np.zeros_like(grams)
        low, high = np.zeros_like(grams), np.maximum(grams, 0.0)
        for row in self.of_loss[layer]:
            by = self.by_loss[row, layer]
            ends = [(end - added[row]) / by for end in (self.low[row, 0], self.high[row, 0])]
            low, high = np.maximum(low, np.minimum(*ends)), np.minimum(high, np.maximum(*ends))
        return np.asarray(np.clip(grams - self.finished[layer], low, np.maximum(low, high)))

    def _cost(self, totals: Floats) -> Floats:
        beyond = np.maximum(self.low - totals, 0.0) + np.maximum(totals - self.high, 0.0)
        return np.asarray((self.price * beyond + self.centred * np.abs(totals - self.middle)).sum(axis=0))

    def run(self) -> None:
        """Changes ways as long as that costs less."""
        for _ in range(_MOST_ROUNDS):
            if not (self._improve(pairs=False) or self._improve(pairs=True)):
                return

    def _improve(self, *, pairs: bool) -> bool:
        """Takes the best change there is, if there is one."""
        added = self.by_line @ self.amounts
        grams = self._bowls()
        now = float(self._cost((added + self.by_loss @ self.lost)[:, None])[0])
        best, best_move, best_lost = -_GAIN, None, 0.0
        for layer in range(len(self.layer_ids)):
            moves = self._moves(layer, pairs=pairs)
            if not moves:
                continue
            changes = np.zeros((len(self.keys), len(moves)))
            prices = np.zeros(len(moves))
            for number, move in enumerate(moves):
                for line, way in move:
                    key = self.keys[line]
                    changes[line, number] = self.options[key][way].grams - self.amounts[line]
                    prices[number] += self.options[key][way].price - self._taken(key).price
            mine = self.layer_of == layer
            totals = added[:, None] + self.by_line[:, mine] @ changes[mine]
            lost = self._lost(layer, totals, grams[layer] + changes[mine].sum(axis=0))
            others = self.by_loss @ np.where(np.arange(len(self.lost)) == layer, 0.0, self.lost)
            gains = self._cost(totals + others[:, None] + np.outer(self.by_loss[:, layer], lost)) + prices - now
            at = int(np.argmin(gains))
            if gains[at] < best:
                best, best_move, best_lost = float(gains[at]), moves[at], float(lost[at])
        if best_move is None:
            return False
        for line, way in best_move:
            self.chosen[self.keys[line]] = way
            self.amounts[line] = self.options[self.keys[line]][way].grams
        self.lost[self.layer_of[best_move[0][0]]] = best_lost
        return True

    def _moves(self, layer: int, *, pairs: bool) -> list[tuple[tuple[int, int], ...]]:
        """Changes within a layer: of one line, or of two together."""
        single = [
            (line, way)
            for line in np.flatnonzero(self.layer_of == layer).tolist()
            if self.keys[line] in self.options
            for way in range(len(self.options[self.keys[line]]))
            if way != self.chosen[self.keys[line]]
        ]
        if not pairs:
            return [(one,) for one in single]
        if len(single) > _MOST_PAIRED:
            return []
        return [(one, other) for at, one in enumerate(single) for other in single[at + 1 :] if one[0] != other[0]]

    def formula(self, formula: Formula) -> Formula:
        """A formula with the amounts that were taken."""
        amounts, lost = (
            dict(zip(self.keys, self.amounts.tolist(), strict=True)),
            dict(zip(self.layer_ids, self.lost.tolist(), strict=True)),
        )
        return replace(
            formula,
            layers=tuple(
                replace(
                    layer,
                    water_lost_g=lost[layer.layer_id],
                    ingredients=tuple(
                        replace(one, grams=amounts[layer.layer_id, at]) for at, one in enumerate(layer.ingredients)
                    ),
                )
                if layer.layer_id in lost
                else layer
                for layer in formula.layers
            ),
        )


@dataclass(frozen=True, slots=True)
class _Row:
    """Something that amounts add up to: between two ends, at a price of each gram beyond."""

    terms: Mapping[int, float]
    low: float
    high: float
    price: float
    middle: float = float("nan")  # where it is best; NaN where anywhere inside is as good
    bounds_loss: bool = False  # whether it says how much water may leave


def _hard_rows(posed: Posed, steps: Steps, columns: Mapping[int, int], losses: Mapping[int, int]) -> list[_Row]:
    """Limits of amounts and water alone; the weight of a layer within what its steps give."""
    found = []
    for limit in posed.program.limits:
        if (
            limit.kind is LimitKind.KEPT
            or not limit.terms
            or any(one not in columns and one not in losses for one in limit.terms)
        ):
            continue
        if limit.kind is LimitKind.WEIGHT:
            room = steps.weight_room.get(limit.of, 0.0)
            found.append(_Row(limit.terms, limit.low - room, limit.high + room, price("window broken by rounding")))
            continue
        broken = price("rule broken by rounding" if limit.id in steps.limits else "window broken by rounding")
        found.append(_Row(limit.terms, limit.low, limit.high, broken, bounds_loss=True))
    return found


def _target_rows(posed: Posed, columns: Mapping[int, int], losses: Mapping[int, int]) -> list[_Row]:
    """What targets add up to, less what is given."""
    found = []
    for limit in posed.program.limits:
        if limit.kind is not LimitKind.TARGET:
            continue
        terms = {one: value for one, value in limit.terms.items() if one in columns or one in losses}
        below, above, a_gram = posed.bands[limit.of]
        found.append(_Row(terms, limit.low - below, limit.high + above, a_gram, limit.low))
    return found
