"""Particles of the posterior: tempering finds the region, Hamiltonian moves on every particle fill it.

Stage 1 is sequential Monte Carlo from prior to posterior: each temperature halves the effective sample, then particles are
resampled and moved by a random walk, by differential evolution and by switching ingredients on and off. Stage 2 is
Hamiltonian Monte Carlo on all particles at once, preconditioned by their covariance, with switches in between.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fern_match.core.estimate.log_density import Evaluation, LogDensity
from fern_match.core.estimate.recipe_tree import Floats, Switches

Bools = NDArray[np.bool_]
SEED = 20261125  # one seed for everything: same input, same answer
_MOST_TEMPERATURES = 60
_ACCEPT_WALK, _ACCEPT_HAMILTON = 0.25, 0.75
_SHRINK = 0.05  # towards independent unknowns, so that a short sample cannot make the covariance singular


@dataclass(frozen=True, slots=True, kw_only=True)
class Effort:
    """How much work the sampler does."""

    particles: int = 400
    transitions: int = 7
    steps: int = 8
    walks: int = 2
    pooled: int = 4  # the last so many transitions count as draws, all of them


@dataclass(frozen=True, slots=True)
class Particles:
    """Draws from the posterior, the newest last."""

    unknowns: Floats  # [unknowns, particles]
    switches: Switches
    log_evidence: float


class Stopped(Exception):
    """The caller asked to stop."""


@dataclass(slots=True)
class _Cloud:
    """Particles on their way, with the density where they are."""

    z: Floats
    switches: Switches
    log_prior: Floats
    log_evidence: Floats

    def accept(self, yes: Bools, z: Floats, there: Evaluation) -> None:
        self.z = np.where(yes, z, self.z)
        self.log_prior = np.where(yes, there.log_prior, self.log_prior)
        self.log_evidence = np.where(yes, there.log_evidence, self.log_evidence)


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
    log_evidence = run.temper(should_stop, progress)
    unknowns, on = run.hamilton(should_stop, progress)
    return Particles(unknowns, run.tree.switches(on), log_evidence)


class _Run:
    """One run of the sampler."""

    def __init__(self, density: LogDensity, effort: Effort, rng: np.random.Generator) -> None:
        self.density, self.effort, self.rng = density, effort, rng
        self.problem = density.problem
        self.maybe = np.array([index for index, part in enumerate(self.problem.parts) if part.maybe], dtype=np.intp)
        self.required = self._required_matrix()
        self.tree = self.problem.tree
        z = rng.standard_normal((self.problem.unknowns, effort.particles))
        self.walk_scale, self.step = 2.38 / np.sqrt(len(z)), 0.9 * len(z) ** -0.25
        switches = self.tree.switches(self._first_switches(effort.particles))
        first = density(z, switches, with_gradient=False)
        self.cloud = _Cloud(z, switches, first.log_prior, first.log_evidence)

    # --- on and off --------------------------------------------------------------------------------------------------

    def _required_matrix(self) -> Floats:
        """Sets of parts of which one must be present; sets with a certain member need no watching."""
        sets = [group for group in self.problem.required if group and all(self.problem.parts[part].maybe for part in group)]
        matrix = np.zeros((len(sets), len(self.problem.parts)))
        for row, group in enumerate(sets):
            matrix[row, list(group)] = 1.0
        return matrix

    def _valid(self, on: Floats) -> Bools:
        return np.asarray(((self.required @ on) > 0).all(axis=0))

    def _first_switches(self, particles: int) -> Floats:
        """Even odds for each maybe, given that every required set keeps a member."""
        on = np.ones((len(self.problem.parts), particles))
        if not len(self.maybe):
            return on
        bad = np.arange(particles)
        for _ in range(200):
            on[np.ix_(self.maybe, bad)] = self.rng.integers(0, 2, (len(self.maybe), len(bad)))
            bad = np.flatnonzero(~self._valid(on))
            if not len(bad):
                return on
        for particle in bad:  # rare: too many sets at once; put one member of each back
            for row in self.required:
                members = np.flatnonzero(row)
                if not on[members, particle].any():
                    on[self.rng.choice(members), particle] = 1.0
        return on

    def _switch(self, temper: float) -> None:
        """Propose one ingredient on or off, or moved between two of its layers, in every particle."""
        if not len(self.maybe):
            return
        cloud, n = self.cloud, self.cloud.z.shape[1]
        on = cloud.switches.on.copy()
        columns = np.arange(n)
        first = self.rng.choice(self.maybe, n)
        second = self.rng.choice(self.maybe, n)
        swap = (self.rng.random(n) < 0.5) & (on[first, columns] != on[second, columns])
        on[first, columns] = 1 - on[first, columns]
        on[second[swap], columns[swap]] = 1 - on[second[swap], columns[swap]]
        valid = self._valid(on)
        on = np.where(valid, on, cloud.switches.on)
        there = self.density(cloud.z, self.tree.switches(on), with_gradient=False)
        gain = temper * (there.log_evidence - cloud.log_evidence)
        yes = valid & (np.log(self.rng.random(n)) < gain)
        cloud.accept(yes, cloud.z, there)
        cloud.switches = self.tree.switches(np.where(yes, on, cloud.switches.on))

    # --- stage 1 ------------------------------------------------------------------------------------------------------

    def temper(self, should_stop: Callable[[], bool], progress: Callable[[float], None]) -> float:
        """From prior to posterior; the log evidence."""
        temper, log_evidence = 0.0, 0.0
        for _ in range(_MOST_TEMPERATURES):
            if should_stop():
                raise Stopped
            step = self._next_step(1.0 - temper)
            weights = step * self.cloud.log_evidence
            top = weights.max()
            share = np.exp(weights - top)
            log_evidence += float(top + np.log(share.mean()))
            temper += step
            self._keep(self._systematic(share / share.sum()))
            self._walk(temper)
            progress(0.5 * min(1.0, temper))
            if temper >= 1.0:
                return log_evidence
        self._keep(self._systematic(_weights((1.0 - temper) * self.cloud.log_evidence)))
        return log_evidence

    def _keep(self, index: NDArray[np.intp]) -> None:
        cloud = self.cloud
        cloud.z, cloud.switches = cloud.z[:, index], self.tree.switches(cloud.switches.on[:, index])
        cloud.log_prior, cloud.log_evidence = cloud.log_prior[index], cloud.log_evidence[index]

    def _next_step(self, most: float) -> float:
        """The rise in temperature that halves the effective sample, by bisection."""
        half = 0.5 * len(self.cloud.log_evidence)
        if _effective(most * self.cloud.log_evidence) >= half:
            return most
        low, high = 0.0, most
        for _ in range(40):
            middle = 0.5 * (low + high)
            low, high = (middle, high) if _effective(middle * self.cloud.log_evidence) >= half else (low, middle)
        return max(low, most * 1e-9)

    def _systematic(self, share: Floats) -> NDArray[np.intp]:
        n = len(share)
        points = (np.arange(n) + self.rng.random()) / n
        return np.minimum(np.searchsorted(np.cumsum(share), points), n - 1)

    def _walk(self, temper: float) -> None:
        cloud = self.cloud
        d, n = cloud.z.shape
        root = self._root_covariance()
        for turn in range(self.effort.walks):
            if turn % 2 == 0:
                jump = self.walk_scale * (root @ self.rng.standard_normal((d, n)))
            else:
                a, b = self.rng.permutation(n), self.rng.permutation(n)
                jump = self.walk_scale / np.sqrt(2) * (cloud.z[:, a] - cloud.z[:, b]) + 1e-4 * self.rng.standard_normal((d, n))
            there = self.density(cloud.z + jump, cloud.switches, with_gradient=False)
            gain = there.log_density(temper) - cloud.log_prior - temper * cloud.log_evidence
            yes = np.log(self.rng.random(n)) < gain
            cloud.accept(yes, cloud.z + jump, there)
            self.walk_scale *= np.exp(0.8 * (yes.mean() - _ACCEPT_WALK))
            self._switch(temper)

    def _root_covariance(self) -> Floats:
        covariance = np.atleast_2d(np.cov(self.cloud.z))
        spread = np.diag(np.maximum(np.diag(covariance), 1e-8))
        return np.asarray(np.linalg.cholesky((1 - _SHRINK) * covariance + _SHRINK * spread))

    # --- stage 2 ------------------------------------------------------------------------------------------------------

    def hamilton(self, should_stop: Callable[[], bool], progress: Callable[[float], None]) -> tuple[Floats, Floats]:
        """Hamiltonian moves on every particle at the posterior; where the last of them led, and what was present there."""
        transitions = self.effort.transitions
        visited: list[tuple[Floats, Floats]] = []
        for turn in range(transitions):
            if should_stop():
                raise Stopped
            with np.errstate(over="ignore", invalid="ignore"):  # a path that runs off is refused below
                self._transition()
            for _ in range(2):
                self._switch(1.0)
            if turn >= transitions - self.effort.pooled:
                visited.append((self.cloud.z, self.cloud.switches.on))
            progress(0.5 + 0.5 * (turn + 1) / transitions)
        return np.hstack([z for z, _ in visited]), np.hstack([on for _, on in visited])

    def _transition(self) -> None:
        cloud, rng = self.cloud, self.rng
        d, n = cloud.z.shape
        root = self._root_covariance()
        step = self.step * (1 + 0.2 * (2 * rng.random(n) - 1))
        momentum = rng.standard_normal((d, n))
        start = cloud.log_prior + cloud.log_evidence - 0.5 * np.sum(momentum * momentum, axis=0)
        z = cloud.z
        there = self.density(z, cloud.switches)
        for turn in range(self.effort.steps + 1):
            kick = step if 0 < turn < self.effort.steps else 0.5 * step
            momentum = momentum + kick * (root.T @ _slope(there))
            if turn < self.effort.steps:
                z = z + step * (root @ momentum)
                there = self.density(z, cloud.switches)
        end = there.log_density(1.0) - 0.5 * np.sum(momentum * momentum, axis=0)
        gain = np.where(np.isfinite(end), end - start, -np.inf)
        yes = np.log(rng.random(n)) < gain
        cloud.accept(yes, z, there)
        self.step *= float(np.exp(0.6 * (yes.mean() - _ACCEPT_HAMILTON)))


def _slope(there: Evaluation) -> Floats:
    assert there.by_prior is not None
    assert there.by_evidence is not None
    return there.by_prior + there.by_evidence


def _weights(log_weights: Floats) -> Floats:
    share = np.exp(log_weights - log_weights.max())
    return np.asarray(share / share.sum())


def _effective(log_weights: Floats) -> float:
    share = _weights(log_weights)
    return float(1.0 / np.sum(share**2))
