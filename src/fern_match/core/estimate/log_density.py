"""The whole log density: prior, role windows, moisture, and every term of evidence, with one analytic gradient."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fern_match.core.estimate.problem import Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.state import Pull, State, gradient, no_pull, state_of
from fern_match.core.estimate.terms import Evidence, Term

_MOISTURE_SOFT = 0.15  # of the window's width, how fast leaving it becomes unlikely
_MOISTURE_LEAST_SD = 0.002


@dataclass(frozen=True, slots=True)
class Evaluation:
    """The density at every particle, with its slopes."""

    log_prior: Floats  # [particles]
    log_evidence: Floats  # evidence and limits together; what tempering scales
    by_prior: Floats  # gradients [unknowns, particles]
    by_evidence: Floats

    def log_density(self, temper: float) -> Floats:
        """Prior and tempered evidence.

        Args:
            temper: 0 for the prior, 1 for the posterior.
        """
        return self.log_prior + temper * self.log_evidence

    def slope(self, temper: float) -> Floats:
        """The gradient of the same [unknowns, particles]."""
        return self.by_prior + temper * self.by_evidence

    def at(self, index: NDArray[np.intp]) -> "Evaluation":
        """Of some of the particles."""
        return Evaluation(self.log_prior[index], self.log_evidence[index], self.by_prior[:, index], self.by_evidence[:, index])

    def where(self, yes: NDArray[np.bool_], other: "Evaluation") -> "Evaluation":
        """This one for some particles, another for the rest."""
        return Evaluation(
            np.where(yes, self.log_prior, other.log_prior),
            np.where(yes, self.log_evidence, other.log_evidence),
            np.where(yes, self.by_prior, other.by_prior),
            np.where(yes, self.by_evidence, other.by_evidence),
        )


class LogDensity:
    """What is believed of unknowns, given the evidence."""

    def __init__(self, problem: Problem, terms: tuple[Term, ...]) -> None:
        """A density."""
        self.problem = problem
        self.terms = terms
        low, high = problem.moisture[:, :1], problem.moisture[:, 1:]
        self._moisture_sd = np.maximum(_MOISTURE_SOFT * (high - low), _MOISTURE_LEAST_SD)

    @property
    def evidence(self) -> tuple[Evidence, ...]:
        """Every piece of evidence, in the order of the rows of `by_evidence`."""
        return tuple(piece for term in self.terms for piece in term.evidence)

    def __call__(self, unknowns: Floats) -> Evaluation:
        """The density at every particle.

        Args:
            unknowns: [unknowns, particles].
        """
        state = state_of(self.problem, unknowns)
        pull = no_pull(self.problem, unknowns.shape[1])
        total, by_role = self.problem.tree.window_penalty(state.shares)
        total = total + self._moisture_penalty(state, pull)
        for term in self.terms:
            total = total + term.log_likelihood(state, pull).sum(axis=0)
        prior = -0.5 * np.sum(unknowns * unknowns, axis=0)
        return Evaluation(prior, total, -unknowns, gradient(self.problem, state, pull, by_role))

    def by_evidence(self, state: State) -> Floats:
        """Log-likelihood of each piece of evidence [pieces, particles]."""
        columns = [term.log_likelihood(state, None) for term in self.terms]
        return np.concatenate(columns) if columns else np.zeros((0, len(state.mass_g)))

    def _moisture_penalty(self, state: State, pull: Pull) -> Floats:
        low, high = self.problem.moisture[:, :1], self.problem.moisture[:, 1:]
        off = np.maximum(state.moisture - high, 0) - np.maximum(low - state.moisture, 0)
        scaled = off / self._moisture_sd
        pull.moisture -= scaled / self._moisture_sd
        penalty: Floats = -0.5 * np.sum(scaled * scaled, axis=0)
        return penalty
