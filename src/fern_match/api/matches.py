"""The list of matches: make, import, export, delete."""

from dataclasses import replace
from datetime import datetime

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, ConfigDict

from fern_match.api.deps import SessionDep
from fern_match.core.match import Match
from fern_match.exchange import StudyFile, read_match_file, written_match_file
from fern_match.store import matches

router = APIRouter(prefix="/api/matches", tags=["matches"])


class MatchSummaryOut(BaseModel):
    """A line of the list."""

    model_config = ConfigDict(from_attributes=True)

    id: str
    revision: int
    name: str
    maker: str
    region: str
    net_weight: str
    layers: int
    versions: int
    batches: int
    changed_at: datetime
    archived: bool


class ArchiveIn(BaseModel):
    """Away or out again."""

    model_config = ConfigDict(extra="forbid")

    archived: bool


class MatchKeyOut(BaseModel):
    """Where a match is to be found."""

    id: str
    revision: int


@router.get("")
def list_matches(session: SessionDep) -> list[MatchSummaryOut]:
    """All matches, the last changed first."""
    return [MatchSummaryOut.model_validate(summary) for summary in matches.summaries(session)]


@router.post("", status_code=201)
def create_match(body: StudyFile, session: SessionDep) -> MatchKeyOut:
    """A new match with what is known so far."""
    stored = matches.create(session, Match(study=body.to_core()))
    return MatchKeyOut(id=stored.id, revision=stored.revision)


@router.post(
    "/import",
    status_code=201,
    openapi_extra={"requestBody": {"content": {"application/json": {"schema": {"type": "object"}}}}},
)
async def import_match(request: Request) -> MatchKeyOut:
    """A new match from a match file; all of it or nothing."""
    match = read_match_file(await request.body())
    with request.app.state.database.transaction() as session:
        stored = matches.create(session, match)
    return MatchKeyOut(id=stored.id, revision=stored.revision)


@router.get("/{match_id}/export", response_class=Response, responses={200: {"content": {"application/json": {}}}})
def export_match(match_id: str, session: SessionDep) -> Response:
    """The match file of a match."""
    stored = matches.load(session, match_id)
    name = "".join(sign if sign.isascii() and sign.isalnum() else "-" for sign in stored.match.study.name).strip("-") or "match"
    headers = {"Content-Disposition": f'attachment; filename="{name.lower()}.fern-match.json"'}
    return Response(written_match_file(stored.match), media_type="application/json", headers=headers)


@router.post("/{match_id}/duplicate", status_code=201)
def duplicate_match(match_id: str, session: SessionDep) -> MatchKeyOut:
    """A copy with a name of its own; its history begins anew."""
    found = matches.load(session, match_id).match
    name = f"{found.study.name[:110]} (copy)"
    stored = matches.create(session, replace(found, study=replace(found.study, name=name)))
    return MatchKeyOut(id=stored.id, revision=stored.revision)


@router.post("/{match_id}/archive", status_code=204)
def archive_match(match_id: str, body: ArchiveIn, session: SessionDep) -> None:
    """Puts a match away or takes it out again."""
    matches.set_archived(session, match_id, archived=body.archived)


@router.delete("/{match_id}", status_code=204)
def delete_match(match_id: str, session: SessionDep) -> None:
    """Deletes a match; it can be brought back for a month."""
    matches.load(session, match_id)
    matches.set_deleted(session, match_id, deleted=True)


@router.post("/{match_id}/bring-back", status_code=204)
def bring_back_match(match_id: str, session: SessionDep) -> None:
    """Undoes a deletion."""
    matches.set_deleted(session, match_id, deleted=False)
