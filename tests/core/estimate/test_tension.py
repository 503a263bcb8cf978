"""Tension: how far a piece of evidence lies from the rest."""

import numpy as np
import pytest
from scipy.stats import norm

from fern_match.core.estimate.evidence.label_rows import LABEL_ROW
from fern_match.core.estimate.evidence.order import ORDER
from fern_match.core.estimate.evidence.weighings import WEIGHING
from fern_match.core.estimate.tension import smoothed_weights, tension_of, tension_without
from fern_match.core.estimate.terms import Evidence, Foreseen


def row(low: float, high: float) -> Evidence:
    """A label row that stands for an interval."""
    return Evidence(id="row:fat", kind=LABEL_ROW, title="Fat", seen="x", unit="g", seen_low=low, seen_high=high)


def test_tension_of_an_interval_is_its_tail() -> None:
    """The rest says 30 with sd 1; a row of 32.5 to 33.5 lies 2.5 sd off at its near end."""
    foreseen = Foreseen(np.full(500, 30.0), np.full(500, 1.0))
    assert tension_without(row(32.5, 33.5), foreseen).z == pytest.approx(2.5, abs=0.01)


def test_an_interval_round_the_expected_has_none() -> None:
    """What everything else foresees does not pull."""
    foreseen = Foreseen(np.full(500, 30.0), np.full(500, 1.0))
    assert tension_without(row(25.0, 35.0), foreseen).z == pytest.approx(0.0, abs=1e-6)


def test_order_is_on_the_same_scale() -> None:
    """The rest makes the later name heavier by 3 spreads: two-sided tail of 0.00135."""
    order = Evidence(id="order:a|b", kind=ORDER, title="a before b", seen="", unit="")
    z = tension_without(order, Foreseen(np.full(100, -3.0), np.ones(100))).z
    assert z == pytest.approx(-norm.ppf(norm.cdf(-3.0) / 2), abs=0.01)


def test_leaving_one_out_undoes_its_pull() -> None:
    """Prior N(0, 1), reading 6 with sd 3: left out of the posterior N(0.6, 0.9) it is 6 / sqrt(10) off."""
    rng = np.random.default_rng(3)
    values = rng.normal(0.6, np.sqrt(0.9), 40_000)
    reading = Evidence(id="w", kind=WEIGHING, title="w", seen="6", unit="g", centre=6.0)
    found = tension_of(reading, norm.logpdf(6.0, values, 3.0), Foreseen(values, np.full_like(values, 3.0)))
    assert found.reliable
    assert found.z == pytest.approx(6 / np.sqrt(10), abs=0.05)
    assert found.expected_low == 0.0  # -5.2 by the sum: a weight is nothing or more
    assert found.expected_high == pytest.approx(1.645 * np.sqrt(10), abs=0.2)


def test_equal_weights_stay_equal() -> None:
    """Nothing to smooth."""
    weights, shape = smoothed_weights(np.zeros(400))
    assert weights == pytest.approx(np.full(400, 1 / 400))
    assert shape == -np.inf


def test_weights_sum_to_one_and_tails_are_judged() -> None:
    """A light tail has a small shape, a heavy one is called out."""
    rng = np.random.default_rng(4)
    light, light_shape = smoothed_weights(rng.normal(0, 0.3, 2000))
    heavy, heavy_shape = smoothed_weights(rng.normal(0, 6.0, 2000))
    assert light.sum() == pytest.approx(1.0)
    assert heavy.sum() == pytest.approx(1.0)
    assert light_shape < 0.7 < heavy_shape


def test_one_particle_that_carries_all_is_not_trusted() -> None:
    """No tail to fit."""
    ratios = np.full(500, -800.0)
    ratios[7] = 0.0
    weights, shape = smoothed_weights(ratios)
    assert np.isfinite(weights).all()
    assert shape > 0.7
