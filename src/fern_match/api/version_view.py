"""A version from all sides, as the page shows it: what the core says, with what is open in this match beside it."""

from pydantic import BaseModel

from fern_match.api.deps import Desk, Opened
from fern_match.api.estimate import CutFaceOut, cut_face_out
from fern_match.core.adapt import Holding, holding
from fern_match.core.batch import pieces_of
from fern_match.core.batch.words import outdated_words
from fern_match.core.estimate.inputs import input_key
from fern_match.core.food.together import Allergens
from fern_match.core.formulate import (
    LayerNature,
    LayerSeen,
    Note,
    Overview,
    PrintedRow,
    Property,
    Target,
    Version,
    layers_seen,
    overview,
    serving_g,
    slice_of_version,
)
from fern_match.core.formulate.solving.targets import BY_LABEL, title_of
from fern_match.core.label.claims import Claim
from fern_match.core.match import ingredients_of, outdated_compositions


class TargetView(BaseModel):
    """One target, read and reached or not."""

    id: str
    name: str
    title: str
    unit: str
    layer_id: str | None
    by_label: bool
    low: float
    wanted: float
    high: float
    got: float | None  # None where a line's figure is not known
    gap: float
    reached: bool
    unknown: tuple[str, ...]  # those lines
    problem: str | None
    tolerance_problem: str | None


class PropertyOut(BaseModel):
    """Something that a layer or the whole piece can be held to."""

    property: Property
    title: str


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
    serving_g: float
    layers: tuple[LayerSeen, ...]
    targets: list[TargetView]
    properties: list[PropertyOut]
    rows: tuple[PrintedRow, ...]
    basis: str
    notes: tuple[Note, ...]
    natures: tuple[LayerNature, ...]
    claims: tuple[Claim, ...]
    allergens: Allergens
    to_say: tuple[str, ...]  # to whoever gets a piece
    vegan: str
    vegan_doubts: tuple[str, ...]
    cost: float | None
    shop_price: float | None
    problems: tuple[str, ...]
    outdated: str | None
    stale: list[StaleOut]
    holding: tuple[Holding, ...]
    slice: CutFaceOut | None


def overview_of(version: Version, opened: Opened) -> Overview:
    """A version from all sides."""
    return overview(version, opened.reading, opened.kitchen.kitchen.measures)


def version_view(opened: Opened, version: Version, desk: Desk) -> VersionView:
    """A version as the page shows it."""
    found = overview_of(version, opened)
    reading, measures = opened.reading, opened.kitchen.kitchen.measures
    pieces, serving = pieces_of(opened.match.batches, version.id, reading), serving_g(reading, found.formula)
    face = slice_of_version(found.formula, reading.study.layers, reading.pantry, reading.families, reading.size.box_mm)
    stale = outdated_compositions(opened.match, desk.pantry_now(), ingredients_of(version))
    return VersionView(
        revision=opened.revision,
        version=version,
        pieces=pieces,
        piece_g=found.formula.piece_g,
        serving_g=serving,
        layers=layers_seen(found, pieces, reading, measures),
        targets=[_target_out(target) for target in found.targets],
        properties=[PropertyOut(property=one, title=title_of(one)) for one in Property],
        rows=found.rows,
        basis="Per serving" if reading.study.label.basis.value == "serving" and reading.basis_g else "Per 100 g",
        notes=found.notes,
        natures=found.natures,
        claims=found.claims,
        allergens=found.allergens,
        to_say=found.to_say,
        vegan=found.vegan,
        vegan_doubts=found.vegan_doubts,
        cost=found.cost,
        shop_price=found.shop_price,
        problems=tuple(one.sentence for one in found.formula.problems),
        outdated=outdated_words(version, input_key(reading)),
        stale=[StaleOut(ingredient_id=food.id, name=food.name) for food in stale],
        holding=holding(version, found.formula, reading),
        slice=cut_face_out(face, opened) if face is not None else None,
    )


def _target_out(target: Target) -> TargetView:
    return TargetView(
        id=target.id,
        name=target.name,
        title=target.title,
        unit=target.unit,
        layer_id=target.layer_id,
        by_label=target.whose == BY_LABEL,
        low=target.low,
        wanted=target.wanted,
        high=target.high,
        got=None if target.unknown else target.got,
        gap=target.gap,
        reached=target.reached,
        unknown=target.unknown,
        problem=target.problem,
        tolerance_problem=target.tolerance_problem,
    )
