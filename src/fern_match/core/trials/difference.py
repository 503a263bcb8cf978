"""Two things measured, and whether readings can tell them apart.

Worked example: five originals weigh 42.0 g with a spread of 0.4, five copies 43.0 with 0.6: the difference is 1.0 g with a
standard error of sqrt(0.16/5 + 0.36/5) = 0.322 and 6.97 degrees of freedom, so 0.39 to 1.61 g: the readings tell it. A difference
of 1 g would be found by such readings in 87 of 100 trials.
"""

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.optimize import brentq
from scipy.special import chdtri, ndtr, stdtrit

from fern_match.core.errors import check_range

SURE = 0.90  # of ranges; a difference that is none is told in one of ten
FOUND = 0.90  # how often the difference that is said to be found is found
_ENOUGH = 4  # readings from which their own spread is all there is to their error
_AS_MANY = 3.0  # readings that the usual spread counts for beside fewer
_NORMAL_FROM = 1000.0  # degrees of freedom: from there it is the normal distribution
_MANY = 1e6  # degrees of freedom of what is known from elsewhere


@dataclass(frozen=True, slots=True)
class Known:
    """A value with what is known of its error."""

    value: float
    error: float  # one standard error, above 0
    freedom: float = _MANY  # degrees of freedom behind that error

    @property
    def low(self) -> float:
        """Where its 90 % range begins."""
        return self.value - _wide(self.freedom) * self.error

    @property
    def high(self) -> float:
        """Where its 90 % range ends."""
        return self.value + _wide(self.freedom) * self.error


@dataclass(frozen=True, slots=True)
class Difference:
    """Of a copy to its original, with its 90 % range."""

    value: float
    error: float
    freedom: float

    @property
    def low(self) -> float:
        """Where its 90 % range begins."""
        return self.value - _wide(self.freedom) * self.error

    @property
    def high(self) -> float:
        """Where its 90 % range ends."""
        return self.value + _wide(self.freedom) * self.error

    @property
    def is_told(self) -> bool:
        """Whether the readings can tell that there is one."""
        return self.low > 0 or self.high < 0

    @property
    def finds(self) -> float:
        """The difference that such readings find nine times in ten."""
        return self.error * _errors_found(round(min(self.freedom, _NORMAL_FROM), 1)) if self.error > 0 else 0.0


def mean_of(readings: Sequence[float], usual_spread: float, step: float) -> Known | None:
    """The mean of several readings; None without any.

    From four readings their own spread says how sure it is; of fewer, theirs and the usual one, which counts for three.

    Args:
        readings: In one unit.
        usual_spread: Standard deviation from one reading to the next where nobody knows, above 0.
        step: The smallest step of what it is read with, 0 or more.

    Raises:
        OutOfRange: usual_spread is not above 0.
    """
    if not readings:
        return None
    check_range("usual_spread", usual_spread, 1e-12, 1e9)
    many = len(readings)
    own = statistics.variance(readings) if many > 1 else 0.0
    if many < _ENOUGH:
        freedom = _AS_MANY + many - 1
        own = (_AS_MANY * usual_spread**2 + (many - 1) * own) / freedom
    else:
        freedom = many - 1.0
    variance = max(own, step**2 / 12)
    return Known(statistics.fmean(readings), math.sqrt(variance / many), freedom)


def difference(original: Known, copy: Known) -> Difference:
    """The copy less the original.

    Args:
        original: As measured or estimated.
        copy: As measured or worked out.

    Source: Welch (1947), with the degrees of freedom of Satterthwaite (1946).
    """
    first, second = original.error**2, copy.error**2
    total = first + second
    if total <= 0:
        return Difference(copy.value - original.value, 0.0, _MANY)
    freedom = total**2 / (first**2 / original.freedom + second**2 / copy.freedom)
    return Difference(copy.value - original.value, math.sqrt(total), freedom)


def chance_to_find(by: float, error: float, freedom: float) -> float:
    """How often readings tell that there is a difference where there is one.

    Args:
        by: The true difference.
        error: Standard error of the difference, above 0, in the same unit.
        freedom: Degrees of freedom behind it, above 0.

    Raises:
        OutOfRange: error or freedom is not above 0.
    """
    check_range("error", error, 1e-12, 1e9)
    check_range("freedom", freedom, 1e-6, 1e12)
    return _told_at(by / error, _wide(freedom), freedom)


@lru_cache(maxsize=4096)
def _errors_found(freedom: float) -> float:
    """How many standard errors a difference has that is found nine times in ten."""
    reach = _wide(freedom)
    return float(brentq(lambda by: _told_at(by, reach, freedom) - FOUND, reach, 60 * reach))


def _wide(freedom: float) -> float:
    return float(stdtrit(min(freedom, _MANY), (1 + SURE) / 2))


def _told_at(by: float, reach: float, freedom: float) -> float:
    """How often a difference of so many errors is told: over what the readings' own spread may turn out to be."""
    spread = np.sqrt(chdtri(freedom, 1 - _SHARES) / freedom) if freedom < _MANY else np.ones(1)
    return float(np.mean(ndtr(by - reach * spread) + ndtr(-by - reach * spread)))


_SHARES = (np.arange(400) + 0.5) / 400
