"""Causes of a fault, ranked by what was read of this batch: a likelihood for each cause and each reading.

Worked example: a runny caramel has the causes “ended too early” at odds of 5, “thermometer reads high” 3, “much syrup” 2,
“little milk” 2, “warm room” 1 and something else 1.5. The boil ended 4 °C early, give or take 1: where it was ended too early,
such a reading has a density of 0.178; where nothing was wrong with it, 0.018: it speaks 10 to 1 for it.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from fern_match.core.trials.tables import CauseRow, Sign, causes, clues

_SOMETHING_ELSE = 1.5  # odds of a cause that no table has (approximate)
_NOT_LISTED = 0.05  # how likely a cause is in a fault that does not name it, beside its share in one that does (approximate)
_SEEN_WHEN_SO = 0.8  # how often a look is noticed where its cause is at work (approximate)
_DOUBTED = 0.05  # of readings: slips of the pen, read of the wrong pan (approximate)
_MOST, _LEAST = 40.0, 0.03  # what one reading may say for or against a cause: no single one decides all
_SPEAKS = 1.5  # from where a reading is said to speak for or against
_SAME_THING = 0.5  # what a further reading of the same thing counts: heat, weight and minutes of one boil are not independent
_WORTH_ASKING = 0.02  # of information [nats]
_GRID, _REACH = 61, 3.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Read:
    """A clue as it was read of this batch."""

    clue: str
    value: float  # of a look: 1 yes, 0 no
    error: float = 0.0  # one standard error, in the clue's unit
    words: str = ""  # as a sentence says it


@dataclass(frozen=True, slots=True)
class Spoken:
    """What a reading says of a cause."""

    clue: str
    times: float  # so many times as likely where the cause is at work; below 1 it speaks against
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class RankedCause:
    """A cause and how likely it is."""

    cause: CauseRow
    chance: float  # 0 to 1
    spoken: tuple[Spoken, ...]  # the strongest first

    @property
    def is_spoken_for(self) -> bool:
        """Whether a reading speaks for it."""
        return any(one.times >= _SPEAKS for one in self.spoken)


@dataclass(frozen=True, slots=True)
class ToTake:
    """A reading that would tell causes apart."""

    clue: str
    gain: float  # information expected of it [nats]


@dataclass(frozen=True, slots=True, kw_only=True)
class Ranking:
    """Causes of what is wrong with a layer, the likeliest first."""

    causes: tuple[RankedCause, ...]
    something_else: float  # chance that it is none of them
    to_take: tuple[ToTake, ...]  # the most telling first


def ranked(seen: Sequence[str], read: Mapping[str, Read]) -> Ranking:
    """The causes of one or several faults of one layer.

    Args:
        seen: Ids of the faults.
        read: By clue, what was read.
    """
    rows = _rows_of(seen)
    if not rows:
        return Ranking(causes=(), something_else=1.0, to_take=())
    priors = [_prior(row.id, seen) for row in rows]
    spoken = [_spoken(row, read) for row in rows]
    weights = [prior * math.exp(_told(row, said)) for row, prior, said in zip(rows, priors, spoken, strict=True)]
    other = math.prod(_SOMETHING_ELSE / _total(fault) for fault in seen)
    total = sum(weights) + other
    chances = [weight / total for weight in weights]
    order = sorted(range(len(rows)), key=lambda n: (-chances[n], n))
    return Ranking(
        causes=tuple(RankedCause(cause=rows[n], chance=chances[n], spoken=spoken[n]) for n in order),
        something_else=other / total,
        to_take=_to_take(rows, chances, other / total, read),
    )


def times_as_likely(sign: Sign, read: Read) -> float:
    """How many times as likely a reading is where a cause is at work.

    Args:
        sign: How the clue reads then.
        read: As it was read.
    """
    row = clues()[sign.clue]
    if sign.is_look:
        so, otherwise = (_SEEN_WHEN_SO, row.usual) if read.value >= 0.5 else (1 - _SEEN_WHEN_SO, 1 - row.usual)
        return min(_MOST, max(_LEAST, so / otherwise))
    with_it = _density(read.value, sign.mean, math.hypot(sign.spread, read.error))
    without = _density(read.value, row.usual, math.hypot(row.scatter, read.error))
    if with_it + without <= 0:  # so far out that either says nothing: it is of whichever is nearer
        return _MOST if abs(read.value - sign.mean) < abs(read.value - row.usual) else _LEAST
    times = ((1 - _DOUBTED) * with_it + _DOUBTED * without) / ((1 - _DOUBTED) * without + _DOUBTED * with_it)
    return min(_MOST, max(_LEAST, times))


def _density(value: float, mean: float, spread: float) -> float:
    return math.exp(-0.5 * ((value - mean) / spread) ** 2) / spread


def _rows_of(seen: Sequence[str]) -> tuple[CauseRow, ...]:
    """Each cause once, in the order of the tables."""
    found: dict[str, CauseRow] = {}
    for fault in seen:
        for row in causes().get(fault, ()):
            found.setdefault(row.id, row)
    return tuple(found.values())


def _total(fault: str) -> float:
    return sum(one.odds for one in causes().get(fault, ())) + _SOMETHING_ELSE


def _prior(cause_id: str, seen: Sequence[str]) -> float:
    product = 1.0
    for fault in seen:
        odds = next((one.odds for one in causes().get(fault, ()) if one.id == cause_id), None)
        product *= odds / _total(fault) if odds is not None else _NOT_LISTED
    return product


def _spoken(row: CauseRow, read: Mapping[str, Read]) -> tuple[Spoken, ...]:
    said = [
        Spoken(sign.clue, times_as_likely(sign, read[sign.clue]), read[sign.clue].words)
        for sign in row.signs
        if sign.clue in read
    ]
    return tuple(sorted(said, key=lambda one: -abs(math.log(one.times))))


def _told(row: CauseRow, said: Sequence[Spoken]) -> float:
    """What the readings say together [log]: of those that follow from one slip the strongest counts whole."""
    logs = [math.log(one.times) for one in said]
    if not row.slip:
        return sum(logs)
    return logs[0] + _SAME_THING * sum(logs[1:]) if logs else 0.0


def _to_take(rows: Sequence[CauseRow], chances: Sequence[float], other: float, read: Mapping[str, Read]) -> tuple[ToTake, ...]:
    open_clues = dict.fromkeys(
        sign.clue for row in rows for sign in row.signs if sign.clue not in read and clues()[sign.clue].ask
    )
    found = [ToTake(clue, _information(clue, rows, chances, other)) for clue in open_clues]
    return tuple(sorted((one for one in found if one.gain >= _WORTH_ASKING), key=lambda one: -one.gain))


def _information(clue: str, rows: Sequence[CauseRow], chances: Sequence[float], other: float) -> float:
    """What a reading is expected to tell of which cause it is [nats]."""
    row = clues()[clue]
    signs = [next((sign for sign in cause.signs if sign.clue == clue), None) for cause in rows]
    weights = np.array([*chances, other])
    if any(sign is not None and sign.is_look for sign in signs):
        yes = np.array([_SEEN_WHEN_SO if sign is not None else row.usual for sign in signs] + [row.usual])
        each = np.stack([yes, 1 - yes])
    else:
        usual = (row.usual, max(row.scatter, 1e-9))
        means, spreads = (np.array(one) for one in zip(*[_of(sign, usual) for sign in signs], usual, strict=True))
        grid = np.linspace((means - _REACH * spreads).min(), (means + _REACH * spreads).max(), _GRID)
        densities = np.exp(-0.5 * ((grid[:, None] - means) / spreads) ** 2) / spreads
        each = densities / densities.sum(axis=0)
    mixed = each @ weights
    with np.errstate(divide="ignore", invalid="ignore"):
        told = np.where(each > 0, each * np.log(each / mixed[:, None]), 0.0)
    return float(told.sum(axis=0) @ weights)


def _of(sign: Sign | None, usual: tuple[float, float]) -> tuple[float, float]:
    return (sign.mean, sign.spread) if sign is not None else usual
