"""Readings that can and cannot tell two things apart: rates over many simulated trials, and worked values."""

import math
import statistics

import numpy as np
import pytest

from fern_match.core.errors import OutOfRange
from fern_match.core.trials.difference import FOUND, SURE, Difference, Known, chance_to_find, difference, mean_of

_TRIALS = 1000
_USUAL = 0.5


def rates(by_g: float, spread_g: float, many: int, seed: int) -> float:
    """How often simulated trials tell a difference: readings of a scale of 0.1 g, of original and of copy."""
    rng = np.random.default_rng(seed)
    told = 0
    for _ in range(_TRIALS):
        original = np.round(rng.normal(40.0, spread_g, many), 1)
        copy = np.round(rng.normal(40.0 + by_g, spread_g, many), 1)
        first, second = (mean_of([float(one) for one in side], _USUAL, 0.1) for side in (original, copy))
        assert first is not None
        assert second is not None
        told += difference(first, second).is_told
    return told / _TRIALS


@pytest.mark.parametrize(("spread_g", "many"), [(0.4, 5), (1.2, 6), (0.8, 10)])
def test_a_copy_that_is_the_original_is_told_to_differ_as_rarely_as_is_said(spread_g: float, many: int) -> None:
    """No difference is called one in one of ten trials, within 2 points: that is what a 90 % range says."""
    assert rates(0.0, spread_g, many, seed=3) == pytest.approx(1 - SURE, abs=0.02)


@pytest.mark.parametrize(("spread_g", "many"), [(0.4, 5), (0.9, 6), (1.5, 8)])
def test_a_gram_is_found_as_often_as_is_said(spread_g: float, many: int) -> None:
    """A layer heavier by a gram is found as often as the readings' own doubt says, within 2 points; by poor ones hardly."""
    said = chance_to_find(1.0, spread_g * math.sqrt(2 / many), 2 * (many - 1))

    assert rates(1.0, spread_g, many, seed=3) == pytest.approx(said, abs=0.02)


def test_what_is_said_to_be_found_is_found_nine_times_in_ten() -> None:
    """The difference that a row says would be found is the one found in 90 of 100 trials."""
    apart = Difference(0.0, 0.8 * math.sqrt(2 / 8), 14.0)

    assert rates(apart.finds, 0.8, 8, seed=5) == pytest.approx(FOUND, abs=0.02)


def test_the_worked_example() -> None:
    """Five and five readings: 1.0 g with an error of 0.255 and 6.97 degrees of freedom is 0.52 to 1.48 (t 1.895)."""
    original = mean_of([41.6, 41.8, 42.0, 42.2, 42.4], 1.0, 0.1)
    copy = mean_of([42.4, 42.7, 43.0, 43.3, 43.6], 1.0, 0.1)
    assert original is not None
    assert copy is not None
    apart = difference(original, copy)
    error = math.sqrt(
        statistics.variance([41.6, 41.8, 42.0, 42.2, 42.4]) / 5 + statistics.variance([42.4, 42.7, 43.0, 43.3, 43.6]) / 5
    )

    assert apart.value == pytest.approx(1.0)
    assert apart.error == pytest.approx(error)
    assert apart.freedom == pytest.approx(6.969, abs=0.01)
    assert (apart.low, apart.high) == pytest.approx((1 - 1.896 * error, 1 + 1.896 * error), abs=2e-3)


def test_one_reading_is_as_sure_as_is_usual_and_no_surer() -> None:
    """Of one reading the usual spread is its error, with as much doubt as three readings leave."""
    one = mean_of([8.4], 0.4, 0.1)

    assert one == Known(8.4, 0.4, 3.0)


def test_a_coarse_scale_is_no_surer_than_its_step() -> None:
    """Four times the same figure on a scale of 1 g is not exact: a step of 1 g has a spread of 0.29."""
    same = mean_of([8.0, 8.0, 8.0, 8.0], 0.4, 1.0)

    assert same is not None
    assert same.error == pytest.approx(1 / math.sqrt(12) / 2)


def test_nothing_read_is_nothing_known() -> None:
    """No readings are no mean."""
    assert mean_of([], 0.4, 0.1) is None


@pytest.mark.parametrize("usual", [0.0, -1.0, math.nan])
def test_a_spread_of_nothing_is_refused(usual: float) -> None:
    """A usual spread that is none would make one reading exact."""
    with pytest.raises(OutOfRange):
        mean_of([8.0], usual, 0.1)


def test_more_readings_find_less() -> None:
    """The difference that is found shrinks with the number of readings."""
    few, many = (Difference(0.0, 0.8 * math.sqrt(2 / n), 2.0 * (n - 1)).finds for n in (4, 12))

    assert many < few / 1.7
