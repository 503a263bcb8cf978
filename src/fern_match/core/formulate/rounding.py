"""Amounts as a scale or spoons give them, chosen together so that the targets stay reached.

Worked example: 24 pieces take 87.4 g butter, 43.7 g sugar and 131.1 g flour, 2 : 1 : 3; each to the nearest gram they are 87, 44
and 131. The layer weighs within a step of what it should, and of the ways to get there the one nearest to the targets is taken.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace

import numpy as np

from fern_match.core.families import Families
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.formulate.formula import Formula, FormulaLayer
from fern_match.core.formulate.pose import PieceLimit, Posed, Room, pose
from fern_match.core.formulate.program import Limit, Program
from fern_match.core.formulate.solve import formula_of
from fern_match.core.formulate.targets import Target, with_got
from fern_match.core.measures.pieces import CUT_TO_SIZE, counted
from fern_match.core.measures.volumes import Measures, Scooped, scooped
from fern_match.core.study.reading import StudyReading

_INF = float("inf")
_AROUND = 2  # steps of the scale either way that are looked at
_SECONDS, _GAP = 1.0, 0.01
_WELL = 10  # steps from which an amount is weighed well
_FACTORS = tuple(1.0 + 0.02 * number for number in range(-14, 18))
_APART, _FIDDLY = 1.0, 0.15  # prices: per relative error, per further measure
_WET, _FATTY = 20.0, 50.0  # g in 100 g
_TIMES = (2, 5, 10, 20, 50, 100)  # how thin a small amount may be mixed
_NOTICED = 0.1  # of a tolerance: less is not worth a word


@dataclass(frozen=True, slots=True, kw_only=True)
class RoundedLine:
    """One amount of the batch as it is measured out."""

    layer_id: str
    ingredient_id: str
    exact_g: float
    measured_g: float
    words: str  # "88 g", "1/3 cup + 1 tbsp"
    dilution: str  # how to measure what is too little for the scale; else empty

    @property
    def error_g(self) -> float:
        """Measured less exact [g]."""
        return self.measured_g - self.exact_g


@dataclass(frozen=True, slots=True, kw_only=True)
class Rounded:
    """A batch as it is measured out, and what that does to a piece."""

    pieces: int
    lines: tuple[RoundedLine, ...]
    formula: Formula  # for one piece, after rounding
    targets: tuple[Target, ...]
    words: str


def rounded(
    formula: Formula,
    targets: Sequence[Target],
    pieces: int,
    *,
    scale_step_g: float | None,
    measures: Measures,
    reading: StudyReading,
    pantry: Pantry,
    families: Families,
    limits: Sequence[PieceLimit] = (),
) -> Rounded:
    """A batch in whole steps of the scale, or in usual spoons and cups, all amounts chosen together.

    Windows, moisture and what is driven off still hold; the weight of a layer holds within a step. What is locked is rounded too.

    Args:
        formula: For one piece, as solved.
        targets: What it is held to.
        pieces: 1 to 10,000.
        scale_step_g: The scale's step [g]; None for a kitchen without a scale.
        measures: Whose spoons and cups.
        limits: What the piece must hold to as well.
    """
    loose = replace(
        formula,
        layers=tuple(
            replace(layer, ingredients=tuple(replace(one, locked=False, least_g=0.0, part=None) for one in layer.ingredients))
            for layer in formula.layers
        ),
    )
    room = Room(free=[layer.layer_id for layer in formula.layers], widened=True, explain=False, limits=limits)
    posed = pose(loose, targets, room, reading, pantry, families)
    said = _choices(posed, pieces, scale_step_g, measures, pantry)
    _loosen_weights(posed.program, pieces, scale_step_g)
    values = posed.program.solved(seconds=_SECONDS, gap=_GAP)
    if values is None:  # windows that the steps cannot keep give by a step, what the piece must hold to does not
        _loosen_windows(posed.program, {limit.id for limit in limits})
        values = posed.program.solved(seconds=_SECONDS, gap=_GAP)
    if values is None:  # each amount to its nearest
        found, chosen = _nearest(formula, said, pieces), dict.fromkeys(said, 0)
    else:
        found = formula_of(loose, posed, values)
        chosen = {key: _taken(options, values) for key, options in said.items()}
    lines = []
    for layer, exact in zip(found.layers, formula.layers, strict=True):
        for one, was in zip(layer.ingredients, exact.ingredients, strict=True):
            options = said.get((layer.layer_id, one.ingredient_id), [])
            at = chosen.get((layer.layer_id, one.ingredient_id), 0)
            measured = options[at].grams if options else one.grams * pieces
            lines.append(
                RoundedLine(
                    layer_id=layer.layer_id,
                    ingredient_id=one.ingredient_id,
                    exact_g=was.grams * pieces,
                    measured_g=measured,
                    words=options[at].words if options else "",
                    dilution=_dilution(was.grams * pieces, scale_step_g, one.ingredient_id, exact, pieces, pantry),
                )
            )
    reached = tuple(with_got(target, found, reading, pantry) for target in targets)
    return Rounded(pieces=pieces, lines=tuple(lines), formula=found, targets=reached, words=_words(reached, targets, pieces))


@dataclass(slots=True)
class _Option:
    """One way to measure an ingredient of the batch."""

    grams: float
    words: str
    variable: int


_Said = dict[tuple[str, str], list[_Option]]


def _choices(posed: Posed, pieces: int, step: float | None, measures: Measures, pantry: Pantry) -> _Said:
    """For each amount a few ways to measure it, one of which is taken."""
    program, said = posed.program, _Said()
    for placed in posed.layers:
        for amount, line in zip(placed.amounts, placed.layer.ingredients, strict=True):
            exact = line.grams * pieces
            if exact <= 0:
                program.define(f"{placed.layer.layer_id} {line.ingredient_id} none", {amount: 1.0})
                continue
            if step is not None:
                ways = _on_scale(exact, step)
            else:
                food = pantry.by_id.get(line.ingredient_id)
                ways = _in_spoons(exact, food, measures) if food is not None else []
            if not ways:
                ways = [(exact, f"{exact:.3g} g")]
            options = []
            for grams, words in sorted(ways, key=lambda way: abs(way[0] - exact)):
                price = _APART * abs(grams / exact - 1) + _FIDDLY * words.count(" + ")
                options.append(_Option(grams, words, program.variable(cost=price, high=1.0, whole=len(ways) > 1)))
            key = (placed.layer.layer_id, line.ingredient_id)
            program.define(f"{key} one way", {option.variable: 1.0 for option in options}, 1.0)
            program.define(f"{key} measured", {amount: -float(pieces), **{option.variable: option.grams for option in options}})
            said[key] = options
    return said


def _on_scale(exact: float, step: float) -> list[tuple[float, str]]:
    """Whole steps around an amount; tenths of them where a tenth is all there is."""
    size = step if exact >= _WELL * step else step / 10
    nearest = round(exact / size)
    counts = [count for count in range(nearest - _AROUND, nearest + _AROUND + 1) if count > 0]
    decimals = max(0, len(f"{size:.6f}".rstrip("0").partition(".")[2]))
    return [(count * size, f"{count * size:.{decimals}f} g") for count in counts] or [(size, f"{size:.{decimals}f} g")]


def _in_spoons(exact: float, food: Ingredient, measures: Measures) -> list[tuple[float, str]]:
    """Usual measures near an amount; whole pieces where it comes in pieces."""
    found: dict[str, Scooped] = {}
    if food.piece_g is not None and food.piece_name is not None:
        for factor in _FACTORS:
            way = counted(exact * factor, food.piece_g, food.piece_name)
            if way is not None and (food.piece_name not in CUT_TO_SIZE or measures is Measures.US):
                found.setdefault(way.words, way)
    if food.density_g_ml:
        for factor in _FACTORS:
            way = scooped(exact * factor, food.density_g_ml, measures, pours=food.pours)
            if way is not None:
                found.setdefault(way.words, way)
    near = sorted(found.values(), key=lambda way: abs(way.grams - exact) + exact * _FIDDLY * way.words.count(" + "))
    return [(way.grams, way.words) for way in near[:4]]


def _loosen_weights(program: Program, pieces: int, step: float | None) -> None:
    """The weight of a layer may be off by what its steps give."""
    for at, limit in enumerate(program.limits):
        if limit.id.endswith(" weight") and limit.low == limit.high:
            room = (step or 0.0) / pieces if step is not None else 0.08 * limit.high
            program.limits[at] = Limit(limit.id, limit.terms, limit.low - room, limit.high + room)
        elif limit.id.endswith(" kept"):
            program.limits[at] = Limit(limit.id, limit.terms, -_INF, _INF)


def _loosen_windows(program: Program, kept: Collection[str]) -> None:
    """Windows give by what they are moved to see what they cost; nothing is said of them then."""
    for at, limit in enumerate(program.limits):
        if 0 < limit.step < _INF and limit.id not in kept:
            program.limits[at] = Limit(limit.id, limit.terms, limit.low - limit.step, limit.high + limit.step)


def _taken(options: Sequence[_Option], values: np.ndarray) -> int:
    return max(range(len(options)), key=lambda at: values[options[at].variable])


def _nearest(formula: Formula, said: _Said, pieces: int) -> Formula:
    return replace(
        formula,
        layers=tuple(
            replace(
                layer,
                ingredients=tuple(
                    replace(one, grams=said[layer.layer_id, one.ingredient_id][0].grams / pieces)
                    if (layer.layer_id, one.ingredient_id) in said
                    else one
                    for one in layer.ingredients
                ),
            )
            for layer in formula.layers
        ),
    )


def _dilution(exact: float, step: float | None, key: str, layer: FormulaLayer, pieces: int, pantry: Pantry) -> str:
    """How to measure what a scale cannot: mixed with something of the same layer, of which a weighable amount holds it."""
    if step is None or not 0 < exact < _WELL * step / 2 or key not in pantry:
        return ""
    times = next((number for number in _TIMES if number * exact >= _WELL * step), None)
    if times is None:
        return ""
    kind = _kind(pantry[key])
    carriers = [
        (one.grams * pieces, one.name)
        for one in layer.ingredients
        if one.ingredient_id != key and one.ingredient_id in pantry and _kind(pantry[one.ingredient_id]) == kind
    ]
    most, name = max(carriers, default=(0.0, ""))
    if most < (times - 1) * exact:
        return ""
    part = _WELL * step
    return (
        f"Mix {part:.3g} g of it well with {(times - 1) * part:.3g} g of the {name.split(',')[0].lower()}; "
        f"{times * exact:.3g} g of the mix hold "
        f"{exact:.2g} g and {(times - 1) * exact:.3g} g."
    )


def _kind(food: Ingredient) -> str:
    """What it mixes with: dry things, what is wet, what is fat."""
    if food.pours or (food.per_100_g.get(Nutrient.WATER) or 0.0) > _WET:
        return "wet"
    return "fat" if (food.per_100_g.get(Nutrient.FAT) or 0.0) > _FATTY else "dry"


def _words(reached: Sequence[Target], before: Sequence[Target], pieces: int) -> str:
    was = {one.id: one.reached for one in before}
    lost = [one.name for one in reached if abs(one.gap) > _NOTICED * one.tolerance and was.get(one.id, False)]
    if not lost:
        return f"Measured out for {pieces} pieces, every target that was reached still is."
    return f"Measured out for {pieces} pieces, {', '.join(lost[:3])} {'is' if len(lost) == 1 else 'are'} no longer reached."
