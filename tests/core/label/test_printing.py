"""Computed values are printed as a label would."""

import math

import pytest

from fern_match.core.errors import OutOfRange
from fern_match.core.label.printing import printed
from fern_match.core.label.rows import Region, RowId


@pytest.mark.parametrize(
    ("row", "value", "text"),
    [
        (RowId.FAT, 0.4, "0"),
        (RowId.FAT, 0.6, "0.5"),
        (RowId.FAT, 2.6, "2.5"),
        (RowId.FAT, 4.9, "5"),
        (RowId.FAT, 5.4, "5"),
        (RowId.FAT, 11.5, "12"),
        (RowId.ENERGY_KCAL, 4, "0"),
        (RowId.ENERGY_KCAL, 47, "45"),
        (RowId.ENERGY_KCAL, 106.5, "110"),
        (RowId.CHOLESTEROL, 1.5, "0"),
        (RowId.CHOLESTEROL, 3, "<5"),
        (RowId.CHOLESTEROL, 8, "10"),
        (RowId.SODIUM, 3, "0"),
        (RowId.SODIUM, 83, "85"),
        (RowId.SODIUM, 146, "150"),
        (RowId.SUGARS, 22.6, "23"),
        (RowId.IRON, 1.24, "1.2"),
    ],
)
def test_us_printing(row: RowId, value: float, text: str) -> None:
    """21 CFR 101.9(c), forwards."""
    assert printed(Region.US, row, value) == text


@pytest.mark.parametrize(
    ("row", "value", "text"),
    [
        (RowId.FAT, 31.4, "31"),
        (RowId.FAT, 9.94, "9.9"),
        (RowId.FAT, 0.5, "<0.5"),
        (RowId.SATURATES, 0.1, "<0.1"),
        (RowId.SATURATES, 0.2, "0.2"),
        (RowId.SALT, 0.012, "<0.01"),
        (RowId.SALT, 0.376, "0.38"),
        (RowId.SALT, 1.25, "1.3"),
        (RowId.ENERGY_KCAL, 490.5, "491"),
    ],
)
def test_eu_printing(row: RowId, value: float, text: str) -> None:
    """The guidance of December 2012, table 4, forwards."""
    assert printed(Region.EU, row, value) == text


@pytest.mark.parametrize(
    ("region", "row", "value", "text"),
    [
        (Region.AU, RowId.SODIUM, 4.9, "<5"),
        (Region.AU, RowId.SODIUM, 12, "12"),
        (Region.AU, RowId.ENERGY_KJ, 39, "<40"),
        (Region.AU, RowId.FAT, 0.9, "<1"),
        (Region.AU, RowId.FAT, 31.45, "31.5"),
        (Region.AU, RowId.SATURATES, 0.4, "0.4"),
        (Region.CA, RowId.FAT, 0.32, "0.3"),
        (Region.CA, RowId.FAT, 2.6, "2.5"),
        (Region.CA, RowId.PROTEIN, 0.3, "0.3"),
        (Region.CA, RowId.PROTEIN, 3.4, "3"),
    ],
)
def test_australian_and_canadian_printing(region: Region, row: RowId, value: float, text: str) -> None:
    """Standard 1.2.8; Food and Drug Regulations B.01.401: where they differ from their neighbours."""
    assert printed(region, row, value) == text


@pytest.mark.parametrize("value", [-0.1, math.nan, 2e6])
def test_impossible_values_are_not_printed(value: float) -> None:
    """Outside the range there is an error, not a figure."""
    with pytest.raises(OutOfRange):
        printed(Region.EU, RowId.FAT, value)
