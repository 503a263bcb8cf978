"""Which chocolate a coat is bought as, by the cocoa and the sweetener of its parts.

Worked example: parts with 57 % cocoa are bought as 55 %, nearly it; parts with 63 % as 55 and 70 %, on either side; parts with
27 % cocoa, 4 % of it without fat, as milk chocolate, though white chocolate's cocoa butter alone is nearer to 27.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.formulate.record.formula import FormulaLayer

_BY_SHADE, _DARK_FROM = 3.0, 0.1  # how much more cocoa without its fat counts than with it; g of it in a g of dark chocolate
_SELDOM = 0.02  # how much nearer a chocolate must be for each that is more usual: caramelised white stands behind white
_ONE_WILL_DO = 0.04  # g of cocoa in a g: nearer than that nobody buys two chocolates for one coat


def nearest_chocolates(chocolates: Sequence[str], layer: FormulaLayer, pantry: Pantry, *, blends: bool) -> tuple[str, ...]:
    """The chocolate that is nearly what a coat is, or dark ones on either side of it: not 55 and 85 % for one of 70 %.

    Args:
        chocolates: Ingredient ids of what its family takes, the most usual first; all of the pantry.
        layer: The coat by its parts, as estimated.
        pantry: Compositions.
        blends: Whether it may be of two though one is nearly it.
    """
    chocolates = _sweetened_alike(chocolates, layer, pantry)
    wanted = _cocoa_of(layer, pantry)
    known = {key: held for key in chocolates if (held := _cocoa_in(pantry[key])) is not None}
    if wanted is None or not known or len(known) < len(chocolates):
        return tuple(chocolates)
    nearest = min(known, key=lambda key: known[key].apart(wanted) + _SELDOM * chocolates.index(key))
    if known[nearest].dry < _DARK_FROM or (not blends and abs(known[nearest].total - wanted.total) <= _ONE_WILL_DO):
        return (nearest,)
    dark = {key: held.total for key, held in known.items() if held.dry >= _DARK_FROM}
    below = max((key for key in dark if dark[key] < wanted.total), key=dark.__getitem__, default=nearest)
    above = min((key for key in dark if dark[key] >= wanted.total), key=dark.__getitem__, default=nearest)
    return tuple(dict.fromkeys((below, above)))


@dataclass(frozen=True, slots=True)
class _Cocoa:
    """Cocoa solids [g/g]: with their fat, as a label counts them, and without, by which a chocolate is white, milk or dark."""

    total: float
    dry: float

    def apart(self, other: "_Cocoa") -> float:
        """How unlike two chocolates are."""
        return abs(self.total - other.total) + _BY_SHADE * abs(self.dry - other.dry)


def _cocoa_in(food: Ingredient) -> _Cocoa | None:
    fat, dry = (food.per_100_g.get(one) for one in (Nutrient.COCOA_BUTTER, Nutrient.COCOA_SOLIDS_NONFAT))
    return None if fat is None or dry is None else _Cocoa((fat + dry) / 100, dry / 100)


def _cocoa_of(layer: FormulaLayer, pantry: Pantry) -> _Cocoa | None:
    """Of a whole layer; None where it weighs nothing or one line is not known."""
    held = [(line.grams, _cocoa_in(pantry[line.ingredient_id])) for line in layer.ingredients if line.ingredient_id in pantry]
    known = [(grams, one) for grams, one in held if one is not None]
    if layer.finished_g <= 0 or len(known) < len(layer.ingredients):
        return None
    total, dry = sum(grams * one.total for grams, one in known), sum(grams * one.dry for grams, one in known)
    return _Cocoa(total / layer.finished_g, dry / layer.finished_g)


def _sweetened_alike(chocolates: Sequence[str], layer: FormulaLayer, pantry: Pantry) -> Sequence[str]:
    """Of chocolates those with the polyol that there is most of in a coat's own list; all where none has it."""
    polyols = [line for line in layer.ingredients if line.ingredient_id in pantry and pantry[line.ingredient_id].polyol_kind]
    most = max(polyols, key=lambda line: line.grams, default=None)
    kind = pantry[most.ingredient_id].polyol_kind if most is not None else None
    return [key for key in chocolates if pantry[key].polyol_kind == kind] or chocolates
