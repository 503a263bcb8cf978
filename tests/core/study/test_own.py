"""An ingredient of one's own, from the figures on its packet."""

import pytest

from fern_match.core.food.nutrients import Nutrient
from fern_match.core.measures import Comma
from fern_match.core.study.own import NotAnIngredient, PacketRow, own_ingredient

NUT_FLOUR = {
    PacketRow.FAT: "12",
    PacketRow.CARBOHYDRATE: "30 g",
    PacketRow.SUGARS: "5",
    PacketRow.FIBRE: "15",
    PacketRow.PROTEIN: "45",
    PacketRow.SALT: "<0.05",
}


def test_the_worked_example() -> None:
    """A flour whose figures make 102 g is dry; carbohydrate holds the fibre, salt is told as sodium."""
    food = own_ingredient("Walnut flour", NUT_FLOUR, ())
    assert food.id == "own-walnut-flour"
    assert food.amount(Nutrient.WATER) == 0
    assert food.amount(Nutrient.CARBOHYDRATE) == 45
    assert food.amount(Nutrient.SODIUM) == pytest.approx(20.0)


def test_what_the_packet_leaves_over_is_water() -> None:
    """A syrup of 75 g sugars."""
    food = own_ingredient("Birch syrup", {PacketRow.CARBOHYDRATE: "75", PacketRow.SUGARS: "75"}, ())
    assert food.amount(Nutrient.WATER) == 25


def test_a_decimal_comma_is_read_as_the_study_reads_it() -> None:
    """12,5 g of fat."""
    food = own_ingredient("Paste", {PacketRow.FAT: "12,5"}, (), Comma.DECIMAL)
    assert food.amount(Nutrient.FAT) == 12.5


def test_a_name_taken_gets_a_number() -> None:
    """Nothing is overwritten."""
    assert own_ingredient("Paste", {PacketRow.FAT: "50"}, {"own-paste", "own-paste-2"}).id == "own-paste-3"


@pytest.mark.parametrize(
    ("name", "typed", "field", "words"),
    [
        (" ", {PacketRow.FAT: "1"}, "name", "what it is called"),
        ("Paste", {}, "fat", "at least one figure"),
        ("Paste", {PacketRow.FAT: "lots"}, "fat", "lots"),
        ("Paste", {PacketRow.FAT: "130"}, "fat", "130 g in 100 g cannot be"),
        ("Paste", {PacketRow.FAT: "60", PacketRow.PROTEIN: "60"}, "fat", "add up to 120 g"),
        ("Paste", {PacketRow.FAT: "10", PacketRow.SATURATES: "12"}, "saturates", "cannot exceed fat"),
        ("Paste", {PacketRow.CARBOHYDRATE: "10", PacketRow.SUGARS: "30"}, "sugars", "cannot exceed carbohydrate"),
    ],
)
def test_figures_that_no_food_has_are_refused(name: str, typed: dict[PacketRow, str], field: str, words: str) -> None:
    """At the field, in a sentence."""
    with pytest.raises(NotAnIngredient, match=words) as found:
        own_ingredient(name, typed, ())
    assert found.value.field == field
