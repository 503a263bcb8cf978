"""Weighing out: whole steps or usual spoons, chosen together, by line, within limits; one owner for all who say grams."""

from dataclasses import replace

import pytest
from tests.bench import FAMILIES, PANTRY, READING, breaks, caramel, filling, formula, held_to, layer, line, weighed

from fern_match.core.adapt import rules_of
from fern_match.core.adapt.limits import shared_limits
from fern_match.core.batch import scaled, weighed_out
from fern_match.core.batch.weighing_out import off_g
from fern_match.core.formulate import PieceLimit, Property, Room, Solved, solve
from fern_match.core.formulate.record.properties import amount_of
from fern_match.core.measures import Measures
from fern_match.core.study.record import Region


def solved_pair() -> object:
    """A filling and a caramel, solved."""
    whole = formula(filling(), caramel())
    found = solve(whole, held_to(whole), Room(free=["filling", "caramel"], explain=False), READING)
    assert isinstance(found, Solved)
    return found.formula


@pytest.mark.parametrize("step", [0.1, 1.0])
def test_amounts_are_whole_steps_and_limits_still_hold(step: float) -> None:
    """Steps of the scale, or tenths of one below ten steps; windows hold, the weight to a step."""
    whole = solved_pair()
    out = weighed(whole, held_to(whole), 24, step)
    for one in out.lines:
        size = step if one.exact_g >= 10 * step else step / 10
        assert one.measured_g / size == pytest.approx(round(one.measured_g / size), abs=1e-6)
        assert abs(one.error_g) <= 2.5 * size + 1e-9
    for part, finished in zip(out.formula.layers, (12.05, 8.0), strict=True):
        assert not breaks(part, part.finished_g, room=2e-6)
        assert part.finished_g == pytest.approx(finished, abs=step / 24 + 1e-6)


def test_it_is_the_same_every_time() -> None:
    """Nothing hangs on how long it may take."""
    whole = solved_pair()
    assert weighed(whole, held_to(whole), 24, 1.0) == weighed(whole, held_to(whole), 24, 1.0)


def test_spoons_are_usual_ones_and_errors_are_shown() -> None:
    """Every amount is in spoons, cups or pieces, and its error is what it holds less what it should."""
    whole = formula(filling())
    out = weighed(whole, held_to(whole), 24, None, Measures.US)
    for one in out.lines:
        assert any(word in one.words for word in ("cup", "tbsp", "tsp", "pinch", "biscuit", "stick")), one
        assert one.error_g == pytest.approx(one.measured_g - one.exact_g)


def test_one_ingredient_on_two_lines_is_weighed_twice() -> None:
    """200 g and 60 g of sugar are 200 g and 60 g, each by its own line."""
    lines = (
        line("white-sugar", 200 / 24, "sweet-bulk", line_id="syrup"),
        line("heavy-cream", 4.0, "dairy-liquid", line_id="cream"),
        line("white-sugar", 60 / 24, "sweet-bulk", line_id="dusting"),
    )
    whole = formula(layer("caramel", "soft-caramel", *lines, lost=2.0))
    out = weighed(whole, held_to(whole), 24, 1.0)
    grams = {one.line_id: one.measured_g for one in out.lines}
    assert abs(grams["syrup"] - 200) <= 2
    assert abs(grams["dusting"] - 60) <= 2


def test_what_stays_on_tools_is_weighed_out_too() -> None:
    """A tenth that stays in the bowl is a ninth more in it; the piece is the same."""
    whole = formula(filling())
    batch = scaled(whole, 24, {"filling": 0.1}, PANTRY, FAMILIES)
    out = weighed_out(batch, whole, held_to(whole), READING, scale_step_g=1.0, measures=Measures.METRIC)
    butter = next(one for one in out.lines if one.ingredient_id == "peanut-butter-natural")
    assert butter.exact_g == pytest.approx(24 * 6.0 / 0.9)
    assert out.formula.layers[0].finished_g == pytest.approx(12.05, abs=1 / 24)


def test_what_the_piece_must_hold_to_comes_first() -> None:
    """Fat at most what it has now, though the nearest grams would be over: weighed out it is not passed."""
    whole = solved_pair()
    fat = sum(
        one.grams * (PANTRY[one.ingredient_id].per_100_g["fat_g"] or 0) / 100 for part in whole.layers for one in part.ingredients
    )
    limit = PieceLimit(id="fat", words="fat", weigh=lambda food: (food.per_100_g["fat_g"] or 0) / 100, most=fat - 1e-6)
    for step in (0.1, 1.0, 5.0):
        out = weighed(whole, held_to(whole), 24, step, limits=(limit,))
        held = sum(one.measured_g * (PANTRY[one.ingredient_id].per_100_g["fat_g"] or 0) / 100 for one in out.lines) / 24
        assert held <= fat + 1e-6, step


def test_what_is_too_little_for_the_scale_is_diluted() -> None:
    """The mix holds the amount, its carrier is there, and what the mix brings of it is taken off."""
    small = formula(layer("filling", "peanut-filling", *filling().ingredients[:3], line("fine-salt", 0.05, "salt")))
    out = weighed(small, held_to(small), 24, 1.0)
    salt = next(one for one in out.lines if one.ingredient_id == "fine-salt")
    assert salt.dilution == (
        "Mix 10 g of it well with 90 g of the icing sugar (3 % starch); 12 g of the mix hold 1.2 g and 10.8 g, so weigh out that "
        "much less of the latter."
    )


def test_a_dilution_never_asks_for_more_than_there_is() -> None:
    """On a scale of 5 g the mix would want 950 g of icing sugar, of which the batch has 96 g."""
    small = formula(layer("filling", "peanut-filling", *filling().ingredients[:3], line("fine-salt", 0.13, "salt")))
    out = weighed(small, held_to(small), 24, 5.0)
    assert [one.dilution for one in out.lines] == ["", "", "", ""]


def test_nothing_is_weighed_out_of_nothing() -> None:
    """A line of 0 g, a layer of none, an ingredient that nobody knows."""
    odd = replace(line("butter-unsalted", 2.0), ingredient_id="stardust", name="Stardust")
    whole = formula(layer("a", "peanut-filling", line("icing-sugar", 0.0), odd), layer("b", "soft-caramel"))
    out = weighed(whole, (), 24, 1.0)
    assert [one.measured_g for one in out.lines] == [0.0, 48.0]


def test_a_limit_is_lowered_by_what_the_steps_take_off() -> None:
    """By a scale of 5 g, twelve pieces of two layers may come out 0.83 g lighter: a limit for 100 g counts on it."""
    whole = formula(filling(), caramel())
    assert off_g(whole, 12, 5.0) == pytest.approx(2 * 5 / 12)
    assert off_g(whole, 12, None) == 0.0
    sugars = amount_of(whole.layers, Property.SUGARS, PANTRY)
    rule = rules_of([f"at-most-sugars:{100 * sugars / whole.piece_g:.6f}/100g"], Region.EU, PANTRY)
    exact, lowered = (
        shared_limits(rule, whole.piece_g, whole.piece_g, off_g=off)[0].most for off in (0.0, off_g(whole, 12, 5.0))
    )
    assert exact == pytest.approx(sugars, rel=1e-3)
    assert lowered == pytest.approx(exact * (1 - 2 * 5 / 12 / whole.piece_g), rel=1e-3)


def test_a_sweetener_too_little_for_the_scale() -> None:
    """Of a mix for both layers each line says its share; where nothing carries it, drops, and none in what is dry and fat."""
    dry = (line("stevia-reb-a", 0.02, "intense-sweetener"), line("erythritol", 4, "sweet-bulk"), line("almond-flour", 6, "flour"))
    wet = (line("sucralose-powder", 0.002, "intense-sweetener"), line("maltitol-syrup", 6), line("heavy-cream", 5))
    fat = (line("sucralose-powder", 0.002, "intense-sweetener"), line("cocoa-butter", 4), line("cocoa-mass", 3))
    whole = formula(
        layer("base", "keto-short-base", *dry),
        layer("crumb", "keto-crumb-base", *dry),
        layer("sauce", "maltitol-caramel", *wet, lost=1.0),
        layer("coat", "sugar-free-dark-coat-open", *fat),
    )
    out = weighed(whole, held_to(whole), 10, 0.1)
    said = {one.layer_id: one.dilution for one in out.lines if one.ingredient_id in {"stevia-reb-a", "sucralose-powder"}}
    (mix,) = out.premixes
    assert {share.layer_id for share in mix.shares} == {"base", "crumb"}
    assert said["base"] == said["crumb"] == mix.words_for(mix.shares[0])
    assert "drops of a liquid sweetener" in said["sauce"]
    assert "leave it out" in said["coat"]
    assert "drops" not in said["coat"]
    by_spoon = {
        one.layer_id: one.dilution for one in weighed(whole, held_to(whole), 10, None).lines if "sucralose" in one.ingredient_id
    }
    assert by_spoon["sauce"].startswith("Too little for a spoon: 20 drops")
    assert by_spoon["coat"].startswith("Too little for a spoon: it needs a scale of")
