"""Mistakes made on purpose, on made-up pieces with known truth: what the page says then, and whether it names the true cause.

Run with `python benchmarks/mistakes.py [set] [count] [held] [-v]`. Each piece gets, by turns, one weighing that is wrong by
1.4, a bracket misread, a wrong family and a wrong row of the pantry, with two layers weighed. Then the pantry itself is off:
every figure of every ingredient by 2, 6 or 10 %.
"""

import random
import sys
import time
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from accuracy import Score, scored_study
from bars import half, pieces_of, study_of

from fern_match.core.estimate import Estimate, estimate
from fern_match.core.estimate.causes import CauseKind, likely_causes
from fern_match.core.estimate.result import Fit
from fern_match.core.families.admission import alike
from fern_match.core.food import Pantry, standard_pantry
from fern_match.core.food.nutrients import Nutrient
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import PIECE, Meaning, Study

_WRONG_BY = 1.4
_SPREADS = (0.02, 0.06, 0.10)
_MISTAKEN = {  # a family that someone could take for it, of another make
    "soft-caramel": "marzipan",
    "nougat-egg-white": "coconut-filling",
    "short-base": "plain-fondant",
    "whole-nuts": "whole-fruit",
    "nut-paste-praline": "ganache-dark",
    "wafer-sheet": "marshmallow",
    "milk-coat": "compound-milk-coat",
    "ganache-dark": "plain-fondant",
    "peanut-filling": "plain-fondant",
    "brittle": "marshmallow",
    "crisp-in-chocolate": "nut-paste-praline",
    "marshmallow": "short-base",
    "coconut-filling": "soft-caramel",
    "plain-fondant": "soft-caramel",
    "fruit-jelly": "short-base",
    "crumb-base": "soft-caramel",
}
_FOODS = frozenset({"dairy", "cocoa", "syrup", "fat", "sugar", "nut", "flour-starch"})


@dataclass(frozen=True, slots=True)
class Mistake:
    """A study with one thing wrong in it, and what that is."""

    kind: CauseKind
    subject: str
    study: Study


@dataclass(frozen=True, slots=True)
class Seen:
    """What the page says of a mistake."""

    kind: CauseKind
    fit: Fit
    place: int  # of the true cause among those named, from 0; -1 where it is not
    unsaid: bool  # a layer far off outside its range, and nothing said
    seconds: float  # of looking for causes
    line: str


def mistakes(bar: dict[str, Any]) -> Iterator[Mistake]:
    """One of each kind that a piece allows, the same at each run."""
    right, chance = study_of(bar, "two"), random.Random(bar["id"])
    reading = StudyReading(right, standard_pantry())
    layers = [one.subject for one in right.readings if one.subject != PIECE]
    if layers:
        layer = chance.choice(layers)
        readings = tuple(
            replace(one, typed=f"{_WRONG_BY * float(one.typed):.2f}") if one.subject == layer else one for one in right.readings
        )
        yield Mistake(CauseKind.FIGURE, f"weighing:{layer}", replace(right, readings=readings))
    if reading.brackets:
        bracket = chance.choice(reading.brackets)
        other = [one for one in Meaning if one is not bracket.meaning and bracket.odds.get(one, 0.0) > 0]
        if other:
            meaning = Meaning.LAYER if bracket.meaning is Meaning.INGREDIENT else chance.choice(other)
            yield Mistake(CauseKind.MEANING, bracket.item, replace(right, meanings={bracket.item: meaning}))
    told = [one for one in right.layers if one.family in _MISTAKEN]
    if told:
        wrong = chance.choice(told)
        build = tuple(replace(one, family=_MISTAKEN[one.family]) if one is wrong else one for one in right.layers)
        yield Mistake(CauseKind.FAMILY, wrong.id, replace(right, layers=build))
    yield from _wrong_match(right, reading, chance)


def _wrong_match(right: Study, reading: StudyReading, chance: random.Random) -> Iterator[Mistake]:
    pantry = reading.pantry
    named = [
        (item, pantry[food])
        for item, food in reading.ingredient_of.items()
        if len(alike(food)) > 1 and pantry[food].category in _FOODS
    ][:4]
    if named:
        item, food = chance.choice(named)
        stranger = chance.choice([one.id for one in pantry.all() if one.category in _FOODS - {food.category}])
        yield Mistake(CauseKind.MATCH, item, replace(right, corrections={item: stranger}))


def seen_of(bar: dict[str, Any]) -> list[Seen]:
    """What the page says of each mistake on a piece."""
    found = []
    for mistake in mistakes(bar):
        reading = StudyReading(mistake.study, standard_pantry())
        result = estimate(reading)
        if not isinstance(result, Estimate):
            continue
        start = time.process_time()
        causes = likely_causes(reading, result) if result.fit is not Fit.FITS else ()
        seconds = time.process_time() - start
        named = [(one.kind, one.subject) for one in causes]
        true = (mistake.kind, mistake.subject)
        score, _ = scored_study(bar, reading, result)
        first = f"{causes[0].title} ({causes[0].gain:.1f})" if causes else "nothing"
        found.append(
            Seen(
                kind=mistake.kind,
                fit=result.fit,
                place=named.index(true) if true in named else -1,
                unsaid=bool(score.lies) and result.fit is Fit.FITS,
                seconds=seconds,
                line=f"{bar['id']} {mistake.kind} of {mistake.subject}: {result.fit}, first: {first}",
            )
        )
    return found


def spread_pantry(pantry: Pantry, spread: float, seed: int) -> Pantry:
    """A pantry in which every figure of every ingredient is off by a share of itself.

    Args:
        spread: Standard deviation of the factor, a log-normal one.
    """
    chance = np.random.default_rng(seed)
    foods = []
    for food in pantry.all():
        figures = {
            row: value if value is None or row is Nutrient.WATER else min(100_000.0, value * chance.lognormal(0.0, spread))
            for row, value in food.per_100_g.items()
        }
        foods.append(replace(food, per_100_g=figures))
    return Pantry({food.id: food for food in foods})


def spread_score(task: tuple[dict[str, Any], float]) -> Score:
    """A piece estimated with such a pantry, two layers weighed."""
    bar, spread = task
    reading = StudyReading(study_of(bar, "two"), spread_pantry(standard_pantry(), spread, seed=sum(map(ord, bar["id"]))))
    start = time.process_time()
    result = estimate(reading)
    assert isinstance(result, Estimate)
    score, _ = scored_study(bar, reading, result)
    score.seconds.append(time.process_time() - start)
    return score


def main(arguments: list[str]) -> None:
    """Prints a line for each kind of mistake, and for each spread."""
    name = next((word for word in arguments if word in {"bench", "bars", "pieces", "own"}), "bars")
    count = next((int(word) for word in arguments if word.isdigit()), 24)
    bars = pieces_of(name) if name in {"bench", "own"} else half(pieces_of(name), held="held" in arguments)
    with ProcessPoolExecutor(2) as pool:
        found = [seen for seens in pool.map(seen_of, bars[:count]) for seen in seens]
        if "-v" in arguments:
            print(*(seen.line for seen in found), sep="\n")
        for kind in CauseKind:
            of_kind = [seen for seen in found if seen.kind is kind]
            said = [seen for seen in of_kind if seen.fit is not Fit.FITS]
            if of_kind:
                first, three = (sum(0 <= seen.place < most for seen in said) for most in (1, 3))
                print(
                    f"{name}, {kind} wrong: {len(of_kind)} made, {len(said)} said not to fit, the true cause first in {first}, "
                    f"among the first three in {three}; far off unsaid {sum(seen.unsaid for seen in of_kind)}; "
                    f"{np.median([seen.seconds for seen in said] or [0.0]):.1f} s of looking"
                )
        for spread in _SPREADS:
            total = Score()
            for score in pool.map(spread_score, [(bar, spread) for bar in bars[:count]]):
                total.add(score)
            print(total.line(f"{name}, two weighed, composition off by {100 * spread:.0f} %"))


if __name__ == "__main__":
    main(sys.argv[1:])
