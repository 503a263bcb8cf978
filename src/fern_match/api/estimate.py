"""Estimate: the answer of the core for the newest study, or how far it is."""

from dataclasses import asdict
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel, ConfigDict, Field

from fern_match.api.deps import DatabaseDep, PantryDep, RunnerDep
from fern_match.api.runner import Computing, Failed
from fern_match.core.estimate import Estimate, NotYet
from fern_match.core.estimate.piece_slice import slice_of
from fern_match.core.estimate.tension import PULLS_FROM
from fern_match.core.estimate.terms import Kind
from fern_match.core.food import Pantry
from fern_match.core.label.rows import RowId
from fern_match.core.measures.shown import ShownIn, shown_length
from fern_match.core.study.reading import StudyReading
from fern_match.store import StoredMatch, matches
from fern_match.store.kitchen import load_kitchen

router = APIRouter(prefix="/api/matches/{match_id}/estimate", tags=["estimate"])
_MOST_WAIT_S = 2.0


class _Out(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class RangeOut(_Out):
    """Best value and 90 % range."""

    best: float
    low: float
    high: float


class IngredientAmountOut(_Out):
    """An ingredient as added, per mean piece."""

    ingredient_id: str
    name: str
    role: str
    item: str | None
    grams: RangeOut
    share_of_layer: float
    presence: float


class LayerEstimateOut(_Out):
    """A layer of the mean piece."""

    layer_id: str
    name: str
    family: str
    grams: RangeOut
    share: RangeOut
    water_lost_g: RangeOut
    moisture: float
    ingredients: list[IngredientAmountOut]


class LabelRowEstimateOut(_Out):
    """A panel row recomputed beside the declared one."""

    row: RowId
    title: str
    unit: str
    declared: str | None
    declared_low: float | None
    declared_high: float | None
    computed: RangeOut
    printed: str
    is_evidence: bool
    tension: float | None = None


class EvidenceOut(_Out):
    """A piece of evidence beside what the rest foresees."""

    id: str
    kind: Kind
    title: str
    seen: str
    unit: str
    expected_low: float | None
    expected_high: float | None
    tension: float | None
    pulls: bool
    used: bool
    sentence: str


class BandOut(_Out):
    """A layer's rectangle on the cut face [mm]."""

    id: str
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    thickness_mm: float
    thickness_low_mm: float
    thickness_high_mm: float
    thickness: str  # in the kitchen's unit


class CutFaceOut(_Out):
    """The cut face, to scale."""

    width_mm: float
    height_mm: float
    length_mm: float
    size_assumed: bool
    width: str  # in the kitchen's unit
    length: str
    bands: list[BandOut]


class ReadyOut(BaseModel):
    """The estimate of this revision."""

    status: Literal["ready"] = "ready"
    revision: int
    piece_g: RangeOut
    layers: list[LayerEstimateOut]
    label: list[LabelRowEstimateOut]
    label_basis_g: float
    evidence: list[EvidenceOut]
    assumed: list[str]
    slice: CutFaceOut
    to_settle: int


class ComputingOut(BaseModel):
    """Under way."""

    status: Literal["computing"] = "computing"
    revision: int
    done: float


class NotYetOut(BaseModel):
    """Too little to estimate from."""

    status: Literal["not_yet"] = "not_yet"
    revision: int
    sentences: list[str]


EstimateOut = Annotated[ReadyOut | ComputingOut | NotYetOut, Field(discriminator="status")]


@router.get("")
def read_estimate(
    match_id: str,
    database: DatabaseDep,
    pantry: PantryDep,
    runner: RunnerDep,
    wait_s: Annotated[float, Query(ge=0, le=_MOST_WAIT_S, allow_inf_nan=False)] = 0.4,
) -> EstimateOut:
    """The estimate of the newest revision, or its progress; ask again while it is computing."""
    with database.transaction() as session:
        stored = matches.load(session, match_id)
        shown_in = load_kitchen(session).shown_in
    outcome = runner.outcome(match_id, stored.match.study, wait_s)
    match outcome:
        case Computing(done):
            return ComputingOut(revision=stored.revision, done=done)
        case NotYet(sentences):
            return NotYetOut(revision=stored.revision, sentences=list(sentences))
        case Failed(sentence):
            return NotYetOut(revision=stored.revision, sentences=[sentence])
        case Estimate():
            return ready_out(stored, outcome, pantry, shown_in)


def _slice(stored: StoredMatch, found: Estimate, pantry: Pantry, shown_in: ShownIn) -> CutFaceOut:
    study = StudyReading(stored.match.study, pantry)
    face = slice_of(found, study.study.layers, pantry, study.size.box_mm)
    return CutFaceOut(
        width_mm=face.width_mm,
        height_mm=face.height_mm,
        length_mm=face.length_mm,
        size_assumed=face.size_assumed,
        width=shown_length(face.width_mm, shown_in.length),
        length=shown_length(face.length_mm, shown_in.length),
        bands=[BandOut(**asdict(band), thickness=shown_length(band.thickness_mm, shown_in.length)) for band in face.bands],
    )


def ready_out(stored: StoredMatch, found: Estimate, pantry: Pantry, shown_in: ShownIn) -> ReadyOut:
    """An estimate in the shape of the API.

    Args:
        stored: The match it belongs to.
        found: The core's answer.
        pantry: For the slice's densities.
        shown_in: The kitchen's units.
    """
    tension = {piece.id: piece.tension for piece in found.evidence}
    return ReadyOut(
        revision=stored.revision,
        piece_g=RangeOut.model_validate(found.piece_g),
        layers=[LayerEstimateOut.model_validate(layer) for layer in found.layers],
        label=[
            LabelRowEstimateOut.model_validate(row).model_copy(update={"tension": tension.get(f"row:{row.row}")})
            for row in found.label
        ],
        label_basis_g=found.label_basis_g,
        evidence=[
            EvidenceOut(
                id=piece.id,
                kind=piece.kind,
                title=piece.title,
                seen=piece.seen,
                unit=piece.unit,
                expected_low=piece.expected_low,
                expected_high=piece.expected_high,
                tension=piece.tension,
                pulls=piece.tension is not None and piece.tension >= PULLS_FROM,
                used=piece.used,
                sentence=piece.sentence,
            )
            for piece in found.evidence
        ],
        assumed=list(found.assumed),
        slice=_slice(stored, found, pantry, shown_in),
        to_settle=sum(1 for piece in found.evidence if piece.tension is not None and piece.tension >= PULLS_FROM),
    )
