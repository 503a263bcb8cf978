"""What must be said of a piece, by region and amount; and the most of one thing that makes sense."""

from dataclasses import replace

import pytest
from tests.bench import FAMILIES, PANTRY, formula, layer, line

from fern_match.core.food import Pantry
from fern_match.core.food.together import allergens_in_words, allergens_of, may_hold, unexplained
from fern_match.core.formulate import Origin, OriginKind, Version, kitchen_version, overview
from fern_match.core.formulate.beginning.faithful import within_ranges
from fern_match.core.formulate.judging.balance import balance
from fern_match.core.formulate.judging.to_say import to_say
from fern_match.core.formulate.record.diet import vegan_in
from fern_match.core.formulate.record.version import VersionIngredient, VersionLayer
from fern_match.core.label.rows import Region
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study


def said(region: Region, *lines: tuple[str, float], family: str = "plain-fondant") -> str:
    """All that must be said of a piece of one layer."""
    what = formula(layer("one", family, *(line(key, grams) for key, grams in lines)))
    return " ".join(to_say(what, region, 40.0, PANTRY, FAMILIES))


@pytest.mark.parametrize(
    ("region", "lines", "words", "there"),
    [
        (Region.EU, (("maltitol-powder", 5), ("cocoa-butter", 20)), "laxative effects", True),
        (Region.EU, (("maltitol-powder", 2), ("cocoa-butter", 20)), "laxative effects", False),
        (Region.US, (("maltitol-powder", 5), ("cocoa-butter", 20)), "laxative effects", False),
        (Region.UK, (("sucralose-powder", 0.01), ("cocoa-butter", 20)), "“with sweetener(s)”", True),
        (Region.UK, (("sucralose-powder", 0.01), ("white-sugar", 20)), "“with sugar(s) and sweetener(s)”", True),
        (Region.US, (("sucralose-powder", 0.01), ("white-sugar", 20)), "sweetener", False),
        (Region.EU, (("mono-and-diglycerides", 0.2), ("white-sugar", 20)), "sweetener", False),
        (Region.UK, (("glycerol", 1), ("white-sugar", 20)), "sweetener", False),
        (Region.US, (("rum", 4), ("white-sugar", 20)), "Contains alcohol", True),
        (Region.US, (("vanilla-extract", 0.1), ("white-sugar", 20)), "Contains alcohol", False),
        (Region.EU, (("vegetable-glycerol", 1), ("white-sugar", 20)), "not for small children", True),
        (Region.EU, (("instant-coffee-powder", 0.5), ("white-sugar", 20)), "caffeine, about 16 mg", True),
    ],
)
def test_what_is_said_by_region(region: Region, lines: tuple[tuple[str, float], ...], words: str, there: bool) -> None:
    """The law's words where it has them, the usual caution elsewhere."""
    assert (words in said(region, *lines)) is there


def test_glycerol_of_one_s_own_is_glycerol_whatever_it_is_called() -> None:
    """A bottle from the shop is told by its kind of polyol; an emulsifier made from glycerol is none."""
    bottle = replace(PANTRY["glycerol"], id="my-bottle", name="Moistener from the shop")
    pantry = Pantry({**PANTRY.by_id, bottle.id: bottle})
    bowl = formula(
        layer("one", "plain-fondant", replace(line("glycerol", 1.0), ingredient_id=bottle.id), line("white-sugar", 20.0))
    )
    assert "not for small children" in " ".join(to_say(bowl, Region.EU, 40.0, pantry, FAMILIES))
    assert "small children" not in said(Region.EU, ("mono-and-diglycerides", 1.0), ("white-sugar", 20.0))


def test_a_coat_of_other_fats_is_no_chocolate() -> None:
    """A tenth of shea in a coat from its parts; a bought chocolate is what its maker calls it."""
    own = (("cocoa-butter", 3.0), ("cocoa-mass", 3.0), ("white-sugar", 5.0), ("shea-butter", 1.2))
    assert "may not be called chocolate" in said(Region.EU, *own, family="dark-coat-open")
    assert "may not be called chocolate" not in said(Region.EU, *own[:3], family="dark-coat-open")
    assert said(Region.EU, ("dark-chocolate-55", 12.0), family="dark-coat") == ""


def test_allergens_that_some_makers_have_are_asked_about() -> None:
    """Dark chocolate may hold milk; where something else holds it, nothing is left to ask."""
    dark, milk = PANTRY["dark-chocolate-55"], PANTRY["whole-milk-powder"]
    assert may_hold(dark) == ("milk",)
    found = allergens_of([dark])
    assert not found.known
    assert "may hold milk" in allergens_in_words(found)
    assert allergens_of([dark, milk]).may == ()


def test_what_the_label_declares_holds_for_a_copy_of_it() -> None:
    """“Contains milk” stays with the faithful version though no line holds any, and is asked about after adapting."""
    reading = StudyReading(Study(name="x", region=Region.US, statement="Sugar, cocoa mass. Contains milk."), PANTRY)
    layers = (
        VersionLayer(
            id="one",
            name="One",
            family="plain-fondant",
            ingredients=(VersionIngredient(id="a", ingredient="white-sugar", name="Sugar", amount="5"),),
        ),
    )
    copy = Version(id="v", name="V", layers=layers, origin=Origin(kind=OriginKind.ESTIMATE))
    assert "milk" in overview(copy, reading).allergens.holds
    changed = Version(id="w", name="W", layers=layers, origin=Origin(kind=OriginKind.ADAPTED, rules=("keto",)))
    assert [one.allergen for one in overview(changed, reading).allergens.may] == ["milk"]
    vegan = Version(id="w", name="W", layers=layers, origin=Origin(kind=OriginKind.ADAPTED, rules=("vegan",)))
    assert [one.allergen for one in overview(vegan, reading).allergens.may] == [
        "milk"
    ]  # nobody knows with what it would have gone
    told = reading.with_study(replace(reading.study, statement="Sugar, cocoa mass, cream. Contains milk."))
    assert overview(vegan, told).allergens.may == ()


def test_bone_char_is_a_question_where_it_is_used() -> None:
    """White sugar in the US, not in the EU; what is of animals is so everywhere."""
    sugar, cream = PANTRY["white-sugar"], PANTRY["heavy-cream"]
    assert (vegan_in(sugar, Region.US), vegan_in(sugar, Region.EU)) == ("check", "yes")
    assert vegan_in(cream, Region.EU) == "no"


def test_more_than_makes_sense_is_said() -> None:
    """Peppermint oil at four per cent burns; a hundredth of that is fine; salt is no dose where it is the topping."""
    strong = formula(layer("mint", "plain-fondant", line("white-sugar", 10), line("peppermint-oil", 0.4)))
    mild = formula(layer("mint", "plain-fondant", line("white-sugar", 10), line("peppermint-oil", 0.004)))
    salt = formula(layer("top", "salt-topping", line("flaky-salt", 0.2)))
    version = Version(id="v", name="V")
    notes = [note for note in balance(version, strong, PANTRY, FAMILIES) if note.topic == "Dose"]
    assert [note.tone.value for note in notes] == ["fails"]
    assert "burns" in notes[0].sentence
    for what in (mild, salt):
        assert not [note for note in balance(version, what, PANTRY, FAMILIES) if note.topic == "Dose"]


def test_the_pieces_of_the_demo_stay_in_the_estimate_s_ranges() -> None:
    """What the estimate is sure of is the original: no range of what makes two hundredths of a layer is left."""
    from fern_match.core.estimate import Estimate, estimate
    from fern_match.demo import night_crossing

    reading = StudyReading(night_crossing.study(PANTRY), PANTRY)
    found = estimate(reading)
    assert isinstance(found, Estimate)
    assert within_ranges(found)
    made = overview(kitchen_version("faithful", found, reading), reading).formula
    for of, now in zip(found.layers, made.layers, strict=True):
        amounts: dict[str, float] = {}
        for one in now.ingredients:
            amounts[one.ingredient_id] = amounts.get(one.ingredient_id, 0.0) + one.grams
        for key in {one.ingredient_id for one in of.ingredients} & amounts.keys():
            same = [one.grams for one in of.ingredients if one.ingredient_id == key]
            if sum(one.best for one in same) >= 0.02 * of.grams.best:
                assert sum(one.low for one in same) - 0.02 <= amounts[key] <= sum(one.high for one in same) + 0.02, key


def test_what_is_declared_is_never_dropped() -> None:
    """What no row of the pantry holds stays declared; any tree nut explains “tree nuts”."""
    fish = StudyReading(Study(name="x", region=Region.US, statement="Sugar. CONTAINS: MILK, FISH, TREE NUTS."), PANTRY)
    assert set(fish.declared_allergens) == {"milk", "fish", "tree nuts"}
    assert unexplained(fish.declared_allergens, {"almond"}) == ("fish", "milk")
    named = StudyReading(Study(name="x", region=Region.US, statement="Sugar, almonds. Contains tree nuts."), PANTRY)
    assert named.declared_allergens == ("almond",)


def test_an_open_amount_is_said_too() -> None:
    """Rum, as much as one likes: alcohol, and how much is not known."""
    open_ = formula(layer("one", "plain-fondant", line("white-sugar", 20), line("rum", 0, unread=True)))
    assert "Contains alcohol, how much is not known" in " ".join(to_say(open_, Region.EU, 40.0, PANTRY, FAMILIES))


def test_what_the_user_knows_of_a_packet_is_no_question() -> None:
    """Ticked in the pantry as all known: nothing is asked any more."""
    assert may_hold(replace(PANTRY["dark-chocolate-55"], allergens_known=True)) == ()
