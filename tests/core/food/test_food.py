"""The pantry is sound, and names on labels find their ingredient."""

from dataclasses import replace

import pytest

from fern_match.core.data import rows
from fern_match.core.errors import MissingValue, NotKnown
from fern_match.core.food import Nutrient, Pantry, matched_name
from fern_match.core.food.spreads import lot_spread, second_figure


def test_parts_of_every_ingredient_add_up(pantry: Pantry) -> None:
    """Water, protein, fat, carbohydrate, ash and alcohol make 100 g, within the table's rounding."""
    parts = (Nutrient.WATER, Nutrient.PROTEIN, Nutrient.FAT, Nutrient.CARBOHYDRATE, Nutrient.ASH, Nutrient.ALCOHOL)
    for food in pantry.all():
        assert sum(food.amount(part) for part in parts) == pytest.approx(100, abs=1.5), food.id


def test_parts_do_not_exceed_their_whole(pantry: Pantry) -> None:
    """Saturates within fat, polyols and fibre within carbohydrate."""
    for food in pantry.all():
        assert food.amount(Nutrient.SATURATES) <= food.amount(Nutrient.FAT) + 0.05, food.id
        assert food.amount(Nutrient.FIBRE) <= food.amount(Nutrient.CARBOHYDRATE) + 0.05, food.id
        assert food.amount(Nutrient.POLYOLS) <= food.amount(Nutrient.CARBOHYDRATE) + 0.05, food.id


def test_an_unknown_figure_is_named(pantry: Pantry) -> None:
    """The error carries the nutrient and the food."""
    food = next(one for one in pantry.all() if not one.knows(Nutrient.IRON))
    with pytest.raises(MissingValue) as caught:
        food.amount(Nutrient.IRON)
    assert (caught.value.field, caught.value.food) == ("iron_mg", food.name)


def test_an_unknown_ingredient_is_named(pantry: Pantry) -> None:
    """The error carries the id."""
    with pytest.raises(NotKnown) as caught:
        pantry["unobtainium"]
    assert caught.value.key == "unobtainium"


@pytest.mark.parametrize(
    ("name", "ingredient"),
    [
        ("sugar", "white-sugar"),
        ("SUGAR", "white-sugar"),
        ("corn syrup", "light-corn-syrup"),
        ("chocolate liquor", "cocoa-mass"),
        ("skimmed MILK powder", "skimmed-milk-powder"),
        ("nonfat dry milk", "skimmed-milk-powder"),
        ("soya lecithin", "soy-lecithin"),
        ("e476", "pgpr"),
        ("sesame paste", "tahini"),
        ("roasted hazelnuts", "hazelnut-roasted"),
        ("partially inverted refiners syrup", "golden-syrup"),
        ("confectioner’s sugar", "icing-sugar"),
    ],
)
def test_names_of_the_table_are_sure(name: str, ingredient: str, pantry: Pantry) -> None:
    """Printed names lead to their ingredient."""
    match = matched_name(name, pantry)
    assert match.ingredient_id == ingredient
    assert match.confidence >= 0.9


@pytest.mark.parametrize(
    ("name", "ingredient"), [("skimed milk powder", "skimmed-milk-powder"), ("cocao butter", "cocoa-butter")]
)
def test_near_names_are_taken_with_doubt(name: str, ingredient: str, pantry: Pantry) -> None:
    """A slip of the pen is understood, and shown as unsure."""
    match = matched_name(name, pantry)
    assert match.ingredient_id == ingredient
    assert match.confidence < 0.95


@pytest.mark.parametrize(("name", "ingredient"), [("vegetable fat", "palm-oil"), ("milk crumb", "whole-milk-powder")])
def test_loose_words_are_taken_with_doubt(name: str, ingredient: str, pantry: Pantry) -> None:
    """So that the user is asked."""
    match = matched_name(name, pantry)
    assert match.ingredient_id == ingredient
    assert match.confidence < 0.85


@pytest.mark.parametrize("name", ["moon dust", "xyz", "love"])
def test_strange_names_are_left_open(name: str, pantry: Pantry) -> None:
    """Nothing is guessed."""
    assert matched_name(name, pantry).ingredient_id is None


@pytest.mark.parametrize(
    ("ingredient", "nutrient", "sd"),
    [
        ("white-sugar", Nutrient.SUGARS, 0.01),
        ("palm-oil", Nutrient.FAT, 0.01),
        ("dark-chocolate-55", Nutrient.FAT, 0.06),
        ("plain-biscuit-crumbs", Nutrient.SODIUM, 0.25),
        ("hazelnut-paste", Nutrient.PROTEIN, 0.05),
        ("hazelnut-paste", Nutrient.FIBRE, 0.10),
        ("fine-salt", Nutrient.SODIUM, 0.01),
    ],
)
def test_lots_differ_by_class_of_food(ingredient: str, nutrient: Nutrient, sd: float, pantry: Pantry) -> None:
    """The most particular row of the table wins."""
    assert lot_spread(pantry[ingredient], nutrient) == pytest.approx(sd)


def test_where_two_sources_disagree_the_spread_is_wider(pantry: Pantry) -> None:
    """By their difference over the root of two; one's own figure in the table's place has no second source."""
    jam = pantry["fruit-jam"]
    assert second_figure(jam, Nutrient.SUGARS) == 49.0
    assert lot_spread(jam, Nutrient.SUGARS) == pytest.approx((58.0 - 49.0) / (2**0.5 * 58.0))
    mine = replace(jam, per_100_g={**jam.per_100_g, Nutrient.SUGARS: 60.0})
    assert second_figure(mine, Nutrient.SUGARS) is None
    assert lot_spread(mine, Nutrient.SUGARS) == pytest.approx(0.08)


@pytest.mark.parametrize(
    ("name", "food"),
    [
        ("almonds marconas roasted", "almond-roasted"),
        ("cream crackers", None),
        ("milk thistle", None),
        ("egg noodles", None),
    ],
)
def test_words_of_no_food_within_a_name_are_left_out(name: str, food: str | None, pantry: Pantry) -> None:
    """The last word never: it says what a thing is. What is found so is asked about."""
    found = matched_name(name, pantry, by_ending=True)
    assert found.ingredient_id == food
    assert found.confidence < 0.85


@pytest.mark.parametrize(
    ("name", "food"),
    [
        ("vegetable fats of palm kernel oil", "palm-kernel-fat"),
        ("vegetable fat from palm kernel", "palm-kernel-fat"),
        ("vegetable fat of palm", "palm-oil"),
        ("vegetable oils of coprah", "coconut-oil-refined"),
        ("fully hydrogenated vegetable fat of palm kernel", "hard-lauric-fat"),
        ("hydrogenated vegetable oil from coconut", "coconut-oil-refined"),
        ("fat of milk", "anhydrous-milk-fat"),
        ("vegetable fat of zzyzx", None),
    ],
)
def test_a_fat_is_what_it_is_said_to_be_of(name: str, food: str | None, pantry: Pantry) -> None:
    """And unknown where that is, rather than palm oil."""
    assert matched_name(name, pantry, by_ending=True).ingredient_id == food


def test_every_second_figure_is_beside_the_tables(pantry: Pantry) -> None:
    """A figure that was changed in the table asks for its row here to be looked at again."""
    for row in rows("second_figures.csv"):
        assert pantry[row["ingredient"]].per_100_g[Nutrient(row["nutrient"])] == float(row["first"])
