"""Cooks: their plan, their schedule, and a cook as it runs."""

import datetime as dates
import secrets
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property, partial

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fern_match.api.clock import CLOCK
from fern_match.api.cook_view import (
    ChangeCellsOut,
    ScheduleOut,
    SchoolOut,
    StepOut,
    changes_out,
    schedule_out,
    schools_out,
    step_out,
)
from fern_match.api.deps import ChangeIn, Desk, DeskDep, MadeOnIn, Opened, kinds, touching
from fern_match.api.run_view import RunOut, run_out
from fern_match.api.typed import TypedOut, typed_out
from fern_match.api.version_view import overview_of
from fern_match.core.batch import BatchPlan, BatchReading, read_batch
from fern_match.core.batch.words import batch_line_words
from fern_match.core.cook import (
    HOLD_A_FIGURE,
    MINUTES_A_DAY,
    CookPlan,
    Entry,
    Logged,
    Plan,
    Schedule,
    differences,
    plan_of,
    read_entry,
    schedule,
    when_of,
)
from fern_match.core.errors import NotKnown
from fern_match.core.formulate import VersionNote
from fern_match.core.match import Match, with_another_cook, with_cook, without_cook
from fern_match.core.measures.numbers import Unread
from fern_match.core.record.parts import PartKey
from fern_match.core.record.texts import Key
from fern_match.exchange.calendar import written_calendar
from fern_match.exchange.log_csv import written_log
from fern_match.exchange.recipe_json import written_recipe
from fern_match.store import cook_log
from fern_match.store.trees import load_where

router = APIRouter(prefix="/api/matches/{match_id}/cooks", tags=["cook"])
_PLANS_KEPT = 24


class CookLineOut(BaseModel):
    """A cook in the list of them."""

    id: str
    batch: str
    version: str
    words: str  # "Faithful, 24 pieces"


class CooksOut(BaseModel):
    """All cooks of a match, and the batches that one can be begun for."""

    revision: int
    cooks: list[CookLineOut]
    batches: list[CookLineOut]


class CookOut(BaseModel):
    """A cook's plan."""

    revision: int
    plan: CookPlan
    name: str
    version: str
    cells: dict[str, TypedOut]
    waits: str  # why there are no steps; empty where there are
    schools: list[SchoolOut]
    steps: list[StepOut]
    changes: list[ChangeCellsOut]
    missing: list[str]  # changed steps that the plan no longer has
    notes: Sequence[VersionNote]  # what adapting taught of the version
    recipe: str  # that the version was taken from, as it was; empty where there was none
    parent: str  # name of the version that this one was made after; empty where there is none
    differences: list[str]  # what it changes at the stove beside that one


class CookIn(ChangeIn):
    """A changed cook, as typed."""

    plan: CookPlan


class NewCookIn(MadeOnIn):
    """A cook to be begun."""

    batch: Key


class EntriesIn(BaseModel):
    """What happened."""

    entries: list[Entry] = Field(max_length=100)


class LoggedOut(BaseModel):
    """What was added is safe."""

    last: int  # number of the last entry


@router.get("")
def read_cooks(match_id: str, desk: DeskDep) -> CooksOut:
    """All cooks, in the order they were begun."""
    opened = desk.open(match_id, kinds("versions", "batches", "cooks"))
    names = {version.id: version.name for version in opened.match.versions}

    def line(key: str, batch_id: str) -> CookLineOut:
        plan = next(one for one in opened.match.batches if one.id == batch_id)
        words = batch_line_words(plan, opened.reading, opened.kitchen.gear_names)
        name = names.get(plan.version, plan.version)
        return CookLineOut(id=key, batch=batch_id, version=plan.version, words=f"{name}, {words}" if words else name)

    return CooksOut(
        revision=opened.revision,
        cooks=[line(one.id, one.batch) for one in opened.match.cooks],
        batches=[line(one.id, one.id) for one in opened.match.batches],
    )


@router.post("", status_code=201)
def begin_cook(match_id: str, body: NewCookIn, desk: DeskDep) -> CooksOut:
    """Plans a cook of a batch; the last of the list."""
    change = partial(with_another_cook, batch_id=body.batch, cook_id=f"cook-{secrets.token_hex(4)}")
    desk.keeper(match_id).save(body.revision, change)
    return read_cooks(match_id, desk)


@router.delete("/{cook_id}")
def delete_cook(match_id: str, cook_id: str, body: MadeOnIn, desk: DeskDep) -> CooksOut:
    """Takes a cook out; undo brings it back, with its log."""
    desk.keeper(match_id).save(body.revision, partial(without_cook, cook_id=cook_id), touching(PartKey("cooks", cook_id)))
    return read_cooks(match_id, desk)


@router.get("/{cook_id}")
def read_cook(match_id: str, cook_id: str, desk: DeskDep) -> CookOut:
    """One cook, planned."""
    return _cook_out(_planned(match_id, cook_id, desk))


@router.put("/{cook_id}")
def write_cook(match_id: str, cook_id: str, body: CookIn, desk: DeskDep) -> CookOut:
    """Keeps a changed plan."""
    cook = replace(body.plan, id=cook_id, log=())

    def change(match: Match) -> Match:
        return with_cook(match, cook)

    keys = (PartKey("cooks", cook_id), PartKey("batches", cook.batch))
    desk.keeper(match_id).save(body.revision, change, touching(*keys), decided_on=body.decided_on)
    return read_cook(match_id, cook_id, desk)


@router.get("/{cook_id}/schedule")
def read_schedule(match_id: str, cook_id: str, desk: DeskDep) -> ScheduleOut:
    """When each step is done, and by whom."""
    planned = _planned(match_id, cook_id, desk)
    return schedule_out(planned.schedule, planned.plan, planned.opened.revision)


@router.get("/{cook_id}/calendar", response_class=Response, responses={200: {"content": {"text/calendar": {}}}})
def read_calendar(match_id: str, cook_id: str, desk: DeskDep) -> Response:
    """The schedule as a calendar file."""
    planned = _planned(match_id, cook_id, desk)
    when, found = when_of(planned.cook, planned.opened.kitchen), planned.schedule
    shift = found.start_min // MINUTES_A_DAY if when.ready_min is not None else 0
    first = dates.date.fromisoformat(when.day) if when.day else dates.date.today()
    if when.ready_min is not None and when.day:
        first -= dates.timedelta(days=when.ready_min // MINUTES_A_DAY - shift)
    name = planned.opened.match.study.name or "Cook"
    text = written_calendar(name, planned.plan, found, first - dates.timedelta(days=shift), planned.cook.id)
    headers = {"Content-Disposition": 'attachment; filename="cook.ics"'}
    return Response(text, media_type="text/calendar", headers=headers)


@router.get("/{cook_id}/log", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def read_log(match_id: str, cook_id: str, desk: DeskDep) -> Response:
    """The log as a table."""
    planned = _planned(match_id, cook_id, desk)
    titles = {one.id: one.title for one in planned.plan.steps}
    headers = {"Content-Disposition": 'attachment; filename="cook-log.csv"'}
    return Response(written_log(_entries(planned, desk), titles), media_type="text/csv", headers=headers)


@router.get("/{cook_id}/recipe", response_class=Response, responses={200: {"content": {"application/ld+json": {}}}})
def read_recipe_file(match_id: str, cook_id: str, desk: DeskDep) -> Response:
    """The version with its plan as a recipe that other programs read."""
    planned = _planned(match_id, cook_id, desk)
    text = written_recipe(planned.opened.match.study.name or "Recipe", planned.read, planned.plan)
    headers = {"Content-Disposition": 'attachment; filename="recipe.json"'}
    return Response(text, media_type="application/ld+json", headers=headers)


@router.get("/{cook_id}/run")
def read_run(match_id: str, cook_id: str, desk: DeskDep) -> RunOut:
    """How far it is: the step at hand, timers, what closes, what was logged."""
    planned = _planned(match_id, cook_id, desk)
    return _run_out(planned, desk)


@router.post("/{cook_id}/run")
def add_to_run(match_id: str, cook_id: str, body: EntriesIn, desk: DeskDep) -> LoggedOut:
    """Adds to the log what happened; what was sent before is not added again. Answers as soon as it is safe."""
    with desk.database.reading() as session:
        kept = load_where(session, match_id, Match, lambda key: key == PartKey("cooks", cook_id)).whole.cooks
    cook = next((one for one in kept if one.id == cook_id), None)
    if cook is None:
        raise NotKnown("cook", cook_id)
    typed = any(one.value is None and one.kind in HOLD_A_FIGURE for one in body.entries)
    entries = [_read(one, _planned(match_id, cook_id, desk)) for one in body.entries] if typed else body.entries
    with desk.database.writing() as session:
        last = cook_log.last_moment(session, match_id, cook_id)
        CLOCK.not_before(last)
        number = cook_log.add(session, match_id, cook_id, entries, CLOCK.now_ms(), cook.log[-1].number if cook.log else 0)
    return LoggedOut(last=number)


def _read(entry: Entry, planned: "_Planned") -> Entry:
    """An entry with its figure read.

    Raises:
        Unread: what was typed is no such figure.
    """
    found = read_entry(entry, planned.plan.step(entry.step), planned.opened.reading, planned.opened.kitchen)
    if found is None:
        return entry
    if found.value is None:
        raise Unread(found.problem or "Nothing was typed.")
    return replace(entry, value=found.value, unit=found.unit)


@dataclass(frozen=True)
class _Planned:
    """A cook with its batch and its plan."""

    opened: Opened
    cook: CookPlan
    read: BatchReading
    plan: Plan
    parent: str
    differences: tuple[str, ...]

    @cached_property
    def schedule(self) -> Schedule:
        """Worked out when it is first asked for."""
        when = when_of(self.cook, self.opened.kitchen)
        return schedule(self.plan.steps, when.hands, begins_min=when.begins_min, ready_min=when.ready_min)


def _planned(match_id: str, cook_id: str, desk: Desk) -> _Planned:
    """A cook, planned; remembered as long as nothing it hangs on has changed.

    Raises:
        NotKnown: there is no such match or cook.
    """
    opened = desk.open(match_id, lambda key: key.kind == "batches" or key == PartKey("cooks", cook_id))
    key = (match_id, cook_id, opened.revision, desk.house_now().revision)
    known = desk.planned.get(key)
    if isinstance(known, _Planned):
        return known
    cook = next((one for one in opened.match.cooks if one.id == cook_id), None)
    batch = next((one for one in opened.match.batches if cook is not None and one.id == cook.batch), None)
    if cook is None or batch is None:
        raise NotKnown("cook", cook_id)
    wanted = {PartKey("versions", batch.version), PartKey("batches", batch.id), PartKey("cooks", cook_id)}
    opened = desk.open(match_id, lambda key: key in wanted)
    read = read_batch(batch, overview_of(opened.match.version(batch.version), opened), opened.reading, opened.kitchen)
    plan = plan_of(cook, read, opened.reading, opened.kitchen)
    parent, differs = _beside_parent(plan, cook, batch, desk, opened)
    found = _Planned(opened, cook, read, plan, parent, differs)
    desk.planned[key] = found
    while len(desk.planned) > _PLANS_KEPT:
        desk.planned.popitem(last=False)
    return found


def _beside_parent(plan: Plan, cook: CookPlan, batch: BatchPlan, desk: Desk, opened: Opened) -> tuple[str, tuple[str, ...]]:
    """Name of the version that this one was made after, and what it changes at the stove."""
    parent_id = opened.match.version(batch.version).parent
    if parent_id is None or not plan.steps:
        return "", ()
    with_it = desk.open(opened.id, lambda key: key == PartKey("versions", parent_id))
    version = next((one for one in with_it.match.versions if one.id == parent_id), None)
    if version is None:
        return "", ()
    read = read_batch(replace(batch, version=parent_id), overview_of(version, with_it), with_it.reading, with_it.kitchen)
    return version.name, differences(plan.steps, plan_of(cook, read, with_it.reading, with_it.kitchen).steps)


def _cook_out(planned: _Planned) -> CookOut:
    opened, plan = planned.opened, planned.plan
    when = when_of(planned.cook, opened.kitchen)
    version = planned.read.seen.version
    words = batch_line_words(planned.read.plan, opened.reading, opened.kitchen.gear_names)
    return CookOut(
        revision=opened.revision,
        plan=replace(planned.cook, log=()),
        name=f"{version.name}, {words}" if words else version.name,
        version=version.id,
        cells={key: typed_out(typed, opened.kitchen.kitchen.shown_in) for key, typed in when.cells.items()},
        waits=plan.waits,
        schools=schools_out(plan),
        steps=[step_out(one, plan, opened.kitchen) for one in plan.steps],
        changes=changes_out(planned.cook, opened.kitchen),
        missing=list(plan.missing),
        notes=version.notes,
        recipe=version.recipe,
        parent=planned.parent,
        differences=list(planned.differences),
    )


def _entries(planned: _Planned, desk: Desk) -> tuple[Logged, ...]:
    with desk.database.reading() as session:
        return (*planned.cook.log, *cook_log.logged(session, planned.opened.id, planned.cook.id))


def _run_out(planned: _Planned, desk: Desk) -> RunOut:
    entries = _entries(planned, desk)
    if entries:
        CLOCK.not_before(entries[-1].at_ms)
    return run_out(
        planned.plan,
        planned.schedule,
        planned.read,
        planned.opened.reading,
        planned.opened.kitchen,
        entries,
        CLOCK.now_ms(),
    )
