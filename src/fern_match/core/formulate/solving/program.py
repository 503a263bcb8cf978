"""A mixed-integer program with named parts: variables, limits that can be moved, deviations that cost; solved by HiGHS."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import Enum
from itertools import chain

import numpy as np
from highspy import HighsLp, HighsModelStatus, HighsStatus, HighsVarType, MatrixFormat, kSolutionStatusFeasible

# The solver alone: what the package wraps round it prints a line to standard output.
from highspy import _Highs as Solver  # type: ignore[attr-defined]

from fern_match.core.errors import CoreError, Stopped

_INF = float("inf")
_TIME_LIMIT_S = 20.0  # of one program: a guard, never what decides on a piece of usual size
_MOST_NODES = 2000  # of a search: the same on every machine, where seconds are not
_TIGHT = 1e-7
_GIVES = 1e-3  # price of a gram that a limit gives, beside 1 for giving at all: the fewest limits, and those by little
_MOST_GIVEN_G = 1e3  # by how much a limit can give at all


class Unsolved(Enum):
    """Why a program has no values: expected outcomes, told apart."""

    NOTHING_FITS = "nothing fits"
    TOO_LONG = "it took too long"


_NOTHING = frozenset({HighsModelStatus.kInfeasible, HighsModelStatus.kUnboundedOrInfeasible})
_SETTLED = _NOTHING | {HighsModelStatus.kOptimal}
_STOPPED = frozenset({HighsModelStatus.kTimeLimit, HighsModelStatus.kIterationLimit, HighsModelStatus.kSolutionLimit})


@dataclass(eq=False)
class SolverFailed(CoreError):
    """The solver gave up on a program that it should be able to solve."""

    message: str

    def __str__(self) -> str:
        return f"The amounts could not be worked out ({self.message[:80].rstrip('.')}). Check what is locked and the weights."


Terms = Mapping[int, float]  # variable -> coefficient


class LimitKind(Enum):
    """What a limit is about, for whoever looks for some of them."""

    OTHER = "other"
    WEIGHT = "weight"  # of a layer
    KEPT = "kept"  # what a line keeps of its amount
    TARGET = "target"
    ONE_OF = "one of"  # how many of a set are used


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
    kind: LimitKind = LimitKind.OTHER
    of: str = ""  # the layer, line or target it is of


def _cheapest(lp: HighsLp, nodes: int, gap: float, *, in_parts: bool) -> np.ndarray | Unsolved:
    """The cheapest values, or why there are none; the same on every machine: on one thread, its search ended by its nodes."""
    solver = Solver()
    solver.setOptionValue("output_flag", False)
    solver.setOptionValue("threads", 1)
    solver.setOptionValue("time_limit", _TIME_LIMIT_S)
    solver.setOptionValue("mip_rel_gap", gap)
    solver.setOptionValue("mip_max_nodes", nodes)
    if in_parts:
        solver.setOptionValue("presolve", "off")  # takes longer than such a program does
    if solver.passModel(lp) == HighsStatus.kError:
        raise SolverFailed("it was not taken")
    solver.run()
    if in_parts and solver.getModelStatus() not in _SETTLED:  # rarely: badly scaled, and presolving helps
        solver.setOptionValue("presolve", "choose")
        solver.clearSolver()
        solver.run()
    status = solver.getModelStatus()
    if status in _NOTHING:
        return Unsolved.NOTHING_FITS
    feasible = solver.getInfo().primal_solution_status == kSolutionStatusFeasible
    if status == HighsModelStatus.kOptimal or (status in _STOPPED and feasible):
        return np.array(solver.getSolution().col_value)
    if status in _STOPPED:
        return Unsolved.TOO_LONG
    raise SolverFailed(solver.modelStatusToString(status))


@dataclass(slots=True)
class Program:
    """Variables are numbered as they are added; every one is at least 0 unless said otherwise."""

    costs: list[float] = field(default_factory=list)
    lows: list[float] = field(default_factory=list)
    highs: list[float] = field(default_factory=list)
    whole: list[int] = field(default_factory=list)
    limits: list[Limit] = field(default_factory=list)
    should_stop: Callable[[], bool] = lambda: False  # asked before each solving

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

    def define(self, name: str, terms: Terms, value: float = 0.0, *, kind: LimitKind = LimitKind.OTHER, of: str = "") -> None:
        """An equation that cannot give."""
        self.limits.append(Limit(name, terms, value, value, kind=kind, of=of))

    def solved(
        self,
        *,
        moved: Mapping[str, tuple[float, float]] | None = None,
        costs: Mapping[int, float] | None = None,
        fixed: Mapping[int, float] | None = None,
        parted: bool = False,
        nodes: int = _MOST_NODES,
        gap: float = 1e-6,
    ) -> np.ndarray | Unsolved:
        """The cheapest values of all variables, or why there are none.

        Args:
            moved: Limit id -> other ends for it.
            costs: Variable -> another cost.
            fixed: Variable -> the value it must have.
            parted: Whether what is whole may be a part, which is soon solved and costs as much or less.
            nodes: Of the search, after which the best so far is taken: the same on every machine, where seconds are not.
            gap: How near to the cheapest is near enough, relative.

        Raises:
            Stopped: should_stop said so.
            SolverFailed: the solver gave up for another reason.
        """
        if self.should_stop():
            raise Stopped
        if not self.costs:
            return np.zeros(0)
        count = len(self.costs)
        cost = np.array(self.costs)
        for variable, value in (costs or {}).items():
            cost[variable] = value
        least, most = np.array(self.lows), np.array(self.highs)
        for variable, value in (fixed or {}).items():
            least[variable] = most[variable] = value
        ends = [(moved or {}).get(limit.id, (limit.low, limit.high)) for limit in self.limits]
        lp = HighsLp()
        lp.num_col_, lp.num_row_ = count, len(self.limits)
        lp.col_cost_, lp.col_lower_, lp.col_upper_ = cost, least, most
        lp.row_lower_, lp.row_upper_ = np.array([low for low, _ in ends]), np.array([high for _, high in ends])
        matrix = lp.a_matrix_
        matrix.format_, matrix.num_col_, matrix.num_row_ = MatrixFormat.kRowwise, count, len(self.limits)
        begins = np.cumsum([0, *(len(limit.terms) for limit in self.limits)], dtype=np.int32)
        matrix.start_ = begins
        matrix.index_ = np.fromiter(chain.from_iterable(limit.terms for limit in self.limits), dtype=np.int32, count=begins[-1])
        matrix.value_ = np.fromiter(
            chain.from_iterable(limit.terms.values() for limit in self.limits), dtype=float, count=begins[-1]
        )
        in_parts = parted or not any(self.whole)
        if not in_parts:
            lp.integrality_ = [HighsVarType.kInteger if one else HighsVarType.kContinuous for one in self.whole]
        return _cheapest(lp, nodes, gap, in_parts=in_parts)

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

    def relaxed(self) -> list[tuple[Limit, float]] | Unsolved:
        """The fewest limits to give, and by how much [g, above where it may go up]; or why even that does not help."""
        fixed = Program(
            [0.0] * len(self.costs),
            list(self.lows),
            list(self.highs),
            list(self.whole),
            [limit for limit in self.limits if not limit.words],
            self.should_stop,
        )
        gives = []
        for limit in (one for one in self.limits if one.words):
            size = max(1.0, sum(abs(value) for value in limit.terms.values()))
            up, down = fixed.variable(cost=_GIVES / size), fixed.variable(cost=_GIVES / size)
            used = fixed.variable(cost=limit.dear, high=1.0, whole=True)
            fixed.limit(Limit(limit.id, {**limit.terms, up: 1.0, down: -1.0}, limit.low, limit.high))
            fixed.limit(Limit(f"{limit.id} used", {up: 1.0, down: 1.0, used: -_MOST_GIVEN_G}, -_INF, 0.0))
            gives.append((limit, up, down))
        values = fixed.solved()
        if isinstance(values, Unsolved):
            return values
        return [
            (limit, float(values[down] - values[up])) for limit, up, down in gives if max(values[up], values[down]) > 10 * _TIGHT
        ]
