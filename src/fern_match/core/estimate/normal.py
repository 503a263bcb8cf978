"""Normal probabilities that stay finite in the tails, with their slopes, fast on large arrays."""

import numpy as np
from numpy.typing import NDArray
from scipy.special import log_ndtr

Floats = NDArray[np.float64]
_LOG_ROOT_2_PI = 0.5 * np.log(2 * np.pi)
_FAR = 1e7  # beyond this a squared argument would overflow the sums it goes into
_LEAST_GAP = -1e-12


def log_below(x: Floats) -> tuple[Floats, Floats]:
    """Log of the probability that a standard normal is below x, and its slope in x."""
    x = np.clip(x, -_FAR, _FAR)
    value = log_ndtr(x)
    return value, np.exp(-0.5 * x * x - _LOG_ROOT_2_PI - value)


def log_between(low: Floats, high: Floats) -> tuple[Floats, Floats, Floats]:
    """Log of the probability that a standard normal is between low and high, and its slopes in low and in high.

    Both tails are mirrored to the left, where logs of probabilities keep their digits.

    Args:
        high: Upper ends, above the lower.
    """
    low, high = np.clip(low, -_FAR, _FAR), np.clip(high, -_FAR, _FAR)
    mirrored = low > 0
    left, right = low.copy(), high.copy()
    left[mirrored], right[mirrored] = -high[mirrored], -low[mirrored]
    log_right = log_ndtr(right)
    gap = np.minimum(log_ndtr(left) - log_right, _LEAST_GAP)
    value = log_right + np.log1p(-np.exp(gap))
    base = _LOG_ROOT_2_PI + value
    return value, -np.exp(-0.5 * low * low - base), np.exp(-0.5 * high * high - base)
