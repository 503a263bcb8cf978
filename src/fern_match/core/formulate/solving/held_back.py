"""Why a target is missed or nothing fits: limits are moved one at a time and the program is solved again."""

from collections.abc import Sequence

import numpy as np

from fern_match.core.formulate.solving.posed import Posed
from fern_match.core.formulate.solving.program import Limit, Unsolved
from fern_match.core.formulate.solving.targets import BY_LABEL, Target

_INF = float("inf")
_FIRST = 1e4  # how much a target weighs when it alone is asked for
_SHOWN_HELP = 0.1  # share of a gap from which a help is worth saying
_MOST_HELPS, _MOST_MISSED = 2, 4


def held_back(posed: Posed, asked: Sequence[Target], targets: Sequence[Target]) -> tuple[str, ...]:
    """What stops each missed target, found by moving one limit at a time and solving again.

    Args:
        posed: The program that was solved.
        asked: The targets to explain, with what the solution gives.
        targets: All of them.
    """
    missed = [one for one in asked if not one.reached and not one.unknown and one.id in posed.misses]
    missed.sort(key=lambda one: -one.weight * abs(one.gap) / one.tolerance)
    unknown = [one for one in asked if one.unknown]
    open_ended = tuple(
        f"{one.name}: not known, since {', '.join(one.unknown)} has no figure for it." for one in unknown[:_MOST_MISSED]
    )
    found = (_stopped(posed, target, targets) for target in missed[:_MOST_MISSED])
    return (*(sentence for sentence in found if sentence), *open_ended)


def _stopped(posed: Posed, target: Target, targets: Sequence[Target]) -> str:
    missing, over, price = posed.misses[target.id]
    first = {missing: price * _FIRST, over: price * _FIRST}
    alone = posed.program.solved(costs=first)
    short = f"{target.name}: {short_of(target)}."
    if isinstance(alone, Unsolved):
        return short
    left = float(alone[missing] + alone[over])
    if left <= 0.02 * abs(target.gap):
        others = [
            _in_words(other)
            for other in targets
            if other.id in posed.misses and other.id != target.id and other.reached and _missed(posed, other, alone) > 1e-6
        ]
        worse = [
            _in_words(other)
            for other in targets
            if other.id in posed.misses
            and other.id != target.id
            and not other.reached
            and _missed(posed, other, alone) > abs(other.gap) * 1.02 + 1e-6
        ]
        paid = (others + worse)[:3]
        return f"{short} It could be reached, but then {_listed(paid)} would not be." if paid else short
    helps = []
    for limit, end in posed.program.tight(alone):
        if not limit.step:
            continue
        for way, ends in _moves(limit, end):
            again = posed.program.solved(moved={limit.id: ends}, costs=first)
            if not isinstance(again, Unsolved):
                gain = left - float(again[missing] + again[over])
                if gain > _SHOWN_HELP * left:
                    helps.append((gain, limit.moved.format(way=way)))
    helps.sort(key=lambda pair: -pair[0])
    if not helps:
        return f"{short} No single limit stops it: with these ingredients it cannot be reached."
    said = [f"with {words} it would be {_less(gain, left, target.unit)}" for gain, words in helps[:_MOST_HELPS]]
    return f"{short} {said[0][0].upper()}{said[0][1:]}{'; ' + said[1] if len(said) > 1 else ''}."


def short_of(target: Target) -> str:
    """By how much a target is missed: “3.3 g of sugar too little”."""
    return f"{abs(target.gap):.2g} {target.unit} too {'little' if target.gap < 0 else 'much'}"


def _in_words(target: Target) -> str:
    """A target's name inside a sentence: “Salt, Coffee wafer” is the salt of Coffee wafer."""
    what = f"{target.title[0].lower()}{target.title[1:]}"
    return f"{what} {target.whose}" if target.whose == BY_LABEL else f"{what} of {target.whose}"


def _less(gain: float, left: float, unit: str) -> str:
    return "reached" if gain >= 0.98 * left else f"{gain:.2g} {unit} nearer"


def _moves(limit: Limit, end: str) -> list[tuple[str, tuple[float, float]]]:
    if limit.step == _INF:
        return [("", (-_INF, _INF))]
    down, up = (limit.low - limit.step, limit.high), (limit.low, limit.high + limit.step)
    return [("less", down)] if end == "low" else [("more", up)] if end == "high" else [("less", down), ("more", up)]


def _missed(posed: Posed, target: Target, values: np.ndarray) -> float:
    missing, over, _ = posed.misses[target.id]
    return float(values[missing] + values[over])


def impossible(posed: Posed) -> str:
    """Why nothing fits: the fewest limits to give, and by how much."""
    gives = posed.program.relaxed()
    if isinstance(gives, Unsolved) or not gives:
        return "No amounts fit, whatever gives. Check what is locked and the weights of the layers."
    said = [f"{limit.words}{_by(limit, size)}" for limit, size in gives]
    return f"No amounts fit everything that is fixed. The least that would have to give: {_listed(said, joint='; ')}."


def _by(limit: Limit, size: float) -> str:
    terms = [abs(value) for value in limit.terms.values()]
    if max(terms) != min(terms):
        return ""
    return f", {abs(size):.2g} g {'more' if size > 0 else 'less'}"


def _listed(names: Sequence[str], joint: str = ", ") -> str:
    return (
        names[0]
        if len(names) == 1
        else f"{joint.join(names[:-1])}{';' if joint == '; ' else ''} and {names[-1]}"
        if names
        else ""
    )
