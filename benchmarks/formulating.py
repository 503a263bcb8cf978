"""How long solving takes, and how near the 18 pieces’ faithful versions come to their labels with what a kitchen buys.

Times are of processor time: a whole four-layer piece, one layer with a changed lock, the ways to make a layer, measuring out.
"""

import statistics
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

from bars import pieces_of, study_of

from fern_match.core.batch import batch_of
from fern_match.core.estimate import Estimate, estimate
from fern_match.core.food import standard_pantry
from fern_match.core.formulate import Room, kitchen_version, overview, solve, ways, what_holds_back
from fern_match.core.kitchen import Kitchen, read_kitchen
from fern_match.core.measures import Measures
from fern_match.core.recipe import read_line
from fern_match.core.study.reading import StudyReading
from fern_match.demo import night_crossing

ROUNDS = 9
_LINES = Path(__file__).parents[1] / "tests" / "core" / "recipe" / "lines"


def median_ms(work: Callable[[], object]) -> float:
    """Median processor time [ms]."""
    times = []
    for _ in range(ROUNDS):
        start = time.process_time()
        work()
        times.append(1000 * (time.process_time() - start))
    return statistics.median(times)


def times(reference_ms: float) -> None:
    """Solving the demo's four layers, and one of them after a lock."""
    pantry = standard_pantry()
    reading = StudyReading(night_crossing.study(pantry), pantry)
    found = estimate(reading)
    assert isinstance(found, Estimate)
    seen = overview(kitchen_version("faithful", found, reading), reading)
    free = [layer.layer_id for layer in seen.formula.layers]
    layer = seen.formula.layers[2]
    locked = replace(
        seen.formula,
        layers=tuple(
            replace(one, ingredients=(replace(one.ingredients[0], locked=True), *one.ingredients[1:])) if one is layer else one
            for one in seen.formula.layers
        ),
    )

    def solved(formula: Any, layers: list[str], *, explain: bool) -> Callable[[], object]:
        room = Room(free=layers, widened=True, explain=explain)
        return lambda: solve(formula, seen.targets, room, reading)

    kitchen = read_kitchen(Kitchen(measures=Measures.US))

    def measured(*, by_spoons: bool) -> Callable[[], object]:
        return lambda: batch_of(seen, 24, {}, reading, kitchen, by_spoons=by_spoons)

    rows = [
        ("from an estimate to a kitchen's version, four layers", lambda: kitchen_version("faithful", found, reading)),
        ("four layers solved", solved(seen.formula, free, explain=False)),
        ("four layers solved, with what holds back", lambda: what_holds_back(seen, reading)),
        ("one layer solved after a changed lock", solved(locked, [layer.layer_id], explain=False)),
        ("a version read from all sides", lambda: overview(seen.version, reading)),
        (
            "other ways to make a layer",
            lambda: ways(seen.formula, layer.layer_id, seen.targets, reading),
        ),
        ("24 pieces measured by the scale", measured(by_spoons=False)),
        ("24 pieces measured by spoons", measured(by_spoons=True)),
    ]
    for title, work in rows:
        took = median_ms(work)
        print(f"{title}: {took:.0f} ms median, {took / reference_ms:.2f} times the reference loop")
    text = (_LINES / "held.txt").read_text(encoding="utf-8").splitlines()
    lines = [row.split(" | ")[1] for row in text if not row.startswith("#")]
    took = median_ms(lambda: [read_line(line, pantry, measures=Measures.US) for line in lines]) / len(lines)
    print(f"a recipe line: {took:.2f} ms median")


def labels() -> None:
    """Of each piece with its layers given: declared rows that its kitchen version prints, targets it reaches."""
    rows_reached = rows_declared = targets_reached = targets = pieces = 0
    for piece in pieces_of("pieces"):
        study = study_of(piece, "all")
        reading = StudyReading(study, standard_pantry())
        found = estimate(reading)
        if not isinstance(found, Estimate):
            continue
        seen = overview(kitchen_version("faithful", found, reading), reading)
        declared = [row for row in seen.rows if row.reached is not None]
        pieces += 1
        rows_declared += len(declared)
        rows_reached += sum(bool(row.reached) for row in declared)
        targets += len(seen.targets)
        targets_reached += sum(target.reached for target in seen.targets)
    if pieces:
        print(
            f"{pieces} pieces: {rows_reached} of {rows_declared} declared rows as printed, "
            f"{targets_reached} of {targets} targets reached"
        )


def main(reference_ms: float) -> None:
    """Prints everything."""
    times(reference_ms)
    labels()


if __name__ == "__main__":
    main(1.0)
