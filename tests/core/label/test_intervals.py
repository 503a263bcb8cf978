"""Declared figures stand for the intervals that the rounding rules give."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.errors import OutOfRange
from fern_match.core.label.intervals import DeclaredFigure, Interval, declared_interval, read_declared
from fern_match.core.label.printing import printed
from fern_match.core.label.rows import Region, RowId
from fern_match.core.measures import Comma


def figure(text: str, comma: Comma = Comma.DECIMAL) -> DeclaredFigure:
    """A figure as typed."""
    found = read_declared(text, comma)
    assert isinstance(found, DeclaredFigure), found
    return found


@pytest.mark.parametrize(
    ("row", "text", "low", "high"),
    [
        (RowId.ENERGY_KCAL, "0", 0, 5),
        (RowId.ENERGY_KCAL, "5", 2.5, 7.5),
        (RowId.ENERGY_KCAL, "45", 42.5, 47.5),
        (RowId.ENERGY_KCAL, "50", 47.5, 55),
        (RowId.ENERGY_KCAL, "60", 55, 65),
        (RowId.ENERGY_KCAL, "210", 205, 215),
        (RowId.FAT, "0", 0, 0.5),
        (RowId.FAT, "0.5", 0.5, 0.75),
        (RowId.FAT, "2.5", 2.25, 2.75),
        (RowId.FAT, "5", 4.75, 5.5),
        (RowId.FAT, "6", 5.5, 6.5),
        (RowId.CHOLESTEROL, "0", 0, 2),
        (RowId.CHOLESTEROL, "<5", 2, 5),
        (RowId.CHOLESTEROL, "10", 7.5, 12.5),
        (RowId.SODIUM, "0", 0, 5),
        (RowId.SODIUM, "5", 5, 7.5),
        (RowId.SODIUM, "80", 77.5, 82.5),
        (RowId.SODIUM, "140", 137.5, 145),
        (RowId.SODIUM, "150", 145, 155),
        (RowId.CARBOHYDRATE, "0", 0, 0.5),
        (RowId.CARBOHYDRATE, "<1", 0.5, 1),
        (RowId.SUGARS, "23", 22.5, 23.5),
        (RowId.CALCIUM, "0", 0, 26),
        (RowId.CALCIUM, "60", 55, 65),
        (RowId.IRON, "1.2", 1.15, 1.25),
        (RowId.POTASSIUM, "0", 0, 94),
    ],
)
def test_us_figures(row: RowId, text: str, low: float, high: float) -> None:
    """Each row of the table of 21 CFR 101.9(c)."""
    found = declared_interval(Region.US, row, figure(text))
    assert (found.low, found.high) == pytest.approx((low, high))


@pytest.mark.parametrize("region", [Region.EU, Region.UK])
@pytest.mark.parametrize(
    ("row", "text", "low", "high"),
    [
        (RowId.FAT, "31", 30.5, 31.5),
        (RowId.FAT, "31.0", 30.95, 31.05),
        (RowId.FAT, "12,4", 12.35, 12.45),
        (RowId.FAT, "0", 0, 0.5),
        (RowId.SUGARS, "<0.5", 0, 0.5),
        (RowId.SATURATES, "0", 0, 0.1),
        (RowId.SATURATES, "<0.1", 0, 0.1),
        (RowId.SALT, "0.21", 0.205, 0.215),
        (RowId.SALT, "1.2", 1.15, 1.25),
        (RowId.ENERGY_KCAL, "514", 513.5, 514.5),
    ],
)
def test_eu_and_uk_figures(region: Region, row: RowId, text: str, low: float, high: float) -> None:
    """Half a unit of the last printed digit, and what 0 and "<" mean."""
    found = declared_interval(region, row, figure(text))
    assert (found.low, found.high) == pytest.approx((low, high))


@pytest.mark.parametrize(
    ("region", "row", "text", "low", "high"),
    [
        (Region.CA, RowId.PROTEIN, "0.3", 0.25, 0.35),
        (Region.CA, RowId.PROTEIN, "1", 0.5, 1.5),
        (Region.CA, RowId.PROTEIN, "0.8", 0.5, 1.3),
        (Region.CA, RowId.FAT, "0.2", 0.15, 0.25),
        (Region.CA, RowId.FAT, "2.5", 2.25, 2.75),
        (Region.CA, RowId.ENERGY_KCAL, "3", 2.5, 3.5),
        (Region.AU, RowId.SODIUM, "<5", 0.0, 5.0),
        (Region.AU, RowId.SODIUM, "12", 11.5, 12.5),
        (Region.AU, RowId.FAT, "0.0", 0.0, 0.05),
    ],
)
def test_canadian_and_australian_figures(region: Region, row: RowId, text: str, low: float, high: float) -> None:
    """Food and Drug Regulations B.01.401; standard 1.2.8: a protein of 0.8 g is of the coarse steps, from half a gram."""
    assert declared_interval(region, row, figure(text)) == Interval(pytest.approx(low), pytest.approx(high))


def test_us_figure_off_the_steps_is_taken_at_its_last_digit() -> None:
    """5.3 g of fat is no US step; it is kept and read as 5.25 to 5.35."""
    found = declared_interval(Region.US, RowId.FAT, figure("5.3"))
    assert (found.low, found.high) == pytest.approx((5.25, 5.35))


def test_negative_figures_are_refused() -> None:
    """A label figure is 0 or more, and the error says which value it was."""
    with pytest.raises(OutOfRange) as caught:
        declared_interval(Region.EU, RowId.FAT, DeclaredFigure(-1.0))
    assert caught.value.value == -1.0


@pytest.mark.parametrize(
    ("typed", "value", "decimals", "less"),
    [
        ("12.4", 12.4, 1, False),
        ("12,4 g", 12.4, 1, False),
        ("31g", 31, 0, False),
        ("<0.5", 0.5, 1, True),
        ("less than 1 g", 1, 0, True),
        (" 490 kcal", 490, 0, False),
        ("2047 kJ", 2047, 0, False),
        ("80mg", 80, 0, False),
    ],
)
def test_figures_are_read_as_printed(typed: str, value: float, decimals: int, less: bool) -> None:
    """Units, commas and "less than" are understood."""
    assert figure(typed) == DeclaredFigure(value, decimals, less)


@pytest.mark.parametrize("typed", ["", "abc", "-3", "1.2.3", "3 cups", "12 / 4", "NaN", "1e5"])
def test_what_is_no_figure_is_said(typed: str) -> None:
    """Nothing is guessed."""
    assert isinstance(read_declared(typed), str)


@pytest.mark.parametrize(
    ("typed", "comma", "value", "decimals"),
    [
        ("1,200", Comma.GROUPS, 1200, 0),
        ("1,200 mg", Comma.GROUPS, 1200, 0),
        ("1,200.50", Comma.GROUPS, 1200.5, 2),
        ("1 200 kJ", Comma.DECIMAL, 1200, 0),
        ("1.200,5", Comma.DECIMAL, 1200.5, 1),
        ("12,0", Comma.DECIMAL, 12, 1),
        ("12.0", Comma.GROUPS, 12, 1),
    ],
)
def test_thousands_are_grouped_as_the_region_groups_them(typed: str, comma: Comma, value: float, decimals: int) -> None:
    """A US label's 1,200 mg are not 1.2."""
    assert figure(typed, comma) == DeclaredFigure(value, decimals)


@pytest.mark.parametrize(("typed", "comma"), [("1,200", Comma.DECIMAL), ("1.200", Comma.DECIMAL), ("12,4", Comma.GROUPS)])
def test_what_regions_read_differently_is_said(typed: str, comma: Comma) -> None:
    """With both readings, or how to write it."""
    said = read_declared(typed, comma)
    assert isinstance(said, str)
    assert "Write" in said


_PRINTED_ROWS = [RowId.FAT, RowId.SATURATES, RowId.CARBOHYDRATE, RowId.SUGARS, RowId.PROTEIN, RowId.ENERGY_KCAL]


@given(st.sampled_from([Region.US, Region.EU]), st.sampled_from(_PRINTED_ROWS), st.floats(0, 600))
def test_printing_then_reading_holds_the_value(region: Region, row: RowId, value: float) -> None:
    """The interval of what a label prints for a value holds that value."""
    found = declared_interval(region, row, figure(printed(region, row, value), Comma.GROUPS))
    assert found.low - 1e-6 <= value <= found.high + 1e-6


@given(st.sampled_from(list(Region)), st.sampled_from(_PRINTED_ROWS), st.integers(0, 90))
def test_intervals_hold_their_figure(region: Region, row: RowId, value: int) -> None:
    """A declared figure lies in what it stands for."""
    found = declared_interval(region, row, DeclaredFigure(float(value)))
    assert found.low <= value <= found.high
    assert isinstance(found, Interval)
    assert found.low <= found.middle <= found.high
