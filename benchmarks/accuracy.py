"""Accuracy and coverage of the estimator on made-up pieces with known truth, through the product's own door.

Run with `make bench`, or `python benchmarks/accuracy.py [set ...] [none|two|all] [held] [-v] [id]`. Sets: bench, bars,
pieces, own, and fifth to fourteenth (each looked at once).
Each set is printed twice, as read and with every place given from the truth, so that one sees which half a change moves; with it
the share of pieces whose truth cannot be expressed at all. Half of bars and pieces is held back: `held` looks at it, at the end.
"""

import sys
import time
from collections.abc import Iterable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from bars import given_study_of, half, pieces_of, study_of

from fern_match.core.estimate import Estimate, estimate
from fern_match.core.estimate.problem import WATER, build_problem
from fern_match.core.estimate.result import Fit, SumPart
from fern_match.core.food import standard_pantry
from fern_match.core.study.reading import StudyReading

_SHOWN_INGREDIENT_G = 0.05  # smaller amounts are counted for coverage, too, but not for error
_MISSED_FROM = 0.5  # g per 100 g of an ingredient that has no place in its layer
# One food that a label names alike however it is ground, roasted or thinned: another name is no wrong amount.
_ONE_FOOD = tuple(
    frozenset(names.split())
    for names in (
        "white-sugar caster-sugar icing-sugar",
        "glucose-syrup-42de glucose-syrup-60de light-corn-syrup",
        "peanut-raw peanut-roasted peanut-butter-natural",
        "almond-raw almond-roasted almond-flour almond-butter",
        "hazelnut-roasted hazelnut-paste hazelnut-flour",
        "pistachio pistachio-paste",
        "heavy-cream double-cream",
    )
)
_FAR_OFF = 5.0  # g per 100 g
SETS = ("bench", "bars", "pieces", "own")
HANDS = ("fifth", "sixth", "seventh", "eighth", "ninth", "tenth", "eleventh", "twelfth", "thirteenth", "fourteenth")


@dataclass
class Score:
    """Errors and coverage over pieces."""

    layer_error: list[float] = field(default_factory=list)  # g per 100 g
    layer_hit: list[bool] = field(default_factory=list)
    ingredient_hit: list[bool] = field(default_factory=list)
    told_hit: list[bool] = field(default_factory=list)  # held, or in a sum that is told and held
    food_hit: list[bool] = field(default_factory=list)  # that, or held under another name of the same food
    seconds: list[float] = field(default_factory=list)
    faulty: int = 0  # whose truth cannot be expressed
    fights: int = 0  # of which the page says that they do not fit
    lies: int = 0  # far off outside a range, and nothing said

    def add(self, other: "Score") -> None:
        """Takes another score in."""
        for name in ("layer_error", "layer_hit", "ingredient_hit", "told_hit", "food_hit", "seconds"):
            getattr(self, name).extend(getattr(other, name))
        self.faulty += other.faulty
        self.fights += other.fights
        self.lies += other.lies

    def line(self, title: str) -> str:
        """One printed row."""
        pieces = len(self.seconds)
        return (
            f"{title}: layer error {np.mean(self.layer_error):.2f} g per 100 g, 90 % ranges hold "
            f"{100 * np.mean(self.layer_hit):.0f} % of layers and {100 * np.mean(self.ingredient_hit):.0f} % of ingredients, "
            f"{100 * np.mean(self.told_hit):.0f} with sums as told, "
            f"{100 * np.mean(self.food_hit):.0f} by whatever name; "
            f"truth not expressible {100 * self.faulty / pieces:.0f} %, said not to fit {100 * self.fights / pieces:.0f} %, "
            f"far off unsaid {self.lies}; {1000 * np.median(self.seconds):.0f} ms median, {1000 * max(self.seconds):.0f} most, "
            f"{pieces} pieces"
        )


def scored(task: tuple[dict[str, Any], str, bool]) -> tuple[Score, str]:
    """Estimates one piece: its score, and a line about it."""
    bar, weighed, given = task
    reading = StudyReading((given_study_of if given else study_of)(bar, weighed), standard_pantry())
    start = time.process_time()
    result = estimate(reading)
    seconds = time.process_time() - start
    if not isinstance(result, Estimate):
        return Score(seconds=[seconds]), f"{bar['id']}: no estimate: {' '.join(result.sentences)}"
    score, line = scored_study(bar, reading, result)
    score.seconds.append(seconds)
    return score, f"{bar['id']} {weighed:>4} {seconds:.2f} s {line}"


def scored_study(bar: dict[str, Any], reading: StudyReading, result: Estimate) -> tuple[Score, str]:
    """The score of an estimate, and a line about it."""
    score = Score(faulty=bool(faults(reading, bar)))
    piece = bar["truth"]["piece_g"]
    shares, far = [], False
    for layer, truth in zip(result.layers, bar["truth"]["layers"], strict=True):
        share = 100 * truth["share"]
        low, best, high = (100 * value for value in (layer.share.low, layer.share.best, layer.share.high))
        score.layer_error.append(abs(best - share))
        score.layer_hit.append(low <= share <= high)
        far = far or (not low <= share <= high and abs(best - share) > _FAR_OFF)
        found: dict[str, list[Any]] = {}
        for amount in layer.ingredients:
            found.setdefault(amount.ingredient_id, []).append(amount.grams)
        for ingredient, grams in truth["ingredients_g"].items():
            if ingredient != WATER and grams / piece >= _SHOWN_INGREDIENT_G / 100:
                ranges = found.get(ingredient, [])
                own = bool(ranges) and sum(r.low for r in ranges) <= grams <= sum(r.high for r in ranges)
                score.ingredient_hit.append(own)
                told = own or _in_a_sum_that_holds(bar, result, truth["layer"], ingredient)
                score.told_hit.append(told)
                score.food_hit.append(told or _held_by_another_name(ingredient, truth["ingredients_g"], found))
        shares.append(f"{layer.name} {best:.1f} ({low:.1f}-{high:.1f}) is {share:.1f}")
    score.fights = int(result.fit is Fit.FIGHTS)
    score.lies = int(far and result.fit is not Fit.FIGHTS)
    return score, f"{result.fit}  " + "  ".join(shares)


def _held_by_another_name(ingredient: str, truth: dict[str, float], found: dict[str, list[Any]]) -> bool:
    """Whether what a layer has of a food, by all its names together, is held by what the estimate has of it there."""
    names = next((one for one in _ONE_FOOD if ingredient in one), frozenset())
    ranges = [each for name in names for each in found.get(name, [])]
    total = sum(grams for name, grams in truth.items() if name in names)
    return bool(ranges) and sum(r.low for r in ranges) <= total <= sum(r.high for r in ranges)


def _in_a_sum_that_holds(bar: dict[str, Any], result: Estimate, layer_id: str, ingredient: str) -> bool:
    """Whether an ingredient is told in a sum, and the sum's range holds the sum of the truth."""
    truth = {one["layer"]: one["ingredients_g"] for one in bar["truth"]["layers"]}
    for told in result.sums:
        if SumPart(layer_id, ingredient) in told.parts:
            total = sum(truth.get(one.layer_id, {}).get(one.ingredient_id, 0.0) for one in told.parts)
            return bool(told.grams.low <= total <= told.grams.high)
    return False


def faults(reading: StudyReading, bar: dict[str, Any]) -> list[str]:
    """What of a piece's truth cannot be expressed: an ingredient without a place, one assumed that is not in it."""
    piece = bar["truth"]["piece_g"]
    problem = build_problem(reading, piece)
    found = []
    for index, layer in enumerate(bar["truth"]["layers"]):
        here = {part.ingredient_id for part in problem.parts if part.layer == index}
        found += [
            f"{layer['layer']}: {name} has no place"
            for name, grams in layer["ingredients_g"].items()
            if name != WATER and 100 * grams / piece > _MISSED_FROM and name not in here
        ]
        found += [
            f"{layer['layer']}: {part.ingredient_id} assumed"
            for part in problem.parts
            if part.layer == index and part.item is None and part.ingredient_id not in {WATER, *layer["ingredients_g"]}
        ]
    return found


def run(bars: list[dict[str, Any]], weighed: str, *, given: bool = False, verbose: bool = False) -> Score:
    """The score of several pieces, two at a time.

    Args:
        weighed: Which layers are: none, two, all.
        given: Whether every place is given from the truth.
    """
    total = Score()
    with ProcessPoolExecutor(2) as pool:
        for score, line in pool.map(scored, [(bar, weighed, given) for bar in bars]):
            total.add(score)
            if verbose:
                print(line, flush=True)
    return total


def main(arguments: Iterable[str]) -> None:
    """Prints a line for each set, setting and way of reading."""
    words = list(arguments)
    held = "held" in words
    chosen = {word for word in words if "-0" in word or "-1" in word}
    for name in [word for word in words if word in {*SETS, *HANDS}] or SETS:
        bars = pieces_of(name) if name in {"bench", "own", *HANDS} else half(pieces_of(name), held=held)
        bars = [bar for bar in bars if not chosen or bar["id"] in chosen]
        for weighed in [word for word in words if word in {"none", "two", "all"}] or ["none", "two", "all"]:
            for given in (False, True):
                title = f"{name}{', held back' if held else ''}, {weighed} weighed, {'places given' if given else 'as read'}"
                if bars:
                    print(run(bars, weighed, given=given, verbose="-v" in words).line(title), flush=True)


if __name__ == "__main__":
    main(sys.argv[1:])
