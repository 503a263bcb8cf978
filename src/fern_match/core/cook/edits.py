"""The user's changes of a plan: steps left out, moved, with other minutes or another heat, and steps of one's own."""

from collections.abc import Mapping
from dataclasses import replace

from fern_match.core.cook.record import CookPlan, OwnStep, StepChange
from fern_match.core.cook.schools import JOIN
from fern_match.core.cook.step import Heat, Step
from fern_match.core.measures import Comma, Typed, read_celsius
from fern_match.core.measures.amounts import read_minutes
from fern_match.core.measures.shown import TemperatureUnit

OWN = "own"
_COLDEST_C, _HOTTEST_C = -30.0, 260.0
_AROUND_C = 1.5  # of a heat of the user's own


def read_change(change: StepChange | OwnStep, comma: Comma = Comma.DECIMAL) -> Mapping[str, Typed]:
    """The figures of a changed step as read: minutes, and heat [degC].

    Args:
        change: As typed.
        comma: What a comma means.
    """
    return {
        "hands_on": read_minutes(change.hands_on, comma=comma),
        "wait": read_minutes(change.wait, comma=comma),
        "heat": read_celsius(change.heat, low_c=_COLDEST_C, high_c=_HOTTEST_C, comma=comma),
    }


def edited(steps: tuple[Step, ...], cook: CookPlan, unit: TemperatureUnit) -> tuple[tuple[Step, ...], tuple[str, ...]]:
    """A plan with the user's changes, and the titles of changed steps that the plan no longer has.

    Args:
        steps: As planned.
        cook: With the changes.
        unit: What bare figures of heat are in.
    """
    del unit
    found = list(steps)
    missing = []
    for change in cook.changes:
        at = next((number for number, one in enumerate(found) if one.id == change.id), None)
        if at is None:
            missing.append(change.title or change.id)
            continue
        if change.left_out:
            found = _without(found, at)
        else:
            found[at] = _changed(found[at], change)
            found = _moved(found, at, change.after)
    for own in cook.own:
        found = _with_own(found, own)
    return tuple(found), tuple(missing)


def _changed(step: Step, change: StepChange) -> Step:
    read = read_change(change)
    hands, wait, heat = (read[name].value for name in ("hands_on", "wait", "heat"))
    touched = hands is not None or wait is not None or heat is not None or bool(change.after)
    new_heat = step.heat
    if heat is not None:
        of = step.heat.of if step.heat is not None else "in the pan"
        new_heat = Heat(low_c=heat - _AROUND_C, aim_c=heat, high_c=heat + _AROUND_C, of=of)
    return replace(
        step,
        hands_on_min=step.hands_on_min if hands is None else hands,
        wait_min=step.wait_min if wait is None else wait,
        heat=new_heat,
        note=change.note,
        changed=step.changed or touched,
    )


def _without(steps: list[Step], at: int) -> list[Step]:
    """What needed the step needs what it needed; what went in there goes in where it is next needed."""
    gone = steps[at]
    kept = []
    handed_on = False
    for one in steps[:at] + steps[at + 1 :]:
        if gone.id not in one.needs:
            kept.append(one)
            continue
        needs = tuple(dict.fromkeys((*gone.needs, *(need for need in one.needs if need != gone.id))))
        takes = bool(gone.uses) and not handed_on and one.layer_id == gone.layer_id
        kept.append(replace(one, needs=needs, uses=(*gone.uses, *one.uses) if takes else one.uses))
        handed_on = handed_on or takes
    return kept


def _moved(steps: list[Step], at: int, after: str) -> list[Step]:
    if not after or after == steps[at].id or all(one.id != after for one in steps):
        return steps
    step = steps.pop(at)
    to = next(number for number, one in enumerate(steps) if one.id == after)
    moved = replace(step, needs=tuple(dict.fromkeys((*step.needs, after))))
    return [*steps[: to + 1], moved, *steps[to + 1 :]]


def _with_own(steps: list[Step], own: OwnStep) -> list[Step]:
    read = read_change(own)
    hands, wait, heat = (read[name].value for name in ("hands_on", "wait", "heat"))
    at = next((number for number, one in enumerate(steps) if one.id == own.after), None)
    before = steps[at] if at is not None else None
    step = Step(
        id=f"{OWN}{JOIN}{own.id}",
        layer_id="",
        layer="",
        title=own.title or "A step of your own",
        words=own.note,
        needs=(before.id,) if before is not None else (),
        hands_on_min=hands or 0.0,
        wait_min=wait or 0.0,
        heat=None if heat is None else Heat(low_c=heat - _AROUND_C, aim_c=heat, high_c=heat + _AROUND_C, of="in the pan"),
        own=True,
    )
    if at is None:
        return [step, *steps]
    rest = [replace(one, needs=tuple(step.id if need == own.after else need for need in one.needs)) for one in steps[at + 1 :]]
    return [*steps[: at + 1], step, *rest]
