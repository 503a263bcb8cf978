"""Adapting: what breaks a rule, whole proposals, and one of them kept as a version."""

from collections.abc import Sequence
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from fern_match.api.deps import DeskDep, MadeOnIn, Opened, kinds
from fern_match.api.errors import NotReady
from fern_match.api.estimate import CutFaceOut, cut_face_out
from fern_match.api.formulate import TakenOut, keep_begun
from fern_match.api.version_view import overview_of, serving_of
from fern_match.core.adapt import (
    Adapted,
    Breach,
    Proposal,
    Rule,
    adapted,
    breaches,
    category_choices,
    kept,
    rule_choices,
    rules_of,
    shipped_rules,
    suggested_limits,
)
from fern_match.core.adapt.consequences import Difference, changes_for_the_eater, differences, process_notes, warnings
from fern_match.core.families import UNKNOWN_TEXTURE, UNKNOWN_TONE
from fern_match.core.formulate import Overview, PrintedRow, printed_rows, slice_of_version

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
    amount: float  # a piece
    unit: str


class RulesOut(BaseModel):
    """The rules there are for this label's region, and ids of what can be left out."""

    rules: list[RuleOut]
    without: list[str]
    categories: list[str]
    at_most: list[SuggestedOut]


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


class AdaptedLayerOut(BaseModel):
    """One layer of a proposal."""

    layer_id: str
    name: str
    family_name: str
    texture: str
    tone: str
    finished_g: float
    lines: list[AdaptedLineOut]


class SideOut(BaseModel):
    """One property, before and after."""

    what: str
    unit: str
    before: float | None
    after: float | None
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
    """Proposals, the nearest to the version first, or why there is none."""

    revision: int
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

    revision: int
    by_system: dict[str, tuple[str, ...]]


class KeepIn(MadeOnIn):
    """Which proposal to keep, and what it was asked for with."""

    rules: list[str] = Field(max_length=20)
    forbidden: list[str] = Field(default=[], max_length=20)
    required: list[str] = Field(default=[], max_length=20)  # each as layer:ingredient
    system: str


@router.get("/rules")
def read_rules(match_id: str, version_id: str, desk: DeskDep) -> RulesOut:
    """The rules there are, by the label's region."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    found = overview_of(opened.match.version(version_id), opened)
    pantry, region = opened.reading.pantry, opened.match.study.region
    suggested = suggested_limits(found.formula, region, pantry)
    return RulesOut(
        rules=[_rule_out(rule) for rule in shipped_rules(region)],
        without=[one for one in rule_choices() if one.startswith("without-")],
        categories=list(category_choices(pantry)),
        at_most=[SuggestedOut(id=rule.id, amount=rule.limit or 0.0, unit=rule.unit) for rule in suggested],
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
    opened = desk.open(match_id, kinds("versions", "batches"))
    found = overview_of(opened.match.version(version_id), opened)
    rules = rules_of(rule, opened.match.study.region, opened.reading.pantry)
    seen = breaches(found.formula, rules, opened.reading.pantry, serving_of(opened, found))
    return BreachesOut(
        revision=opened.revision,
        rules=[_rule_out(one) for one in rules],
        names={key: opened.reading.pantry[key].name for key in ingredient if key in opened.reading.pantry},
        breaches=seen,
    )


@router.get("")
def read_proposals(
    match_id: str,
    version_id: str,
    rule: Ids,
    desk: DeskDep,
    forbidden: Annotated[list[str], Query(max_length=20, default_factory=list)],
    required: Annotated[list[str], Query(max_length=20, default_factory=list)],
) -> AdaptedOut:
    """Up to three whole versions under the rules, worked out now."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    found = overview_of(opened.match.version(version_id), opened)
    rules = rules_of(rule, opened.match.study.region, opened.reading.pantry)
    worked = _worked(opened, found, rules, forbidden, required)
    return AdaptedOut(
        revision=opened.revision,
        piece_g=found.formula.piece_g,
        layers=_layers_out(found, None, opened),
        label=_label_out(found.rows),
        slice=_slice_out(found, None, opened),
        proposals=[_proposal_out(one, found, rules, opened) for one in worked.proposals],
        left_out=[LeftOutView(name=one.name, because=one.because) for one in worked.left_out],
        unmet=worked.unmet.because if worked.unmet is not None else None,
        nearest=worked.unmet.nearest if worked.unmet is not None else None,
        nearest_words=worked.unmet.nearest_words if worked.unmet is not None else None,
    )


@router.get("/held-back")
def read_what_holds_proposals_back(
    match_id: str,
    version_id: str,
    rule: Ids,
    desk: DeskDep,
    forbidden: Annotated[list[str], Query(max_length=20, default_factory=list)],
    required: Annotated[list[str], Query(max_length=20, default_factory=list)],
) -> ProposalsHeldBackOut:
    """What keeps each proposal from the version’s sweetness and fat; apart from the proposals, since it takes as long."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    found = overview_of(opened.match.version(version_id), opened)
    rules = rules_of(rule, opened.match.study.region, opened.reading.pantry)
    worked = _worked(opened, found, rules, forbidden, required, explain=True)
    return ProposalsHeldBackOut(revision=opened.revision, by_system={one.system: one.held_back for one in worked.proposals})


@router.post("", status_code=201)
def keep_proposal(match_id: str, version_id: str, body: KeepIn, desk: DeskDep) -> TakenOut:
    """Keeps one proposal as a version that knows its parent, with a batch of it to fill in."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    parent = opened.match.version(version_id)
    found = overview_of(parent, opened)
    pantry = opened.reading.pantry
    rules = rules_of(body.rules, opened.match.study.region, pantry)
    worked = _worked(opened, found, rules, body.forbidden, body.required)
    proposal = next((one for one in worked.proposals if one.system == body.system), None)
    if proposal is None:
        raise NotReady("That proposal is not there any more: the version has changed since. Look at the new ones.")
    version = kept(proposal, parent, found.formula, rules, body.forbidden, pantry, {one.id for one in opened.match.versions})
    return keep_begun(match_id, body.revision, opened, version, desk)


def _worked(
    opened: Opened,
    found: Overview,
    rules: tuple[Rule, ...],
    forbidden: list[str],
    required: list[str],
    *,
    explain: bool = False,
) -> Adapted:
    reading = opened.reading
    return adapted(
        found.formula,
        found.targets,
        rules,
        reading=reading,
        pantry=reading.pantry,
        families=reading.families,
        serving_g=serving_of(opened, found),
        forbidden=forbidden,
        required=required,
        explain=explain,
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
        by_law=rule.claim,
        variant_of=rule.variant_of,
    )


def _layers_out(found: Overview, proposal: Proposal | None, opened: Opened) -> list[AdaptedLayerOut]:
    pantry, families = opened.reading.pantry, opened.reading.families
    out = []
    for layer in (proposal.formula if proposal is not None else found.formula).layers:
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
            )
            for line in sorted(layer.ingredients, key=lambda one: -one.grams)
        ]
        out.append(
            AdaptedLayerOut(
                layer_id=layer.layer_id,
                name=layer.name,
                family_name=family.name if family is not None else "",
                texture=family.traits.texture if family is not None else UNKNOWN_TEXTURE,
                tone=family.traits.tone if family is not None else UNKNOWN_TONE,
                finished_g=layer.finished_g,
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
    reading, serving = opened.reading, serving_of(opened, found)
    pantry = reading.pantry
    return ProposalOut(
        system=one.system,
        name=one.name,
        why=one.why,
        piece_g=one.formula.piece_g,
        layers=_layers_out(found, one, opened),
        sides=[_side_out(side) for side in differences(found.formula, one.formula, pantry, serving)],
        label=_label_out(printed_rows(one.formula, reading, pantry)),
        changes=changes_for_the_eater(one, found.formula, pantry),
        process=process_notes(one, found.formula, reading.families, pantry),
        warnings=warnings(one, found.formula, rules, pantry, serving),
        slice=_slice_out(found, one, opened),
    )


def _label_out(rows: Sequence[PrintedRow]) -> list[LabelLineOut]:
    return [LabelLineOut(title=row.title, printed=row.printed) for row in rows if row.in_sight]


def _side_out(side: Difference) -> SideOut:
    return SideOut(what=side.what, unit=side.unit, before=side.before, after=side.after, noticed=side.sentence != "")
