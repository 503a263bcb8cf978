"""The plan of a cook: from a batch, its families, this kitchen and its schools to steps in their order.

Worked example: Night Crossing in a frame: base mixed, pressed and baked; sesame cream mixed and spread on the cold base; dates
soaked, blended, spread; the slab set and cut; chocolate melted, tempered; pieces coated; coat set; boxed.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.batch import (
    BatchLayer,
    BatchReading,
    Piece,
    slab_heights,
)
from fern_match.core.cook.asked import asked_of
from fern_match.core.cook.build_steps import Way, built, way_of
from fern_match.core.cook.building import Building
from fern_match.core.cook.edits import edited
from fern_match.core.cook.layer_steps import LayerAt, steps_of
from fern_match.core.cook.record import CookPlan
from fern_match.core.cook.schools import School, schools_of
from fern_match.core.cook.step import Bench, Step
from fern_match.core.cook.tables import by_family, lays
from fern_match.core.kitchen import KitchenReading
from fern_match.core.study.reading import StudyReading

_TOOLS_AT_HAND = frozenset({"mixer", "pan", "spatula", "whisk"})
_HURRY_MIN = 6.0  # what follows within it is got ready before


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """All steps in an order in which they can be done."""

    steps: tuple[Step, ...]
    schools: tuple[School, ...]
    waits: str  # why there is none yet; empty where there is one
    missing: tuple[str, ...] = ()  # changes of steps that the plan no longer has, by their titles

    def step(self, step_id: str) -> Step | None:
        """One of them; None where there is none of that id.

        Args:
            step_id: Of a step.
        """
        return next((one for one in self.steps if one.id == step_id), None)


def plan_of(cook: CookPlan, read: BatchReading, reading: StudyReading, kitchen: KitchenReading) -> Plan:
    """The plan of a cook as it stands: by its batch, its schools and the user's changes.

    Args:
        cook: What the user decided.
        read: Its batch.
        reading: The study, with compositions and families.
        kitchen: With gear and what it lacks.
    """
    if read.batch is None:
        return Plan(steps=(), schools=(), waits=read.waits or read.problem or "The batch is not planned yet.")
    bench = Bench(read, reading.pantry, reading.families, kitchen)
    schools = schools_of(asked_of(_building(bench, reading)), cook.schools)
    in_pan = way_of(_building(bench, reading)) not in {Way.MOULD, Way.CUPS}
    bench = replace(bench, schools={one.id: one.chosen for one in schools}, in_pan=in_pan)
    steps = in_order(_all_steps(_building(bench, reading)))
    steps, missing = edited(steps, cook, bench.unit)
    return Plan(steps=steps, schools=schools, waits="", missing=missing)


def _building(bench: Bench, reading: StudyReading) -> Building:
    there = [one for one in bench.layers() if one.per_piece_g > 0]
    return Building(
        bench=bench,
        made={},
        places={one.id: one for one in reading.study.layers},
        thick=_thicknesses(bench, reading),
        in_place=frozenset(one.layer_id for one in there if _in_place(one, bench)),
    )


def _all_steps(building: Building) -> list[Step]:
    bench, where = building.bench, building.bench.school("set") or "usual"
    steps: list[Step] = []
    for layer in building.layers():
        own = steps_of(LayerAt(layer, building.thick.get(layer.layer_id), where), bench)
        steps += own
        building.ready += own
        building.made[layer.layer_id] = own[-1].id
    return [*steps, *built(building)]


def _in_place(layer: BatchLayer, bench: Bench) -> bool:
    found = by_family(lays(), layer.family, bench.families)
    return found is not None and found.lay == "in place"


def _thicknesses(bench: Bench, reading: StudyReading) -> dict[str, float]:
    portions = bench.read.portions
    if portions is not None and portions.cut is not None:
        return {one.layer_id: one.stands_mm for one in portions.cut.heights}
    if bench.read.usual_cut is None:
        return {}
    build = {one.id: one for one in reading.study.layers}
    piece = Piece(bench.read.seen.formula, build, reading.pantry, reading.families)
    area = bench.read.usual_cut[0] * bench.read.usual_cut[1] / 100
    return {one.layer_id: one.stands_mm for one in slab_heights(piece, area, 1.0) if one.stands_mm > 0}


def in_order(steps: Sequence[Step]) -> tuple[Step, ...]:
    """Each step right before what needs it: what is built already first, then what is made for the next layer.

    Args:
        steps: Whatever their order; a need that is not among them counts as done.
    """
    by_id = {one.id: one for one in steps}
    found: dict[str, Step] = {}
    begun: set[str] = set()  # a circle of the user's own making goes round once

    def visit(step: Step) -> None:
        if step.id in begun:
            return
        begun.add(step.id)
        for need in step.needs:
            if need in by_id:
                visit(by_id[need])
        found[step.id] = step

    needed = {need for one in steps for need in one.needs}
    for one in [*(step for step in reversed(steps) if step.id not in needed), *steps]:
        visit(one)
    return tuple(found.values())


def uses_by_line(steps: Sequence[Step]) -> Mapping[tuple[str, str], float]:
    """How much of each line of the batch goes in over all steps, by layer and line [g/g]: 1 where the plan is whole.

    Args:
        steps: Of a plan.
    """
    found: dict[tuple[str, str], float] = {}
    for step in steps:
        for use in step.uses:
            key = (step.layer_id, use.line_id)
            found[key] = found.get(key, 0.0) + use.share
    return found


def at_hand_before(step: Step, steps: Sequence[Step]) -> tuple[str, ...]:
    """What must be weighed and ready before a step that cannot be stopped once begun: of what follows within minutes.

    Args:
        step: Of the plan.
        steps: All of them.
    """
    if not step.no_return:
        return ()
    names: list[str] = []
    last = {step.id}
    while last:
        following = [one for one in steps if any(need in last for need in one.needs)]
        names += [use.name for one in following for use in one.uses]
        names += [tool for one in following for tool in one.tools if tool in _TOOLS_AT_HAND]
        last = {one.id for one in following if one.most_wait_min is not None and one.most_wait_min <= _HURRY_MIN}
    return tuple(dict.fromkeys(names))
