"""Study: what was written down about the original, and how it is read."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from fern_match.api.deps import ChangeIn, DeskDep, MadeOnIn, Opened, Short, touching
from fern_match.api.typed import TypedOut, typed_out
from fern_match.core.estimate.picture import SmallSlice, slice_of_build
from fern_match.core.food import unlisted
from fern_match.core.label.panel import read_panel
from fern_match.core.label.rows import Basis, RowId, panel_rows
from fern_match.core.label.statement import StatementItem
from fern_match.core.match import Match, own_of, with_study
from fern_match.core.measures import Typed
from fern_match.core.measures.shown import MassUnit, ShownIn, shown_mass
from fern_match.core.record.parts import PartKey
from fern_match.core.study.flags import UNSURE_BELOW, Flag, flags_of
from fern_match.core.study.meaning import meaning_words, minimum_words
from fern_match.core.study.own import OWN_PREFIX, own_ingredient, packet_rows
from fern_match.core.study.proposals import proposed_builds
from fern_match.core.study.reading import StudyReading, ThicknessReading, WeighingReading
from fern_match.core.study.record import Layer, Meaning, Spot, Study, Whereabouts
from fern_match.core.study.whereabouts import Source
from fern_match.core.trials import senses

_NO_MARK = Typed("", None, "")
router = APIRouter(prefix="/api/matches/{match_id}/study", tags=["study"])


class PanelRowOut(BaseModel):
    """A nutrition row: as typed and what it stands for."""

    row: RowId
    title: str
    unit: str
    is_part: bool
    typed: str
    low: float | None
    high: float | None
    problem: str | None
    other_typed: str  # in the panel's other column
    other_problem: str | None


class StatementItemOut(BaseModel):
    """A name on the statement; `depth` says how deep in brackets."""

    key: str
    name: str
    depth: int
    is_compound: bool  # whether its bracket is opened: a layer, or parts
    closed: bool  # whether it only says what a bought ingredient is made of
    percent: float | None
    at_most_percent: float | None
    class_name: str | None
    ingredient_id: str | None
    ingredient_name: str | None
    unsure: bool
    corrected: bool
    source: str | None  # what it comes from: "milk"
    alternatives: list[str]  # names of which one may stand for the others
    may_hold: str | None  # of a name outside the pantry
    is_trace: bool  # too little to count, where it is outside the pantry
    printed: str  # on a label in another language; empty where it is printed in English


class MeaningOdds(BaseModel):
    """How likely a bracket is meant in one way."""

    meaning: Meaning
    title: str
    odds: float
    possible: bool


class BracketOut(BaseModel):
    """What a bracket means: the reading in use, and the odds of each."""

    item: str
    meaning: Meaning
    corrected: bool
    reason: str
    layers: list[str]  # ids of the layers it describes
    odds: list[MeaningOdds]


class StatementListsOut(BaseModel):
    """What stands beside the list of ingredients."""

    contains: list[str]
    may_contain: list[str]
    says: str  # what the list's own first sentence or head says the piece is; empty where it has none
    minima: list[str]  # in words
    notes: list[str]
    unread: list[str]
    tongue: str  # the language that was read


class PlacingOut(BaseModel):
    """Whether a name is in a layer, and who says so."""

    item: str
    layer_id: str
    where: Whereabouts
    source: Source


class LayerReadingOut(BaseModel):
    """What the families say about a layer."""

    layer_id: str
    read_as: str | None  # an opened chocolate's family
    better_family: str | None
    better_family_name: str | None


class ReadingOut(TypedOut):
    """A reading of a table, by its id."""

    id: str


class WeighingOut(BaseModel):
    """Readings of one subject."""

    subject: str
    layers: list[str]  # that were on the scale; none for whole pieces
    readings: list[ReadingOut]
    mean_g: float | None
    mean_in_ounces: str | None  # where the kitchen shows ounces
    sd_g: float | None


class ThicknessOut(BaseModel):
    """Thicknesses of a layer at one spot."""

    layer_id: str
    spot: Spot
    readings: list[ReadingOut]
    mean_mm: float | None


class SizeOut(BaseModel):
    """Outside dimensions of a piece."""

    length: TypedOut
    width: TypedOut
    height: TypedOut


class OwnIngredientOut(BaseModel):
    """An ingredient of the match's own, to choose."""

    id: str
    name: str


class SenseOut(BaseModel):
    """A line from 0 to 10 with the mark of the original."""

    id: str
    title: str
    low: str
    high: str
    mark: TypedOut


class StudyReadingOut(BaseModel):
    """The study as read."""

    net_weight: TypedOut
    pieces_per_pack: TypedOut
    serving: TypedOut
    servings: TypedOut
    price: TypedOut
    rows: list[PanelRowOut]
    statement: list[StatementItemOut]
    brackets: list[BracketOut]
    lists: StatementListsOut
    placings: list[PlacingOut]
    layers: list[LayerReadingOut]
    weighings: list[WeighingOut]
    thicknesses: list[ThicknessOut]
    size: SizeOut
    packet_rows: list[RowId]  # rows of the panel that an ingredient of one's own is made from
    own_ingredients: list[OwnIngredientOut]  # of this match alone
    senses: list[SenseOut]
    flags: list[Flag]


class StudyOut(BaseModel):
    """The study as typed and as read."""

    id: str
    revision: int
    study: Study
    reading: StudyReadingOut


class StudyIn(ChangeIn):
    """A changed study, with the revision it was changed on."""

    study: Study


@router.get("")
def read_study(match_id: str, desk: DeskDep) -> StudyOut:
    """The study of a match."""
    return study_out(desk.open(match_id))


class ProposedBuildOut(BaseModel):
    """A build that the statement suggests."""

    id: str
    name: str
    reason: str
    odds: float  # beside the other builds
    question: str  # what would tell it from the next; empty where it is clear
    layers: tuple[Layer, ...]
    slice: SmallSlice | None


class OwnIngredientIn(MadeOnIn):
    """A name outside the pantry, with the panel on its packet."""

    item: Annotated[str, Field(max_length=1000)]
    name: Short
    serving: Short = ""  # what the rows are for; 100 g where it is empty
    rows: dict[RowId, Short]


@router.post("/ingredients", status_code=201)
def add_own_ingredient(match_id: str, body: OwnIngredientIn, desk: DeskDep) -> StudyOut:
    """Adds an ingredient of one's own to the match, and takes the name for it."""
    opened = desk.open(match_id)
    reading = opened.reading
    food = own_ingredient(body.name, reading.study.region, body.rows, body.serving, reading.pantry.by_id)

    def added(match: Match) -> Match:
        study = replace(match.study, corrections={**match.study.corrections, body.item: food.id})
        return replace(match, study=study, pinned=(*match.pinned, food))

    kept = desk.keeper(match_id).save(body.revision, added, touching(PartKey("pinned", food.id)))
    return study_out(desk.opened(kept))


class PanelIn(BaseModel):
    """A nutrition panel as copied."""

    text: Annotated[str, Field(max_length=20_000)]


class PanelTextOut(BaseModel):
    """The rows of a pasted panel, as they would be typed."""

    rows: dict[RowId, str]
    other_rows: dict[RowId, str]
    basis: Basis
    serving: str
    servings: str
    net_weight: str
    sentence: str


@router.post("/panel")
def read_pasted_panel(match_id: str, body: PanelIn, desk: DeskDep) -> PanelTextOut:
    """Reads a pasted panel; nothing is kept until the study is saved with its rows."""
    found = read_panel(body.text, desk.open(match_id).reading.study.region)
    return PanelTextOut(
        rows=found.rows,
        other_rows=found.other_rows,
        basis=found.basis,
        serving=found.serving,
        servings=found.servings,
        net_weight=found.net_weight,
        sentence=found.sentence,
    )


@router.get("/builds")
def read_proposed_builds(match_id: str, desk: DeskDep) -> list[ProposedBuildOut]:
    """One or two builds that the wrapper suggests, the likelier first; none where it says too little."""
    reading = desk.open(match_id).reading
    return [
        ProposedBuildOut(
            id=build.id,
            name=build.name,
            reason=build.reason,
            odds=build.odds,
            question=build.question,
            layers=build.layers,
            slice=slice_of_build(build.layers, desk.pantry, desk.families),
        )
        for build in proposed_builds(reading)
    ]


@router.put("")
def write_study(match_id: str, body: StudyIn, desk: DeskDep) -> StudyOut:
    """Keeps a changed study; one made on an older revision is merged, and asks where the same was changed."""
    pantry, own = desk.pantry_now(), own_of(body.study)
    kept = desk.keeper(match_id).save(
        body.revision,
        lambda match: with_study(match, body.study, pantry),
        touching(*(PartKey("pinned", key) for key in own)),
        decided_on=body.decided_on,
    )
    return study_out(desk.opened(kept))


def study_out(opened: Opened) -> StudyOut:
    """A study in the shape of the API."""
    return StudyOut(
        id=opened.id,
        revision=opened.revision,
        study=opened.match.study,
        reading=_reading_out(opened.reading, opened.kitchen.kitchen.shown_in),
    )


def _reading_out(reading: StudyReading, shown_in: ShownIn) -> StudyReadingOut:
    return StudyReadingOut(
        net_weight=typed_out(reading.net_weight, shown_in),
        pieces_per_pack=typed_out(reading.pieces_per_pack, shown_in),
        serving=typed_out(reading.serving, shown_in),
        servings=typed_out(reading.servings, shown_in),
        price=typed_out(reading.price, shown_in),
        rows=_rows_out(reading),
        statement=[entry for item in reading.printed.items for entry in _items_out(reading, item, 0)],
        brackets=_brackets_out(reading),
        lists=StatementListsOut(
            contains=list(reading.printed.contains),
            may_contain=list(reading.printed.may_contain),
            says=reading.printed.says,
            minima=[minimum_words(one) for one in reading.printed.minima],
            notes=list(reading.printed.notes),
            unread=list(reading.printed.unread),
            tongue=reading.printed.tongue,
        ),
        placings=[
            PlacingOut(item=one.item, layer_id=one.layer_id, where=one.where, source=one.source)
            for one in reading.placing.placings
        ],
        layers=_layers_out(reading),
        weighings=[_weighing_out(weighing, shown_in) for weighing in reading.weighings],
        thicknesses=[_thickness_out(one, shown_in) for one in reading.thicknesses],
        size=SizeOut(**{side: typed_out(getattr(reading.size, side), shown_in) for side in ("length", "width", "height")}),
        packet_rows=list(packet_rows(reading.study.region)),
        senses=[
            SenseOut(
                id=one.id,
                title=one.title,
                low=one.low,
                high=one.high,
                mark=typed_out(reading.sense_marks.get(one.id, _NO_MARK), shown_in),
            )
            for one in senses()
        ],
        own_ingredients=[
            OwnIngredientOut(id=food.id, name=food.name) for food in reading.pantry.all() if food.id.startswith(OWN_PREFIX)
        ],
        flags=list(flags_of(reading)),
    )


def _rows_out(reading: StudyReading) -> list[PanelRowOut]:
    specs = {spec.id: spec for spec in panel_rows(reading.study.region)}
    others = {row.row: row.problem for row in reading.other_rows}
    return [
        PanelRowOut(
            row=row.row,
            title=specs[row.row].title,
            unit=specs[row.row].unit,
            is_part=specs[row.row].part_of is not None,
            typed=row.typed,
            low=reading.intervals[row.row].low if row.row in reading.intervals else None,
            high=reading.intervals[row.row].high if row.row in reading.intervals else None,
            problem=row.problem,
            other_typed=reading.study.label.other_rows.get(row.row, ""),
            other_problem=others.get(row.row),
        )
        for row in reading.rows
    ]


def _brackets_out(reading: StudyReading) -> list[BracketOut]:
    return [
        BracketOut(
            item=bracket.item,
            meaning=bracket.meaning,
            corrected=bracket.corrected,
            reason=bracket.reason_words,
            layers=list(reading.placing.compounds.get(bracket.item, ())),
            odds=[
                MeaningOdds(
                    meaning=meaning,
                    title=meaning_words(meaning, bracket, reading.pantry),
                    odds=odds,
                    possible=bracket.may_mean(meaning),
                )
                for meaning, odds in bracket.odds.items()
            ],
        )
        for bracket in reading.brackets
    ]


def _items_out(reading: StudyReading, item: StatementItem, depth: int, *, closed: bool = False) -> list[StatementItemOut]:
    """A name and, indented, what stands in its brackets; parts of a bought ingredient are not taken for anything."""
    opens = bool(item.items) and reading.meanings.get(item.key) is not Meaning.INGREDIENT
    match = None if closed or opens else reading.matches.get(item.key)
    food = reading.pantry[match.ingredient_id] if match is not None and match.ingredient_id is not None else None
    outside = unlisted(item.name) if match is not None and food is None else None
    own = StatementItemOut(
        key=item.key,
        name=item.name,
        depth=depth,
        is_compound=opens,
        closed=closed,
        percent=item.percent,
        at_most_percent=item.at_most_percent,
        class_name=item.class_name,
        ingredient_id=food.id if food else None,
        ingredient_name=food.name if food else None,
        unsure=food is not None and match is not None and match.confidence < UNSURE_BELOW,
        corrected=item.key in reading.study.corrections,
        source=item.source,
        alternatives=list(item.alternatives),
        may_hold=outside.may_hold if outside else None,
        is_trace=outside is not None and outside.is_trace,
        printed=reading.printed.printed.get(item.name, ""),
    )
    inside = closed or (bool(item.items) and not opens)
    return [own, *(entry for part in item.items for entry in _items_out(reading, part, depth + 1, closed=inside))]


def _layers_out(reading: StudyReading) -> list[LayerReadingOut]:
    layers = []
    for layer in reading.study.layers:
        opened = reading.placing.opened.get(layer.id)
        better = reading.better_families.get(layer.id)
        layers.append(
            LayerReadingOut(
                layer_id=layer.id,
                read_as=opened.name if opened else None,
                better_family=better.id if better else None,
                better_family_name=better.name if better else None,
            )
        )
    return layers


def _weighing_out(weighing: WeighingReading, shown_in: ShownIn) -> WeighingOut:
    mean = weighing.mean_g
    return WeighingOut(
        subject=weighing.subject,
        layers=list(weighing.layers),
        readings=_readings_out(weighing.ids, weighing.readings, ShownIn()),  # their cells are in grams
        mean_g=mean,
        mean_in_ounces=shown_mass(mean, shown_in.mass) if mean is not None and shown_in.mass is MassUnit.OUNCES else None,
        sd_g=weighing.sd_g,
    )


def _readings_out(ids: Sequence[str], readings: Sequence[Typed], shown_in: ShownIn) -> list[ReadingOut]:
    return [ReadingOut(id=key, **typed_out(reading, shown_in).model_dump()) for key, reading in zip(ids, readings, strict=True)]


def _thickness_out(one: ThicknessReading, shown_in: ShownIn) -> ThicknessOut:
    return ThicknessOut(
        layer_id=one.layer,
        spot=one.spot,
        readings=_readings_out(one.ids, one.readings, shown_in),
        mean_mm=one.mean_mm,
    )
