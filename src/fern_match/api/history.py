"""Undo, redo, what changed, and back to any moment."""

from datetime import datetime

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict

from fern_match.api.deps import PantryDep, Revision, SessionDep
from fern_match.api.study import StudyOut, study_out
from fern_match.core.history import changes
from fern_match.store import history

router = APIRouter(prefix="/api/matches/{match_id}", tags=["history"])


class MomentOut(BaseModel):
    """A revision and what it changed."""

    model_config = ConfigDict(from_attributes=True)

    number: int
    saved_at: datetime
    words: list[str]


class ChangesOut(BaseModel):
    """What differs between two moments, in words."""

    sentences: list[str]


class MadeOnIn(BaseModel):
    """The revision the user is looking at."""

    model_config = ConfigDict(extra="forbid")

    revision: Revision


class ReturnIn(MadeOnIn):
    """A moment to return to."""

    number: Revision


@router.post("/undo")
def undo_change(match_id: str, body: MadeOnIn, session: SessionDep, pantry: PantryDep) -> StudyOut:
    """Takes the last change back; refuses when another window wrote since."""
    return study_out(session, history.undo(session, match_id, body.revision), pantry)


@router.post("/redo")
def redo_change(match_id: str, body: MadeOnIn, session: SessionDep, pantry: PantryDep) -> StudyOut:
    """Brings the last undone change again."""
    return study_out(session, history.redo(session, match_id, body.revision), pantry)


@router.post("/return")
def return_to_moment(match_id: str, body: ReturnIn, session: SessionDep, pantry: PantryDep) -> StudyOut:
    """Returns to a moment, as a change that can be undone."""
    return study_out(session, history.return_to(session, match_id, body.revision, body.number, pantry), pantry)


@router.get("/moments")
def read_moments(match_id: str, session: SessionDep) -> list[MomentOut]:
    """The latest moments, the newest first."""
    return [MomentOut.model_validate(moment) for moment in history.moments(session, match_id)]


@router.get("/changes")
def read_changes(match_id: str, since: Revision, until: Revision, session: SessionDep, pantry: PantryDep) -> ChangesOut:
    """What changed between two moments."""
    before, after = (history.state_at(session, match_id, number) for number in (since, until))
    return ChangesOut(sentences=list(changes(before, after, pantry)))
