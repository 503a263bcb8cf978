"""Versions: begun, written, solved, made in other ways, measured out, compared."""

from dataclasses import replace
from functools import partial
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel, ConfigDict

from fern_match.api.deps import ChangeIn, Desk, DeskDep, MadeOnIn, Opened, kinds, touching
from fern_match.api.errors import NotReady, WouldOverwrite
from fern_match.api.estimate import CutFaceOut, cut_face_out, estimate_work
from fern_match.api.runner import Computing, Failed
from fern_match.core.batch.words import outdated_words
from fern_match.core.errors import NotKnown
from fern_match.core.estimate import NotYet
from fern_match.core.estimate.inputs import input_key
from fern_match.core.families import UNKNOWN_TEXTURE, UNKNOWN_TONE
from fern_match.core.formulate import (
    ComparedLine,
    Formula,
    FormulaLayer,
    LayerNature,
    Note,
    Origin,
    OriginKind,
    Overview,
    PrintedRow,
    Property,
    Room,
    Shaping,
    Solved,
    Target,
    Version,
    VersionLayer,
    WouldReplace,
    compared,
    fitting_role,
    fresh_id,
    layer_of_family,
    overview,
    read_version,
    rounded,
    shapings,
    slice_of_version,
    solve,
    taken,
    targets_of,
    usual_shaping,
    ways,
    what_holds_back,
    written_version,
)
from fern_match.core.label.claims import Claim
from fern_match.core.label.rows import RowId
from fern_match.core.match import (
    Match,
    first_plan,
    ingredients_of,
    newest_compositions,
    outdated_compositions,
    with_version,
    without_version,
)
from fern_match.core.measures import read_count
from fern_match.core.measures.volumes import scooped
from fern_match.core.record.parts import PartKey

router = APIRouter(prefix="/api/matches/{match_id}/versions", tags=["formulate"])

_USUAL_PIECES = 24
_MOST_PIECES = 10_000


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


class LineView(BaseModel):
    """One line of a layer, as typed and as read."""

    line_id: str
    ingredient_id: str
    name: str
    grams: float  # per piece
    share: float  # of what goes into the bowl [g/g]
    for_all: str  # in spoons or pieces for all pieces; empty where no spoon is near
    read_as: str | None
    problem: str | None
    known: bool


class LayerView(BaseModel):
    """One layer, computed."""

    layer_id: str
    name: str
    family: str
    family_name: str | None
    texture: str
    tone: str
    finished_g: float
    added_g: float
    water_lost_g: float
    moisture: float
    cost: float | None
    loses_water: bool
    shaping: Shaping | None
    shapings: tuple[Shaping, ...]
    lines: list[LineView]


class TargetView(BaseModel):
    """One target, read and reached or not."""

    id: str
    name: str
    unit: str
    layer_id: str | None
    by_label: bool
    low: float
    wanted: float
    high: float
    got: float
    gap: float
    reached: bool
    problem: str | None


class PrintedRowView(BaseModel):
    """A row of the label as it would print."""

    row: RowId
    title: str
    short: str
    unit: str
    in_sight: bool
    computed: float
    printed: str
    declared: str | None
    declared_low: float | None
    declared_high: float | None
    reached: bool | None
    unknown: tuple[str, ...]


class StaleOut(BaseModel):
    """An ingredient whose composition the pantry has changed since this match first used it."""

    ingredient_id: str
    name: str


class VersionView(BaseModel):
    """A version from all sides."""

    revision: int
    version: Version
    pieces: int  # for which spoons are given
    piece_g: float
    layers: list[LayerView]
    targets: list[TargetView]
    rows: list[PrintedRowView]
    basis: str
    notes: tuple[Note, ...]
    natures: tuple[LayerNature, ...]
    claims: tuple[Claim, ...]
    allergens: tuple[str, ...]
    vegan: str
    vegan_doubts: tuple[str, ...]
    cost: float | None
    shop_price: float | None
    problems: tuple[str, ...]
    outdated: str | None
    stale: list[StaleOut]
    slice: CutFaceOut | None


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
    return _begun(match_id, body.revision, opened, version, desk)


@router.post("/start", status_code=201)
def start_version(match_id: str, body: StartIn, desk: DeskDep) -> TakenOut:
    """A new version: a copy that knows its parent, or each layer of the build by its family's working ratio."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    taken_ids = {version.id for version in opened.match.versions}
    if body.copy_of is not None:
        parent = opened.match.version(body.copy_of)
        name = body.name.strip() or f"{parent.name}, changed"
        version = replace(
            parent, id=fresh_id(name, taken_ids), name=name[:120], parent=parent.id, origin=Origin(kind=OriginKind.HAND)
        )
        return _begun(match_id, body.revision, opened, version, desk)
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
    return _begun(match_id, body.revision, opened, version, desk)


def _begun(match_id: str, revision: int, opened: Opened, version: Version, desk: Desk) -> TakenOut:
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
                piece_g=_formula(version, opened).piece_g,
                outdated=outdated_words(version, key),
            )
            for version in opened.match.versions
        ],
    )


@router.get("/{version_id}")
def read_one_version(match_id: str, version_id: str, desk: DeskDep) -> VersionView:
    """A version from all sides."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    return _version_out(opened, opened.match.version(version_id), desk)


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
    found = _overview(version, opened)
    unknown = [layer for layer in body.layers if layer not in {one.layer_id for one in found.formula.layers}]
    if unknown:
        raise NotKnown("layer", unknown[0])
    room = Room(free=body.layers, widened=True)
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
    found = _overview(opened.match.version(version_id), opened)
    solved: Solved = what_holds_back(found, opened.reading, opened.reading.pantry, opened.reading.families)
    return HeldBackOut(revision=opened.revision, held_back=solved.held_back, impossible=solved.impossible)


@router.get("/{version_id}/ways/{layer_id}")
def read_ways(match_id: str, version_id: str, layer_id: str, desk: DeskDep) -> WaysOut:
    """Other ways to make a layer: bought or from its parts, or by another school."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    version = opened.match.version(version_id)
    found = _overview(version, opened)
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
    found = _overview(version, opened)
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
    pieces: Annotated[int, Query(ge=0, le=_MOST_PIECES)] = 0,
) -> MeasuredOut:
    """A version measured out: whole steps of this kitchen's scale, or its spoons and cups, all amounts chosen together."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    version = opened.match.version(version_id)
    found = _overview(version, opened)
    kitchen = opened.kitchen
    out = rounded(
        found.formula,
        found.targets,
        pieces or _pieces(opened, version),
        scale_step_g=kitchen.scale_step_g if by == "scale" else None,
        measures=kitchen.kitchen.measures,
        reading=opened.reading,
        pantry=opened.reading.pantry,
        families=opened.reading.families,
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
    before, after = (_overview(opened.match.version(key), opened) for key in (other_id, version_id))
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


def _formula(version: Version, opened: Opened) -> Formula:
    return read_version(version, opened.reading.pantry, measures=opened.kitchen.kitchen.measures, comma=opened.reading.comma)


def _overview(version: Version, opened: Opened) -> Overview:
    return overview(version, opened.reading, opened.reading.pantry, opened.reading.families, opened.kitchen.kitchen.measures)


def _pieces(opened: Opened, version: Version) -> int:
    """For how many pieces amounts are measured out: the batch's, else what is usual."""
    for plan in opened.match.batches:
        if plan.version == version.id:
            found = read_count(plan.pieces, most=_MOST_PIECES, comma=opened.reading.comma).value
            if found is not None:
                return int(found)
    return _USUAL_PIECES


def _version_out(opened: Opened, version: Version, desk: Desk) -> VersionView:
    found = _overview(version, opened)
    reading, pieces = opened.reading, _pieces(opened, version)
    face = slice_of_version(found.formula, reading.study.layers, reading.pantry, reading.families, reading.size.box_mm)
    stale = outdated_compositions(opened.match, desk.pantry_now(), ingredients_of(version))
    return VersionView(
        revision=opened.revision,
        version=version,
        pieces=pieces,
        piece_g=found.formula.piece_g,
        layers=[
            _layer_out(kept, layer, found, pieces, opened)
            for kept, layer in zip(version.layers, found.formula.layers, strict=True)
        ],
        targets=[_target_out(target) for target in found.targets],
        rows=[_row_out(row) for row in found.rows],
        basis="Per serving" if reading.study.label.basis.value == "serving" and reading.basis_g else "Per 100 g",
        notes=found.notes,
        natures=found.natures,
        claims=found.claims,
        allergens=found.allergens,
        vegan=found.vegan,
        vegan_doubts=found.vegan_doubts,
        cost=found.cost,
        shop_price=found.shop_price,
        problems=found.formula.problems,
        outdated=outdated_words(version, input_key(reading)),
        stale=[StaleOut(ingredient_id=food.id, name=food.name) for food in stale],
        slice=cut_face_out(face, opened) if face is not None else None,
    )


def _layer_out(kept: VersionLayer, layer: FormulaLayer, found: Overview, pieces: int, opened: Opened) -> LayerView:
    pantry, families = opened.reading.pantry, opened.reading.families
    family = families.by_id.get(layer.family)
    nature = next((one for one in found.natures if one.layer_id == layer.layer_id), None)
    lines = []
    for line, one in zip(kept.ingredients, layer.ingredients, strict=True):
        food = pantry.by_id.get(line.ingredient)
        start = f"{layer.name}, {line.name}: "
        problem = next((text.removeprefix(start) for text in found.formula.problems if text.startswith(start)), None)
        spoon = None
        if food is not None and food.density_g_ml and one.grams > 0:
            spoon = scooped(one.grams * pieces, food.density_g_ml, opened.kitchen.kitchen.measures, pours=food.pours)
        plain = line.amount.strip().removesuffix("g").strip()
        read_as = (
            None
            if problem or not line.amount.strip() or plain.replace(".", "").replace(",", "").isdigit()
            else f"{one.grams:.3g} g"
        )
        lines.append(
            LineView(
                line_id=line.id,
                ingredient_id=line.ingredient,
                name=food.name if food is not None else line.name,
                grams=one.grams,
                share=one.grams / layer.added_g if layer.added_g > 0 else 0.0,
                for_all=spoon.words if spoon is not None else "",
                read_as=read_as,
                problem=problem,
                known=food is not None,
            )
        )
    return LayerView(
        layer_id=layer.layer_id,
        name=layer.name,
        family=layer.family,
        family_name=family.name if family is not None else None,
        texture=family.traits.texture if family is not None else UNKNOWN_TEXTURE,
        tone=family.traits.tone if family is not None else UNKNOWN_TONE,
        finished_g=layer.finished_g,
        added_g=layer.added_g,
        water_lost_g=layer.water_lost_g,
        moisture=nature.water if nature is not None else 0.0,
        cost=found.layer_costs.get(layer.layer_id),
        loses_water=family is not None and family.water_lost_most > 0,
        shaping=kept.shaping or usual_shaping(layer.family),
        shapings=shapings(layer.family),
        lines=lines,
    )


def _target_out(target: Target) -> TargetView:
    return TargetView(
        id=target.id,
        name=target.name,
        unit=target.unit,
        layer_id=target.layer_id,
        by_label=not isinstance(target.what, Property),
        low=target.low,
        wanted=target.wanted,
        high=target.high,
        got=target.got,
        gap=target.gap,
        reached=target.reached,
        problem=target.problem,
    )


def _row_out(row: PrintedRow) -> PrintedRowView:
    return PrintedRowView(
        row=row.row,
        title=row.title,
        short=row.short,
        unit=row.unit,
        in_sight=row.in_sight,
        computed=row.computed,
        printed=row.printed,
        declared=row.declared,
        declared_low=row.declared_low,
        declared_high=row.declared_high,
        reached=row.reached,
        unknown=row.unknown,
    )
