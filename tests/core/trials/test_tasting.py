"""Triangle tests and preferences against an independent exact computation, and codes that give nothing away."""

import random
from fractions import Fraction
from itertools import product

import numpy as np
import pytest

from fern_match.core.errors import OutOfRange
from fern_match.core.trials.record import Serving, Tasting, TestKind, Whose
from fern_match.core.trials.tasting import (
    chance_of,
    needed_preference,
    needed_right,
    power,
    served,
    tasters_for,
    tellers_of,
    verdict,
)

# Published least numbers of right answers, level 0.05: n -> k (ISO 4120 table A.1; ISO 5495 two-sided).
_TRIANGLE = {5: 4, 6: 5, 7: 5, 8: 6, 9: 6, 10: 7, 12: 8, 15: 9, 18: 10, 20: 11, 24: 13, 30: 15, 36: 18, 48: 22, 60: 27, 100: 42}
_STRICT = {5: 5, 6: 6, 8: 7, 10: 8, 12: 9, 20: 13, 30: 17, 100: 46}  # level 0.01
_PREFERENCE = {6: 6, 7: 7, 8: 8, 10: 9, 12: 10, 16: 13, 20: 15, 30: 21, 60: 39, 100: 61}


def by_counting(right: int, tasters: int, guesses: int) -> Fraction:
    """The chance of so many right answers or more, every way to guess counted one by one."""
    ways = sum(sum(one == 0 for one in answers) >= right for answers in product(range(guesses), repeat=tasters))
    return Fraction(ways, guesses**tasters)


def by_steps(right: int, tasters: int, guess: Fraction) -> Fraction:
    """The same by adding one taster at a time: no binomial coefficient in it."""
    chances = [Fraction(1)] + [Fraction(0)] * tasters
    for _ in range(tasters):
        chances = [chances[k] * (1 - guess) + (chances[k - 1] * guess if k else Fraction(0)) for k in range(tasters + 1)]
    return sum(chances[right:], start=Fraction(0))


@pytest.mark.parametrize("tasters", range(1, 9))
def test_chances_equal_those_counted_one_by_one(tasters: int) -> None:
    """Every number of right answers of up to eight tasters, exactly."""
    for right in range(tasters + 1):
        assert chance_of(right, tasters, Fraction(1, 3)) == by_counting(right, tasters, 3)
        assert chance_of(right, tasters, Fraction(1, 2)) == by_counting(right, tasters, 2)


@pytest.mark.parametrize("tasters", [24, 60])
def test_chances_of_many_tasters_are_exact(tasters: int) -> None:
    """The same of many tasters against another way to add them up."""
    for right in range(0, tasters + 1, 7):
        assert chance_of(right, tasters, Fraction(1, 3)) == by_steps(right, tasters, Fraction(1, 3))


def test_needed_numbers_are_the_published_ones() -> None:
    """Least right answers of a triangle at 5 and 1 %, least of a preference either way."""
    assert {n: needed_right(n) for n in _TRIANGLE} == _TRIANGLE
    assert {n: needed_right(n, Fraction(1, 100)) for n in _STRICT} == _STRICT
    assert {n: needed_preference(n) for n in _PREFERENCE} == _PREFERENCE
    assert needed_right(2) is None
    assert needed_preference(5) is None


@pytest.mark.parametrize("tellers", [0.2, 0.3, 0.5])
def test_the_tasters_it_takes_are_the_fewest_that_do(tellers: float) -> None:
    """By an independent sum: one fewer does not find it in eight of ten panels."""
    found = tasters_for(tellers)
    assert found is not None

    def tails(tasters: int, share: float) -> np.ndarray:
        chances = np.ones(1)
        for _ in range(tasters):
            chances = np.convolve(chances, [1 - share, share])
        return np.cumsum(chances[::-1])[::-1]

    def finds(tasters: int) -> float:
        least = np.flatnonzero(tails(tasters, 1 / 3) <= 0.05)
        return float(tails(tasters, tellers + (1 - tellers) / 3)[least[0]]) if least.size else 0.0

    assert finds(found) >= 0.8
    assert all(finds(fewer) < 0.8 for fewer in range(3, found))
    assert power(found, tellers) == pytest.approx(finds(found))


def test_published_worked_values() -> None:
    """Power of 24 tasters where four in ten notice; shares of real tellers."""
    assert power(24, 0.40) == pytest.approx(0.787, abs=1e-3)
    assert tellers_of(13, 24)[0] == pytest.approx(0.3125)
    assert tellers_of(12, 36)[1] == pytest.approx(0.194, abs=1e-3)


@pytest.mark.parametrize(("right", "tasters"), [(-1, 3), (4, 3), (1, 401)])
def test_numbers_that_cannot_be_are_refused(right: int, tasters: int) -> None:
    """More right answers than tasters, or a crowd, are no panel."""
    with pytest.raises(OutOfRange):
        chance_of(right, tasters, Fraction(1, 3))


def panel(kind: TestKind, tasters: int, seed: int = 1) -> Tasting:
    """A tasting with servings drawn."""
    rng = random.Random(seed)
    return served(
        Tasting(id="t", kind=kind), [f"T{n}" for n in range(tasters)], rng.randrange, lambda: f"{rng.getrandbits(80):020x}"
    )


def answered(tasting: Tasting, right: int) -> Tasting:
    """The first so many name the odd one, the others one of the two alike."""
    servings = []
    for number, one in enumerate(tasting.servings):
        odd = next(whose for whose in Whose if one.pieces.count(whose) == 1)
        at = one.pieces.index(odd) if number < right else next(n for n, piece in enumerate(one.pieces) if piece is not odd)
        servings.append(Serving(id=one.id, codes=one.codes, pieces=one.pieces, taster=one.taster, answer=one.codes[at]))
    return Tasting(id=tasting.id, kind=tasting.kind, servings=tuple(servings))


def test_a_verdict_counts_who_named_the_odd_one() -> None:
    """Eight of twelve tell them apart; seven do not, and it says that this proves nothing."""
    told, not_told = (verdict(answered(panel(TestKind.TRIANGLE, 12), right)) for right in (8, 7))

    assert (told.right, told.tasters, told.is_told) == (8, 12, True)
    assert told.chance == pytest.approx(0.0188, abs=1e-4)
    assert not not_told.is_told
    assert "proves nothing" in not_told.sentence


def test_alike_is_claimed_only_where_enough_tasters_say_so() -> None:
    """Twelve of thirty-six bound real tellers below three in ten; one of three bounds nothing."""
    enough, few = verdict(answered(panel(TestKind.TRIANGLE, 36), 12)), verdict(answered(panel(TestKind.TRIANGLE, 3), 1))

    assert "Alike: at most 19 %" in enough.sentence
    assert "Alike" not in few.sentence


def test_an_answer_that_is_no_code_counts_for_none() -> None:
    """Whoever has not answered, or has written something else, is not in the verdict."""
    tasting = panel(TestKind.TRIANGLE, 3)

    assert verdict(tasting).sentence == "Nobody has answered yet."


def test_one_taster_again_and_again_is_told_as_that() -> None:
    """Six tastings of one person are a verdict on that person."""
    tasting = answered(panel(TestKind.TRIANGLE, 6), 6)
    same = Tasting(
        id="t",
        servings=tuple(
            Serving(id=one.id, codes=one.codes, pieces=one.pieces, taster="Ida", answer=one.answer) for one in tasting.servings
        ),
    )

    assert "this taster, not everybody" in verdict(same).sentence


@pytest.mark.parametrize(("kind", "orders"), [(TestKind.TRIANGLE, 6), (TestKind.PREFERENCE, 2)])
def test_codes_are_never_repeated_and_orders_are_in_balance(kind: TestKind, orders: int) -> None:
    """Over sixty servings: every code once, every order as often as the others."""
    tasting = panel(kind, 60)
    codes = [code for one in tasting.servings for code in one.codes]
    counted = [one.pieces for one in tasting.servings]

    assert len(codes) == len(set(codes))
    assert all(len(code) == 3 and code.isdigit() for code in codes)
    assert {counted.count(order) for order in set(counted)} == {60 // orders}


def test_codes_give_nothing_away() -> None:
    """Neither size nor first digit of a code, nor its place, says which piece lies there."""
    servings = [one for seed in range(40) for one in panel(TestKind.TRIANGLE, 30, seed).servings]
    by_piece: dict[Whose, list[int]] = {whose: [] for whose in Whose}
    places = {whose: [0, 0, 0] for whose in Whose}
    for one in servings:
        for at, (code, piece) in enumerate(zip(one.codes, one.pieces, strict=True)):
            by_piece[piece].append(int(code))
            places[piece][at] += 1
    means = [sum(codes) / len(codes) for codes in by_piece.values()]

    assert max(means) - min(means) < 25  # three standard errors of a mean of 1,800 codes are 18
    assert places[Whose.ORIGINAL] == pytest.approx([600, 600, 600], abs=1)


def test_further_tasters_get_codes_that_nobody_had() -> None:
    """Drawing again adds servings, and changes none that are there."""
    first = panel(TestKind.TRIANGLE, 10)
    rng = random.Random(9)
    more = served(first, ["late"], rng.randrange, lambda: "tok")

    assert more.servings[:10] == first.servings
    assert not set(more.servings[10].codes) & {code for one in first.servings for code in one.codes}


def test_a_preference_leaves_out_whoever_has_none() -> None:
    """A dash is an answer that counts for neither."""
    tasting = panel(TestKind.PREFERENCE, 21)
    servings = []
    for number, one in enumerate(tasting.servings):
        copy = one.codes[one.pieces.index(Whose.COPY)]
        other = one.codes[one.pieces.index(Whose.ORIGINAL)]
        answer = copy if number < 15 else other if number < 20 else "-"
        servings.append(Serving(id=one.id, codes=one.codes, pieces=one.pieces, answer=answer))
    found = verdict(Tasting(id="t", kind=TestKind.PREFERENCE, servings=tuple(servings)))

    assert (found.right, found.tasters, found.is_told) == (15, 20, True)
    assert found.chance == pytest.approx(0.0414, abs=1e-4)
    assert "1 without a preference" in found.sentence
