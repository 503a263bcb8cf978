"""Where each ingredient is: by brackets, by families, by the user."""

from collections.abc import Callable
from dataclasses import replace

import pytest

from fern_match.core.label.rows import Region
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, Place, Study, Whereabouts
from fern_match.core.study.whereabouts import Placing, Source

Read = Callable[..., StudyReading]
COAT = Layer(id="coat", name="Coat", family="dark-coat", place=Place.COAT)
CRISP = Layer(id="crisp", name="Crisp layer", family="crisp-in-chocolate", place=Place.STACK)
CARAMEL = Layer(id="caramel", name="Caramel", family="soft-caramel", place=Place.STACK)
WAFER = Layer(id="wafer", name="Wafer", family="wafer-sheet", place=Place.STACK)


def study(statement: str, *layers: Layer, **changes: object) -> Study:
    """A study of nothing but names and layers."""
    return Study(name="Test", region=Region.EU, statement=statement, layers=layers, **changes)  # type: ignore[arg-type]


def placing(reading: StudyReading, item: str, layer: str) -> Placing:
    """One cell of the table."""
    return next(one for one in reading.placing.placings if (one.item, one.layer_id) == (item, layer))


def test_brackets_fix_what_is_in_a_layer(read: Read) -> None:
    """Each bracket goes to the layer its head names, and its names to no other."""
    reading = read(
        study("Caramel (sugar, glucose syrup, cream, butter), wafer (wheat flour, sunflower oil, salt)", WAFER, CARAMEL)
    )
    assert reading.placing.compounds == {"caramel": ("caramel",), "wafer": ("wafer",)}
    assert placing(reading, "caramel > butter", "caramel").where is Whereabouts.YES
    assert placing(reading, "caramel > butter", "wafer").where is Whereabouts.NO
    assert placing(reading, "wafer > salt", "wafer").source is Source.BRACKETS


def test_brackets_without_a_known_head_go_by_what_is_in_them(read: Read) -> None:
    """“Golden layer” is no word of ours; flour and oil say wafer."""
    reading = read(
        study(
            "Golden layer (wheat flour, sunflower oil, salt), velvet layer (sugar, glucose syrup, cream, butter)", WAFER, CARAMEL
        )
    )
    assert reading.placing.compounds == {"golden layer": ("wafer",), "velvet layer": ("caramel",)}


def test_a_cream_with_cocoa_is_no_coat(read: Read) -> None:
    """Sugar, fat, nuts, whey and cocoa are nearly a coat's; the loose names are the coat's own, and it says cream."""
    coat = replace(COAT, family="milk-coat")
    cream = Layer(id="cream", name="Cream", family="wafer-cream", place=Place.STACK)
    inside = "Hazelnut filling (sugar, palm oil, hazelnuts, whey powder, cocoa powder), wafer (wheat flour, oil, salt), "
    reading = read(study(f"{inside}sugar, cocoa butter, whole milk powder, cocoa mass", coat, WAFER, cream))
    assert reading.placing.compounds["hazelnut filling"] == ("cream",)
    assert placing(reading, "cocoa mass", "coat").where is Whereabouts.YES


def test_one_chocolate_serves_two_layers(read: Read) -> None:
    """A bracketed dark chocolate is the coat and what holds the crisps."""
    reading = read(study("Dark chocolate (cocoa mass, sugar, cocoa butter), puffed rice", COAT, CRISP))
    assert reading.placing.compounds == {"dark chocolate": ("coat", "crisp")}
    assert reading.placing.opened["crisp"].id == "dark-coat-open"
    slot = placing(reading, "dark chocolate > cocoa mass", "crisp").slot
    assert slot is not None
    assert slot.in_compound == "dark chocolate"
    assert placing(reading, "puffed rice", "coat").where is Whereabouts.NO
    assert placing(reading, "puffed rice", "crisp").where is Whereabouts.YES


def test_the_chocolate_of_a_filling_is_told_by_the_order_of_its_list(read: Read) -> None:
    """Gianduja with more mass than milk powder is of dark chocolate, whatever the coat; with more milk powder of milk."""
    coat = replace(COAT, family="milk-coat")
    centre = Layer(id="centre", name="Centre", family="gianduja", place=Place.CORE)
    milk = "Milk chocolate (sugar, cocoa butter, whole milk powder, cocoa mass), gianduja (sugar, hazelnut paste, "
    dark = read(study(f"{milk}cocoa mass, cocoa butter, whole milk powder)", coat, centre))
    assert dark.placing.opened["centre"].id == "dark-coat-open"
    assert dark.placing.opened["coat"].id == "milk-coat-open"
    as_coat = read(study(f"{milk}whole milk powder, cocoa butter, cocoa mass)", coat, centre))
    assert as_coat.placing.opened["centre"].id == "milk-coat-open"


def test_a_bought_chocolate_stays_closed(read: Read) -> None:
    """“Dark chocolate” without brackets is one thing."""
    reading = read(study("Dark chocolate, sugar, glucose syrup, cream", COAT, CARAMEL))
    assert "coat" not in reading.placing.opened
    assert placing(reading, "dark chocolate", "coat").where is Whereabouts.YES


def test_unbracketed_names_go_where_families_list_them(read: Read) -> None:
    """Sugar must be in both, cream only in the caramel, salt perhaps in each."""
    reading = read(study("Sugar, glucose syrup, cocoa mass, cocoa butter, cream, salt", COAT, CARAMEL))
    assert placing(reading, "sugar", "coat").where is Whereabouts.YES
    assert placing(reading, "sugar", "caramel").where is Whereabouts.YES
    assert placing(reading, "cream", "coat").where is Whereabouts.NO
    assert placing(reading, "cream", "caramel").where is Whereabouts.YES
    assert placing(reading, "salt", "coat").where is Whereabouts.MAYBE
    assert placing(reading, "salt", "caramel").where is Whereabouts.MAYBE


def test_kin_fill_a_role_that_would_stay_empty(read: Read) -> None:
    """A marshmallow without sugar is made of maltitol."""
    mallow = Layer(id="mallow", name="Marshmallow", family="marshmallow", place=Place.STACK)
    reading = read(study("Maltitol syrup, maltitol, gelatine", mallow))
    assert placing(reading, "maltitol syrup", "mallow").where is Whereabouts.YES
    assert placing(reading, "maltitol", "mallow").where is Whereabouts.YES


@pytest.mark.parametrize("answer", list(Whereabouts))
def test_the_user_has_the_last_word(read: Read, answer: Whereabouts) -> None:
    """Whatever brackets and families say."""
    overrides = {"sugar": {"coat": answer}}
    reading = read(study("Sugar, cocoa mass, cream, glucose syrup", COAT, CARAMEL, placements=overrides))
    found = placing(reading, "sugar", "coat")
    assert (found.where, found.source) == (answer, Source.USER)
    assert (found.slot is None) == (answer is Whereabouts.NO)


def test_a_user_may_put_anything_anywhere(read: Read) -> None:
    """What no role takes gets a place of its own."""
    reading = read(study("Sugar, cocoa mass, peanuts", COAT, placements={"peanuts": {"coat": Whereabouts.YES}}))
    slot = placing(reading, "peanuts", "coat").slot
    assert slot is not None
    assert slot.role.name == "other"


def test_answers_about_what_is_gone_do_no_harm(read: Read) -> None:
    """A placement of a name or layer that no longer exists is kept and not used."""
    reading = read(
        study("Sugar, cocoa mass", COAT, placements={"butter": {"coat": Whereabouts.YES}, "sugar": {"gone": Whereabouts.YES}})
    )
    assert {one.item for one in reading.placing.placings} == {"sugar", "cocoa mass"}
