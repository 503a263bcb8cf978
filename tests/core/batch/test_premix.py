"""One mix of an intense sweetener for all layers that take it."""

from collections.abc import Sequence
from dataclasses import replace

import pytest
from tests.bench import FAMILIES, PANTRY, formula, layer, line

from fern_match.core.batch.premix import Premix, left_of, premixes, spent_on, too_little, without_a_mix
from fern_match.core.batch.scale import BatchLayer, scaled, with_more
from fern_match.core.food import Pantry
from fern_match.core.formulate import FormulaIngredient

STEVIA, SUCRALOSE = "stevia-reb-a", "sucralose-powder"


def made(**layers: Sequence[FormulaIngredient]) -> tuple[BatchLayer, ...]:
    """A batch of ten pieces of layers with such lines, nothing lost on tools."""
    parts = formula(*(layer(name, "keto-short-base", *lines) for name, lines in layers.items()))
    return scaled(parts, 10, dict.fromkeys(layers, 0.0), PANTRY, FAMILIES).layers


def mixed(step: float | None, **layers: Sequence[FormulaIngredient]) -> tuple[Premix, ...]:
    """Its mixes."""
    return premixes(made(**layers), step, PANTRY)


def base(stevia: float, bulk: float, food: str = "erythritol") -> tuple[FormulaIngredient, ...]:
    """A dry layer of one piece: so much stevia, so much of what may carry it, flour and butter."""
    return (
        line(STEVIA, stevia, "intense-sweetener"),
        line(food, bulk, "sweet-bulk"),
        line("almond-flour", 6.0, "flour"),
        line("butter-unsalted", 3.0, "fat"),
    )


def test_one_mix_for_two_layers() -> None:
    """The worked example: 0.11 and 0.23 g of stevia, thinned ten times with what both have."""
    (mix,) = mixed(0.1, one=base(0.011, 4.0), two=base(0.023, 6.0))
    assert (mix.ingredient_id, mix.carrier, mix.dissolved) == (STEVIA, "erythritol", False)
    assert (mix.part_g, mix.carrier_g, mix.made_g) == pytest.approx((1.0, 9.0, 10.0))
    assert [share.mix_g for share in mix.shares] == pytest.approx([1.1, 2.3])
    assert [share.carrier_g for share in mix.shares] == pytest.approx([0.99, 2.07])
    assert mix.words == (
        "Sieve 1 g of stevia three times with 9 g of the erythritol: One takes 1.1 g; Two takes 2.3 g. "
        "What is left keeps dry in a closed jar."
    )
    assert mix.words_for(mix.shares[0]) == (
        "1.1 g of the mix (1 g of stevia to 9 g of erythritol), and 1.0 g less of the erythritol."
    )


def test_what_is_weighed_well_needs_no_mix() -> None:
    """On a scale of 0.01 g a tenth of a gram is weighed as it is; without a scale drops are counted."""
    assert mixed(0.01, one=base(0.011, 4.0), two=base(0.023, 6.0)) == ()
    assert mixed(None, one=base(0.011, 4.0), two=base(0.023, 6.0)) == ()
    assert not too_little(0.5, 0.1)
    assert too_little(0.49, 0.1)
    assert not too_little(0.0, 0.1)


def test_a_mix_holds_what_each_layer_takes_and_no_more_than_it_has() -> None:
    """Over amounts and scales: weighed well, what is in it adds up, no layer gives more of its bulk than it has."""
    for step in (0.01, 0.1, 1.0):
        for small in (0.0004, 0.003, 0.02, 0.1):
            for bulk in (0.05, 0.8, 4.0):
                batch = made(one=base(small, bulk), two=base(3 * small, 2 * bulk))
                there = {one.layer_id: {other.ingredient_id: other.grams for other in one.ingredients} for one in batch}
                for mix in premixes(batch, step, PANTRY):
                    share_of = mix.part_g / mix.made_g
                    assert mix.part_g >= 10 * step - 1e-9
                    assert sum(share.mix_g for share in mix.shares) <= mix.made_g + 1e-9
                    for share in mix.shares:
                        assert share.mix_g >= 10 * step - 1e-9
                        assert share.mix_g * share_of == pytest.approx(there[share.layer_id][STEVIA])
                        carriers = [
                            grams for key, grams in there[share.layer_id].items() if key not in {STEVIA, "butter-unsalted"}
                        ]
                        assert share.carrier_g <= max(carriers) + 1e-9


def test_water_carries_it_where_nothing_dry_does() -> None:
    """A caramel of syrup and cream has its own water: the sweetener is dissolved in it."""
    (mix,) = mixed(
        0.1,
        caramel=(
            line(SUCRALOSE, 0.002, "intense-sweetener"),
            line("maltitol-syrup", 5.0, "doctor-sugar"),
            line("heavy-cream", 4.0, "dairy-liquid"),
            line("water", 1.0, "water"),
        ),
    )
    assert mix.dissolved
    assert mix.carrier == "water"
    assert mix.words.startswith("Dissolve 1 g of sucralose in")
    assert mix.words.endswith("fridge.")


def test_an_amount_that_is_open_is_in_no_mix() -> None:
    """Nor is it thinned with what nobody knows the amount of."""
    assert mixed(0.1, one=(line(STEVIA, 0.0, "intense-sweetener"), line("erythritol", 4.0, "sweet-bulk"))) == ()


def test_several_sweeteners_take_no_more_than_there_is() -> None:
    """Two mixes and a dilution that share a carrier: together they leave nothing below nought, and ask for no more powder."""
    for bulk in (0.3, 1.0, 4.0, 12.0):
        both = (line(STEVIA, 0.02, "intense-sweetener"), line(SUCRALOSE, 0.011, "intense-sweetener"), line("erythritol", bulk))
        batch = made(one=both, two=both)
        there = {(layer.layer_id, one.line_id): one.grams for layer in batch for one in layer.ingredients}
        mixes = premixes(batch, 0.1, PANTRY)
        assert all(grams <= there[at] + 1e-9 for at, grams in spent_on(mixes).items())
        for mix in mixes:
            assert mix.carrier_g <= 2 * 10 * bulk + 1e-9
            assert mix.part_g / 0.1 == pytest.approx(round(mix.part_g / 0.1))


@pytest.mark.parametrize(
    "food", ["dates", "dark-chocolate-55", "almond-roasted", "rolled-oats", "plain-biscuit-crumbs", "butter-unsalted"]
)
def test_nothing_is_sieved_with_pieces(food: str) -> None:
    """A powder carries a powder; dates, chocolate, nuts, flakes and crumbs do not."""
    lines = (line(STEVIA, 0.02, "intense-sweetener"), line(food, 20.0, "bulk"))
    assert mixed(0.1, one=lines, two=lines) == ()


def test_how_much_less_sweet_is_not_said_where_it_is_not_known() -> None:
    """Of something whose sweetness nobody entered no share is worked out."""
    lines = (line(SUCRALOSE, 0.002, "intense-sweetener"), line("cocoa-butter", 4.0, "fat"))
    (batch,) = made(coat=lines)
    known = without_a_mix(batch, batch.ingredients[0], 0.1, PANTRY)
    assert "100 % less sweet" in known
    foods = {**PANTRY.by_id, "cocoa-butter": replace(PANTRY["cocoa-butter"], sweetness=None)}
    unknown = without_a_mix(batch, batch.ingredients[0], 0.1, Pantry(foods))
    assert unknown.startswith("Too little for this scale")
    assert "%" not in unknown


def test_what_stays_in_the_jar_is_bought() -> None:
    """0.34 g of stevia are taken of a mix of 1 g with 9 g of erythritol: two thirds of it stay, and are on the list."""
    parts = formula(layer("one", "keto-short-base", *base(0.011, 4.0)), layer("two", "keto-short-base", *base(0.023, 6.0)))
    batch = scaled(parts, 10, dict.fromkeys(("one", "two"), 0.0), PANTRY, FAMILIES)
    left = left_of(premixes(batch.layers, 0.1, PANTRY))
    assert left == {STEVIA: pytest.approx(0.66), "erythritol": pytest.approx(5.94)}
    before = {one.ingredient_id: one for one in batch.shopping}
    bought = {one.ingredient_id: one for one in with_more(batch, left).shopping}
    assert bought[STEVIA].grams == pytest.approx(1.0)
    assert bought["erythritol"].grams == pytest.approx(before["erythritol"].grams + 5.94)
    assert bought[STEVIA].fixed_g == pytest.approx(0.66)  # however many pieces are made
    assert bought["almond-flour"] == before["almond-flour"]
    assert with_more(batch, {}) is batch
