"""Plans as a cook would read them: what comes before what, how hot, what stands ready, and kinds of work that people bring."""

import itertools

import pytest
from tests.cooking import COAT, CORE, FAMILIES, INSIDE, ON_TOP, STACK, Cooked, Part, cooked

from fern_match.core.batch import Keeps, PlanBy
from fern_match.core.cook import Place, Step, at_hand_before
from fern_match.core.cook.log import run_of
from fern_match.core.cook.now import now_of
from fern_match.core.kitchen import Gear, GearKind, GearShape, Kitchen, Tool
from fern_match.core.measures.shown import TemperatureUnit

MOULD = Gear(id="m", name="Mould", kind=GearKind.MOULD, length="48", width="30", depth="14", cavities="8")
TRAY = Gear(id="m", name="Egg tray", kind=GearKind.MOULD, shape=GearShape.OTHER, volume="32 mL", cavities="6")
CUPS = Gear(id="m", name="Cups", kind=GearKind.CUP, shape=GearShape.TAPERED, length="45", width="30", depth="20", cavities="12")
FRAME = Gear(id="m", name="Frame", kind=GearKind.PAN, length="20 cm", width="20 cm", depth="40")
SLAB = {
    "coat": Part("dark-coat", COAT),
    "base": Part("crumb-base", STACK, 12),
    "caramel": Part("soft-caramel", STACK, 9),
}


def needs_come_first(made: Cooked) -> None:
    """Nothing is done before what it needs."""
    done: set[str] = set()
    for step in made.plan.steps:
        assert set(step.needs) <= done, step.title
        done.add(step.id)


def before(made: Cooked, *titles: str) -> None:
    """Steps that begin so stand in this order."""
    places = [made.at(title) for title in titles]
    assert places == sorted(places), made.titles()


def test_a_slab_from_its_base_up() -> None:
    """Pressed, chilled, poured over while it is warm enough, set, cut, coated, boxed; chocolate is melted when it is needed."""
    made = cooked(SLAB, kitchen=Kitchen(gear=(FRAME,)), by=PlanBy.PAN, gear="m", pieces="")
    needs_come_first(made)
    before(
        made,
        "Press it",
        "Chill",
        "Boil sugar",
        "Cook to 118",
        "Pour caramel over base",
        "Let caramel set",
        "Cut",
        "Melt the coat",
    )
    before(made, "Melt the coat", "Temper", "Coat the pieces", "Let coat set", "Count")
    assert "Caramel at 70 to 100 °C; base set and at 40 °C at most." in made.step("Pour caramel").gate
    assert made.step("Cook to 118").end_weight_g == pytest.approx(made.step("Cook to 118").boil.left_g)  # type: ignore[union-attr]


def test_in_a_mould_the_top_comes_first_and_it_is_turned_out() -> None:
    """Shell, caramel, base, cap: the other way up than it is eaten; three rounds of eight."""
    made = cooked(SLAB, kitchen=Kitchen(gear=(MOULD,)), by=PlanBy.MOULD, gear="m", gear_count="3", pieces="")
    needs_come_first(made)
    before(made, "Cast the shells", "Fill in caramel", "Fill in base", "Cap with coat", "Turn them out")
    assert made.step("Cast the shells").rounds == 3
    assert not any(title.startswith("Press it into the lined pan") for title in made.titles())
    assert "30 °C at most" in made.step("Fill in caramel").gate
    before(made, "Let caramel cool to 30", "Melt the coat")  # what can wait is made before chocolate is


def test_cups_are_filled_from_below() -> None:
    """Coat, caramel on the base, coat."""
    made = cooked(SLAB, kitchen=Kitchen(gear=(CUPS,)), by=PlanBy.MOULD, gear="m", pieces="12")
    needs_come_first(made)
    before(made, "Line the cups", "Fill in base", "Fill in caramel", "Cover with coat")


def test_glass_over_what_is_soft_is_cast_apart() -> None:
    """Honeycomb at 140 °C would melt the caramel below it."""
    made = cooked({"caramel": Part("soft-caramel", STACK), "comb": Part("honeycomb", STACK)})
    before(made, "Whisk in the soda", "Pour comb into", "Let comb set", "Lay comb onto caramel", "Cut")
    assert made.step("Whisk in the soda").most_wait_min == pytest.approx(0.2)
    assert {"hot-sugar", "soda"} <= set(made.step("Whisk in the soda").cautions)


def test_brittle_is_scored_while_it_is_warm() -> None:
    """Cold it only breaks."""
    made = cooked({"brittle": Part("brittle", STACK)})
    before(made, "Pour brittle", "Score brittle", "Let brittle set", "Cut")
    assert made.step("Score brittle").heat is not None
    assert "along the scores" in made.step("Cut").words


def test_nuts_are_roasted_before_the_caramel_is_on() -> None:
    """Raw ones; and they are folded in warm, before it is poured."""
    made = cooked(
        {
            "caramel": Part("soft-caramel", STACK),
            "nuts": Part("whole-nuts", INSIDE, 3, "caramel", {"almond-raw": (3.0, "nut-solids")}),
        }
    )
    before(made, "Roast them", "Cook to", "Fold nuts into caramel", "Pour caramel")
    roast = made.step("Roast them")
    assert (roast.place, roast.wait_min) == (Place.OVEN, 15)
    ready = cooked({"nuts": Part("whole-nuts", STACK, 3, None, {"almond-roasted": (3.0, "nut-solids")})})
    assert "Weigh them out" in ready.titles()


def test_what_is_on_top_goes_on_while_it_is_wet() -> None:
    """With the coat where there is one; else before the top has set."""
    salt = {"salt": Part("salt-topping", ON_TOP, 0.2)}
    coated = cooked({**SLAB, **salt})
    assert "Salt on at once" in coated.step("Coat the pieces").words
    poured = cooked({"base": Part("crumb-base", STACK), "top": Part("dark-coat", STACK), **salt})
    before(poured, "Pour top over base", "Strew salt on", "Let top set")


def test_a_firm_sheet_above_is_built_upside_down_and_turned() -> None:
    """Recommended where the soft layer is below; both ways are there."""
    parts = {"caramel": Part("soft-caramel", STACK), "wafer": Part("wafer-sheet-bought", STACK, 4)}
    made = cooked(parts)
    assert next(one for one in made.plan.schools if one.id == "way").chosen == "turned"
    before(made, "Lay wafer", "Pour caramel over wafer", "Turn the slab over", "Cut")
    as_eaten = cooked(parts, schools={"way": "as eaten"})
    before(as_eaten, "Pour caramel into", "Lay wafer")


def test_whites_and_syrup_meet() -> None:
    """The syrup boils by itself while the whites are whipped; neither waits long, and everything stands ready before."""
    made = cooked({"nougat": Part("nougat-egg-white", STACK)})
    syrup, whip = made.step("Boil the syrup"), made.step("Whip the white")
    assert syrup.wait_min > 0
    assert whip.most_wait_min == 4
    ready = at_hand_before(syrup, made.plan.steps)
    assert "mixer" in ready
    assert any("powder" in name.lower() or "milk" in name.lower() for name in ready)


def test_ends_and_texts_are_in_the_kitchen_s_unit() -> None:
    """Fahrenheit in titles, gates and words."""
    made = cooked(SLAB, kitchen=Kitchen(temperature_unit=TemperatureUnit.FAHRENHEIT))
    assert "Cook to 244 °F" in made.titles()
    said = " ".join(part for step in made.plan.steps for part in (step.title, step.words, step.gate))
    assert "°C" not in said


def test_high_up_a_boil_ends_lower_and_by_its_weight() -> None:
    """At 1600 m water boils at 94.65 °C: 5.3 less, and the weight says more."""
    made = cooked(SLAB, kitchen=Kitchen(altitude="1600"))
    cook = made.step("Cook to")
    assert cook.heat is not None
    assert cook.heat.aim_c == pytest.approx(118 - 5.3, abs=0.1)
    assert cook.end_by == "weight"


def test_c1_a_shell_with_a_liquid_and_a_whole_cherry() -> None:
    """In an egg tray of six: the liquid is cold before the chocolate is melted, the cherry is set in, the cap seals."""
    parts = {
        "shell": Part("dark-coat", COAT, 9),
        "liquid": Part("liquid-fruit-centre", CORE, 6),
        "cherry": Part("whole-fruit", INSIDE, 5, "liquid", {"maraschino-cherry": (5.0, "fruit-solids")}),
    }
    made = cooked(parts, kitchen=Kitchen(gear=(TRAY,)), by=PlanBy.MOULD, gear="m", pieces="12")
    before(made, "Let it cool", "Melt the coat", "Cast the shells", "Fill in liquid", "Set cherry in", "Cap")
    assert made.step("Cast the shells").rounds == 2
    assert {"stones"} <= set(made.step("Drain and dry").cautions)
    assert "moulds" in made.step("Cast the shells").cautions
    without = cooked(parts)
    assert any(title.startswith("Cast the shells") for title in without.titles())  # a liquid asks for a shell, mould or none


def test_c2_a_thinner_bake_bakes_shorter() -> None:
    """The same amounts in a wider pan: lower, so fewer minutes."""
    base = {"base": Part("short-base", STACK, 20)}
    wide = Gear(id="m", name="Wide", kind=GearKind.PAN, length="60 cm", width="40 cm", depth="40")
    usual = cooked(base, kitchen=Kitchen(gear=(FRAME,)), by=PlanBy.PAN, gear="m", pieces="24", cut_length="50", cut_width="30")
    lower = cooked(
        base,
        kitchen=Kitchen(gear=(wide,)),
        by=PlanBy.PAN,
        gear="m",
        pieces="24",
        cut_length="50",
        cut_width="30",
        keeps=Keeps.AMOUNTS,
    )
    assert lower.step("Bake").wait_min < usual.step("Bake").wait_min
    assert usual.step("Bake").place is Place.OVEN


def test_c4_crisp_pieces_in_tempered_chocolate() -> None:
    """The seed is weighed: by the worked balance at this chocolate's own fat; the pieces come in last."""
    made = cooked({"crisp": Part("crisp-in-chocolate", STACK, 20)}, schools={"crisp--coat": "temper"})
    before(made, "Melt milk chocolate", "Temper it", "Fold in the crisp")
    assert "hold" in made.step("Melt milk chocolate").words
    assert "dry spatula" in made.step("Spread").words


def test_chocolate_made_from_its_parts_is_ground_before_anything_crisp_comes_in() -> None:
    """Fats and cocoa mass are melted, powders worked in; only the rice is folded in."""
    lines = {
        "white-sugar": (10.0, ""),
        "crisped-rice-cereal": (5.0, "crisp"),
        "cocoa-mass": (2.5, ""),
        "skimmed-milk-powder": (2.5, ""),
        "cocoa-butter": (4.0, "fat"),
        "soy-lecithin": (0.2, ""),
    }
    made = cooked({"crisp": Part("crisp-in-chocolate", STACK, 20, lines=lines)})
    before(made, "Melt cocoa mass", "Work in the sieved powders", "Fold in the crisp")
    assert [use.ingredient_id for use in made.step("Fold in").uses] == ["crisped-rice-cereal"]


def test_nothing_hot_comes_onto_chocolate_where_turning_saves_it() -> None:
    """Granola at 40 °C would melt its base of chocolate: that is poured last, scored, and cut with the chocolate up."""
    made = cooked({"base": Part("dark-coat", STACK, 10), "granola": Part("granola", STACK, 20)})
    way = next(one for one in made.plan.schools if one.id == "way")
    assert way.chosen == "turned"
    before(made, "Press granola into", "Pour base over", "Cut")
    assert "Turn the slab over" not in made.titles()
    assert "Score the cuts" in made.step("Let base set").words
    assert "then turn each piece over" in made.step("Cut").words
    plain = cooked({"granola": Part("granola", STACK, 20), "top": Part("dark-coat", STACK, 10)})
    assert next(one for one in plain.plan.schools if one.id == "way").chosen == "as eaten"


def test_starch_of_a_marshmallow_is_not_boiled() -> None:
    """It is sieved and dusted on."""
    lines = {
        "white-sugar": (15.0, "sweet-bulk"),
        "light-corn-syrup": (16.0, "doctor-sugar"),
        "water": (7.0, "water"),
        "gelatine-powder": (1.3, "gelling"),
        "maize-starch": (0.5, "gelling"),
    }
    made = cooked({"one": Part("marshmallow", STACK, lines=lines)})
    assert [use.ingredient_id for use in made.step("Sieve").uses] == ["maize-starch"]
    assert "maize-starch" not in [use.ingredient_id for use in made.step("Boil the syrup").uses]


def test_c7_nougat_with_a_nut_caramel_dipped_in_rounds() -> None:
    """60 bars are coated in three rounds of twenty, the bowl warmed in between."""
    parts = {
        "coat": Part("milk-coat", COAT),
        "nougat": Part("nougat-egg-white", STACK),
        "caramel": Part("soft-caramel", STACK),
        "nuts": Part("whole-nuts", INSIDE, 6, "caramel"),
    }
    made = cooked(parts, pieces="60")
    dip = made.step("Coat the pieces")
    assert (dip.rounds, dip.round_words) == (3, "20 pieces a round")
    assert made.step("Pour caramel over nougat").heat.high_c == 70  # type: ignore[union-attr]
    needs_come_first(made)


def test_c12_and_c14_plant_fillings_in_cavities() -> None:
    """Fruit ganache is boiled down first, cooled to 28 °C for a light shell, capped, and left for a day."""
    parts = {"shell": Part("plant-milk-coat-open", COAT), "filling": Part("fruit-ganache", STACK)}
    made = cooked(parts, kitchen=Kitchen(gear=(MOULD,)), by=PlanBy.MOULD, gear="m", pieces="8")
    before(made, "Boil the fruit down", "Pour over and emulsify", "Cast the shells", "Fill in filling", "Cap")
    assert "28 °C at most" in made.step("Fill in filling").gate


def test_c15_soda_comes_off_the_heat_and_is_poured_at_once() -> None:
    """It stands 20 seconds at most."""
    made = cooked({"brittle": Part("brittle", STACK)})
    before(made, "Boil the syrup", "Stir the nuts in", "Stir in the soda", "Pour brittle")
    assert made.step("Stir in the soda").most_wait_min == pytest.approx(0.3)


def test_c17_fudge_cools_still_and_is_beaten() -> None:
    """At 45 to 50 °C, and poured within minutes."""
    made = cooked({"fudge": Part("cream-fondant", STACK)})
    before(made, "Boil it with the cream", "Let it cool still", "Beat until it dulls", "Pour fudge")
    cool = made.step("Let it cool still")
    assert cool.heat is not None
    assert (cool.heat.low_c, cool.heat.high_c) == (45, 50)


def test_c18_without_a_thermometer_cues_say_the_end() -> None:
    """The step's words, the school and its reason; and chocolate is kept cold."""
    made = cooked(SLAB, kitchen=Kitchen(lacks=(Tool.THERMOMETER,)))
    cook = made.step("Cook to")
    assert cook.end_by == "cue"
    assert "It is done when it comes away from the side of the pan." in cook.words
    assert [one.stage for one in cook.cues].count("right") == 1
    assert cook.title == "Cook to where it leaves the side"
    assert not any(title == "Temper it" for title in made.titles())
    assert "keep them at 5 to 16 °C" in made.step("Count").words


def test_c20_a_blend_of_two_coats_is_kept_cold() -> None:
    """Half chocolate, half coating: tempering does little."""
    blend = {"dark-chocolate-55": (5.0, "chocolate"), "compound-coating-dark": (5.0, "chocolate")}
    made = cooked({"coat": Part("dark-coat", COAT, lines=blend), "base": Part("peanut-filling", STACK)})
    assert next(one for one in made.plan.schools if one.id == "coat--coat").chosen == "cold"
    assert made.step("Let it cool to dipping heat").heat is not None


@pytest.mark.parametrize(("below", "above"), list(itertools.permutations(sorted(one.id for one in FAMILIES.all()), 2))[::157])
def test_any_two_layers_make_a_plan(below: str, above: str) -> None:
    """Needs first, ids once, nothing said twice, one at a time to the end."""
    places = {"inclusion": INSIDE, "topping": ON_TOP}
    parts = {"b": Part(below, STACK), "a": Part(above, places.get(FAMILIES[above].place, STACK), host="b")}
    made = cooked(parts)
    needs_come_first(made)
    ids = [one.id for one in made.plan.steps]
    assert len(set(ids)) == len(ids)
    ends = [one for one in made.plan.steps if not any(one.id in other.needs for other in made.plan.steps)]
    assert [one.title for one in ends] == ["Count, weigh and box them"]
    assert now_of(made.plan.steps, (), run_of((), 0), 0).at_hand == 0
    for step in made.plan.steps:
        sound(step)


def sound(step: Step) -> None:
    """A step that says something, takes some time, and holds no sign of the table's own."""
    text = f"{step.title} {step.words} {step.gate}"
    assert step.title
    assert step.hands_on_min + step.wait_min > 0
    assert not any(sign in text for sign in ("{", "}", "None", "Δ", "  ", " ,", ".."))
    assert step.heat is None or step.heat.low_c <= step.heat.aim_c <= step.heat.high_c


def test_a_sponge_under_jelly() -> None:
    """Whisked, folded, baked and cooled before the jelly is boiled and poured over it."""
    made = cooked(
        {"coat": Part("dark-coat", COAT), "sponge": Part("sponge-base", STACK, 8), "jelly": Part("fruit-jelly", STACK, 7)}
    )
    needs_come_first(made)
    before(
        made,
        "Whisk the eggs",
        "Fold in the rest",
        "Spread it on",
        "Bake",
        "Let it cool on a rack",
        "Pour jelly over sponge",
        "Melt the coat",
    )
    assert made.at("Let it cool on a rack") < made.at("Heat fruit")


def test_a_mousse_is_folded_cool_and_set_cold() -> None:
    """Chocolate, cream and white each ready before they are folded; gelatine swells first; it is cut cold."""
    made = cooked({"base": Part("short-base", STACK, 9), "mousse": Part("chocolate-mousse", STACK, 12)})
    needs_come_first(made)
    for title in ("Let gelatine powder swell", "Melt the chocolate", "Whip the cream", "Whip the white"):
        before(made, title, "Fold it together", "Spread mousse over base", "Let mousse set")
    assert "base set and at 28 °C at most" in made.step("Spread mousse").gate


def test_a_chew_is_pulled_before_it_is_laid() -> None:
    """Gelatine has swollen before it goes in; acid and flavour come off the heat; the pulled mass is laid and cut."""
    made = cooked({"chew": Part("chewy-sweet", CORE, 12)})
    needs_come_first(made)
    before(made, "Boil the syrup", "Stir in fruit juice")
    before(made, "Bloom the gelatine", "Stir in fruit juice", "Cool and pull it", "Lay chew", "Cut the slab")


def test_a_flowing_caramel_goes_into_shells() -> None:
    """What never sets is filled into cast shells, cool, and capped; it is not poured on a slab."""
    made = cooked({"coat": Part("ruby-coat", COAT), "sauce": Part("caramel-sauce", CORE, 9)})
    needs_come_first(made)
    before(made, "Cast the shells", "Cook to", "Fill in sauce", "Cap with coat")
    heat = made.step("Cook to").heat
    assert heat is not None
    assert heat.high_c <= 110
    assert made.step("Temper it").heat is not None


def test_cheese_and_butter_fillings_are_not_heated() -> None:
    """Cheese is stirred at room temperature and set cold; butter is beaten before its sugar."""
    cheese = cooked({"base": Part("crumb-base", STACK, 8), "cheese": Part("cream-cheese-filling", STACK, 14)})
    needs_come_first(cheese)
    before(cheese, "Let gelatine powder swell", "Melt butter and white", "Stir it smooth", "Spread cheese over base")
    butter = cooked({"base": Part("sponge-base", STACK, 8), "cream": Part("buttercream", STACK, 9)})
    needs_come_first(butter)
    before(butter, "Beat the fat white", "Beat in the rest", "Spread cream over base")
    assert not any(step.cautions and "hot sugar" in " ".join(map(str, step.cautions)).lower() for step in butter.plan.steps)


def test_liquorice_and_fruit_paste() -> None:
    """Flour is slaked before it is cooked to weight; fruit is felt for stones before it is ground."""
    black = cooked({"coat": Part("milk-coat", COAT), "black": Part("liquorice", CORE, 12)})
    needs_come_first(black)
    before(black, "Slake the flour", "Cook it all", "Stir in liquorice", "Press black")
    fruit = cooked({"coat": Part("dark-coat", COAT), "paste": Part("fruit-nut-paste", CORE, 14)})
    needs_come_first(fruit)
    before(fruit, "Sort and chop the fruit", "Grind it to one mass", "Portion and roll")


def test_a_sugar_shell_is_rolled_on_coat_by_coat() -> None:
    """After the chocolate under it has set: by the spoonful of warm syrup, and dried for half a day; nobody dips into it."""
    made = cooked(
        {"shell": Part("sugar-panned-shell", COAT, 3), "choc": Part("milk-coat", COAT, 4), "nut": Part("whole-nuts", CORE, 2)}
    )
    needs_come_first(made)
    assert made.at("Coat the pieces in choc") < made.at("Roll the pieces in shell") < made.at("Let shell set")
    assert "Coat the pieces in shell" not in made.titles()
    assert "as many as weigh that" in made.step("Count out nut").words  # nobody rolls nuts
    roll, dry = made.step("Roll the pieces in shell"), made.step("Let shell set")
    assert "3.0 g of dry shell a piece" in roll.words
    assert "below 20 °C" in roll.gate
    assert dry.wait_min >= 360


def test_nuts_bound_with_syrup_are_pressed_and_not_for_small_children() -> None:
    """The syrup goes over the dry part at once; whole nuts are choked on in whatever layer they are."""
    made = cooked({"coat": Part("dark-coat", COAT, 9), "nuts": Part("nut-cluster", CORE, 36)})
    needs_come_first(made)
    before(made, "Boil the binder", "Pour over the dry part")
    assert "choke" in made.step("Count, weigh and box").cautions
    plain = cooked({"coat": Part("dark-coat", COAT, 9), "caramel": Part("soft-caramel", CORE, 20)})
    assert "choke" not in plain.step("Count, weigh and box").cautions
