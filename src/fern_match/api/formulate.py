"""Versions: begun, written, solved, made in other ways, measured out, compared."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from fastapi.concurrency import run_in_threadpool as run
from pydantic import BaseModel, ConfigDict, Field

from fern_match.api.deps import ChangeIn, Desk, DeskDep, MadeOnIn, Opened, kinds, loaded, touching
from fern_match.api.errors import BreaksRule, NotReady, WouldOverwrite
from fern_match.api.estimate import estimate_work
from fern_match.api.long_work import (
    SolvedFor,
    UnderWay,
    WaitQuery,
    Window,
    WindowQuery,
    held_back_work,
    solve_work,
    ways_work,
)
from fern_match.api.runner import Computing, Failed
from fern_match.api.typed import TypedOut, typed_out
from fern_match.api.version_view import VersionView, overview_of, version_view
from fern_match.core.adapt import refused_by
from fern_match.core.batch import WeighedOut, batch_of, pieces_of, read_pieces
from fern_match.core.batch.words import outdated_words
from fern_match.core.errors import NotKnown
from fern_match.core.estimate import NotYet
from fern_match.core.estimate.inputs import input_key
from fern_match.core.formulate import (
    ComparedLine,
    OriginKind,
    Solved,
    Version,
    VersionLayer,
    Way,
    WouldReplace,
    begun_again,
    by_working_ratios,
    compared,
    copied,
    settled,
    taken,
    with_another,
    with_further_layer,
    written_layer,
    written_version,
)
from fern_match.core.match import (
    Match,
    first_plan,
    ingredients_of,
    lost_words,
    newest_compositions,
    with_version,
    without_version,
)
from fern_match.core.measures.shown import ShownIn
from fern_match.core.record.parts import PartKey

router = APIRouter(prefix="/api/matches/{match_id}/versions", tags=["formulate"])


class TakeIn(MadeOnIn):
    """Takes the estimate; where that would overwrite a version, `replace` says to do so, `keep_both` to put it beside."""

    replace: bool = False
    keep_both: bool = False


class TakenOut(BaseModel):
    """The version that was taken."""

    revision: int
    version: Version


class VersionLineOut(BaseModel):
    """A version in the list of them."""

    id: str
    name: str
    parent: str | None
    origin: OriginKind
    outdated: str | None


class VersionsOut(BaseModel):
    """All versions of a match."""

    revision: int
    versions: list[VersionLineOut]


class VersionIn(ChangeIn):
    """A changed version, as typed."""

    version: Version


class DeleteIn(ChangeIn):
    """Takes a version out; `sure` where the user was told what goes along."""

    sure: bool = False


class ReplaceIn(BaseModel):
    """One ingredient that gives way to another."""

    model_config = ConfigDict(extra="forbid")

    layer: str
    line: str
    ingredient: str


class SolveIn(ChangeIn):
    """Solves layers; one ingredient may give way to another first."""

    layers: Annotated[list[str], Field(max_length=40)]
    replace: ReplaceIn | None = None
    window: Window = ""


class SolvedOut(BaseModel):
    """What solving gave; the version is kept already where amounts were found."""

    status: Literal["ready"] = "ready"
    view: VersionView
    held_back: tuple[str, ...]
    impossible: str | None


class HeldBackOut(BaseModel):
    """What stops the targets that are missed, with every layer free."""

    status: Literal["ready"] = "ready"
    revision: int
    held_back: tuple[str, ...]
    impossible: str | None


class WayOut(BaseModel):
    """Another way to make a layer, to be taken by its number from what was seen."""

    family_id: str
    name: str
    bought: bool
    words: str
    buy: str
    reached: int
    missed: int
    cost: float | None
    layer: VersionLayer


class WaysOut(BaseModel):
    """Ways different in kind, the nearest first."""

    status: Literal["ready"] = "ready"
    revision: int
    key: str  # by which one of them is taken
    now_cost: float | None
    ways: list[WayOut]


class TakeWayIn(ChangeIn):
    """Takes a way that was seen."""

    key: Annotated[str, Field(max_length=200)]
    number: Annotated[int, Field(ge=0, le=20)]


class MeasuredOut(BaseModel):
    """A version measured out for a number of pieces, with what stays on tools."""

    revision: int
    pieces: TypedOut
    measured: WeighedOut


class StartIn(ChangeIn):
    """A new version from a copy of another, or with layers by their families' working ratios."""

    name: Annotated[str, Field(max_length=120)] = ""
    copy_of: str | None = None


class ComparedOut(BaseModel):
    """Two versions line by line."""

    lines: tuple[ComparedLine, ...]
    rows: list[tuple[str, str, str]]  # title, printed before, printed after
    piece_g: tuple[float, float]
    cost: tuple[float | None, float | None]


class FamilyIn(ChangeIn):
    """A layer begun again by its family's working ratio."""

    layer: str
    family: str


class LayerIn(ChangeIn):
    """A further layer by its family's working ratio."""

    family: str
    name: Annotated[str, Field(max_length=120)] = ""


@router.post("", status_code=201)
def take_estimate(match_id: str, body: TakeIn, desk: DeskDep) -> TakenOut:
    """Takes the estimate of the newest study as a version, with a batch of it to fill in."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    work = estimate_work(desk, opened)
    found = desk.runner.outcome(work)
    match found:
        case Computing(done):
            raise NotReady(f"The estimate is being computed, {100 * done:.0f} % done. Take it once it is there.")
        case Failed(sentence):
            raise NotReady(sentence)
        case NotYet():
            raise NotReady(" ".join(("There is no estimate to take.", *found.sentences)))
    version = taken(opened.match.versions, found, opened.reading, work.key, keep_both=body.keep_both, over=body.replace)
    if isinstance(version, WouldReplace):
        raise WouldOverwrite(version.sentence)
    return keep_begun(match_id, body.revision, opened, version, desk)


@router.post("/start", status_code=201)
def start_version(match_id: str, body: StartIn, desk: DeskDep) -> TakenOut:
    """A new version: a copy that knows its parent, or each layer of the build by its family's working ratio."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    ids = {version.id for version in opened.match.versions}
    if body.copy_of is not None:
        version = copied(opened.match.version(body.copy_of), body.name, ids)
        return keep_begun(match_id, body.revision, opened, version, desk, body.decided_on)
    begun = by_working_ratios(opened.reading, body.name, ids)
    if begun is None:
        raise NotReady("Say in Study which layers there are; each then starts from its family’s working ratio.")
    return keep_begun(match_id, body.revision, opened, begun, desk, body.decided_on)


def keep_begun(
    match_id: str, revision: int, opened: Opened, version: Version, desk: Desk, decided_on: int | None = None
) -> TakenOut:
    """Keeps a new version with a batch of it to fill in, of as many pieces as its parent's."""
    pieces = next((plan.pieces for plan in opened.match.batches if plan.version == version.parent and plan.pieces.strip()), "")
    plans = [plan for plan in opened.match.batches if plan.version == version.id] or [first_plan(version, pieces)]
    keys = [PartKey("versions", version.id), *(PartKey("batches", plan.id) for plan in plans)]
    keys += [PartKey("pinned", ingredient) for ingredient in ingredients_of(version)]
    keys += [PartKey("versions", version.parent)] if version.parent is not None else []

    def change(match: Match) -> Match:
        return with_version(match, version, plans, opened.reading.pantry)

    kept = desk.keeper(match_id).save(revision, change, touching(*keys), decided_on=decided_on)
    return TakenOut(revision=kept.revision, version=version)


@router.get("")
def read_versions(match_id: str, desk: DeskDep) -> VersionsOut:
    """All versions, in the order they were made."""
    opened = desk.open(match_id, kinds("versions"))
    key = input_key(opened.reading)
    return VersionsOut(
        revision=opened.revision,
        versions=[
            VersionLineOut(
                id=version.id,
                name=version.name,
                parent=version.parent,
                origin=version.origin.kind,
                outdated=outdated_words(version, key),
            )
            for version in opened.match.versions
        ],
    )


@router.get("/{version_id}")
def read_one_version(match_id: str, version_id: str, desk: DeskDep) -> VersionView:
    """A version from all sides."""
    opened, version = open_version(match_id, version_id, desk)
    return version_view(opened, version, desk)


@router.put("/{version_id}")
def write_version(match_id: str, version_id: str, body: VersionIn, desk: DeskDep) -> VersionView:
    """Keeps a changed version; an amount that was typed is fixed. One that another window took out asks."""
    opened = desk.open(match_id)
    written = body.version

    def change(version: Version) -> Version:
        return settled(version, written)

    _save(match_id, version_id, body, change, opened, desk, ingredients_of(written))
    return read_one_version(match_id, version_id, desk)


@router.delete("/{version_id}")
def delete_version(match_id: str, version_id: str, body: DeleteIn, desk: DeskDep) -> VersionsOut:
    """Takes a version out, with its batches; undo brings them back. What would lose its ground is told first."""
    lost = lost_words(loaded(desk, match_id), version_id)
    if lost and not body.sure:
        raise WouldOverwrite(lost)
    change = partial(without_version, version_id=version_id)
    desk.keeper(match_id).save(body.revision, change, touching(PartKey("versions", version_id)), decided_on=body.decided_on)
    return read_versions(match_id, desk)


@router.post("/{version_id}/solve")
async def solve_version(
    match_id: str, version_id: str, body: SolveIn, desk: DeskDep, wait_s: WaitQuery = 1.0
) -> SolvedOut | UnderWay:
    """Solves the layers asked for and keeps the amounts, in one step that can be undone; what is locked stays.

    While it is under way it tells so: ask again with the same words.
    """
    opened, version = await run(open_version, match_id, version_id, desk)
    asked = await run(_asked_to_solve, version, body, opened)
    work = await run(solve_work, asked, body.layers, opened, body.window)
    found = await desk.runner.outcome_soon(work, wait_s)
    if isinstance(found, Computing):
        return UnderWay(revision=opened.revision, done=found.done)
    if isinstance(found, Failed):
        raise NotReady(found.sentence)
    return await run(_keep_solved, match_id, version, asked, body, found, opened, desk)


def _asked_to_solve(version: Version, body: SolveIn, opened: Opened) -> Version:
    """The version that is to be solved: as it is, or with one ingredient in another's place.

    Raises:
        NotKnown: a layer, line or ingredient is not there.
        BreaksRule: what comes in breaks a rule that the version was adapted under.
    """
    there = {layer.id for layer in version.layers}
    for layer in body.layers:
        if layer not in there:
            raise NotKnown("layer", layer)
    if body.replace is None:
        return version
    swap, reading = body.replace, opened.reading
    why = refused_by(version, reading.pantry[swap.ingredient], reading)
    if why:
        raise BreaksRule(why)
    return with_another(version, swap.layer, swap.line, swap.ingredient, reading)


def _keep_solved(
    match_id: str, version: Version, asked: Version, body: SolveIn, found: SolvedFor, opened: Opened, desk: Desk
) -> SolvedOut:
    outcome = found.outcome
    if isinstance(outcome, Solved):
        written = written_version(asked, found.found.formula, outcome.formula)
        if written != version:
            _save(match_id, version.id, body, lambda _: written, opened, desk, ingredients_of(written))
    view = read_one_version(match_id, version.id, desk)
    if isinstance(outcome, Solved):
        return SolvedOut(view=view, held_back=outcome.held_back, impossible=None)
    return SolvedOut(view=view, held_back=(), impossible=outcome.why)


@router.get("/{version_id}/held-back")
async def read_held_back(
    match_id: str, version_id: str, desk: DeskDep, window: WindowQuery = "", wait_s: WaitQuery = 1.0
) -> HeldBackOut | UnderWay:
    """What stops the targets that are missed however the layers are solved."""
    opened, version = await run(open_version, match_id, version_id, desk)
    found = await desk.runner.outcome_soon(await run(held_back_work, version, opened, window), wait_s)
    match found:
        case Computing(done):
            return UnderWay(revision=opened.revision, done=done)
        case Failed(sentence):
            return HeldBackOut(revision=opened.revision, held_back=(), impossible=sentence)
        case Solved():
            return HeldBackOut(revision=opened.revision, held_back=found.held_back, impossible=None)
    return HeldBackOut(revision=opened.revision, held_back=(), impossible=found.why)


@router.get("/{version_id}/ways/{layer_id}")
async def read_ways(
    match_id: str, version_id: str, layer_id: str, desk: DeskDep, window: WindowQuery = "", wait_s: WaitQuery = 1.0
) -> WaysOut | UnderWay:
    """Other ways to make a layer: bought or from its parts, or by another school."""
    opened, version = await run(open_version, match_id, version_id, desk)
    if layer_id not in {layer.id for layer in version.layers}:
        raise NotKnown("layer", layer_id)
    work = await run(ways_work, version, layer_id, opened, window)
    found = await desk.runner.outcome_soon(work, wait_s)
    if isinstance(found, Computing):
        return UnderWay(revision=opened.revision, done=found.done)
    if isinstance(found, Failed):
        raise NotReady(found.sentence)
    return await run(_ways_out, version, layer_id, found, work.key, opened)


def _ways_out(version: Version, layer_id: str, found: Sequence[Way], key: str, opened: Opened) -> WaysOut:
    seen = overview_of(version, opened)
    concerned = [one for one in seen.targets if one.layer_id in {None, layer_id}]
    return WaysOut(
        revision=opened.revision,
        key=key,
        now_cost=seen.layer_costs.get(layer_id),
        ways=[
            WayOut(
                family_id=way.family_id,
                name=way.name,
                bought=way.bought,
                words=way.words,
                buy=way.buy,
                reached=len(concerned) - len(way.missed),
                missed=len(way.missed),
                cost=way.cost,
                layer=written_layer(version, seen.formula, way.layer),
            )
            for way in found
        ],
    )


@router.post("/{version_id}/ways/{layer_id}")
def take_way(match_id: str, version_id: str, layer_id: str, body: TakeWayIn, desk: DeskDep) -> VersionView:
    """Makes a layer in a way that was seen: that very one, whatever has been changed in the pantry since."""
    opened, version = open_version(match_id, version_id, desk)
    found: tuple[Way, ...] | None = desk.runner.kept(body.key)
    if not isinstance(found, tuple) or body.number >= len(found):
        raise NotReady("That way is not there any more. Look at the ways again; the version may have changed.")
    if layer_id not in {layer.id for layer in version.layers}:
        raise NotKnown("layer", layer_id)
    layer = written_layer(version, overview_of(version, opened).formula, found[body.number].layer)

    def change(now: Version) -> Version:
        return now.with_layer(layer)

    _save(match_id, version_id, body, change, opened, desk, [line.ingredient for line in layer.ingredients])
    return read_one_version(match_id, version_id, desk)


@router.post("/{version_id}/family")
def begin_layer_again(match_id: str, version_id: str, body: FamilyIn, desk: DeskDep) -> VersionView:
    """Starts one layer again from a family's working ratio, at the weight it has."""
    opened, version = open_version(match_id, version_id, desk)
    seen = overview_of(version, opened)
    changed = begun_again(version, seen.formula, seen.targets, body.layer, body.family, opened.reading)
    _save(match_id, version_id, body, lambda _: changed, opened, desk, ingredients_of(changed))
    return read_one_version(match_id, version_id, desk)


@router.post("/{version_id}/layers")
def add_layer(match_id: str, version_id: str, body: LayerIn, desk: DeskDep) -> VersionView:
    """Adds a layer by its family's working ratio, of its usual weight beside the others."""
    opened, version = open_version(match_id, version_id, desk)
    formula = overview_of(version, opened).formula
    changed = with_further_layer(version, formula, body.family, body.name, opened.reading)
    _save(match_id, version_id, body, lambda _: changed, opened, desk, ingredients_of(changed))
    return read_one_version(match_id, version_id, desk)


@router.get("/{version_id}/measured")
def read_measured(
    match_id: str,
    version_id: str,
    desk: DeskDep,
    by: Literal["scale", "spoons"] = "scale",
    pieces: Annotated[str, Query(max_length=200)] = "",
) -> MeasuredOut:
    """A version measured out as its batch is: whole steps of this kitchen's scale, or its spoons and cups, chosen together."""
    opened, version = open_version(match_id, version_id, desk)
    seen = overview_of(version, opened)
    typed = read_pieces(pieces, opened.reading.comma)
    count = int(typed.value or pieces_of(opened.match.batches, version_id, opened.reading))
    _, out = batch_of(seen, count, {}, opened.reading, opened.kitchen, by_spoons=by == "spoons")
    return MeasuredOut(revision=opened.revision, pieces=typed_out(typed, ShownIn()), measured=out)


@router.get("/{version_id}/compared/{other_id}")
def read_compared(match_id: str, version_id: str, other_id: str, desk: DeskDep) -> ComparedOut:
    """A version beside another, line by line."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    before, after = (overview_of(opened.match.version(key), opened) for key in (other_id, version_id))
    printed_before = {row.row: row.printed for row in before.rows}
    return ComparedOut(
        lines=compared(before.formula, after.formula),
        rows=[(row.title, printed_before.get(row.row, "–"), row.printed) for row in after.rows if row.in_sight],
        piece_g=(before.formula.piece_g, after.formula.piece_g),
        cost=(before.cost, after.cost),
    )


@router.post("/{version_id}/compositions")
def take_newest_compositions(match_id: str, version_id: str, body: ChangeIn, desk: DeskDep) -> VersionView:
    """Takes the pantry's newest compositions for every ingredient of this match."""
    opened, _ = open_version(match_id, version_id, desk)
    keys = [PartKey("pinned", food.id) for food in opened.match.pinned]
    change = partial(newest_compositions, pantry=desk.pantry_now())
    desk.keeper(match_id).save(body.revision, change, touching(*keys), decided_on=body.decided_on)
    return read_one_version(match_id, version_id, desk)


def open_version(match_id: str, version_id: str, desk: Desk) -> tuple[Opened, Version]:
    """A match opened, with one version and all batches.

    Raises:
        NotKnown: there is no such match or version.
    """
    opened = desk.open(match_id, lambda key: key.kind == "batches" or key == PartKey("versions", version_id))
    return opened, opened.match.version(version_id)


def _save(
    match_id: str,
    version_id: str,
    asked: ChangeIn,
    change: Callable[[Version], Version],
    opened: Opened,
    desk: Desk,
    ingredients: Sequence[str],
) -> None:
    """Keeps a change of a version, made on the state that it was asked on.

    Raises:
        NotKnown: there was no such version.
    """
    keys = [PartKey("versions", version_id), *(PartKey("pinned", ingredient) for ingredient in ingredients)]

    def changed(match: Match) -> Match:
        return with_version(match, change(match.version(version_id)).called(version_id), (), opened.reading.pantry)

    desk.keeper(match_id).save(asked.revision, changed, touching(*keys), decided_on=asked.decided_on)
