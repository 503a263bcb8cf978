"""Water activity, grain and fats against worked values."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.errors import NotKnown, OutOfRange
from fern_match.core.food import Pantry
from fern_match.core.physics.fats import adds_up, fat_kinds_per_100_g, solid_fat_g, solid_share
from fern_match.core.physics.grain import GrainRisk, doctor_share, grain_risk, sucrose_in_solution_g, supersaturation
from fern_match.core.physics.water_activity import (
    grover,
    money_born,
    norrish,
    solutes_per_100_g,
    sucrose_solubility,
    water_activity,
)

SYRUP = {"sucrose": 67.0}


def test_a_syrup_of_67_per_cent() -> None:
    """By three models."""
    assert money_born(SYRUP, 33) == pytest.approx(0.862, abs=0.001)
    assert norrish(SYRUP, 33) == pytest.approx(0.851, abs=0.001)
    assert grover(SYRUP, 33) == pytest.approx(0.856, abs=0.001)


def test_condensed_milk() -> None:
    """44 g sucrose and 11.5 g lactose in 27 g water; measured 0.83 to 0.86."""
    milk = {"sucrose": 44.0, "lactose": 11.5}
    assert norrish(milk, 27) == pytest.approx(0.843, abs=0.001)
    assert money_born(milk, 27) == pytest.approx(0.860, abs=0.001)


def test_a_spirit_counts_as_dissolved(pantry: Pantry) -> None:
    """Over 20 % of ethanol the vapour is that of about 0.93; with spirit stirred in a syrup is far drier."""
    assert water_activity({"ethanol": 20.0}, 80.0) == pytest.approx(0.93, abs=0.01)
    assert solutes_per_100_g(pantry["spirit-40"])["ethanol"] == pytest.approx(33, abs=1)
    without, beside = (water_activity({"sucrose": 52.0, "ethanol": spirit}, 28.0) for spirit in (0.0, 20.0))
    assert without is not None
    assert beside is not None
    assert without - beside > 0.1


def test_a_saturated_solution() -> None:
    """At 20 C 66.60 g in 100 g; measured about 0.86."""
    assert sucrose_solubility(20) == pytest.approx(66.60, abs=0.01)
    assert sucrose_solubility(100) == pytest.approx(83.18, abs=0.01)
    assert norrish({"sucrose": 66.6}, 33.4) == pytest.approx(0.854, abs=0.001)


def test_salt_in_water() -> None:
    """2 mol in a kg."""
    assert norrish({"salt": 2 * 58.44}, 1000) == pytest.approx(0.930, abs=0.001)


def test_the_highest_model_is_taken_and_a_margin() -> None:
    """So that it errs on the safe side; below where any model holds nothing is said."""
    assert water_activity(SYRUP, 33) == pytest.approx(0.862 + 0.02, abs=0.001)
    assert water_activity({"sucrose": 95.0}, 5) is None
    assert water_activity(SYRUP, 0.0) is None


@given(st.floats(1, 200), st.floats(1, 200), st.floats(10, 200))
def test_more_sugar_never_wets(sugar: float, more: float, water: float) -> None:
    """Each model falls with what is dissolved."""
    for model in (norrish, money_born):
        assert model({"sucrose": sugar + more}, water) < model({"sucrose": sugar}, water)


def test_grover_turns_back() -> None:
    """Beyond its reach it says nothing."""
    assert grover({"sucrose": 95.0}, 10) is None


def test_what_dissolves_of_an_ingredient(pantry: Pantry) -> None:
    """Dextrins of a syrup are what no column names; a polyol goes by its kind; tagatose counts as sucrose."""
    syrup = solutes_per_100_g(pantry["glucose-syrup-42de"])
    assert syrup["syrup dextrins"] > 40
    assert solutes_per_100_g(pantry["erythritol"])["erythritol"] == pytest.approx(99.7, abs=0.5)
    assert "maltitol" not in solutes_per_100_g(pantry["erythritol"])
    assert solutes_per_100_g(pantry["tagatose"])["sucrose"] > 95


def test_supersaturation_and_crystals() -> None:
    """88 g sucrose in 12 g water at 20 C."""
    assert supersaturation(88, 12) == pytest.approx(3.68, abs=0.01)
    assert 88 - sucrose_in_solution_g(88, 12, 0.0) == pytest.approx(64.1, abs=0.1)
    with pytest.raises(OutOfRange):
        supersaturation(1, 0)


@pytest.mark.parametrize(
    ("share", "risk"),
    [
        (0.05, GrainRisk.GRAINS),
        (0.15, GrainRisk.WHEN_BEATEN),
        (0.25, GrainRisk.RISKY),
        (0.40, GrainRisk.STABLE),
        (0.70, GrainRisk.STICKY),
    ],
)
def test_what_doctor_sugars_do(share: float, risk: GrainRisk) -> None:
    """By their share of all sugar solids."""
    assert grain_risk(share) is risk


def test_the_share_of_doctor_sugars() -> None:
    """Salt is none; without sucrose all are."""
    assert doctor_share({"sucrose": 60, "glucose": 30, "syrup dextrins": 10, "salt": 5}) == pytest.approx(0.4)
    assert doctor_share({}) == 1.0


def test_solid_fat_of_blends() -> None:
    """80 cocoa butter to 20 milk fat; 90 to 10 of oil; no figure where lauric fat and cocoa butter mix."""
    assert solid_fat_g({"cocoa butter": 80, "milk fat": 20}, 20) == pytest.approx(64.8, abs=0.05)
    assert solid_fat_g({"cocoa butter": 90, "liquid oil": 10}, 20) == pytest.approx(68.4, abs=0.05)
    assert solid_fat_g({"cocoa butter": 50, "lauric fat": 50}, 20) is None
    assert adds_up({"cocoa butter": 97, "lauric fat": 3})
    with pytest.raises(NotKnown):
        solid_share("cocoa butter", 17)


def test_fat_of_an_ingredient_by_kind(pantry: Pantry) -> None:
    """All of it, the rest as liquid oil."""
    for key in ("milk-chocolate-33", "peanut-butter-natural", "compound-coating-milk", "butter-unsalted"):
        kinds = fat_kinds_per_100_g(pantry[key])
        assert sum(kinds.values()) == pytest.approx(pantry[key].per_100_g["fat_g"] or 0.0, abs=0.05)  # type: ignore[index]
    assert fat_kinds_per_100_g(pantry["peanut-butter-natural"])["liquid oil"] > 45
