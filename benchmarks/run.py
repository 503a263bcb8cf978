"""All benchmarks in one run: accuracy, coverage, and times beside a fixed reference loop, so that machines compare."""

import time

import accuracy
import numpy as np
import saving

from fern_match.core.estimate import estimate
from fern_match.core.food import standard_pantry
from fern_match.core.study.reading import StudyReading
from fern_match.demo import night_crossing

_ROUNDS = 7


def reference_loop_s() -> float:
    """A fixed piece of array work; the best of several runs."""
    values = np.random.default_rng(1).standard_normal((50, 1000))
    best = float("inf")
    for _ in range(_ROUNDS):
        start = time.perf_counter()
        for _ in range(200):
            np.exp(-0.5 * values * values) @ values.T
        best = min(best, time.perf_counter() - start)
    return best


def demo_estimate_s() -> float:
    """Median time of the demo's estimate: four layers, 21 ingredient names."""
    reading = StudyReading(night_crossing.study(standard_pantry()), standard_pantry())
    times = []
    for _ in range(_ROUNDS):
        start = time.perf_counter()
        estimate(reading)
        times.append(time.perf_counter() - start)
    return float(np.median(times))


def main() -> None:
    """Prints everything."""
    reference, demo = reference_loop_s(), demo_estimate_s()
    print(
        f"demo estimate: {1000 * demo:.0f} ms median, {demo / reference:.1f} times the reference loop ({1000 * reference:.0f} ms)"
    )
    for times in saving.save_times():
        print(times.line(1000 * reference))
    accuracy.main([])


if __name__ == "__main__":
    main()
