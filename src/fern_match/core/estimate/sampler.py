"""Particles of the posterior: sequential Monte Carlo whose moves are Hamiltonian, on all particles at once.

Stage 1 goes from prior to posterior: each temperature leaves a quarter of the effective sample, then particles are resampled
and moved along the slopes of the density. Stage 2 goes on at the posterior and counts what it visits. Paths are preconditioned
by the particles' own covariance; slopes at the particles are kept from move to move.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fern_match.core.errors import Stopped
from fern_match.core.estimate.log_density import LogDensity
from fern_match.core.estimate.recipe_tree import Floats

Bools = NDArray[np.bool_]
SEED = 20261125  # one seed for everything: same input, same answer
_MOST_TEMPERATURES = 60
_KEPT_SAMPLE = 0.25  # of the effective sample, what a rise in temperature leaves
_ACCEPTED = 0.75  # of the paths: what the step is steered to
_SHRINK = 0.05  # towards independent unknowns, so that a short sample cannot make the covariance singular
_STEP, _LONGEST_STEP = 0.9, 1.2


@dataclass(frozen=True, slots=True, kw_only=True)
class Effort:
    """How much work the sampler does."""

    particles: int = 250
    climbing_steps: int = 3  # of the path at each temperature
    transitions: int = 12  # at the posterior
    steps: int = 8  # of each path there
    pooled: int = 11  # the last so many transitions count as draws, all of them


@dataclass(frozen=True, slots=True)
class Particles:
    """Draws from the posterior, the newest last."""

    unknowns: Floats  # [unknowns, particles]
    log_evidence: float


def sampled(
    density: LogDensity,
    effort: Effort,
    *,
    seed: int = SEED,
    should_stop: Callable[[], bool] = lambda: False,
    progress: Callable[[float], None] = lambda _: None,
) -> Particles:
    """Particles of the posterior.

    Args:
        seed: The same seed gives the same particles.
        should_stop: Asked at every temperature and transition.
        progress: Told the share done, 0 to 1.

    Raises:
        Stopped: should_stop said so.
    """
    run = _Run(density, effort, np.random.default_rng(seed))
    with np.errstate(over="ignore", invalid="ignore"):  # a path that runs off is refused
        log_evidence = run.temper(should_stop, progress)
        return Particles(run.wander(should_stop, progress), log_evidence)


class _Run:
    """One run of the sampler."""

    def __init__(self, density: LogDensity, effort: Effort, rng: np.random.Generator) -> None:
        self.density, self.effort, self.rng = density, effort, rng
        self.z = rng.standard_normal((density.problem.unknowns, effort.particles))
        self.here = density(self.z)
        self.step = _STEP * len(self.z) ** -0.25

    def temper(self, should_stop: Callable[[], bool], progress: Callable[[float], None]) -> float:
        """From prior to posterior; the log evidence."""
        temper, log_evidence = 0.0, 0.0
        for _ in range(_MOST_TEMPERATURES):
            if should_stop():
                raise Stopped
            rise = self._next_rise(1.0 - temper)
            weights = rise * self.here.log_evidence
            top = weights.max()
            share = np.exp(weights - top)
            log_evidence += float(top + np.log(share.mean()))
            temper += rise
            self._keep(self._systematic(share / share.sum()))
            self._move(temper, self.effort.climbing_steps)
            progress(0.6 * min(1.0, temper))
            if temper >= 1.0:
                return log_evidence
        self._keep(self._systematic(_weights((1.0 - temper) * self.here.log_evidence)))
        return log_evidence

    def wander(self, should_stop: Callable[[], bool], progress: Callable[[float], None]) -> Floats:
        """Where the last transitions at the posterior led."""
        transitions, visited = self.effort.transitions, []
        for turn in range(transitions):
            if should_stop():
                raise Stopped
            self._move(1.0, self.effort.steps)
            if turn >= transitions - self.effort.pooled:
                visited.append(self.z)
            progress(0.6 + 0.4 * (turn + 1) / transitions)
        return np.hstack(visited) if visited else self.z

    def _next_rise(self, most: float) -> float:
        """The rise in temperature that leaves the effective sample asked for, by bisection."""
        kept = _KEPT_SAMPLE * len(self.here.log_evidence)
        if _effective(most * self.here.log_evidence) >= kept:
            return most
        low, high = 0.0, most
        for _ in range(40):
            middle = 0.5 * (low + high)
            low, high = (middle, high) if _effective(middle * self.here.log_evidence) >= kept else (low, middle)
        return max(low, most * 1e-9)

    def _systematic(self, share: Floats) -> NDArray[np.intp]:
        n = len(share)
        points = (np.arange(n) + self.rng.random()) / n
        return np.minimum(np.searchsorted(np.cumsum(share), points), n - 1)

    def _keep(self, index: NDArray[np.intp]) -> None:
        self.z = self.z[:, index]
        self.here = self.here.at(index)

    def _move(self, temper: float, steps: int) -> None:
        """One path of each particle, taken or refused."""
        d, n = self.z.shape
        root = self._root_covariance()
        step = self.step * (1 + 0.2 * (2 * self.rng.random(n) - 1))
        momentum = self.rng.standard_normal((d, n))
        start = self.here.log_density(temper) - 0.5 * np.sum(momentum * momentum, axis=0)
        z, there = self.z, self.here
        for turn in range(steps + 1):
            kick = step if 0 < turn < steps else 0.5 * step
            momentum = momentum + kick * (root.T @ there.slope(temper))
            if turn < steps:
                z = z + step * (root @ momentum)
                there = self.density(z)
        end = there.log_density(temper) - 0.5 * np.sum(momentum * momentum, axis=0)
        gain = np.where(np.isfinite(end), end - start, -np.inf)
        yes = np.log(self.rng.random(n)) < gain
        self.z = np.where(yes, z, self.z)
        self.here = there.where(yes, self.here)
        self.step = min(_LONGEST_STEP, self.step * float(np.exp(0.6 * (yes.mean() - _ACCEPTED))))

    def _root_covariance(self) -> Floats:
        covariance = np.atleast_2d(np.cov(self.z))
        spread = np.diag(np.maximum(np.diag(covariance), 1e-8))
        return np.asarray(np.linalg.cholesky((1 - _SHRINK) * covariance + _SHRINK * spread))


def _weights(log_weights: Floats) -> Floats:
    share = np.exp(log_weights - log_weights.max())
    return np.asarray(share / share.sum())


def _effective(log_weights: Floats) -> float:
    share = _weights(log_weights)
    return float(1.0 / np.sum(share**2))
