"""Proposals: hard limits by an independent checker over made-up pieces, and what is said of them."""

from dataclasses import replace

import pytest
from tests.bench import FAMILIES, PANTRY, READING, caramel, filling, formula, held_to, layer, line

from fern_match.core.adapt import Proposal, Rule, adapted, rules_of
from fern_match.core.adapt.consequences import changes_for_the_eater, cooling, differences, process_notes, warnings
from fern_match.core.formulate import Formula
from fern_match.core.label.rows import Region
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study


def _sugar_free(serving_g: float = 40) -> tuple[Formula, tuple[Rule, ...], list[Proposal]]:
    region = Region.US
    reading = StudyReading(Study(name="bench", region=region), PANTRY)
    what = formula(filling())
    rules = rules_of(["keto:4"], region, PANTRY)
    found = adapted(what, held_to(what, reading), rules, reading, serving_g=serving_g)
    return what, rules, list(found.proposals)


def test_what_a_proposal_does_is_said() -> None:
    """What stands in for what by name, how much of a laxative dose a serving holds, what the rule does not promise."""
    before, rules, found = _sugar_free(serving_g=60)
    assert found
    for one in found:
        assert any(entry.instead_of for entry in one.lines["filling"])
        assert all(entry.instead_of for entry in one.lines["filling"] if entry.swap is not None)
        told = changes_for_the_eater(one, before, PANTRY)
        assert any("in place of" in sentence and "Icing sugar" in sentence for sentence in told)
        assert not any("icing-sugar" in sentence for sentence in told)
        assert isinstance(process_notes(one, before, FAMILIES, PANTRY), tuple)
        warned = warnings(one, before, rules, READING, 60)
        assert any("nothing medical" in sentence.lower() for sentence in warned)
        assert one.load < 0.5 or any("stomach" in sentence or "laxative" in sentence for sentence in warned)


def test_differences_are_recomputed() -> None:
    """Sides by the table: sweetness before is the original's, cooling is none where nothing crystalline is in it."""
    before, rules, found = _sugar_free()
    sides = {one.what: one for one in differences(before, found[0].formula, rules, PANTRY, 40)}
    sweet = sum(one.grams * (PANTRY[one.ingredient_id].sweetness or 0) for one in before.layers[0].ingredients)
    assert sides["Sweetness"].before == pytest.approx(100 * sweet / before.piece_g)
    assert sides["Weight of Filling"].after == pytest.approx(found[0].formula.layers[0].finished_g)
    assert sides["Sugars"].change == pytest.approx(sides["Sugars"].after - sides["Sugars"].before)
    keto = differences(before, found[0].formula, rules_of(["keto:5"], Region.EU, PANTRY), PANTRY, 40)
    assert (keto[0].what, keto[0].unit) == ("Net carbohydrate", "g a piece")
    assert keto[0].before > keto[0].after
    assert cooling(before, PANTRY) == 0
    assert sides["Sweetness"].sentence == "" or "instead of" in sides["Sweetness"].sentence


def test_erythritol_cools_and_a_syrup_does_not() -> None:
    """Five grams of crystals in ten take 90 kJ per kg from the mouth; dissolved, none."""
    crystals = formula(layer("mint", "plain-fondant", line("erythritol", 5), line("cocoa-butter", 5)))
    syrup = formula(layer("mint", "plain-fondant", line("maltitol-syrup", 10)))
    assert cooling(crystals, PANTRY) == pytest.approx(90, rel=0.02)
    assert cooling(syrup, PANTRY) == 0


def test_xylitol_and_dogs() -> None:
    """A proposal with xylitol says that it can kill a dog."""
    before, rules, found = _sugar_free()
    sweet = layer("filling", "peanut-filling", line("xylitol", 2, "sweet-bulk"), line("peanut-butter-natural", 8, "nut-solids"))
    with_it = replace(found[0], formula=formula(sweet), lines={"filling": ()})
    assert any("dog" in sentence for sentence in warnings(with_it, before, rules, READING, 40))
    assert not any("dog" in sentence for sentence in warnings(found[0], before, rules, READING, 40))


def test_what_cannot_be_met_names_the_nearest() -> None:
    """Keto at nothing at all from peanuts: the limit that could be kept is named, and it can."""
    reading = StudyReading(Study(name="bench", region=Region.US), PANTRY)
    what = formula(filling())
    rules = rules_of(["keto:0.3"], Region.US, PANTRY)
    bench = {"reading": reading, "serving_g": 40.0}
    found = adapted(what, held_to(what, reading), rules, **bench)  # type: ignore[arg-type]
    assert not found.proposals
    assert found.unmet is not None
    assert found.unmet.rule == "keto"
    assert found.unmet.nearest.startswith("keto:")
    again = adapted(what, held_to(what, reading), rules_of([found.unmet.nearest], Region.US, PANTRY), **bench)  # type: ignore[arg-type]
    assert again.proposals


def test_intense_sweeteners_are_told_to_the_eater_and_the_cook() -> None:
    """A keto caramel: how much of its sweetness they carry by the table, and that they go in last."""
    region = Region.UK
    reading = StudyReading(Study(name="bench", region=region), PANTRY)
    what = formula(caramel())
    rules = rules_of(["keto:2"], region, PANTRY)
    found = adapted(what, held_to(what, reading), rules, reading, serving_g=40)
    told = 0
    for one in found.proposals:
        lines = one.formula.layers[0].ingredients
        sweet = {line.ingredient_id: line.grams * (PANTRY[line.ingredient_id].sweetness or 0) for line in lines}
        intense = {key: grams for key, grams in sweet.items() if PANTRY[key].category == "intense-sweetener"}
        share = sum(intense.values()) / sum(sweet.values())
        said = [words for words in changes_for_the_eater(one, what, PANTRY) if "Intense sweeteners" in words]
        assert bool(said) is (share >= 0.15)
        assert not said or f"{100 * share:.0f} %" in said[0]
        notes = process_notes(one, what, FAMILIES, PANTRY)
        assert any("in last" in note for note in notes) is bool(intense)
        told += bool(said)
    assert told


def test_a_keto_wafer_is_bought_and_the_taste_that_goes_is_said() -> None:
    """A coffee wafer from batter: no flour of nuts holds a wafer, so it becomes a sheet of fibre, and its coffee goes."""
    wafer = layer(
        "wafer",
        "wafer-sheet",
        line("water", 9, "water"),
        line("plain-wheat-flour", 6.3, "flour"),
        line("instant-coffee-powder", 0.05, "flavour"),
        line("fine-salt", 0.04, "salt"),
        lost=9.2,
    )
    what = formula(wafer)
    rules = rules_of(["keto:1"], Region.EU, PANTRY)
    reading = StudyReading(Study(name="bench"), PANTRY)
    found = adapted(what, held_to(what, reading), rules, reading, serving_g=40)
    assert found.proposals
    for one in found.proposals:
        assert {entry.ingredient_id for entry in one.formula.layers[0].ingredients} >= {"high-fibre-wafer"}
        assert any(
            "Instant coffee" in words and "nothing stands in" in words for words in changes_for_the_eater(one, what, PANTRY)
        )


def test_what_no_role_takes_is_still_tasted() -> None:
    """A coconut and lime fondant under keto: the lime stays to three tenths, though the family has no place for it."""
    fondant = layer(
        "fondant",
        "coconut-fondant",
        line("white-sugar", 3.4, "sweet-bulk"),
        line("desiccated-coconut", 2.0, "coconut-solids"),
        line("light-corn-syrup", 0.6, "doctor-sugar"),
        line("water", 0.7, "water"),
        line("lime-juice", 0.2),
        lost=0.2,
    )
    what = formula(fondant)
    reading = StudyReading(Study(name="bench", region=Region.US), PANTRY)
    rules = rules_of(["keto:3"], Region.US, PANTRY)
    found = adapted(what, held_to(what, reading), rules, reading, serving_g=12)
    assert found.proposals
    for one in found.proposals:
        assert (
            sum(entry.grams for entry in one.formula.layers[0].ingredients if entry.ingredient_id == "lime-juice") >= 0.06 - 1e-9
        )


def test_what_gives_way_goes_and_leaves_no_token() -> None:
    """Of 12 g of milk chocolate and 3 g of sugar nothing is left to be weighed as 0.12 g for the sake of being there."""
    was = {"milk-chocolate-33": 12.0, "white-sugar": 3.0, "glucose-syrup-42de": 3.0, "heavy-cream": 2.6}
    bar = formula(caramel(), layer("coat", "milk-coat", line("milk-chocolate-33", was["milk-chocolate-33"], "chocolate")))
    rules = rules_of(["fewer-kcal"], Region.EU, PANTRY)
    found = adapted(bar, held_to(bar), rules, READING, serving_g=20)
    assert found.proposals
    for one in found.proposals:
        kept = {entry.ingredient_id: entry.grams for lines in one.lines.values() for entry in lines if entry.ingredient_id in was}
        assert all(grams >= 0.05 * was[key] for key, grams in kept.items() if grams > 0)
