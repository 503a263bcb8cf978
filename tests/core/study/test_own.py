"""An ingredient of one's own, from the panel on its packet."""

import pytest

from fern_match.core.food.nutrients import Nutrient
from fern_match.core.food.sound import NotSound
from fern_match.core.label.rows import Region, RowId, row_per_100_g
from fern_match.core.study.own import own_ingredient, packet_rows

Rows = dict[RowId, str]
NUT_FLOUR: Rows = {
    RowId.FAT: "12",
    RowId.CARBOHYDRATE: "30 g",
    RowId.SUGARS: "5",
    RowId.FIBRE: "15",
    RowId.PROTEIN: "45",
    RowId.SALT: "<0.05",
}


def test_the_worked_example() -> None:
    """A flour whose figures make 102 g is dry; carbohydrate holds the fibre, salt is told as sodium."""
    food = own_ingredient("Walnut flour", Region.EU, NUT_FLOUR, "", ())
    assert food.id == "own-walnut-flour"
    assert food.amount(Nutrient.WATER) == 0
    assert food.amount(Nutrient.CARBOHYDRATE) == 45
    assert food.amount(Nutrient.SODIUM) == pytest.approx(20.0)


def test_a_us_packet_is_per_serving_with_fibre_in_its_carbohydrate() -> None:
    """32 g of a nut butter: 16 g fat, 7 g carbohydrate of which 3 g are fibre, 140 mg sodium."""
    rows = {RowId.FAT: "16", RowId.CARBOHYDRATE: "7", RowId.FIBRE: "3", RowId.PROTEIN: "7", RowId.SODIUM: "140mg (6%)"}
    food = own_ingredient("Pecan butter", Region.US, rows, "2 tbsp (32g)", ())
    assert food.amount(Nutrient.FAT) == pytest.approx(50.0)
    assert food.amount(Nutrient.CARBOHYDRATE) == pytest.approx(7 / 0.32)
    assert food.amount(Nutrient.SODIUM) == pytest.approx(437.5)


@pytest.mark.parametrize("region", Region)
def test_what_is_asked_comes_back_as_its_own_panel(region: Region) -> None:
    """Each row of the region's packet, printed again from the composition."""
    rows = {
        row: "0.4" if row in {RowId.SALT, RowId.SATURATES, RowId.POLYOLS, RowId.SUGARS} else "9" for row in packet_rows(region)
    }
    food = own_ingredient("Paste", region, rows, "", ())
    for row, typed in rows.items():
        assert row_per_100_g(food, row, region) == pytest.approx(float(typed)), row


def test_what_the_packet_leaves_over_is_water() -> None:
    """A syrup of 75 g sugars, once all that is beside the water is said."""
    rows = {RowId.FAT: "0", RowId.CARBOHYDRATE: "75", RowId.SUGARS: "75", RowId.FIBRE: "0", RowId.PROTEIN: "0", RowId.SALT: "0"}
    food = own_ingredient("Birch syrup", Region.UK, rows, "", ())
    assert food.amount(Nutrient.WATER) == 25


@pytest.mark.parametrize("region", Region)
def test_silence_is_not_none(region: Region) -> None:
    """Of what a packet does not say nothing is known: fibre, polyols, kinds of sugar, sweetness, allergens, and so its water."""
    sodium = {RowId.SALT: "0.1"} if region.prints_salt else {RowId.SODIUM: "40"}
    rows = {RowId.FAT: "20", RowId.CARBOHYDRATE: "60", RowId.SUGARS: "40", RowId.PROTEIN: "8", **sodium}
    food = own_ingredient("Milk crunch bits", region, rows, "", ())
    for nutrient in (Nutrient.FIBRE, Nutrient.POLYOLS, Nutrient.SUCROSE, Nutrient.ADDED_SUGARS, Nutrient.COCOA_BUTTER):
        assert food.per_100_g[nutrient] is None, nutrient
    assert food.sweetness is None
    assert (food.allergens, food.allergens_known) == ((), False)
    assert food.knows(Nutrient.WATER) is region.counts_fibre  # carbohydrate holds the fibre there
    assert row_per_100_g(food, RowId.CARBOHYDRATE, region) == 60
    assert row_per_100_g(food, RowId.CARBOHYDRATE, Region.EU if region.counts_fibre else Region.US) is None
    assert row_per_100_g(food, RowId.ENERGY_KCAL, region) is None


def test_a_comma_is_read_as_the_region_has_it() -> None:
    """12,5 g of fat."""
    assert own_ingredient("Paste", Region.EU, {RowId.FAT: "12,5"}, "", ()).amount(Nutrient.FAT) == 12.5


def test_a_name_taken_gets_a_number() -> None:
    """Nothing is overwritten."""
    taken = {"own-paste", "own-paste-2"}
    assert own_ingredient("Paste", Region.EU, {RowId.FAT: "50"}, "", taken).id == "own-paste-3"


@pytest.mark.parametrize(
    ("name", "rows", "serving", "field", "words"),
    [
        (" ", {RowId.FAT: "1"}, "", "name", "what it is called"),
        ("Paste", {}, "", "fat", "at least one figure"),
        ("Paste", {RowId.FAT: "lots"}, "", "fat", "lots"),
        ("Paste", {RowId.FAT: "10"}, "a handful", "serving", "handful"),
        ("Paste", {RowId.FAT: "60", RowId.PROTEIN: "60"}, "", "fat", "add up to 120 g"),
        ("Paste", {RowId.FAT: "20"}, "12 g", "fat", "add up to 167 g"),
        ("Paste", {RowId.FAT: "10", RowId.SATURATES: "12"}, "", "saturates", "cannot exceed"),
        ("Paste", {RowId.CARBOHYDRATE: "10", RowId.SUGARS: "30"}, "", "sugars", "cannot exceed"),
    ],
)
def test_figures_that_no_food_has_are_refused(name: str, rows: Rows, serving: str, field: str, words: str) -> None:
    """At the field, in a sentence."""
    with pytest.raises(NotSound, match=words) as found:
        own_ingredient(name, Region.EU, rows, serving, ())
    assert found.value.field == field
