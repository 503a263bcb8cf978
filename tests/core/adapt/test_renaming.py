"""Names of layers: which say what is no longer in them, and which only say how it is."""

import pytest

from fern_match.core.adapt import rules_of
from fern_match.core.adapt.renaming import outlived_names
from fern_match.core.food import Pantry
from fern_match.core.formulate import Formula, FormulaIngredient, FormulaLayer
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Region, Study


def layer(name: str, *ingredients: str, family: str = "nut-cream") -> FormulaLayer:
    """A layer of so many ingredients, less and less of each."""
    lines = tuple(
        FormulaIngredient(line_id=f"l{at}", ingredient_id=key, name=key, role="", grams=9.0 - at)
        for at, key in enumerate(ingredients)
    )
    return FormulaLayer(layer_id="a", name=name, family=family, water_lost_g=0.0, ingredients=lines)


@pytest.mark.parametrize(
    ("name", "before", "after", "outlived"),
    [
        ("Sesame cream", ["tahini", "skimmed-milk-powder"], ["tahini", "cocoa-butter"], False),
        ("Peanut butter", ["peanut-butter", "honey"], ["peanut-butter", "agave-syrup"], False),
        ("Vanilla cream", ["heavy-cream", "white-sugar"], ["coconut-milk", "white-sugar"], True),
        ("Milk chocolate", ["milk-chocolate-33"], ["oat-drink", "cocoa-butter"], True),
        ("Oat milk layer", ["oat-drink", "honey"], ["oat-drink", "agave-syrup"], False),
        ("Honey nougat", ["honey", "white-sugar"], ["agave-syrup", "white-sugar"], True),
        ("Crisp praline", ["hazelnut-paste", "feuilletine"], ["hazelnut-paste", "vegan-wafer"], False),
    ],
)
def test_what_a_name_still_says(name: str, before: list[str], after: list[str], outlived: bool, pantry: Pantry) -> None:
    """Under vegan: a name goes where what it names is gone; a texture by itself does not make it untrue."""
    reading = StudyReading(Study(name="Study", region=Region.EU), pantry)
    was, now = (Formula(name="Bar", layers=(layer(name, *keys),)) for keys in (before, after))
    found = outlived_names(was, now, rules_of(["vegan"], Region.EU, pantry), reading)
    assert bool(found) is outlived, found


@pytest.mark.parametrize(
    ("family", "before", "after", "named"),
    [
        ("marshmallow", ["white-sugar", "gelatine-powder"], ["white-sugar", "carrageenan"], "Marshmallow, vegan"),
        (
            "feuilletine-praline",
            ["gelatine-powder"],
            ["vegan-oat-milk-chocolate", "hazelnut-paste", "icing-sugar"],
            "Crisp praline, vegan",
        ),
        ("whole-nuts", ["milk-chocolate-33"], ["pumpkin-seeds", "white-sugar"], "pumpkin-seeds"),  # what one sees
    ],
)
def test_what_it_could_be_called(family: str, before: list[str], after: list[str], named: str, pantry: Pantry) -> None:
    """Of its kind and the rule where sugar is most of it; after what one sees where that is most of it."""
    reading = StudyReading(Study(name="Study", region=Region.EU), pantry)
    was, now = (Formula(name="Bar", layers=(layer("Milky gelatine", *keys, family=family),)) for keys in (before, after))
    assert outlived_names(was, now, rules_of(["vegan"], Region.EU, pantry), reading) == {"a": named}
