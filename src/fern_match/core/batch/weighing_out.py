"""Amounts of a batch as a scale or spoons give them, chosen together so that limits hold and targets stay reached.

The one owner of weighing out: whoever says grams of a batch asks here. Lines go by their own ids, so that one ingredient on two
lines is weighed twice.

Worked example: 24 pieces take 87.4 g butter, 43.7 g sugar and 131.1 g flour, 2 : 1 : 3; each to the nearest gram they are 87, 44
and 131. The layer weighs within a step of what it should, and of the ways to get there the one nearest to the targets is taken.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from fern_match.core.batch.nearest_steps import Option, Steps, nearest_steps
from fern_match.core.batch.premix import PIECES, TIMES, Premix, kind, premixes, spent_on, too_little, without_a_mix
from fern_match.core.batch.scale import WELL, Batch, BatchIngredient, BatchLayer, in_pieces
from fern_match.core.food import Ingredient, Pantry
from fern_match.core.formulate import Formula, FormulaLayer, PieceLimit, Room, Target
from fern_match.core.formulate.solving.pose import pose
from fern_match.core.formulate.solving.prices import price
from fern_match.core.formulate.solving.targets import with_got
from fern_match.core.measures.volumes import Measures, Scooped, scooped
from fern_match.core.study.reading import StudyReading

_AROUND = 2  # steps of the scale either way that are looked at
_FACTORS = tuple(1.0 + 0.02 * number for number in range(-14, 18))  # how far from an amount its spoons are looked for
_MOST_MEASURES = 8  # ways to scoop an amount that are looked at
_SPOON_ROOM = 0.08  # by how much of its weight a layer in spoons may be off
_TASTED_OFF = 0.045  # two lines that far off each way change their ratio by a tenth
_NOTICED = 0.1  # of a tolerance: less is not worth a word


@dataclass(frozen=True, slots=True, kw_only=True)
class WeighedLine:
    """One line of a batch as it is measured out."""

    layer_id: str
    layer: str
    line_id: str
    ingredient_id: str
    name: str
    exact_g: float
    measured_g: float
    error_g: float  # measured less exact
    words: str  # "88 g", "1/3 cup + 1 tbsp"
    dilution: str  # how to measure what is too little for the scale; else empty


@dataclass(frozen=True, slots=True, kw_only=True)
class WeighedOut:
    """A batch as it is measured out, and what that does to a piece."""

    pieces: int
    lines: tuple[WeighedLine, ...]
    premixes: tuple[Premix, ...]  # what is mixed once for several lines
    formula: Formula  # for one piece, after weighing out
    targets: tuple[Target, ...]
    words: str


def weighed_out(
    batch: Batch,
    formula: Formula,
    targets: Sequence[Target],
    reading: StudyReading,
    *,
    scale_step_g: float | None,
    measures: Measures,
    limits: Sequence[PieceLimit] = (),
) -> WeighedOut:
    """A batch in whole steps of the scale, or in usual spoons and cups, all amounts chosen together.

    Windows, moisture and what is driven off still hold; the weight of a layer holds within a step. What is locked is measured out
    too. What stays on tools is in the batch already.

    Args:
        batch: Scaled from the formula, with its losses.
        formula: For one piece, as solved.
        targets: What it is held to.
        reading: The study, with compositions and windows.
        scale_step_g: The scale's step [g], above 0; None for a kitchen without a scale.
        measures: Whose spoons and cups.
        limits: What the piece must hold to as well, lowered by what the steps may take off.
    """
    loose = replace(
        formula,
        layers=tuple(
            replace(layer, ingredients=tuple(replace(one, locked=False, least_g=0.0, part=None) for one in layer.ingredients))
            for layer in formula.layers
        ),
    )
    room = Room(free=[layer.layer_id for layer in formula.layers], widened=True, explain=False, limits=limits)
    posed = pose(loose, targets, room, reading)
    ways = {
        (layer.layer_id, at): _ways(one, scale_step_g, measures, reading.pantry)
        for layer in batch.layers
        for at, one in enumerate(layer.ingredients)
    }
    factors = {layer.layer_id: _times(layer, batch.pieces) for layer in batch.layers}
    steps = Steps(
        options={
            key: [Option(grams / factors[key[0]], _price(grams, words, exact)) for grams, words in found]
            for key, (exact, found) in ways.items()
            if factors[key[0]] > 0 and found
        },
        weight_room={
            layer.layer_id: (
                scale_step_g / factors[layer.layer_id] if scale_step_g is not None else _SPOON_ROOM * layer.per_piece_g
            )
            for layer in batch.layers
            if factors[layer.layer_id] > 0
        },
        limits=frozenset(limit.id for limit in limits),
    )
    found, chosen = nearest_steps(loose, posed, steps)
    mixes = premixes(batch.layers, scale_step_g, reading.pantry)
    spent = spent_on(mixes)
    shares = {(share.layer_id, share.line_id): mix.words_for(share) for mix in mixes for share in mix.shares}
    lines = [
        _line(
            layer,
            one,
            ways[layer.layer_id, at],
            chosen.get((layer.layer_id, at)),
            shares.get((layer.layer_id, one.line_id)) or _dilution(layer, at, scale_step_g, reading.pantry, spent),
        )
        for layer in batch.layers
        for at, one in enumerate(layer.ingredients)
    ]
    reached = tuple(with_got(target, found, reading) for target in targets)
    return WeighedOut(
        pieces=batch.pieces,
        lines=tuple(lines),
        premixes=mixes,
        formula=_with_locks(found, formula),
        targets=reached,
        words=_words(reached, targets, batch.pieces),
    )


def off_g(formula: Formula, pieces: int, scale_step_g: float | None) -> float:
    """By how much a piece may come out lighter than its formula, by the steps of a scale [g].

    Args:
        formula: For one piece.
        pieces: Of the batch, 1 or more.
        scale_step_g: The scale's step [g]; None for a kitchen without one.
    """
    return len(formula.layers) * scale_step_g / pieces if scale_step_g is not None else 0.0


def _times(layer: BatchLayer, pieces: int) -> float:
    """How many grams of the batch a gram of a piece is: all pieces, with what stays on tools."""
    return pieces * layer.made_g / layer.needed_g if layer.needed_g > 0 else 0.0


def _price(grams: float, words: str, exact: float) -> float:
    off = abs(grams / exact - 1)
    tasted = price("measured off by what is tasted") * max(0.0, off - _TASTED_OFF)
    return price("measured twice too large") * off + tasted + price("further spoon") * words.count(" + ")


_Ways = tuple[float, list[tuple[float, str]]]  # exact grams, and ways to measure them


def _ways(one: BatchIngredient, step: float | None, measures: Measures, pantry: Pantry) -> _Ways:
    """A few ways to measure an amount; none where there is nothing to measure."""
    exact = one.grams
    if exact <= 0:
        return 0.0, []
    food = pantry.by_id.get(one.ingredient_id)
    spoons = _in_spoons(exact, food, measures) if step is None and food is not None else []
    found = _on_scale(exact, step) if step is not None else spoons
    return exact, found or [(exact, f"{exact:.3g} g")]


def _on_scale(exact: float, step: float) -> list[tuple[float, str]]:
    """Whole steps around an amount; tenths of them where a tenth is all there is."""
    size = step if exact >= WELL * step else step / 10
    nearest = round(exact / size)
    counts = [count for count in range(nearest - _AROUND, nearest + _AROUND + 1) if count > 0]
    decimals = max(0, len(f"{size:.6f}".rstrip("0").partition(".")[2]))
    return [(round(count * size, 9), f"{count * size:.{decimals}f} g") for count in counts] or [(size, f"{size:.{decimals}f} g")]


def _in_spoons(exact: float, food: Ingredient, measures: Measures) -> list[tuple[float, str]]:
    """Usual measures near an amount; whole pieces where it comes in pieces."""
    found: dict[str, Scooped] = {}
    for factor in _FACTORS:
        way = in_pieces(food, exact * factor, measures)
        if way is not None:
            found.setdefault(way.words, way)
    if food.density_g_ml:
        for factor in _FACTORS:
            way = scooped(exact * factor, food.density_g_ml, measures, pours=food.pours)
            if way is not None:
                found.setdefault(way.words, way)
    near = sorted(
        found.values(), key=lambda way: abs(way.grams - exact) + exact * price("further spoon") * way.words.count(" + ")
    )
    return [(way.grams, way.words) for way in near[:_MOST_MEASURES]]


def _line(layer: BatchLayer, one: BatchIngredient, ways: _Ways, chosen: int | None, dilution: str) -> WeighedLine:
    measured, words = ways[1][chosen] if chosen is not None else (one.grams, "")
    return WeighedLine(
        layer_id=layer.layer_id,
        layer=layer.name,
        line_id=one.line_id,
        ingredient_id=one.ingredient_id,
        name=one.name,
        exact_g=one.grams,
        measured_g=measured,
        error_g=measured - one.grams,
        words=words,
        dilution=dilution,
    )


def _dilution(layer: BatchLayer, at: int, step: float | None, pantry: Pantry, spent: dict[tuple[str, str], float]) -> str:
    """How to measure what a scale cannot: mixed with something of the same layer, of which a weighable amount holds it.

    Nothing where the mix would ask for more of what carries it than the layer has left; what it takes is added to what is spent.
    """
    one = layer.ingredients[at]
    if step is None:
        return without_a_mix(layer, one, None, pantry)
    if not too_little(one.grams, step) or one.ingredient_id not in pantry:
        return ""
    times = next((number for number in TIMES if number * one.grams >= WELL * step), None)
    own, part = kind(pantry[one.ingredient_id]), WELL * step
    carriers = [
        (other.grams - spent.get((layer.layer_id, other.line_id), 0.0), other.name, other.line_id)
        for number, other in enumerate(layer.ingredients)
        if number != at and own != PIECES and other.ingredient_id in pantry and kind(pantry[other.ingredient_id]) == own
    ]
    most, name, carrier = max(carriers, default=(0.0, "", ""))
    if times is None or most < (times - 1) * max(part, one.grams):
        return without_a_mix(layer, one, step, pantry)
    spent[layer.layer_id, carrier] = spent.get((layer.layer_id, carrier), 0.0) + (times - 1) * one.grams
    carried = (times - 1) * one.grams
    return (
        f"Mix {part:.3g} g of it well with {(times - 1) * part:.3g} g of the {name.split(',')[0].lower()}; "
        f"{times * one.grams:.3g} g of the mix hold {one.grams:.2g} g and {carried:.3g} g, so weigh out that much less of the "
        "latter."
    )


def _with_locks(found: Formula, formula: Formula) -> Formula:
    """Amounts as measured out, with each line's locks, least amounts and ratios as they were."""

    def layer(measured: FormulaLayer, was: FormulaLayer) -> FormulaLayer:
        lines = zip(measured.ingredients, was.ingredients, strict=True)
        return replace(measured, ingredients=tuple(replace(old, grams=new.grams) for new, old in lines))

    return replace(found, layers=tuple(layer(*pair) for pair in zip(found.layers, formula.layers, strict=True)))


def _words(reached: Sequence[Target], before: Sequence[Target], pieces: int) -> str:
    was = {one.id: one.reached for one in before}
    lost = [one.name for one in reached if abs(one.gap) > _NOTICED * one.tolerance and was.get(one.id, False)]
    if not lost:
        return f"Measured out for {pieces} pieces, every target that was reached still is."
    return f"Measured out for {pieces} pieces, {'; '.join(lost[:3])} {'is' if len(lost) == 1 else 'are'} no longer reached."
