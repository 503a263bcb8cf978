"""What is to be done now: the step at hand, what else is open, and which windows are about to close.

Worked example: whites done at 10:00 stand 4 minutes; at 10:03 the streaming in says “1 min left”, at 10:06 “2 min late” and
the way back.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from fern_match.core.cook.log import Run
from fern_match.core.cook.rescue import way_back
from fern_match.core.cook.schedule import Task, tasks_of
from fern_match.core.cook.step import Step

_MS_PER_MIN = 60_000.0
_NO_HURRY_MIN = 240.0  # a window that stays open so long needs no counting down


@dataclass(frozen=True, slots=True, kw_only=True)
class Closing:
    """A window: something that was made and does not wait for ever."""

    made: str  # title of the step that made it
    left_min: float  # below 0 where it has closed
    back: str  # the way back; empty while it is open, or where there is none


@dataclass(frozen=True, slots=True, kw_only=True)
class Doing:
    """One step, or one round of it, as it stands in the run."""

    step: str
    round: int
    rounds: int
    state: str  # done, open, ready, or waits
    waits_for: tuple[str, ...]  # titles of what is to be done before
    closing: tuple[Closing, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Now:
    """All steps in their order, and the one at hand."""

    doing: tuple[Doing, ...]
    at_hand: int | None  # place of the step at hand; None where all is done
    done: int


def now_of(steps: Sequence[Step], order: Sequence[tuple[str, int]], run: Run, now_ms: int) -> Now:
    """How each step stands.

    Args:
        steps: Of the plan.
        order: Steps and rounds as they are scheduled; those it lacks come in the plan's order.
        run: By the log.
        now_ms: By the log's clock.
    """
    tasks = {task.key: task for task in tasks_of(steps)}
    keys = [*(key for key in order if key in tasks), *(key for key in tasks if key not in set(order))]
    doing = tuple(_doing(tasks[key], tasks, run, now_ms) for key in keys)
    at_hand = next((number for number, one in enumerate(doing) if one.state == "open"), None)
    if at_hand is None:
        at_hand = next((number for number, one in enumerate(doing) if one.state == "ready"), None)
    return Now(doing=doing, at_hand=at_hand, done=sum(one.state == "done" for one in doing))


def _doing(task: Task, tasks: dict[tuple[str, int], Task], run: Run, now_ms: int) -> Doing:
    before = [found for need in task.step.needs if (found := _before(need, task, tasks)) is not None]
    if task.round > 1:
        before += [one for one in tasks.values() if one.step.block == task.step.block and one.round == task.round - 1]
    waits = [one for one in before if one.key not in run.done]
    state = "done" if task.key in run.done else "open" if task.key in run.opened else "waits" if waits else "ready"
    return Doing(
        step=task.step.id,
        round=task.round,
        rounds=task.step.rounds if task.step.block else 1,
        state=state,
        waits_for=tuple(dict.fromkeys(one.step.title for one in waits)) if state == "waits" else (),
        closing=tuple(found for one in before for found in _closing(one, task, run, now_ms))
        if state in {"ready", "waits"}
        else (),
    )


def _before(need: str, task: Task, tasks: dict[tuple[str, int], Task]) -> Task | None:
    same = tasks.get((need, task.round)) if task.step.block else None
    return same or next((one for key, one in reversed(tasks.items()) if key[0] == need), None)


def _closing(one: Task, task: Task, run: Run, now_ms: int) -> list[Closing]:
    most, at = one.step.most_wait_min, run.done.get(one.key)
    if most is None or at is None or most >= _NO_HURRY_MIN or (task.round > 1 and one.round == 1):
        return []
    left = most - (now_ms - at) / _MS_PER_MIN * (run.speed or 1.0)
    return [Closing(made=one.step.title, left_min=left, back=way_back(one.step) if left < 0 else "")]
