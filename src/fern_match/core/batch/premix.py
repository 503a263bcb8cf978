"""One mix of an intense sweetener for all layers that take it, where single lines are too little for the scale.

Worked example: a batch takes 0.11 g of stevia in its caramel and 0.23 g in its nougat on a scale of 0.1 g; both have ground
erythritol, 40 and 60 g. 1 g of stevia sieved with 9 g of erythritol makes 10 g; 1.1 g of it go into the caramel and 2.3 g in the
nougat, each instead of its stevia and of 0.99 and 2.07 g of its erythritol. What is left keeps dry in a closed jar.
A layer of fat or syrup without anything dry takes its share from drops: 1 g dissolved in 9 g of water, of the layer's own water.
"""

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from fern_match.core.batch.scale import WELL, BatchIngredient, BatchLayer
from fern_match.core.data import rows
from fern_match.core.food import Ingredient, Nutrient, Pantry

INTENSE = "intense-sweetener"
DROPS = "liquid-drop-sweetener"
PIECES = "pieces"
TIMES = (2, 5, 10, 20, 50, 100, 200)  # how thin a small amount may be mixed
_WET, _FATTY = 20.0, 50.0  # g in 100 g
# Categories of what is no powder: nothing is sieved with dates or chocolate.
_PIECES = frozenset({"chocolate", "fruit", "nut", "seed", "inclusion", "biscuit-crumb", "prepared"})
_SPOON_G = 0.15  # of a light powder, under which no spoon measures it
_WETTED = 3.0  # g of what is wet to a gram of drops, from which they change nothing
_NEARLY = 1e-9
_HELPED = 2  # layers from which one mix for all is less work than a dilution for each


@dataclass(frozen=True, slots=True, kw_only=True)
class Share:
    """What one line takes of a mix."""

    layer_id: str
    layer: str
    line_id: str
    carrier_line: str  # the line that is weighed out lighter
    mix_g: float
    carrier_g: float  # of what carries it, by which that line is lighter


@dataclass(frozen=True, slots=True, kw_only=True)
class Premix:
    """What is mixed once, before anything is weighed for a layer."""

    ingredient_id: str
    name: str
    carrier_id: str
    carrier: str
    part_g: float
    carrier_g: float
    dissolved: bool  # in water, else sieved together dry
    step_g: float  # of the scale
    shares: tuple[Share, ...]
    words: str

    @property
    def made_g(self) -> float:
        """All of the mix [g]."""
        return self.part_g + self.carrier_g

    def words_for(self, share: Share) -> str:
        """What stands at the line that takes a share."""
        mix, less = _shown(share.mix_g, self.step_g), _shown(share.carrier_g, self.step_g)
        of, into = ("solution", "in") if self.dissolved else ("mix", "to")
        ratio = f"{self.part_g:.3g} g of {self.name} {into} {self.carrier_g:.3g} g of {self.carrier}"
        return f"{mix} g of the {of} ({ratio}), and {less} g less of the {self.carrier}."


_Line = tuple[BatchLayer, BatchIngredient]
_Spent = dict[tuple[str, str], float]  # by layer and line: what mixes take of it [g]
_Mix = tuple[str, int, list[_Line]]  # what carries it, how many times as much they make together, and for which lines


def premixes(layers: Sequence[BatchLayer], step: float | None, pantry: Pantry) -> tuple[Premix, ...]:
    """A mix for each intense sweetener that several layers take, or one that has too little of its own to thin it with.

    Args:
        layers: Of a batch, scaled.
        step: The scale's step [g]; None for a kitchen without a scale, which counts drops.
        pantry: Compositions.
    """
    if step is None:
        return ()
    lines: dict[str, list[_Line]] = {}
    for layer in layers:
        for one in layer.ingredients:
            food = pantry.by_id.get(one.ingredient_id)
            if food is not None and food.category == INTENSE and kind(food) == "dry" and one.grams > 0 and not one.unread:
                lines.setdefault(one.ingredient_id, []).append((layer, one))
    spent: _Spent = {}
    return tuple(one for key, taking in lines.items() for one in _of_one(key, taking, step, pantry, spent))


def spent_on(mixes: Iterable[Premix]) -> dict[tuple[str, str], float]:
    """What mixes take of the lines that carry them, by layer and line [g].

    Args:
        mixes: Of one batch.
    """
    spent: _Spent = {}
    for share in (share for mix in mixes for share in mix.shares):
        at = share.layer_id, share.carrier_line
        spent[at] = spent.get(at, 0.0) + share.carrier_g
    return spent


def left_of(mixes: Iterable[Premix]) -> dict[str, float]:
    """What stays in the jar, by ingredient [g]: it is bought, too.

    Args:
        mixes: Of one batch.
    """
    left: dict[str, float] = {}
    for mix in mixes:
        over = 1 - sum(share.mix_g for share in mix.shares) / mix.made_g
        for key, grams in ((mix.ingredient_id, mix.part_g), (mix.carrier_id, mix.carrier_g)):
            left[key] = left.get(key, 0.0) + max(0.0, over * grams)
    return left


def kind(food: Ingredient) -> str:
    """What it mixes with: powders, what is wet, what is fat; pieces mix with nothing."""
    if food.pours or (food.per_100_g.get(Nutrient.WATER) or 0.0) > _WET:
        return "wet"
    if food.category in _PIECES or (food.category == "flour-starch" and "crunch" in food.functions):
        return PIECES
    return "fat" if (food.per_100_g.get(Nutrient.FAT) or 0.0) > _FATTY else "dry"


def too_little(grams: float, step: float) -> bool:
    """Whether an amount is too little to be weighed on a scale: under half of what is weighed well.

    Args:
        grams: Of the line [g].
        step: The scale's step [g], above 0.
    """
    return 0 < grams < WELL * step / 2


def _of_one(ingredient_id: str, taking: list[_Line], step: float, pantry: Pantry, spent: _Spent) -> Iterable[Premix]:
    """Mixes of one sweetener: dry for the layers that have the same powder, in water for those that have none."""
    if not any(too_little(one.grams, step) for _, one in taking):
        return
    left = taking
    for dissolved in (False, True):
        carrier = _carrier(left, step, pantry, spent, dissolved=dissolved)
        if carrier is None:
            continue
        key, times, served = carrier
        alone = not all(_is_thinned(layer, one, step, pantry, spent) for layer, one in served)
        if dissolved or alone or len(served) >= _HELPED:
            mix = _premix(ingredient_id, key, times, served, step, pantry, dissolved=dissolved)
            for at, grams in spent_on([mix]).items():
                spent[at] = spent.get(at, 0.0) + grams
            yield mix
            left = [pair for pair in left if pair not in served]


def _carrier(taking: list[_Line], step: float, pantry: Pantry, spent: _Spent, *, dissolved: bool) -> _Mix | None:
    """What carries it in most layers, how thin, and in which layers; of a powder no more than these layers have."""
    best: _Mix | None = None
    has = [(layer, one, _carriers(layer, one, pantry, spent, dissolved=dissolved)) for layer, one in taking]
    if dissolved:
        has = [
            entry
            for entry in has
            if too_little(entry[1].grams, step) and not _is_thinned(entry[0], entry[1], step, pantry, spent)
        ]
    for key in dict.fromkeys(key for _, _, own in has for key in own):
        for times in TIMES:
            fits = [
                (layer, one, own[key])
                for layer, one, own in has
                if times * one.grams >= WELL * step and own.get(key, 0.0) >= (times - 1) * one.grams
            ]
            served = [(layer, one) for layer, one, _ in fits]
            asks = (times - 1) * _part(served, step)
            enough = dissolved or asks <= sum(grams for _, _, grams in fits)
            if served and enough and (best is None or len(served) > len(best[2])):
                best = (key, times, served)
    return best


def _part(served: list[_Line], step: float) -> float:
    """How much of a sweetener is weighed for a mix: what its lines take, in whole steps, and as much as is weighed well."""
    steps = math.ceil(sum(one.grams for _, one in served) / step - _NEARLY)
    return max(WELL, steps) * step


def _is_thinned(layer: BatchLayer, one: BatchIngredient, step: float, pantry: Pantry, spent: _Spent) -> bool:
    """Whether the layer has a powder that thins it."""
    own = _carriers(layer, one, pantry, spent, dissolved=False)
    times = next((number for number in TIMES if number * one.grams >= WELL * step), None)
    return times is not None and max(own.values(), default=0.0) >= (times - 1) * max(one.grams, WELL * step)


def _carriers(layer: BatchLayer, one: BatchIngredient, pantry: Pantry, spent: _Spent, *, dissolved: bool) -> Mapping[str, float]:
    """What a layer has left of what may carry it, by ingredient [g]: powders, or its water."""
    found: dict[str, float] = {}
    for other in layer.ingredients:
        food = pantry.by_id.get(other.ingredient_id)
        if food is None or other is one or food.category == INTENSE or other.unread:
            continue
        if other.ingredient_id == "water" if dissolved else kind(food) == "dry":
            left = other.grams - spent.get((layer.layer_id, other.line_id), 0.0)
            found[other.ingredient_id] = max(found.get(other.ingredient_id, 0.0), left)
    return found


def _premix(
    ingredient_id: str,
    carrier_id: str,
    times: int,
    served: list[_Line],
    step: float,
    pantry: Pantry,
    *,
    dissolved: bool,
) -> Premix:
    part = _part(served, step)
    name, carrier = _called(pantry[ingredient_id]), _plain(pantry[carrier_id].name).lower()
    shares = tuple(
        Share(
            layer_id=layer.layer_id,
            layer=layer.name,
            line_id=one.line_id,
            carrier_line=max(
                (other for other in layer.ingredients if other.ingredient_id == carrier_id), key=lambda other: other.grams
            ).line_id,
            mix_g=times * one.grams,
            carrier_g=(times - 1) * one.grams,
        )
        for layer, one in served
    )
    how = (
        f"Dissolve {part:.3g} g of {name} in {(times - 1) * part:.3g} g of {carrier}"
        if dissolved
        else (f"Sieve {part:.3g} g of {name} three times with {(times - 1) * part:.3g} g of the {carrier}")
    )
    takes = "; ".join(f"{share.layer} takes {_shown(share.mix_g, step)} g" for share in shares)
    over = times * part - sum(share.mix_g for share in shares)
    keeps = " What is left keeps for days in the fridge." if dissolved else " What is left keeps dry in a closed jar."
    return Premix(
        ingredient_id=ingredient_id,
        name=name,
        carrier_id=carrier_id,
        carrier=carrier,
        part_g=part,
        carrier_g=(times - 1) * part,
        dissolved=dissolved,
        step_g=step,
        shares=shares,
        words=f"{how}: {takes}.{keeps if over >= step else ''}",
    )


def _called(food: Ingredient) -> str:
    """What a cook calls a sweetener: stevia, not rebaudioside A at 97 %."""
    names = {row["ingredient"]: row["name"] for row in rows("sweetener_levels.csv")}
    return names.get(food.id) or _plain(food.name).lower()


def _shown(grams: float, step: float) -> str:
    """An amount in steps of the scale."""
    decimals = max(0, len(f"{step:.6f}".rstrip("0").partition(".")[2]))
    return f"{round(grams / step) * step:.{decimals}f}"


def _plain(name: str) -> str:
    """A name without what it says in brackets or behind a comma."""
    return name.split("(", maxsplit=1)[0].split(",", maxsplit=1)[0].strip()


def without_a_mix(layer: BatchLayer, one: BatchIngredient, step: float | None, pantry: Pantry) -> str:
    """What to do with too little of an intense sweetener where nothing of its layer carries it; empty for anything else.

    Worked example: 0.026 g of sucralose, 600 times as sweet as sugar, do the work of 15.4 g of sugar; so do 1.28 g of drops
    twelve times as sweet: 26 of them. Drops are water: none in what is fat and dry.

    Args:
        layer: That takes it.
        one: Its line.
        step: The scale's step [g], above 0; None for a kitchen without a scale.
        pantry: Compositions, with the drops.
    """
    food, smallest = pantry.by_id.get(one.ingredient_id), step if step is not None else _SPOON_G / WELL
    if food is None or food.category != INTENSE or one.ingredient_id == DROPS or not too_little(one.grams, smallest):
        return ""
    there = [(pantry.by_id.get(other.ingredient_id), other.grams) for other in layer.ingredients]
    wet = sum(grams for other, grams in there if other is not None and kind(other) == "wet")
    does = one.grams * (food.sweetness or 0.0)
    few = "Too little for this scale" if step is not None else "Too little for a spoon"
    said = _in_drops(does, wet, pantry)
    if said:
        return f"{few}: {said}"
    lost = _left_out(does, there)
    return f"{few}: it needs a scale of {min(0.1, smallest / 10):g} g and something dry to thin it with{lost}."


def _left_out(does: float, there: Sequence[tuple[Ingredient | None, float]]) -> str:
    """What leaving it out costs, where the sweetness of all else in the layer is known."""
    known = [(other.sweetness, grams) for other, grams in there if other is not None and other.sweetness is not None]
    sweet = sum(level * grams for level, grams in known)
    return f", or leave it out: {100 * does / sweet:.0f} % less sweet" if len(known) == len(there) and sweet > 0 < does else ""


def _in_drops(does: float, wet: float, pantry: Pantry) -> str:
    """How many drops do the work of so much sugar [g] in a layer with so much that is wet [g]; empty where none may go in."""
    drops = pantry.by_id.get(DROPS)
    if drops is None or not drops.sweetness or not drops.piece_g or wet <= _WETTED * does / drops.sweetness:
        return ""
    count = round(does / drops.sweetness / drops.piece_g)
    if count < 1:
        return ""
    sweet = f"a liquid sweetener {drops.sweetness:g} times as sweet as sugar"
    return f"{count} drops of {sweet} do its work; the bottle says how sweet yours is."
