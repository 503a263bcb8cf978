"""Study: what was written down about the original, and how it is read."""

from dataclasses import replace

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict
from sqlalchemy.orm import Session

from fern_match.api.deps import PantryDep, Revision, SessionDep
from fern_match.api.typed import TypedOut, typed_out
from fern_match.core.food import Pantry
from fern_match.core.label.rows import RowId, panel_rows
from fern_match.core.label.statement import StatementItem
from fern_match.core.measures.shown import MassUnit, ShownIn, shown_mass
from fern_match.core.study.flags import flags_of
from fern_match.core.study.reading import StudyReading, WeighingReading
from fern_match.core.study.record import Whereabouts
from fern_match.core.study.whereabouts import Source
from fern_match.core.study.words import StepWords, step_words
from fern_match.exchange import StudyFile
from fern_match.store import StoredMatch, history, matches
from fern_match.store.kitchen import load_kitchen

router = APIRouter(prefix="/api/matches/{match_id}/study", tags=["study"])


class _Out(BaseModel):
    model_config = ConfigDict(from_attributes=True)


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


class StatementItemOut(BaseModel):
    """A name on the statement; `depth` says how deep in brackets."""

    key: str
    name: str
    depth: int
    is_compound: bool
    percent: float | None
    at_most_percent: float | None
    class_name: str | None
    ingredient_id: str | None
    ingredient_name: str | None
    confidence: float
    corrected: bool


class PlacingOut(_Out):
    """Whether a name is in a layer, and who says so."""

    item: str
    layer_id: str
    where: Whereabouts
    source: Source


class LayerReadingOut(BaseModel):
    """What the families say about a layer."""

    layer_id: str
    family_name: str | None
    read_as: str | None  # an opened chocolate's family
    better_family: str | None
    better_family_name: str | None
    texture: str
    tone: str


class WeighingOut(BaseModel):
    """Readings of one subject."""

    subject: str
    readings: list[TypedOut]
    mean_g: float | None
    mean_in_ounces: str | None  # where the kitchen shows ounces
    sd_g: float | None


class SizeOut(BaseModel):
    """Outside dimensions of a piece."""

    length: TypedOut
    width: TypedOut
    height: TypedOut


class FlagOut(_Out):
    """Something worth a look."""

    where: str
    keys: list[str]
    sentence: str


class StepWordsOut(_Out):
    """A step and what it still lacks."""

    step: str
    words: str


class StudyReadingOut(BaseModel):
    """The study as read."""

    net_weight: TypedOut
    pieces_per_pack: TypedOut
    serving: TypedOut
    basis_g: float | None
    rows: list[PanelRowOut]
    statement: list[StatementItemOut]
    placings: list[PlacingOut]
    layers: list[LayerReadingOut]
    weighings: list[WeighingOut]
    size: SizeOut
    flags: list[FlagOut]


class ReachOut(_Out):
    """What undo would take back and redo bring again, in words."""

    undo: str | None
    redo: str | None


class StudyOut(BaseModel):
    """The study as typed and as read."""

    id: str
    revision: int
    study: StudyFile
    reading: StudyReadingOut
    path: list[StepWordsOut]
    reach: ReachOut


class StudyIn(BaseModel):
    """A changed study, with the revision it was changed on."""

    model_config = ConfigDict(extra="forbid")

    revision: Revision
    study: StudyFile
    prefer_mine: bool = False


@router.get("")
def read_study(match_id: str, session: SessionDep, pantry: PantryDep) -> StudyOut:
    """The study of a match."""
    return study_out(session, matches.load(session, match_id), pantry)


@router.put("")
def write_study(match_id: str, body: StudyIn, session: SessionDep, pantry: PantryDep) -> StudyOut:
    """Keeps a changed study; one made on an older revision is merged, and asks where the same field was changed."""
    study = body.study.to_core()
    stored = history.save_change(
        session, match_id, body.revision, lambda match: replace(match, study=study), pantry, prefer_mine=body.prefer_mine
    )
    return study_out(session, stored, pantry)


def study_out(session: Session, stored: StoredMatch, pantry: Pantry) -> StudyOut:
    """A study in the shape of the API.

    Args:
        session: In a transaction.
        stored: The match.
        pantry: For its reading.
    """
    reading = StudyReading(stored.match.study, pantry)
    words: tuple[StepWords, ...] = step_words(reading, len(stored.match.versions), [plan.pieces for plan in stored.match.batches])
    return StudyOut(
        id=stored.id,
        revision=stored.revision,
        study=StudyFile.of(stored.match.study),
        reading=_reading_out(reading, load_kitchen(session).shown_in),
        path=[StepWordsOut.model_validate(step) for step in words],
        reach=ReachOut.model_validate(history.reach(session, stored)),
    )


def _reading_out(reading: StudyReading, shown_in: ShownIn) -> StudyReadingOut:
    return StudyReadingOut(
        net_weight=typed_out(reading.net_weight, shown_in),
        pieces_per_pack=typed_out(reading.pieces_per_pack, shown_in),
        serving=typed_out(reading.serving, shown_in),
        basis_g=reading.basis_g,
        rows=_rows_out(reading),
        statement=[entry for item in reading.statement.items for entry in _items_out(reading, item, 0)],
        placings=[PlacingOut.model_validate(placing) for placing in reading.placing.placings],
        layers=_layers_out(reading),
        weighings=[_weighing_out(weighing, shown_in) for weighing in reading.weighings],
        size=SizeOut(**{side: typed_out(getattr(reading.size, side), shown_in) for side in ("length", "width", "height")}),
        flags=[FlagOut(where=flag.where, keys=list(flag.keys), sentence=flag.sentence) for flag in flags_of(reading)],
    )


def _rows_out(reading: StudyReading) -> list[PanelRowOut]:
    specs = {spec.id: spec for spec in panel_rows(reading.study.region)}
    return [
        PanelRowOut(
            row=row.row,
            title=specs[row.row].title,
            unit=specs[row.row].unit,
            is_part=specs[row.row].part_of is not None,
            typed=row.typed,
            low=row.interval.low if row.interval else None,
            high=row.interval.high if row.interval else None,
            problem=row.problem,
        )
        for row in reading.rows
    ]


def _items_out(reading: StudyReading, item: StatementItem, depth: int) -> list[StatementItemOut]:
    match = reading.matches.get(item.key)
    food = reading.pantry[match.ingredient_id] if match is not None and match.ingredient_id is not None else None
    own = StatementItemOut(
        key=item.key,
        name=item.name,
        depth=depth,
        is_compound=item.is_compound,
        percent=item.percent,
        at_most_percent=item.at_most_percent,
        class_name=item.class_name,
        ingredient_id=food.id if food else None,
        ingredient_name=food.name if food else None,
        confidence=match.confidence if match else 1.0,
        corrected=item.key in reading.study.corrections,
    )
    return [own, *(entry for part in item.items for entry in _items_out(reading, part, depth + 1))]


def _layers_out(reading: StudyReading) -> list[LayerReadingOut]:
    known = {layer.id: family for layer, family in reading.build}
    layers = []
    for layer in reading.study.layers:
        family = known.get(layer.id)
        opened = reading.placing.opened.get(layer.id)
        better = reading.better_families.get(layer.id)
        layers.append(
            LayerReadingOut(
                layer_id=layer.id,
                family_name=family.name if family else None,
                read_as=opened.name if opened else None,
                better_family=better.id if better else None,
                better_family_name=better.name if better else None,
                texture=family.traits.texture if family else "smooth",
                tone=family.traits.tone if family else "#c9bda8",
            )
        )
    return layers


def _weighing_out(weighing: WeighingReading, shown_in: ShownIn) -> WeighingOut:
    return WeighingOut(
        subject=weighing.subject,
        readings=[
            typed_out(reading, ShownIn()) for reading in weighing.readings
        ],  # their cells are in grams; the mean is converted
        mean_g=weighing.mean_g,
        mean_in_ounces=shown_mass(weighing.mean_g, shown_in.mass)
        if weighing.mean_g is not None and shown_in.mass is MassUnit.OUNCES
        else None,
        sd_g=weighing.sd_g,
    )
