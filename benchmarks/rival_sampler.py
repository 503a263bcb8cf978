"""The sampler beside a general one (emcee's ensemble of walkers) on the same density: how near the means come in which time.

Run with `python benchmarks/rival_sampler.py`. The error is that of the layers' mean masses against a long run, in standard
deviations of the posterior, over several seeds. The walkers begin where the prior puts them, as our particles do, and are
given ten times our time.
"""

import time

import emcee  # type: ignore[import-untyped]
import numpy as np
from numpy.typing import NDArray

from fern_match.core.estimate.estimator import Sampled, sampled_study
from fern_match.core.estimate.log_density import LogDensity
from fern_match.core.estimate.sampler import Effort, sampled
from fern_match.core.estimate.state import state_of
from fern_match.core.food import standard_pantry
from fern_match.core.study.reading import StudyReading
from fern_match.demo import night_crossing

_SEEDS, _LONG = 4, Effort(particles=1500, transitions=24, pooled=20)
_TIMES_OURS = 10

Array = NDArray[np.float64]


def main() -> None:
    """Prints both."""
    reading = StudyReading(night_crossing.study(standard_pantry()), standard_pantry())
    run = sampled_study(reading, Effort())
    assert isinstance(run, Sampled)
    long = masses(run.density, sampled(run.density, _LONG, seed=99).unknowns)
    ours, seconds = [], 0.0
    for seed in range(_SEEDS):
        start = time.process_time()
        found = sampled(run.density, Effort(), seed=seed)
        seconds += (time.process_time() - start) / _SEEDS
        ours.append(error(masses(run.density, found.unknowns), long))
    walked = [error(masses(run.density, walk(run.density, _TIMES_OURS * seconds, seed)), long) for seed in range(_SEEDS)]
    print(
        f"layer means of the demo, {run.density.problem.unknowns} unknowns: "
        f"ours off by {np.mean(ours):.2f} sd after {seconds:.2f} s, "
        f"a general ensemble sampler by {np.mean(walked):.2f} sd after {_TIMES_OURS * seconds:.1f} s"
    )


def masses(density: LogDensity, unknowns: Array) -> Array:
    """Masses of the layers [layers, draws]."""
    state = state_of(density.problem, unknowns)
    return np.asarray(state.layer_share * state.mass_g)


def error(draws: Array, long: Array) -> float:
    """How far the means of draws are from a long run's, in its standard deviations."""
    return float(np.sqrt(np.mean(((draws.mean(axis=1) - long.mean(axis=1)) / long.std(axis=1)) ** 2)))


def walk(density: LogDensity, seconds: float, seed: int) -> Array:
    """Draws of the ensemble after so much processor time, the first half thrown away [unknowns, draws]."""
    unknowns = density.problem.unknowns
    walkers = 4 * unknowns
    ensemble = emcee.EnsembleSampler(
        walkers, unknowns, lambda points: density(np.ascontiguousarray(points.T)).log_density(1.0), vectorize=True
    )
    chance = np.random.default_rng(seed)
    begin = time.process_time()
    np.random.seed(seed)  # the library draws from the global state
    for _ in ensemble.sample(chance.standard_normal((walkers, unknowns)), iterations=100_000):
        if time.process_time() - begin > seconds:
            break
    chain = ensemble.get_chain()
    return np.asarray(chain[len(chain) // 2 :].reshape(-1, unknowns).T)


if __name__ == "__main__":
    main()
