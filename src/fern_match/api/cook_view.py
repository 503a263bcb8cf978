"""A cook as its page shows it: steps in words and in the kitchen's units, and the schedule as a clock shows it."""

from collections.abc import Mapping, Sequence
from dataclasses import replace

from pydantic import BaseModel

from fern_match.api.typed import TypedOut, typed_out
from fern_match.core.cook import (
    MINUTES_A_DAY,
    CookPlan,
    Cue,
    Heat,
    Line,
    Option,
    OwnStep,
    Plan,
    Rescue,
    Schedule,
    Step,
    StepChange,
    Use,
    at_hand_before,
    caution_sentences,
    clock,
    cue_words,
    read_change,
    rescues_for,
    schedule_words,
    shown_minutes,
    water_words,
    window_words,
)
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures.shown import MassUnit, shown_mass, shown_range, shown_temperature, temperatures_in


class UseOut(BaseModel):
    """What goes in."""

    line_id: str
    name: str
    amount: str  # as it is weighed out or measured here
    grams: float
    each: str
    how: str  # how to measure what is too little for the scale


class CueOut(BaseModel):
    """Something seen, and what it stands for."""

    id: str
    stage: str
    words: str
    short: str
    stands_for: str  # empty where it stands for no figure


class HeatOut(BaseModel):
    """A temperature to reach, as this thermometer shows it here."""

    aim: str
    window: str
    of: str
    aim_c: float
    high_c: float
    sea_level: str  # as recipes give it, where that is another figure


class CautionOut(BaseModel):
    """What can hurt at a step."""

    topic: str
    sentence: str


class StepOut(BaseModel):
    """One thing to do."""

    id: str
    layer_id: str
    layer: str
    title: str
    words: str
    uses: list[UseOut]
    hands_on: str
    wait: str
    window: str  # how long it can wait afterwards; empty where it can for long
    hands_on_min: float
    wait_min: float
    place: str
    heat: HeatOut | None
    end_weight: str
    end_water: str  # of it, as it ends; empty where nothing is boiled
    reason: str
    end_by: str
    cues: list[CueOut]
    gate: str
    have_ready: list[str]  # before a step that cannot be stopped once begun
    tools: list[str]
    cautions: list[CautionOut]
    rescues: list[Rescue]
    problem: str
    rounds: int
    round_words: str
    note: str
    own: bool
    changed: bool


class SchoolOut(BaseModel):
    """One choice between ways."""

    id: str
    asks: str
    layer: str
    chosen: str
    options: list[Option]


class ChangeCellsOut(BaseModel):
    """The figures of a changed step as read."""

    id: str
    cells: dict[str, TypedOut]


class LineOut(BaseModel):
    """One step, or one round of it, in the schedule."""

    step: str
    round: int
    title: str
    layer_id: str
    start_min: int
    hands_end_min: int
    end_min: int
    start: str  # as a clock shows it
    end: str
    day: int  # from 1
    cook: int
    place: str


class ScheduleOut(BaseModel):
    """Steps in time."""

    revision: int
    lines: list[LineOut]
    start_min: int
    end_min: int
    words: str
    clashes: list[str]


def step_out(step: Step, plan: Plan, kitchen: KitchenReading) -> StepOut:
    """A step as it is shown.

    Args:
        step: Of the plan.
        plan: For what follows it.
        kitchen: For its units.
    """
    unit = kitchen.kitchen.mass_unit
    return StepOut(
        id=step.id,
        layer_id=step.layer_id,
        layer=step.layer,
        title=step.title,
        words=step.words,
        uses=[_use(one, unit) for one in step.uses],
        hands_on=shown_minutes(step.hands_on_min) if step.hands_on_min > 0 else "",
        wait=shown_minutes(step.wait_min) if step.wait_min > 0 else "",
        window=window_words(step),
        hands_on_min=step.hands_on_min,
        wait_min=step.wait_min,
        place=step.place.value,
        heat=_heat(step.heat, kitchen) if step.heat is not None else None,
        end_weight=shown_mass(step.end_weight_g, unit) if step.end_weight_g is not None else "",
        end_water=water_words(step),
        reason=step.reason,
        end_by=step.end_by,
        cues=[_cue(one, kitchen) for one in step.cues],
        gate=step.gate,
        have_ready=list(at_hand_before(step, plan.steps)),
        tools=list(step.tools),
        cautions=_cautions(step.cautions, kitchen),
        rescues=_rescues(step, kitchen),
        problem=step.problem,
        rounds=step.rounds,
        round_words=step.round_words,
        note=step.note,
        own=step.own,
        changed=step.changed,
    )


def _use(use: Use, unit: MassUnit) -> UseOut:
    amount = use.words or shown_mass(use.grams, unit)
    return UseOut(line_id=use.line_id, name=use.name, amount=amount, grams=use.grams, each=use.each, how=use.how)


def _heat(heat: Heat, kitchen: KitchenReading) -> HeatOut:
    unit = kitchen.kitchen.temperature_unit
    aim, sea = shown_temperature(heat.aim_c, unit), heat.sea_level_c
    as_recipes = shown_temperature(sea, unit) if sea is not None else ""
    return HeatOut(
        aim=aim,
        window=shown_range(heat.low_c, heat.high_c, unit),
        of=heat.of,
        aim_c=heat.aim_c,
        high_c=heat.high_c,
        sea_level=as_recipes if as_recipes != aim else "",
    )


def _cue(cue: Cue, kitchen: KitchenReading) -> CueOut:
    stands = cue_words(cue, kitchen.kitchen.temperature_unit)
    return CueOut(id=cue.id, stage=cue.stage.value, words=cue.words, short=cue.short, stands_for=stands)


def _cautions(keys: Sequence[str], kitchen: KitchenReading) -> list[CautionOut]:
    table = caution_sentences()
    unit = kitchen.kitchen.temperature_unit
    found = [table[key] for key in keys if key in table]
    return [CautionOut(topic=topic, sentence=temperatures_in(sentence, unit)) for topic, sentence in found]


def _rescues(step: Step, kitchen: KitchenReading) -> list[Rescue]:
    unit = kitchen.kitchen.temperature_unit
    return [replace(one, now=temperatures_in(one.now, unit)) for one in rescues_for(step)]


def schools_out(plan: Plan) -> list[SchoolOut]:
    """The choices of a plan that leave a choice.

    Args:
        plan: With its schools.
    """
    return [
        SchoolOut(id=one.id, asks=one.asks, layer=one.layer, chosen=one.chosen, options=list(one.options))
        for one in plan.schools
        if len(one.options) > 1
    ]


def changes_out(cook: CookPlan, kitchen: KitchenReading) -> list[ChangeCellsOut]:
    """The figures of all changed and own steps as read.

    Args:
        cook: With its changes.
        kitchen: For its units.
    """
    shown_in = kitchen.kitchen.shown_in
    changed: list[StepChange | OwnStep] = [*cook.changes, *cook.own]
    return [
        ChangeCellsOut(
            id=one.id, cells={key: typed_out(typed, shown_in) for key, typed in read_change(one, kitchen.comma).items()}
        )
        for one in changed
    ]


def schedule_out(found: Schedule, plan: Plan, revision: int) -> ScheduleOut:
    """A schedule as a clock shows it; its first day is day 1.

    Args:
        found: Of the plan.
        plan: For titles.
        revision: That it was made on.
    """
    first = found.start_min // MINUTES_A_DAY
    titles: Mapping[str, Step] = {one.id: one for one in plan.steps}
    return ScheduleOut(
        revision=revision,
        lines=[_line(one, titles, first) for one in found.lines],
        start_min=found.start_min - first * MINUTES_A_DAY,
        end_min=found.end_min - first * MINUTES_A_DAY,
        words=schedule_words(found),
        clashes=list(found.clashes),
    )


def _line(line: Line, steps: Mapping[str, Step], first: int) -> LineOut:
    step = steps[line.step]
    return LineOut(
        step=line.step,
        round=line.round,
        title=step.title,
        layer_id=step.layer_id,
        start_min=line.start_min - first * MINUTES_A_DAY,
        hands_end_min=line.hands_end_min - first * MINUTES_A_DAY,
        end_min=line.end_min - first * MINUTES_A_DAY,
        start=clock(line.start_min),
        end=clock(line.end_min),
        day=line.start_min // MINUTES_A_DAY - first + 1,
        cook=line.cook,
        place=line.place.value,
    )
