"""All benchmarks in one run: accuracy, coverage, and times beside a fixed reference loop, so that machines compare."""

import time
from collections.abc import Callable

import accuracy
import adapting
import formulating
import mistakes
import numpy as np
import rival_sampler
import saving
import seams
from bars import pieces_of, study_of

from fern_match.core.estimate import estimate
from fern_match.core.food import standard_pantry
from fern_match.core.label.statement import read_statement
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
    return median_s(lambda: estimate(reading))


def largest_estimate_s() -> tuple[int, int, float]:
    """Layers, names and median time of the bench's bar with the most names."""
    readings = [StudyReading(study_of(bar, "two"), standard_pantry()) for bar in pieces_of("bars")]
    largest = max(readings, key=lambda reading: (len(reading.build), len(reading.ingredient_of)))
    return len(largest.build), len(largest.ingredient_of), median_s(lambda: estimate(largest))


def statement_s(signs: int = 3000) -> float:
    """Median time of reading a statement of so many signs."""
    text = (study_of(pieces_of("bars")[0], "none").statement.rstrip(".") + ", ") * 20
    return median_s(lambda: read_statement(text[:signs]))


def median_s(work: Callable[[], object]) -> float:
    """Median processor time of several runs."""
    times = []
    for _ in range(_ROUNDS):
        start = time.process_time()
        work()
        times.append(time.process_time() - start)
    return float(np.median(times))


def main() -> None:
    """Prints everything."""
    reference, demo = reference_loop_s(), demo_estimate_s()
    print(
        f"demo estimate: {1000 * demo:.0f} ms median, {demo / reference:.1f} times the reference loop ({1000 * reference:.0f} ms)"
    )
    layers, names, largest = largest_estimate_s()
    print(f"{layers} layers, {names} names: {1000 * largest:.0f} ms median, {largest / reference:.1f} times the reference loop")
    statement = statement_s()
    print(f"a statement of 3,000 signs: {1000 * statement:.0f} ms median, {statement / reference:.1f} times the reference loop")
    for times in saving.save_times():
        print(times.line(1000 * reference))
    seams.main(1000 * reference)
    formulating.main(1000 * reference)
    adapting.main(1000 * reference)
    rival_sampler.main()
    accuracy.main([])
    mistakes.main([])


if __name__ == "__main__":
    main()
