"""A mixed-integer program with named parts: variables, limits that can be moved, deviations that cost; solved by HiGHS."""

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import csr_array

_INF = float("inf")
_TIME_LIMIT_S = 4.0
_TIGHT = 1e-7

Terms = Mapping[int, float]  # variable -> coefficient


@dataclass(frozen=True, slots=True)
class Limit:
    """A hard limit: low <= sum of terms <= high, in grams."""

    id: str
    terms: Terms
    low: float
    high: float
    words: str = ""  # what it says, in the user's terms; empty where it is a definition that cannot give
    step: float = 0.0  # how far it is moved to see what it costs [g]
    moved: str = ""  # what moving it by its step means; with {way} for up or down where it has two sides
    dear: float = 1.0  # how many others would rather give than this one


@dataclass(slots=True)
class Program:
    """Variables are numbered as they are added; every one is at least 0 unless said otherwise."""

    costs: list[float] = field(default_factory=list)
    lows: list[float] = field(default_factory=list)
    highs: list[float] = field(default_factory=list)
    whole: list[int] = field(default_factory=list)
    limits: list[Limit] = field(default_factory=list)

    def variable(self, *, cost: float = 0.0, low: float = 0.0, high: float = _INF, whole: bool = False) -> int:
        """A new variable; its number."""
        self.costs.append(cost)
        self.lows.append(low)
        self.highs.append(high)
        self.whole.append(int(whole))
        return len(self.costs) - 1

    def limit(self, limit: Limit) -> None:
        """A new limit."""
        self.limits.append(limit)

    def define(self, name: str, terms: Terms, value: float = 0.0) -> None:
        """An equation that cannot give."""
        self.limits.append(Limit(name, terms, value, value))

    def solved(
        self,
        *,
        moved: Mapping[str, tuple[float, float]] | None = None,
        costs: Mapping[int, float] | None = None,
        fixed: Mapping[int, float] | None = None,
        parted: bool = False,
        seconds: float = _TIME_LIMIT_S,
        gap: float = 1e-6,
    ) -> np.ndarray | None:
        """The cheapest values of all variables; None where nothing fits.

        Args:
            moved: Limit id -> other ends for it.
            costs: Variable -> another cost.
            fixed: Variable -> the value it must have.
            parted: Whether what is whole may be a part, which is soon solved and costs as much or less.
            seconds: After which the best so far is taken [s].
            gap: How near to the cheapest is near enough, relative.
        """
        count = len(self.costs)
        cost = np.array(self.costs)
        for variable, value in (costs or {}).items():
            cost[variable] = value
        least, most = np.array(self.lows), np.array(self.highs)
        for variable, value in (fixed or {}).items():
            least[variable] = most[variable] = value
        ends = [(moved or {}).get(limit.id, (limit.low, limit.high)) for limit in self.limits]
        rows, columns, values = [], [], []
        for row, limit in enumerate(self.limits):
            for variable, value in limit.terms.items():
                rows.append(row)
                columns.append(variable)
                values.append(value)
        constraints = []
        if self.limits:
            matrix = csr_array((values, (rows, columns)), shape=(len(self.limits), count))
            constraints = [LinearConstraint(matrix, [low for low, _ in ends], [high for _, high in ends])]
        found = milp(
            cost,
            integrality=None if parted else np.array(self.whole),
            bounds=Bounds(least, most),
            constraints=constraints,
            options={"time_limit": seconds, "mip_rel_gap": gap},
        )
        return None if found.x is None else np.asarray(found.x)

    def cost_of(self, values: np.ndarray) -> float:
        """What values cost."""
        return float(np.dot(self.costs, values))

    def tight(self, values: np.ndarray) -> list[tuple[Limit, str]]:
        """Limits that a solution runs into, each with the end: low, high or both."""
        found = []
        for limit in self.limits:
            if not limit.words:
                continue
            total = sum(coefficient * values[variable] for variable, coefficient in limit.terms.items())
            at_low, at_high = total - limit.low <= _TIGHT, limit.high - total <= _TIGHT
            if at_low or at_high:
                found.append((limit, "both" if at_low and at_high else "low" if at_low else "high"))
        return found

    def relaxed(self) -> list[tuple[Limit, float]] | None:
        """The fewest limits to give, and by how much [g, above where it may go up]; None where even that does not help."""
        fixed = Program(
            [0.0] * len(self.costs),
            list(self.lows),
            list(self.highs),
            list(self.whole),
            [limit for limit in self.limits if not limit.words],
        )
        gives = []
        for limit in (one for one in self.limits if one.words):
            size = max(1.0, sum(abs(value) for value in limit.terms.values()))
            up, down = fixed.variable(cost=1e-3 / size), fixed.variable(cost=1e-3 / size)
            used = fixed.variable(cost=limit.dear, high=1.0, whole=True)
            fixed.limit(Limit(limit.id, {**limit.terms, up: 1.0, down: -1.0}, limit.low, limit.high))
            fixed.limit(Limit(f"{limit.id} used", {up: 1.0, down: 1.0, used: -1e3}, -_INF, 0.0))
            gives.append((limit, up, down))
        values = fixed.solved()
        if values is None:
            return None
        return [
            (limit, float(values[down] - values[up])) for limit, up, down in gives if max(values[up], values[down]) > 10 * _TIGHT
        ]
