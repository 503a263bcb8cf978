"""Spoons and cups beside grams."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.errors import OutOfRange
from fern_match.core.kitchen import Kitchen, read_kitchen
from fern_match.core.measures.volumes import MILLILITRES, Measures, scooped


@pytest.mark.parametrize(
    ("measures", "unit", "millilitres"),
    [
        (Measures.US, "tsp", 4.929),
        (Measures.US, "tbsp", 14.787),
        (Measures.US, "cup", 236.588),
        (Measures.METRIC, "cup", 250),
        (Measures.UK, "cup", 284.131),
        (Measures.UK, "fl oz", 28.413),
        (Measures.AU, "tbsp", 20),
    ],
)
def test_measures_by_country(measures: Measures, unit: str, millilitres: float) -> None:
    """Against the published definitions."""
    assert MILLILITRES[measures][unit] == pytest.approx(millilitres, abs=0.001)


@pytest.mark.parametrize(
    ("grams", "density", "measures", "words"),
    [
        (200.0, 0.845, Measures.US, "1 cup"),  # granulated sugar, 200 g to the US cup
        (100.0, 0.85, Measures.US, "1/2 cup"),
        (6.0, 1.2, Measures.METRIC, "1 tsp"),
        (3.0, 1.2, Measures.METRIC, "1/2 tsp"),
        (20.0, 1.0, Measures.AU, "1 tbsp"),
        (22.5, 1.0, Measures.METRIC, "1 1/2 tbsp"),
        (375.0, 1.0, Measures.METRIC, "1 1/2 cup"),
    ],
)
def test_amounts_as_a_person_scoops_them(grams: float, density: float, measures: Measures, words: str) -> None:
    """To the nearest quarter of a fitting measure."""
    found = scooped(grams, density, measures)
    assert found is not None
    assert found.words == words


@pytest.mark.parametrize("grams", [0.2, 5000.0])
def test_no_spoon_for_crumbs_or_sacks(grams: float) -> None:
    """Less than a quarter teaspoon, more than eight cups."""
    assert scooped(grams, 1.0, Measures.METRIC) is None


@given(st.floats(1.5, 1900), st.floats(0.2, 1.5), st.sampled_from(list(Measures)))
def test_spoons_hold_about_the_amount(grams: float, density: float, measures: Measures) -> None:
    """The nearest quarter is never further than an eighth of the measure; the error is part of the amount."""
    found = scooped(grams, density, measures)
    if found is not None:
        unit = found.words.rpartition(" ")[2]
        assert abs(found.grams - grams) <= MILLILITRES[measures][unit] * density / 8 + 1e-6
        assert 0 < found.low_g < found.grams < found.high_g


@pytest.mark.parametrize("density", [0.0, -1.0, 5.0])
def test_impossible_densities_are_refused(density: float) -> None:
    """With the limits."""
    with pytest.raises(OutOfRange):
        scooped(10.0, density, Measures.US)


@pytest.mark.parametrize(("typed", "step"), [("0.1 g", 0.1), ("1", 1.0), ("0.01 oz", 0.283), ("", 0.1), ("fine", 0.1)])
def test_the_scale_s_step_is_read(typed: str, step: float) -> None:
    """What was not read counts as usual, with a sentence."""
    reading = read_kitchen(Kitchen(scale_step=typed))
    assert reading.scale_step_g == pytest.approx(step, abs=0.001)
    assert bool(reading.scale_step.problem) == (typed == "fine")
