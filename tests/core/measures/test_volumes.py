"""Spoons and cups beside grams."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.errors import OutOfRange
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
        (375.0, 1.0, Measures.METRIC, "1 1/2 cups"),
        (218.0, 1.0, Measures.METRIC, "3/4 cup + 2 tbsp"),  # 187.5 + 30 = 217.5
        (83.0, 1.0, Measures.METRIC, "1/3 cup"),
        (41.0, 1.0, Measures.METRIC, "2 tbsp + 2 tsp"),  # 30 + 10 = 40
        (40.0, 1.0, Measures.AU, "2 tbsp"),
        (0.62, 1.0, Measures.METRIC, "1/8 tsp"),
        (3.1, 1.0, Measures.METRIC, "1/2 tsp + 1/8 tsp"),  # no set has a spoon of 5/8
        (6.9, 1.0, Measures.METRIC, "1 1/4 tsp + 1/8 tsp"),
    ],
)
def test_amounts_as_a_person_scoops_them(grams: float, density: float, measures: Measures, words: str) -> None:
    """The simplest words within 3 %."""
    found = scooped(grams, density, measures)
    assert found is not None
    assert found.words == words


@pytest.mark.parametrize("grams", [0.1, 5000.0])
def test_no_spoon_for_crumbs_or_sacks(grams: float) -> None:
    """Less than half a pinch, more than eight cups."""
    assert scooped(grams, 1.0, Measures.METRIC) is None


@pytest.mark.parametrize(
    ("grams", "pours", "words"),
    [
        (0.92, False, "1/8 tsp + a pinch"),  # 0.625 + 0.31 mL
        (0.3, False, "a pinch"),
        (0.5, False, "2 pinches"),
        (0.16, True, "3 drops"),  # 0.05 mL each
        (0.8, True, "1/8 tsp + 4 drops"),
    ],
)
def test_a_pinch_or_drops_fill_up_where_no_spoon_is_near(grams: float, pours: bool, words: str) -> None:
    """What the words hold never contradicts the grams beside them."""
    found = scooped(grams, 1.0, Measures.METRIC, pours=pours)
    assert found is not None
    assert found.words == words
    assert found.low_g <= grams <= found.high_g


@given(st.floats(0.05, 1900), st.floats(0.2, 1.5), st.sampled_from(list(Measures)), st.booleans())
def test_spoons_hold_what_stands_beside_them(grams: float, density: float, measures: Measures, pours: bool) -> None:
    """Whatever the amount, the range of the words holds it; else there are no words."""
    found = scooped(grams, density, measures, pours=pours)
    assert found is None or found.low_g - 1e-9 <= grams <= found.high_g + 1e-9


@given(st.floats(1.5, 1900), st.floats(0.2, 1.5), st.sampled_from(list(Measures)))
def test_spoons_hold_about_the_amount(grams: float, density: float, measures: Measures) -> None:
    """From a teaspoon on the range reaches the amount, and the words say what it holds."""
    found = scooped(grams, density, measures)
    if found is None:
        return
    held = 0.0
    filling = {"a pinch": 0.31, "2 pinches": 0.62, "1 drop": 0.05}
    for part in found.words.split(" + "):
        *figures, unit = part.split()
        known = filling.get(part)
        held += known or float(sum(Fraction(figure) for figure in figures)) * MILLILITRES[measures][unit.removesuffix("s")]
    assert found.grams == pytest.approx(held * density)
    assert found.low_g < found.grams < found.high_g


@pytest.mark.parametrize("density", [0.0, -1.0, 5.0])
def test_impossible_densities_are_refused(density: float) -> None:
    """With the limits."""
    with pytest.raises(OutOfRange):
        scooped(10.0, density, Measures.US)
