"""Batches: which there are, and one of them scaled from its version, weighed out."""

from collections.abc import Sequence
from dataclasses import replace

from fastapi import APIRouter
from pydantic import BaseModel

from fern_match.api.deps import ChangeIn, DeskDep, Opened, kinds, touching
from fern_match.api.typed import TypedOut, typed_out
from fern_match.api.version_view import overview_of
from fern_match.core.batch import Batch, BatchLayer, BatchPlan, Caution, HeatHere, Stock, cautions, read_batch
from fern_match.core.batch.words import batch_line_words, outdated_words, stock_words
from fern_match.core.errors import NotKnown
from fern_match.core.estimate.inputs import input_key
from fern_match.core.food.together import listed
from fern_match.core.formulate import VersionNote
from fern_match.core.match import Match, with_plan
from fern_match.core.measures.shown import MassUnit, shown_temperature
from fern_match.core.record.parts import PartKey

router = APIRouter(prefix="/api/matches/{match_id}/batches", tags=["batch"])


class BatchLineOut(BaseModel):
    """A batch in the list of them."""

    id: str
    version: str
    version_name: str
    words: str  # "24 pieces"; empty while the pieces are to say


class BatchesOut(BaseModel):
    """All batches of a match, the last version's first of its own."""

    revision: int
    batches: list[BatchLineOut]


class CookEndOut(BaseModel):
    """Where the boil ends: at a temperature in the kitchen's unit, or at a weight."""

    by: str  # heat or weight
    sea_level: str
    low: str
    aim: str
    high: str
    corrected: bool
    pan_g: float | None  # what is in the pan then, of a boil that ends at a weight
    left: float | None  # of what went in [g/g]
    apart: str  # what comes in after the boil, in words; empty where nothing does


class BatchOut(BaseModel):
    """A batch plan as typed and as read."""

    revision: int
    mass_unit: MassUnit
    scale_step_g: float
    version_name: str
    problems: list[str]  # of the version: what was not read
    outdated: str | None  # what moved on since the version was taken
    plan: BatchPlan
    pieces: TypedOut
    left_on_tools: dict[str, TypedOut]
    in_house: dict[str, TypedOut]
    batch: Batch | None
    weighed: str  # what weighing out does to the targets
    cook_ends: dict[str, CookEndOut]  # by layer, of boiled layers
    stock: Stock | None
    stock_words: str
    cautions: list[Caution]
    notes: Sequence[VersionNote]  # what adapting taught of the version


class BatchIn(ChangeIn):
    """A changed batch plan, as typed."""

    plan: BatchPlan


@router.get("")
def read_batches(match_id: str, desk: DeskDep) -> BatchesOut:
    """All batches, in the order they were begun."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    names = {version.id: version.name for version in opened.match.versions}
    return BatchesOut(
        revision=opened.revision,
        batches=[
            BatchLineOut(
                id=plan.id,
                version=plan.version,
                version_name=names.get(plan.version, plan.version),
                words=batch_line_words(plan, opened.reading.comma),
            )
            for plan in opened.match.batches
        ],
    )


@router.get("/{batch_id}")
def read_one_batch(match_id: str, batch_id: str, desk: DeskDep) -> BatchOut:
    """One batch, computed."""
    opened = desk.open(match_id, lambda key: key == PartKey("batches", batch_id))
    plan = next((one for one in opened.match.batches if one.id == batch_id), None)
    if plan is None:
        raise NotKnown("batch", batch_id)
    opened = desk.open(match_id, lambda key: key in {PartKey("batches", batch_id), PartKey("versions", plan.version)})
    return _batch_out(plan, opened)


@router.put("/{batch_id}")
def write_batch(match_id: str, batch_id: str, body: BatchIn, desk: DeskDep) -> BatchOut:
    """Keeps a changed batch plan."""
    plan = replace(body.plan, id=batch_id)
    keys = (PartKey("batches", batch_id), PartKey("versions", plan.version))

    def change(match: Match) -> Match:
        return with_plan(match, plan)

    desk.keeper(match_id).save(body.revision, change, touching(*keys), decided_on=body.decided_on)
    return read_one_batch(match_id, batch_id, desk)


def _batch_out(plan: BatchPlan, opened: Opened) -> BatchOut:
    version, kitchen = opened.match.version(plan.version), opened.kitchen
    seen = overview_of(version, opened)
    reading = read_batch(plan, seen, opened.reading, kitchen)
    batch, shown_in = reading.batch, kitchen.kitchen.shown_in
    return BatchOut(
        revision=opened.revision,
        mass_unit=kitchen.kitchen.mass_unit,
        scale_step_g=kitchen.scale_step_g,
        version_name=version.name,
        problems=[one.sentence for one in seen.formula.problems],
        outdated=outdated_words(version, input_key(opened.reading)),
        plan=reading.plan,
        pieces=typed_out(reading.pieces, shown_in),
        left_on_tools={key: typed_out(typed, shown_in) for key, typed in reading.left_on_tools.items()},
        in_house={key: typed_out(typed, shown_in) for key, typed in reading.in_house.items()},
        batch=batch,
        weighed=reading.weighed,
        cook_ends={one.layer_id: end for one in batch.layers if (end := _cook_end(one, opened))} if batch is not None else {},
        stock=reading.stock,
        stock_words=stock_words(reading.stock, batch) if batch is not None else "",
        cautions=list(cautions(batch, opened.reading.pantry, allergens=seen.allergens, to_say=seen.to_say))
        if batch is not None
        else [],
        notes=version.notes,
    )


def _cook_end(layer: BatchLayer, opened: Opened) -> CookEndOut | None:
    end, kitchen = layer.cook_end, opened.kitchen
    if end is None:
        return None
    if not isinstance(end, HeatHere):
        return CookEndOut(
            by=end.by,
            sea_level="",
            low="",
            aim="",
            high="",
            corrected=False,
            pan_g=end.pan_g,
            left=end.left,
            apart=listed(end.apart) if end.apart else "",
        )

    def shown(temp_c: float) -> str:
        return shown_temperature(temp_c, kitchen.kitchen.temperature_unit)

    return CookEndOut(
        by=end.by,
        sea_level=shown(end.sea_level_c),
        low=shown(end.low_c),
        aim=shown(end.aim_c),
        high=shown(end.high_c),
        corrected=kitchen.corrects_boiling,
        pan_g=None,
        left=None,
        apart="",
    )
