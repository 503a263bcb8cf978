"""What a cook would sign: worked examples of layers that must work, and of changing as little as a rule asks."""

import pickle
from dataclasses import replace

import pytest
from tests.bench import FAMILIES, PANTRY, READING, caramel, filling, formula, held_to, layer, line

from fern_match.core.adapt import Adapted, BadRule, adapted, rules_of
from fern_match.core.adapt.consequences import warnings
from fern_match.core.adapt.propose import AS_IT_IS, STRAIGHT_SWAP
from fern_match.core.adapt.rules import breaches
from fern_match.core.adapt.swaps import Shade, shade, swaps
from fern_match.core.errors import OutOfRange
from fern_match.core.food import Nutrient
from fern_match.core.formulate import Formula, FormulaIngredient, FormulaLayer, layer_of_family
from fern_match.core.formulate.record.formula import read_version
from fern_match.core.formulate.record.version import Version
from fern_match.core.label.rows import Region
from fern_match.core.physics.grain import crystallises
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study


def by_ratio(kind: str, grams: float, key: str) -> FormulaLayer:
    """A layer by its family's working ratio."""
    made = layer_of_family(FAMILIES[kind], grams, key, key.capitalize(), PANTRY)
    return read_version(Version(id="v", name="V", layers=(made,)), PANTRY).layers[0]


def under(asked: str, what: Formula, region: Region = Region.EU, declared: tuple[str, ...] = ()) -> Adapted:
    """What adapting gives."""
    reading = StudyReading(Study(name="bench", region=region), PANTRY)
    rules = rules_of([asked], region, PANTRY)
    return adapted(
        what, held_to(what, reading), rules, reading, serving_g=40, declared=dict.fromkeys(declared, frozenset()), explain=False
    )


def grams(one: FormulaLayer) -> dict[str, float]:
    """Amounts by ingredient."""
    return {entry.ingredient_id: entry.grams for entry in one.ingredients}


def test_a_straight_swap_moves_only_what_breaks_the_rule() -> None:
    """Cream and butter of the caramel give way; its sugar and salt stay within a tenth; a layer of nuts stays to the gram."""
    nuts = layer("nuts", "whole-nuts", line("hazelnut-roasted", 5, "nut-solids"))
    before = formula(caramel(), nuts)
    first = under("vegan", before).proposals[0]
    assert first.name == STRAIGHT_SWAP
    was, now = grams(before.layers[0]), grams(first.formula.layers[0])
    assert not {"heavy-cream", "butter-unsalted"} & now.keys()
    for key in ("white-sugar", "fine-salt"):
        assert now[key] == pytest.approx(was[key], rel=0.1)
    assert first.formula.layers[1] == before.layers[1]


def test_a_straight_swap_brings_in_nothing_but_stand_ins() -> None:
    """A crumb base of biscuits and butter gets neither sugar nor vanilla with its vegan biscuits and butter."""
    before = formula(layer("base", "crumb-base", line("plain-biscuit-crumbs", 10, "crumb"), line("butter-unsalted", 5, "fat")))
    first = under("vegan", before).proposals[0]
    assert first.name == STRAIGHT_SWAP
    assert all(one.instead_of for one in first.lines["base"])


def test_what_holds_already_is_left_as_it_is() -> None:
    """A filling without milk under a rule against milk is the answer itself."""
    before = formula(layer("nuts", "whole-nuts", line("hazelnut-roasted", 5, "nut-solids")))
    found = under("without-milk", before)
    assert [one.name for one in found.proposals] == [AS_IT_IS]
    assert found.proposals[0].formula == before
    asked = under("without-milk", before, declared=("milk",))
    assert [one.doubtful for one in asked.breaches] == [True]
    assert "label declares milk" in asked.breaches[0].sentence


@pytest.mark.parametrize("asked", ["keto:4", "sugar-free"])
def test_a_jelly_keeps_its_gel_and_its_acid(asked: str) -> None:
    """Pectin holds sugar to standardise it, and acid is a carbohydrate by analysis: neither is a reason to lose them."""
    before = formula(by_ratio("fruit-jelly", 12, "jelly"))
    found = under(asked, before)
    assert found.proposals
    for one in found.proposals:
        now = grams(one.formula.layers[0])
        assert now.keys() & {"pectin-hm", "pectin-lm", "agar", "gelatine-powder", "carrageenan"}, one.name
        assert now.keys() & {"citric-acid", "cream-of-tartar", "lemon-juice"}, one.name


def test_of_erythritol_no_more_than_the_water_holds() -> None:
    """In what is wet: 0.59 g to a gram of water at 20 °C, less a fifth for what else is dissolved."""
    before = formula(by_ratio("fruit-jelly", 12, "jelly"))
    found = under("keto:4", before).proposals
    assert found
    for one in found:
        made = one.formula.layers[0]
        water = sum(
            entry.grams * (PANTRY[entry.ingredient_id].per_100_g[Nutrient.WATER] or 0) / 100 for entry in made.ingredients
        )
        dissolved = grams(made).get("erythritol", 0.0) * (PANTRY["erythritol"].per_100_g[Nutrient.POLYOLS] or 0) / 100
        assert dissolved <= 0.8 * 0.59 * (water - made.water_lost_g) + 1e-6, one.name


def test_a_hard_sugar_is_made_of_what_has_a_glass() -> None:
    """A brittle without sugar: of erythritol, maltitol and allulose a tenth at most, isomalt or polydextrose instead."""
    before = formula(by_ratio("brittle", 12, "brittle"))
    found = under("no-added-sugar", before, Region.US)
    assert found.proposals
    for one in found.proposals:
        made = one.formula.layers[0]
        now = grams(made)
        soft = sum(
            now.get(key, 0.0) for key in ("erythritol", "maltitol-powder", "maltitol-syrup", "allulose-crystalline", "xylitol")
        )
        assert soft <= 0.1 * made.added_g + 1e-6, one.name
        assert now.keys() & {"isomalt", "polydextrose"}, one.name


def test_chocolate_is_bought_before_it_is_made() -> None:
    """A milk coat under vegan becomes a bought chocolate labelled so."""
    before = formula(layer("coat", "milk-coat", line("milk-chocolate-33", 12, "chocolate")), filling())
    found = under("vegan", before).proposals
    assert found
    for one in found[:1]:
        chocolates = {key for key in grams(one.formula.layers[0]) if PANTRY[key].category == "chocolate"}
        assert any(key.startswith("vegan-") for key in chocolates)


def test_seeds_stand_in_for_nuts_only_under_a_rule_against_nuts() -> None:
    """Peanuts too sugary for a claim are no reason for pumpkin seeds, salt and oil."""
    before = formula(layer("nuts", "whole-nuts", line("almond-roasted", 10, "nut-solids")))
    found = under("sugar-free", before)
    assert not found.proposals
    assert found.unmet is not None
    assert found.unmet.nearest == "no-added-sugar"
    seeds = under("without-nuts", before).proposals
    assert all(grams(one.formula.layers[0]).keys() & {"pumpkin-seeds", "sunflower-seeds"} for one in seeds)
    assert seeds


def test_what_must_be_asked_about_stays_with_the_question() -> None:
    """Pretzels have no twin that is sure to be vegan: they stay, and the proposal asks."""
    before = formula(
        layer("crisp", "crisp-in-chocolate", line("dark-chocolate-70", 8, "chocolate"), line("pretzels", 4, "crisp"))
    )
    found = under("vegan", before).proposals
    assert found
    assert "pretzels" in grams(found[0].formula.layers[0])
    assert "pretzels" in found[0].doubtful


def test_what_the_pantry_does_not_know_stays_with_its_question() -> None:
    """A line of a recipe that nobody knows is not lost on the way to a proposal, weighed or open."""
    dust = FormulaIngredient(ingredient_id="unknown-dust", name="Moonbeam dust", role="", grams=1.0)
    open_ = FormulaIngredient(ingredient_id="unknown-flakes", name="Stardust", role="", grams=0.0, unread=True)
    salt = line("flaky-salt", 0, "salt", unread=True)
    before = formula(replace(caramel(), ingredients=(*caramel().ingredients, dust, open_, salt), water_lost_g=2.0))
    found = under("vegan", before)
    assert found.proposals
    for one in found.proposals:
        lines = {line.ingredient_id: line for line in one.formula.layers[0].ingredients}
        assert lines["unknown-dust"].grams == 1.0
        assert lines["unknown-flakes"].unread
        assert lines["flaky-salt"].unread
        assert one.formula.layers[0].finished_g == pytest.approx(before.layers[0].finished_g)
        assert {"unknown-dust", "unknown-flakes"} <= set(one.doubtful)
        said = " ".join(warnings(one, before, rules_of(["vegan"], Region.EU, PANTRY), READING, 40))
        assert "Nothing is known of Moonbeam dust and Stardust" in said


def test_what_no_line_explains_goes_along() -> None:
    """What the label declares and nobody found is said of every proposal, so that it is kept with the version."""
    nuts = formula(layer("nuts", "whole-nuts", line("hazelnut-roasted", 5, "nut-solids")), caramel())
    for asked, wanted in {"without-milk": False, "without-egg": True, "vegan": True}.items():  # the caramel’s milk is explained
        found = under(asked, nuts, declared=("egg", "milk", "hazelnut"))
        assert found.proposals
        assert all(any("declares egg" in one for one in proposal.unexplained) is wanted for proposal in found.proposals)


def test_what_the_label_says_of_an_ingredient_goes_with_it() -> None:
    """Fish of gelatine: the pantry's gelatine is asked about, and a vegan proposal without gelatine holds no fish."""
    reading = StudyReading(Study(name="bench", region=Region.EU), PANTRY)
    sweet = formula(by_ratio("marshmallow", 20, "soft"), caramel())
    found = adapted(
        sweet,
        held_to(sweet, reading),
        rules_of(["vegan"], Region.EU, PANTRY),
        reading,
        serving_g=40,
        declared={"milk": frozenset(), "fish": frozenset({"gelatine-powder"})},
        explain=False,
    )
    said = [one.sentence for one in found.breaches if "fish" in one.sentence]
    assert said == [
        "The label says fish of what stands here as Gelatine powder; the pantry does not. Write your own ingredient for it."
    ]
    assert found.proposals
    assert [one.unexplained for one in found.proposals] == [()] * len(found.proposals)
    kept = breaches(sweet, rules_of(["vegan"], Region.EU, PANTRY), PANTRY, 40, {"fish": frozenset({"liqueur"})})
    assert any("declares fish, and no line" in one.sentence for one in kept)  # a kitchen's stand-in makes nothing go


def test_a_set_asks_where_a_figure_is_not_known() -> None:
    """Own ingredients from a packet say nothing of alcohol: that is no “none”."""
    own = replace(PANTRY["vanilla-paste"], id="own-paste", per_100_g={**PANTRY["honey"].per_100_g, Nutrient.ALCOHOL: None})
    rule = rules_of(["without-alcohol"], Region.EU, PANTRY)[0]
    assert not rule.forbids(own)
    assert rule.doubts(own)


def test_errors_come_whole_out_of_another_process() -> None:
    """With every field, however they were made."""
    made = OutOfRange("pieces", 0, low=1, high=9, unit="g")
    assert str(pickle.loads(pickle.dumps(made))) == str(made)
    assert str(pickle.loads(pickle.dumps(BadRule("No.")))) == "No."


def test_twins_stay_twins() -> None:
    """Two caramels of one recipe are of one recipe afterwards, at 8 and at 4 g."""
    small = caramel()
    half = layer(
        "second",
        "soft-caramel",
        *(line(one.ingredient_id, one.grams / 2, one.role) for one in small.ingredients),
        lost=small.water_lost_g / 2,
    )
    found = under("vegan", formula(small, half)).proposals
    assert found
    for one in found:
        first, second = (grams(made) for made in one.formula.layers)
        assert first.keys() == second.keys(), one.name
        assert all(first[key] == pytest.approx(2 * second[key], rel=1e-4, abs=1e-6) for key in first), one.name


def test_chocolate_keeps_its_shade() -> None:
    """White gives way to white, though dark would fit the label as well; by a bought one, lactose-free too."""
    coat = formula(layer("coat", "white-coat", line("white-chocolate", 10, "chocolate")))
    for rule in ("vegan", "lactose-free"):
        assert grams(under(rule, coat).proposals[0].formula.layers[0]) == {"vegan-white-chocolate": pytest.approx(10)}
    assert shade(PANTRY["milk-chocolate-33"]) is Shade.MILK
    assert shade(PANTRY["semi-sweet-chips"]) is Shade.DARK
    assert shade(PANTRY["butter-unsalted"]) is None


def test_without_lactose_cream_stays_cream() -> None:
    """Lactose-free cream for cream, as much or more, and butter loses its milk sugar only."""
    first = under("lactose-free", formula(caramel())).proposals[0]
    held = grams(first.formula.layers[0])
    assert held["lactose-free-cream"] > 0.9 * grams(caramel())["heavy-cream"]
    assert not held.keys() & {"coconut-cream", "oat-cream", "cashew-butter"}
    assert "anhydrous-milk-fat" in held


def test_what_grains_by_itself_is_no_glass() -> None:
    """A honeycomb without sugar stands on isomalt and fibre: no erythritol or maltitol powder in it."""
    before = formula(by_ratio("honeycomb", 8, "comb"), layer("nuts", "whole-nuts", line("hazelnut-roasted", 5, "nut-solids")))
    proposals = under("keto", before).proposals
    assert proposals
    for one in proposals:
        assert not {"erythritol", "maltitol-powder", "stevia-erythritol-blend"} & grams(one.formula.layers[0]).keys()


@pytest.mark.parametrize(
    ("was", "becomes"),
    [
        ("marshmallow", "sugar-free-marshmallow"),
        ("gelatine-jelly", "sugar-free-gummy"),
        ("cream-fondant", "sugar-free-fudge"),
    ],
)
def test_sweets_without_sugar_become_their_own_kind(was: str, becomes: str) -> None:
    """By the family that is made without sugar."""
    first = under("sugar-free", formula(by_ratio(was, 10, "one"))).proposals[0].formula.layers[0]
    assert first.family == becomes
    assert {"maltitol-syrup", "erythritol", "stevia-erythritol-blend"} & grams(first).keys()


def test_fudge_without_animals() -> None:
    """Plant cream and plant butter in a fudge that still grains: its sugar is there to the tenth."""
    before = formula(by_ratio("cream-fondant", 10, "fudge"))
    first = under("vegan", before).proposals[0].formula.layers[0]
    sugar = [sum(value for key, value in grams(one).items() if key.endswith("sugar")) for one in (before.layers[0], first)]
    assert sugar[1] == pytest.approx(sugar[0], rel=0.1)
    assert not {"heavy-cream", "butter-unsalted"} & grams(first).keys()


def test_no_layer_is_made_sweet_for_the_others() -> None:
    """Where fibre leaves a caramel hardly sweet, its coat comes out a quarter sweeter at most, not twice."""
    before = formula(layer("coat", "milk-coat", line("milk-chocolate-33", 10, "chocolate")), caramel())
    proposals = under("keto", before).proposals
    assert proposals
    for one in proposals:
        was, now = (
            sum(value * (PANTRY[key].sweetness or 0) for key, value in grams(coat).items())
            for coat in (before.layers[0], one.formula.layers[0])
        )
        assert now <= 1.25 * was + 0.03 * 10 + 1e-6


def test_a_straight_swap_takes_one_thing_for_one() -> None:
    """Cream and butter of a caramel give way to one swap each, not to a blend of three creams and two butters."""
    now = grams(under("vegan", formula(caramel())).proposals[0].formula.layers[0])
    new = now.keys() - grams(caramel()).keys()
    pairs = [swap for swap in swaps() if new & set(swap.to) and {"heavy-cream", "butter-unsalted"} & set(swap.of)]
    assert any(new <= set(one.to) | set(other.to) for one in pairs for other in pairs), new


def test_a_bought_wafer_is_nothing_else() -> None:
    """What the program would want a crumb of to come nearer to a limit is not put into a bought sheet."""
    wafer = by_ratio("wafer-sheet", 6.0, "wafer")
    before = formula(wafer, by_ratio("sesame-cream", 12.0, "cream"))
    proposals = under("keto:3", before).proposals
    bought = [
        layer for one in proposals for layer in one.formula.layers if layer.layer_id == "wafer" and "bought" in layer.family
    ]
    assert bought
    assert all(len(grams(layer)) == 1 for layer in bought)


def test_a_sponge_without_egg_is_whisked_all_the_same() -> None:
    """Chickpea water holds air where ground flax only binds; a mousse takes coconut cream, which whips, and no plant drink."""
    for one in under("vegan", formula(by_ratio("sponge-base", 20, "sponge"))).proposals:
        now = grams(one.formula.layers[0])
        assert now.get("aquafaba", 0.0) > 0.3 * sum(now.values())
        assert "flaxseed-meal" not in now
    mousse = under("vegan", formula(by_ratio("chocolate-mousse", 20, "mousse"))).proposals
    assert mousse
    for one in mousse:
        now = grams(one.formula.layers[0])
        assert now.get("coconut-cream", 0.0) > 5
        assert not {key for key in now if key.endswith("-drink")}


def test_a_buttercream_stays_a_cream() -> None:
    """Without milk it is plant butter beaten with sugar, not set hard by shea; without sugar, powdered sweetener and no fibre."""
    for one in under("vegan", formula(by_ratio("buttercream", 20, "cream"))).proposals:
        now = grams(one.formula.layers[0])
        assert now.get("vegan-butter-block", 0.0) > 3.5
        assert "shea-butter" not in now
    keto = under("keto", formula(by_ratio("buttercream", 20, "cream"))).proposals
    assert keto
    for one in keto:
        now = grams(one.formula.layers[0])
        assert sum(now.get(key, 0.0) for key in ("erythritol", "stevia-erythritol-blend", "maltitol-powder")) > 6
        assert sum(now.get(key, 0.0) for key in ("polydextrose", "soluble-corn-fibre", "inulin")) < 3


def test_a_cheese_filling_keeps_its_cheese() -> None:
    """Bought plant cheese stands in for cheese; no raw flour and no sand of protein; sugar-free says where the sugar is."""
    vegan = under("vegan", formula(by_ratio("cream-cheese-filling", 20, "cheese"))).proposals
    assert vegan
    for one in vegan:
        now = grams(one.formula.layers[0])
        assert now.get("vegan-cream-cheese", 0.0) > 6
        assert now.get("rice-flour", 0.0) + now.get("oat-flour", 0.0) <= 0.2
    found = under("sugar-free", formula(by_ratio("cream-cheese-filling", 20, "cheese")))
    assert not found.proposals
    assert found.unmet is not None
    assert "Cream cheese" in found.unmet.because


def test_a_flowing_caramel_stays_one() -> None:
    """It does not become a caramel to be cut: its own windows of water hold under any rule."""
    for rule in ("vegan", "sugar-free", "keto"):
        found = under(rule, formula(by_ratio("caramel-sauce", 20, "sauce")))
        assert found.proposals
        assert all(one.formula.layers[0].family == "caramel-sauce" for one in found.proposals)


def test_one_powder_stands_in_for_one() -> None:
    """Of a nougat with skimmed milk powder each system takes its own stand-in, not soya, pea and rice at once."""
    nougat = by_ratio("nougat-chewy-milk", 22, "nougat")
    found = under("vegan", formula(nougat))
    assert len(found.proposals) >= 2
    powders = {
        "soy-protein-isolate",
        "pea-protein-isolate",
        "oat-flour",
        "rice-flour",
        "rice-drink-powder",
        "coconut-milk-powder",
    }
    for one in found.proposals:
        assert len(powders & grams(one.formula.layers[0]).keys()) <= 2, one.name
    soya = next(one for one in found.proposals if "soy-protein-isolate" in grams(one.formula.layers[0]))
    assert not {"pea-protein-isolate", "rice-flour"} & grams(soya.formula.layers[0]).keys()


def test_bought_condensed_plant_milk_is_a_straight_swap() -> None:
    """Condensed oat or coconut drink for condensed milk, and nothing beside; its own sugar, and one kind of it."""
    found = under("vegan", formula(by_ratio("condensed-milk-caramel", 10, "caramel")))
    first = found.proposals[0]
    assert first.name == STRAIGHT_SWAP
    now = grams(first.formula.layers[0])
    assert {"condensed-oat-milk", "condensed-coconut-milk"} & now.keys()
    assert not {"coconut-cream", "soy-drink", "soy-protein-isolate", "light-brown-sugar", "beet-sugar"} & now.keys()
    for one in found.proposals:
        sugars = {"white-sugar", "beet-sugar", "light-brown-sugar", "caster-sugar"} & grams(one.formula.layers[0]).keys()
        assert len(sugars) == 1, one.name
    assert under("vegan", formula(by_ratio("condensed-milk-caramel", 10, "caramel")), Region.US).proposals[0].doubtful == ()


def test_what_is_meant_to_grain_holds_what_crystallises() -> None:
    """A fondant without sugar is of erythritol or maltitol powder; polydextrose and syrup alone would stay a syrup."""
    for rule in ("keto", "sugar-free"):
        found = under(rule, formula(by_ratio("plain-fondant", 8, "mint")))
        assert found.proposals
        for one in found.proposals:
            made = one.formula.layers[0]
            grain = sum(line.grams * crystallises(PANTRY[line.ingredient_id]) for line in made.ingredients)
            assert grain > 0.3 * made.added_g, (rule, one.name)


def test_a_white_coat_stays_white() -> None:
    """Every vegan system takes the white stand-in where there is one, not a dark chocolate of its own."""
    coat = layer("coat", "white-coat", line("white-chocolate", 10, "chocolate"))
    for one in under("vegan", formula(coat, by_ratio("wafer-cream", 20, "cream"))).proposals:
        assert "vegan-white-chocolate" in grams(one.formula.layers[0]), one.name


def test_a_marshmallow_without_gelatine_is_whipped() -> None:
    """What gels and foams at once is replaced by something for each."""
    found = under("vegan", formula(by_ratio("marshmallow", 14, "mallow")))
    assert found.proposals
    for one in found.proposals:
        now = grams(one.formula.layers[0]).keys()
        assert {"agar", "carrageenan", "pectin-hm"} & now
        assert {"aquafaba", "potato-protein"} & now


def test_keto_coats_are_bought_whatever_sweetens_the_filling() -> None:
    """An allulose caramel wears a bought erythritol chocolate: nobody grinds a coat at home for the sake of a system."""
    coat = layer("coat", "dark-coat", line("dark-chocolate-55", 12, "chocolate"))
    found = under("keto", formula(coat, by_ratio("soft-caramel", 14, "caramel")), Region.US)
    allulose = next(one for one in found.proposals if one.system == "allulose")
    assert allulose.formula.layers[0].family == "dark-coat"


def test_what_a_layer_is_known_by_stays() -> None:
    """A hazelnut wafer cream keeps its hazelnuts under a rule that is not about them; a keto granola has no oats and no sand."""
    cream = layer(
        "cream",
        "wafer-cream",
        line("icing-sugar", 7, "sweet-bulk"),
        line("vegetable-shortening", 4.2, "fat"),
        line("hazelnut-paste", 1.9, "nut-solids"),
        line("whole-milk-powder", 1.5, "milk-solids"),
    )
    for one in under("vegan", formula(cream)).proposals:
        assert grams(one.formula.layers[0])["hazelnut-paste"] >= 0.7 * 1.9, one.name
    found = under("keto", formula(by_ratio("granola", 27, "muesli")))
    assert found.proposals
    first = grams(found.proposals[0].formula.layers[0])
    assert first["almond-roasted"] > 0.5
    assert "rolled-oats" not in first
    assert first.get("coconut-flour", 0.0) < 0.09 * sum(first.values())


def test_a_trace_of_soda_is_none() -> None:
    """What works by a little is there to a good part, or is gone and said: a twentieth of it raises nothing."""
    for rule in ("keto", "sugar-free"):
        before = by_ratio("short-base", 20, "base")
        was = grams(before)
        for one in under(rule, formula(before)).proposals:
            now = grams(one.formula.layers[0])
            for key in {"baking-powder", "baking-soda", "fine-salt"} & was.keys() & now.keys():
                assert now[key] > 0.4 * was[key], (rule, one.name, key)


def test_a_compound_coat_is_bought_in_its_shade() -> None:
    """A milk coating becomes a bought milk chocolate with erythritol or maltitol, not powders ground at home nor a dark one."""
    coat = layer("coat", "compound-milk-coat", line("compound-coating-milk", 15, "chocolate"))
    filling = by_ratio("peanut-filling", 25, "filling")
    for one in under("keto", formula(coat, filling), Region.US).proposals:
        assert grams(one.formula.layers[0]).keys() <= {"milk-chocolate-erythritol", "sugar-free-milk-chocolate-maltitol"}, (
            one.name
        )


def test_a_powder_stands_in_for_sugar_only_where_protein_is_asked_for() -> None:
    """Whey protein of a keto crumb base holds it together: nothing says that it comes in place of the brown sugar."""
    base = layer(
        "base",
        "crumb-base",
        line("plain-biscuit-crumbs", 4.1, "crumb"),
        line("butter-unsalted", 1.4, "fat"),
        line("light-brown-sugar", 0.3, "sweet-bulk"),
        line("golden-syrup", 0.4, "doctor-sugar"),
    )
    proposals = under("keto", formula(base)).proposals
    assert proposals
    powders = [line for one in proposals for line in one.lines["base"] if line.ingredient_id == "whey-protein-isolate"]
    assert powders
    assert not [line for line in powders if "light-brown-sugar" in line.instead_of]


def test_no_layer_tastes_of_what_it_never_did() -> None:
    """A ginger crumb base under keto takes no cocoa because its new kind may hold some, and no more ginger to fill it up."""
    base = layer(
        "base",
        "crumb-base",
        line("plain-biscuit-crumbs", 4.1, "crumb"),
        line("butter-unsalted", 1.4, "fat"),
        line("golden-syrup", 0.4, "doctor-sugar"),
        line("ground-ginger", 0.023, "flavour"),
    )
    proposals = under("keto", formula(base)).proposals
    assert proposals
    for one in proposals:
        now = grams(one.formula.layers[0])
        assert not [key for key in now if key.startswith("cocoa")], one.name
        assert now.get("ground-ginger", 0.0) <= 1.26 * 0.023, one.name


def sweetness(one: FormulaLayer) -> float:
    """Of a layer, in g of sugar in a g."""
    return sum(line.grams * (PANTRY[line.ingredient_id].sweetness or 0.0) for line in one.ingredients) / one.finished_g


def test_a_hard_sugar_of_isomalt_is_brought_up_to_sugar() -> None:
    """Isomalt is half as sweet: sucralose, of which a brittle stands more than a filling, brings it near what it was."""
    before = formula(by_ratio("brittle", 24, "brittle"))
    found = under("keto", before).proposals
    assert len(found) > 1
    for one in (one.formula.layers[0] for one in found):
        now = grams(one)
        assert now["sucralose-powder"] * 600 > 0.15 * one.finished_g
        assert sweetness(one) > 0.9 * sweetness(before.layers[0])
        assert now.get("inulin", 0.0) < 0.05 * one.finished_g  # it does not melt
        assert "sesame-seeds" not in now  # which its new kind may hold


def test_an_apple_nougat_becomes_no_raspberry() -> None:
    """Freeze-dried raspberry stands in for its own puree; of another fruit there is as much as there was, or less."""
    nougat = layer(
        "nougat",
        "nougat-honey",
        line("white-sugar", 5.6, "sweet-bulk"),
        line("honey", 4.9, "doctor-sugar"),
        line("glucose-syrup-42de", 2.3, "doctor-sugar"),
        line("egg-white-fresh", 1.05, "aerator"),
        line("apple-puree", 1.0, ""),
        line("water", 0.2, "water"),
        lost=2.4,
    )
    proposals = under("keto", formula(nougat)).proposals
    assert proposals
    for one in proposals:
        now = one.formula.layers[0]
        assert now.family == "sugar-free-nougat", one.name
        assert "freeze-dried-raspberry" not in grams(now), one.name
        assert grams(now).get("apple-puree", 0.0) <= 1.26, one.name


def test_what_can_be_bought_comes_before_what_is_ground() -> None:
    """Where a coat ground at home comes nearer, the same with a bought one is shown before it, and it says what it wants."""
    coat = layer("coat", "milk-coat", line("milk-chocolate-33", 15.6, "chocolate"))
    found = under("keto", formula(coat, by_ratio("honeycomb", 18, "comb"), by_ratio("soft-caramel", 6.5, "caramel")))
    names = [one.name for one in found.proposals]
    assert names[:2] == ["Erythritol and fibre", "Erythritol and fibre, chocolate ground at home"]
    bought, ground = (one.formula.layers[0] for one in found.proposals[:2])
    assert grams(bought).keys() == {"milk-chocolate-erythritol"}
    assert ground.family == "sugar-free-milk-coat-open"
    assert len({one.system for one in found.proposals}) == len(found.proposals)
    butter = [one for one in found.proposals[1].lines["coat"] if one.ingredient_id == "cocoa-butter"]
    assert butter
    assert not butter[0].instead_of  # the vegan's swap is none of keto's


def test_a_dark_coating_is_of_cocoa() -> None:
    """Opened for want of a bought one, it takes cocoa and no colour; a base with a trace of cocoa stays without."""
    coat = layer("coat", "compound-dark-coat", line("compound-coating-dark", 13.7, "chocolate"))
    found = under("keto", formula(coat, by_ratio("marshmallow", 14, "mallow"), by_ratio("baked-biscuit", 10.5, "biscuit")))
    ground = [one.formula.layers[0] for one in found.proposals if one.formula.layers[0].family == "compound-coat-open"]
    assert ground
    for one in ground:
        assert grams(one).get("cocoa-powder-10-12", 0.0) > 0.1 * one.finished_g
        assert "beetroot-colour-powder" not in grams(one)
    base = layer(
        "base",
        "crumb-base",
        line("wholemeal-biscuit-crumbs", 13.0, "crumb"),
        line("butter-salted", 5.1, "fat"),
        line("golden-syrup", 1.1, "doctor-sugar"),
        line("cocoa-mass", 0.02, "cocoa-solids"),
        line("cocoa-butter", 0.03, "fat"),
    )
    bases = under("keto", formula(base)).proposals
    assert bases
    for one in bases:
        now = grams(one.formula.layers[0])
        assert not [key for key in now if key.startswith("cocoa-powder")], one.name
        assert now.get("cocoa-butter", 0.0) < 0.05, one.name


def test_ground_flax_comes_with_its_water() -> None:
    """In a brownie's egg's place: a seventh of it, and the water it swells in, though the rest stays as it is."""
    brownie = layer(
        "brownie",
        "brownie-base",
        line("white-sugar", 12.5, "sweet-bulk"),
        line("plain-wheat-flour", 6.6, "flour"),
        line("butter-unsalted", 6.6, "fat"),
        line("whole-egg", 6.0, "structure-protein"),
        line("cocoa-powder-10-12", 2.6, "cocoa-solids"),
        line("rapeseed-oil", 1.9, "fat"),
        line("water", 0.8, "water"),
        line("fine-salt", 0.2, "salt"),
        lost=3.5,
    )
    found = under("vegan", formula(brownie))
    assert found.proposals[0].name == STRAIGHT_SWAP
    for one in found.proposals:
        now = grams(one.formula.layers[0])
        assert 0.3 < now["flaxseed-meal"] < 1.5, one.name
        assert now["water"] > 3.5 * now["flaxseed-meal"], one.name


def test_a_straight_swap_mends_nothing_else() -> None:
    """Vegan milk chocolate is less sweet and cornflakes are swapped: no oats give way to syrup to make up for either."""
    coat = layer("coat", "milk-coat", line("milk-chocolate-33", 14.4, "chocolate"))
    granola = layer(
        "granola",
        "granola",
        line("rolled-oats", 11.75, "crisp"),
        line("glucose-syrup-42de", 9.5, "doctor-sugar"),
        line("vegetable-shortening", 2.9, "fat"),
        line("hazelnut-roasted", 2.9, "nut-solids"),
        line("cornflakes", 2.1, "crisp"),
        line("honey", 1.75, "doctor-sugar"),
        line("light-brown-sugar", 0.8, "sweet-bulk"),
        line("water", 0.4, "water"),
        line("fine-salt", 0.13, "salt"),
        lost=2.6,
    )
    first = under("vegan", formula(coat, granola)).proposals[0]
    assert first.name == STRAIGHT_SWAP
    was, now = grams(granola), grams(first.formula.layers[1])
    for key in ("rolled-oats", "glucose-syrup-42de", "hazelnut-roasted", "light-brown-sugar"):
        assert now[key] == pytest.approx(was[key], rel=0.03), key
    assert now["vegan-crisped-rice"] == pytest.approx(2.1, rel=0.2)


@pytest.mark.parametrize(
    ("family", "was", "now"),
    [
        ("compound-white-coat", "compound-coating-white", "vegan-white-chocolate"),
        ("compound-milk-coat", "compound-coating-milk", "milk-chocolate"),
        ("compound-dark-coat", "compound-coating-dark", "vegan-coating-dark"),
        ("aerated-chocolate", "milk-chocolate-33", "milk-chocolate"),
    ],
)
def test_a_vegan_coat_keeps_its_shade(family: str, was: str, now: str) -> None:
    """A straight swap buys what is white for white and milk for milk, and grinds nothing."""
    coat = layer("coat", family, line(was, 13, "chocolate"))
    first = under("vegan", formula(coat, by_ratio("fruit-jelly", 20, "jelly"))).proposals[0]
    assert first.name == STRAIGHT_SWAP
    assert all(now in key for key in grams(first.formula.layers[0]))


def test_a_white_nougat_stays_white() -> None:
    """Honey gives way to agave or maple syrup there, not to date syrup."""
    found = under("vegan", formula(by_ratio("nougat-honey", 12, "nougat"))).proposals
    assert found
    for one in found:
        assert "date-syrup" not in grams(one.formula.layers[0]), one.name


@pytest.mark.parametrize(
    ("family", "most"), [("wafer-cream", 0.43), ("nut-paste-praline", 0.37), ("peanut-filling", 0.37), ("short-base", 0.25)]
)
def test_erythritol_does_not_cool_a_whole_filling(family: str, most: float) -> None:
    """Beyond that it is mint without mint: fibre is the rest of the bulk, and what counts by the milligram of the sweetness."""
    proposals = under("keto", formula(by_ratio(family, 20, "one"))).proposals
    assert proposals
    for one in proposals:
        now = one.formula.layers[0]
        cold = sum(grams for key, grams in grams(now).items() if "erythritol" in key and "chocolate" not in key)
        assert cold < most * now.added_g, one.name


def test_a_sponge_is_of_egg_and_flour() -> None:
    """Not of a third of fibre that melts; a hazelnut cream stays one, with no more than half as much again of its nuts."""
    sponges = under("keto", formula(by_ratio("sponge-base", 10, "sponge"))).proposals
    assert sponges
    for one in sponges:
        now = one.formula.layers[0]
        assert grams(now)["whole-egg"] > 0.19 * now.added_g, one.name
        fibre = sum(g for key, g in grams(now).items() if key in {"soluble-corn-fibre", "polydextrose", "inulin"})
        assert fibre < 0.13 * now.added_g, one.name
    cream = by_ratio("wafer-cream", 20, "cream")
    nuts = {line.ingredient_id: line.grams for line in cream.ingredients if line.role == "nut-solids"}
    creams = under("keto", formula(cream)).proposals
    assert creams
    assert nuts
    for one in creams:
        for key, was in nuts.items():
            assert grams(one.formula.layers[0]).get(key, 0.0) <= 1.61 * was, one.name


def test_what_is_another_sweet_is_not_shown() -> None:
    """A date caramel of coconut, 12 g fatter in 100 g, gives way to what comes nearer."""
    paste = layer(
        "paste",
        "date-caramel",
        line("dates", 13.3, "fruit-solids"),
        line("coconut-cream", 3.5, "plant-liquid"),
        line("tahini", 2.2, "nut-solids"),
        line("coconut-oil-refined", 0.8, "fat"),
        line("sea-salt-coarse", 0.2, "salt"),
    )
    coat = layer("coat", "dark-coat", line("dark-chocolate-55", 12, "chocolate"))
    before = formula(coat, paste)
    found = under("keto", before).proposals
    assert found

    def fat(what: Formula) -> float:
        lines = [one for layer in what.layers for one in layer.ingredients]
        return sum(one.grams * (PANTRY[one.ingredient_id].per_100_g[Nutrient.FAT] or 0.0) for one in lines) / what.piece_g

    for one in found:
        assert abs(fat(one.formula) - fat(before)) < 8.1, one.name


def test_a_milk_ganache_without_milk_tastes_of_no_fruit() -> None:
    """A plant cream and one plant milk chocolate, though a ganache on raspberry would come as near; vanilla is no filler."""
    ganache = layer(
        "centre",
        "ganache-milk-white",
        line("milk-chocolate-33", 6.7, "chocolate"),
        line("heavy-cream", 3.4, "dairy-liquid"),
        line("invert-sugar-syrup", 0.9, "doctor-sugar"),
        line("butter-unsalted", 0.4, "fat"),
    )
    proposals = under("vegan", formula(ganache)).proposals
    assert proposals
    for one in proposals:
        now = grams(one.formula.layers[0])
        assert "raspberry-puree" not in now, one.name
        assert len({"vegan-oat-milk-chocolate", "vegan-rice-milk-chocolate"} & now.keys()) == 1, one.name
        assert now.get("vanilla-extract", 0.0) <= 0.025 * sum(now.values()), one.name


@pytest.mark.parametrize("rule", ["vegan", "keto"])
def test_no_other_nut_fills_a_bar_up(rule: str) -> None:
    """A nougat with hazelnuts beside it takes no almonds, and has no nuts of its own afterwards either."""
    nougat = layer(
        "nougat",
        "nougat-honey",
        line("white-sugar", 4.8, "sweet-bulk"),
        line("honey", 3.1, "doctor-sugar"),
        line("glucose-syrup-42de", 3.3, "doctor-sugar"),
        line("egg-white-fresh", 0.9, "aerator"),
        line("water", 1.1, "water"),
        lost=2.0,
    )
    nuts = layer("nuts", "whole-nuts", line("hazelnut-roasted", 7.0, "nut-solids"))
    proposals = under(rule, formula(nougat, nuts)).proposals
    assert proposals
    for one in proposals:
        now = one.formula.layers[0]
        assert not [entry for entry in now.ingredients if PANTRY[entry.ingredient_id].category == "nut"], one.name


def test_a_white_coat_is_white_in_each_proposal() -> None:
    """There is one vegan white chocolate: no second proposal does without it."""
    coat = layer("coat", "white-coat", line("white-chocolate", 7.0, "chocolate"))
    nougat = layer(
        "nougat",
        "nougat-egg-white",
        line("white-sugar", 5.4, "sweet-bulk"),
        line("glucose-syrup-42de", 5.8, "doctor-sugar"),
        line("honey", 0.6, "doctor-sugar"),
        line("egg-white-fresh", 0.8, "aerator"),
        line("water", 2.4, "water"),
        lost=2.0,
    )
    fruit = layer("fruit", "freeze-dried-fruit", line("freeze-dried-strawberry", 0.6, "fruit-solids"))
    proposals = under("vegan", formula(coat, nougat, fruit)).proposals
    assert len(proposals) > 1
    for one in proposals:
        shades = {shade(PANTRY[entry.ingredient_id]) for entry in one.formula.layers[0].ingredients}
        assert shades == {Shade.WHITE}, one.name


def intense(one: FormulaLayer) -> set[str]:
    """What sweetens it by the milligram."""
    return {key for key in grams(one) if PANTRY[key].category == "intense-sweetener"}


def test_what_counts_by_the_milligram_is_one_line() -> None:
    """A mix of sucralose and stevia for all layers, and sucralose alone in hard sugar; of plants where the rule asks for it."""
    before = formula(
        by_ratio("soft-caramel", 12, "caramel"), by_ratio("short-base", 10, "base"), by_ratio("honeycomb", 6, "comb")
    )
    found = under("keto", before).proposals
    assert any(intense(layer) for one in found for layer in one.formula.layers)
    for one in found:
        for now in one.formula.layers:
            assert intense(now) <= ({"sucralose-powder"} if now.layer_id == "comb" else {"sucralose-stevia-mix"}), one.name
    reading = StudyReading(Study(name="bench", region=Region.EU), PANTRY)
    of_plants = adapted(
        before,
        held_to(before, reading),
        rules_of(["keto", "without-artificial-sweeteners"], Region.EU, PANTRY),
        reading,
        serving_g=40,
        explain=False,
    ).proposals
    assert of_plants
    for one in of_plants:
        for now in one.formula.layers:
            assert intense(now) <= {"stevia-reb-a", "monk-fruit-extract"}, one.name


@pytest.mark.parametrize("refused", ["sucralose-stevia-mix", "stevia-reb-a", "sucralose-powder"])
def test_who_refuses_a_sweetener_gets_no_mix_of_it(refused: str) -> None:
    """The mix holds both: without either, or without it, no layer has it."""
    before = formula(by_ratio("soft-caramel", 12, "caramel"), by_ratio("short-base", 10, "base"))
    reading = StudyReading(Study(name="bench", region=Region.EU), PANTRY)
    found = adapted(
        before,
        held_to(before, reading),
        rules_of(["keto"], Region.EU, PANTRY),
        reading,
        serving_g=40,
        forbidden=[refused],
        explain=False,
    ).proposals
    assert found
    for one in found:
        for now in one.formula.layers:
            assert not {refused, "sucralose-stevia-mix"} & intense(now), one.name


def test_a_honeycomb_without_sugar_is_nearly_as_sweet() -> None:
    """Isomalt is half as sweet as sugar: sucralose brings it nearly up to it, as in sweets that are sold."""
    before = by_ratio("honeycomb", 8, "comb")
    sweet = {key: food.sweetness or 0.0 for key, food in PANTRY.by_id.items()}
    was = sum(grams(before)[key] * sweet[key] for key in grams(before))
    coat = layer("coat", "milk-coat", line("milk-chocolate-33", 14, "chocolate"))
    found = under("keto", formula(coat, before)).proposals
    assert found
    for one in found:
        now = grams(one.formula.layers[1])
        assert sum(now[key] * sweet[key] for key in now) > 0.94 * was, one.name


def test_a_turron_under_keto_is_of_almonds() -> None:
    """Nearly as many as before, whatever does for the honey; no white of egg in two forms."""
    turron = by_ratio("nougat-honey", 12, "turron")
    was = grams(turron)["almond-roasted"]
    found = under("keto", formula(turron)).proposals
    assert found
    for one in found:
        now = grams(one.formula.layers[0])
        assert now["almond-roasted"] > 0.85 * was, one.name
        assert len({"egg-white-fresh", "egg-white-powder"} & now.keys()) == 1, one.name


@pytest.mark.parametrize("kind", ["powder-caramel", "nougat-chewy-milk", "cream-fondant"])
def test_no_flour_stands_in_for_milk_in_what_is_boiled(kind: str) -> None:
    """Oat and rice flour are for chocolate and dough; in a syrup they make a pudding."""
    found = under("vegan", formula(by_ratio(kind, 15, "one"))).proposals
    assert found
    for one in found:
        assert not {"oat-flour", "rice-flour"} & grams(one.formula.layers[0]).keys(), one.name


def test_what_is_bought_stands_before_what_is_ground() -> None:
    """However near a coat ground at home comes: every system that buys its chocolate is offered first."""
    coat = layer("coat", "milk-coat", line("milk-chocolate-33", 10, "chocolate"))
    found = under("keto", formula(coat, by_ratio("soft-caramel", 12, "caramel"), by_ratio("peanut-filling", 10, "peanuts")))
    ground = [one.formula.layers[0].family.endswith("-open") for one in found.proposals]
    assert len(ground) > 1
    assert ground == sorted(ground)
    bought = [one.miss for one, at_home in zip(found.proposals, ground, strict=True) if not at_home]
    assert bought == sorted(bought)


def test_a_sugar_shell_without_sugar_is_panned_of_what_crystallises() -> None:
    """No allulose or sorbitol, which stay sticky, and little syrup; gum and colour stay."""
    shell = by_ratio("sugar-panned-shell", 4, "shell")
    nuts = layer("nuts", "whole-nuts", line("almond-roasted", 8, "nut-solids"))
    found = under("no-added-sugar", formula(shell, nuts)).proposals
    assert found
    for one in found:
        now = one.formula.layers[0]
        assert now.family == "sugar-free-panned-shell"
        dry = sum(
            grams
            for key, grams in grams(now).items()
            if key in {"maltitol-powder", "isomalt", "xylitol", "erythritol", "stevia-erythritol-blend"}
        )
        assert dry > 0.9 * now.finished_g, one.name
        assert {"gum-arabic", "beetroot-colour-powder"} <= grams(now).keys()


def test_bought_chocolate_is_sweet_enough_as_it_is() -> None:
    """Nothing dissolves in it: crisps in chocolate take no sweetener by the milligram; no coat is all cocoa for a sweet core."""
    crisps = layer(
        "crisps", "crisp-in-chocolate", line("milk-chocolate-33", 16, "chocolate"), line("crisped-rice-cereal", 4, "crisp")
    )
    found = under("keto", formula(crisps, by_ratio("peanut-filling", 10, "peanuts"))).proposals
    assert found
    for one in found:
        assert not intense(one.formula.layers[0]), one.name
    coat = layer("coat", "dark-coat", line("dark-chocolate-55", 16, "chocolate"))
    for one in under("no-added-sugar", formula(coat, by_ratio("brittle", 20, "brittle")), Region.US).proposals:
        now = one.formula.layers[0]
        assert grams(now).get("dark-chocolate-100", 0.0) <= 0.61 * now.finished_g, one.name
