"""A cook as it runs: the step at hand, timers, what closes, what the devices show, what was logged."""

from collections.abc import Sequence

from pydantic import BaseModel

from fern_match.core.batch import BatchReading
from fern_match.core.cook import (
    Closing,
    Logged,
    Now,
    Pan,
    Plan,
    Run,
    Schedule,
    Step,
    altered_words,
    as_cooked,
    clock,
    entry_words,
    now_of,
    run_of,
    warning_of,
)
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures.shown import shown_mass, shown_temperature
from fern_match.core.study.reading import StudyReading
from fern_match.devices import SimulatedPan


class DoingOut(BaseModel):
    """One step, or one round of it, as it stands."""

    step: str
    round: int
    rounds: int
    title: str
    layer_id: str
    state: str
    waits_for: list[str]
    closing: list[Closing]
    planned: str  # when the schedule has it


class TimerOut(BaseModel):
    """A timer."""

    id: str
    title: str
    step: str
    minutes: float
    left_s: float


class DeviceOut(BaseModel):
    """What a device shows now."""

    name: str
    heat: str
    temp_c: float
    mass: str
    mass_g: float
    warning: str
    alarm: str  # empty, near, or past
    is_on: bool  # the heat


class EntryOut(BaseModel):
    """An entry of the log in words."""

    number: int
    at_ms: int
    step: str
    words: str


class RunOut(BaseModel):
    """How far a cook is."""

    is_on: bool
    has_begun: bool
    now_ms: int
    last: int  # number of the last entry
    doing: list[DoingOut]
    at_hand: int | None
    done: int
    timers: list[TimerOut]
    speed: float
    device: DeviceOut | None
    log: list[EntryOut]  # newest first
    as_cooked: str  # what altered amounts do; empty where none were


_SHOWN = 60


def run_out(
    plan: Plan,
    planned: Schedule,
    read: BatchReading,
    reading: StudyReading,
    kitchen: KitchenReading,
    entries: Sequence[Logged],
    now_ms: int,
) -> RunOut:
    """How far a cook is.

    Args:
        plan: Its steps.
        planned: Their times.
        read: Its batch.
        reading: The study.
        kitchen: For units and where water boils.
        entries: Of its log.
        now_ms: By the log's clock.
    """
    run = run_of(entries, now_ms)
    order = [(line.step, line.round) for line in planned.lines]
    now = now_of(plan.steps, order, run, now_ms)
    steps = {one.id: one for one in plan.steps}
    return RunOut(
        is_on=run.is_on,
        has_begun=run.begun_ms is not None,
        now_ms=now_ms,
        last=run.last,
        doing=_doing(now, steps, planned),
        at_hand=now.at_hand,
        done=now.done,
        timers=[
            TimerOut(
                id=one.id,
                title=steps[one.step].title if one.step in steps else one.title,
                step=one.step,
                minutes=one.minutes,
                left_s=one.left_s,
            )
            for one in run.timers
        ],
        speed=run.speed,
        device=_device(plan, now, run, kitchen, now_ms),
        log=[
            EntryOut(number=one.number, at_ms=one.at_ms, step=one.entry.step, words=entry_words(one.entry, steps, kitchen))
            for one in reversed(entries[-_SHOWN:])
        ],
        as_cooked=altered_words(as_cooked(run.amounts, plan.steps, read, reading), read, reading, kitchen),
    )


def _doing(now: Now, steps: dict[str, Step], planned: Schedule) -> list[DoingOut]:
    starts = {(line.step, line.round): clock(line.start_min) for line in planned.lines}
    return [
        DoingOut(
            step=one.step,
            round=one.round,
            rounds=one.rounds,
            title=steps[one.step].title,
            layer_id=steps[one.step].layer_id,
            state=one.state,
            waits_for=list(one.waits_for),
            closing=list(one.closing),
            planned=starts.get((one.step, one.round), ""),
        )
        for one in now.doing
    ]


def _device(plan: Plan, now: Now, run: Run, kitchen: KitchenReading, now_ms: int) -> DeviceOut | None:
    if run.speed <= 0 or now.at_hand is None:
        return None
    step = plan.step(now.doing[now.at_hand].step)
    if step is None or step.boil is None or step.id not in run.heat:
        return None
    on_ms, off_ms = run.heat[step.id]
    pan = Pan(step.boil, boils_at_c=kitchen.boils_at_reading_c)
    device = SimulatedPan(pan, on_ms=on_ms, off_ms=off_ms, speed=run.speed)
    shown = device.measured(now_ms)
    assert shown.temp_c is not None
    assert shown.mass_g is not None
    warning, alarm = warning_of(step, shown.temp_c, shown.mass_g, shown.rising_c_min, pan, kitchen)
    return DeviceOut(
        name=device.name,
        heat=shown_temperature(shown.temp_c, kitchen.kitchen.temperature_unit),
        temp_c=shown.temp_c,
        mass=shown_mass(shown.mass_g, kitchen.kitchen.mass_unit),
        mass_g=shown.mass_g,
        warning=warning,
        alarm=alarm,
        is_on=off_ms is None,
    )
