"""Amounts are read as people write them, or flagged and never guessed."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.measures import read_count, read_grams
from fern_match.core.measures.amounts import read_percent


@pytest.mark.parametrize(
    ("typed", "grams"),
    [
        ("42", 42),
        ("42 g", 42),
        ("42g", 42),
        ("8.4", 8.4),
        ("8,4", 8.4),
        ("42/3", 14),
        ("12 x 0.6", 7.2),
        ("12 × 0,6", 7.2),
        ("(3+5)/2", 4),
        ("50 - 8", 42),
        ("1 oz", 28.349523125),
        ("1.5 oz", 42.5242846875),
        ("1 1/2 oz", 42.5242846875),
        ("1½ oz", 42.5242846875),
        ("¼ oz", 7.08738078125),
        ("1 lb", 453.59237),
        ("0.2 kg", 200),
        ("500 mg", 0.5),
        ("1,234.5 g", 1234.5),
    ],
)
def test_masses(typed: str, grams: float) -> None:
    """Units, sums, fractions, commas."""
    found = read_grams(typed)
    assert found.value == pytest.approx(grams)
    assert found.problem is None
    assert found.typed == typed


@pytest.mark.parametrize(
    ("typed", "words"),
    [
        ("abc", "not read as a weight"),
        ("-3", "more than 0"),
        ("0", "more than 0"),
        ("1/0", "not read"),
        ("9**9**9", "not read"),
        ("1 2", "not read"),
        ("(2+3", "not read"),
        ("3 cups", "not a unit of weight"),
        ("9999999", "the most that makes sense"),
        ("1e400", "not read"),
        ("__import__('os')", "not read"),
        ("1" * 300, "not read"),
    ],
)
def test_what_is_no_mass_is_said(typed: str, words: str) -> None:
    """A sentence, no value, and what was typed stays."""
    found = read_grams(typed)
    assert found.value is None
    assert found.problem is not None
    assert words in found.problem
    assert found.typed == typed


def test_an_empty_field_is_no_problem() -> None:
    """Nothing typed, nothing read, nothing to say."""
    found = read_grams("  ")
    assert (found.value, found.problem) == (None, None)


@pytest.mark.parametrize(("typed", "count"), [("12", 12), ("24 pieces", 24), ("2 x 6", 12), ("48/2", 24), ("1 bar", 1)])
def test_counts(typed: str, count: int) -> None:
    """Whole numbers, sums of them, and words for pieces."""
    assert read_count(typed).value == count


@pytest.mark.parametrize("typed", ["1.5", "0", "-2", "many", "100000", "10/3"])
def test_what_is_no_count_is_said(typed: str) -> None:
    """Parts of pieces, none, and too many."""
    found = read_count(typed)
    assert found.value is None
    assert found.problem


@pytest.mark.parametrize(("typed", "value"), [("3.5", 3.5), ("3,5 %", 3.5), ("0", 0.0)])
def test_percentages(typed: str, value: float) -> None:
    """With and without the sign."""
    assert read_percent(typed, most=50).value == pytest.approx(value)


@pytest.mark.parametrize("typed", ["-1", "80", "half", "5 %%"])
def test_what_is_no_percentage_is_said(typed: str) -> None:
    """Outside 0 to the most, or no number."""
    assert read_percent(typed, most=50).problem


@given(st.text(max_size=80))
def test_no_text_breaks_the_readers(text: str) -> None:
    """Whatever is typed gives a value or a sentence or nothing for nothing, and is kept."""
    for found in (read_grams(text), read_count(text), read_percent(text, most=50)):
        assert found.typed == text
        if text.strip():
            assert (found.value is None) != (found.problem is None)


@given(st.floats(0.01, 9000, allow_nan=False))
def test_a_plain_number_is_itself(value: float) -> None:
    """What prints as a number reads as it."""
    assert read_grams(f"{value:.4f}").value == pytest.approx(value, abs=1e-4)
