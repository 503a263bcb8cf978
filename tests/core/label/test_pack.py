"""Weights, servings and whole panels as packs print them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.label.pack import read_pack_weight, read_servings
from fern_match.core.label.panel import read_panel
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.measures import Comma


@pytest.mark.parametrize(
    ("typed", "grams"),
    [
        ("1.69 oz (48 g)", 48.0),
        ("48 g (1.69 oz)", 48.0),
        ("NET WT 1.69 OZ", 47.911),
        ("Net Wt. 1.69 oz / 48 g", 48.0),
        ("39g e", 39.0),
        ("39 g ℮", 39.0),
        ("1 bar (48g)", 48.0),
        ("2 pieces (28g)", 28.0),
        ("2 x 19.5g", 39.0),
        ("about 40 g", 40.0),
    ],
)
def test_weights_are_read_as_printed(typed: str, grams: float) -> None:
    """Twice, with marks, with pieces before them."""
    found = read_pack_weight(typed, least_g=0.01, most_g=10_000, comma=Comma.GROUPS)
    assert found.value == pytest.approx(grams, abs=0.001), found.problem
    assert found.typed == typed


def test_a_weight_printed_twice_must_agree() -> None:
    """An ounce and a half is not 84 g: both are told."""
    found = read_pack_weight("1.69 oz (84 g)", least_g=0.01, most_g=10_000, comma=Comma.GROUPS)
    assert found.value is None
    assert found.problem == "“1.69 oz” is 47.9 g, but the bracket says 84 g. Which is it?"


@pytest.mark.parametrize(
    ("typed", "count"),
    [("about 2.5 servings", 2.5), ("3", 3.0), ("Servings per container: 8", 8.0), ("8 servings per pack", 8)],
)
def test_servings_may_be_fractions(typed: str, count: float) -> None:
    """As printed."""
    assert read_servings(typed, Comma.GROUPS).value == count


@pytest.mark.parametrize("typed", ["many", "0", "9999 servings"])
def test_servings_that_cannot_be_get_a_sentence(typed: str) -> None:
    """What was typed and what to write."""
    assert "Write a number" in (read_servings(typed, Comma.GROUPS).problem or "")


US_PANEL = """Nutrition Facts
8 servings per container
Serving size 2 pieces (28g)
Calories 150
Total Fat 9g 12%
Saturated Fat 5g 25%
Trans Fat 0g
Cholesterol <5mg 1%
Sodium 40mg 2%
Total Carbohydrate 17g 6%
Dietary Fiber 1g 4%
Total Sugars 14g
Includes 12g Added Sugars 24%
Protein 2g
Calcium 40mg 4%"""
UK_PANEL = """Typical values per 100g per 45g bar
Energy 2288kJ/549kcal 1030kJ/247kcal
Fat 33g 15g of which saturates 18g 8.1g
Carbohydrate 55g 25g of which sugars 50g 22g
Fibre 2.1g 0.9g Protein 6.5g 2.9g Salt 0.24g 0.11g"""
AU_PANEL = """Servings per package: 4 Serving size: 25 g
Avg Qty per serving Avg Qty per 100 g
Energy 555 kJ 2220 kJ
Protein 1.9 g 7.5 g
Fat, total 7.9 g 31.4 g
- saturated 4.6 g 18.5 g
Carbohydrate 13.8 g 55.2 g
- sugars 13.2 g 52.7 g
Sodium 22 mg 88 mg"""


def test_a_us_panel_fills_its_rows() -> None:
    """Percentages of daily values are passed over, added sugars are not total ones."""
    panel = read_panel(US_PANEL, Region.US)
    assert (panel.basis, panel.serving, panel.servings) == (Basis.SERVING, "2 pieces (28g)", "8")
    assert panel.rows[RowId.ADDED_SUGARS] == "12 g".removesuffix(" g")
    assert panel.rows[RowId.SUGARS] == "14"
    assert panel.rows[RowId.CHOLESTEROL] == "<5"
    assert len(panel.rows) == 12
    assert not panel.other_rows


@pytest.mark.parametrize(
    ("text", "region", "basis", "serving", "row", "first", "second"),
    [
        (UK_PANEL, Region.UK, Basis.PER_100_G, "45g", RowId.ENERGY_KJ, "2288", "1030"),
        (UK_PANEL, Region.UK, Basis.PER_100_G, "45g", RowId.SATURATES, "18", "8.1"),
        (AU_PANEL, Region.AU, Basis.SERVING, "25 g", RowId.SODIUM, "22", "88"),
        (AU_PANEL, Region.AU, Basis.SERVING, "25 g", RowId.FAT, "7.9", "31.4"),
    ],
)
def test_both_columns_of_a_panel_are_read(
    text: str, region: Region, basis: Basis, serving: str, row: RowId, first: str, second: str
) -> None:
    """Which is which is told by their heads."""
    panel = read_panel(text, region)
    assert (panel.basis, panel.serving) == (basis, serving)
    assert (panel.rows[row], panel.other_rows[row]) == (first, second)


@given(st.text(alphabet="abcfat sugrenykJ0123456789.,:%<()\n-", max_size=300))
def test_no_text_breaks_the_panel_reader(text: str) -> None:
    """Whatever is pasted, only rows of the region come back."""
    panel = read_panel(text, Region.EU)
    assert RowId.SODIUM not in panel.rows
