"""Boiling points against tables of the standard atmosphere and of steam."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.errors import OutOfRange
from fern_match.core.physics.boiling import air_pressure_kpa, reading_for, vapour_pressure_kpa, water_boils_c


@pytest.mark.parametrize(
    ("metres", "kpa", "boils_c"),
    [
        (0, 101.33, 99.97),
        (250, 98.36, 99.14),
        (500, 95.46, 98.31),
        (1000, 89.87, 96.65),
        (1500, 84.56, 94.98),
        (2000, 79.50, 93.32),
        (3000, 70.11, 89.97),
    ],
)
def test_agrees_with_tables(metres: float, kpa: float, boils_c: float) -> None:
    """Pressure by height and boiling point by pressure."""
    assert air_pressure_kpa(metres) == pytest.approx(kpa, abs=0.01)
    assert water_boils_c(metres) == pytest.approx(boils_c, abs=0.01)


@pytest.mark.parametrize(("temp_c", "kpa"), [(20.0, 2.3392), (50.0, 12.352), (100.0, 101.42), (150.0, 476.16)])
def test_agrees_with_steam_tables(temp_c: float, kpa: float) -> None:
    """Saturation pressures as steam tables print them."""
    assert vapour_pressure_kpa(temp_c) == pytest.approx(kpa, rel=3e-4)


@given(st.floats(-400, 5900), st.floats(1, 100))
def test_higher_boils_cooler(metres: float, climb: float) -> None:
    """Everywhere in range."""
    assert water_boils_c(metres + climb) < water_boils_c(metres)


def test_a_syrup_is_corrected_by_what_boiling_water_reads() -> None:
    """118 C with water at 94.5 C: 118 - 5.5."""
    assert reading_for(118.0, 94.5) == pytest.approx(112.5)


@pytest.mark.parametrize("metres", [-500.0, 7000.0, math.nan])
def test_heights_nobody_cooks_at_are_refused(metres: float) -> None:
    """With the argument's name."""
    with pytest.raises(OutOfRange) as caught:
        water_boils_c(metres)
    assert caught.value.field == "altitude"


@pytest.mark.parametrize(("temp_c", "reading_c"), [(300.0, 100.0), (118.0, 60.0), (118.0, math.nan)])
def test_impossible_readings_are_refused(temp_c: float, reading_c: float) -> None:
    """Nothing is extrapolated."""
    with pytest.raises(OutOfRange):
        reading_for(temp_c, reading_c)


@pytest.mark.parametrize("temp_c", [0.0, 380.0])
def test_steam_outside_the_source_is_refused(temp_c: float) -> None:
    """Below ice and above the critical point."""
    with pytest.raises(OutOfRange):
        vapour_pressure_kpa(temp_c)
