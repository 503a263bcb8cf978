"""Versions: how they begin, what is said of them, how solved amounts are written back."""

from dataclasses import replace

import pytest
from tests.bench import FAMILIES, PANTRY, caramel, formula, held_to, layer, line

from fern_match.core.estimate import Estimate
from fern_match.core.food import Pantry
from fern_match.core.food.together import Allergens
from fern_match.core.formulate import (
    Origin,
    OriginKind,
    Property,
    Version,
    VersionIngredient,
    VersionLayer,
    VersionTarget,
    compared,
    fitting_families,
    kitchen_version,
    layer_of_family,
    overview,
    read_targets,
    read_version,
    version_of_recipe,
    what_holds_back,
    written_grams,
    written_version,
)
from fern_match.core.formulate.beginning.changing import settled
from fern_match.core.formulate.beginning.component import NothingToKeep, component_of
from fern_match.core.formulate.beginning.kitchen_version import for_this_kitchen, kitchen_layer
from fern_match.core.formulate.telling.overview import with_declared
from fern_match.core.label.rows import Region
from fern_match.core.match import match_of_recipe, newest_compositions, outdated_compositions, without_version
from fern_match.core.measures import Measures
from fern_match.core.recipe import read_recipe
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, Place, Study
from fern_match.core.study.whereabouts import ANY_ROLE

RECIPE = """Makes 24
For the base:
2 1/4 cups plain flour
1 1/2 sticks butter
1/2 cup caster sugar
Caramel:
1 can condensed milk
60 g butter
2 tbsp golden syrup
Topping:
8 oz dark chocolate (55 %)
1 tbsp coconut oil
flaky salt, to taste
"""


@pytest.fixture(scope="module")
def demo(demo_study: Study, demo_estimate: Estimate, pantry: Pantry) -> tuple[Version, StudyReading]:
    """Night Crossing's faithful version."""
    reading = StudyReading(demo_study, pantry)
    return kitchen_version("faithful", demo_estimate, reading, "key"), reading


def test_the_faithful_version_is_a_kitchen_s(demo: tuple[Version, StudyReading]) -> None:
    """Chocolate as chocolate, each sugar once in a layer, and held to what the estimate gives."""
    version, _ = demo
    coat = version.layers[0]
    assert {one.ingredient for one in coat.ingredients} <= {"dark-chocolate-55", "dark-chocolate-70", "dark-chocolate-85"}
    for one in version.layers:
        names = [entry.ingredient for entry in one.ingredients]
        assert len(names) == len(set(names))
    assert {target.property for target in version.targets} >= {Property.MASS, Property.FAT, Property.SWEETNESS, Property.WATER}
    assert version.origin.key == "key"


def test_no_trace_is_weighed_where_another_layer_has_more(demo: tuple[Version, StudyReading]) -> None:
    """Of a body that solving all but takes away: 0.4 % of cocoa mass in a cream is the coat’s."""
    version, reading = demo
    formula = read_version(version, PANTRY)
    inside = formula.layers[-1]
    trace = line("cocoa-mass", 0.004 * inside.added_g, "cocoa-solids")
    with_a_trace = replace(
        formula,
        layers=tuple(replace(one, ingredients=(*one.ingredients, trace)) if one is inside else one for one in formula.layers),
    )
    made = for_this_kitchen(with_a_trace, read_targets(version, formula, reading), reading)
    now = next(one for one in made.layers if one.layer_id == inside.layer_id)
    assert "cocoa-mass" not in {one.ingredient_id for one in now.ingredients}


def test_the_faithful_version_prints_the_label(demo: tuple[Version, StudyReading]) -> None:
    """Every declared row within its printed rounding."""
    version, reading = demo
    found = overview(version, reading)
    declared = [row for row in found.rows if row.declared is not None]
    assert len(declared) >= 8
    assert all(row.reached for row in declared)
    assert all(row.printed == row.declared for row in declared)


def test_what_is_missed_is_said_and_why(demo: tuple[Version, StudyReading]) -> None:
    """Each missed target has its sentence; what is reached has none: a coat of chocolate cannot be two thirds fat."""
    version, reading = demo
    targets = tuple(replace(one, wanted="9.5 g") if one.id == "coat-fat" else one for one in version.targets)
    version = replace(version, targets=targets)
    found = overview(version, reading)
    held = what_holds_back(found, reading)
    missed = [one.name for one in held.targets if not one.reached]
    assert len(held.held_back) <= len(missed)
    assert held.held_back
    for sentence in held.held_back:
        assert any(sentence.startswith(name) for name in missed)


def test_solved_amounts_are_written_back_and_typed_ones_stay() -> None:
    """What did not change keeps what was typed; what changed is written in grams."""
    lines = (
        VersionIngredient(id="a", ingredient="white-sugar", name="Sugar", role="sweet-bulk", amount="1/2 oz", locked=True),
        VersionIngredient(id="b", ingredient="heavy-cream", name="Cream", role="dairy-liquid", amount="3 g"),
    )
    version = Version(id="v", name="V", layers=(VersionLayer(id="l", name="L", family="soft-caramel", ingredients=lines),))
    before = read_version(version, PANTRY)
    (part,) = before.layers
    changed = replace(part, ingredients=(part.ingredients[0], replace(part.ingredients[1], grams=4.25)), water_lost_g=1.5)
    after = written_version(version, before, replace(before, layers=(changed,)))
    assert [one.amount for one in after.layers[0].ingredients] == ["1/2 oz", "4.25 g"]
    assert after.layers[0].ingredients[0].locked
    assert after.layers[0].water_lost == "1.5 g"
    assert read_version(after, PANTRY).layers[0].finished_g == pytest.approx(changed.finished_g)


def test_a_computed_weight_is_read_the_same_everywhere() -> None:
    """Three decimals alone could be a group of thousands."""
    for grams in (13.321, 1.234, 0.5, 250.125):
        version = Version(
            id="v",
            name="V",
            layers=(
                VersionLayer(
                    id="l",
                    name="L",
                    family="soft-caramel",
                    ingredients=(VersionIngredient(id="a", ingredient="white-sugar", name="S", amount=written_grams(grams)),),
                ),
            ),
        )
        assert read_version(version, PANTRY).layers[0].ingredients[0].grams == pytest.approx(grams)


def test_parts_and_least_amounts_are_read_or_said() -> None:
    """A part is a figure; a least amount is typed in any unit, as every amount is."""
    lines = (
        VersionIngredient(id="a", ingredient="white-sugar", name="Sugar", part="two"),
        VersionIngredient(id="b", ingredient="white-sugar", name="Sugar", least="many"),
        VersionIngredient(id="c", ingredient="white-sugar", name="Sugar", least="2 tsp"),
    )
    version = Version(id="v", name="V", layers=(VersionLayer(id="l", name="L", family="soft-caramel", ingredients=lines),))
    read = read_version(version, PANTRY)
    said = {one.line_id: one.sentence for one in read.problems}
    assert "A part is a figure" in said["a"]
    assert "many" in said["b"]
    assert set(said) == {"a", "b"}
    assert read.layers[0].ingredients[2].least_g == pytest.approx(10 * 0.85)  # 10 mL of sugar


def test_a_layer_by_its_working_ratio() -> None:
    """Each usual role with its usual ingredient, at the weight asked for."""
    part = layer_of_family(FAMILIES["short-base"], 12.0, "base", "Base", PANTRY)
    version = Version(id="v", name="V", layers=(part,))
    read = read_version(version, PANTRY).layers[0]
    assert read.finished_g == pytest.approx(12.0, abs=1e-4)
    assert {one.ingredient_id for one in read.ingredients} >= {"plain-wheat-flour", "butter-unsalted"}


def test_a_recipe_becomes_a_version_and_a_match() -> None:
    """Its parts as layers, by the family each fits; the recipe stands in for the estimate; open lines stay open."""
    recipe = read_recipe(RECIPE, PANTRY, measures=Measures.US)
    assert [fitting_families(section, FAMILIES)[0].family_id for section in recipe.sections] == [
        "short-base",
        "condensed-milk-caramel",
        "dark-coat",
    ]
    empty = Version(id="recipe", name="The recipe", origin=Origin(kind=OriginKind.RECIPE))
    version = version_of_recipe(
        recipe, empty, pieces=24, chosen={}, layer_ids=["base", "caramel", "top"], pantry=PANTRY, families=FAMILIES
    )
    base, sweet, top = version.layers
    assert base.ingredients[0].amount == written_grams(2.25 * 236.58824 * 0.53 / 24)
    assert next(one.amount for one in top.ingredients if one.ingredient == "flaky-salt") == ""
    read = read_version(version, PANTRY)
    assert read.layers[1].water_lost_g > 0
    match = match_of_recipe("Slab", Region.UK, version, 24, FAMILIES, PANTRY)
    assert {one.id for one in match.study.layers} == {"base", "caramel", "top"}
    assert match.batches[0].pieces == "24"
    assert all(one.place is not Place.COAT for one in match.study.layers if one.id != "top")
    assert {food.id for food in match.pinned} >= {"plain-wheat-flour", "sweetened-condensed-milk"}
    assert sweet.family == "condensed-milk-caramel"


def test_versions_line_by_line() -> None:
    """What is more, what is only in one."""
    before = formula(caramel())
    after = formula(replace(caramel(), ingredients=(*caramel().ingredients[:5], line("honey", 0.5, "doctor-sugar"))))
    lines = {one.ingredient_id: one for one in compared(before, after)}
    assert lines["honey"].before_g is None
    assert lines["fine-salt"].after_g is None
    assert lines["white-sugar"].same


def test_a_component_of_one_s_own() -> None:
    """A finished layer per 100 g: water less what was driven off, everything else from the table."""
    food = component_of(caramel(), "Our caramel", PANTRY, {"own-our-caramel"})
    assert food.id == "own-our-caramel-2"
    total = sum((food.per_100_g[key] or 0.0) for key in ("water_g", "protein_g", "fat_g", "carbohydrate_g", "ash_g", "alcohol_g"))  # type: ignore[index]
    assert total == pytest.approx(100, abs=1.5)
    assert "milk" in food.allergens
    assert food.price_per_kg is not None
    with pytest.raises(NothingToKeep):
        component_of(layer("empty", "soft-caramel"), "Nothing", PANTRY, ())


def test_a_version_goes_with_its_batches(demo: tuple[Version, StudyReading]) -> None:
    """And what was made after it stays."""
    version, reading = demo
    match = match_of_recipe("M", Region.EU, version, 12, FAMILIES, reading.pantry)
    child = replace(version, id="child", parent=version.id)
    both = replace(match, versions=(*match.versions, child))
    left = without_version(both, version.id)
    assert [one.id for one in left.versions] == ["child"]
    assert left.versions[0].parent is None
    assert left.batches == ()


def test_a_changed_pantry_waits_to_be_taken(demo: tuple[Version, StudyReading]) -> None:
    """A match keeps what it began with until it is told to take the newest."""
    version, reading = demo
    match = match_of_recipe("M", Region.EU, version, 12, FAMILIES, reading.pantry)
    sweeter = replace(reading.pantry["tahini"], sweetness=0.2)
    changed = reading.pantry.with_pinned([sweeter])
    assert outdated_compositions(match, changed, ["tahini", "dates"]) == (reading.pantry["tahini"],)
    assert next(food for food in newest_compositions(match, changed).pinned if food.id == "tahini") == sweeter


def test_a_target_that_is_typed_is_read_in_any_unit(demo: tuple[Version, StudyReading]) -> None:
    """Ounces too; what is not read says so and counts as its usual tolerance."""
    version, reading = demo
    first = replace(version.targets[0], wanted="1/2 oz", tolerance="much")
    changed = replace(version, targets=(first, *version.targets[1:]))
    found = read_targets(changed, read_version(changed, PANTRY), reading)[0]
    assert found.wanted == pytest.approx(14.175, abs=0.001)
    assert found.tolerance_problem is not None


@pytest.mark.parametrize("typed", ["heavy", "", "  "])
def test_a_target_that_was_not_read_stays_and_says_so(demo: tuple[Version, StudyReading], typed: str) -> None:
    """It holds to nothing until it is mended, and is not gone."""
    version, reading = demo
    changed = replace(version, targets=(replace(version.targets[0], wanted=typed), *version.targets[1:]))
    found = read_targets(changed, read_version(changed, PANTRY), reading)
    assert found[0].id == version.targets[0].id
    assert found[0].problem
    assert not found[0].reached
    assert found[0].gap == 0


@pytest.mark.parametrize(
    ("was", "typed", "locked_after"),
    [("2 g", "3 g", True), ("2 g", "", False), ("2 g", "2 g", False), ("", "a splash", True)],
)
def test_what_is_typed_is_fixed(was: str, typed: str, locked_after: bool) -> None:
    """Whoever writes it, page, API command line: a changed amount is locked, an emptied one free."""
    line = VersionIngredient(id="l", ingredient="honey", name="Honey", role="", amount=was)
    before = Version(id="v", name="V", layers=(VersionLayer(id="a", name="A", family="soft-caramel", ingredients=(line,)),))
    after = replace(before, layers=(replace(before.layers[0], ingredients=(replace(line, amount=typed),)),))
    assert settled(before, after).layers[0].ingredients[0].locked is locked_after


def test_targets_go_with_their_layer() -> None:
    """A layer that is taken out takes what was wanted of it along; the whole piece's stays."""
    layer = VersionLayer(id="a", name="A", family="soft-caramel")
    of_layer = VersionTarget(id="t", layer="a", property=Property.FAT, wanted="1")
    of_piece = VersionTarget(id="p", property=Property.SWEETNESS, wanted="1")
    before = Version(id="v", name="V", layers=(layer,), targets=(of_layer, of_piece))
    assert settled(before, replace(before, layers=())).targets == (of_piece,)


@pytest.mark.parametrize(
    ("statement", "kept", "in_doubt"),
    [
        ("Filling (sugar, cream, egg liqueur), dark chocolate (cocoa mass, sugar)", "liqueur", ["egg"]),
        ("Filling (sugar, cream, egg liqueur), dark chocolate (cocoa mass, sugar)", "white-sugar", []),  # went with its line
        (
            "Filling (sugar, cream, egg liqueur, egg wizardry), dark chocolate (cocoa mass, sugar)",
            "white-sugar",
            ["egg"],
        ),  # of what else?
        (
            "Filling (sugar, cream), dark chocolate (cocoa mass, sugar). Contains egg.",
            "white-sugar",
            ["egg"],
        ),  # of nobody knows what
    ],
)
def test_what_no_line_explained_goes_with_what_the_label_says_it_of(
    pantry: Pantry, statement: str, kept: str, in_doubt: list[str]
) -> None:
    """Egg of a liqueur that the pantry knows without: in doubt of a vegan version while the liqueur is in it; no milk is."""
    reading = StudyReading(Study(name="w", region=Region.EU, statement=statement), pantry)
    assert set(reading.unplaced_allergens) == {"egg"}
    line = VersionIngredient(id="one", ingredient=kept, name=kept, amount="4 g")
    vegan = Version(
        id="v",
        name="Vegan",
        layers=(VersionLayer(id="f", name="Filling", family="soft-caramel", ingredients=(line,)),),
        origin=Origin(kind=OriginKind.ADAPTED, rules=("vegan",)),
    )
    found = with_declared(Allergens(holds=(), not_known=()), vegan, reading)
    assert [one.allergen for one in found.may] == in_doubt


def test_a_filling_is_made_with_the_chocolate_that_one_buys() -> None:
    """A ganache estimated from cream, cocoa mass, sugar and cocoa butter is cream and dark chocolate; vanilla stays as little."""
    statement = (
        "Dark chocolate 40 % (cocoa mass, sugar, cocoa butter), ganache 60 % (cream, dark chocolate (cocoa mass, sugar, cocoa "
        "butter), glucose syrup, butter, vanilla extract)"
    )
    layers = (
        Layer(id="coat", name="Coat", family="dark-coat", place=Place.COAT),
        Layer(id="ganache", name="Ganache", family="ganache-dark", place=Place.CORE),
    )
    reading = StudyReading(Study(name="x", region=Region.EU, statement=statement, layers=layers), PANTRY)
    coat = layer("coat", "dark-coat", line("cocoa-mass", 2.3), line("white-sugar", 1.8), line("cocoa-butter", 0.9))
    parts = [("heavy-cream", 2.8), ("cocoa-mass", 1.9), ("white-sugar", 1.6), ("cocoa-butter", 0.2), ("butter-unsalted", 0.2)]
    lines = [line(key, grams) for key, grams in (*parts, ("glucose-syrup-42de", 0.9), ("vanilla-extract", 0.07))]
    was = formula(coat, layer("ganache", "ganache-dark", *lines))
    made = for_this_kitchen(was, held_to(was, reading), reading)
    now = {one.ingredient_id: one.grams for one in made.layers[1].ingredients}
    assert not {"cocoa-mass", "cocoa-butter", "white-sugar"} & now.keys()
    assert 3.0 < sum(grams for key, grams in now.items() if key.startswith("dark-chocolate")) < 4.2
    assert now["vanilla-extract"] == pytest.approx(0.07, rel=0.3)
    assert made.layers[1].finished_g == pytest.approx(was.layers[1].finished_g, abs=1e-6)
    assert all(one.ingredient_id.startswith("dark-chocolate") for one in made.layers[0].ingredients)


@pytest.mark.parametrize(
    ("family", "was", "now"),
    [
        ("whole-nuts", "peanut-raw", "peanut-roasted"),
        ("nougat-honey", "almond-raw", "almond-roasted"),
        ("marzipan", "almond-raw", "almond-flour"),
        ("brittle", "peanut-raw", "peanut-raw"),  # roasts in the syrup
        ("fruit-nut-paste", "almond-raw", "almond-raw"),
        ("feuilletine-praline", "hazelnut-roasted", "hazelnut-paste"),
        ("gianduja", "white-sugar", "icing-sugar"),
        ("buttercream", "white-sugar", "icing-sugar"),
        ("milk-coat", "milk-chocolate-chips", "milk-chocolate-33"),
        ("cookie-dough", "semi-sweet-chips", "semi-sweet-chips"),  # chips are what it is for
    ],
)
def test_a_kitchen_takes_the_form_that_does_the_work(family: str, was: str, now: str) -> None:
    """Roasted nuts, ground almonds, icing sugar where nothing dissolves it, couverture for a coat."""
    made = kitchen_layer(layer("one", family, line(was, 5), line("fine-salt", 0.1)), PANTRY, FAMILIES)
    assert now in {one.ingredient_id for one in made.ingredients}


@pytest.mark.parametrize(
    ("family", "parts", "bought"),
    [
        ("dark-coat", {"cocoa-mass": 50, "white-sugar": 42, "cocoa-butter": 7.5}, {"dark-chocolate-55"}),
        ("dark-coat", {"cocoa-mass": 62, "white-sugar": 29.5, "cocoa-butter": 8}, {"dark-chocolate-70"}),  # not 55 with 85
        ("dark-coat", {"cocoa-mass": 54, "white-sugar": 37.5, "cocoa-butter": 8}, {"dark-chocolate-55", "dark-chocolate-70"}),
        ("dark-coat", {"cocoa-mass": 70, "white-sugar": 22, "cocoa-butter": 7.5}, {"dark-chocolate-70", "dark-chocolate-85"}),
        (
            "aerated-chocolate",
            {"white-sugar": 51, "cocoa-butter": 18.5, "whole-milk-powder": 20, "cocoa-mass": 10},
            {"milk-chocolate-33"},
        ),
        (
            "sugar-free-dark-coat",
            {"cocoa-mass": 46, "maltitol-powder": 43, "cocoa-butter": 10},
            {"sugar-free-dark-chocolate-maltitol"},
        ),
        ("sugar-free-dark-coat", {"cocoa-mass": 58, "erythritol": 31, "cocoa-butter": 10}, {"dark-chocolate-erythritol-stevia"}),
        (
            "aerated-chocolate",
            {"white-sugar": 45, "cocoa-butter": 30, "whole-milk-powder": 24.5},
            {"white-chocolate"},
        ),
    ],
)
def test_a_coat_is_of_one_chocolate_where_one_is_nearly_it(family: str, parts: dict[str, float], bought: set[str]) -> None:
    """Within four points of cocoa of one, or else of the two on either side of it; milk and white by their shade."""
    made = kitchen_layer(layer("one", family, *(line(key, grams) for key, grams in parts.items())), PANTRY, FAMILIES)
    assert {one.ingredient_id for one in made.ingredients} == bought


def test_milk_powder_beside_an_opened_chocolate_is_the_filling_s_own() -> None:
    """What the label names beside the chocolate stays, though the chocolate could hold it, too; its own parts go."""
    lines = [
        line("hazelnut-paste", 2.0, "nut-solids"),
        line("white-sugar", 2.3, "sweet-bulk"),
        line("white-sugar", 0.3, "sweet-bulk"),
        line("feuilletine", 0.9, "crumb"),
        line("whole-milk-powder", 0.3, ANY_ROLE),
        line("cocoa-mass", 0.3, "cocoa-solids"),
        line("cocoa-butter", 0.2, "fat"),
        line("whole-milk-powder", 0.2, "milk-solids"),
    ]
    made = kitchen_layer(layer("one", "feuilletine-praline", *lines), PANTRY, FAMILIES, FAMILIES["milk-coat-open"])
    now = {one.ingredient_id: one.grams for one in made.ingredients}
    assert now["whole-milk-powder"] == pytest.approx(0.3)
    assert now["icing-sugar"] == pytest.approx(2.3)
    assert now["milk-chocolate-33"] == pytest.approx(0.3 + 0.2 + 0.2 + 0.3)  # all that was its own
    assert not {"cocoa-mass", "cocoa-butter"} & now.keys()
