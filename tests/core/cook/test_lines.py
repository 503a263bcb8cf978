"""No ingredient of a batch is in no step, and none is in two unless it is split: for every family there is."""

from dataclasses import replace

import pytest
from tests.cooking import CORE, FAMILIES, PANTRY, STACK, Part, cooked

from fern_match.core.cook import uses_by_line
from fern_match.core.cook.boils import boil_of, water_left_share
from fern_match.core.cook.lines import Taken, matches, shared_out
from fern_match.core.cook.tables import by_family, hydrations, lays, method_of, step_rows
from fern_match.core.food import Nutrient, Pantry
from fern_match.core.kitchen import Kitchen, Tool

ALL = tuple(family.id for family in FAMILIES.all())


@pytest.mark.parametrize("family", ALL)
@pytest.mark.parametrize("kitchen", [Kitchen(), Kitchen(lacks=tuple(Tool))], ids=["all tools", "no tools"])
def test_every_line_goes_in_once(family: str, kitchen: Kitchen) -> None:
    """Made by its working ratio, and by each ingredient that one of its roles admits."""
    for largest in (False, True):
        lines = {}
        for role in FAMILIES[family].roles:
            food = max(role.admits) if largest and role.admits else role.default_id
            lines.setdefault(food, (max(role.typical, 0.01) * 20, role.name))
        made = cooked({"one": Part(family, CORE if family.endswith("coat") else STACK, lines=lines)}, kitchen=kitchen)
        assert made.read.batch is not None
        found = uses_by_line(made.plan.steps)
        for layer in made.read.batch.layers:
            for line in layer.ingredients:
                assert found.get((layer.layer_id, line.line_id)) == pytest.approx(1.0), (family, line.name)


def test_gelatine_blooms_in_a_part_of_the_water() -> None:
    """8 g of gelatine swell in four times their weight, 32 g; but in no more than half of 60 g of water."""
    made = cooked(
        {
            "one": Part(
                "marshmallow",
                STACK,
                lines={
                    "water": (60, "water"),
                    "gelatine-powder": (8, "gelling"),
                    "white-sugar": (100, "sweet-bulk"),
                    "glucose-syrup-42de": (80, "doctor-sugar"),
                },
            )
        }
    )
    bloom, boil = made.step("Let gelatine"), made.step("Boil the syrup")
    shares = [next(use.share for use in step.uses if use.ingredient_id == "water") for step in (bloom, boil)]
    assert hydrations()["gelatine-powder"] == (4.0, 0.5)
    assert shares == [pytest.approx(0.5), pytest.approx(0.5)]
    assert not any(use.ingredient_id == "gelatine-powder" for use in boil.uses)


def test_the_nearest_step_takes_a_line() -> None:
    """Itself before its kind, its kind before its role, its role before the rest."""
    made = cooked({"one": Part("soft-caramel", STACK)})
    assert made.read.batch is not None
    line = made.read.batch.layers[0].ingredients[0]
    tokens = ("*", f"role={line.role}", f"kind={PANTRY[line.ingredient_id].category}", f"food={line.ingredient_id}")
    assert [matches(token, line, PANTRY) for token in tokens] == [1, 2, 3, 4]
    assert matches("food=other", line, PANTRY) == 0


def test_what_no_step_asks_for_still_goes_in() -> None:
    """A line of a role that the way of making does not know."""
    rows = step_rows()["caramel-stirred"]
    made = cooked({"one": Part("condensed-milk-caramel", STACK)})
    assert made.read.batch is not None
    odd = replace(made.read.batch.layers[0].ingredients[0], role="no such role", line_id="odd")
    assert sum(one.line.line_id == "odd" for several in shared_out(rows, [odd], PANTRY).values() for one in several) == 1


@pytest.mark.parametrize("family", ALL)
def test_every_family_is_made_and_laid_in_a_way_of_its_own(family: str) -> None:
    """None falls through the tables."""
    own = {FAMILIES.root_of(family), family}
    assert method_of(family, FAMILIES) in step_rows()
    known = by_family(lays(), family, FAMILIES) is not None
    assert known or FAMILIES[family].place == "coat" or "chocolate" in family, own


def test_a_sugar_that_stands_in_for_milk_is_boiled_with_the_sugars() -> None:
    """Swaps keep a line's role; what it is says more."""
    lines = {
        "white-sugar": (5.0, "sweet-bulk"),
        "glucose-syrup-42de": (5.0, "doctor-sugar"),
        "beet-sugar": (3.0, "dairy-liquid"),
        "water": (2.0, "water"),
    }
    made = cooked({"one": Part("powder-caramel", STACK, lines=lines)})
    assert not any(title.startswith("Warm") for title in made.titles())
    assert "beet-sugar" in [use.ingredient_id for use in made.step("Boil sugar").uses]


def test_water_that_nobody_knows_is_not_said() -> None:
    """Of a pan with cream whose water nobody entered, the water left is no figure."""
    made = cooked({"one": Part("soft-caramel", STACK)})
    assert made.read.batch is not None
    caramel = made.read.batch.layers[0]
    taken = [Taken(line, 1.0) for line in caramel.ingredients]
    lost_g = caramel.water_lost_g
    cream = PANTRY["heavy-cream"]
    bare = replace(cream, per_100_g={**cream.per_100_g, Nutrient.WATER: None})
    known = boil_of(taken, lost_g, PANTRY)
    unknown = boil_of(taken, lost_g, Pantry({**PANTRY.by_id, cream.id: bare}))
    gone = boil_of(taken, lost_g, Pantry({key: food for key, food in PANTRY.by_id.items() if key != cream.id}))
    assert 0.02 < (water_left_share(known) or 0) < 0.2
    assert [water_left_share(one) for one in (unknown, gone)] == [None, None]
