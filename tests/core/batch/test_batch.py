"""Versions and batches: grams that add up."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.batch import Batch, BatchPlan, BatchReading, HeatHere, WeightHere, cautions, read_batch, scaled
from fern_match.core.errors import OutOfRange
from fern_match.core.estimate import Estimate
from fern_match.core.estimate.result import Range
from fern_match.core.families import standard_families
from fern_match.core.food import Pantry, standard_pantry
from fern_match.core.formulate import (
    Formula,
    FormulaIngredient,
    FormulaLayer,
    Version,
    VersionIngredient,
    VersionLayer,
    faithful_version,
    overview,
    read_version,
)
from fern_match.core.kitchen import Kitchen, read_kitchen
from fern_match.core.measures import Measures
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

FAMILIES = standard_families()


def ingredient(ingredient_id: str, grams: float) -> FormulaIngredient:
    """One ingredient as added."""
    return FormulaIngredient(ingredient_id=ingredient_id, name=ingredient_id, role="any", grams=grams)


CARAMEL = FormulaLayer(
    layer_id="caramel",
    name="Caramel",
    family="soft-caramel",
    water_lost_g=2.0,
    ingredients=(ingredient("white-sugar", 4.0), ingredient("heavy-cream", 5.99), ingredient("fine-salt", 0.01)),
)
FORMULA = Formula(name="Faithful", layers=(CARAMEL,))


def batch_of(layer: VersionLayer, pieces: int = 10) -> Batch:
    """A batch of one layer."""
    return scaled(replace(FORMULA, layers=(layer,)), pieces, {}, standard_pantry(), FAMILIES)


def test_the_worked_example(pantry: Pantry) -> None:
    """24 pieces of 8 g, 3.5 % on tools, a fifth boiled off: 192 needed, 198.96 made, 248.70 in the pan, 49.74 steam."""
    layer = scaled(FORMULA, 24, {}, pantry, FAMILIES).layers[0]
    assert layer.needed_g == pytest.approx(192.0)
    assert layer.left_on_tools == pytest.approx(0.035)
    assert layer.made_g == pytest.approx(198.96, abs=0.005)
    assert layer.added_g == pytest.approx(248.70, abs=0.005)
    assert layer.water_lost_g == pytest.approx(49.74, abs=0.005)


@given(st.integers(1, 500), st.floats(0, 0.5))
def test_everything_that_goes_in_comes_out(pieces: int, share: float) -> None:
    """Added = lost + left on tools + in the pieces, and ingredients make what is added."""
    layer = scaled(FORMULA, pieces, {"caramel": share}, standard_pantry(), FAMILIES).layers[0]
    assert layer.added_g == pytest.approx(layer.water_lost_g + layer.left_on_tools_g + layer.needed_g)
    assert sum(one.grams for one in layer.ingredients) == pytest.approx(layer.added_g)


@pytest.mark.parametrize(("pieces", "share"), [(0, 0.1), (20_000, 0.1), (10, 0.6), (10, -0.1)])
def test_impossible_batches_are_refused(pieces: int, share: float, pantry: Pantry) -> None:
    """Pieces and losses have limits."""
    with pytest.raises(OutOfRange):
        scaled(FORMULA, pieces, {"caramel": share}, pantry, FAMILIES)


def test_faithful_version_keeps_masses(demo_estimate: Estimate) -> None:
    """Every layer keeps its finished mass, its water lost and its balance."""
    version = read_version(faithful_version("v1", demo_estimate), standard_pantry())
    assert version.problems == ()
    assert version.piece_g == pytest.approx(demo_estimate.piece_g.best, abs=1e-4)
    for layer, found in zip(version.layers, demo_estimate.layers, strict=True):
        assert layer.finished_g == pytest.approx(found.grams.best, abs=1e-4)
        assert layer.added_g - layer.water_lost_g == pytest.approx(layer.finished_g)


def test_unlikely_ingredients_are_left_out(demo_estimate: Estimate) -> None:
    """What is probably not there is not weighed out; the rest makes up for it."""
    layer = demo_estimate.layers[0]
    doubtful = replace(layer.ingredients[-1], presence=0.2)
    changed = replace(demo_estimate, layers=(replace(layer, ingredients=(*layer.ingredients[:-1], doubtful)),))
    made = read_version(faithful_version("v1", changed), standard_pantry()).layers[0]
    assert doubtful.ingredient_id not in {one.ingredient_id for one in made.ingredients}
    assert made.added_g - made.water_lost_g == pytest.approx(layer.grams.best, abs=1e-4)


@pytest.mark.parametrize(
    ("share", "low", "role", "stays"),
    [
        (0.004, 0.0, "fat", False),
        (0.004, 0.5, "fat", True),
        (0.05, 0.0, "fat", True),
        (0.05, 0.0, "fruit-solids", False),
        (0.05, 0.5, "fruit-solids", True),
        (0.004, 0.0, "salt", True),
    ],
)
def test_a_trace_is_left_to_the_layer_that_has_most_of_it(
    demo_estimate: Estimate, share: float, low: float, role: str, stays: bool
) -> None:
    """0.4 % that may be none is not stirred in, nor 5 % of fruit; what is surely there is, and what works by little."""
    coat, other = demo_estimate.layers[:2]
    most = max(coat.ingredients, key=lambda one: one.grams.best)
    best = share * other.grams.best
    trace = replace(most, role=role, grams=Range(best, low * best, 3 * best), share_of_layer=share, presence=0.9)
    changed = replace(demo_estimate, layers=(coat, replace(other, ingredients=(*other.ingredients, trace))))
    made = read_version(faithful_version("v1", changed), standard_pantry()).layers[1]
    assert (trace.ingredient_id in {one.ingredient_id for one in made.ingredients}) is stays


def test_shopping_adds_up_over_layers(demo_estimate: Estimate, pantry: Pantry) -> None:
    """Each ingredient once, with all its grams; the most first."""
    batch = scaled(read_version(faithful_version("v1", demo_estimate), pantry), 24, {}, pantry, FAMILIES)
    grams = [line.grams for line in batch.shopping]
    assert sum(grams) == pytest.approx(sum(layer.added_g for layer in batch.layers))
    assert grams == sorted(grams, reverse=True)
    assert len({line.ingredient_id for line in batch.shopping}) == len(batch.shopping)


def test_allergens_of_the_demo(demo_estimate: Estimate, pantry: Pantry) -> None:
    """Milk powder, wheat, sesame, almond: all named."""
    batch = scaled(read_version(faithful_version("v1", demo_estimate), pantry), 24, {}, pantry, FAMILIES)
    assert {"milk", "wheat", "sesame", "almond"} <= set(batch.allergens.holds)


@pytest.mark.parametrize(
    ("family", "ingredients", "topics"),
    [
        ("soft-caramel", ("white-sugar", "heavy-cream"), {"Hot sugar", "Allergens"}),
        ("wafer-sheet", ("plain-wheat-flour", "white-sugar"), {"Allergens"}),
        ("nougat-egg-white", ("white-sugar", "egg-white-fresh"), {"Hot sugar", "Raw egg", "Allergens"}),
        ("nougat-egg-white", ("whole-egg", "egg-yolk"), {"Hot sugar", "Raw egg", "Allergens"}),
        ("sugar-free-fondant", ("xylitol",), {"Dogs"}),
        ("date-caramel", ("dates",), set()),
    ],
)
def test_cautions_where_they_matter(family: str, ingredients: tuple[str, ...], topics: set[str], pantry: Pantry) -> None:
    """And only there."""
    layer = replace(CARAMEL, family=family, ingredients=tuple(ingredient(name, 1.0) for name in ingredients))
    assert {one.topic for one in cautions(batch_of(layer), pantry)} == topics


def test_many_polyols_warn(pantry: Pantry) -> None:
    """16 g of maltitol a piece: over half of the 30 g that often upset a stomach."""
    layer = replace(CARAMEL, family="maltitol-caramel", water_lost_g=0.0, ingredients=(ingredient("maltitol-powder", 16.0),))
    assert "Polyols" in {one.topic for one in cautions(batch_of(layer), pantry)}


def test_fibre_that_upsets_a_stomach_warns(pantry: Pantry) -> None:
    """6 g of inulin a piece, over half of what often does; 2 g say nothing."""
    for grams, warned in ((6.0, True), (2.0, False)):
        layer = replace(CARAMEL, family="date-caramel", water_lost_g=0.0, ingredients=(ingredient("inulin", grams),))
        assert ("Polyols" in {one.topic for one in cautions(batch_of(layer), pantry)}) is warned


VERSION = Version(
    id="v",
    name="Faithful",
    layers=(
        VersionLayer(
            id="caramel",
            name="Caramel",
            family="soft-caramel",
            water_lost="2 g",
            ingredients=tuple(
                VersionIngredient(id=key, ingredient=key, name=key, amount=amount)
                for key, amount in (("white-sugar", "4 g"), ("heavy-cream", "5.99 g"), ("fine-salt", "0.01 g"))
            ),
        ),
    ),
)


def plan_read(pieces: str, **more: dict[str, str]) -> BatchReading:
    """A plan of the caramel as read in a usual kitchen."""
    plan = BatchPlan(id="b", version="v", pieces=pieces, **more)
    reading = StudyReading(Study(name="x"), standard_pantry())
    return read_batch(plan, overview(VERSION, reading), reading, read_kitchen(Kitchen()))


def test_amounts_are_weighed_out_by_the_scale() -> None:
    """0.1 g steps, and 0.01 g below a gram with a word."""
    batch = plan_read("24").batch
    assert batch is not None
    by_id = {one.ingredient_id: one for one in batch.layers[0].ingredients}
    assert by_id["white-sugar"].weigh_out_g == pytest.approx(99.5, abs=0.21)  # 4 x 24 / 0.965 = 99.48
    assert by_id["fine-salt"].below_scale
    assert by_id["fine-salt"].weigh_out_g == pytest.approx(0.25, abs=0.021)  # 0.2487
    assert not by_id["heavy-cream"].below_scale


@pytest.mark.parametrize(("typed", "pieces"), [("24", 24), ("2 x 12", 24), ("", None), ("lots", None)])
def test_plans_are_read(typed: str, pieces: int | None) -> None:
    """A batch once the pieces are known, else none."""
    reading = plan_read(typed)
    assert (reading.batch.pieces if reading.batch else None) == pieces


def test_a_loss_that_was_not_read_counts_as_usual() -> None:
    """With its sentence."""
    reading = plan_read("10", left_on_tools={"caramel": "lots"})
    assert reading.left_on_tools["caramel"].problem
    assert reading.batch is not None
    assert reading.batch.layers[0].left_on_tools == pytest.approx(0.035)


def test_what_no_table_knows_is_scaled_and_said(pantry: Pantry) -> None:
    """Another kitchen's ingredient and family: grams add up, 3 % stays on tools, and a caution names both."""
    strange = replace(CARAMEL, family="moon-cheese", ingredients=(ingredient("stardust", 8.0), ingredient("honey", 2.0)))
    batch = batch_of(strange)
    assert batch.unknown == ("stardust", "Caramel (moon-cheese)")
    assert batch.layers[0].made_g == pytest.approx(80.0 / 0.97)
    assert [line.name for line in batch.shopping] == ["stardust", "Honey"]
    told = next(one for one in cautions(batch, pantry) if one.topic == "Not in the tables")
    assert told.sentence.startswith("stardust, Caramel (moon-cheese): allergens")


def test_a_formula_leaves_out_what_was_not_read_and_says_so(pantry: Pantry) -> None:
    """6 g of sugar less 2 g of water, whatever the other line meant; 9 g of water cannot leave 6 g."""
    lines = [
        VersionIngredient(id=str(at), ingredient="white-sugar", name="Sugar", amount=typed)
        for at, typed in enumerate(("6", "some"))
    ]
    layer = VersionLayer(id="c", name="Caramel", family="soft-caramel", water_lost="2 g", ingredients=tuple(lines))
    found = read_version(Version(id="v", name="V", layers=(layer,)), pantry)
    assert found.piece_g == pytest.approx(4.0)
    assert [(one.line_id, one.field) for one in found.problems] == [("1", "amount")]
    dry = read_version(Version(id="v", name="V", layers=(replace(layer, water_lost="9"),)), pantry)
    assert dry.piece_g == 0.0
    assert "9 g of water cannot leave 6 g" in dry.problems[-1].sentence


def test_a_boil_ends_where_this_thermometer_shows_it(pantry: Pantry) -> None:
    """Soft caramel ends at 118 C at sea level; with water boiling at 94.5 C on this thermometer that is 112.5 C."""
    here = scaled(FORMULA, 10, {}, pantry, FAMILIES, boiling_reading_c=94.5).layers[0].cook_end
    assert isinstance(here, HeatHere)
    assert (here.sea_level_c, here.low_c, here.aim_c, here.high_c) == (118.0, 108.5, 112.5, 115.5)


def test_what_is_boiled_with_polyols_ends_at_a_weight(pantry: Pantry) -> None:
    """10 g in the pan a piece and 8 g finished: 80 g are left of each 100; for ten pieces with 3.5 % on tools 82.9 g."""
    lines = (ingredient("maltitol-powder", 4.0), ingredient("heavy-cream", 6.0))
    end = scaled(replace(FORMULA, layers=(replace(CARAMEL, ingredients=lines),)), 10, {}, pantry, FAMILIES).layers[0].cook_end
    assert isinstance(end, WeightHere)
    assert end.left == pytest.approx(0.8)
    assert end.pan_g == pytest.approx(80 / 0.965)


def test_of_a_nougat_only_the_syrup_is_in_the_pan(pantry: Pantry) -> None:
    """8 g of syrup lose 2 g, so 75 g are left of each 100; what it is beaten into comes in afterwards, and is named."""
    syrup = (replace(ingredient("maltitol-syrup", 5.0), role="doctor-sugar"), replace(ingredient("water", 3.0), role="water"))
    after = (
        replace(ingredient("egg-white-fresh", 1.0), role="aerator"),
        replace(ingredient("cocoa-butter", 0.9), role="fat"),
        replace(ingredient("sucralose", 0.1), role="intense-sweetener"),
    )
    layer = replace(CARAMEL, family="sugar-free-nougat", ingredients=(*syrup, *after), water_lost_g=2.0)
    end = scaled(replace(FORMULA, layers=(layer,)), 10, {layer.layer_id: 0.0}, pantry, FAMILIES).layers[0].cook_end
    assert isinstance(end, WeightHere)
    assert (end.left, end.pan_g) == (pytest.approx(0.75), pytest.approx(60.0))
    assert len(end.apart) == 3


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
    made = scaled(replace(FORMULA, layers=(bought,)), 10, {"caramel": 0.0}, pantry, FAMILIES, measures=measures)
    said = [made.layers[0].ingredients[0].scooped, made.shopping[0].scooped]
    assert [one.words for one in said if one] == [words, words]
