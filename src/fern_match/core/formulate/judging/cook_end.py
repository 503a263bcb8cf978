"""Where the boil of a layer ends: at a temperature, or, where sugar's temperatures do not hold, at a weight. Said once, for all
steps.

Worked example: a soft caramel of 30 g sugar, 30 g syrup, 35 g cream and 5 g butter ends at 118 °C with its kind's usual 9.7 %
of water. A clear syrup of its sugars with that water boils at 116.4: this kind rises 18 / 16.4 = 1.096 times as far. To keep 7 %
of water, where the clear syrup boils at 122.3, it ends at 100 + 1.096 x 22.3 = 124.5 °C. The same with maltitol, 10.2 g in the
pan for 8.8 g finished, ends when 86 g are left of each 100 g: polyols, rare sugars and fibres hold water otherwise than sugar
does. Of a nougat only the syrup is boiled: 16 g of it that lose 4 g end at 75 g of each 100 g, whatever the whites, the fat and
the nuts weigh that it is beaten into.
"""

from dataclasses import dataclass, replace
from typing import Literal

from fern_match.core.families import Family
from fern_match.core.food import Pantry
from fern_match.core.food.together import listed
from fern_match.core.formulate.record.formula import FormulaIngredient, FormulaLayer
from fern_match.core.physics.syrup import boils_with_c, syrup_of

_WATER_BOILS_C = 100.0
_STEP_C, _SAME_C = 0.5, 1.0  # a thermometer tells no finer; a degree is no difference (approximate)
_OF_THE_KIND = (0.5, 1.5)  # its water beside the usual: what is beyond is no such caramel, and its end makes none

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
    usual_c: float  # of its kind, with the usual water
    water: float | None = None  # that the version keeps [g/g]; None where it is the usual, or not known
    usual_water: float | None = None  # of its kind [g/g]
    rise: float = 1.0  # how its boiling point rises beside that of a clear syrup of the same sugars and water
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

    Where all of it is in the pan, a layer that is to keep more or less water than its kind usually does ends sooner or later
    than it: as far as the syrup of its own sugars does, times how far the kind rises beside such a syrup. Beyond half or one and
    a half times the usual water the kind's own end stays, for what it is to be.

    Source: end temperatures and usual water from data/families.csv (approximate); weights by the layer's own balance; the way
    from water to heat is `boils_c`.
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
    usual = HeatEnd(low_c=low, aim_c=aim, high_c=high, usual_c=aim)
    return _by_own_water(usual, layer, family, pantry) if family.traits.all_in_pan else usual


def _by_own_water(usual: HeatEnd, layer: FormulaLayer, family: Family, pantry: Pantry) -> HeatEnd:
    syrup = syrup_of((pantry.by_id.get(line.ingredient_id), line.grams) for line in layer.ingredients)
    if not syrup.known or any(line.unread for line in layer.ingredients) or layer.finished_g <= 0 or family.moisture_typical <= 0:
        return usual
    left_g = syrup.water_g - layer.water_lost_g
    water, usual_water = left_g / layer.finished_g, family.moisture_typical
    as_usual = boils_with_c(syrup.dissolved, (layer.finished_g - left_g) * usual_water / (1 - usual_water))
    own = boils_with_c(syrup.dissolved, left_g)
    if as_usual is None or own is None:
        return usual
    rise = (usual.aim_c - _WATER_BOILS_C) / (as_usual - _WATER_BOILS_C)
    aim = _STEP_C * round((_WATER_BOILS_C + rise * (own - _WATER_BOILS_C)) / _STEP_C)
    if abs(aim - usual.aim_c) < _SAME_C:
        return replace(usual, rise=rise)
    least, most = _OF_THE_KIND
    shift = aim - usual.aim_c if least <= water / usual_water <= most else 0.0
    return replace(
        usual,
        low_c=usual.low_c + shift,
        aim_c=usual.aim_c + shift,
        high_c=usual.high_c + shift,
        water=water,
        usual_water=usual_water,
        rise=rise,
    )


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
