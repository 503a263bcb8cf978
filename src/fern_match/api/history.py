"""Undo, redo, what changed, and back to any revision."""

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel

from fern_match.api.deps import DeskDep, MadeOnIn, Revision
from fern_match.core.match import Match
from fern_match.store.moments import Moment, moments
from fern_match.store.trees import revision_of

router = APIRouter(prefix="/api/matches/{match_id}", tags=["history"])


class ReturnIn(MadeOnIn):
    """A revision to return to."""

    number: Revision


class RevisionOut(BaseModel):
    """The revision that was made."""

    revision: int


@router.post("/undo")
def undo_change(match_id: str, body: MadeOnIn, desk: DeskDep) -> RevisionOut:
    """Takes the last change back; refuses when another window wrote since."""
    return RevisionOut(revision=desk.keeper(match_id).undo(body.revision).revision)


@router.post("/redo")
def redo_change(match_id: str, body: MadeOnIn, desk: DeskDep) -> RevisionOut:
    """Brings the last undone change again."""
    return RevisionOut(revision=desk.keeper(match_id).redo(body.revision).revision)


@router.post("/return")
def return_to_revision(match_id: str, body: ReturnIn, desk: DeskDep) -> RevisionOut:
    """Returns to a revision, as a change that can be undone."""
    return RevisionOut(revision=desk.keeper(match_id).return_to(body.revision, body.number).revision)


@router.get("/moments")
def read_moments(match_id: str, desk: DeskDep, before: Annotated[Revision | None, Query()] = None) -> list[Moment]:
    """A hundred revisions and what each changed, the newest first, or those before one of them."""
    with desk.database.reading() as session:
        revision_of(session, match_id, Match)
        return moments(session, match_id, before=before)
