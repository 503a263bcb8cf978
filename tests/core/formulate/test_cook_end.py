"""Where a boil ends by the water that a version keeps, beside the usual end of its kind."""

from dataclasses import replace

import pytest

from fern_match.core.families import standard_families
from fern_match.core.food import Nutrient, Pantry, standard_pantry
from fern_match.core.formulate import FormulaIngredient, FormulaLayer, HeatEnd, cook_end
from fern_match.core.physics.syrup import syrup_of

FAMILIES, PANTRY = standard_families(), standard_pantry()
AMOUNTS = {"white-sugar": 30.0, "glucose-syrup-42de": 30.0, "heavy-cream": 35.0, "butter-unsalted": 5.0}


def caramel(water: float, family: str = "soft-caramel") -> FormulaLayer:
    """100 g in the pan, boiled until so much of what is left is water [g/g]."""
    there = syrup_of((PANTRY[key], grams) for key, grams in AMOUNTS.items()).water_g
    lines = tuple(FormulaIngredient(ingredient_id=key, name=key, role="any", grams=grams) for key, grams in AMOUNTS.items())
    lost = (there - 100 * water) / (1 - water)
    return FormulaLayer(layer_id="c", name="Caramel", family=family, water_lost_g=lost, ingredients=lines)


def end(layer: FormulaLayer, pantry: Pantry = PANTRY) -> HeatEnd:
    """Where it ends, at a temperature."""
    found = cook_end(layer, FAMILIES[layer.family], pantry)
    assert isinstance(found, HeatEnd)
    return found


@pytest.mark.parametrize(("water", "aim_c"), [(0.065, 126.0), (0.07, 124.5), (0.097, 118.0), (0.10, 118.0), (0.13, 113.0)])
def test_a_caramel_ends_by_the_water_it_keeps(water: float, aim_c: float) -> None:
    """The worked example, a firm one and a soft one; its window goes with it, and a degree is no difference."""
    found = end(caramel(water))
    assert found.aim_c == aim_c
    assert (found.aim_c - found.low_c, found.high_c - found.aim_c, found.usual_c) == (4.0, 3.0, 118.0)
    assert found.rise == pytest.approx(1.0964, abs=1e-4)
    assert (found.water is None) == (aim_c == 118.0)


@pytest.mark.parametrize("water", [0.03, 0.19])
def test_what_is_no_caramel_ends_as_its_kind(water: float) -> None:
    """With half or twice the usual water the end stays that makes a caramel, and what it keeps is told."""
    found = end(caramel(water))
    assert (found.aim_c, found.usual_water) == (118.0, pytest.approx(0.097))
    assert found.water == pytest.approx(water)


def test_of_unknown_water_the_kind_says_the_end() -> None:
    """Of a cream whose water nobody knows, of a line that nobody could read, and where not all of it is in the pan."""
    cream = PANTRY["heavy-cream"]
    bare = Pantry({**PANTRY.by_id, cream.id: replace(cream, per_100_g={**cream.per_100_g, Nutrient.WATER: None})})
    firm = caramel(0.065)
    unread = replace(firm, ingredients=(*firm.ingredients[:-1], replace(firm.ingredients[-1], unread=True)))
    syrup_alone = caramel(0.065, "nougat-egg-white")
    for found in (end(firm, bare), end(unread), end(syrup_alone)):
        assert (found.aim_c, found.water, found.rise) == (found.usual_c, None, 1.0)
