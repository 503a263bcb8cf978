"""Versions: begun, written, solved, made in other ways, measured out, compared."""

from dataclasses import replace
from functools import partial
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel, ConfigDict

from fern_match.api.deps import ChangeIn, Desk, DeskDep, MadeOnIn, Opened, kinds, touching
from fern_match.api.errors import NotReady, WouldOverwrite
from fern_match.api.estimate import estimate_work
from fern_match.api.runner import Computing, Failed
from fern_match.api.version_view import MOST_PIECES, VersionView, formula_of, held_to_rules, overview_of, pieces_of, version_view
from fern_match.core.batch.words import outdated_words
from fern_match.core.errors import NotKnown
from fern_match.core.estimate import NotYet
from fern_match.core.estimate.inputs import input_key
from fern_match.core.formulate import (
    ComparedLine,
    Formula,
    FormulaLayer,
    Origin,
    OriginKind,
    Property,
    Room,
    Solved,
    Version,
    VersionLayer,
    WouldReplace,
    compared,
    fitting_role,
    layer_of_family,
    read_version,
    rounded,
    solve,
    taken,
    targets_of,
    ways,
    what_holds_back,
    written_version,
)
from fern_match.core.match import (
    Match,
    first_plan,
    ingredients_of,
    newest_compositions,
    with_version,
    without_version,
)
from fern_match.core.record import fresh_id
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
    piece_g: float
    outdated: str | None


class VersionsOut(BaseModel):
    """All versions of a match."""

    revision: int
    versions: list[VersionLineOut]


class VersionIn(ChangeIn):
    """A changed version, as typed."""

    version: Version


class ReplaceIn(BaseModel):
    """One ingredient that gives way to another."""

    model_config = ConfigDict(extra="forbid")

    layer: str
    line: str
    ingredient: str


class SolveIn(MadeOnIn):
    """Solves layers; one ingredient may give way to another first."""

    layers: list[str]
    replace: ReplaceIn | None = None


class SolvedOut(BaseModel):
    """What solving gave; the version is kept already."""

    view: VersionView
    held_back: tuple[str, ...]
    impossible: str | None


class HeldBackOut(BaseModel):
    """What stops the targets that are missed, with every layer free."""

    revision: int
    held_back: tuple[str, ...]
    impossible: str | None


class WayOut(BaseModel):
    """Another way to make a layer, to be taken by writing it into the version."""

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

    revision: int
    now_cost: float | None
    ways: list[WayOut]


class MeasuredLineOut(BaseModel):
    """One amount as it is measured out."""

    layer_id: str
    layer: str
    ingredient_id: str
    name: str
    exact_g: float
    measured_g: float
    error_g: float
    words: str
    dilution: str


class MeasuredOut(BaseModel):
    """A version measured out for a number of pieces."""

    revision: int
    pieces: int
    lines: list[MeasuredLineOut]
    words: str


class StartIn(MadeOnIn):
    """A new version from a copy of another, or with layers by their families' working ratios."""

    name: str = ""
    copy_of: str | None = None


class ComparedOut(BaseModel):
    """Two versions line by line."""

    lines: tuple[ComparedLine, ...]
    rows: list[tuple[str, str, str]]  # title, printed before, printed after
    piece_g: tuple[float, float]
    cost: tuple[float | None, float | None]


class FamilyIn(MadeOnIn):
    """A layer begun again by its family's working ratio."""

    layer: str
    family: str


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
    taken_ids = {version.id for version in opened.match.versions}
    if body.copy_of is not None:
        parent = opened.match.version(body.copy_of)
        name = body.name.strip() or f"{parent.name}, changed"
        adapted = parent.origin.kind is OriginKind.ADAPTED
        origin = Origin(kind=OriginKind.ADAPTED if adapted else OriginKind.HAND, rules=parent.origin.rules)
        version = replace(parent, id=fresh_id(name, taken_ids), name=name[:120], parent=parent.id, origin=origin)
        return keep_begun(match_id, body.revision, opened, version, desk)
    build = opened.reading.build
    if not build:
        raise NotReady("Say in Study which layers there are; each then starts from its family’s working ratio.")
    name = body.name.strip() or "By working ratios"
    total = opened.reading.piece_prior.mean_g if opened.reading.piece_prior else 40.0
    weights = sum(family.traits.usual_weight for _, family in build)
    layers = tuple(
        layer_of_family(family, total * family.traits.usual_weight / weights, layer.id, layer.name, opened.reading.pantry)
        for layer, family in build
    )
    version = Version(id=fresh_id(name, taken_ids), name=name[:120], origin=Origin(kind=OriginKind.HAND), layers=layers)
    formula = read_version(version, opened.reading.pantry, comma=opened.reading.comma)
    version = replace(version, targets=targets_of(formula, opened.reading.pantry))
    return keep_begun(match_id, body.revision, opened, version, desk)


def keep_begun(match_id: str, revision: int, opened: Opened, version: Version, desk: Desk) -> TakenOut:
    """Keeps a new version with a batch of it to fill in."""
    plans = [plan for plan in opened.match.batches if plan.version == version.id] or [first_plan(version)]
    keys = [PartKey("versions", version.id), *(PartKey("batches", plan.id) for plan in plans)]
    keys += [PartKey("pinned", ingredient) for ingredient in ingredients_of(version)]
    kept = desk.keeper(match_id).save(
        revision, lambda match: with_version(match, version, plans, opened.reading.pantry), touching(*keys)
    )
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
                piece_g=formula_of(version, opened).piece_g,
                outdated=outdated_words(version, key),
            )
            for version in opened.match.versions
        ],
    )


@router.get("/{version_id}")
def read_one_version(match_id: str, version_id: str, desk: DeskDep) -> VersionView:
    """A version from all sides."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    return version_view(opened, opened.match.version(version_id), desk)


@router.put("/{version_id}")
def write_version(match_id: str, version_id: str, body: VersionIn, desk: DeskDep) -> VersionView:
    """Keeps a changed version."""
    version = replace(body.version, id=version_id)
    opened = desk.open(match_id, kinds("versions", "batches"))
    opened.match.version(version_id)
    _keep(match_id, body.revision, version, opened, desk, body.decided_on)
    return read_one_version(match_id, version_id, desk)


@router.delete("/{version_id}")
def delete_version(match_id: str, version_id: str, body: MadeOnIn, desk: DeskDep) -> VersionsOut:
    """Takes a version out, with its batches; undo brings them back."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    opened.match.version(version_id)
    keys = [PartKey("versions", version.id) for version in opened.match.versions]
    keys += [PartKey("batches", plan.id) for plan in opened.match.batches]
    desk.keeper(match_id).save(body.revision, partial(without_version, version_id=version_id), touching(*keys))
    return read_versions(match_id, desk)


@router.post("/{version_id}/solve")
def solve_version(match_id: str, version_id: str, body: SolveIn, desk: DeskDep) -> SolvedOut:
    """Solves the layers asked for and keeps the amounts, in one step that can be undone; what is locked stays."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    version = opened.match.version(version_id)
    if body.replace is not None:
        version = _replaced(version, body.replace, opened)
    found = overview_of(version, opened)
    unknown = [layer for layer in body.layers if layer not in {one.layer_id for one in found.formula.layers}]
    if unknown:
        raise NotKnown("layer", unknown[0])
    room = Room(free=body.layers, widened=True, limits=held_to_rules(version, found, opened))
    solved = solve(
        found.formula, found.targets, room, reading=opened.reading, pantry=opened.reading.pantry, families=opened.reading.families
    )
    if solved.impossible is None:
        written = written_version(version, found.formula, solved.formula)
        if written != opened.match.version(version_id):
            _keep(match_id, body.revision, written, opened, desk)
    return SolvedOut(view=read_one_version(match_id, version_id, desk), held_back=solved.held_back, impossible=solved.impossible)


@router.get("/{version_id}/held-back")
def read_held_back(match_id: str, version_id: str, desk: DeskDep) -> HeldBackOut:
    """What stops the targets that are missed however the layers are solved."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    version = opened.match.version(version_id)
    found = overview_of(version, opened)
    limits = held_to_rules(version, found, opened)
    solved: Solved = what_holds_back(found, opened.reading, opened.reading.pantry, opened.reading.families, limits)
    return HeldBackOut(revision=opened.revision, held_back=solved.held_back, impossible=solved.impossible)


@router.get("/{version_id}/ways/{layer_id}")
def read_ways(match_id: str, version_id: str, layer_id: str, desk: DeskDep) -> WaysOut:
    """Other ways to make a layer: bought or from its parts, or by another school."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    version = opened.match.version(version_id)
    found = overview_of(version, opened)
    if layer_id not in {layer.layer_id for layer in found.formula.layers}:
        raise NotKnown("layer", layer_id)
    reading = opened.reading
    worked = ways(found.formula, layer_id, found.targets, reading=reading, pantry=reading.pantry, families=reading.families)
    concerned = [one for one in found.targets if one.layer_id in {None, layer_id}]
    return WaysOut(
        revision=opened.revision,
        now_cost=found.layer_costs.get(layer_id),
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
                layer=_written_layer(version, found.formula, way.layer),
            )
            for way in worked
        ],
    )


@router.post("/{version_id}/family")
def begin_layer_again(match_id: str, version_id: str, body: FamilyIn, desk: DeskDep) -> VersionView:
    """Starts one layer again from a family's working ratio, at the weight it has."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    version = opened.match.version(version_id)
    found = overview_of(version, opened)
    layer = next((one for one in found.formula.layers if one.layer_id == body.layer), None)
    if layer is None:
        raise NotKnown("layer", body.layer)
    family = opened.reading.families[body.family]
    wanted = next(
        (one.wanted for one in found.targets if one.layer_id == body.layer and one.what is Property.MASS), layer.finished_g
    )
    fresh = layer_of_family(family, wanted, layer.layer_id, layer.name, opened.reading.pantry)
    changed = replace(version, layers=tuple(fresh if one.id == body.layer else one for one in version.layers))
    _keep(match_id, body.revision, changed, opened, desk)
    return read_one_version(match_id, version_id, desk)


@router.get("/{version_id}/measured")
def read_measured(
    match_id: str,
    version_id: str,
    desk: DeskDep,
    by: Literal["scale", "spoons"] = "scale",
    pieces: Annotated[int, Query(ge=0, le=MOST_PIECES)] = 0,
) -> MeasuredOut:
    """A version measured out: whole steps of this kitchen's scale, or its spoons and cups, all amounts chosen together."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    version = opened.match.version(version_id)
    found = overview_of(version, opened)
    kitchen = opened.kitchen
    count = pieces or pieces_of(opened, version)
    step = kitchen.scale_step_g if by == "scale" else None
    out = rounded(
        found.formula,
        found.targets,
        count,
        scale_step_g=step,
        measures=kitchen.kitchen.measures,
        reading=opened.reading,
        pantry=opened.reading.pantry,
        families=opened.reading.families,
        limits=held_to_rules(version, found, opened, off_g=len(found.formula.layers) * step / count if step is not None else 0.0),
    )
    names = {
        (layer.layer_id, one.ingredient_id): (layer.name, one.name) for layer in found.formula.layers for one in layer.ingredients
    }
    return MeasuredOut(
        revision=opened.revision,
        pieces=out.pieces,
        words=out.words,
        lines=[
            MeasuredLineOut(
                layer_id=line.layer_id,
                layer=names[line.layer_id, line.ingredient_id][0],
                ingredient_id=line.ingredient_id,
                name=names[line.layer_id, line.ingredient_id][1],
                exact_g=line.exact_g,
                measured_g=line.measured_g,
                error_g=line.error_g,
                words=line.words,
                dilution=line.dilution,
            )
            for line in out.lines
        ],
    )


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
def take_newest_compositions(match_id: str, version_id: str, body: MadeOnIn, desk: DeskDep) -> VersionView:
    """Takes the pantry's newest compositions for every ingredient of this match."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    opened.match.version(version_id)
    keys = [PartKey("pinned", food.id) for food in opened.match.pinned]
    pantry = desk.pantry_now()
    desk.keeper(match_id).save(body.revision, partial(newest_compositions, pantry=pantry), touching(*keys))
    return read_one_version(match_id, version_id, desk)


def _keep(match_id: str, revision: int, version: Version, opened: Opened, desk: Desk, decided_on: int | None = None) -> None:
    keys = [PartKey("versions", version.id)]
    keys += [PartKey("pinned", ingredient) for ingredient in ingredients_of(version)]

    def change(match: Match) -> Match:
        return with_version(match, version, (), opened.reading.pantry)

    desk.keeper(match_id).save(revision, change, touching(*keys), decided_on=decided_on)


def _replaced(version: Version, swap: ReplaceIn, opened: Opened) -> Version:
    """A version with one ingredient in another's place, its amount free."""
    pantry, families = opened.reading.pantry, opened.reading.families
    food = pantry[swap.ingredient]
    layers = []
    for layer in version.layers:
        if layer.id != swap.layer:
            layers.append(layer)
            continue
        lines = []
        for line in layer.ingredients:
            if line.id != swap.line:
                lines.append(line)
                continue
            fresh = replace(line, ingredient=food.id, name=food.name, locked=False, least="", part="", role="")
            family = families.by_id.get(layer.family)
            if family is not None:
                formula = read_version(replace(version, layers=(replace(layer, ingredients=(fresh,)),)), pantry)
                fresh = replace(fresh, role=fitting_role(formula.layers[0].ingredients[0], family, families))
            lines.append(fresh)
        layers.append(replace(layer, ingredients=tuple(lines)))
    return replace(version, layers=tuple(layers))


def _written_layer(version: Version, formula: Formula, layer: FormulaLayer) -> VersionLayer:
    changed = replace(formula, layers=tuple(layer if one.layer_id == layer.layer_id else one for one in formula.layers))
    written = written_version(version, formula, changed)
    return next(one for one in written.layers if one.id == layer.layer_id)
