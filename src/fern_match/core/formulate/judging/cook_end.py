"""Where the boil of a layer ends: at a temperature, or, where sugar's temperatures do not hold, at a weight. Said once, for all
steps.

Worked example: a soft caramel from sugar ends at 118 °C. The same with maltitol, 10.2 g in the pan for 8.8 g finished, ends
when 86 g are left of each 100 g: polyols, rare sugars and fibres hold water otherwise than sugar does. Of a nougat only the
syrup is boiled: 16 g of it that lose 4 g end at 75 g of each 100 g, whatever the whites, the fat and the nuts weigh that it
is beaten into.
"""

from dataclasses import dataclass
from typing import Literal

from fern_match.core.families import Family
from fern_match.core.food import Pantry
from fern_match.core.food.together import listed
from fern_match.core.formulate.record.formula import FormulaIngredient, FormulaLayer

_TO_WEIGHT = frozenset({"polyol", "rare-sugar", "fibre"})  # categories for which end temperatures of sugar do not hold
# Roles of what is not in the pan while it boils: stirred in last, or folded in.
_APART = frozenset(
    {"acid", "aerator", "coconut-solids", "colour", "crisp", "crumb", "flavour", "intense-sweetener", "leavening", "nut-solids",
     "seed-solids"}
)  # fmt: skip
# Where the syrup is beaten into a foam, only this of it is boiled.
_SYRUP = frozenset({"doctor-sugar", "fibre-bulk", "humectant", "salt", "sweet-bulk", "water"})


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatEnd:
    """A boil that ends at a temperature, as recipes give it at sea level [degC]."""

    low_c: float
    aim_c: float
    high_c: float
    by: Literal["heat"] = "heat"


@dataclass(frozen=True, slots=True, kw_only=True)
class WeightEnd:
    """A boil that ends when so much is left."""

    left: float  # of what goes into the pan [g/g]
    pan: float  # what goes into the pan, of all that is added [g/g]
    apart: tuple[str, ...]  # names of what comes in after the boil
    by: Literal["weight"] = "weight"


CookEnd = HeatEnd | WeightEnd


def cook_end(layer: FormulaLayer, family: Family | None, pantry: Pantry) -> CookEnd | None:
    """Where the boil of a layer ends; None of one that is not boiled, or of which no table says it.

    Source: end temperatures from data/traits.csv (approximate); weights by the layer's own balance.
    """
    if family is None or not (family.heated and family.traits.boiled):
        return None
    other = any(
        line.grams > 0 and line.ingredient_id in pantry and pantry[line.ingredient_id].category in _TO_WEIGHT
        for line in layer.ingredients
    )
    if other and layer.water_lost_g > 0:
        return _by_weight(layer, pantry)
    if family.end_c is None:
        return None
    low, aim, high = family.end_c
    return HeatEnd(low_c=low, aim_c=aim, high_c=high)


def _by_weight(layer: FormulaLayer, pantry: Pantry) -> WeightEnd:
    used = [line for line in layer.ingredients if line.grams > 0]
    foam = any(line.role == "aerator" for line in used)
    apart = [line for line in used if (line.role not in _SYRUP if foam else line.role in _APART) or _is_intense(line, pantry)]
    pan_g = layer.added_g - sum(line.grams for line in apart)
    if pan_g <= layer.water_lost_g:  # the roles do not tell what is boiled: all of it then
        apart, pan_g = [], layer.added_g
    return WeightEnd(
        left=1 - layer.water_lost_g / pan_g, pan=pan_g / layer.added_g, apart=tuple(dict.fromkeys(line.name for line in apart))
    )


def _is_intense(line: FormulaIngredient, pantry: Pantry) -> bool:
    food = pantry.by_id.get(line.ingredient_id)
    return food is not None and food.category == "intense-sweetener"


def weight_words(name: str, end: WeightEnd) -> str:
    """How a layer is cooked to its weight.

    Args:
        name: Of the layer.
        end: Where it ends.
    """
    without = f", without {listed(end.apart).lower()}" if end.apart else ""
    return f"Cook {name} to weight, not to a temperature: {100 * end.left:.0f} g are left of each 100 g in the pan{without}."
