"""How long adapting takes, and what the 18 pieces and the demo become under three rules.

For each: how many proposals, and the one nearest to the faithful version's sweetness and fat.
"""

import statistics
import sys
import time
from collections.abc import Sequence

from bars import pieces_of, study_of

from fern_match.core.adapt import Adapted, adapted, rules_of
from fern_match.core.estimate import Estimate, estimate
from fern_match.core.food import standard_pantry
from fern_match.core.formulate import Overview, Property, kitchen_version, overview
from fern_match.core.formulate.record.properties import amount_of
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study
from fern_match.demo import lime_quay, night_crossing, orchard_signal

RULES = ("vegan", "sugar-free", "keto")
_SWEETNESS, _FAT = 0.05, 2.0  # what the nearest proposal may differ by: relative, and g in 100 g


def faithful(study: Study) -> tuple[StudyReading, Overview] | None:
    """A study's own version, read; None where there is no estimate."""
    reading = StudyReading(study, standard_pantry())
    found = estimate(reading)
    if not isinstance(found, Estimate):
        return None
    return reading, overview(kitchen_version("faithful", found, reading), reading)


def under(asked: Sequence[str], reading: StudyReading, seen: Overview, *, explain: bool = True) -> tuple[Adapted, float]:
    """Proposals under rules, and the processor time they took [s]; with what holds them back, or as the page asks first."""
    rules = rules_of(asked, reading.study.region, reading.pantry)
    serving = reading.serving.value or seen.formula.piece_g
    start = time.process_time()
    found = adapted(
        seen.formula,
        seen.targets,
        rules,
        reading,
        serving_g=serving,
        explain=explain,
    )
    return found, time.process_time() - start


def distances(found: Adapted, reading: StudyReading, seen: Overview) -> list[tuple[float, float]]:
    """Of each proposal: relative difference in sweetness, and in fat [g in 100 g]."""
    sides = []
    for formula in (seen.formula, *(one.formula for one in found.proposals)):
        sweet, fat = (100 * amount_of(formula.layers, what, reading.pantry) for what in (Property.SWEETNESS, Property.FAT))
        sides.append((sweet / formula.piece_g, fat / formula.piece_g))
    return [(sweet / sides[0][0] - 1, fat - sides[0][1]) for sweet, fat in sides[1:]]


def main(reference_ms: float) -> None:
    """Prints the table."""
    studies = [("Night Crossing", night_crossing.study(standard_pantry())), ("Lime Quay", lime_quay.study(standard_pantry()))]
    studies.append(("Orchard Signal", orchard_signal.study_with_build(standard_pantry())))
    studies += [(piece["id"], study_of(piece, "all")) for piece in pieces_of("pieces")]
    times: list[float] = []
    counts = dict.fromkeys(RULES, 0)
    two = dict.fromkeys(RULES, 0)
    near = dict.fromkeys(RULES, 0)
    for name, study in studies:
        ready = faithful(study)
        if ready is None:
            continue
        for rule in RULES:
            found, took = under([rule], *ready)
            times.append(took)
            apart = distances(found, *ready)
            close = any(abs(sweet) <= _SWEETNESS and abs(fat) <= _FAT for sweet, fat in apart)
            counts[rule] += 1
            two[rule] += len(found.proposals) > 1
            near[rule] += close
            told = "; ".join(
                f"{one.name} {100 * sweet:+.0f} % sweet {fat:+.1f} g fat"
                for one, (sweet, fat) in zip(found.proposals, apart, strict=True)
            )
            mark = "near" if close else "    "
            print(f"  {name:16.16} {rule:11} {took:4.1f} s {mark} {told or (found.unmet and found.unmet.because)}", flush=True)
            if not close:
                for words in dict.fromkeys(words for one in found.proposals for words in one.held_back):
                    print(f"  {'':40} {words}")
    if not times:
        return
    for rule in RULES:
        print(
            f"{rule}: of {counts[rule]} pieces {two[rule]} have two proposals or more, {near[rule]} one near the faithful version"
        )
    print(
        f"adapting: {statistics.median(times):.1f} s median of processor time, {max(times):.1f} s at most, "
        f"{1000 * statistics.median(times) / reference_ms:.0f} times the reference loop"
    )
    four_layers = faithful(studies[0][1])
    if four_layers is None:
        return
    _, combined = under(["vegan", "sugar-free"], *four_layers, explain=False)
    moved = [under([f"keto:{grams}"], *four_layers, explain=False)[1] for grams in (4, 5, 6, 8)]
    print(
        f"four layers, as the page asks: vegan and sugar-free {combined:.2f} s (aim 1), "
        f"a limit moved {statistics.median(moved):.2f} s (aim 0.2)"
    )


if __name__ == "__main__":
    sys.stdout.reconfigure(line_buffering=True)  # type: ignore[union-attr]
    main(1.0)
