"""Versions and batches: grams that add up."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.batch import Batch, cautions, scaled
from fern_match.core.errors import NotKnown, OutOfRange
from fern_match.core.estimate import Estimate
from fern_match.core.food import Pantry, standard_pantry
from fern_match.core.formulate import Version, VersionIngredient, VersionLayer, faithful_version
from fern_match.core.match import BatchPlan, Match, read_batch
from fern_match.core.measures import Measures
from fern_match.core.study.record import Study


def ingredient(ingredient_id: str, grams: float) -> VersionIngredient:
    """One ingredient as added."""
    return VersionIngredient(ingredient_id=ingredient_id, name=ingredient_id, role="any", grams=grams)


CARAMEL = VersionLayer(
    layer_id="caramel",
    name="Caramel",
    family="soft-caramel",
    finished_g=8.0,
    water_lost_g=2.0,
    ingredients=(ingredient("white-sugar", 4.0), ingredient("heavy-cream", 5.99), ingredient("fine-salt", 0.01)),
)
VERSION = Version(id="v", name="Faithful", parent=None, layers=(CARAMEL,))


def batch_of(layer: VersionLayer, pieces: int = 10) -> Batch:
    """A batch of one layer."""
    return scaled(replace(VERSION, layers=(layer,)), pieces, {}, standard_pantry())


def test_the_worked_example(pantry: Pantry) -> None:
    """24 pieces of 8 g, 3.5 % on tools, a fifth boiled off: 192 needed, 198.96 made, 248.70 in the pan, 49.74 steam."""
    layer = scaled(VERSION, 24, {}, pantry).layers[0]
    assert layer.needed_g == pytest.approx(192.0)
    assert layer.left_on_tools == pytest.approx(0.035)
    assert layer.made_g == pytest.approx(198.96, abs=0.005)
    assert layer.added_g == pytest.approx(248.70, abs=0.005)
    assert layer.water_lost_g == pytest.approx(49.74, abs=0.005)


@given(st.integers(1, 500), st.floats(0, 0.5))
def test_everything_that_goes_in_comes_out(pieces: int, share: float) -> None:
    """Added = lost + left on tools + in the pieces, and ingredients make what is added."""
    layer = scaled(VERSION, pieces, {"caramel": share}, standard_pantry()).layers[0]
    assert layer.added_g == pytest.approx(layer.water_lost_g + layer.left_on_tools_g + layer.needed_g)
    assert sum(one.grams for one in layer.ingredients) == pytest.approx(layer.added_g)


def test_amounts_are_rounded_to_the_scale(pantry: Pantry) -> None:
    """0.1 g steps, and 0.01 g below a gram with a word."""
    by_id = {one.ingredient_id: one for one in scaled(VERSION, 24, {}, pantry).layers[0].ingredients}
    assert by_id["white-sugar"].weigh_out_g == pytest.approx(99.5)  # 4 x 24 / 0.965 = 99.48
    assert by_id["fine-salt"].below_scale
    assert by_id["fine-salt"].weigh_out_g == pytest.approx(0.25)  # 0.2487
    assert not by_id["heavy-cream"].below_scale


@pytest.mark.parametrize(("pieces", "share"), [(0, 0.1), (20_000, 0.1), (10, 0.6), (10, -0.1)])
def test_impossible_batches_are_refused(pieces: int, share: float, pantry: Pantry) -> None:
    """Pieces and losses have limits."""
    with pytest.raises(OutOfRange):
        scaled(VERSION, pieces, {"caramel": share}, pantry)


def test_faithful_version_keeps_masses(demo_estimate: Estimate) -> None:
    """Every layer keeps its finished mass, its water lost and its balance."""
    version = faithful_version("v1", demo_estimate)
    assert version.piece_g == pytest.approx(demo_estimate.piece_g.best)
    for layer, found in zip(version.layers, demo_estimate.layers, strict=True):
        assert layer.finished_g == pytest.approx(found.grams.best)
        assert layer.added_g - layer.water_lost_g == pytest.approx(layer.finished_g)


def test_unlikely_ingredients_are_left_out(demo_estimate: Estimate) -> None:
    """What is probably not there is not weighed out; the rest makes up for it."""
    layer = demo_estimate.layers[0]
    doubtful = replace(layer.ingredients[-1], presence=0.2)
    changed = replace(demo_estimate, layers=(replace(layer, ingredients=(*layer.ingredients[:-1], doubtful)),))
    made = faithful_version("v1", changed).layers[0]
    assert doubtful.ingredient_id not in {one.ingredient_id for one in made.ingredients}
    assert made.added_g - made.water_lost_g == pytest.approx(layer.grams.best)


def test_shopping_adds_up_over_layers(demo_estimate: Estimate, pantry: Pantry) -> None:
    """Each ingredient once, with all its grams; the most first."""
    batch = scaled(faithful_version("v1", demo_estimate), 24, {}, pantry)
    grams = [line.grams for line in batch.shopping]
    assert sum(grams) == pytest.approx(sum(layer.added_g for layer in batch.layers))
    assert grams == sorted(grams, reverse=True)
    assert len({line.ingredient_id for line in batch.shopping}) == len(batch.shopping)


def test_allergens_of_the_demo(demo_estimate: Estimate, pantry: Pantry) -> None:
    """Milk powder, wheat, sesame, almond: all named."""
    batch = scaled(faithful_version("v1", demo_estimate), 24, {}, pantry)
    assert {"milk", "wheat", "sesame", "almond"} <= set(batch.allergens)


@pytest.mark.parametrize(
    ("family", "ingredients", "topics"),
    [
        ("soft-caramel", ("white-sugar", "heavy-cream"), {"Hot sugar", "Allergens"}),
        ("wafer-sheet", ("plain-wheat-flour", "white-sugar"), {"Allergens"}),
        ("nougat-egg-white", ("white-sugar", "egg-white-fresh"), {"Hot sugar", "Raw egg", "Allergens"}),
        ("sugar-free-fondant", ("xylitol",), {"Dogs"}),
        ("date-caramel", ("dates",), set()),
    ],
)
def test_cautions_where_they_matter(family: str, ingredients: tuple[str, ...], topics: set[str], pantry: Pantry) -> None:
    """And only there."""
    layer = replace(CARAMEL, family=family, ingredients=tuple(ingredient(name, 1.0) for name in ingredients))
    assert {one.topic for one in cautions(batch_of(layer), pantry)} == topics


def test_many_polyols_warn(pantry: Pantry) -> None:
    """12 g of maltitol a piece."""
    layer = replace(
        CARAMEL, family="maltitol-caramel", finished_g=12.0, water_lost_g=0.0, ingredients=(ingredient("maltitol-powder", 12.0),)
    )
    assert "Polyols" in {one.topic for one in cautions(batch_of(layer), pantry)}


@pytest.mark.parametrize(("typed", "pieces"), [("24", 24), ("2 x 12", 24), ("", None), ("lots", None)])
def test_plans_are_read(typed: str, pieces: int | None, demo_study: Study, pantry: Pantry) -> None:
    """A batch once the pieces are known, else none."""
    match = Match(study=demo_study, versions=(VERSION,))
    reading = read_batch(match, BatchPlan(id="b", version_id="v", pieces=typed), pantry)
    assert (reading.batch.pieces if reading.batch else None) == pieces


def test_a_loss_that_was_not_read_counts_as_usual(demo_study: Study, pantry: Pantry) -> None:
    """With its sentence."""
    match = Match(study=demo_study, versions=(VERSION,))
    plan = BatchPlan(id="b", version_id="v", pieces="10", left_on_tools={"caramel": "lots"})
    reading = read_batch(match, plan, pantry)
    assert reading.left_on_tools["caramel"].problem
    assert reading.batch is not None
    assert reading.batch.layers[0].left_on_tools == pytest.approx(0.035)


def test_a_plan_of_no_version_is_refused(demo_study: Study, pantry: Pantry) -> None:
    """The error names it."""
    with pytest.raises(NotKnown) as caught:
        read_batch(Match(study=demo_study), BatchPlan(id="b", version_id="gone", pieces="1"), pantry)
    assert caught.value.key == "gone"


def test_a_boil_ends_where_this_thermometer_shows_it(pantry: Pantry) -> None:
    """Soft caramel ends at 118 C at sea level; with water boiling at 94.5 C on this thermometer that is 112.5 C."""
    here = scaled(VERSION, 10, {}, pantry, boiling_reading_c=94.5).layers[0].cook_end
    assert here is not None
    assert (here.sea_level_c, here.low_c, here.aim_c, here.high_c) == (118.0, 108.5, 112.5, 115.5)


@pytest.mark.parametrize("family", ["dark-coat", "short-base", "ganache-dark", "date-caramel"])
def test_what_is_not_boiled_has_no_end(family: str) -> None:
    """Baked, melted and pressed layers do not end at a boiling point."""
    assert batch_of(replace(CARAMEL, family=family)).layers[0].cook_end is None


@pytest.mark.parametrize(
    ("food", "grams_a_piece", "measures", "words"),
    [
        ("dates", 8.4, Measures.METRIC, "12 dates"),  # ten pieces: 84 g, 7 g a date
        ("whole-egg", 10.0, Measures.METRIC, "2 eggs"),
        ("whole-egg", 7.5, Measures.METRIC, "1/4 cup + 2 tsp"),  # an egg and a half is not counted; 72.8 mL: 62.5 + 10
        ("white-sugar", 10.0, Measures.METRIC, "1/3 cup + 2 1/2 tbsp"),  # not 25 cubes; 117.6 mL: 83.3 + 37.5, less than 3 % off
        ("butter-unsalted", 17.01, Measures.US, "1 1/2 sticks"),
        ("butter-unsalted", 17.01, Measures.METRIC, "2/3 cup + 1/2 tbsp"),
        ("peanut-roasted", 6.5, Measures.METRIC, "1/3 cup + 1 1/2 tbsp"),  # a hundred peanuts are not counted
    ],
)
def test_what_comes_in_pieces_is_counted(food: str, grams_a_piece: float, measures: Measures, words: str, pantry: Pantry) -> None:
    """Where a whole number comes near; sticks where butter comes in sticks; on the shopping list too."""
    bought = replace(CARAMEL, family="peanut-filling", water_lost_g=0.0, ingredients=(ingredient(food, grams_a_piece),))
    made = scaled(
        replace(VERSION, layers=(replace(bought, finished_g=grams_a_piece),)), 10, {"caramel": 0.0}, pantry, measures=measures
    )
    said = [made.layers[0].ingredients[0].scooped, made.shopping[0].scooped]
    assert [one.words for one in said if one] == [words, words]
