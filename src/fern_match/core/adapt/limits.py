"""What a layer or a piece may hold at most under rules, or must at least, as limits of the program.

Worked example: sugars at most 0.5 g in 100 g, a piece of 40 g, a layer of 10 g: 0.2 g for the piece, 0.05 g guide the layer.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cache

from fern_match.core.adapt.bench import Bench
from fern_match.core.adapt.rules import OF_ENERGY, Rule
from fern_match.core.data import rows
from fern_match.core.food import Ingredient, load_per_gram
from fern_match.core.food.tolerance import ALLOWED
from fern_match.core.formulate import (
    SMALL_ROLES,
    TASTED_ROLES,
    Formula,
    FormulaIngredient,
    FormulaLayer,
    PieceLimit,
    Property,
    Target,
)
from fern_match.core.formulate.solving.prices import price

_LOAD_STEP = 0.1  # of a dose
_OF_ENERGY_STEP = 0.045  # kcal in a g of a piece: about a hundredth of the energy of a sweet
_SWEETER = 0.02  # g of sugar equivalents in a g of a layer: how far a sweetener's level is moved to see what it costs
_INSIDE = 1e-7
_SWEETER_SHARE, _SWEETER_BY = 1.25, 0.03  # of a layer's own sweetness, and g of sugar in a g: a quarter more is tasted as another
_MORE_OF_ITS_KIND, _MORE_STEP = 1.25, 0.1  # of a line, that is hardly more; how far that is moved to see what it costs
_NO_FILLER = TASTED_ROLES | {"cocoa-solids", "gelling", "aerator"}
_SPICES = frozenset({"flavour"})
_NUTS, _MORE_NUTS = frozenset({"nut-solids", "seed-solids"}), 1.6  # and how much more of them a layer may take
_TRACE = 0.005  # of a layer: what an estimate leaves of a fat or a powder, and nobody would buy more of
_INTENSE_TOGETHER = 0.22  # g of sugar equivalents in a g of a layer: above that the taste of sweeteners is what stays (custom)
_INTENSE_HARD = 0.46  # the same of a hard sugar, which dissolves slowly: isomalt is half as sweet as sugar and brought up to it


def layer_limits(layer: FormulaLayer, finished_g: float, piece_g: float, bench: Bench) -> list[PieceLimit]:
    """Sweeteners by what turns bitter; of what the piece shares a limit, the layer's part by its weight as a guide.

    Args:
        layer: To be solved alone.
        finished_g: What it is to weigh [g], above 0.
        piece_g: What the whole piece weighs [g], above 0.
        bench: The rules.
    """
    part = finished_g / piece_g
    guides = [
        replace(
            one,
            words="",
            most=part * one.most,
            layer_id=layer.layer_id,
            price=price("layer above its part of a limit") * (price("grams of a dose") if one.id == LOAD else 1.0),
        )
        for one in shared_limits(bench.rules, piece_g, bench.serving_g)
    ]
    return [*_levels(layer, finished_g, bench), *guides]


def piece_limits(formula: Formula, targets: Sequence[Target], bench: Bench, *, may_give: bool = False) -> tuple[PieceLimit, ...]:
    """What the whole piece must hold to.

    Args:
        formula: With its layers.
        targets: For what layers are to weigh.
        bench: The rules.
        may_give: Whether what layers share a limit of may be passed at a high price, to see how far it cannot be met.
    """
    masses = _masses(formula, targets)
    levels = [one for layer in formula.layers for one in _levels(layer, masses[layer.layer_id], bench)]
    return (*levels, *shared_limits(bench.rules, sum(masses.values()), bench.serving_g, may_give=may_give))


def shared_limits(
    rules: Sequence[Rule], piece_g: float, serving_g: float, *, off_g: float = 0.0, may_give: bool = False
) -> tuple[PieceLimit, ...]:
    """What layers share a limit of, by rules; and how much of polyols and fibre where one is about sugar.

    Args:
        rules: Of which those with a limit count.
        piece_g: What the piece weighs [g], above 0.
        serving_g: What a serving weighs [g], above 0.
        off_g: By how much the piece may come out lighter [g].
        may_give: Whether they may be passed at a high price.
    """
    limits = []
    for rule in limiting(rules):
        basis_g, limit = rule.basis_g(piece_g, serving_g), rule.limit or 0.0
        weighs = piece_g if rule.basis == "piece" else piece_g + off_g if rule.least else piece_g - off_g
        amount = limit * weighs / basis_g
        wider = f"{rule.measure} {'let go' if rule.least else 'allowed'}"
        of_energy = rule.basis == OF_ENERGY  # what it is short by is 0 at most, whatever the piece weighs
        limits.append(
            PieceLimit(
                id=limit_id(rule),
                words=f"{rule.measure} {rule.bound} {limit:g} {rule.unit} {rule.a_basis}",
                weigh=rule.short_by if rule.least else rule.measured,
                most=(0.0 if of_energy else -amount if rule.least else amount) - _INSIDE,
                step=(_OF_ENERGY_STEP if of_energy else abs(rule.step) / basis_g) * piece_g,
                moved=f"{wider} to {limit + rule.step:g} {rule.unit} {rule.a_basis}",
                price=price("piece above a limit") if may_give else None,
            )
        )
    if any(rule.is_of_sugar for rule in rules) and serving_g > 0:
        doses = piece_g / serving_g
        limits.append(
            PieceLimit(
                id=LOAD,
                words="polyols and fibre of a serving below what often upsets a stomach",
                weigh=load_per_gram,
                most=ALLOWED * doses * (1 - off_g / piece_g),
                step=_LOAD_STEP * doses,
                moved=f"a serving of {serving_g / (1 + _LOAD_STEP):.2g} g, smaller by a tenth,",
                price=price("piece above a limit") * price("grams of a dose") if may_give else None,
            )
        )
    return tuple(limits)


def _masses(formula: Formula, targets: Sequence[Target]) -> dict[str, float]:
    weights = {one.layer_id: one.wanted for one in targets if one.what is Property.MASS and one.counts}
    return {layer.layer_id: weights.get(layer.layer_id, layer.finished_g) for layer in formula.layers}


LOAD = "load"


def taste_limits(before: FormulaLayer, finished_g: float, bench: Bench) -> list[PieceLimit]:
    """What keeps a layer's own taste where sugar gives way: no layer is made sweet for the others.

    A layer stays within a quarter of its own sweetness and 3 g of sugar in 100 g: one of 45 g in 100 g comes to 59 g at most.
    Intense sweeteners together do 22 g of sugar's work in 100 g, 40 g in a hard sugar; each has its own level beside.

    Args:
        before: The layer of the version.
        finished_g: What it is to weigh [g].
        bench: Rules, pantry.
    """
    if bench.short and not bench.of_sugar:
        return _no_filler(before, [line for line in before.ingredients if line.role in _NO_FILLER])
    known = bench.pantry.by_id
    if not bench.of_sugar or before.finished_g <= 0 or any(line.ingredient_id not in known for line in before.ingredients):
        return []
    sweet = sum(line.grams * (known[line.ingredient_id].sweetness or 0.0) for line in before.ingredients) / before.finished_g
    most = _SWEETER_SHARE * sweet + _SWEETER_BY
    together = _INTENSE_HARD if _is_hard(before, bench) else _INTENSE_TOGETHER
    return [
        PieceLimit(
            id=f"{before.layer_id} sweetness",
            words=f"{before.name} hardly sweeter than it was",
            weigh=lambda food: food.sweetness or 0.0,
            most=most * finished_g,
            layer_id=before.layer_id,
            step=_SWEETER * finished_g,
            moved=f"{before.name} sweeter by {100 * _SWEETER:g} g of sugar in 100 g",
        ),
        PieceLimit(
            id=f"{before.layer_id} intense",
            words=f"intense sweeteners together in {before.name} at most {100 * together:g} % of sugar's sweetness",
            weigh=lambda food: (food.sweetness or 0.0) if food.category == "intense-sweetener" else 0.0,
            most=together * finished_g,
            layer_id=before.layer_id,
            step=_SWEETER * finished_g,
            moved=f"more intense sweetener in {before.name}",
        ),
        *_no_filler(before, [line for line in before.ingredients if _is_no_body(line, before, bench)]),
        *_no_filler(before, [line for line in before.ingredients if _is_nut(line, before)], _MORE_NUTS),
    ]


def _is_no_body(line: FormulaIngredient, layer: FormulaLayer, bench: Bench) -> bool:
    """Whether a layer has a line for its taste or as a trace: a spice, a fruit (coconut is body as well), what came along."""
    if line.role in _SPICES or (bench.pantry[line.ingredient_id].category == "fruit" and line.role != "coconut-solids"):
        return True
    return line.role not in SMALL_ROLES and line.grams < _TRACE * layer.finished_g


def _is_nut(line: FormulaIngredient, layer: FormulaLayer) -> bool:
    """Whether a line is nuts or seeds, of which a layer may take more as body, but not so much that it is another."""
    return line.role in _NUTS and line.grams >= _TRACE * layer.finished_g


def _no_filler(before: FormulaLayer, lines: Sequence[FormulaIngredient], most: float = _MORE_OF_ITS_KIND) -> list[PieceLimit]:
    """What gives taste, gel or foam is there for that: not for its protein or sugar, nor to fill up what sugar leaves."""
    return [
        PieceLimit(
            id=f"{before.layer_id} {line.ingredient_id} as it tastes",
            words=f"{line.name} in {before.name} hardly more than it was",
            weigh=_grams_of(line.ingredient_id),
            most=most * line.grams,
            layer_id=before.layer_id,
            step=_MORE_STEP * line.grams,
            moved=f"more {line.name} in {before.name}",
        )
        for line in lines
        if line.grams > 0
    ]


def limit_id(rule: Rule) -> str:
    """The id of a rule's limit for the piece."""
    return f"{rule.id} limit"


def limiting(rules: Sequence[Rule]) -> list[Rule]:
    """Rules with a limit."""
    return [rule for rule in rules if rule.limit is not None and rule.measure]


def _levels(layer: FormulaLayer, finished_g: float, bench: Bench) -> list[PieceLimit]:
    """Each intense sweetener by the level above which it turns bitter or lingers."""
    hard = _is_hard(layer, bench)
    return [
        PieceLimit(
            id=f"{layer.layer_id} {one.ingredient_id} level",
            words=f"{one.name} in {layer.name} at most {100 * one.most(hard=hard):g} % of sugar's sweetness",
            weigh=_sweetness_by(one.ingredient_id),
            most=one.most(hard=hard) * finished_g,
            layer_id=layer.layer_id,
            step=_SWEETER * finished_g,
            moved=f"{one.name} in {layer.name} allowed to {100 * (one.most(hard=hard) + _SWEETER):g} % of sugar's sweetness",
        )
        for one in _sweetener_levels()
    ]


def _is_hard(layer: FormulaLayer, bench: Bench) -> bool:
    """Whether a layer is sugar boiled to a glass."""
    family = bench.families.by_id.get(layer.family)
    return family is not None and "hard" in family.sorts


@dataclass(frozen=True, slots=True)
class _Level:
    """What an intense sweetener is good for at most [g of sugar equivalents in a g of a layer]."""

    ingredient_id: str
    name: str
    usual: float
    in_hard_sugar: float

    def most(self, *, hard: bool) -> float:
        """In a layer that is sugar boiled to a glass, or in any other."""
        return self.in_hard_sugar if hard else self.usual


@cache
def _sweetener_levels() -> tuple[_Level, ...]:
    """Every level.

    Source: data/sweetener_levels.csv (approximate).
    """
    return tuple(
        _Level(row["ingredient"], row["name"], float(row["most_pct"]) / 100, float(row["most_hard_pct"]) / 100)
        for row in rows("sweetener_levels.csv")
    )


def _grams_of(key: str) -> Callable[[Ingredient], float]:
    return lambda food: 1.0 if food.id == key else 0.0


def _sweetness_by(key: str) -> Callable[[Ingredient], float]:
    return lambda food: (food.sweetness or 0.0) if food.id == key else 0.0
