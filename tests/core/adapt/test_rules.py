"""Rules, what breaks them, and the tables behind adapting."""

import re
from collections.abc import Callable

import pytest
from tests.bench import FAMILIES, PANTRY, caramel, coat, filling, formula, layer, line

from fern_match.core.adapt import BadRule, Rule, breaches, category_choices, rule_choices, rules_of, suggested_limits
from fern_match.core.adapt.keep import as_kept
from fern_match.core.adapt.rules import not_approved, resolved, rule_sets
from fern_match.core.adapt.swaps import swaps, swaps_for, systems
from fern_match.core.data import rows
from fern_match.core.food import Ingredient, Nutrient, Pantry, load_per_gram
from fern_match.core.label.rows import Region
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

OF_PLANTS = {"stevia-reb-a", "monk-fruit-extract"}


def test_a_rule_names_its_limit_by_region() -> None:
    """0.5 g in 100 g in the EU, under 0.5 g a serving in the US; a limit of one's own stands behind a colon."""
    eu, us, own = (rules_of([asked], region, PANTRY)[0] for asked, region in _ASKED)
    assert (eu.limit, eu.basis) == (0.5, "100 g")
    assert (us.limit, us.basis) == (0.49, "serving")
    assert own.limit == 3.5
    assert all(rule.source and rule.promises_not for rule in (eu, us, own))


_ASKED = [("sugar-free", Region.EU), ("sugar-free", Region.US), ("keto:3.5", Region.US)]


@pytest.mark.parametrize(
    ("asked", "said"),
    [
        ([], "Name at least one rule: vegan"),
        (["paleo"], "“paleo” is no rule known here"),
        (["keto:lots"], "the limit is a figure, such as keto:4"),
        (["keto:-1"], "from 0 to 5000"),
        (["reduced-sugar:30"], "a share of what there is now"),
        (["at-most-fat"], "say how much a piece may hold"),
        (["at-most-glitter:3"], "“at-most-glitter:3” is no rule"),
        (["without-moonstone"], "“without-moonstone” is no rule"),
    ],
)
def test_what_is_no_rule_is_said(asked: list[str], said: str) -> None:
    """With what was understood and what there is."""
    with pytest.raises(BadRule, match=said):
        rules_of(asked, Region.EU, PANTRY)


def test_breaches_name_layer_and_ingredient_and_what_only_depends() -> None:
    """Cream is of animal origin; American white sugar depends on how it was filtered, where it is not in Europe."""
    found = breaches(formula(caramel()), rules_of(["vegan"], Region.US, PANTRY), PANTRY, 40)
    in_europe = breaches(formula(caramel()), rules_of(["vegan"], Region.UK, PANTRY), PANTRY, 40)
    assert "white-sugar" not in {one.ingredient_id for one in in_europe}
    told = {one.ingredient_id: one for one in found}
    assert not told["heavy-cream"].doubtful
    assert told["white-sugar"].doubtful
    asked = "Caramel: White granulated sugar depends on its maker: ask whether the cane sugar was filtered over bone char"
    assert any(one.sentence.startswith(asked) for one in found)
    assert {one.layer_id for one in found} == {"caramel"}


def test_a_limit_is_broken_by_the_whole_piece() -> None:
    """No line of it is at fault alone: the sentence is of the piece."""
    sweet = layer("centre", "marzipan", line("white-sugar", 5, "sweet-bulk"))
    found = breaches(formula(sweet), rules_of(["sugar-free"], Region.EU, PANTRY), PANTRY, 40)
    assert [one.layer_id for one in found] == [None]
    assert "Sugars" in found[0].sentence
    assert "Sugars 99.9 g, where at most 0.5 g in 100 g are allowed" in found[0].sentence


def test_an_ingredient_that_is_not_in_the_pantry_is_in_doubt() -> None:
    """It is neither vegan nor free of sugar as far as anyone knows."""
    unknown = layer("centre", "marzipan", line("white-sugar", 5))
    missing = Pantry(by_id={key: one for key, one in PANTRY.by_id.items() if key != "white-sugar"})
    found = breaches(formula(unknown), rules_of(["vegan"], Region.EU, missing), missing, 40)
    assert found[0].doubtful
    assert "nothing is known of it" in found[0].sentence


def test_an_unknown_figure_is_never_zero() -> None:
    """An ingredient whose sugars nobody entered is not free of them."""
    spice = PANTRY["ground-cardamom"]
    assert spice.per_100_g.get(Nutrient.SUGARS) is None
    assert rules_of(["sugar-free"], Region.EU, PANTRY)[0].doubts(spice)
    assert not rules_of(["without-milk"], Region.EU, PANTRY)[0].doubts(spice)


def test_allergens_and_single_ingredients_can_be_left_out() -> None:
    """Nuts are each of them; wheat is gluten; an ingredient goes by its id."""
    nuts, gluten, cream = rules_of(["without-nuts", "without-gluten", "without-heavy-cream"], Region.EU, PANTRY)
    assert nuts.forbids(PANTRY["almond-butter"])
    assert not nuts.forbids(PANTRY["peanut-butter-natural"])
    assert gluten.forbids(PANTRY["plain-wheat-flour"])
    assert cream.forbids(PANTRY["heavy-cream"])
    assert not cream.forbids(PANTRY["double-cream"])
    assert "without-milk" in rule_choices()


def test_net_carbohydrate_by_its_convention() -> None:
    """40 g with 12 g fibre, 8 g erythritol and 5 g allulose leave 15 g; of other polyols half counts, or none, or all."""
    half, none, whole = (_rule(name) for name in ("keto", "keto-all-off", "keto-counted"))
    made = _food("erythritol", 40, fibre_g=12, polyols_g=8, allulose_g=5)
    assert [rule.measured(made) for rule in (half, none, whole)] == pytest.approx([0.15, 0.15, 0.15])
    maltitol = _food("maltitol", 40, polyols_g=30)
    assert [rule.measured(maltitol) for rule in (half, none, whole)] == pytest.approx([0.25, 0.10, 0.40])
    assert half.measured(_food("", 3, fibre_g=9)) == 0


def _rule(asked: str, region: Region = Region.US) -> Rule:
    return rules_of([asked], region, PANTRY)[0]


def _food(kind: str, carbohydrate: float, **more: float) -> Ingredient:
    per = {**dict.fromkeys(Nutrient, 0.0), Nutrient.CARBOHYDRATE: carbohydrate}
    per |= {Nutrient(name): value for name, value in more.items()}
    return Ingredient(id="made", name="Made", category="sugar", per_100_g=per, polyol_kind=kind or None)


def test_a_limit_of_ones_own() -> None:
    """Fat by the table; salt is two and a half times the sodium; the suggestion is four fifths of what there is."""
    what = formula(caramel())
    fat, salt = rules_of(["at-most-fat:1.5", "at-most-salt:0.05"], Region.EU, PANTRY)
    assert (fat.limit, fat.basis) == (1.5, "piece")
    held = sum(one.grams * (PANTRY[one.ingredient_id].per_100_g[Nutrient.FAT] or 0) / 100 for one in what.layers[0].ingredients)
    suggested = {rule.id: rule.limit for rule in suggested_limits(what, Region.EU, PANTRY)}
    assert suggested["at-most-fat"] == pytest.approx(0.8 * held, rel=0.05)
    assert salt.measured(PANTRY["fine-salt"]) == pytest.approx(0.98, abs=0.03)
    assert breaches(what, [fat], PANTRY, 40)


def test_a_limit_is_for_a_piece_a_serving_or_100_g() -> None:
    """10 g of butter in a piece of 10 g: 8.2 g fat a piece, 16.4 in a serving of 20 g; asked for again by the same words."""
    piece = formula(layer("fat", "soft-caramel", line("butter-unsalted", 10, "fat")))
    for asked, most in (("at-most-fat:8", 8.0), ("at-most-fat:16/serving", 16.0), ("at-most-fat:80/100g", 80.0)):
        rule = _rule(asked)
        assert rule.asked == asked
        assert rule.limit == most
        assert breaches(piece, [rule], PANTRY, 20), asked
    assert not breaches(piece, [_rule("at-most-fat:17/serving")], PANTRY, 20)


def test_a_small_serving_counts_as_the_reference_amount_in_the_us() -> None:
    """0.2 g sugars in a piece of 10 g that is a serving are 0.6 g in 30 g: a breach, in words that say so; not in Canada."""
    piece = formula(layer("centre", "marzipan", line("white-sugar", 0.2, "sweet-bulk"), line("erythritol", 9.8, "sweet-bulk")))
    (said,) = breaches(piece, [_rule("sugar-free")], PANTRY, 10)
    assert "at most 0.49 g a serving of 30 g or more are allowed" in said.sentence
    assert not breaches(piece, [_rule("sugar-free", Region.CA)], PANTRY, 10)


def test_energy_is_limited_in_kcal_by_the_regions_factors() -> None:
    """Erythritol has none in the EU; butter of 82 % fat about 7.4 kcal a gram."""
    rule = _rule("at-most-energy:150", Region.EU)
    assert rule.name == "At most 150 kcal energy"
    assert rule.measured(PANTRY["erythritol"]) == pytest.approx(0, abs=0.02)
    assert rule.measured(PANTRY["butter-unsalted"]) == pytest.approx(7.4, abs=0.2)


def test_a_category_can_be_left_out() -> None:
    """No polyol: each of them, and nothing else."""
    rule = _rule("no-polyol")
    assert rule.forbids(PANTRY["maltitol-powder"])
    assert not rule.forbids(PANTRY["white-sugar"])
    assert "no-polyol" in category_choices(PANTRY)


def test_a_widened_claim_loses_its_name() -> None:
    """0.7 g in 100 g is not sugar-free; 0.3 g is, and a quarter less is no claim where the law asks for 30 %."""
    assert _rule("sugar-free:0.3", Region.EU).name == "Sugar-free"
    assert "sugar-free" not in _rule("sugar-free:0.7", Region.EU).name.lower()
    assert "no claim" in _rule("sugar-free:0.7", Region.EU).promises_not
    assert _rule("reduced-sugar:0.4", Region.EU).name == "Reduced sugar"
    assert _rule("reduced-sugar:0.1", Region.EU).name == "10 % less sugars"
    assert _rule("keto:9").name == "Keto"


def test_what_is_not_authorised_is_said_with_its_region() -> None:
    """Allulose: in the US, not in the EU."""
    assert "not authorised" in not_approved("allulose-syrup", Region.EU)
    assert not_approved("allulose-syrup", Region.US) == ""


def test_the_load_of_a_gram() -> None:
    """30 g of maltitol are one dose, 35 g of erythritol as well; sugar is none."""
    assert 30 * load_per_gram(PANTRY["maltitol-powder"]) == pytest.approx(1, abs=0.05)
    assert 35 * load_per_gram(PANTRY["erythritol"]) == pytest.approx(1, abs=0.05)
    assert load_per_gram(PANTRY["white-sugar"]) == 0


def test_swaps_name_what_there_is() -> None:
    """Every id, family and system in the tables is known; ratios name what stands in; no swap is of a thing for itself."""
    known = {one.id for one in systems()} | {""}
    assert len(swaps()) >= 80
    assert len({one.id for one in swaps()}) == len(swaps())
    for swap in swaps():
        assert {*swap.of, *swap.to} <= PANTRY.by_id.keys(), swap.id
        assert {*swap.only, *swap.never} <= FAMILIES.by_id.keys(), swap.id
        assert swap.system in known, swap.id
        assert swap.ratio.keys() <= {*swap.to}, swap.id
        assert all(share > 0 for share in swap.ratio.values()), swap.id
        assert not {*swap.of} & {*swap.to}, swap.id
        assert swap.certainty.startswith(("sure", "fair", "rough")), swap.id
    for system in systems():
        assert system.members <= PANTRY.by_id.keys(), system.id
        assert system.families <= FAMILIES.by_id.keys(), system.id
    for row in rows("approvals.csv"):
        assert set(row["ingredients"].split("|")) <= PANTRY.by_id.keys()


def test_vegan_swaps_are_vegan() -> None:
    """What a vegan swap puts in is not of animal origin, by the pantry."""
    vegan = {one.id for one in systems() if one.of == "vegan"}
    for swap in swaps():
        if swap.id.startswith("v-") or swap.system in vegan:
            assert not [key for key in swap.to if PANTRY[key].vegan == "no"], swap.id


def test_a_swap_goes_by_family() -> None:
    """Coconut oil does not stand in for butter where a short base is creamed."""
    assert "v-butter-coconut" in {one.id for one in swaps_for("butter-unsalted", "soft-caramel")}
    assert "v-butter-coconut" not in {one.id for one in swaps_for("butter-unsalted", "short-base")}


def test_coats_and_fillings_break_what_they_hold() -> None:
    """Keto counts the net carbohydrate of both."""
    what = formula(filling(), coat())
    limit = _rule("keto")
    found = breaches(what, [limit], PANTRY, 40)
    net = sum(entry.grams * limit.measured(PANTRY[entry.ingredient_id]) for one in what.layers for entry in one.ingredients)
    assert bool(found) is (net > 5)
    assert found


def test_reduced_sugar_is_a_share_and_in_the_eu_has_no_more_energy() -> None:
    """Three tenths less of what the caramel holds, with its energy as one more limit; a quarter less in the US, without."""
    what = formula(caramel())
    sugars, energy = resolved(_rule("reduced-sugar", Region.EU), what, PANTRY)
    held = sum(
        one.grams * (PANTRY[one.ingredient_id].per_100_g[Nutrient.SUGARS] or 0) / 100 for one in what.layers[0].ingredients
    )
    assert sugars.limit == pytest.approx(0.7 * held)
    assert (energy.measure, energy.unit) == ("energy", "kcal")
    assert not breaches(what, [energy], PANTRY, 40)
    assert breaches(what, [sugars], PANTRY, 40)
    (said,) = breaches(what, [_rule("reduced-sugar", Region.EU)], PANTRY, 40)
    assert said.sentence.endswith(f"where at most {0.7 * held:.3g} g a piece are allowed.")
    (alone,) = resolved(_rule("reduced-sugar", Region.US), what, PANTRY)
    assert alone.limit == pytest.approx(0.75 * held)
    kept = as_kept(_rule("reduced-sugar", Region.EU), what, PANTRY)
    assert [one.partition(":")[0] for one in kept] == ["at-most-sugars", "at-most-energy"]
    assert _rule(kept[0], Region.EU).limit == pytest.approx(0.7 * held, rel=1e-8)
    assert as_kept(_rule("keto:4/serving"), what, PANTRY) == ("keto:4/serving",)


def test_fewer_kcal_is_a_share_of_the_pieces_energy_and_bears_its_name_no_lower() -> None:
    """100 g of white sugar hold 400 kcal: three tenths less are 280 in the EU, a quarter less 300 in the US."""
    what = formula(layer("syrup", "syrup", line("white-sugar", 100.0, "sweet-bulk")))
    (european,) = resolved(_rule("fewer-kcal", Region.EU), what, PANTRY)
    (american,) = resolved(_rule("fewer-kcal", Region.US), what, PANTRY)
    sugar = (PANTRY["white-sugar"].per_100_g[Nutrient.CARBOHYDRATE] or 0) * 4
    assert (european.limit, european.unit) == (pytest.approx(0.7 * sugar), "kcal")
    assert american.limit == pytest.approx(0.75 * sugar)
    assert _rule("fewer-kcal:0.4", Region.EU).name == "Fewer kcal"
    assert _rule("fewer-kcal:0.2", Region.EU).name == "20 % less energy"


def test_of_every_doubtful_ingredient_is_said_what_to_ask() -> None:
    """Each that the pantry leaves open has a question, and none that it does not."""
    open_ones = {food.id for food in PANTRY.all() if food.vegan not in {"yes", "no"}}
    assert {key for row in rows("ask_maker.csv") for key in row["ingredients"].split("|")} == open_ones


@pytest.mark.parametrize("key", sorted(rule_sets()))
def test_every_set_names_what_there_is_and_leaves_something_out(key: str) -> None:
    """Ids, categories and figures of the pantry; at least one ingredient is refused, and what is refused is not asked about."""
    rule = rules_of([key], Region.EU, PANTRY)[0]
    for term in (*rule_sets()[key].forbids, *rule_sets()[key].asks):
        kind, _, rest = term.partition(":")
        if kind == "id":
            assert rest in PANTRY, term
        elif kind == "category":
            assert any(food.category == rest for food in PANTRY.all()), term
    refused = [food for food in PANTRY.all() if rule.forbids(food)]
    assert refused
    assert rule.source
    assert rule.promises_not


def test_swaps_say_where_their_process_is_done() -> None:
    """In words that the code knows, for every family."""
    for one in swaps():
        assert isinstance([one.process_for(family) for family in FAMILIES.all()], list), one.id
        assert one.kind in {"v", "s", "k", "g", "n", "l", "p"}


def test_a_set_asks_where_the_maker_decides() -> None:
    """Palm hides in emulsifiers; a caramel with spirits is none without alcohol."""
    palm, alcohol = rules_of(["without-palm", "without-alcohol"], Region.EU, PANTRY)
    assert palm.forbids(PANTRY["palm-oil"])
    assert palm.doubts(PANTRY["mono-and-diglycerides"])
    assert not palm.doubts(PANTRY["cocoa-butter"])
    assert alcohol.forbids(PANTRY["rum"])
    nuts = rules_of(["without-nuts-and-peanuts"], Region.US, PANTRY)[0]
    assert nuts.forbids(PANTRY["peanut-roasted"])
    assert nuts.forbids(PANTRY["hazelnut-paste"])
    assert "peanuts" in rules_of(["without-nuts"], Region.US, PANTRY)[0].promises_not


@pytest.mark.parametrize(
    ("rule", "is_meant"),
    [
        ("without-artificial-sweeteners", lambda food: food.category == "intense-sweetener" and food.id not in OF_PLANTS),
        ("without-palm", lambda food: (food.per_100_g.get("lauric_fat_g") or 0) > 40 and "coconut" not in food.name.lower()),
        ("without-palm", lambda food: (food.per_100_g.get("palm_fat_g") or 0) > 1),
        ("without-polyols", lambda food: (food.per_100_g.get("polyols_g") or 0) > 1),
        ("without-fodmaps", lambda food: food.polyol_kind in {"sorbitol", "mannitol", "xylitol", "maltitol"}),
        ("without-caffeine", lambda food: re.search(r"\b(?:coffee|tea|matcha|guarana)\b", food.name.lower())),
        ("without-nuts", lambda food: {"almond", "hazelnut", "pine nut", "cashew"} & set(food.allergens)),
        ("without-coconut", lambda food: "coconut" in food.name.lower() and food.category == "fat"),
        ("without-lupin", lambda food: "lupin" in food.name.lower()),
        ("without-gluten", lambda food: re.search(r"\b(?:wheat|barley|rye|spelt)\b", food.name.lower())),
        ("lactose-free", lambda food: (food.per_100_g.get("lactose_g") or 0) > 1),
    ],
)
def test_no_row_slips_past_a_rule(rule: str, is_meant: Callable[[Ingredient], object]) -> None:
    """Whatever a rule is about by its figures, its kind or its name is left out, or its maker is asked."""
    (read,) = rules_of([rule], Region.EU, PANTRY)
    meant = [food for food in PANTRY.all() if is_meant(food)]
    assert meant
    assert [food.id for food in meant if not read.forbids(food) and not read.doubts(food)] == []


def test_lard_is_of_pigs() -> None:
    """It breaks vegan, halal and kosher style; a short base without it takes shortening; Spanish “manteca de cerdo” is lard."""
    lard = PANTRY["lard"]
    for asked in ("vegan", "without-gelatine-and-alcohol", "kosher-style"):
        (rule,) = rules_of([asked], Region.EU, PANTRY)
        assert rule.forbids(lard), asked
    reading = StudyReading(Study(name="x", region=Region.EU, statement="Harina de trigo, manteca de cerdo, azúcar, sal"), PANTRY)
    assert "lard" in reading.ingredient_of.values()
    assert "cocoa-butter" not in reading.ingredient_of.values()


def test_a_swap_that_says_sweeter_is_so_by_the_table() -> None:
    """What is said of sweetness, and what the figures beside it say, do not contradict each other."""
    said = [row for row in rows("swaps.csv") if re.search(r"sweeter|less sweet", row["changes"])]
    assert len(said) > 10
    for row in said:
        ratio = {key: float(share) / 100 for key, _, share in (part.partition(":") for part in row["ratio"].split("|"))}
        then = sum((PANTRY[key].sweetness or 0.0) * share for key, share in ratio.items())
        before = [PANTRY[key].sweetness or 0.0 for key in row["from"].split("|") if key in PANTRY]
        if "sweeter" in row["changes"]:
            assert then >= min(before), row["id"]
        else:
            assert then <= max(before), row["id"]
