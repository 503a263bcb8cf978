"""Solving, by properties: limits hold to a millionth, what is locked stays, and what is said of limits is true."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.bench import (
    FAMILIES,
    PANTRY,
    READING,
    breaks,
    caramel,
    coat,
    filling,
    formula,
    held_to,
    layer,
    line,
    recomputed,
    wanted,
)

from fern_match.core.food import Nutrient
from fern_match.core.formulate import Formula, FormulaLayer, Property, Room, Solved, rounded, solve, ways
from fern_match.core.formulate.properties import amount_of
from fern_match.core.measures import Measures

KINDS = ("soft-caramel", "short-base", "peanut-filling", "nougat-egg-white", "crumb-base", "ganache-dark", "coconut-filling")


def solved(what: Formula, targets: object, free: list[str], **more: object) -> Solved:
    """Solves some layers."""
    room = Room(free=free, explain=False, **more)  # type: ignore[arg-type]
    return solve(what, targets, room, reading=READING, pantry=PANTRY, families=FAMILIES)  # type: ignore[arg-type]


@st.composite
def typical_layers(draw: st.DrawFn) -> tuple[FormulaLayer, float, float]:
    """A layer of a family's usual ingredients, not yet weighed, a weight for it, and how sweet it should be."""
    family = FAMILIES[draw(st.sampled_from(KINDS))]
    roles = [role for role in family.roles if role.typical > 0]
    lines = tuple(line(role.default_id, 0.0, role.name) for role in roles)
    finished = draw(st.floats(3.0, 30.0))
    return layer("part", family.id, *lines), finished, draw(st.floats(0.0, 0.9))


@given(typical_layers())
def test_hard_limits_hold_to_a_millionth(drawn: tuple[FormulaLayer, float, float]) -> None:
    """Weight, windows, moisture and what can be driven off, whatever the sweetness asked for; checked from the table alone."""
    part, finished, sweet = drawn
    targets = [
        wanted("weight", "part", Property.MASS, finished, finished),
        wanted("sweetness", "part", Property.SWEETNESS, sweet * finished, sweet * finished),
    ]
    found = solved(formula(part), targets, ["part"])
    assert found.impossible is None
    assert not breaks(found.formula.layers[0], finished)


@given(st.floats(1.5, 3.5), st.floats(0.0, 1.2))
def test_what_is_locked_stays(sugar: float, butter: float) -> None:
    """To the last digit; the rest is solved, or it is said what would have to give and nothing changes."""
    amounts = {"white-sugar": sugar, "butter-unsalted": butter}
    locked = replace(
        caramel(),
        ingredients=tuple(
            replace(one, grams=amounts.get(one.ingredient_id, one.grams), locked=one.ingredient_id in amounts)
            for one in caramel().ingredients
        ),
    )
    found = solved(formula(locked), held_to(formula(caramel())), ["caramel"])
    kept = {one.ingredient_id: one.grams for one in found.formula.layers[0].ingredients}
    assert kept["white-sugar"] == sugar
    assert kept["butter-unsalted"] == butter
    if found.impossible is None:
        assert not breaks(found.formula.layers[0], 8.0)
    else:
        assert found.formula == formula(locked)


def test_layers_that_are_not_free_stay() -> None:
    """A solve changes what it was asked for and nothing else."""
    whole = formula(coat(), filling(), caramel())
    found = solved(whole, held_to(formula(coat("milk-chocolate-33"), filling(), caramel())), ["filling"])
    assert found.formula.layers[0] == whole.layers[0]
    assert found.formula.layers[2] == whole.layers[2]


def test_at_least_and_none_of_this() -> None:
    """A least amount holds; an ingredient left out is nothing."""
    least = replace(
        filling(),
        ingredients=tuple(
            replace(one, least_g=1.9 if one.ingredient_id == "plain-biscuit-crumbs" else 0.0) for one in filling().ingredients
        ),
    )
    found = solved(formula(least), held_to(formula(filling())), ["filling"]).formula.layers[0]
    assert next(one.grams for one in found.ingredients if one.ingredient_id == "plain-biscuit-crumbs") >= 1.9 - 1e-9
    without = solved(formula(filling()), held_to(formula(filling())), ["filling"], without=["butter-unsalted"]).formula.layers[0]
    assert next(one.grams for one in without.ingredients if one.ingredient_id == "butter-unsalted") == 0


def test_what_cannot_be_says_what_would_have_to_give() -> None:
    """Locks that weigh more than the layer: the fewest that give, and by how much."""
    locked = replace(
        filling(),
        ingredients=tuple(
            replace(
                one, grams=9.0 if one.ingredient_id == "icing-sugar" else one.grams, locked=one.ingredient_id == "icing-sugar"
            )
            for one in filling().ingredients
        ),
    )
    found = solved(formula(locked), held_to(formula(filling())), ["filling"])
    assert found.impossible is not None
    assert "Icing sugar (3 % starch) in Filling locked at 9 g" in found.impossible
    assert "g less" in found.impossible


def test_what_holds_back_is_true() -> None:
    """The limit that is named is moved by hand: the gap closes as it was said."""
    family = FAMILIES["peanut-filling"]
    sweet_bulk = next(role for role in family.roles if role.name == "sweet-bulk")
    targets = [
        wanted("weight", "filling", Property.MASS, 12.05, 12.05),
        wanted("sweetness", "filling", Property.SWEETNESS, 7.5, 7.5),
    ]
    room = Room(free=["filling"])
    found = solve(formula(filling()), targets, room, reading=READING, pantry=PANTRY, families=FAMILIES)
    said = " ".join(found.held_back)
    assert f"sweet bulk allowed to {100 * (sweet_bulk.most + 0.02):.3g} %" in said
    wider = replace(
        family,
        roles=tuple(replace(role, most=role.most + 0.02) if role.name == "sweet-bulk" else role for role in family.roles),
    )
    moved = replace(FAMILIES, by_id={**FAMILIES.by_id, family.id: wider})
    again = solve(formula(filling()), targets, room, reading=READING, pantry=PANTRY, families=moved)
    gaps = [next(one for one in each.targets if one.id == "sweetness").gap for each in (found, again)]
    assert abs(gaps[1]) < abs(gaps[0]) - 0.1


def test_solving_twice_changes_nothing() -> None:
    """A solved version is its own solution."""
    whole = formula(coat("milk-chocolate-33"), filling(), caramel())
    targets = held_to(formula(coat(), filling(), caramel()))
    once = solved(whole, targets, ["filling", "caramel"])
    twice = solved(once.formula, targets, ["filling", "caramel"])
    for a, b in zip(once.formula.layers, twice.formula.layers, strict=True):
        for one, other in zip(a.ingredients, b.ingredients, strict=True):
            assert other.grams == pytest.approx(one.grams, abs=2e-3)


def test_ways_differ_in_kind_and_hold_their_windows() -> None:
    """No two share nine tenths; each holds its own family's windows; what it tastes of stays."""
    own = formula(filling())
    found = ways(own, "filling", held_to(own), reading=READING, pantry=PANTRY, families=FAMILIES)
    assert len(found) >= 2
    for way in found:
        assert way.layer.finished_g == pytest.approx(12.05, abs=1e-6)
        assert not breaks(way.layer, 12.05)
        assert sum(one.grams for one in way.layer.ingredients if "peanut" in one.ingredient_id) >= 0.3 * 6.0 - 1e-9
    for at, way in enumerate(found):
        for other in found[at + 1 :]:
            names = [{one.ingredient_id for one in each.layer.ingredients} for each in (way, other)]
            assert names[0] != names[1] or way.family_id != other.family_id


@pytest.mark.parametrize("step", [0.1, 1.0])
def test_amounts_are_whole_steps_and_limits_still_hold(step: float) -> None:
    """Steps of the scale, or tenths of one below ten steps; windows hold, the weight to a step."""
    whole = solved(formula(filling(), caramel()), held_to(formula(filling(), caramel())), ["filling", "caramel"]).formula
    targets = held_to(whole)
    out = rounded(
        whole, targets, 24, scale_step_g=step, measures=Measures.METRIC, reading=READING, pantry=PANTRY, families=FAMILIES
    )
    for one in out.lines:
        size = step if one.exact_g >= 10 * step else step / 10
        assert one.measured_g / size == pytest.approx(round(one.measured_g / size), abs=1e-6)
        assert abs(one.error_g) <= 2.5 * size + 1e-9
    for part, finished in zip(out.formula.layers, (12.05, 8.0), strict=True):
        assert not breaks(part, part.finished_g, room=2e-6)
        assert part.finished_g == pytest.approx(finished, abs=step / 24 + 1e-6)


def test_spoons_are_usual_ones_and_errors_are_shown() -> None:
    """Every amount is in spoons, cups or pieces, and its error is what it holds less what it should."""
    whole = formula(filling())
    out = rounded(
        whole, held_to(whole), 24, scale_step_g=None, measures=Measures.US, reading=READING, pantry=PANTRY, families=FAMILIES
    )
    for one in out.lines:
        assert any(word in one.words for word in ("cup", "tbsp", "tsp", "pinch", "biscuit", "stick")), one
        assert one.error_g == pytest.approx(one.measured_g - one.exact_g)


def test_what_is_too_little_for_the_scale_is_diluted() -> None:
    """The mix holds the amount, and its carrier is there."""
    small = formula(layer("filling", "peanut-filling", *filling().ingredients[:3], line("fine-salt", 0.05, "salt")))
    out = rounded(
        small, held_to(small), 24, scale_step_g=1.0, measures=Measures.METRIC, reading=READING, pantry=PANTRY, families=FAMILIES
    )
    salt = next(one for one in out.lines if one.ingredient_id == "fine-salt")
    assert salt.dilution == (
        "Mix 10 g of it well with 90 g of the icing sugar (3 % starch); 12 g of the mix hold 1.2 g and 10.8 g."
    )


def test_properties_agree_with_the_table() -> None:
    """What the solver adds up is what the table says."""
    part = caramel()
    for what, column in ((Property.FAT, Nutrient.FAT), (Property.PROTEIN, Nutrient.PROTEIN), (Property.WATER, Nutrient.WATER)):
        assert amount_of([part], what, PANTRY) == pytest.approx(recomputed(part, column), abs=1e-12)
    assert amount_of([part], Property.SALT, PANTRY) == pytest.approx(recomputed(part, Nutrient.SODIUM) * 2.5 / 1000, abs=1e-12)
