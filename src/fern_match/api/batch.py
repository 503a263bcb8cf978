"""Batches scaled from versions."""

from dataclasses import replace
from functools import partial

from fastapi import APIRouter
from pydantic import BaseModel

from fern_match.api.deps import ChangeIn, DeskDep, Opened, kinds, touching
from fern_match.api.typed import TypedOut, typed_out
from fern_match.core.batch import Batch, BatchPlan, BatchReading, Caution, Stock, cautions, read_batch
from fern_match.core.batch.words import outdated_words, stock_words
from fern_match.core.estimate.inputs import input_key
from fern_match.core.formulate import read_version
from fern_match.core.match import with_plan
from fern_match.core.measures.shown import MassUnit, shown_temperature
from fern_match.core.record.parts import PartKey

router = APIRouter(prefix="/api/matches/{match_id}/batches", tags=["batch"])


class VersionOut(BaseModel):
    """A version's name and piece weight."""

    id: str
    name: str
    parent: str | None
    piece_g: float
    problems: list[str]
    outdated: str | None  # what moved on since it was taken


class CookEndOut(BaseModel):
    """Where the boil ends, in the kitchen's unit: at sea level, and as this thermometer shows it here."""

    sea_level: str
    low: str
    aim: str
    high: str
    corrected: bool


class BatchOut(BaseModel):
    """A batch plan as typed and as read."""

    plan: BatchPlan
    pieces: TypedOut
    left_on_tools: dict[str, TypedOut]
    in_house: dict[str, TypedOut]
    batch: Batch | None
    cook_ends: dict[str, CookEndOut]  # by layer, of boiled layers
    stock: Stock | None
    stock_words: str
    cautions: list[Caution]


class BatchesOut(BaseModel):
    """All versions and batches of a match."""

    revision: int
    mass_unit: MassUnit
    scale_step_g: float
    versions: list[VersionOut]
    batches: list[BatchOut]


class BatchIn(ChangeIn):
    """A changed batch plan, as typed."""

    plan: BatchPlan


@router.get("")
def read_batches(match_id: str, desk: DeskDep) -> BatchesOut:
    """All versions and batches, computed."""
    return _batches_out(desk.open(match_id, kinds("versions", "batches")))


@router.put("/{batch_id}")
def write_batch(match_id: str, batch_id: str, body: BatchIn, desk: DeskDep) -> BatchesOut:
    """Keeps a changed batch plan."""
    plan = replace(body.plan, id=batch_id)
    keys = (PartKey("batches", batch_id), PartKey("versions", plan.version))
    change = partial(with_plan, plan=plan)
    desk.keeper(match_id).save(body.revision, change, touching(*keys), decided_on=body.decided_on)
    return read_batches(match_id, desk)


def _batches_out(opened: Opened) -> BatchesOut:
    kitchen, pantry = opened.kitchen, opened.reading.pantry
    measures, comma = kitchen.kitchen.measures, opened.reading.comma
    formulas = {one.id: read_version(one, pantry, measures=measures, comma=comma) for one in opened.match.versions}
    key = input_key(opened.reading)
    return BatchesOut(
        revision=opened.revision,
        mass_unit=kitchen.kitchen.mass_unit,
        scale_step_g=kitchen.scale_step_g,
        versions=[
            VersionOut(
                id=version.id,
                name=version.name,
                parent=version.parent,
                piece_g=formulas[version.id].piece_g,
                problems=list(formulas[version.id].problems),
                outdated=outdated_words(version, key),
            )
            for version in opened.match.versions
        ],
        batches=[
            _batch_out(read_batch(plan, formulas[plan.version], pantry, opened.reading.families, kitchen, comma), opened)
            for plan in opened.match.batches
        ],
    )


def _batch_out(reading: BatchReading, opened: Opened) -> BatchOut:
    batch, shown_in = reading.batch, opened.kitchen.kitchen.shown_in
    return BatchOut(
        plan=reading.plan,
        pieces=typed_out(reading.pieces, shown_in),
        left_on_tools={key: typed_out(typed, shown_in) for key, typed in reading.left_on_tools.items()},
        in_house={key: typed_out(typed, shown_in) for key, typed in reading.in_house.items()},
        batch=batch,
        cook_ends=_cook_ends(batch, opened) if batch is not None else {},
        stock=reading.stock,
        stock_words=stock_words(reading.stock, batch) if batch is not None else "",
        cautions=list(cautions(batch, opened.reading.pantry)) if batch is not None else [],
    )


def _cook_ends(batch: Batch, opened: Opened) -> dict[str, CookEndOut]:
    def shown(temp_c: float) -> str:
        return shown_temperature(temp_c, opened.kitchen.kitchen.temperature_unit)

    return {
        layer.layer_id: CookEndOut(
            sea_level=shown(layer.cook_end.sea_level_c),
            low=shown(layer.cook_end.low_c),
            aim=shown(layer.cook_end.aim_c),
            high=shown(layer.cook_end.high_c),
            corrected=opened.kitchen.corrects_boiling,
        )
        for layer in batch.layers
        if layer.cook_end is not None
    }
