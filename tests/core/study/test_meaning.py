"""What brackets mean, what names are taken for because of them, and the builds that a wrapper suggests."""

from collections.abc import Callable

import pytest

from fern_match.core.label.rows import Region
from fern_match.core.study.proposals import proposed_builds
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, Meaning, Place, Study, Whereabouts

Read = Callable[..., StudyReading]
QUARRY = (
    "Milk chocolate (sugar, cocoa butter, chocolate, skim milk, lactose, milkfat, soy lecithin), corn syrup, peanuts, sugar, "
    "sweetened condensed milk (milk, sugar), palm oil, contains 2% or less of: skim milk, salt, egg whites, artificial flavor."
)
CARAMEL = Layer(id="caramel", name="Caramel", family="soft-caramel", place=Place.STACK)
COAT = Layer(id="coat", name="Milk coat", family="milk-coat", place=Place.COAT)


def study(statement: str, *layers: Layer, **changes: object) -> Study:
    """A study of nothing but names and layers."""
    return Study(name="Test", region=Region.US, statement=statement, layers=layers, **changes)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("statement", "meaning"),
    [
        ("Sugar, sweetened condensed milk (milk, sugar), palm oil", Meaning.INGREDIENT),
        ("Sugar, butter (cream, salt), nuts", Meaning.INGREDIENT),
        ("Sugar, peanut butter (peanuts, salt), oats", Meaning.INGREDIENT),
        ("Sugar, glacé cherries (cherries, glucose syrup, sugar), cream", Meaning.INGREDIENT),
        ("Sugar, enriched flour (wheat flour, niacin, reduced iron, riboflavin), butter", Meaning.INGREDIENT),
        ("Sugar, vegetable fats (palm, shea), milk powder", Meaning.PARTS),
        ("Sugar, pretzels (wheat flour, salt, canola oil, malted barley flour, yeast), peanuts", Meaning.INGREDIENT),
        ("Sugars (sugar, glucose syrup), wheat flour", Meaning.PARTS),
        ("Caramel (glucose syrup, sugar, cream, butter), salt", Meaning.LAYER),
        ("Milk chocolate (sugar, cocoa butter, milk powder, cocoa mass), salt", Meaning.LAYER),
        ("Hazelnut filling 40% (sugar, hazelnuts, palm oil, milk powder), salt", Meaning.LAYER),
    ],
)
def test_brackets_are_an_ingredient_a_layer_or_parts(read: Read, statement: str, meaning: Meaning) -> None:
    """By their words and contents; the odds say how surely."""
    bracket = read(study(statement, CARAMEL, COAT)).brackets[0]
    assert bracket.meaning is meaning, bracket
    assert bracket.odds[meaning] > 0.6
    assert sum(bracket.odds.values()) == pytest.approx(1.0)
    assert bracket.reason


def test_the_user_says_what_a_bracket_means(read: Read) -> None:
    """The answer wins, closes or opens the bracket, and is marked as the user's."""
    reading = read(study(QUARRY, CARAMEL, COAT, meanings={"sweetened condensed milk": Meaning.LAYER}))
    bracket = next(one for one in reading.brackets if one.item == "sweetened condensed milk")
    assert (bracket.meaning, bracket.corrected, bracket.reason) == (Meaning.LAYER, True, "you said so")
    assert "sweetened condensed milk > milk" in reading.ingredient_of
    assert "sweetened condensed milk" not in reading.ingredient_of


def test_a_bracket_can_be_put_into_a_layer_by_hand(read: Read) -> None:
    """A place said for the bracket's name moves its whole list."""
    other = Layer(id="other", name="Thing", family="short-base", place=Place.STACK)
    placements = {"caramel": {"other": Whereabouts.YES}}
    reading = read(study("Caramel (glucose syrup, sugar, cream), salt", CARAMEL, other, placements=placements))
    assert reading.placing.compounds["caramel"] == ("other",)


@pytest.mark.parametrize(
    ("statement", "key", "ingredient"),
    [
        ("Milk chocolate (sugar, cocoa butter, milk, chocolate), nuts", "milk chocolate > chocolate", "cocoa-mass"),
        ("Milk chocolate (sugar, cocoa butter, milk, chocolate), nuts", "milk chocolate > milk", "whole-milk-powder"),
        ("Sugar, vegetable fat (palm kernel, shea), salt", "vegetable fat > shea", "shea-butter"),
        ("Sugar, butter (cream, salt), oats", "butter", "butter-salted"),
        ("Sugar, butter (cream), oats", "butter", "butter-unsalted"),
        ("Oats, peanut butter (peanuts, salt)", "peanut butter", "peanut-butter-natural"),
        ("Oats, peanut butter (peanuts, sugar, palm oil)", "peanut butter", "peanut-butter-sweetened"),
        ("Dark chocolate (70% cacao), dates", "dark chocolate", "dark-chocolate-70"),
        ("Sugar, chocolate, cocoa butter, milk powder", "chocolate", "cocoa-mass"),
    ],
)
def test_names_are_taken_for_what_they_are_where_they_stand(read: Read, statement: str, key: str, ingredient: str) -> None:
    """Chocolate inside a chocolate is cocoa mass; butter with salt is salted."""
    assert read(study(statement)).matches[key].ingredient_id == ingredient


def test_a_wrapper_suggests_its_build(read: Read) -> None:
    """Coat by its bracket, nougat by egg white, caramel by condensed milk, nuts inside; reasons are told."""
    first, *others = proposed_builds(read(study(QUARRY)))
    families = [layer.family for layer in first.layers]
    assert families[0] == "milk-coat"
    assert set(families) == {"milk-coat", "nougat-egg-white", "condensed-milk-caramel", "whole-nuts"}
    nuts = first.layers[-1]
    assert (nuts.place, nuts.host) == (Place.INCLUSION, first.layers[-2].id)
    assert "egg whites" in first.reason
    assert len(others) <= 1


@pytest.mark.parametrize(
    ("statement", "family"),
    [
        ("Dark chocolate 40% (cocoa mass, sugar, cocoa butter), marzipan (almonds, sugar, water)", "marzipan"),
        (
            "Filling: sugar, palm fat, skimmed milk powder, hazelnut paste. Coating: sugar, palm kernel oil, cocoa powder",
            "nut-paste-praline",
        ),
        ("Maltitol, cocoa mass, cocoa butter, cream, maltitol syrup", "maltitol-caramel"),
        ("Sugar, cocoa mass, cocoa butter, crisped rice", "crisp-in-chocolate"),
    ],
)
def test_signs_lead_to_families(read: Read, statement: str, family: str) -> None:
    """By brackets, headed lists and telling names, sugar-free variants among them."""
    builds = proposed_builds(read(study(statement)))
    assert family in {layer.family for build in builds for layer in build.layers}


def test_nothing_is_suggested_of_nothing(read: Read) -> None:
    """No statement, no build."""
    assert proposed_builds(read(study(""))) == ()
