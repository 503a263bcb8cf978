"""Estimate: the answer of the core for the newest study, or how far it is."""

import logging
from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, Field
from sqlalchemy.exc import DatabaseError

from fern_match.api.deps import Desk, DeskDep, Opened
from fern_match.api.runner import Computing, Failed, Work
from fern_match.core.estimate import Estimate, EvidenceSeen, LayerEstimate, NotYet, Range, estimate
from fern_match.core.estimate.causes import Cause, likely_causes
from fern_match.core.estimate.inputs import input_key
from fern_match.core.estimate.picture import small_slice
from fern_match.core.estimate.piece_slice import slice_of
from fern_match.core.estimate.result import Fit, LabelRowEstimate, LeftOut, NextReading, SumTold, Together
from fern_match.core.estimate.words import settle_words
from fern_match.core.measures.shown import shown_length
from fern_match.core.physics.cut_face import CutFace
from fern_match.core.study.reading import StudyReading
from fern_match.store.trees import keep_picture

router = APIRouter(prefix="/api/matches/{match_id}/estimate", tags=["estimate"])
_MOST_WAIT_S = 2.0
_LOG = logging.getLogger(__name__)
_BROKEN = "The estimate broke on this study. What you typed is safe; switch off the evidence changed last."


class BandOut(BaseModel):
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


class CutFaceOut(BaseModel):
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
    key: str  # a fingerprint of what it was made from
    piece_g: Range
    layers: tuple[LayerEstimate, ...]
    label: tuple[LabelRowEstimate, ...]
    label_basis_g: float
    fit: Fit
    fit_words: str
    evidence: tuple[EvidenceSeen, ...]
    to_weigh: tuple[NextReading, ...]
    together: tuple[Together, ...]
    sums: tuple[SumTold, ...]
    left_out: tuple[LeftOut, ...]
    assumed: tuple[str, ...]
    slice: CutFaceOut
    settle_words: str
    least_certain: str  # the layer to look into


class ComputingOut(BaseModel):
    """Under way."""

    status: Literal["computing"] = "computing"
    revision: int
    done: float


class MissingOut(BaseModel):
    """Something to add first, and the part of the study where; none where the program broke."""

    sentence: str
    part: str | None


class NotYetOut(BaseModel):
    """Too little to estimate from."""

    status: Literal["not_yet"] = "not_yet"
    revision: int
    missing: list[MissingOut]


class CausesOut(BaseModel):
    """What may be wrong with a study whose evidence fights."""

    status: Literal["causes"] = "causes"
    revision: int
    causes: tuple[Cause, ...]


EstimateOut = Annotated[ReadyOut | ComputingOut | NotYetOut, Field(discriminator="status")]


@dataclass(frozen=True, slots=True)
class Estimating:
    """Estimating a match, as a call that a process can be given."""

    reading: StudyReading

    def __call__(self, should_stop: Callable[[], bool], progress: Callable[[float], None]) -> Estimate | NotYet:
        """The estimate, or what it needs."""
        return estimate(self.reading, should_stop=should_stop, progress=progress)


@dataclass(frozen=True, slots=True)
class FindingCauses:
    """Finding out why a study does not fit."""

    reading: StudyReading
    found: Estimate

    def __call__(self, should_stop: Callable[[], bool], progress: Callable[[float], None]) -> tuple[Cause, ...]:
        """The likely causes, the likeliest first."""
        return likely_causes(self.reading, self.found, should_stop=should_stop, progress=progress)


def estimate_work(desk: Desk, opened: Opened) -> Work[Estimate | NotYet]:
    """The work of estimating a match, and of keeping its small slice for the list."""
    reading = opened.reading

    def drawn(found: Estimate | NotYet) -> None:
        if isinstance(found, Estimate):
            picture = asdict(small_slice(_cut_face(reading, found), reading))
            try:
                with desk.database.writing() as session:
                    keep_picture(session, opened.id, picture)
            except DatabaseError:
                _LOG.warning("the small slice of match %s was not kept", opened.id)  # the list draws the one before

    key = input_key(reading)
    return Work(match_id=opened.id, kind="estimate", key=key, compute=Estimating(reading), broken=_BROKEN, then=drawn)


@router.get("")
async def read_estimate(
    match_id: str,
    desk: DeskDep,
    wait_s: Annotated[float, Query(ge=0, le=_MOST_WAIT_S, allow_inf_nan=False)] = 0.4,
) -> EstimateOut:
    """The estimate of the newest revision, or its progress; ask again while it is computing.

    Not a plain function as other routes are: it waits for the runner, and waiting must not hold a thread.
    """
    opened = await run_in_threadpool(desk.open, match_id)
    work = await run_in_threadpool(estimate_work, desk, opened)
    outcome = await desk.runner.outcome_soon(work, wait_s)
    match outcome:
        case Computing(done):
            return ComputingOut(revision=opened.revision, done=done)
        case NotYet(missing):
            return NotYetOut(
                revision=opened.revision, missing=[MissingOut(sentence=one.sentence, part=one.part) for one in missing]
            )
        case Failed(sentence):
            return NotYetOut(revision=opened.revision, missing=[MissingOut(sentence=sentence, part=None)])
        case Estimate():
            return await run_in_threadpool(_ready_out, opened, outcome, work.key)


def causes_work(opened: Opened, found: Estimate) -> Work[tuple[Cause, ...]]:
    """The work of finding out why a study does not fit.

    Args:
        found: Its estimate.
    """
    reading = opened.reading
    return Work(
        match_id=opened.id,
        kind="causes",
        key=f"causes {input_key(reading)}",
        compute=FindingCauses(reading, found),
        broken=_BROKEN,
    )


@router.get("/causes")
async def read_causes(
    match_id: str,
    desk: DeskDep,
    wait_s: Annotated[float, Query(ge=0, le=_MOST_WAIT_S, allow_inf_nan=False)] = 0.4,
) -> CausesOut | ComputingOut:
    """The likely causes of a misfit, the likeliest first; ask again while they are looked for."""
    opened = await run_in_threadpool(desk.open, match_id)
    found = await desk.runner.outcome_soon(await run_in_threadpool(estimate_work, desk, opened), wait_s)
    if isinstance(found, Computing):
        return ComputingOut(revision=opened.revision, done=0.0)
    if not isinstance(found, Estimate) or found.fit is Fit.FITS:
        return CausesOut(revision=opened.revision, causes=())
    outcome = await desk.runner.outcome_soon(causes_work(opened, found), wait_s)
    match outcome:
        case Computing(done):
            return ComputingOut(revision=opened.revision, done=done)
        case Failed():
            return CausesOut(revision=opened.revision, causes=())
    return CausesOut(revision=opened.revision, causes=outcome)


def _ready_out(opened: Opened, found: Estimate, key: str) -> ReadyOut:
    return ReadyOut(
        revision=opened.revision,
        key=key,
        piece_g=found.piece_g,
        layers=found.layers,
        label=found.label,
        label_basis_g=found.label_basis_g,
        fit=found.fit,
        fit_words=found.fit_words,
        evidence=found.evidence,
        to_weigh=found.to_weigh,
        together=found.together,
        sums=found.sums,
        left_out=found.left_out,
        assumed=found.assumed,
        slice=cut_face_out(_cut_face(opened.reading, found), opened),
        settle_words=settle_words(found),
        least_certain=found.least_certain,
    )


def _cut_face(reading: StudyReading, found: Estimate) -> CutFace:
    return slice_of(found, reading.study.layers, reading.pantry, reading.families, reading.size.box_mm)


def cut_face_out(face: CutFace, opened: Opened) -> CutFaceOut:
    """A cut face with its measures in the kitchen's unit."""
    unit = opened.kitchen.kitchen.length_unit
    return CutFaceOut(
        width_mm=face.width_mm,
        height_mm=face.height_mm,
        length_mm=face.length_mm,
        size_assumed=face.size_assumed,
        width=shown_length(face.width_mm, unit),
        length=shown_length(face.length_mm, unit),
        bands=[BandOut(**asdict(band), thickness=shown_length(band.thickness_mm, unit)) for band in face.bands],
    )
