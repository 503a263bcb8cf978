"""Rows that cannot be true together are flagged, and true ones are not."""

import pytest

from fern_match.core.label.checks import contradictions, energy_interval_kcal
from fern_match.core.label.intervals import Interval
from fern_match.core.label.rows import Region, RowId


def exact(**values: float) -> dict[RowId, Interval]:
    """Rows without rounding."""
    return {RowId(name): Interval(value, value) for name, value in values.items()}


def test_eu_energy_of_a_bar_with_polyols() -> None:
    """Fat 30, carbohydrate 50 of which polyols 20, fibre 6, protein 6: 9x30 + 4x30 + 2.4x20 + 2x6 + 4x6 = 474 at most."""
    found = energy_interval_kcal(Region.EU, exact(fat=30, carbohydrate=50, polyols=20, fibre=6, protein=6))
    assert found is not None
    assert found.high == pytest.approx(474)
    assert found.low == pytest.approx(426)  # all of it erythritol, which has none


def test_us_energy_by_four_four_nine() -> None:
    """Fat 2.5, carbohydrate 20, protein 1: 22.5 + 80 + 4 = 106.5."""
    found = energy_interval_kcal(Region.US, exact(fat=2.5, carbohydrate=20, protein=1))
    assert found is not None
    assert found.high == pytest.approx(106.5)


def test_no_energy_without_its_parts() -> None:
    """Two of three parts say nothing."""
    assert energy_interval_kcal(Region.EU, exact(fat=30, protein=6)) is None


@pytest.mark.parametrize(
    ("rows", "about"),
    [
        ({"sugars": 60, "carbohydrate": 50}, "Of which sugars"),
        ({"saturates": 20, "fat": 15}, "Of which saturates"),
        ({"energy_kcal": 300, "fat": 30, "carbohydrate": 50, "protein": 6}, "kcal"),
        ({"energy_kj": 2000, "energy_kcal": 300}, "mistyped"),
        ({"fat": 50, "carbohydrate": 60, "protein": 5}, "add up to"),
    ],
)
def test_contradictions_are_sentences(rows: dict[str, float], about: str) -> None:
    """Each contradiction is found and says what it is about."""
    found = contradictions(Region.EU, exact(**rows), 100.0)
    assert any(about in one.sentence for one in found), found
    assert all(one.rows for one in found)


def test_a_true_label_is_left_alone() -> None:
    """The demo's own label fights nowhere."""
    rows = exact(energy_kj=2047, energy_kcal=490, fat=27, saturates=12, carbohydrate=51, sugars=35, protein=8.2, salt=0.38)
    assert contradictions(Region.EU, rows, 100.0) == ()
