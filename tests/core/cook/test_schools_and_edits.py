"""What can be chosen, what a lacking tool changes, and the user's own changes of a plan."""

import pytest
from tests.cooking import COAT, FAMILIES, STACK, Cooked, Part, cooked

from fern_match.core.cook import OwnStep, Place, StepChange, differences
from fern_match.core.cook.boils import heat_at_g, mass_at_c
from fern_match.core.cook.pan import Pan
from fern_match.core.cook.schools import Asking, schools_of
from fern_match.core.data import rows
from fern_match.core.kitchen import Kitchen, Tool

CARAMEL = {"coat": Part("dark-coat", COAT), "caramel": Part("soft-caramel", STACK)}
NOUGAT = {"nougat": Part("nougat-egg-white", STACK)}
BASE = {"base": Part("short-base", STACK)}


@pytest.mark.parametrize("school", sorted({row["school"] for row in rows("schools.csv")}))
def test_each_school_recommends_one_way_and_says_why(school: str) -> None:
    """Whatever its sign is; and an unknown choice falls back to it."""
    for sign in {row["recommend"] for row in rows("schools.csv") if row["school"] == school}:
        (one,) = schools_of([Asking(school, (sign,))], {school: "no such way"})
        best = [option for option in one.options if option.recommended]
        assert len(best) == 1
        assert (one.chosen, bool(best[0].reason), bool(one.asks)) == (best[0].id, True, True)


def test_sugar_melted_dry_or_wet() -> None:
    """Another step, another heat, another cue."""
    wet = cooked(CARAMEL).step("Boil sugar and syrup clear")
    dry = cooked(CARAMEL, schools={"sugar": "dry"}).step("Melt the sugar dry to amber")
    assert wet.heat is None
    assert dry.heat is not None
    assert "amber" in [one.words for one in dry.cues if one.stage == "right"]


def test_a_coat_that_is_kept_cold_is_not_tempered() -> None:
    """Three ways of one coat; each says how its pieces are kept."""
    tempered, cold = cooked(CARAMEL), cooked(CARAMEL, schools={"coat--coat": "cold"})
    assert "Temper it" in tempered.titles()
    assert "Temper it" not in cold.titles()
    assert "warm up in the closed box" in cold.step("Count").words
    assert "gains its snap" in tempered.step("Count").words


def test_where_things_set() -> None:
    """In the freezer where it is one's way, but for what must not; in a warm kitchen the cold is recommended."""
    frozen = cooked({**CARAMEL, **NOUGAT}, schools={"set": "freezer"})
    assert frozen.step("Let caramel set").place is Place.FREEZER
    assert frozen.step("Let nougat set").place is Place.ROOM
    warm = cooked(CARAMEL, room="27 C")
    assert next(one for one in warm.plan.schools if one.id == "set").chosen == "fridge"
    assert (
        cooked(CARAMEL).step("Let caramel set").wait_min
        < cooked(CARAMEL, room="24 C", humidity="50 %").read.cells["room"].value * 90
    )


def test_what_sets_in_a_warm_room_takes_longer() -> None:
    """Four tenths more above 22 °C, twice above 26."""
    minutes = [
        cooked(CARAMEL, room=room, schools={"set": "usual"}).step("Let caramel set").wait_min for room in ("20", "24", "27")
    ]
    assert minutes[1] == pytest.approx(1.4 * minutes[0])
    assert minutes[2] == pytest.approx(2.0 * minutes[0])


def test_by_hand_where_there_is_no_mixer() -> None:
    """All of it hands on, three times as long, and it says so."""
    usual, bare = cooked(NOUGAT), cooked(NOUGAT, kitchen=Kitchen(lacks=(Tool.MIXER,)))
    step, by_hand = usual.step("Stream the syrup in"), bare.step("Stream the syrup in")
    assert by_hand.wait_min == 0
    assert by_hand.hands_on_min == pytest.approx(3 * (step.hands_on_min + step.wait_min))
    assert "By hand" in by_hand.words


def test_without_an_oven_a_base_cannot_be_baked() -> None:
    """It says what else; roasting goes in a pan."""
    kitchen = Kitchen(lacks=(Tool.OVEN,))
    assert "no oven" in cooked(BASE, kitchen=kitchen).step("Bake").problem
    nuts = {"nuts": Part("whole-nuts", STACK, 3, None, {"almond-raw": (3.0, "nut-solids")})}
    roast = cooked(nuts, kitchen=kitchen).step("Roast them")
    assert (roast.problem, "dry heavy pan" in roast.words) == ("", True)


def test_no_scale_means_spoons_and_no_end_weight_school() -> None:
    """What goes in is said as it is measured."""
    made = cooked(CARAMEL, kitchen=Kitchen(lacks=(Tool.SCALE,)))
    assert all(use.words for use in made.step("Boil sugar and syrup clear").uses)
    assert {option.id for one in made.plan.schools if one.id == "caramel--end" for option in one.options} == {"heat", "cue"}


def test_polyols_are_cooked_to_weight() -> None:
    """No temperature of sugar holds for them."""
    made = cooked({"caramel": Part("maltitol-caramel", STACK)})
    step = made.step("Cook to")
    assert (step.heat, step.end_by) == (None, "weight")
    assert step.end_weight_g == pytest.approx(made.read.batch.layers[0].cook_end.pan_g)  # type: ignore[union-attr]
    assert "g in the pan" in step.title


def test_a_step_with_other_minutes_another_heat_and_a_note() -> None:
    """A firm caramel may end at 125 °C: its alarms follow."""
    change = StepChange(id="caramel--cook", title="Cook", hands_on="1 1/2 h", heat="257 F", note="slowly")
    step = cooked(CARAMEL, changes=[change]).step("Cook to")
    assert step.hands_on_min == 90
    assert step.heat is not None
    assert step.heat.aim_c == pytest.approx(125, abs=0.1)
    assert (step.note, step.changed) == ("slowly", True)


def test_what_was_not_read_changes_nothing() -> None:
    """It waits beside its field."""
    plain, odd = cooked(CARAMEL), cooked(CARAMEL, changes=[StepChange(id="caramel--cook", hands_on="soon", heat="hot")])
    assert odd.step("Cook to").hands_on_min == plain.step("Cook to").hands_on_min


def test_a_step_left_out_hands_on_what_goes_in() -> None:
    """Nothing of the batch is lost with it; what needed it needs what it needed."""
    made = cooked(CARAMEL, changes=[StepChange(id="caramel--syrup", left_out=True)])
    assert "Boil sugar and syrup clear" not in made.titles()
    assert any(use.ingredient_id == "white-sugar" for use in made.step("Stir in").uses)


def test_a_step_moved_and_one_of_ones_own() -> None:
    """Each stands where it was put, and what follows waits for it."""
    own = OwnStep(id="mine", title="Make tea", hands_on="4", after="build--cut")
    made = cooked(CARAMEL, changes=[StepChange(id="coat--melt", after="build--cut")], own=[own])
    assert made.at("Make tea") == made.at("Cut") + 1
    assert made.step("Make tea").id in made.step("Coat the pieces").needs
    assert "own--mine" in made.step("Melt the coat").needs  # which was to come after the cut, and so comes after this


def test_a_change_of_a_step_that_is_gone_is_said() -> None:
    """By the title it had."""
    made = cooked(CARAMEL, changes=[StepChange(id="gone--cook", title="Cook the fudge", note="x")])
    assert made.plan.missing == ("Cook the fudge",)


def test_another_version_says_what_it_changes_at_the_stove() -> None:
    """Maltitol is cooked to a weight; the same version changes nothing."""
    sugar = cooked(CARAMEL).plan.steps
    other = cooked({**CARAMEL, "caramel": Part("maltitol-caramel", STACK)}).plan.steps
    assert differences(sugar, sugar) == ()
    said = differences(other, sugar)
    assert any(one.startswith("Caramel: “Cook to") and "in place of “Cook to 118 °C”" in one for one in said)
    gone = differences(cooked({"caramel": CARAMEL["caramel"]}).plan.steps, sugar)
    assert any("no longer “Melt the coat” and “Temper it”" in one for one in gone)


def of_caramel(lost: str) -> Cooked:
    """A caramel of sugar, syrup and cream that loses so much of 10 g."""
    lines = {
        "white-sugar": (3.0, "sweet-bulk"),
        "glucose-syrup-42de": (3.0, "doctor-sugar"),
        "heavy-cream": (4.0, "dairy-liquid"),
    }
    return cooked({"caramel": Part("soft-caramel", STACK, lines=lines, lost=lost)})


def test_a_firm_caramel_is_cooked_to_its_own_end() -> None:
    """Title, aim, window, cue and reason are of its own water; at its end the pan holds what the version says, both ways."""
    step = of_caramel("2.45 g").step("Cook to")
    heat, boil = step.heat, step.boil
    assert heat is not None
    assert boil is not None
    assert step.end_weight_g is not None
    assert heat.aim_c == 127.5
    assert (heat.low_c, heat.high_c, step.title) == (123.5, 130.5, "Cook to 127.5 °C")
    assert step.reason == "It is to keep 6 % of water, its kind about 9.5 %: so it ends above the usual 118 °C."
    assert heat_at_g(boil, step.end_weight_g) == pytest.approx(heat.aim_c, abs=0.3)
    assert mass_at_c(boil, heat.aim_c) == pytest.approx(step.end_weight_g, rel=0.002)
    usual = of_caramel("2.15 g").step("Cook to 118 °C")
    assert usual.reason == ""
    assert {one.id for one in usual.cues} != {one.id for one in step.cues}


def test_a_pan_in_practice_ends_as_the_plan_says() -> None:
    """At the aim it weighs what the version keeps."""
    step = of_caramel("2.45 g").step("Cook to")
    assert step.boil is not None
    assert step.heat is not None
    pan = Pan(step.boil)
    assert pan.at(pan.until_c(step.heat.aim_c)).mass_g == pytest.approx(step.end_weight_g, rel=0.005)


def test_water_that_no_caramel_can_keep_is_said() -> None:
    """One that keeps a fifth of water is cooked to what makes a caramel, and weighs less."""
    wet = of_caramel("1.2 g").step("Cook to 118 °C")
    assert wet.reason.startswith(
        "The version keeps 19.5 % of water, its kind about 9.5 %: cooked to the usual end it weighs less"
    )


@pytest.mark.parametrize("row", rows("ingredient_steps.csv"), ids=lambda row: f"{row['ingredient']} {row['at']}")
def test_every_word_on_an_ingredient_is_said_at_some_step(row: dict[str, str]) -> None:
    """Where it boils, bakes, is whipped, coats, or goes in: in the first family that makes it so."""
    food = row["ingredient"]
    for family in FAMILIES.all():
        role = next((role.name for role in family.roles if food in role.admits), None)
        if role is None:
            continue
        others = {one.default_id: (5.0, one.name) for one in family.roles if one.name != role and not one.optional}
        made = cooked({"one": Part(family.id, STACK, lines={**others, food: (1.0, role)})})
        if any(row["words"].split("°C")[0].split("Δ")[0].strip() in step.words for step in made.plan.steps):
            return
    pytest.fail(f"{food} at {row['at']} is never said")


def test_each_way_that_can_be_chosen_changes_the_plan() -> None:
    """No choice without an effect, in a piece that asks every question there is."""
    parts = {
        "coat": Part("milk-coat", COAT),
        "base": Part("short-base", STACK),
        "milk": Part("condensed-milk-caramel", STACK),
        "nougat": Part("nougat-egg-white", STACK),
        "caramel": Part("soft-caramel", STACK),
    }
    usual = cooked(parts)
    asked = {one.id.rpartition("--")[2] for one in usual.plan.schools}
    assert asked == {row["school"] for row in rows("schools.csv")}
    for school in usual.plan.schools:
        for option in school.options:
            if option.id != school.chosen:
                other = cooked(parts, schools={school.id: option.id}).plan.steps
                assert other != usual.plan.steps, f"{school.id}: {option.id}"


def test_baked_on_with_its_filling() -> None:
    """The base for six tenths of its time, then both."""
    parts = {"base": Part("short-base", STACK), "milk": Part("condensed-milk-caramel", STACK)}
    through, on = cooked(parts), cooked(parts, schools={"bake": "with"})
    assert on.step("Bake").wait_min == pytest.approx(0.6 * through.step("Bake").wait_min)
    assert on.at("Pour milk over base") < on.at("Bake milk onto the base") < on.at("Let milk set")


@pytest.mark.parametrize("family", ["brittle", "coconut-fondant", "gelatine-jelly", "hard-sugar", "marshmallow", "plain-fondant"])
def test_stirring_a_clear_syrup_is_said_at_its_boil(family: str) -> None:
    """Never, or all along."""
    never, always = (
        cooked({"one": Part(family, STACK)}, schools=schools).step("Boil the syrup") for schools in ({}, {"stir": "always"})
    )
    assert "without stirring" in never.words
    assert "stirring gently all along" in always.words
