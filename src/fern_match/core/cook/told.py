"""A plan and its schedule as plain values, for whoever reads them by machine."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from fern_match.core.batch import BatchPlan, PlanBy, read_batch
from fern_match.core.cook.asked_time import when_of
from fern_match.core.cook.plan import Plan, plan_of
from fern_match.core.cook.record import CookPlan
from fern_match.core.cook.schedule import Schedule, schedule
from fern_match.core.cook.step import Step
from fern_match.core.formulate import Version, overview
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures.pieces import USUAL_PIECES
from fern_match.core.study.reading import StudyReading


def plan_told(
    version: Version, batch: BatchPlan, cooks: Sequence[CookPlan], reading: StudyReading, kitchen: KitchenReading
) -> dict[str, Any]:
    """The plan of a batch's first cook, or of one that is as we recommend.

    Args:
        version: Of the batch.
        batch: To cook.
        cooks: Of the match.
        reading: The study, with compositions and families.
        kitchen: With gear and what it lacks.
    """
    cook = next((one for one in cooks if one.batch == batch.id), CookPlan(id="plan", batch=batch.id))
    seen = overview(version, reading)
    read = read_batch(batch, seen, reading, kitchen)
    if read.batch is None:  # its gear stands in a kitchen that no match file holds
        by_pieces = replace(batch, by=PlanBy.PIECES, pieces=batch.pieces or str(USUAL_PIECES))
        read = read_batch(by_pieces, seen, reading, kitchen)
    plan = plan_of(cook, read, reading, kitchen)
    when = when_of(cook, kitchen)
    found = schedule(plan.steps, when.hands, begins_min=when.begins_min, ready_min=when.ready_min)
    return {
        "waits": plan.waits,
        "steps": [_step(one) for one in plan.steps],
        "schedule": _lines(plan, found),
        "clashes": list(found.clashes),
        "gap": found.gap,
    }


def _step(step: Step) -> dict[str, Any]:
    return {
        "id": step.id,
        "title": step.title,
        "layer": step.layer_id,
        "uses": [{"line": one.line_id, "ingredient": one.ingredient_id, "grams": one.grams} for one in step.uses],
        "needs": list(step.needs),
        "hands_on_min": step.rounds * step.hands_on_min if not step.block else step.hands_on_min,
        "wait_min": step.wait_min,
        "most_wait_min": step.most_wait_min,
        "temp_c": None if step.heat is None else step.heat.aim_c,
        "end_weight_g": step.end_weight_g,
        "cues": [{"stage": one.stage.value, "words": one.words, "about": one.about, "unit": one.quantity} for one in step.cues],
        "gate": step.gate,
        "tools": list(step.tools),
        "cautions": list(step.cautions),
        "reason": step.reason or step.words,
        "rounds": step.rounds,
    }


def _lines(plan: Plan, found: Schedule) -> list[dict[str, Any]]:
    first = found.start_min
    return [
        {
            "step": one.step,
            "round": one.round,
            "start_min": one.start_min - first,
            "end_min": one.end_min - first,
            "cook": one.cook,
            "resources": [one.place.value] if one.place.value != "bench" else [],
        }
        for one in found.lines
        if plan.step(one.step) is not None
    ]
