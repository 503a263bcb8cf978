"""More protein: the least that must be there, by the region's claim or one's own figure, and what a cook would do for it."""

import re
from dataclasses import replace

import pytest
from tests.bench import FAMILIES, PANTRY, formula, held_to, layer, line

from fern_match.core.adapt import Adapted, BadRule, adapted, limits_held, rules_of
from fern_match.core.adapt.consequences import changes_for_the_eater
from fern_match.core.adapt.propose import AS_IT_IS
from fern_match.core.adapt.rules import amount_for, breaches
from fern_match.core.formulate import Formula, FormulaLayer, layer_of_family
from fern_match.core.formulate.record.formula import read_version
from fern_match.core.formulate.record.version import Origin, Version
from fern_match.core.label.rows import Region
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

SOFT = {"glucose-syrup-42de", "palm-oil", "water", "vanilla-extract"}  # of a dough made from a nougat, what binds


def by_ratio(kind: str, grams: float) -> FormulaLayer:
    """A layer by its family's working ratio."""
    made = layer_of_family(FAMILIES[kind], grams, kind, FAMILIES[kind].name, PANTRY)
    return read_version(Version(id="v", name="V", layers=(made,)), PANTRY).layers[0]


def under(asked: list[str], what: Formula, region: Region = Region.EU) -> Adapted:
    """What adapting gives."""
    reading = StudyReading(Study(name="bench", region=region), PANTRY)
    return adapted(what, held_to(what, reading), rules_of(asked, region, PANTRY), reading, serving_g=40, explain=False)


def grams(one: FormulaLayer) -> dict[str, float]:
    """Amounts by ingredient."""
    return {entry.ingredient_id: entry.grams for entry in one.ingredients if entry.grams > 0}


PEANUT = formula(by_ratio("milk-coat", 12), by_ratio("peanut-filling", 20), by_ratio("crisp-pieces", 4))
NOUGAT = formula(by_ratio("dark-coat", 9), by_ratio("nougat-chewy-milk", 14), by_ratio("soft-caramel", 9))


def test_protein_as_a_share_of_the_energy() -> None:
    """10 g of whey isolate (8.8 g protein, 0.1 g fat, 0.3 g carbohydrate: 37.3 kcal) and 20 g of sugar (79.9): 35.2 / 117.2."""
    piece = formula(layer("a", "marzipan", line("whey-protein-isolate", 10), line("white-sugar", 20)))
    (rule,) = rules_of(["high-protein"], Region.EU, PANTRY)
    got, least = amount_for(piece, rule, PANTRY, 40)
    assert got == pytest.approx(100 * 35.2 / 117.2, abs=0.1)
    assert least == 20
    assert not breaches(piece, [rule], PANTRY, 40)
    found = breaches(piece, rules_of(["high-protein:35"], Region.EU, PANTRY), PANTRY, 40)
    assert found[0].sentence == "Protein 30 %, where at least 35 % of the energy are asked for."


@pytest.mark.parametrize(
    ("region", "serving_g", "words"),
    [
        (Region.US, 45, "Protein 5.28 g, where at least 10 g a serving (30 g of a larger one) are asked for."),
        (Region.US, 20, "Protein 3.52 g, where at least 10 g a serving (30 g of a larger one) are asked for."),
        (Region.AU, 45, "Protein 7.92 g, where at least 10 g a serving are asked for."),
    ],
)
def test_where_it_is_grams_of_a_serving(region: Region, serving_g: float, words: str) -> None:
    """17.6 g in 100 g: of a serving of 45 g the United States look at 30 g."""
    piece = formula(layer("a", "marzipan", line("whey-protein-isolate", 10), line("white-sugar", 40)))
    assert [one.sentence for one in breaches(piece, rules_of(["high-protein"], region, PANTRY), PANTRY, serving_g)] == [words]


@pytest.mark.parametrize(
    ("asked", "name", "asks"),
    [
        ("high-protein", "High protein", "high-protein:20"),
        ("high-protein:15", "At least 15 % protein of the energy", "high-protein:15"),
        ("high-protein:25/energy", "High protein", "high-protein:25"),
        ("at-least-protein:6", "At least 6 g protein", "at-least-protein:6"),
        ("at-least-protein:20/100g", "At least 20 g protein in 100 g", "at-least-protein:20/100g"),
    ],
)
def test_how_it_is_asked_for(asked: str, name: str, asks: str) -> None:
    """Less than the claim asks no longer bears its name; what is asked for can be asked for again."""
    (rule,) = rules_of([asked], Region.EU, PANTRY)
    assert (rule.name, rule.asked) == (name, asks)
    assert rules_of([rule.asked], Region.EU, PANTRY)[0].limit == rule.limit


@pytest.mark.parametrize(
    ("asked", "said"),
    [("at-least-protein", "is to hold at least"), ("keto:4/energy", "a serving"), ("at-least-fat:3", "no rule known here")],
)
def test_what_cannot_be_asked(asked: str, said: str) -> None:
    """With what there is."""
    with pytest.raises(BadRule, match=said):
        rules_of([asked], Region.EU, PANTRY)


def test_a_filling_takes_protein_and_the_rest_stays() -> None:
    """Of milk, soya or pea; at most a tenth of the filling; coat and crisp to the gram."""
    found = under(["source-of-protein"], PEANUT)
    assert {one.name for one in found.proposals} == {"Milk protein", "Soya protein", "Pea protein"}
    for one in found.proposals:
        coat, filling, crisp = one.formula.layers
        assert coat == PEANUT.layers[0]
        assert grams(crisp) == pytest.approx(grams(PEANUT.layers[2]))
        powder = sum(amount for key, amount in grams(filling).items() if key.endswith("-isolate"))
        assert 0.5 < powder < 0.12 * filling.finished_g
        swaps = {entry.swap.id for lines in one.lines.values() for entry in lines if entry.swap is not None}
        assert swaps & {"p-milk", "p-soy", "p-pea"}, "what it does to the sweet is said with the swap"


def test_a_nougat_that_holds_much_is_a_dough() -> None:
    """Foam falls with so much protein: it is kneaded, its powders are held, and what is tasted stays about as it was."""
    found = under(["source-of-protein"], NOUGAT)
    assert found.proposals
    was = grams(NOUGAT.layers[1])
    for one in found.proposals:
        dough = one.formula.layers[1]
        now = grams(dough)
        assert dough.family == "protein-dough"
        powders = sum(amount for key, amount in now.items() if key not in SOFT)
        assert sum(amount for key, amount in now.items() if key in SOFT) >= 0.8 * powders - 1e-6
        for key in ("cocoa-powder-10-12", "gelatine-powder", "egg-white-powder"):
            assert now.get(key, 0.0) <= 1.25 * was[key] + 1e-9
        assert not set(now) - set(was) - {"whey-protein-isolate", "soy-protein-isolate", "pea-protein-isolate"}
        assert one.formula.layers[0] == NOUGAT.layers[0]
        said = changes_for_the_eater(one, NOUGAT, PANTRY)
        assert said[0] == "Chewy milk nougat: dense and pressed, no longer whipped (sure)."


def test_what_cannot_be_met_names_the_lesser_claim_and_keeps_the_other_rules() -> None:
    """A rule that was asked for beside it is not lost in the nearest."""
    found = under(["high-protein", "without-sesame"], NOUGAT, Region.US)
    assert not found.proposals
    assert found.unmet is not None
    assert found.unmet.nearest == "source-of-protein, without-sesame"
    assert found.unmet.nearest_words == "Good source of protein and Without sesame"
    assert found.unmet.because.endswith("(30 g of a larger one) here. “Source of protein” can be met.")


def test_what_goes_with_a_share_is_not_asked_for_by_itself() -> None:
    """No more energy belongs to “reduced sugar”: the nearest that is named can be asked for as it stands."""
    found = under(["high-protein", "reduced-sugar"], formula(by_ratio("fruit-jelly", 20)))
    assert found.unmet is not None
    assert (found.unmet.nearest, found.unmet.nearest_words) == ("reduced-sugar:0.30", "Reduced sugar")
    assert rules_of(found.unmet.nearest.split(", "), Region.EU, PANTRY)


def test_what_is_out_of_reach_says_how_far_one_gets_and_where_the_energy_is() -> None:
    """A shortbread takes a little; its butter and the chocolate hold the energy."""
    found = under(
        ["source-of-protein"], formula(by_ratio("milk-coat", 12), by_ratio("short-base", 15), by_ratio("soft-caramel", 13))
    )
    assert found.unmet is not None
    reached = re.match(r"Protein cannot be brought to 12 % of the energy here; ([\d.]+) % can be reached\. ", found.unmet.because)
    assert reached is not None
    assert 5 < float(reached[1]) < 9
    assert found.unmet.nearest == f"source-of-protein:{reached[1]}"
    assert re.search(r"Of the energy that comes with too little protein \d+ % is in .* and \d+ % is in ", found.unmet.because)


def test_what_has_enough_stays_as_it_is() -> None:
    """Almonds are a source of protein as they are."""
    almonds = formula(layer("a", "whole-nuts", line("almond-roasted", 20, "nuts")))
    assert [one.name for one in under(["source-of-protein"], almonds).proposals] == [AS_IT_IS]


def test_what_was_kept_holds_to_its_least() -> None:
    """As a limit of solving and weighing out: one gram of protein less breaks it, and a lighter piece is reckoned with."""
    reading = StudyReading(Study(name="bench", region=Region.EU), PANTRY)
    kept = under(["at-least-protein:12/100g"], PEANUT).proposals[0].formula
    version = Version(id="v", name="V", layers=(), origin=Origin(rules=("at-least-protein:12/100g",)))
    (limit,) = limits_held(version, kept, reading)

    def weighs(piece: Formula) -> float:
        return sum(entry.grams * limit.weigh(PANTRY[entry.ingredient_id]) for one in piece.layers for entry in one.ingredients)

    assert weighs(kept) <= limit.most + 1e-9
    less = replace(kept, layers=tuple(one for one in kept.layers if one.layer_id != "crisp-pieces"))
    assert weighs(less) > limit.most
    assert limits_held(version, kept, reading, off_g=0.5)[0].most < limit.most


@pytest.mark.parametrize("asked", [["vegan", "source-of-protein"], ["keto", "at-least-protein:5"]], ids=["vegan", "keto"])
@pytest.mark.parametrize("what", [NOUGAT, PEANUT], ids=["nougat", "peanut"])
def test_beside_other_rules_one_powder_comes_in(asked: list[str], what: Formula) -> None:
    """What brings protein is one kind in all layers, allowed by all rules, and no coat takes more than a little of it."""
    found = under(asked, what, Region.US)
    assert found.proposals
    isolates = {
        "whey-protein-isolate": "milk",
        "milk-protein-concentrate": "milk",
        "soy-protein-isolate": "soya",
        "pea-protein-isolate": "pea",
    }
    for one in found.proposals:
        used = {isolates[key] for layer in one.formula.layers for key in grams(layer) if key in isolates}
        assert len(used) <= 1
        assert "vegan" not in asked or "milk" not in used
        coat = one.formula.layers[0]
        assert sum(amount for key, amount in grams(coat).items() if key in isolates) <= 0.05 * coat.finished_g
