"""The frame round every step: what the match is called, the path, the slice's layers, the strip's targets, undo and redo."""

from fastapi import APIRouter
from pydantic import BaseModel

from fern_match.api.deps import DeskDep, kinds
from fern_match.core.batch.words import batch_line_words
from fern_match.core.families import UNKNOWN_TEXTURE, UNKNOWN_TONE
from fern_match.core.label.rows import IN_SIGHT, Basis, RowId, panel_rows
from fern_match.core.steps import Situation, StepWords, step_words
from fern_match.core.study.reading import StudyReading
from fern_match.store import UndoState
from fern_match.store.moments import undo_state
from fern_match.store.trees import counts

router = APIRouter(prefix="/api/matches/{match_id}/frame", tags=["frame"])


class FrameLayerOut(BaseModel):
    """A layer as it is drawn and named everywhere."""

    layer_id: str
    name: str
    host: str | None
    family_name: str | None
    texture: str
    tone: str


class TargetOut(BaseModel):
    """A label row in sight, before there is an estimate."""

    row: RowId
    title: str
    declared: str | None


class FrameOut(BaseModel):
    """All that the frame shows by itself."""

    id: str
    revision: int
    name: str
    about: str  # maker, weight and region in one line
    path: list[StepWords]
    layers: list[FrameLayerOut]
    basis: str
    net_weight: str
    targets: list[TargetOut]
    undo_state: UndoState


@router.get("")
def read_frame(match_id: str, desk: DeskDep) -> FrameOut:
    """The frame of a match; it costs the same however much the match holds."""
    with desk.database.reading() as session:
        numbers = counts(session, match_id)
    alone = numbers.get("batches") == 1  # the path says the pieces of the only batch
    opened = desk.open(match_id, kinds("batches") if alone else kinds())
    with desk.database.reading() as session:
        undo = undo_state(session, match_id, opened.revision)
    study, batches = opened.match.study, opened.match.batches
    now = Situation(
        reading=opened.reading,
        counts=numbers,
        batch=batch_line_words(batches[0], opened.reading, opened.kitchen.gear_names) if batches else "",
    )
    return FrameOut(
        id=match_id,
        revision=opened.revision,
        name=study.name or "Unnamed match",
        about=" · ".join(part for part in (study.maker, opened.reading.net_weight_words, f"{study.region} label") if part),
        path=list(step_words(now)),
        layers=_layers(opened.reading),
        basis="Per serving" if study.label.basis is Basis.SERVING else "Per 100 g",
        net_weight=opened.reading.net_weight_words,
        targets=_targets(opened.reading),
        undo_state=undo,
    )


def _layers(reading: StudyReading) -> list[FrameLayerOut]:
    known = {layer.id: family for layer, family in reading.build}
    layers = []
    for layer in reading.study.layers:
        family = known.get(layer.id)
        layers.append(
            FrameLayerOut(
                layer_id=layer.id,
                name=layer.name or "Unnamed layer",
                host=layer.host,
                family_name=family.name if family else None,
                texture=family.traits.texture if family else UNKNOWN_TEXTURE,
                tone=family.traits.tone if family else UNKNOWN_TONE,
            )
        )
    return layers


def _targets(reading: StudyReading) -> list[TargetOut]:
    figures = {row.row: row.figure for row in reading.rows}
    targets = []
    for spec in panel_rows(reading.study.region):
        if spec.id in IN_SIGHT:
            figure = figures.get(spec.id)
            targets.append(
                TargetOut(row=spec.id, title=spec.short, declared=f"label {figure.words} {spec.unit}" if figure else None)
            )
    return targets
