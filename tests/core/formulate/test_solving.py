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

from fern_match.core.errors import Stopped
from fern_match.core.food import Nutrient
from fern_match.core.formulate import (
    Formula,
    FormulaLayer,
    Impossible,
    Outcome,
    Property,
    Room,
    Solved,
    TooLong,
    solve,
    ways,
)
from fern_match.core.formulate.record.properties import amount_of
from fern_match.core.formulate.solving import program
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

KINDS = ("soft-caramel", "short-base", "peanut-filling", "nougat-egg-white", "crumb-base", "ganache-dark", "coconut-filling")


def outcome(what: Formula, targets: object, free: list[str], **more: object) -> Outcome:
    """What solving some layers gives."""
    room = Room(free=free, explain=False, **more)  # type: ignore[arg-type]
    return solve(what, targets, room, READING)  # type: ignore[arg-type]


def solved(what: Formula, targets: object, free: list[str], **more: object) -> Solved:
    """Layers solved."""
    found = outcome(what, targets, free, **more)
    assert isinstance(found, Solved)
    return found


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
    found = outcome(formula(locked), held_to(formula(caramel())), ["caramel"])
    if isinstance(found, Solved):
        kept = {one.ingredient_id: one.grams for one in found.formula.layers[0].ingredients}
        assert (kept["white-sugar"], kept["butter-unsalted"]) == (sugar, butter)
        assert not breaks(found.formula.layers[0], 8.0)
    else:
        assert isinstance(found, Impossible)
        assert "g" in found.why


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
    found = outcome(formula(locked), held_to(formula(filling())), ["filling"])
    assert isinstance(found, Impossible)
    assert "Icing sugar (3 % starch) in Filling locked at 9 g" in found.why
    assert "g less" in found.why


def test_nothing_to_solve_is_said() -> None:
    """A layer without lines, no layer at all, and a version of nothing."""
    empty = layer("empty", "soft-caramel")
    for what, free in ((formula(empty), ["empty"]), (formula(filling()), []), (formula(), ["filling"])):
        found = outcome(what, (), free)
        assert isinstance(found, Impossible)
        assert "no layer that is free has an ingredient" in found.why


def test_what_takes_too_long_is_told_from_what_cannot_be(monkeypatch: pytest.MonkeyPatch) -> None:
    """A search without time has no answer, and does not say that nothing fits."""
    lines = (*filling().ingredients, line("almond-butter", 0.0, "nut-solids"), line("honey", 0.0, "sweet-bulk"))
    monkeypatch.setattr(program, "_TIME_LIMIT_S", 0.0)
    monkeypatch.setattr(program.Program.solved, "__kwdefaults__", {**program.Program.solved.__kwdefaults__, "seconds": 0.0})
    found = outcome(formula(replace(filling(), ingredients=lines)), held_to(formula(filling())), ["filling"], choose=True)
    assert isinstance(found, TooLong)
    assert "too large" in found.why


def test_solving_stops_when_it_is_told_to() -> None:
    """Between two programs at the latest."""
    with pytest.raises(Stopped):
        outcome(formula(filling()), held_to(formula(filling())), ["filling"], should_stop=lambda: True)


def test_one_ingredient_on_two_lines_is_two_lines() -> None:
    """Each keeps its lock and its amount; the largest share of it counts both."""
    twice = replace(
        filling(),
        ingredients=(
            *(replace(one, line_id=f"line-{at}") for at, one in enumerate(filling().ingredients)),
            line("icing-sugar", 1.5, "sweet-bulk", locked=True, line_id="dusting"),
        ),
    )
    found = solved(formula(twice), held_to(formula(filling())), ["filling"]).formula.layers[0]
    sugar = {one.line_id: one.grams for one in found.ingredients if one.ingredient_id == "icing-sugar"}
    assert sugar["dusting"] == 1.5
    assert sugar["line-1"] != 1.5
    assert found.finished_g == pytest.approx(12.05, abs=1e-6)


def test_what_holds_back_is_true() -> None:
    """The limit that is named is moved by hand: the gap closes as it was said."""
    family = FAMILIES["peanut-filling"]
    sweet_bulk = next(role for role in family.roles if role.name == "sweet-bulk")
    targets = [
        wanted("weight", "filling", Property.MASS, 12.05, 12.05),
        wanted("sweetness", "filling", Property.SWEETNESS, 7.5, 7.5),
    ]
    room = Room(free=["filling"])
    found = solve(formula(filling()), targets, room, READING)
    assert isinstance(found, Solved)
    said = " ".join(found.held_back)
    assert f"sweet bulk allowed to {100 * (sweet_bulk.most + 0.02):.3g} %" in said
    wider = replace(
        family,
        roles=tuple(replace(role, most=role.most + 0.02) if role.name == "sweet-bulk" else role for role in family.roles),
    )
    moved = replace(FAMILIES, by_id={**FAMILIES.by_id, family.id: wider})
    again = solve(formula(filling()), targets, room, StudyReading(Study(name="bench"), PANTRY, moved))
    assert isinstance(again, Solved)
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
    found = ways(own, "filling", held_to(own), READING)
    assert len(found) >= 2
    for way in found:
        assert way.layer.finished_g == pytest.approx(12.05, abs=1e-6)
        assert not breaks(way.layer, 12.05)
        assert sum(one.grams for one in way.layer.ingredients if "peanut" in one.ingredient_id) >= 0.3 * 6.0 - 1e-9
    for at, way in enumerate(found):
        for other in found[at + 1 :]:
            names = [{one.ingredient_id for one in each.layer.ingredients} for each in (way, other)]
            assert names[0] != names[1] or way.family_id != other.family_id


def test_properties_agree_with_the_table() -> None:
    """What the solver adds up is what the table says."""
    part = caramel()
    for what, column in ((Property.FAT, Nutrient.FAT), (Property.PROTEIN, Nutrient.PROTEIN), (Property.WATER, Nutrient.WATER)):
        assert amount_of([part], what, PANTRY) == pytest.approx(recomputed(part, column), abs=1e-12)
    assert amount_of([part], Property.SALT, PANTRY) == pytest.approx(recomputed(part, Nutrient.SODIUM) * 2.5 / 1000, abs=1e-12)


def test_no_more_of_a_thing_than_makes_sense() -> None:
    """Erythritol stays within 8 % of a caramel's bowl over both its lines, though sugars are to be few."""
    one = caramel()
    lines = (
        *one.ingredients,
        line("erythritol", 0.1, "sweet-bulk", line_id="e1"),
        line("erythritol", 0.1, "sweet-bulk", line_id="e2"),
    )
    whole = formula(replace(one, ingredients=lines))
    targets = (wanted("mass", "caramel", Property.MASS, 8.0, 8.0), wanted("sugars", "caramel", Property.SUGARS, 0.5, 1.0))
    found = solve(whole, targets, Room(free=["caramel"], explain=False), READING)
    assert isinstance(found, Solved)
    (made,) = found.formula.layers
    share = sum(line.grams for line in made.ingredients if line.ingredient_id == "erythritol") / made.added_g
    assert 0.05 < share <= 0.08 + 1e-6
