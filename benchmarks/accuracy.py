"""Accuracy and coverage of the estimator on the bench's bars: none, two and all layers weighed.

Run with `make bench`, or `python benchmarks/accuracy.py [none|two|all] [bar id]`.
"""

import sys
import time
from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from bars import bench_bars, study_of

from fern_match.core.estimate import Estimate, estimate
from fern_match.core.food import standard_pantry
from fern_match.core.study.reading import StudyReading

_SHOWN_INGREDIENT_G = 0.05  # smaller amounts are counted for coverage, too, but not for error


@dataclass
class Score:
    """Errors and coverage over bars."""

    layer_error: list[float] = field(default_factory=list)  # g per 100 g
    layer_hit: list[bool] = field(default_factory=list)
    ingredient_hit: list[bool] = field(default_factory=list)
    seconds: list[float] = field(default_factory=list)

    def line(self, weighed: str) -> str:
        """One printed row."""
        return (
            f"{weighed:>5} weighed: layer error {np.mean(self.layer_error):.2f} g per 100 g, 90 % ranges hold "
            f"{100 * np.mean(self.layer_hit):.0f} % of layers and {100 * np.mean(self.ingredient_hit):.0f} % of ingredients; "
            f"{1000 * np.median(self.seconds):.0f} ms median over {len(self.seconds)} bars"
        )


def scored(bar: dict[str, Any], weighed: str, score: Score) -> str:
    """Estimates one bar and adds to the score; a line about it."""
    reading = StudyReading(study_of(bar, weighed), standard_pantry())
    start = time.perf_counter()
    result = estimate(reading)
    score.seconds.append(time.perf_counter() - start)
    if not isinstance(result, Estimate):
        return f"{bar['id']}: no estimate: {' '.join(result.sentences)}"
    errors = []
    piece = bar["truth"]["piece_g"]
    for layer, truth in zip(result.layers, bar["truth"]["layers"], strict=True):
        share = 100 * truth["share"]
        errors.append(abs(100 * layer.share.best - share))
        score.layer_hit.append(100 * layer.share.low <= share <= 100 * layer.share.high)
        found: dict[str, list[Any]] = {}
        for amount in layer.ingredients:
            found.setdefault(amount.ingredient_id, []).append(amount.grams)
        for ingredient, grams in truth["ingredients_g"].items():
            if ingredient == "water" or grams / piece < _SHOWN_INGREDIENT_G / 100:
                continue
            ranges = found.get(ingredient, [])
            score.ingredient_hit.append(bool(ranges) and sum(r.low for r in ranges) <= grams <= sum(r.high for r in ranges))
    score.layer_error += errors
    shares = [
        f"{layer.name} {100 * layer.share.best:.1f} ({100 * layer.share.low:.1f}-{100 * layer.share.high:.1f})"
        f" is {100 * t['share']:.1f}"
        for layer, t in zip(result.layers, bar["truth"]["layers"], strict=True)
    ]
    return f"{bar['id']} {weighed:>4} {score.seconds[-1]:.2f} s  " + "  ".join(shares)


def main(arguments: Iterable[str]) -> None:
    """Prints one line per setting, and per bar where one is named or `-v` is given."""
    words = list(arguments)
    settings = [word for word in words if word in {"none", "two", "all"}] or ["none", "two", "all"]
    chosen = [word for word in words if word.startswith("hb-")]
    for weighed in settings:
        score = Score()
        for bar in bench_bars():
            if not chosen or bar["id"] in chosen:
                line = scored(bar, weighed, score)
                if chosen or "-v" in words:
                    print(line, flush=True)
        print(score.line(weighed), flush=True)


if __name__ == "__main__":
    main(sys.argv[1:])
