"""Kinds of work that people bring, each from a batch to the next version, through core alone."""

import pytest
from tests.cooking import COAT, CORE, PANTRY, STACK, Part
from tests.trying import log_of, read_at, seen_at, trial_of, version_of

from fern_match.core.cook import EntryKind, mass_at_c
from fern_match.core.formulate import Property, Version, read_version
from fern_match.core.formulate.record.properties import amount_of
from fern_match.core.kitchen import Kitchen, Tool
from fern_match.core.trials import Looked, ranking_words

_TAKEN = ["v"]


def first(looked: Looked, layer_id: str) -> str:
    """The likeliest cause of what is wrong with a layer."""
    return looked.faulty[layer_id].ranking.causes[0].cause.id


def made_next(looked: Looked) -> Version:
    """The version that all of its changes make."""
    found = looked.next([one.id for one in looked.changes], _TAKEN)
    assert found is not None
    assert found.version.parent == "v"
    return found.version


def grams(version: Version, layer_id: str) -> float:
    """What a layer weighs [g]."""
    return next(one.finished_g for one in read_version(version, PANTRY).layers if one.layer_id == layer_id)


def amounts(version: Version) -> list[str]:
    """All amounts as they stand."""
    return [line.amount for layer in version.layers for line in layer.ingredients]


def test_c1_shells_from_an_egg_tray_that_leak() -> None:
    """A coat of 0.7 mm with a hole in it: the shell is thin, not its filling; next time it has 15 % more, 9 x 1.15 = 10.35 g."""
    parts = {"shell": Part("dark-coat", COAT, 9.0), "liquid": Part("liquid-fruit-centre", CORE, 6.0)}
    looked = trial_of(parts, {"shell": "leaks"}, thick={"shell": "0.7 0.8 0.6"}, reached={"shell--pinholes": "yes"})

    assert first(looked, "shell") == "thin-shell"
    after = made_next(looked)
    assert grams(after, "shell") == pytest.approx(10.35)
    assert grams(after, "liquid") == pytest.approx(6.0)
    assert next(one.wanted for one in after.targets if one.layer == "shell" and one.property is Property.MASS) == "10.35 g"


def test_c7_soft_nougat_whose_syrup_stopped_early() -> None:
    """Planned 128 °C, read 125: a slip. Nothing of the amounts moves; the version tells its cook what to mind."""
    parts = {"coat": Part("milk-coat", COAT, 8.0), "nougat": Part("nougat-egg-white", STACK, 14.0)}
    looked = trial_of(parts, {"nougat": "nougat-soft"}, log=log_of(read_at("nougat--syrup", 125.0)))

    assert first(looked, "nougat") == "undercooked"
    after = made_next(looked)
    assert amounts(after) == amounts(version_of(parts))
    assert any("keep to the plan" in note.text and "3.0 °C under plan" in note.text for note in after.notes)
    effect = looked.changes[0].effect
    assert effect.startswith("firmer: about ")
    assert "% water" in effect


def test_c7_the_same_cooked_as_planned_is_to_be_cooked_further() -> None:
    """Where the syrup ended as planned and the white was whipped, a soft nougat with too much syrup gets less of it."""
    lines = {
        "white-sugar": (4.0, "sweet-bulk"),
        "glucose-syrup-42de": (9.0, "doctor-sugar"),
        "egg-white-fresh": (1.2, "aerator"),
        "cocoa-butter": (0.4, "fat"),
    }
    parts = {"nougat": Part("nougat-egg-white", STACK, 14.0, lines=lines, lost="2 g")}
    looked = trial_of(parts, {"nougat": "nougat-soft"}, log=log_of(read_at("nougat--syrup", 128.0)))

    assert first(looked, "nougat") == "much-doctor"
    after = read_version(made_next(looked), PANTRY).layers[0]
    before = read_version(version_of(parts), PANTRY).layers[0]
    syrup = [next(one.grams for one in layer.ingredients if one.role == "doctor-sugar") for layer in (before, after)]
    sugar = [next(one.grams for one in layer.ingredients if one.role == "sweet-bulk") for layer in (before, after)]
    assert syrup[1] == pytest.approx(syrup[0] - 0.05 * before.added_g)
    assert sugar[1] == pytest.approx(sugar[0] + 0.05 * before.added_g)
    assert after.finished_g == pytest.approx(before.finished_g, rel=1e-6)


def test_c9_truffles_that_split() -> None:
    """Three times as much fat as water: less fat, more cream; the truffle weighs what it weighed."""
    lines = {"dark-chocolate-70": (7.0, "chocolate"), "heavy-cream": (2.6, "dairy-liquid"), "butter-unsalted": (2.4, "fat")}
    parts = {"ganache": Part("ganache-dark", CORE, 12.0, lines=lines)}
    looked = trial_of(parts, {"ganache": "ganache-split"})

    assert first(looked, "ganache") == "much-fat-for-water"
    before, after = (read_version(one, PANTRY).layers for one in (version_of(parts), made_next(looked)))
    ratios = [amount_of(one, Property.FAT, PANTRY) / amount_of(one, Property.WATER, PANTRY) for one in (before, after)]
    assert ratios[1] < ratios[0] - 0.3
    assert after[0].finished_g == pytest.approx(before[0].finished_g, rel=1e-6)


def test_c9_without_a_reading_no_amount_moves() -> None:
    """A balanced ganache that split, of which nobody measured anything: it says what to measure, and changes no grams."""
    parts = {"ganache": Part("ganache-dark", CORE, 12.0)}
    looked = trial_of(parts, {"ganache": "ganache-split"})

    assert "No reading of this batch speaks" in ranking_words(looked.faulty["ganache"].ranking)
    assert "mixed" in ranking_words(looked.faulty["ganache"].ranking)
    assert amounts(made_next(looked)) == amounts(version_of(parts))


def test_c14_vegan_pieces_whose_ganache_stays_soft() -> None:
    """A quarter more almond drink went in than planned: a slip of the cup, and no fault of the formula."""
    lines = {
        "dark-chocolate-70": (6.0, "chocolate"),
        "almond-drink": (2.4, "plant-liquid"),
        "raspberry-puree": (0.6, "fruit-solids"),
    }
    parts = {"coat": Part("dark-coat", COAT, 6.0), "ganache": Part("fruit-ganache", CORE, 9.0, lines=lines)}
    batch = trial_of(parts).of.batch.batch
    assert batch is not None
    drink = next(one for layer in batch.layers for one in layer.ingredients if one.ingredient_id == "almond-drink")
    looked = trial_of(
        parts, {"ganache": "ganache-soft"}, went_in={f"ganache--{drink.line_id}": f"{1.25 * drink.weigh_out_g:.1f}"}
    )

    assert first(looked, "ganache") == "much-cream"
    assert looked.changes[0].what == "plan"
    assert amounts(made_next(looked)) == amounts(version_of(parts))


def test_c15_brittle_like_glass() -> None:
    """The soda hardly foamed and the slab is thin: fresh soda, and nothing else is changed."""
    parts = {"brittle": Part("brittle", CORE, 10.0)}
    looked = trial_of(parts, {"brittle": "brittle-hard"}, reached={"brittle--no_foam": "yes"}, thick={"brittle": "5 5.5"})

    assert first(looked, "brittle") == "weak-soda"
    assert "Fresh soda" in looked.changes[0].words


def test_c18_runny_caramel_by_colour_without_a_thermometer() -> None:
    """The track on the base was taken for the end, three degrees early by eye, and the clock agrees: it was ended too early."""
    parts = {"coat": Part("dark-coat", COAT, 8.0), "caramel": Part("soft-caramel", STACK, 12.0)}
    kitchen = Kitchen(lacks=(Tool.THERMOMETER,))
    cook = trial_of(parts, kitchen=kitchen).of.plan.step("caramel--cook")
    assert cook is not None
    early = [one for one in cook.cues if one.stage.value == "early"][-2]
    log = log_of(
        (0, EntryKind.OPENED, {"step": "caramel--cook"}),
        seen_at("caramel--cook", early.id),
        (round(0.6 * cook.takes_min), EntryKind.DONE, {"step": "caramel--cook"}),
    )
    looked = trial_of(parts, {"caramel": "caramel-runny"}, kitchen=kitchen, log=log)
    ranking = looked.faulty["caramel"].ranking

    assert first(looked, "caramel") == "undercooked"
    assert ranking.causes[0].is_spoken_for
    assert {said.clue for said in ranking.causes[0].spoken} >= {"end_heat", "boil_minutes"}
    assert looked.layers[1].read["end_heat"].error == pytest.approx(6.0)


def test_a_cause_that_the_user_takes_moves_amounts() -> None:
    """A runny caramel of which nothing was read: nothing moves by itself; taken for “ended too early” it is cooked 2 °C further.

    Of its pan 2 °C more leave so much less water; the layer weighs what it weighed, so all that goes in grows by as much.
    """
    parts = {"caramel": Part("soft-caramel", STACK, 12.0)}
    looked = trial_of(parts, {"caramel": "caramel-runny"})
    assert looked.changes[0].what == "do"
    wanted = "caramel:undercooked:wanted"
    found = looked.next([wanted], _TAKEN)
    assert found is not None
    assert looked.wanted[wanted].what == "heat"
    step = looked.of.plan.step("caramel--cook")
    assert step is not None
    assert step.boil is not None
    assert step.heat is not None
    now, then = (mass_at_c(step.boil, (step.heat.sea_level_c or 0) + by) for by in (0, 2))
    assert now is not None
    assert then is not None
    before, after = (read_version(one, PANTRY).layers[0] for one in (version_of(parts), found.version))

    assert after.finished_g == pytest.approx(before.finished_g)
    lost = before.water_lost_g + (now - then) / step.boil.left_g * before.finished_g
    grown = before.finished_g / (before.added_g - lost)
    assert after.water_lost_g == pytest.approx(lost * grown)
    assert after.added_g == pytest.approx(before.added_g * grown)
    assert trial_of(parts, version=found.version.called("v")).of.plan.step("caramel--cook") is not None
    hotter = trial_of(parts, version=found.version.called("v")).of.plan.step("caramel--cook")
    assert hotter is not None
    assert hotter.heat is not None
    assert hotter.heat.aim_c == pytest.approx(step.heat.aim_c + 2, abs=1.0)  # the plan follows the version's own water


def test_a_weight_in_the_pan_shows_a_slip_as_well() -> None:
    """Read by the scale alone: 5 % more was left in the pan than planned, so the boil was ended early, and the plan stands."""
    parts = {"caramel": Part("soft-caramel", STACK, 12.0)}
    step = trial_of(parts).of.plan.step("caramel--cook")
    assert step is not None
    assert step.boil is not None
    looked = trial_of(parts, {"caramel": "caramel-runny"}, reached={"caramel--pan_weight": f"{1.05 * step.boil.left_g:.0f} g"})

    assert first(looked, "caramel") == "undercooked"
    assert looked.changes[0].what == "plan"
