"""A version from all sides, as the page shows it."""

from pydantic import BaseModel

from fern_match.api.deps import Desk, Opened
from fern_match.api.estimate import CutFaceOut, cut_face_out
from fern_match.core.adapt import Holding, holding, limits_held
from fern_match.core.batch.words import outdated_words
from fern_match.core.estimate.inputs import input_key
from fern_match.core.families import UNKNOWN_TEXTURE, UNKNOWN_TONE
from fern_match.core.food.together import Allergens
from fern_match.core.formulate import (
    Formula,
    FormulaLayer,
    LayerNature,
    Note,
    Overview,
    PieceLimit,
    PrintedRow,
    Property,
    Shaping,
    Target,
    Version,
    VersionLayer,
    overview,
    read_version,
    shapings,
    slice_of_version,
    usual_shaping,
)
from fern_match.core.label.claims import Claim
from fern_match.core.match import ingredients_of, outdated_compositions
from fern_match.core.measures import read_count
from fern_match.core.measures.volumes import scooped

USUAL_PIECES = 24
MOST_PIECES = 10_000


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
    moisture: float | None  # None where it is not known
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
    got: float | None  # None where a line's figure is not known
    gap: float
    reached: bool
    unknown: tuple[str, ...]  # those lines
    problem: str | None


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
    rows: tuple[PrintedRow, ...]
    basis: str
    notes: tuple[Note, ...]
    natures: tuple[LayerNature, ...]
    claims: tuple[Claim, ...]
    allergens: Allergens
    vegan: str
    vegan_doubts: tuple[str, ...]
    cost: float | None
    shop_price: float | None
    problems: tuple[str, ...]
    outdated: str | None
    stale: list[StaleOut]
    holding: tuple[Holding, ...]
    slice: CutFaceOut | None


def formula_of(version: Version, opened: Opened) -> Formula:
    """A version read with the kitchen's spoons and the label's comma."""
    return read_version(version, opened.reading.pantry, measures=opened.kitchen.kitchen.measures, comma=opened.reading.comma)


def overview_of(version: Version, opened: Opened) -> Overview:
    """A version from all sides."""
    return overview(version, opened.reading, opened.reading.pantry, opened.reading.families, opened.kitchen.kitchen.measures)


def pieces_of(opened: Opened, version: Version) -> int:
    """For how many pieces amounts are measured out: the batch's, else what is usual."""
    for plan in opened.match.batches:
        if plan.version == version.id:
            found = read_count(plan.pieces, most=MOST_PIECES, comma=opened.reading.comma).value
            if found is not None:
                return int(found)
    return USUAL_PIECES


def version_view(opened: Opened, version: Version, desk: Desk) -> VersionView:
    """A version as the page shows it."""
    found = overview_of(version, opened)
    reading, pieces = opened.reading, pieces_of(opened, version)
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
        rows=found.rows,
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
        holding=holding(version, found.formula, reading.study.region, reading.pantry, serving_of(opened, found)),
        slice=cut_face_out(face, opened) if face is not None else None,
    )


def serving_of(opened: Opened, found: Overview) -> float:
    """What a serving weighs [g]: the label's, else a piece."""
    return opened.reading.serving.value or found.formula.piece_g


def held_to_rules(version: Version, found: Overview, opened: Opened, off_g: float = 0.0) -> tuple[PieceLimit, ...]:
    """What amounts of a version must keep to for the rules it was adapted under."""
    reading = opened.reading
    return limits_held(version, found.formula, reading.study.region, reading.pantry, serving_of(opened, found), off_g)


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
        moisture=nature.water if nature is not None else None,
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
        got=None if target.unknown else target.got,
        unknown=target.unknown,
        gap=target.gap,
        reached=target.reached,
        problem=target.problem,
    )
