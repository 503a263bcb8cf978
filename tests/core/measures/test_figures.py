"""Figures are written by one rule, here and in the interface: tests/figures.json is read by both."""

import json
from pathlib import Path

import pytest

from fern_match.core.measures.figures import figure, range_words

TABLE = json.loads((Path(__file__).parents[2] / "figures.json").read_text())


@pytest.mark.parametrize("row", TABLE["figures"], ids=lambda row: row["text"])
def test_a_figure_is_written_as_in_the_table(row: dict[str, float]) -> None:
    """Decimals by size, a half away from nought."""
    assert figure(row["value"], row.get("decimals")) == row["text"]  # type: ignore[arg-type]


@pytest.mark.parametrize("row", TABLE["ranges"], ids=lambda row: row["text"])
def test_a_range_is_written_as_in_the_table(row: dict[str, float]) -> None:
    """Both ends with the decimals of the high one."""
    assert range_words(row["low"], row["high"]) == row["text"]
