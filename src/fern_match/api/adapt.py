"""Adapting: what breaks a rule, whole proposals, and one of them kept as a version."""

from collections.abc import Mapping, Sequence
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from fastapi.concurrency import run_in_threadpool as run
from pydantic import BaseModel, Field

from fern_match.api.deps import ChangeIn, Desk, DeskDep, Opened, kinds
from fern_match.api.errors import NotReady
from fern_match.api.estimate import CutFaceOut, cut_face_out
from fern_match.api.formulate import TakenOut, keep_begun, open_version
from fern_match.api.long_work import UnderWay, WaitQuery, WindowQuery, Worked, proposals_held_back_work, proposals_work
from fern_match.api.runner import Computing, Failed, Work
from fern_match.api.version_view import overview_of
from fern_match.core.adapt import (
    Breach,
    Proposal,
    Rule,
    breaches,
    category_choices,
    check_asked,
    kept,
    outlived_names,
    rule_choices,
    rules_of,
    shipped_rules,
    suggested_limits,
)
from fern_match.core.adapt.consequences import Difference, changes_for_the_eater, differences, process_notes, warnings
from fern_match.core.adapt.judged import judged
from fern_match.core.adapt.rules import OF_ENERGY
from fern_match.core.families import UNKNOWN_TEXTURE, UNKNOWN_TONE
from fern_match.core.formulate import Overview, PrintedRow, compared, declared_of, printed_rows, serving_g, slice_of_version

router = APIRouter(prefix="/api/matches/{match_id}/versions/{version_id}/adapt", tags=["adapt"])

Ids = Annotated[list[str], Query(max_length=20)]


class RuleOut(BaseModel):
    """A rule that can be picked."""

    id: str
    name: str
    source: str
    promises_not: str
    measure: str
    basis: str
    a_basis: str  # in words
    unit: str
    limit: float | None  # a share of the version where the basis is one
    by_law: bool  # whether what the limit is for is fixed
    variant_of: str  # the rule that counts the same in another way; empty where there is none


class SuggestedOut(BaseModel):
    """A limit of one's own to begin with."""

    id: str
    name: str
    amount: float  # a piece
    unit: str


class RulesOut(BaseModel):
    """The rules there are for this label's region, and ids of what can be left out."""

    rules: list[RuleOut]
    without: list[str]
    categories: list[str]
    own: list[SuggestedOut]


class BreachesOut(BaseModel):
    """What of a version breaks the rules asked for, and the rules as read."""

    revision: int
    rules: list[RuleOut]
    names: dict[str, str]  # of ingredients that are refused or must be used, by id
    breaches: tuple[Breach, ...]


class AdaptedLineOut(BaseModel):
    """One line of a proposal."""

    ingredient_id: str
    name: str
    grams: float
    instead_of: list[str]  # names
    is_new: bool
    same: bool  # as much of it as in the version


class AdaptedLayerOut(BaseModel):
    """One layer of a proposal."""

    layer_id: str
    name: str
    rename: str | None  # what it could be called, where its name says what is no longer in it
    family_name: str
    texture: str
    tone: str
    finished_g: float
    same: bool  # in every line
    lines: list[AdaptedLineOut]


class SideOut(BaseModel):
    """One property, before and after."""

    what: str
    unit: str
    before: float | None
    after: float | None
    change: float | None
    noticed: bool


class LabelLineOut(BaseModel):
    """A row of the label as it would print."""

    title: str
    printed: str


class LeftOutView(BaseModel):
    """A system that gives no proposal, and why."""

    name: str
    because: str


class ProposalOut(BaseModel):
    """A whole version under the rules, with what follows from it."""

    system: str
    name: str
    why: str
    piece_g: float
    layers: list[AdaptedLayerOut]
    sides: list[SideOut]
    label: list[LabelLineOut]
    changes: tuple[str, ...]
    process: tuple[str, ...]
    warnings: tuple[str, ...]
    slice: CutFaceOut | None


class AdaptedOut(BaseModel):
    """Proposals in the order to try them, or why there is none."""

    status: Literal["ready"] = "ready"
    revision: int
    key: str  # by which one of them is kept as it was seen
    piece_g: float
    layers: list[AdaptedLayerOut]  # of the version as it is
    label: list[LabelLineOut]
    slice: CutFaceOut | None
    proposals: list[ProposalOut]
    left_out: list[LeftOutView]
    unmet: str | None
    nearest: str | None  # rules that could be asked for instead
    nearest_words: str | None


class ProposalsHeldBackOut(BaseModel):
    """What keeps proposals from being nearer, by their systems; nothing where nothing does."""

    status: Literal["ready"] = "ready"
    revision: int
    by_system: dict[str, tuple[str, ...]]


_GONE = "That proposal is not there any more. Look at the proposals again, and keep the one you want."
Key = Annotated[str, Query(max_length=200)]


class KeepIn(ChangeIn):
    """Which of the proposals that were seen to keep, and what its layers are to be called."""

    key: Annotated[str, Field(max_length=200)]
    system: Annotated[str, Field(max_length=200)]
    names: Annotated[dict[str, Annotated[str, Field(max_length=120)]], Field(max_length=20, default_factory=dict)]


@router.get("/rules")
def read_rules(match_id: str, version_id: str, desk: DeskDep) -> RulesOut:
    """The rules there are, by the label's region."""
    opened, version = open_version(match_id, version_id, desk)
    found = overview_of(version, opened)
    pantry, region = opened.reading.pantry, opened.match.study.region
    suggested = suggested_limits(found.formula, region, pantry)
    return RulesOut(
        rules=[_rule_out(rule) for rule in shipped_rules(region)],
        without=[one for one in rule_choices() if one.startswith("without-")],
        categories=list(category_choices(pantry)),
        own=[
            SuggestedOut(
                id=rule.id,
                name=f"{rule.measure}, at least" if rule.least else rule.measure,
                amount=rule.limit or 0.0,
                unit=rule.unit,
            )
            for rule in suggested
        ],
    )


@router.get("/breaches")
def read_breaches(
    match_id: str,
    version_id: str,
    rule: Ids,
    desk: DeskDep,
    ingredient: Annotated[list[str], Query(max_length=40, default_factory=list)],
) -> BreachesOut:
    """What in the version breaks rules as it is, and what depends on a maker; with the names of some ingredients."""
    opened, version = open_version(match_id, version_id, desk)
    found = overview_of(version, opened)
    rules = rules_of(rule, opened.match.study.region, opened.reading.pantry)
    serving = serving_g(opened.reading, found.formula)
    seen = breaches(found.formula, rules, opened.reading.pantry, serving, declared_of(version, opened.reading))
    return BreachesOut(
        revision=opened.revision,
        rules=[_rule_out(one) for one in rules],
        names={key: opened.reading.pantry[key].name for key in ingredient if key in opened.reading.pantry},
        breaches=seen,
    )


@router.get("")
async def read_proposals(
    match_id: str,
    version_id: str,
    rule: Ids,
    desk: DeskDep,
    forbidden: Annotated[list[str], Query(max_length=20, default_factory=list)],
    required: Annotated[list[str], Query(max_length=20, default_factory=list)],
    window: WindowQuery = "",
    wait_s: WaitQuery = 1.0,
) -> AdaptedOut | UnderWay:
    """Up to three whole versions under the rules; while they are worked out, how far that is."""
    asked = {"rule": rule, "forbidden": forbidden, "required": required}
    opened, work = await run(_proposals_work, match_id, version_id, asked, window, desk)
    found = await desk.runner.outcome_soon(work, wait_s)
    if isinstance(found, Computing):
        return UnderWay(revision=opened.revision, done=found.done)
    if isinstance(found, Failed):
        raise NotReady(found.sentence)
    return await run(_adapted_out, found, work.key, opened)


@router.get("/held-back")
async def read_what_holds_proposals_back(
    match_id: str, version_id: str, key: Key, desk: DeskDep, window: WindowQuery = "", wait_s: WaitQuery = 1.0
) -> ProposalsHeldBackOut | UnderWay:
    """What keeps each of the proposals that are shown from the version’s sweetness and fat."""
    opened = await run(desk.open, match_id, kinds())
    worked = _shown(key, version_id, desk)
    held = await desk.runner.outcome_soon(proposals_held_back_work(worked, key, match_id, window), wait_s)
    if isinstance(held, Computing):
        return UnderWay(revision=opened.revision, done=held.done)
    if isinstance(held, Failed):
        raise NotReady(held.sentence)
    return ProposalsHeldBackOut(revision=opened.revision, by_system=held)


@router.post("", status_code=201)
def keep_proposal(match_id: str, version_id: str, body: KeepIn, desk: DeskDep) -> TakenOut:
    """Keeps a proposal as it was seen as a version that knows its parent, with a batch of it to fill in."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    opened.match.version(version_id)  # is still there
    worked = _shown(body.key, version_id, desk)
    proposal = next((one for one in worked.adapted.proposals if one.system == body.system), None)
    if proposal is None:
        raise NotReady(_GONE)
    ids = {one.id for one in opened.match.versions}
    version = kept(proposal, worked.parent, worked.found.formula, worked.rules, worked.forbidden, opened.reading, ids, body.names)
    return keep_begun(match_id, body.revision, opened, version, desk, body.decided_on)


@router.delete("/work", status_code=204)
def stop_work(match_id: str, version_id: str, desk: DeskDep, window: WindowQuery) -> None:
    """Stops what a window asked to be worked out for a match."""
    del version_id
    desk.runner.stop(match_id, window)


def _shown(key: str, version_id: str, desk: Desk) -> Worked:
    """Proposals that were shown, as they were.

    Raises:
        NotReady: they are not there any more.
    """
    worked = desk.runner.kept(key)
    if not isinstance(worked, Worked) or worked.parent.id != version_id:
        raise NotReady(_GONE)
    return worked


def _proposals_work(
    match_id: str, version_id: str, asked: Mapping[str, Sequence[str]], window: str, desk: Desk
) -> tuple[Opened, Work[Worked]]:
    """The match, and the work of proposing; what cannot be asked is refused before it begins.

    Raises:
        BadRule: what is asked for cannot be.
    """
    opened, version = open_version(match_id, version_id, desk)
    found = overview_of(version, opened)
    rules = rules_of(asked["rule"], opened.match.study.region, opened.reading.pantry)
    serving = serving_g(opened.reading, found.formula)
    check_asked(
        found.formula,
        rules,
        opened.reading,
        serving_g=serving,
        forbidden=asked["forbidden"],
        required=asked["required"],
    )
    return opened, proposals_work(version, found, rules, asked, opened, window)


def _adapted_out(worked: Worked, key: str, opened: Opened) -> AdaptedOut:
    found, made = worked.found, worked.adapted
    return AdaptedOut(
        revision=opened.revision,
        key=key,
        piece_g=found.formula.piece_g,
        layers=_layers_out(found, None, {}, opened),
        label=_label_out(found.rows),
        slice=_slice_out(found, None, opened),
        proposals=[_proposal_out(one, found, worked.rules, opened) for one in made.proposals],
        left_out=[LeftOutView(name=one.name, because=one.because) for one in made.left_out],
        unmet=made.unmet.because if made.unmet is not None else None,
        nearest=made.unmet.nearest if made.unmet is not None else None,
        nearest_words=made.unmet.nearest_words if made.unmet is not None else None,
    )


def _rule_out(rule: Rule) -> RuleOut:
    return RuleOut(
        id=rule.id,
        name=rule.name,
        source=rule.source,
        promises_not=rule.promises_not,
        measure=rule.measure,
        basis=rule.basis,
        a_basis=rule.a_basis,
        unit=rule.unit,
        limit=rule.limit,
        by_law=rule.claim or rule.basis == OF_ENERGY,
        variant_of=rule.variant_of,
    )


def _layers_out(found: Overview, proposal: Proposal | None, renamed: Mapping[str, str], opened: Opened) -> list[AdaptedLayerOut]:
    pantry, families = opened.reading.pantry, opened.reading.families
    formula = proposal.formula if proposal is not None else found.formula
    changed = [one for one in compared(found.formula, formula) if not one.same]
    moved = {(one.layer_id, one.ingredient_id) for one in changed}
    out = []
    for layer in formula.layers:
        family = families.by_id.get(layer.family)
        was = {line.ingredient_id for one in found.formula.layers if one.layer_id == layer.layer_id for line in one.ingredients}
        told = {line.ingredient_id: line for line in proposal.lines[layer.layer_id]} if proposal is not None else {}
        lines = [
            AdaptedLineOut(
                ingredient_id=line.ingredient_id,
                name=line.name,
                grams=line.grams,
                instead_of=[pantry[key].name for key in told[line.ingredient_id].instead_of if key in pantry]
                if line.ingredient_id in told
                else [],
                is_new=line.ingredient_id not in was,
                same=(layer.layer_id, line.ingredient_id) not in moved,
            )
            for line in sorted(layer.ingredients, key=lambda one: -one.grams)
        ]
        out.append(
            AdaptedLayerOut(
                layer_id=layer.layer_id,
                name=layer.name,
                rename=renamed.get(layer.layer_id),
                family_name=family.name if family is not None else "",
                texture=family.traits.texture if family is not None else UNKNOWN_TEXTURE,
                tone=family.traits.tone if family is not None else UNKNOWN_TONE,
                finished_g=layer.finished_g,
                same=all(one.layer_id != layer.layer_id for one in changed),
                lines=lines,
            )
        )
    return out


def _slice_out(found: Overview, proposal: Proposal | None, opened: Opened) -> CutFaceOut | None:
    reading = opened.reading
    formula = proposal.formula if proposal is not None else found.formula
    face = slice_of_version(formula, reading.study.layers, reading.pantry, reading.families, reading.size.box_mm)
    return cut_face_out(face, opened) if face is not None else None


def _proposal_out(one: Proposal, found: Overview, rules: tuple[Rule, ...], opened: Opened) -> ProposalOut:
    reading, serving = opened.reading, serving_g(opened.reading, found.formula)
    pantry = reading.pantry
    return ProposalOut(
        system=one.system,
        name=one.name,
        why=one.why,
        piece_g=one.formula.piece_g,
        layers=_layers_out(found, one, outlived_names(found.formula, one.formula, rules, reading), opened),
        sides=[_side_out(side) for side in differences(found.formula, one.formula, rules, pantry, serving)],
        label=_label_out(printed_rows(one.formula, reading)),
        changes=changes_for_the_eater(one, found.formula, pantry),
        process=process_notes(one, found.formula, reading.families, pantry),
        warnings=(*warnings(one, found.formula, rules, reading, serving), *judged(one, found.version, found.notes, reading)),
        slice=_slice_out(found, one, opened),
    )


def _label_out(rows: Sequence[PrintedRow]) -> list[LabelLineOut]:
    return [LabelLineOut(title=row.title, printed=row.printed) for row in rows if row.in_sight]


def _side_out(side: Difference) -> SideOut:
    return SideOut(
        what=side.what,
        unit=side.unit,
        before=side.before,
        after=side.after,
        change=side.change,
        noticed=side.sentence != "",
    )
