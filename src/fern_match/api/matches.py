"""The list of matches: make, import, export, duplicate, put away, delete."""

from datetime import datetime

from fastapi import APIRouter, Response
from pydantic import BaseModel, ConfigDict, ValidationError

from fern_match.api.deps import JSON_BODY, Desk, DeskDep, RawBody, loaded
from fern_match.core.estimate.picture import SmallSlice
from fern_match.core.house import with_gear
from fern_match.core.match import Match, check_match, duplicated
from fern_match.core.steps import progress_words
from fern_match.core.study.record import Study
from fern_match.core.study.starters import begun
from fern_match.core.summary import MatchLine
from fern_match.exchange import Brought, read_brought, written_match_file
from fern_match.exchange.content import record_of
from fern_match.exchange.match_file import file_name
from fern_match.store.trees import (
    Listed,
    NewTree,
    create,
    listed,
    revision_of,
    set_archived,
    set_deleted,
)

router = APIRouter(prefix="/api/matches", tags=["matches"])


class MatchSummaryOut(BaseModel):
    """A line of the list."""

    id: str
    revision: int
    name: str
    facts: list[str]  # maker, weight, region, and what it holds
    progress: str  # how far it is on the way
    picture: SmallSlice | None
    changed_at: datetime
    archived: bool


class DeletedOut(BaseModel):
    """A match that was deleted and can be brought back."""

    id: str
    name: str
    days_left: int


class MatchesOut(BaseModel):
    """The list."""

    matches: list[MatchSummaryOut]
    deleted: list[DeletedOut]


class ArchiveIn(BaseModel):
    """Away or out again."""

    model_config = ConfigDict(extra="forbid")

    archived: bool


class MatchKeyOut(BaseModel):
    """Where a match is to be found."""

    id: str
    revision: int


@router.get("")
def list_matches(desk: DeskDep) -> MatchesOut:
    """All matches, the last changed first; and what was deleted, the last first."""
    with desk.database.reading() as session:
        here, gone = listed(session), listed(session, deleted=True)
    return MatchesOut(
        matches=[_summary_out(one) for one in here],
        deleted=[DeletedOut(id=one.id, name=_line(one).name or "Unnamed match", days_left=one.days_left) for one in gone],
    )


@router.post("", status_code=201)
def create_match(body: Study, desk: DeskDep) -> MatchKeyOut:
    """A new match with what is known so far."""
    match = Match(study=begun(body))
    check_match(match)
    return _kept(match, desk)


@router.post("/import", status_code=201, openapi_extra=JSON_BODY)
def import_match(body: RawBody, desk: DeskDep) -> MatchKeyOut:
    """A new match from a match file; all of it or nothing."""
    brought = read_brought(body)
    _take_gear(brought, desk)  # first: a kitchen that is full refuses all of it
    return _kept(brought.match, desk)


def _take_gear(brought: Brought, desk: Desk) -> None:
    """What its batches are made and wrapped in joins the kitchen, as far as the kitchen does not have it."""
    now = desk.house_now()
    if with_gear(now.house, brought.gear, brought.wraps) != now.house:
        desk.house_keeper().save(now.revision, lambda own: with_gear(own, brought.gear, brought.wraps))


@router.get("/{match_id}/export", response_class=Response, responses={200: {"content": {"application/json": {}}}})
def export_match(match_id: str, desk: DeskDep) -> Response:
    """The match file of a match."""
    match, kitchen = loaded(desk, match_id), desk.house_now().house.kitchen
    headers = {"Content-Disposition": f'attachment; filename="{file_name(match)}"'}
    return Response(written_match_file(match, kitchen), media_type="application/json", headers=headers)


@router.post("/{match_id}/duplicate", status_code=201)
def duplicate_match(match_id: str, desk: DeskDep) -> MatchKeyOut:
    """A copy with a name of its own; its history begins anew."""
    return _kept(duplicated(loaded(desk, match_id)), desk)


@router.post("/{match_id}/archive", status_code=204)
def archive_match(match_id: str, body: ArchiveIn, desk: DeskDep) -> None:
    """Puts a match away or takes it out again."""
    with desk.database.writing() as session:
        set_archived(session, match_id, archived=body.archived)


@router.delete("/{match_id}", status_code=204)
def delete_match(match_id: str, desk: DeskDep) -> None:
    """Deletes a match; it can be brought back for a month. What is computed for it stops."""
    with desk.database.writing() as session:
        revision_of(session, match_id, Match)
        set_deleted(session, match_id, deleted=True)
    desk.runner.stop(match_id)


@router.post("/{match_id}/bring-back", status_code=204)
def bring_back_match(match_id: str, desk: DeskDep) -> None:
    """Undoes a deletion."""
    with desk.database.writing() as session:
        set_deleted(session, match_id, deleted=False)


def _kept(match: Match, desk: Desk) -> MatchKeyOut:
    """A new match, packed before the transaction begins."""
    new = NewTree.of(match, desk.line(match))
    with desk.database.writing() as session:
        return MatchKeyOut(id=create(session, new), revision=1)


def _summary_out(one: Listed) -> MatchSummaryOut:
    line = _line(one)
    return MatchSummaryOut(
        id=one.id,
        revision=one.revision,
        name=line.name,
        facts=list(line.facts(one.counts)),
        progress=progress_words(line.study_words, one.counts),
        picture=record_of(SmallSlice, one.picture) if one.picture else line.rough,
        changed_at=one.changed_at,
        archived=one.archived,
    )


def _line(one: Listed) -> MatchLine:
    try:
        return record_of(MatchLine, one.line)
    except ValidationError:  # of an older version; it is written anew at the next save
        return MatchLine(name=str(one.line.get("name", "")))
