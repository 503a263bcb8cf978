"""Closeness with its doubt: what is compared, what all of it comes to, and one trial beside another."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.cooking import COAT, STACK, Part
from tests.trying import trial_of

from fern_match.core.trials.closeness import Compared, Group, closeness, closer
from fern_match.core.trials.difference import Known
from fern_match.core.trials.looked_at import Looked
from fern_match.core.trials.record import Sheet, Tasted
from fern_match.core.trials.telling import apart_words, closeness_summary

PARTS = {"coat": Part("dark-coat", COAT, 8.0), "caramel": Part("soft-caramel", STACK, 12.0)}
ORIGINAL = {"piece": ["20.1", "19.8", "20.2", "19.9"], "caramel": ["12.1", "11.9", "12.0"]}


def thing(key: str, off: float, error: float = 1e-6, tolerance: float = 1.0) -> Compared:
    """Something that is off by so much, as sure as this."""
    return Compared(
        id=key,
        group=Group.WEIGHT,
        title=key,
        unit="g",
        layer_id="",
        original=Known(10.0, 1e-6),
        copy=Known(10.0 + off, error),
        from_original="weighed",
        from_copy="weighed",
        tolerance=tolerance,
    )


def row(looked: Looked, key: str) -> Compared:
    """One thing of a trial."""
    return next(one for one in looked.compared if one.id == key)


def test_the_score_is_the_published_one_where_nothing_is_unsure() -> None:
    """Off by one tolerance and by half of one, equal weight: 100 exp(-(1 + 0.25) / 4) = 73.2."""
    found = closeness([thing("a", 1.0), thing("b", 0.5)], "t")

    assert found is not None
    assert found.best == pytest.approx(73.2, abs=0.1)
    assert found.high - found.low < 0.1


def test_the_same_is_all_of_it() -> None:
    """A copy that is the original in every reading, read exactly, is 100."""
    found = closeness([thing("a", 0.0), thing("b", 0.0)], "t")

    assert found is not None
    assert found.best == pytest.approx(100.0, abs=0.01)


@given(st.floats(0.0, 3.0), st.floats(0.05, 3.0))
def test_further_off_is_never_closer(off: float, further: float) -> None:
    """The score falls with the distance."""
    near, far = closeness([thing("a", off)], "t"), closeness([thing("a", off + further)], "t")

    assert near is not None
    assert far is not None
    assert far.best < near.best


def test_poor_readings_widen_the_range_and_do_not_pull_it_down_to_nothing() -> None:
    """With an error of three tolerances a score is hardly known, and is not called bad for that."""
    sure, unsure = closeness([thing("a", 0.5)], "t"), closeness([thing("a", 0.5, error=3.0)], "t")

    assert sure is not None
    assert unsure is not None
    assert unsure.high - unsure.low > 60
    assert unsure.low < sure.best < unsure.high


def test_a_trial_is_closer_than_another_by_what_was_read_in_both() -> None:
    """Two things in common: nearer in both is surely closer; the same readings again are an even chance."""
    first = [thing("a", 2.0, 0.3), thing("b", 1.0, 0.3), thing("c", 9.0)]
    second = [thing("a", 0.2, 0.3), thing("b", 0.1, 0.3), thing("d", 0.0)]
    found = closer(second, "two", first, "one")

    assert found is not None
    assert found[1] == 2
    assert found[0] > 0.99
    again = closer(first, "two", first, "one")
    assert again is not None
    assert again[0] == pytest.approx(0.5, abs=0.05)
    assert closer([thing("x", 0.0)], "two", first, "one") is None


def test_nothing_read_of_both_is_no_score() -> None:
    """Unknown stays unknown."""
    looked = trial_of(PARTS)

    assert looked.close is None
    assert closeness_summary(looked.compared) == "Nothing has been read of both yet."
    assert apart_words(row(looked, "weight piece")) == "Not known of the original and copy: weigh some pieces one by one"


def test_weights_are_compared_as_they_were_read() -> None:
    """Four originals of 20.0 g and four copies of 21.2: 1.2 g heavier; the caramel cannot be told by one reading each way."""
    looked = trial_of(PARTS, original=ORIGINAL, weighed={"piece": "21.1 21.4 21.0 21.3", "caramel": "12.3"})
    piece, caramel = row(looked, "weight piece").apart, row(looked, "weight caramel").apart

    assert piece is not None
    assert piece.value == pytest.approx(1.2)
    assert piece.is_told
    assert "1.2 g heavier" in apart_words(row(looked, "weight piece"))
    assert caramel is not None
    assert not caramel.is_told
    assert "No difference that these readings tell" in apart_words(row(looked, "weight caramel"))
    assert row(looked, "weight coat").apart is None


def test_one_wrong_figure_makes_none_of_the_field_count() -> None:
    """A field of several readings with one that is none is said, and compares nothing."""
    looked = trial_of(PARTS, original=ORIGINAL, weighed={"piece": "21.1 many 21.0"})
    several = looked.of.read.weighed["piece"]

    assert several.problem is not None
    assert "“many”" in several.problem
    assert row(looked, "weight piece").copy is None


def test_senses_are_as_sure_as_they_were_tasted() -> None:
    """Marks four apart: told side by side by one taster; with the original remembered their doubt is two and a half points."""
    sheets = {
        how: Sheet(id="s", tasted=how, original={"snap": "8"}, copy={"snap": "4"})
        for how in (Tasted.SIDE_BY_SIDE, Tasted.REMEMBERED)
    }
    beside, remembered = (row(trial_of(PARTS, sheets=(sheet,)), "sense snap").apart for sheet in sheets.values())

    assert beside is not None
    assert remembered is not None
    assert (beside.value, remembered.value) == (-4.0, -4.0)
    assert remembered.error == pytest.approx(2.5 * beside.error)
    assert beside.is_told
    assert not remembered.is_told


def test_tasters_are_compared_with_their_own_original() -> None:
    """Two tasters who use the line differently, one point apart each, are one point apart together."""
    sheets = (
        Sheet(id="a", original={"sweet": "3"}, copy={"sweet": "4"}),
        Sheet(id="b", original={"sweet": "7"}, copy={"sweet": "8"}),
    )
    found = row(trial_of(PARTS, sheets=sheets), "sense sweet")

    assert found.original is not None
    assert found.original.value == 5.0
    assert found.apart is not None
    assert found.apart.value == pytest.approx(1.0)


def test_a_mark_beyond_the_line_is_refused_with_a_sentence() -> None:
    """Eleven is no mark, and compares nothing."""
    looked = trial_of(PARTS, sheets=(Sheet(id="a", original={"sweet": "3"}, copy={"sweet": "11"}),))

    assert looked.of.read.sheets[0].copy["sweet"].problem == "Write a mark from 0 to 10."
    assert not [one for one in looked.compared if one.group is Group.SENSES]


def test_draws_are_the_same_on_every_machine() -> None:
    """The same readings give the same score, to the last digit, and another trial other draws."""
    one, again, other = (closeness([thing("a", 0.5, 1.0)], key) for key in ("t", "t", "u"))

    assert one is not None
    assert again is not None
    assert other is not None
    assert np.array_equal(one.draws, again.draws)
    assert not np.array_equal(one.draws, other.draws)
