"""Batches: which there are, and one of them scaled from its version, weighed out."""

from collections.abc import Sequence
from dataclasses import replace
from functools import partial

from fastapi import APIRouter
from pydantic import BaseModel

from fern_match.api.deps import ChangeIn, DeskDep, MadeOnIn, Opened, kinds, touching
from fern_match.api.typed import TypedOut, typed_out
from fern_match.api.version_view import overview_of
from fern_match.core.batch import (
    ERROR,
    Batch,
    BatchLayer,
    BatchPlan,
    Card,
    Caution,
    HeatHere,
    LotMade,
    Packs,
    PlanBy,
    Portions,
    SetOut,
    Stock,
    Wrapping,
    bowls,
    cards_of,
    cautions,
    coat_words,
    cue_for,
    fitting_gear,
    lot_parts,
    own_end_words,
    read_batch,
    traces_in_words,
)
from fern_match.core.batch.words import batch_line_words, outdated_words, stock_words
from fern_match.core.errors import NotKnown
from fern_match.core.estimate.inputs import input_key
from fern_match.core.food.together import allergens_in_words, listed
from fern_match.core.formulate import VersionNote
from fern_match.core.kitchen import GearReading, Tool
from fern_match.core.match import Match, with_another_batch, with_plan, without_batch
from fern_match.core.measures.shown import MassUnit, shown_length, shown_temperature
from fern_match.core.record.parts import PartKey
from fern_match.core.record.texts import Key

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
    cue: str = ""  # in a kitchen without a thermometer: what shows that it is there
    cue_error: str = ""  # how sure such a cue is
    because: str = ""  # why it does not end where its kind usually does; empty where it does


class NamedOut(BaseModel):
    """Something to choose."""

    id: str
    name: str


class LotOut(BaseModel):
    """Some of the pieces, all alike."""

    id: str  # empty of those that are made as the version says
    name: str
    mark: str
    pieces: int
    piece_g: float
    allergens: str
    traces: str  # what the other lots bring into the bowl
    words: str  # what is otherwise
    broken: Sequence[str]


class LotCellsOut(BaseModel):
    """A lot as typed and read."""

    pieces: TypedOut
    problem: str  # what of it cannot be


class BatchOut(BaseModel):
    """A batch plan as typed and as read."""

    revision: int
    mass_unit: MassUnit
    scale_step_g: float
    version_name: str
    problems: list[str]  # of the version: what was not read
    outdated: str | None  # what moved on since the version was taken
    plan: BatchPlan
    cells: dict[str, TypedOut]  # what was typed for how much and in what, by field of the plan
    waits: str  # what is still to say before there is a batch; empty where nothing is
    problem: str  # why there is none in that gear; empty where there is one
    portions: Portions | None
    made_in: list[NamedOut]  # the kitchen's gear that fits how much goes by
    bowls: list[NamedOut]  # to dip from; none where nothing is dipped
    piece_names: list[NamedOut]  # layers that can be portioned
    whole_names: list[NamedOut]  # ingredients that can set the batch
    usual_cut: list[str]  # length and width where nothing is typed; empty where nobody measured a piece
    dip: str
    packs: Packs | None
    cards: list[Card]  # one of each lot; none without a batch
    lot_parts: list[NamedOut]  # what a lot can have otherwise
    lot_cells: dict[str, LotCellsOut]  # by lot
    lots: list[LotOut]  # as they are made; none where all pieces are alike
    lots_words: str
    wrapping: Wrapping | None
    wraps: list[NamedOut]  # of the kitchen
    left_on_tools: dict[str, TypedOut]
    in_house: dict[str, TypedOut]
    batch: Batch | None
    premixes: list[str]  # what is mixed once for several lines, in words
    weighed: str  # what weighing out does to the targets
    coat_words: dict[str, Sequence[str]]  # by layer, of coats: whether to temper, what a blend does
    cook_ends: dict[str, CookEndOut]  # by layer, of boiled layers
    left_over: dict[str, TypedOut]
    set_out: dict[str, SetOut]  # by layer: what is worked in until it holds
    stock: Stock | None
    stock_words: str
    cautions: list[Caution]
    notes: Sequence[VersionNote]  # what adapting taught of the version
    recipe: str  # that the version was taken from, as it was; empty where there was none


class BatchIn(ChangeIn):
    """A changed batch plan, as typed."""

    plan: BatchPlan


class AnotherIn(MadeOnIn):
    """Another batch."""

    like: Key


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
                words=batch_line_words(plan, opened.reading, opened.kitchen.gear_names),
            )
            for plan in opened.match.batches
        ],
    )


@router.post("", status_code=201)
def begin_batch(match_id: str, body: AnotherIn, desk: DeskDep) -> BatchesOut:
    """Begins another batch, planned as one there is; the last of the list."""
    desk.keeper(match_id).save(body.revision, partial(with_another_batch, like=body.like))
    return read_batches(match_id, desk)


@router.delete("/{batch_id}")
def delete_batch(match_id: str, batch_id: str, body: MadeOnIn, desk: DeskDep) -> BatchesOut:
    """Takes a batch out; undo brings it back."""
    touched = touching(PartKey("batches", batch_id))
    desk.keeper(match_id).save(body.revision, partial(without_batch, batch_id=batch_id), touched)
    return read_batches(match_id, desk)


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
    out = reading.seen
    minded = (
        cautions(batch, opened.reading.pantry, allergens=reading.allergens, to_say=reading.to_say, broken=reading.broken)
        if batch is not None
        else ()
    )
    return BatchOut(
        revision=opened.revision,
        mass_unit=kitchen.kitchen.mass_unit,
        scale_step_g=kitchen.scale_step_g,
        version_name=version.name,
        problems=[one.sentence for one in seen.formula.problems],
        outdated=outdated_words(version, input_key(opened.reading)),
        plan=reading.plan,
        cells={key: typed_out(typed, shown_in) for key, typed in reading.cells.items()},
        waits=reading.waits,
        problem=reading.problem,
        portions=reading.portions,
        made_in=_named(fitting_gear(plan, kitchen)),
        bowls=_named(bowls(kitchen)) if reading.coats and plan.by is not PlanBy.MOULD else [],
        piece_names=[NamedOut(id=one.layer_id, name=one.name) for one in seen.formula.layers],
        whole_names=[
            NamedOut(id=key, name=opened.reading.pantry[key].name)
            for key in dict.fromkeys(one.ingredient_id for layer in seen.formula.layers for one in layer.ingredients)
            if key in opened.reading.pantry
        ],
        usual_cut=[shown_length(side, shown_in.length) for side in reading.usual_cut or ()],
        dip=reading.dip,
        packs=reading.packs,
        cards=list(cards_of(reading, minded, opened.reading)) if batch is not None else [],
        lot_parts=[NamedOut(id=one.id, name=one.name) for one in lot_parts(seen.formula)],
        lot_cells={
            key: LotCellsOut(pieces=typed_out(one.pieces, shown_in), problem=one.problem)
            for key, one in reading.lot_cells.items()
        },
        lots=[_lot(one) for one in reading.lots.made] if reading.lots is not None else [],
        lots_words=reading.lots_words,
        wrapping=reading.wrapping,
        wraps=[NamedOut(id=one.wrap.id, name=one.wrap.name) for one in kitchen.wraps],
        left_on_tools={key: typed_out(typed, shown_in) for key, typed in reading.left_on_tools.items()},
        in_house={key: typed_out(typed, shown_in) for key, typed in reading.in_house.items()},
        batch=batch,
        premixes=[one.words for one in reading.premixes],
        weighed=reading.weighed,
        coat_words={
            one.layer_id: coat_words(one, out, opened.reading.pantry) for one in out.formula.layers if reading.is_coat(one)
        },
        cook_ends={one.layer_id: end for one in batch.layers if (end := _cook_end(one, opened))} if batch is not None else {},
        left_over={key: typed_out(typed, shown_in) for key, typed in reading.left_over.items()},
        set_out=dict(reading.set_out),
        stock=reading.stock,
        stock_words=stock_words(reading.stock, batch) if batch is not None else "",
        cautions=[*minded, *reading.today],
        notes=version.notes,
        recipe=version.recipe,
    )


def _lot(one: LotMade) -> LotOut:
    return LotOut(
        id=one.id,
        name=one.name,
        mark=one.mark,
        pieces=one.pieces,
        piece_g=one.piece_g,
        allergens=allergens_in_words(one.own),
        traces=traces_in_words(one),
        words=one.words,
        broken=one.broken,
    )


def _named(gear: Sequence[GearReading]) -> list[NamedOut]:
    return [NamedOut(id=one.gear.id, name=one.gear.name) for one in gear]


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

    without = kitchen.lacks(Tool.THERMOMETER)
    cue = cue_for(layer.family, end.sea_level_c, opened.reading.families) if without else ""
    return CookEndOut(
        cue=cue,
        cue_error=ERROR if cue else "",
        because=own_end_words(end, kitchen.kitchen.temperature_unit),
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
