"""Recipe lines of our own, in six sets by different manners: amount, unit and ingredient right, the rest flagged."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.food import Pantry, standard_pantry
from fern_match.core.measures import Measures
from fern_match.core.recipe import LineKind, RecipeLine, read_line

LINES = Path(__file__).parent / "lines"
Case = tuple[str, str, str, str, str]
SETS = ("worked", "held", "fresh", "fourth", "fifth", "sixth")


def cases(name: str) -> list[Case]:
    """A set: country, line, grams, ingredient, what is wanted."""
    rows = (LINES / f"{name}.txt").read_text(encoding="utf-8").splitlines()
    return [tuple(cell.strip() for cell in row.split(" | ")) for row in rows if not row.startswith("#")]  # type: ignore[misc]


def times(text: str) -> float:
    """A product, as the sets write grams: "2*14.787*1.42"."""
    value = 1.0
    for factor in text.split("*"):
        value *= float(factor)
    return value


def is_right(case: Case, line: RecipeLine) -> bool:
    """Whether a line was read as the set says."""
    _, _, grams, ingredient, wanted = case
    if wanted == "free":
        return line.kind is not LineKind.AMOUNT and line.problem is None
    if wanted == "asked":
        return line.problem is not None and (ingredient != "-" or line.ingredient_id is None)
    if line.problem is not None or line.ingredient_id != ingredient or line.grams is None:
        return False
    if grams == "-":
        return True
    if ".." in grams:
        low, high = (float(end) for end in grams.split(".."))
        return line.low_g == pytest.approx(low, rel=0.03) and line.high_g == pytest.approx(high, rel=0.03)
    return line.grams == pytest.approx(times(grams), rel=0.05)


@pytest.mark.parametrize("name", SETS)
def test_sets_of_lines(name: str, pantry: Pantry) -> None:
    """Every line of every set: amount, unit and ingredient, or a question where there is one."""
    wrong = [case[1] for case in cases(name) if not is_right(case, read_line(case[1], pantry, measures=Measures(case[0])))]
    assert not wrong


def test_there_are_enough_lines() -> None:
    """At least 300, across four countries."""
    every = [case for name in SETS for case in cases(name)]
    assert len(every) >= 300
    assert {case[0] for case in every} == {"US", "UK", "AU", "metric"}


def test_what_a_reading_rests_on_is_said(pantry: Pantry) -> None:
    """Cup standard, density, can size."""
    cup = read_line("2 cups honey", pantry, measures=Measures.US)
    assert "US cup of 236.6 mL" in cup.assumed
    assert "Honey at 1.42 g/mL" in cup.assumed
    can = read_line("1 can condensed milk", pantry, measures=Measures.AU)
    assert can.grams == 395
    assert any("395 g" in words for words in can.assumed)


def test_a_spoon_is_unsure_and_a_scale_is_not(pantry: Pantry) -> None:
    """Ranges are of the measure."""
    spoon = read_line("1 tbsp honey", pantry, measures=Measures.METRIC)
    assert spoon.low_g is not None
    assert spoon.high_g is not None
    assert spoon.grams is not None
    assert spoon.low_g < 0.95 * spoon.grams < spoon.grams < 1.05 * spoon.grams < spoon.high_g
    weighed = read_line("21 g honey", pantry, measures=Measures.METRIC)
    assert weighed.low_g == weighed.high_g == 21


def test_two_amounts_that_disagree_are_both_shown(pantry: Pantry) -> None:
    """Neither is taken: 1 US cup of sugar is 201 g, not 100 g."""
    line = read_line("100 g (1 cup) granulated sugar", pantry, measures=Measures.US)
    assert line.grams is None
    assert line.low_g == 100
    assert line.high_g == pytest.approx(201, abs=1)
    assert "differ by 101 %" in (line.problem or "")


def test_bought_and_ready(pantry: Pantry) -> None:
    """A drained can is less than what was bought; both are there."""
    line = read_line("1 can (400 g) maraschino cherries, drained", pantry, measures=Measures.METRIC)
    assert line.bought is not None
    assert line.bought.bought_g == pytest.approx(400)
    assert line.bought.ready_g == line.grams == pytest.approx(240)


@given(st.text(max_size=320))
def test_any_text_is_read_or_asked_about(text: str) -> None:
    """Nothing breaks it, and an amount is never below nothing."""
    line = read_line(text, standard_pantry(), measures=Measures.US)
    assert line.line == text
    assert line.grams is None or line.grams >= 0
    assert line.problem or line.grams is not None or line.kind is not LineKind.AMOUNT


@given(
    st.integers(1, 900),
    st.sampled_from(["g sugar", "g dark chocolate", "g honey", "g butter, softened", "g plain flour, sifted"]),
)
def test_grams_are_grams(count: int, rest: str) -> None:
    """Whatever stands behind them."""
    line = read_line(f"{count} {rest}", standard_pantry(), measures=Measures.METRIC)
    assert line.grams == count
    assert line.problem is None


@pytest.mark.parametrize("measures", list(Measures))
def test_a_table_spoon_is_the_country_s(measures: Measures, pantry: Pantry) -> None:
    """15 mL, 14.8 mL in the US, 20 mL in Australia."""
    size = {Measures.US: 14.787, Measures.METRIC: 15, Measures.UK: 15, Measures.AU: 20}[measures]
    assert read_line("1 tbsp water", pantry, measures=measures).grams == pytest.approx(size, rel=1e-3)


@pytest.mark.parametrize(
    ("line", "ingredient", "grams"),
    [
        ("zest of 1 orange", "citrus-zest", 7),
        ("finely grated zest of 2 lemons", "citrus-zest", 8),
        ("1 lemon, zested", "citrus-zest", 4),
        ("2 limes, juiced", "lime-juice", 60),
        ("juice and zest of 1 lemon", None, None),
        ("finely grated zest and juice of 2 lemons", None, None),
        ("1 orange, zested and juiced", None, None),
        ("1/4 cup popcorn kernels", None, None),
        ("1 tsp lemon extract", None, None),
        ("1 can (397g) dulce de leche", "dulce-de-leche", 397),
        ("20 drops orange oil", "citrus-oil", 0.85),
        ("2 tsp rose water", "rose-water", 10),
    ],
)
def test_zest_oils_and_what_is_easily_taken_for_another(line: str, ingredient: str | None, grams: float | None) -> None:
    """Zest is no juice, an extract no oil, maize no popcorn; two things on one line are asked about, not halved."""
    read = read_line(line, standard_pantry(), measures=Measures.METRIC)
    assert read.ingredient_id == ingredient
    assert read.grams == (None if grams is None else pytest.approx(grams))
    assert (read.problem is None) == (ingredient is not None)
