"""How far a piece of evidence lies from what all the rest foresees.

Leave-one-out by importance: particles weighted by one over the piece's own likelihood stand for the posterior without it;
the largest weights are smoothed by a generalised Pareto fit. Where that fit is too heavy, the estimate is run again without
the piece.
"""

from dataclasses import dataclass

import numpy as np
from scipy.special import ndtr, ndtri

from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.terms import Evidence, Foreseen

PULLS_FROM = 2.0  # tension from which evidence is called out
_TOO_HEAVY = 0.7  # Pareto shape above which importance weights are not to be trusted
_LEAST_TAIL = 20
_LEAST_P = 1e-12
_LEAST_SPREAD = 1e-9  # of the largest weight
_REACH, _HALVINGS = 2.5, 11  # where a mixture's ends are looked for, and how often that is halved
_EVERY = 2  # particle of a mixture is enough for its ends
_ENDS = np.array([0.05, 0.95])
_HEAVIEST = 5.0  # a shape beyond which smoothing is meaningless


@dataclass(frozen=True, slots=True)
class Tension:
    """One piece of evidence against the rest."""

    z: float
    expected_low: float
    expected_high: float
    reliable: bool


def tension_of(piece: Evidence, log_likelihood: Floats, foreseen: Foreseen) -> Tension:
    """The tension of one piece of evidence from the full posterior.

    Args:
        log_likelihood: Of the piece, per particle.
        foreseen: What each particle expects of it [particles].
    """
    weights, shape = smoothed_weights(-log_likelihood)
    return _weighed(piece, weights, foreseen, reliable=shape < _TOO_HEAVY)


def tension_without(piece: Evidence, foreseen: Foreseen) -> Tension:
    """The tension of one piece of evidence from particles that never saw it.

    Args:
        foreseen: What each particle expects of it [particles].
    """
    particles = len(foreseen.mean)
    return _weighed(piece, np.full(particles, 1.0 / particles), foreseen, reliable=True)


def smoothed_weights(log_ratios: Floats) -> tuple[Floats, float]:
    """Importance weights that sum to 1, their upper tail smoothed, and the tail's Pareto shape.

    Args:
        log_ratios: Log of the raw weights, one per particle.

    Source: Vehtari, Simpson, Gelman, Yao and Gabry, Pareto smoothed importance sampling (2024), JMLR 25(72).
    """
    ratios = np.exp(log_ratios - log_ratios.max())
    count = len(ratios)
    tail = int(min(0.2 * count, 3 * np.sqrt(count)))
    order = np.argsort(ratios)
    largest = order[-tail:]
    threshold = ratios[order[-tail - 1]] if count > tail else 0.0
    excess = ratios[largest] - threshold
    shape = -np.inf
    if tail >= _LEAST_TAIL and excess[-1] > 1e-9:
        if excess[tail // 4] < _LEAST_SPREAD * excess[-1]:
            return ratios / ratios.sum(), np.inf  # a handful of particles carry everything: no tail to fit
        shape, scale = _pareto_fit(excess)
        if shape < _HEAVIEST:
            points = (np.arange(tail) + 0.5) / tail
            smooth = scale * np.expm1(-shape * np.log1p(-points)) / shape if abs(shape) > 1e-9 else -scale * np.log1p(-points)
            ratios[largest] = np.minimum(threshold + smooth, 1.0)
    return ratios / ratios.sum(), float(shape)


def _pareto_fit(excess: Floats) -> tuple[float, float]:
    """Shape and scale of a generalised Pareto distribution, by the posterior mean over a grid.

    Source: Zhang and Stephens (2009), Technometrics 51, 316-325; shape drawn slightly to 0.5 as in Vehtari et al.
    """
    count = len(excess)
    grid = 30 + int(np.sqrt(count))
    steps = np.arange(1, grid + 1)
    theta = 1 / excess[-1] + (1 - np.sqrt(grid / (steps - 0.5))) / (3 * excess[count // 4])
    shapes = np.log1p(-theta[:, None] * excess).mean(axis=1)
    fit = count * (np.log(-theta / shapes) - shapes - 1)
    weight = np.exp(fit - fit.max())
    best = float(np.sum(theta * weight) / weight.sum())
    shape = float(np.log1p(-best * excess).mean())
    scale = -shape / best
    return (count * shape + 10 * 0.5) / (count + 10), scale


def _weighed(piece: Evidence, weights: Floats, foreseen: Foreseen, *, reliable: bool) -> Tension:
    low, high = _predictive_range(weights, foreseen)
    if piece.kind.is_figure:  # an amount is nothing or more
        low, high = max(0.0, low), max(0.0, high)
    return Tension(z=_z(piece, weights, foreseen), expected_low=low, expected_high=high, reliable=reliable)


def _z(piece: Evidence, weights: Floats, foreseen: Foreseen) -> float:
    """Two-sided tail probability of what was seen, as standard deviations; the same scale for every kind."""
    p = piece.kind.tail(piece, weights, foreseen)
    return float(-ndtri(min(max(p, _LEAST_P), 1.0) / 2))


def _predictive_range(weights: Floats, foreseen: Foreseen) -> tuple[float, float]:
    """5 % and 95 % of the mixture of what the particles expect, by bisection on its cumulative probability."""
    mean, sd, share = foreseen.mean[..., ::_EVERY], foreseen.sd[..., ::_EVERY], weights[::_EVERY]
    share = share / share.sum()
    low = np.full((2, 1), float((foreseen.mean - _REACH * foreseen.sd).min()))
    high = np.full((2, 1), float((foreseen.mean + _REACH * foreseen.sd).max()))
    for _ in range(_HALVINGS):
        middle = 0.5 * (low + high)
        below = ndtr((middle - mean) / sd) @ share < _ENDS
        low, high = np.where(below[:, None], middle, low), np.where(below[:, None], high, middle)
    return float(low[0, 0]), float(low[1, 0])
