"""Versions taken from the estimate, and batches scaled from them."""

import secrets
from dataclasses import replace

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from fern_match.api.deps import DatabaseDep, PantryDep, Revision, RunnerDep, SessionDep
from fern_match.api.errors import Problem
from fern_match.api.typed import TypedOut, typed_out
from fern_match.core.batch import Batch, cautions
from fern_match.core.errors import CoreError, NotKnown
from fern_match.core.estimate import Estimate
from fern_match.core.food import Pantry
from fern_match.core.formulate import faithful_version
from fern_match.core.kitchen import read_kitchen
from fern_match.core.match import BatchPlan, BatchReading, Match, read_batch
from fern_match.core.measures.shown import MassUnit, ShownIn, shown_temperature
from fern_match.exchange.shapes import Cell, Key
from fern_match.store import StoredMatch, history, matches
from fern_match.store.kitchen import load_kitchen

router = APIRouter(prefix="/api/matches/{match_id}", tags=["batch"], responses={"default": {"model": Problem}})
_ESTIMATE_WAIT_S = 60.0


class NoEstimate(CoreError):
    """A version was asked for and there is no estimate to take it from."""


class _Out(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class VersionOut(_Out):
    """A version's name and piece weight."""

    id: str
    name: str
    parent: str | None
    piece_g: float


class ScoopedOut(_Out):
    """Spoons or cups, and what they hold."""

    words: str
    grams: float
    low_g: float
    high_g: float


class BatchIngredientOut(_Out):
    """An ingredient to weigh out."""

    ingredient_id: str
    name: str
    role: str
    grams: float
    weigh_out_g: float
    weigh_out_oz: float
    scale_error_g: float
    below_scale: bool
    scooped: ScoopedOut | None


class CookEndOut(BaseModel):
    """Where the boil ends, in the kitchen's unit: at sea level, and as this thermometer shows it here."""

    sea_level: str
    low: str
    aim: str
    high: str
    corrected: bool


class BatchLayerOut(_Out):
    """A layer of the batch."""

    layer_id: str
    name: str
    family: str
    heated: bool
    per_piece_g: float
    needed_g: float
    left_on_tools: float
    left_on_tools_g: float
    made_g: float
    water_lost_g: float
    added_g: float
    ingredients: list[BatchIngredientOut]


class ShoppingLineOut(_Out):
    """An ingredient over all layers."""

    ingredient_id: str
    name: str
    grams: float
    ounces: float
    scooped: ScoopedOut | None
    allergens: list[str]


class CautionOut(_Out):
    """What can hurt."""

    topic: str
    sentence: str


class ScaledOut(_Out):
    """The batch, computed."""

    pieces: int
    piece_g: float
    finished_g: float
    layers: list[BatchLayerOut]
    shopping: list[ShoppingLineOut]
    allergens: list[str]


class StockLineOut(_Out):
    """One ingredient that was looked for in the house."""

    missing_g: float
    pieces: int
    unsure: bool


class StockOut(_Out):
    """What the house holds against what the batch takes."""

    lines: dict[str, StockLineOut]
    pieces: int | None
    scarce: str | None


class BatchOut(BaseModel):
    """A batch plan as typed and as read."""

    id: str
    version_id: str
    pieces: TypedOut
    left_on_tools: dict[str, TypedOut]
    in_house: dict[str, TypedOut]
    batch: ScaledOut | None
    cook_ends: dict[str, CookEndOut]  # by layer, of boiled layers
    stock: StockOut | None
    cautions: list[CautionOut]


class BatchesOut(BaseModel):
    """All versions and batches of a match."""

    revision: int
    mass_unit: MassUnit
    scale_step_g: float
    versions: list[VersionOut]
    batches: list[BatchOut]


class RevisionIn(BaseModel):
    """The revision a change is made on."""

    model_config = ConfigDict(extra="forbid")

    revision: Revision


class BatchIn(RevisionIn):
    """A changed batch plan, as typed."""

    pieces: Cell
    left_on_tools: dict[Key, Cell] = Field(default_factory=dict, max_length=40)
    in_house: dict[Key, Cell] = Field(default_factory=dict, max_length=200)
    prefer_mine: bool = False


@router.get("/batches")
def read_batches(match_id: str, session: SessionDep, pantry: PantryDep) -> BatchesOut:
    """All versions and batches, computed."""
    return _batches_out(session, matches.load(session, match_id), pantry)


@router.post("/versions", status_code=201)
def take_estimate(match_id: str, body: RevisionIn, database: DatabaseDep, pantry: PantryDep, runner: RunnerDep) -> BatchesOut:
    """Takes the estimate of this revision as the faithful version, with a batch of it to fill in."""
    with database.transaction() as session:
        stored = matches.load(session, match_id)
    found = runner.outcome(match_id, stored.match.study, _ESTIMATE_WAIT_S)
    if not isinstance(found, Estimate):
        raise NoEstimate("There is no estimate to take yet. Finish the study first, then take it as a version.")
    with database.transaction() as session:
        saved = history.save_change(session, match_id, body.revision, lambda match: with_faithful_version(match, found), pantry)
        return _batches_out(session, saved, pantry)


@router.put("/batches/{batch_id}")
def write_batch(match_id: str, batch_id: str, body: BatchIn, session: SessionDep, pantry: PantryDep) -> BatchesOut:
    """Keeps a changed batch plan."""

    def change(match: Match) -> Match:
        if batch_id not in {plan.id for plan in match.batches}:
            raise NotKnown("batch", batch_id)
        plans = tuple(
            replace(plan, pieces=body.pieces, left_on_tools=dict(body.left_on_tools), in_house=dict(body.in_house))
            if plan.id == batch_id
            else plan
            for plan in match.batches
        )
        return replace(match, batches=plans)

    saved = history.save_change(session, match_id, body.revision, change, pantry, prefer_mine=body.prefer_mine)
    return _batches_out(session, saved, pantry)


def with_faithful_version(match: Match, found: Estimate) -> Match:
    """The match with the estimate as its faithful version; an earlier one taken from an estimate gives way, its batch stays.

    Args:
        match: To add to.
        found: Whose best values.
    """
    earlier = next((version for version in match.versions if version.parent is None), None)
    version = faithful_version(earlier.id if earlier else secrets.token_hex(4), found)
    others = tuple(other for other in match.versions if other.id != version.id)
    batches = match.batches
    if not any(plan.version_id == version.id for plan in batches):
        batches = (*batches, BatchPlan(id=secrets.token_hex(4), version_id=version.id, pieces=""))
    return replace(match, versions=(version, *others), batches=batches)


def _batches_out(session: Session, stored: StoredMatch, pantry: Pantry) -> BatchesOut:
    kitchen = read_kitchen(load_kitchen(session))
    return BatchesOut(
        revision=stored.revision,
        mass_unit=kitchen.kitchen.mass_unit,
        scale_step_g=kitchen.scale_step_g,
        versions=[VersionOut.model_validate(version) for version in stored.match.versions],
        batches=[
            _batch_out(
                read_batch(stored.match, plan, pantry, kitchen), pantry, kitchen.kitchen.shown_in, kitchen.corrects_boiling
            )
            for plan in stored.match.batches
        ],
    )


def _batch_out(reading: BatchReading, pantry: Pantry, shown_in: ShownIn, corrected: bool) -> BatchOut:
    return BatchOut(
        id=reading.plan.id,
        version_id=reading.plan.version_id,
        pieces=typed_out(reading.pieces, shown_in),
        left_on_tools={key: typed_out(typed, shown_in) for key, typed in reading.left_on_tools.items()},
        in_house={key: typed_out(typed, shown_in) for key, typed in reading.in_house.items()},
        batch=ScaledOut.model_validate(reading.batch) if reading.batch is not None else None,
        cook_ends=_cook_ends(reading.batch, shown_in, corrected) if reading.batch is not None else {},
        stock=StockOut.model_validate(reading.stock) if reading.stock is not None else None,
        cautions=[CautionOut.model_validate(one) for one in cautions(reading.batch, pantry)] if reading.batch is not None else [],
    )


def _cook_ends(batch: Batch, shown_in: ShownIn, corrected: bool) -> dict[str, CookEndOut]:
    def shown(temp_c: float) -> str:
        return shown_temperature(temp_c, shown_in.temperature)

    return {
        layer.layer_id: CookEndOut(
            sea_level=shown(layer.cook_end.sea_level_c),
            low=shown(layer.cook_end.low_c),
            aim=shown(layer.cook_end.aim_c),
            high=shown(layer.cook_end.high_c),
            corrected=corrected,
        )
        for layer in batch.layers
        if layer.cook_end is not None
    }
