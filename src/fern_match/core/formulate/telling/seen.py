"""A version's layers and lines as a page shows them: shares, spoons, what was read, what is wrong, where a boil ends."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from fern_match.core.families import UNKNOWN_TEXTURE, UNKNOWN_TONE
from fern_match.core.formulate.judging.cook_end import CookEnd, cook_end
from fern_match.core.formulate.judging.handling import shapings, usual_shaping
from fern_match.core.formulate.record.formula import FormulaIngredient, FormulaLayer, FormulaProblem
from fern_match.core.formulate.record.version import Property, Shaping, VersionIngredient, VersionLayer
from fern_match.core.formulate.telling.overview import Overview
from fern_match.core.measures import Measures
from fern_match.core.measures.volumes import scooped
from fern_match.core.study.reading import StudyReading


class Hold(StrEnum):
    """How solving treats a line."""

    FREE = "free"
    FIXED = "fixed"
    LEAST = "least"  # at least an amount
    RATIO = "ratio"  # a part of a ratio with the layer's other parts
    NONE = "none"  # fixed at nothing


@dataclass(frozen=True, slots=True, kw_only=True)
class LineSeen:
    """One line of a layer, as typed and as read."""

    line_id: str
    ingredient_id: str
    name: str
    grams: float  # for one piece
    share: float  # of what goes into the bowl [g/g]
    for_all: str  # in spoons or pieces for all pieces; empty where no spoon is near
    read_as: str | None
    hold: Hold
    problem: str | None  # of its amount
    least_problem: str | None  # of its least amount or its part of a ratio
    known: bool  # whether the pantry holds it


@dataclass(frozen=True, slots=True, kw_only=True)
class LayerSeen:
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
    moisture: float | None  # of the finished layer [g/g]; None where it is not known
    cost: float | None
    loses_water: bool
    cook_end: CookEnd | None
    shaping: Shaping | None
    shapings: tuple[Shaping, ...]
    mass_target: str | None  # id of the target of its weight
    water_problem: str | None
    lines: tuple[LineSeen, ...]


def layers_seen(found: Overview, pieces: int, reading: StudyReading, measures: Measures) -> tuple[LayerSeen, ...]:
    """All layers of a version.

    Args:
        found: The version from all sides.
        pieces: For which spoons are given, 1 or more.
        reading: The study, with compositions and families.
        measures: Whose spoons and cups.
    """
    problems = {(one.layer_id, one.line_id, one.field): one.said for one in found.formula.problems}
    pairs = zip(found.version.layers, found.formula.layers, strict=True)
    return tuple(_layer(kept, layer, found, pieces, reading, measures, problems) for kept, layer in pairs)


_Problems = Mapping[tuple[str, str, str], str]


def _layer(
    kept: VersionLayer,
    layer: FormulaLayer,
    found: Overview,
    pieces: int,
    reading: StudyReading,
    measures: Measures,
    problems: _Problems,
) -> LayerSeen:
    family = reading.families.by_id.get(layer.family)
    nature = next((one for one in found.natures if one.layer_id == layer.layer_id), None)
    mass = next((one.id for one in found.targets if one.layer_id == layer.layer_id and one.what is Property.MASS), None)
    lines = zip(kept.ingredients, layer.ingredients, strict=True)
    return LayerSeen(
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
        cook_end=cook_end(layer, family, reading.pantry),
        shaping=kept.shaping or usual_shaping(layer.family),
        shapings=shapings(layer.family),
        mass_target=mass,
        water_problem=problems.get((layer.layer_id, "", FormulaProblem.WATER)),
        lines=tuple(_line(line, one, layer, pieces, reading, measures, problems) for line, one in lines),
    )


def _line(
    line: VersionIngredient,
    one: FormulaIngredient,
    layer: FormulaLayer,
    pieces: int,
    reading: StudyReading,
    measures: Measures,
    problems: _Problems,
) -> LineSeen:
    food = reading.pantry.by_id.get(line.ingredient)
    spoon = None
    if food is not None and food.density_g_ml and one.grams > 0:
        spoon = scooped(one.grams * pieces, food.density_g_ml, measures, pours=food.pours)
    problem = problems.get((layer.layer_id, line.id, FormulaProblem.AMOUNT))
    plain = line.amount.strip().removesuffix("g").strip()
    as_typed = plain.replace(".", "").replace(",", "").isdigit()
    return LineSeen(
        line_id=line.id,
        ingredient_id=line.ingredient,
        name=food.name if food is not None else line.name,
        grams=one.grams,
        share=one.grams / layer.added_g if layer.added_g > 0 else 0.0,
        for_all=spoon.words if spoon is not None else "",
        read_as=None if problem or not plain or as_typed else f"{one.grams:.3g} g",
        hold=_hold(line, nothing=one.grams == 0 and plain != "" and not problem),
        problem=problem,
        least_problem=problems.get((layer.layer_id, line.id, FormulaProblem.HOLD)),
        known=food is not None,
    )


def _hold(line: VersionIngredient, *, nothing: bool) -> Hold:
    """How solving treats a line, of which an amount of nothing may have been typed."""
    if line.part:
        return Hold.RATIO
    if line.least:
        return Hold.LEAST
    if not line.locked:
        return Hold.FREE
    return Hold.NONE if nothing else Hold.FIXED
