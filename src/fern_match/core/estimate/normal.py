"""Normal probabilities that stay finite in the tails, with their slopes, fast on large arrays."""

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
_ROOT_2 = np.sqrt(2.0)
_LOG_ROOT_2_PI = 0.5 * np.log(2 * np.pi)
_LOG_HALF = np.log(0.5)
_FAR = 1e7  # beyond this a squared argument would overflow the sums it goes into
_LEAST_GAP = -1e-12
# log erfc(z) = -z^2 + log t + polynomial in t, with t = 1 / (1 + z / 2); from the highest power down.
_POLYNOMIAL = (
    *(0.17087277, -0.82215223, 1.48851587, -1.13520398, 0.27886807),
    *(-0.18628806, 0.09678418, 0.37409196, 1.00002368, -1.26551223),
)


def log_normal_cdf(x: Floats) -> Floats:
    """Log of the probability that a standard normal is below x.

    Accuracy: relative error of the probability below 1.3e-7 on both sides, checked against scipy in the tests.
    Source: Chebyshev fit of the complementary error function, Press et al., Numerical Recipes (2nd ed., 1992), section 6.2.
    """
    z = np.minimum(np.abs(x), _FAR) / _ROOT_2
    t = 1.0 / (1.0 + 0.5 * z)
    tail = np.full_like(t, _POLYNOMIAL[0])
    for coefficient in _POLYNOMIAL[1:]:
        tail *= t
        tail += coefficient
    tail += np.log(t)
    tail -= z * z
    tail += _LOG_HALF
    above = x > 0
    tail[above] = np.log1p(-np.exp(tail[above]))
    return np.asarray(tail)


def log_below(x: Floats) -> tuple[Floats, Floats]:
    """Log of the probability that a standard normal is below x, and its slope in x."""
    value = log_normal_cdf(x)
    x = np.clip(x, -_FAR, _FAR)
    return value, np.exp(-0.5 * x * x - _LOG_ROOT_2_PI - value)


def log_between(low: Floats, high: Floats) -> tuple[Floats, Floats, Floats]:
    """Log of the probability that a standard normal is between low and high, and its slopes in low and in high.

    Both tails are mirrored to the left, where logs of probabilities keep their digits.

    Args:
        high: Upper ends, above the lower.
    """
    mirrored = low > 0
    left, right = low.copy(), high.copy()
    left[mirrored], right[mirrored] = -high[mirrored], -low[mirrored]
    log_right = log_normal_cdf(right)
    gap = np.minimum(log_normal_cdf(left) - log_right, _LEAST_GAP)
    value = log_right + np.log1p(-np.exp(gap))
    low, high = np.clip(low, -_FAR, _FAR), np.clip(high, -_FAR, _FAR)
    base = _LOG_ROOT_2_PI + value
    return value, -np.exp(-0.5 * low * low - base), np.exp(-0.5 * high * high - base)
