"""Blind tastings: whether a panel tells a copy from its original, which it likes better, and how many tasters it takes.

Worked example: 8 of 12 tasters name the odd one of three; by guessing alone 8 or more would in 1.88 of 100 panels: told apart at
5 %. That many right stand for 1.5 * 8/12 - 0.5 = half of them who really tell.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cache
from itertools import permutations

from fern_match.core.errors import check_range
from fern_match.core.trials.record import Serving, Tasting, TestKind, Whose

LEVEL = Fraction(5, 100)  # a verdict is wrong in at most one of twenty panels that only guess
ALIKE_BELOW = 0.30  # share of real tellers up to which two are called alike (usual)
USUAL_POWER = 0.80
_GUESS = {TestKind.TRIANGLE: Fraction(1, 3), TestKind.PREFERENCE: Fraction(1, 2)}
_MOST_TASTERS = 400
_UPPER_Z = 1.645
NO_PREFERENCE = "-"
_CODES = range(100, 1000)
_FEW = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class Verdict:
    """What a tasting says."""

    kind: TestKind
    tasters: int  # answers that count
    right: int  # named the odd one, or liked the copy better
    chance: float  # of as many or more by guessing alone; of a preference as far from even either way
    needed: int  # right answers that would be told; 0 where no number of so few would be
    is_told: bool
    tellers: float | None  # share of tasters who really tell, as best said; of a triangle alone
    tellers_high: float | None  # at most so many, surely in 95 of 100
    sentence: str


def chance_of(right: int, tasters: int, guess: Fraction) -> Fraction:
    """The chance of so many right answers or more by guessing alone, exactly.

    Args:
        right: 0 to the number of tasters.
        tasters: 0 to 400.
        guess: Chance of each guess, between 0 and 1.

    Raises:
        OutOfRange: a number is outside.

    Source: binomial distribution, as in ISO 4120 and ISO 5495.

    >>> round(float(chance_of(8, 12, Fraction(1, 3))), 4)
    0.0188
    """
    check_range("tasters", tasters, 0, _MOST_TASTERS)
    check_range("right", right, 0, tasters)
    miss = 1 - guess
    return sum(
        (math.comb(tasters, one) * guess**one * miss ** (tasters - one) for one in range(right, tasters + 1)), start=Fraction(0)
    )


@cache
def needed_right(tasters: int, level: Fraction = LEVEL) -> int | None:
    """The fewest right answers of a triangle that guessing gives at most as often as the level; None where no number does.

    Args:
        tasters: 1 to 400.
        level: Between 0 and 1.

    >>> needed_right(12), needed_right(2)
    (8, None)
    """
    guess, chance, found = _GUESS[TestKind.TRIANGLE], Fraction(0), None
    for right in range(tasters, -1, -1):  # from the top, one further term at a time
        chance += math.comb(tasters, right) * guess**right * (1 - guess) ** (tasters - right)
        if chance > level:
            break
        found = right
    return found


def needed_preference(tasters: int, level: Fraction = LEVEL) -> int | None:
    """The fewest who like one better that is told either way; None where no number is.

    Args:
        tasters: 1 to 400.
        level: Between 0 and 1.

    >>> needed_preference(20), needed_preference(5)
    (15, None)
    """
    return next((one for one in range(tasters // 2 + 1, tasters + 1) if _either_way(one, tasters) <= level), None)


def power(tasters: int, tellers: float, level: Fraction = LEVEL) -> float:
    """How often a triangle tells a difference that a share of tasters really notices.

    Args:
        tasters: 1 to 400.
        tellers: Share of those who notice, 0 to 1.
        level: Between 0 and 1.

    Raises:
        OutOfRange: the share is outside.

    >>> round(power(24, 0.40), 3)
    0.787
    """
    check_range("tellers", tellers, 0.0, 1.0)
    needed = needed_right(tasters, level)
    if needed is None:
        return 0.0
    right = tellers + (1 - tellers) / 3
    return math.fsum(math.comb(tasters, one) * right**one * (1 - right) ** (tasters - one) for one in range(needed, tasters + 1))


@cache
def tasters_for(tellers: float, wanted: float = USUAL_POWER, level: Fraction = LEVEL) -> int | None:
    """The fewest tasters with whom a triangle tells such a difference as often as wanted; None where 200 are not enough.

    Args:
        tellers: Share of tasters who really notice, above 0 to 1.
        wanted: How often it is to be told, between 0 and 1.
        level: Between 0 and 1.
    """
    return next((many for many in range(3, 201) if power(many, tellers, level) >= wanted), None)


def tellers_of(right: int, tasters: int) -> tuple[float, float]:
    """The share of tasters who really tell, as best said and at most, of a triangle.

    Args:
        right: 0 to the number of tasters.
        tasters: 1 or more.

    Source: p_d = 1.5 k/n - 0.5; one-sided 95 % bound by the normal approximation (ISO 4120).

    >>> [round(one, 4) for one in tellers_of(12, 36)]
    [0.0, 0.1939]
    """
    share = right / tasters
    high = 1.5 * (share + _UPPER_Z * math.sqrt(share * (1 - share) / tasters)) - 0.5
    return max(0.0, 1.5 * share - 0.5), min(1.0, max(0.0, high))


def verdict(tasting: Tasting) -> Verdict:
    """What a tasting says, by the answers that name one of their codes.

    Args:
        tasting: With its servings.
    """
    answered = [one for one in tasting.servings if one.answer.strip() in one.codes]
    named = [one.pieces[one.codes.index(one.answer.strip())] for one in answered]
    names = {one.taster.strip().casefold() for one in answered if one.taster.strip()}
    alone = len(names) == 1 and len(answered) > 1
    if tasting.kind is TestKind.TRIANGLE:
        right = sum(piece is _odd(one) for piece, one in zip(named, answered, strict=True))
        return _triangle(right, len(answered), alone)
    return _preference(sum(piece is Whose.COPY for piece in named), len(answered), len(tasting.servings))


def _odd(serving: Serving) -> Whose:
    return next(one for one in Whose if serving.pieces.count(one) == 1)


def _triangle(right: int, tasters: int, alone: bool) -> Verdict:
    chance = float(chance_of(right, tasters, _GUESS[TestKind.TRIANGLE]))
    needed = needed_right(tasters) if tasters else None
    told = needed is not None and right >= needed
    best, high = tellers_of(right, tasters) if tasters else (None, None)
    return Verdict(
        kind=TestKind.TRIANGLE,
        tasters=tasters,
        right=right,
        chance=chance,
        needed=needed or 0,
        is_told=told,
        tellers=best,
        tellers_high=high,
        sentence=_triangle_words(right, tasters, chance, needed, told, high, alone),
    )


def _triangle_words(
    right: int, tasters: int, chance: float, needed: int | None, told: bool, high: float | None, alone: bool
) -> str:
    if not tasters:
        return "Nobody has answered yet."
    who = "This taster named" if alone else f"{right} of {tasters} named"
    times = f" {right} of {tasters} times" if alone else ""
    said = f"{who} the odd one{times}; guessing gives that or more in {_in_100(chance)} of 100."
    if told:
        whose = " This is this taster, not everybody." if alone else ""
        return f"{said} They are told apart.{whose}"
    if needed is None:
        return f"{said} So few answers cannot tell anything: {_FEW} is the least, and 5 of them right."
    if high is not None and high < ALIKE_BELOW:
        return f"{said} Alike: at most {100 * high:.0f} % of tasters can really tell them, in 95 of 100 such panels."
    more = tasters_for(ALIKE_BELOW)
    return (
        f"{said} Not told apart, which proves nothing with so few: up to {100 * (high or 1):.0f} % of tasters may really tell "
        f"them. {needed} right would have been told; {more} tasters find what three in ten notice."
    )


def _preference(copy: int, tasters: int, served: int) -> Verdict:
    chance = float(_either_way(max(copy, tasters - copy), tasters)) if tasters else 1.0
    needed = needed_preference(tasters) if tasters else None
    told = needed is not None and max(copy, tasters - copy) >= needed
    dropped = f" {served - tasters} without a preference or an answer are left out." if served > tasters else ""
    if not tasters:
        sentence = "Nobody has answered yet."
    else:
        liked = f"{copy} of {tasters} like the copy better; an even crowd gives a split as far off in {_in_100(chance)} of 100."
        better = "The copy is liked better." if copy > tasters - copy else "The original is liked better."
        sentence = f"{liked} {better if told else 'No preference is told.'}{dropped}"
    return Verdict(
        kind=TestKind.PREFERENCE,
        tasters=tasters,
        right=copy,
        chance=chance,
        needed=needed or 0,
        is_told=told,
        tellers=None,
        tellers_high=None,
        sentence=sentence,
    )


def _either_way(most: int, tasters: int) -> Fraction:
    return min(Fraction(1), 2 * chance_of(most, tasters, _GUESS[TestKind.PREFERENCE]))


def _in_100(chance: float) -> str:
    return "less than 0.1" if chance < 0.001 else f"{100 * chance:.1f}"


def served(tasting: Tasting, tasters: Sequence[str], draw: Callable[[int], int], token: Callable[[], str]) -> Tasting:
    """A tasting with servings for further tasters: codes that no serving of it has, orders in balance.

    Args:
        tasting: As it is.
        tasters: Names, or empty texts, one for each serving.
        draw: Gives a whole number from 0 up to, and without, what it is given; nobody can foresee which.
        token: Gives an id that tells nothing, and that nobody can guess.
    """
    each = 3 if tasting.kind is TestKind.TRIANGLE else 2
    used = {int(code) for one in tasting.servings for code in one.codes}
    free = [code for code in _CODES if code not in used]
    orders: list[tuple[Whose, ...]] = []
    servings = list(tasting.servings)
    for taster in tasters:
        if not orders:
            orders = list(_orders(tasting.kind))
        codes = tuple(str(free.pop(draw(len(free)))) for _ in range(each))
        pieces = orders.pop(draw(len(orders)))
        servings.append(Serving(id=token(), codes=codes, pieces=pieces, taster=taster))
    return replace(tasting, servings=tuple(servings))


def _orders(kind: TestKind) -> Sequence[tuple[Whose, ...]]:
    """Every order once: of a triangle six, of a preference two."""
    a, b = Whose.ORIGINAL, Whose.COPY
    if kind is TestKind.PREFERENCE:
        return [(a, b), (b, a)]
    return sorted({*permutations((a, a, b)), *permutations((a, b, b))})
