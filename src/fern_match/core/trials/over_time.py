"""Every trial of a match in one view: how close each came, what it gave and cost, what was changed, and which change helped.

Worked example: a cream that was 2.6 g too heavy, give or take 0.3, and then 0.2 too heavy, give or take 0.3, is nearer in
virtually every draw of what its readings allow: it helped.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np

from fern_match.core.formulate import compared as lines_compared
from fern_match.core.trials.closeness import Closeness, Compared, closer
from fern_match.core.trials.looked_at import Looked

_HELPED, _HURT = 0.90, 0.10  # chance of being nearer from which something is said to have helped, or made it worse
_SHOWN = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class Moved:
    """One thing that lies nearer or further than in the trial before."""

    title: str
    words: str
    chance: float  # that it is nearer now


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialLine:
    """A trial in the view over time."""

    trial_id: str
    name: str
    tried_on: str
    version: str
    close: Closeness | None
    closer: float | None  # chance that it is closer than the trial before; None where nothing was read of both
    closer_words: str
    made: int | None
    whole: int | None
    planned: int | None  # pieces
    cost: float | None  # a piece
    changed: tuple[str, ...]  # beside the version of the trial before
    helped: tuple[Moved, ...]
    worse: tuple[Moved, ...]


def over_time(trials: Sequence[Looked]) -> tuple[TrialLine, ...]:
    """Trials in the order they were begun, each beside the one before.

    Args:
        trials: Of one match.
    """
    return tuple(_line(one, trials[at - 1] if at else None) for at, one in enumerate(trials))


def _line(one: Looked, before: Looked | None) -> TrialLine:
    nearer = closer(one.compared, one.trial.id, before.compared, before.trial.id) if before is not None else None
    helped, worse = _moved(one.compared, before.compared) if before is not None else ((), ())
    batch = one.of.batch.batch
    made, whole = one.of.read.made.value, one.of.read.whole.value
    return TrialLine(
        trial_id=one.trial.id,
        name=one.trial.name,
        tried_on=one.trial.tried_on,
        version=one.seen.version.name,
        close=one.close,
        closer=nearer[0] if nearer is not None else None,
        closer_words=_closer_words(nearer, before),
        made=int(made) if made is not None else None,
        whole=int(whole) if whole is not None else None,
        planned=batch.pieces if batch is not None else None,
        cost=one.of.batch.seen.cost,
        changed=_changed(one, before) if before is not None else (),
        helped=helped,
        worse=worse,
    )


def _closer_words(nearer: tuple[float, int] | None, before: Looked | None) -> str:
    if before is None:
        return ""
    if nearer is None:
        return f"Nothing was read in both this and {before.trial.name}."
    chance, of = nearer
    things = "1 thing" if of == 1 else f"{of} things"
    odds = min(99, round(100 * max(chance, 1 - chance)))
    said = f"by {things} read in both, {'more than ' if max(chance, 1 - chance) > 0.995 else ''}{odds} to {100 - odds}"
    if chance >= _HELPED:
        return f"Closer than {before.trial.name}, {said}."
    if chance <= _HURT:
        return f"Further off than {before.trial.name}, {said}."
    return f"Whether it is closer than {before.trial.name} these readings cannot tell, {said}."


def _moved(now: Sequence[Compared], before: Sequence[Compared]) -> tuple[tuple[Moved, ...], tuple[Moved, ...]]:
    was = {one.id: one for one in before if one.apart is not None}
    found = []
    for one in now:
        old = was.get(one.id)
        if one.apart is None or old is None or old.apart is None:
            continue
        chance = _nearer(one, old)
        digits = 0 if abs(old.apart.value) >= 100 else 1
        unit = f" {one.unit}" if one.unit else ""
        words = f"{_signed(old.apart.value, digits)} → {_signed(one.apart.value, digits)}{unit}"
        found.append(Moved(title=one.title, words=words, chance=chance))
    helped = sorted((one for one in found if one.chance >= _HELPED), key=lambda one: -one.chance)
    worse = sorted((one for one in found if one.chance <= _HURT), key=lambda one: one.chance)
    return tuple(helped[:_SHOWN]), tuple(worse[:_SHOWN])


def _nearer(now: Compared, before: Compared) -> float:
    """The chance that a thing is nearer than it was."""
    assert now.apart is not None
    assert before.apart is not None
    draws = _draws()
    shared = now.original.error if now.original is not None else 0.0
    sides = []
    for side, draw in ((now, draws[0]), (before, draws[1])):
        assert side.apart is not None
        own = math.sqrt(max(0.0, side.apart.error**2 - shared**2))
        sides.append(np.abs(side.apart.value + own * draw - shared * draws[2]))
    return float(np.mean(sides[0] < sides[1]))


@cache
def _draws() -> np.ndarray:
    found: np.ndarray = np.random.default_rng(7).standard_normal((3, 4000))
    return found


def _signed(value: float, digits: int) -> str:
    text = f"{value:+.{digits}f}"
    return text.replace("-", "−") if float(text) else f"{0:.{digits}f}"


def _changed(one: Looked, before: Looked) -> tuple[str, ...]:
    """What the version of a trial has otherwise than that of the one before."""
    if one.seen.version == before.seen.version:
        return ()
    found = []
    for line in lines_compared(before.seen.formula, one.seen.formula):
        if not line.same:
            found.append(f"{line.layer}: {line.name} {_signed((line.after_g or 0.0) - (line.before_g or 0.0), 2)} g")
    notes = {note.text for note in before.seen.version.notes}
    found += [note.text.partition(" Why: ")[0] for note in one.seen.version.notes if note.text not in notes]
    return tuple(found)
