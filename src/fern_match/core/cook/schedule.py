"""A schedule: who does what when, with the burners, ovens and fridges there are, within the windows that close.

The solver is CP-SAT of OR-Tools: intervals, things that are there so many times, and windows are what it is made for; a mixed
integer program of the same says each pair of steps twice and takes many times as long. It works alone and to a fixed amount of
work, not of time, so that the same plan gives the same schedule on every machine.

Worked example: a syrup of 5 minutes' work and 7 of boiling by itself, whites of 5 minutes that wait 4 at most, both needed by the
streaming in: one cook starts the syrup at 0 and the whites at 7, and streams at 12.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from fern_match.core.cook.moments import MINUTES_A_DAY
from fern_match.core.cook.step import Place, Step
from fern_match.core.errors import check_range

USUAL_DAY = (7 * 60, 22 * 60)  # from when to when anybody works [min after midnight]
_MOST_WORK = 1.5  # of the solver, in its own unit
_LATE, _END = 2000, 50  # what a minute beyond a window, and a minute of the whole, cost beside a minute of one step
_SAME_ROOM = ("steam",)  # steps that steam spoils
_PLACES = (Place.BURNER, Place.OVEN, Place.FRIDGE, Place.FREEZER, Place.MIXER, Place.IRON)


@dataclass(frozen=True, slots=True, kw_only=True)
class Hands:
    """What there is to work with, how often of each."""

    cooks: int = 1
    burners: int = 4
    ovens: int = 1
    fridges: int = 1
    day: tuple[int, int] = USUAL_DAY  # from when to when anybody works [min after midnight]

    def of(self, place: Place) -> int:
        """How many things can go on in a place at once.

        Args:
            place: Not bench or room: there is always some of it.
        """
        shelves = {Place.OVEN: 2, Place.FRIDGE: 4}  # trays in one of it (approximate)
        count = {Place.BURNER: self.burners, Place.OVEN: self.ovens, Place.FRIDGE: self.fridges}.get(place, 1)
        return count * shelves.get(place, 1)


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """One step, or one round of it, in the schedule [min after the midnight before the first step]."""

    step: str
    round: int  # from 1
    start_min: int
    hands_end_min: int
    end_min: int
    cook: int  # from 1
    place: Place


@dataclass(frozen=True, slots=True, kw_only=True)
class Schedule:
    """Steps in time."""

    lines: tuple[Line, ...]
    gap: float  # how much better the best there is could be [1]; 0 where this is it
    clashes: tuple[str, ...]  # windows that cannot be kept, and by how much

    @property
    def start_min(self) -> int:
        """When the first step begins."""
        return min((one.start_min for one in self.lines), default=0)

    @property
    def end_min(self) -> int:
        """When the last step ends."""
        return max((one.end_min for one in self.lines), default=0)


@dataclass(frozen=True, slots=True)
class Task:
    """One step, or one round of it."""

    step: Step
    round: int
    hands: int  # [min]
    wait: int  # [min]

    @property
    def key(self) -> tuple[str, int]:
        """What it is known by."""
        return (self.step.id, self.round)


def tasks_of(steps: Sequence[Step]) -> tuple[Task, ...]:
    """A plan's steps one by one, in their order; those of a block are repeated together, round by round.

    Args:
        steps: Of a plan.
    """
    found: list[Task] = []
    done: set[str] = set()
    for step in steps:
        if step.block and step.block in done:
            continue
        if not step.block:
            found.append(Task(step, 1, _up(step.rounds * step.hands_on_min), _up(step.rounds * step.wait_min)))
            continue
        done.add(step.block)
        block = [one for one in steps if one.block == step.block]
        others = _between(steps, block)
        found += [Task(one, 1, _up(one.rounds * one.hands_on_min), _up(one.rounds * one.wait_min)) for one in others]
        done |= {one.id for one in others}
        for number in range(1, step.rounds + 1):
            found += [Task(one, number, _up(one.hands_on_min), _up(one.wait_min)) for one in block]
    seen: set[tuple[str, int]] = set()
    return tuple(one for one in found if one.key not in seen and not seen.add(one.key))  # type: ignore[func-returns-value]


def _between(steps: Sequence[Step], block: Sequence[Step]) -> list[Step]:
    """What stands between the steps of a block: made once, before its first round."""
    ids = [one.id for one in steps]
    first, last = ids.index(block[0].id), ids.index(block[-1].id)
    return [one for one in steps[first : last + 1] if not one.block]


def _up(minutes: float) -> int:
    return math.ceil(minutes - 1e-9)


def schedule(steps: Sequence[Step], hands: Hands, *, begins_min: int | None = None, ready_min: int | None = None) -> Schedule:
    """When each step is done: as early as it can be from a time on, or as late as it can be to be ready by one.

    Args:
        steps: Of a plan, each after what it needs.
        hands: Who and what there is.
        begins_min: Not before [min after midnight of the first day], 0 to 1440.
        ready_min: Ready by [min after midnight of the first of 14 days]; where None, forward from `begins_min`.

    Raises:
        OutOfRange: a time is outside.
    """
    if begins_min is not None:
        check_range("begin", begins_min, 0, MINUTES_A_DAY, unit="min")
    tasks = tasks_of(steps)
    if not tasks:
        return Schedule(lines=(), gap=0.0, clashes=())
    return _Model(tasks, hands, begins_min or 0, ready_min).solved()


class _Model:
    """The steps as intervals."""

    def __init__(self, tasks: Sequence[Task], hands: Hands, begins: int, ready: int | None) -> None:
        from ortools.sat.python import cp_model  # brings much along, so it is loaded where it is used

        self.cp = cp_model
        self.tasks, self.hands, self.begins, self.ready = tasks, hands, begins, ready
        work = sum(task.hands + task.wait for task in tasks)
        nights = math.ceil(sum(task.hands for task in tasks) / max(1, hands.day[1] - hands.day[0])) + 2
        longest = begins + work + nights * MINUTES_A_DAY + MINUTES_A_DAY
        self.horizon = max(longest, ready or 0)
        self.model: Any = cp_model.CpModel()
        self.start = {task.key: self.model.new_int_var(begins, self.horizon, f"{task.key}") for task in tasks}
        self.late: dict[tuple[tuple[str, int], tuple[str, int]], Any] = {}
        self._order()
        self._resources()
        self.end = self.model.new_int_var(0, self.horizon, "end")
        for task in tasks:
            self.model.add(self.end >= self.start[task.key] + task.hands + task.wait)

    def _before(self, step_id: str, task: Task) -> Task | None:
        """What a task waits for: in a block the same round, after one its last."""
        found = [one for one in self.tasks if one.step.id == step_id]
        same = next((one for one in found if one.round == task.round and task.step.block), None)
        return same or (found[-1] if found else None)

    def _order(self) -> None:
        for task in self.tasks:
            for need in task.step.needs:
                before = self._before(need, task)
                if before is not None:
                    self._after(before, task)
            if task.round > 1:
                for other in self.tasks:
                    if other.step.block == task.step.block and other.round == task.round - 1:
                        self.model.add(self.start[task.key] >= self.start[other.key] + other.hands + other.wait)

    def _after(self, before: Task, task: Task) -> None:
        ends = self.start[before.key] + before.hands + before.wait
        self.model.add(self.start[task.key] >= ends)
        most = before.step.most_wait_min
        if most is None or (task.round > 1 and before.round == 1):  # later rounds warm the bowl again
            return
        late = self.model.new_int_var(0, self.horizon, "late")
        self.model.add(self.start[task.key] <= ends + int(most) + late)
        self.late[(before.key, task.key)] = late

    def _resources(self) -> None:
        size, model = {task.key: task.hands + task.wait for task in self.tasks}, self.model
        hands = [model.new_fixed_size_interval_var(self.start[t.key], t.hands, "hands") for t in self.tasks if t.hands]
        nights = self._nights()
        model.add_cumulative([*hands, *nights], [1] * len(hands) + [self.hands.cooks] * len(nights), self.hands.cooks)
        for place in _PLACES:
            there = [t for t in self.tasks if t.step.place is place and size[t.key]]
            if there:
                spans = [model.new_fixed_size_interval_var(self.start[t.key], size[t.key], place.value) for t in there]
                model.add_cumulative(spans, [1] * len(spans), self.hands.of(place))
        boils = [t for t in self.tasks if t.step.boil is not None]
        spans = [model.new_fixed_size_interval_var(self.start[t.key], size[t.key], "pan") for t in boils]
        if spans:
            model.add_cumulative(spans, [1] * len(spans), self.hands.cooks)
        dry = [t for t in self.tasks if t.hands and any(one in t.step.cautions for one in _SAME_ROOM)]
        for wet in boils:
            for task in dry:
                pair = [model.new_fixed_size_interval_var(self.start[t.key], size[t.key], "room") for t in (wet, task)]
                model.add_no_overlap(pair)

    def _nights(self) -> list[Any]:
        """When nobody works."""
        morning, evening = self.hands.day
        found = []
        for day in range(self.horizon // MINUTES_A_DAY + 2):
            begin = day * MINUTES_A_DAY + evening
            found.append(self.model.new_fixed_size_interval_var(begin, MINUTES_A_DAY - evening + morning, "night"))
        if morning:
            found.append(self.model.new_fixed_size_interval_var(0, morning, "night"))
        return found

    def solved(self) -> Schedule:
        """The schedule, with how far it may be from the best, and the windows that it cannot keep."""
        late = _LATE * sum(self.late.values()) if self.late else 0
        if self.ready is None:
            self.model.minimize(late + _END * self.end + sum(self.start.values()))
        else:
            self.model.add(self.end <= self.ready)
            first = self.model.new_int_var(0, self.horizon, "first")
            for start in self.start.values():
                self.model.add(first <= start)
            self.model.minimize(late - _END * first - sum(self.start.values()))
        solver = self.cp.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.random_seed = 1
        solver.parameters.max_deterministic_time = _MOST_WORK
        status = solver.solve(self.model)
        if status not in {self.cp.OPTIMAL, self.cp.FEASIBLE}:
            return Schedule(lines=(), gap=1.0, clashes=(self._impossible(),))
        starts = {key: int(solver.value(start)) for key, start in self.start.items()}
        best, bound = solver.objective_value, solver.best_objective_bound
        gap = 0.0 if status == self.cp.OPTIMAL else abs(best - bound) / max(1.0, abs(best))
        by_key = {task.key: task for task in self.tasks}
        clashes = tuple(
            _clash(by_key[before], by_key[after], int(solver.value(late)))
            for (before, after), late in self.late.items()
            if solver.value(late) > 0
        )
        return Schedule(lines=self._lines(starts), gap=gap, clashes=clashes)

    def _impossible(self) -> str:
        if self.ready is not None:
            return "It cannot be ready by then: give it a later time, more cooks, or longer days."
        longest = max(self.tasks, key=lambda one: one.hands)
        return f"“{longest.step.title}” takes {longest.hands} minutes of work and does not fit into a working day."

    def _lines(self, starts: Mapping[tuple[str, int], int]) -> tuple[Line, ...]:
        """With the cook of each: whoever has been free longest."""
        free = [0] * self.hands.cooks
        lines = []
        for task in sorted(self.tasks, key=lambda one: (starts[one.key], one.hands == 0)):
            start = starts[task.key]
            cook = min((one for one in range(len(free)) if free[one] <= start), key=lambda one: free[one], default=0)
            if task.hands:
                free[cook] = start + task.hands
            lines.append(
                Line(
                    step=task.step.id,
                    round=task.round,
                    start_min=start,
                    hands_end_min=start + task.hands,
                    end_min=start + task.hands + task.wait,
                    cook=cook + 1,
                    place=task.step.place,
                )
            )
        return tuple(lines)


def _clash(before: Task, after: Task, minutes: int) -> str:
    return (
        f"“{before.step.title}” stands {minutes} min longer than it should before “{after.step.title}”: "
        "another pair of hands would keep it, or the way back that the step names."
    )
