"""Finding ingredients by any name."""

import pytest

from fern_match.core.food import Pantry
from fern_match.core.food.search import found_in


@pytest.mark.parametrize(
    ("typed", "first"),
    [
        ("powdered sugar", "icing-sugar"),
        ("confectioners sugar", "icing-sugar"),
        ("cornflour", "maize-starch"),
        ("corn starch", "maize-starch"),
        ("golden syrup", "golden-syrup"),
        ("graham crackers", "wholemeal-biscuit-crumbs"),
        ("bicarb", "baking-soda"),
        ("heavy whipping cream", "heavy-cream"),
        ("hazlenut paste", "hazelnut-paste"),
        ("demerera sugar", "demerara-sugar"),
        ("e471", "mono-and-diglycerides"),
        ("tahina", "tahini"),
    ],
)
def test_any_name_finds_it(typed: str, first: str, pantry: Pantry) -> None:
    """Of either side of the ocean, everyday, or misspelt."""
    assert found_in(pantry, typed)[0].id == first


def test_nothing_typed_is_everything(pantry: Pantry) -> None:
    """By name."""
    names = [food.name.lower() for food in found_in(pantry, " ")]
    assert len(names) == len(pantry.by_id)
    assert names == sorted(names)


def test_what_is_not_there_is_not_found(pantry: Pantry) -> None:
    """Rather than anything."""
    assert found_in(pantry, "qqqxyzzy") == ()
