"""Proposals: hard limits by an independent checker over made-up pieces, and what is said of them."""

import random
from dataclasses import replace

import pytest
from tests.bench import FAMILIES, PANTRY, base, breaks, caramel, coat, filling, formula, ganache, held_to, layer, line

from fern_match.core.adapt import Proposal, Rule, adapted, rules_of
from fern_match.core.adapt.consequences import changes_for_the_eater, cooling, differences, process_notes, warnings
from fern_match.core.food import Nutrient
from fern_match.core.formulate import Formula
from fern_match.core.label.rows import Region
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

_RULES = (
    ["vegan"],
    ["sugar-free"],
    ["keto:3"],
    ["no-added-sugar"],
    ["reduced-sugar"],
    ["without-nuts"],
    ["without-milk"],
    ["vegan", "keto:6"],
    ["without-peanuts", "sugar-free"],
    ["at-most-saturates:3"],
)


def piece_by(chance: random.Random) -> Formula:
    """One to three layers of random sizes."""
    made = [caramel(), filling(), ganache(), base(), coat(chance.choice(["dark-chocolate-70", "dark-chocolate-55"]))]
    layers = []
    for one in chance.sample(made, chance.randint(1, 3)):
        times = chance.uniform(0.5, 2.5)
        lines = tuple(replace(entry, grams=times * entry.grams) for entry in one.ingredients)
        layers.append(replace(one, ingredients=lines, water_lost_g=times * one.water_lost_g))
    return formula(*layers)


def table(key: str, column: Nutrient) -> float:
    """A figure of the composition table, per gram."""
    return (PANTRY[key].per_100_g[column] or 0.0) / 100


def net(key: str) -> float:
    """Net carbohydrate of a gram, counted here and not by the core."""
    polyols = table(key, Nutrient.POLYOLS) * (1 if PANTRY[key].polyol_kind == "erythritol" else 0.5)
    return max(0.0, table(key, Nutrient.CARBOHYDRATE) - table(key, Nutrient.FIBRE) - table(key, Nutrient.ALLULOSE) - polyols)


def wrong(proposal: Proposal, rules: list[str], before: Formula, serving_g: float, region: Region, forbidden: str) -> list[str]:
    """What a proposal breaks, from the table and the amounts alone."""
    piece = proposal.formula
    lines = [(one.ingredient_id, one.grams) for made in piece.layers for one in made.ingredients]
    weight = sum(made.added_g - made.water_lost_g for made in piece.layers)
    sugars = sum(grams * table(key, Nutrient.SUGARS) for key, grams in lines)
    added = sum(grams * table(key, Nutrient.ADDED_SUGARS) for key, grams in lines)
    was = sum(one.grams * table(one.ingredient_id, Nutrient.SUGARS) for made in before.layers for one in made.ingredients)
    carbohydrate = sum(grams * net(key) for key, grams in lines)
    allergens = {name for key, _ in lines for name in PANTRY[key].allergens}
    nuts = {"almond", "cashew", "hazelnut", "macadamia", "pecan", "pistachio", "walnut", "brazil nut"}
    american = region is Region.US
    held = {
        "vegan": all(PANTRY[key].vegan == "yes" for key, _ in lines),
        "sugar-free": sugars / weight * serving_g <= 0.49 + 1e-6 if american else 100 * sugars / weight <= 0.5 + 1e-6,
        "no-added-sugar": 100 * added / weight <= 0.05 + 1e-6,
        "reduced-sugar": sugars <= was * (0.75 if american else 0.70) + 1e-6,
        "without-nuts": not allergens & nuts,
        "without-milk": "milk" not in allergens,
        "without-peanuts": not allergens & {"peanut", "peanuts"},
        "keto:3": carbohydrate <= 3 + 1e-6,
        "at-most-saturates:3": sum(grams * table(key, Nutrient.SATURATES) for key, grams in lines) <= 3 + 1e-6,
        "keto:6": carbohydrate <= 6 + 1e-6,
    }
    found = [rule for rule in rules if not held[rule]]
    found += [entry for made in piece.layers for entry in breaks(made, made.finished_g)]
    found += [f"holds {forbidden}" for key, _ in lines if key == forbidden]
    if not american:
        found += [key for key, _ in lines if "allulose" in key]
    return found


@pytest.mark.parametrize("seed", range(24))
def test_hard_limits_hold(seed: int) -> None:
    """In every proposal: the rules, each family's windows and process, what is forbidden, what the region allows."""
    chance = random.Random(seed)
    region = chance.choice([Region.EU, Region.US])
    reading = StudyReading(Study(name="bench", region=region), PANTRY)
    what = piece_by(chance)
    asked = _RULES[seed % len(_RULES)]
    serving = chance.uniform(15, 45)
    forbidden = chance.choice(["maltitol-powder", "coconut-cream", "erythritol", "almond-flour", "vegan-butter-block"])
    found = adapted(
        what,
        held_to(what, reading),
        rules_of(asked, region, PANTRY),
        reading=reading,
        pantry=PANTRY,
        families=FAMILIES,
        serving_g=serving,
        forbidden=[forbidden],
    )
    assert bool(found.proposals) is (found.unmet is None)
    for one in found.proposals:
        assert not wrong(one, asked, what, serving, region, forbidden), one.name
        assert one.load <= 1 or not any(rule in {"sugar-free", "keto:3", "no-added-sugar", "keto:6"} for rule in asked)
    assert len({one.system for one in found.proposals}) == len(found.proposals)


def _sugar_free(serving_g: float = 40) -> tuple[Formula, tuple[Rule, ...], list[Proposal]]:
    region = Region.US
    reading = StudyReading(Study(name="bench", region=region), PANTRY)
    what = formula(filling())
    rules = rules_of(["keto:4"], region, PANTRY)
    found = adapted(what, held_to(what, reading), rules, reading=reading, pantry=PANTRY, families=FAMILIES, serving_g=serving_g)
    return what, rules, list(found.proposals)


def test_what_a_proposal_does_is_said() -> None:
    """What stands in for what by name, how much of a laxative dose a serving holds, what the rule does not promise."""
    before, rules, found = _sugar_free(serving_g=60)
    assert found
    for one in found:
        stood_in = [entry for entry in one.lines["filling"] if entry.swap is not None]
        assert stood_in
        assert all(entry.instead_of for entry in stood_in)
        told = changes_for_the_eater(one, PANTRY)
        assert any("in place of" in sentence and "Icing sugar" in sentence for sentence in told)
        assert not any("icing-sugar" in sentence for sentence in told)
        assert isinstance(process_notes(one, before, FAMILIES, PANTRY), tuple)
        warned = warnings(one, before, rules, PANTRY, 60)
        assert any("nothing medical" in sentence.lower() for sentence in warned)
        assert one.load < 0.5 or any("stomach" in sentence or "laxative" in sentence for sentence in warned)


def test_differences_are_recomputed() -> None:
    """Sides by the table: sweetness before is the original's, cooling is none where nothing crystalline is in it."""
    before, _, found = _sugar_free()
    sides = {one.what: one for one in differences(before, found[0].formula, PANTRY, 40)}
    sweet = sum(one.grams * (PANTRY[one.ingredient_id].sweetness or 0) for one in before.layers[0].ingredients)
    assert sides["Sweetness"].before == pytest.approx(100 * sweet / before.piece_g)
    assert sides["Weight of Filling"].after == pytest.approx(found[0].formula.layers[0].finished_g)
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
    assert any("dog" in sentence for sentence in warnings(with_it, before, rules, PANTRY, 40))
    assert not any("dog" in sentence for sentence in warnings(found[0], before, rules, PANTRY, 40))


def test_what_cannot_be_met_names_the_nearest() -> None:
    """Keto at nothing at all from peanuts: the limit that could be kept is named, and it can."""
    reading = StudyReading(Study(name="bench", region=Region.US), PANTRY)
    what = formula(filling())
    rules = rules_of(["keto:0.3"], Region.US, PANTRY)
    bench = {"reading": reading, "pantry": PANTRY, "families": FAMILIES, "serving_g": 40.0}
    found = adapted(what, held_to(what, reading), rules, **bench)  # type: ignore[arg-type]
    assert not found.proposals
    assert found.unmet is not None
    assert found.unmet.rule == "keto"
    assert found.unmet.nearest.startswith("keto:")
    again = adapted(what, held_to(what, reading), rules_of([found.unmet.nearest], Region.US, PANTRY), **bench)  # type: ignore[arg-type]
    assert again.proposals
