"""Amounts are read as people write them, or flagged and never guessed: over two hundred of our own writing."""

from collections.abc import Callable

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.food import standard_pantry
from fern_match.core.measures import (
    Comma,
    Measures,
    Typed,
    read_celsius,
    read_count,
    read_grams,
    read_ingredient,
    read_metres,
    read_millimetres,
    read_percent,
)

PANTRY = standard_pantry()
OZ, LB = 28.349523125, 453.59237
US_CUP, US_TBSP, US_TSP = 236.58824, 14.78676, 4.92892

WEIGHTS = [
    ("42", 42), ("42 g", 42), ("42g", 42), ("  42 g ", 42), ("42 grams", 42), ("42 gr", 42), ("42 gm", 42),
    ("42 grammes", 42), ("8.4", 8.4), ("0.6", 0.6), (".5", 0.5), ("12.", 12), ("8.40 g", 8.4), ("0.125", 0.125), ("012", 12),
    ("42/3", 14), ("42 / 3", 14), ("42÷3", 14), ("12 x 0.6", 7.2), ("12x0.6", 7.2), ("12 × 0.6 g", 7.2), ("12 * 0.6", 7.2),
    ("0.6 g x 12", 7.2), ("(3+5)/2", 4), ("50 - 8", 42), ("342.1-298.4", 43.7), ("50 − 8", 42), ("3 + 4 + 5", 12),
    ("2 x (3 + 4)", 14), ("((2+3))", 5), ("10/4/5", 0.5), ("100 g / 8", 12.5), ("8.1 + 0.3 g", 8.4),
    ("8.1 g + 0.3 g", 8.4), ("84 g - 2 x 21 g + 1 g", 43), ("1 oz", OZ), ("1.5 oz", 1.5 * OZ), ("1.5oz.", 1.5 * OZ),
    ("3 ounces", 3 * OZ), ("1 1/2 oz", 1.5 * OZ), ("1½ oz", 1.5 * OZ), ("1 ½ oz", 1.5 * OZ), ("½ oz", OZ / 2),
    ("¼ oz", OZ / 4), ("⅔ oz", 2 / 3 * OZ), ("2⅛ oz", 2.125 * OZ), ("3/4 oz", 0.75 * OZ), ("(3+5)/2 oz", 4 * OZ),
    ("42/3 oz", 14 * OZ), ("12 x 0.6 oz", 7.2 * OZ), ("1 lb", LB), ("2 lbs", 2 * LB), ("1 pound", LB),
    ("1 lb 4 oz", LB + 4 * OZ), ("1 lb + 4 oz", LB + 4 * OZ), ("1 lb and 4 oz", LB + 4 * OZ), ("1 lb plus 4 oz", LB + 4 * OZ),
    ("1 lb less 4 oz", LB - 4 * OZ), ("1/2 lb", LB / 2), ("two lb", 2 * LB), ("half a pound", LB / 2), ("a pound", LB),
    ("one and a half pounds", 1.5 * LB), ("three quarters of a pound", 0.75 * LB), ("2 and 1/4 lb", 2.25 * LB),
    ("0.2 kg", 200), ("1 kg 250 g", 1250), ("1.5 kilos", 1500), ("500 mg", 0.5), ("1 oz + 5 g", OZ + 5), ("1e", None),
    ("3 oz x 2", 6 * OZ),
]  # fmt: skip
DECIMAL_COMMA = [
    ("12,5", 12.5), ("8,4 g", 8.4), ("0,6", 0.6), ("12 × 0,6", 7.2), ("1.250,5", 1250.5), ("1.234.567,8 mg", 1234.5678),
    ("1,234.5 g", 1234.5), ("1 250 g", 1250), ("1 250,5 g", 1250.5), ("1 250 g", 1250), ("0,125", 0.125),
    ("1,5 oz", 1.5 * OZ), ("1.2500 kg", 1250), ("12.5", 12.5), ("1,25", 1.25), (",5", 0.5),
]  # fmt: skip
GROUPS = [("1,250", 1250), ("1,250.5 g", 1250.5), ("12,500 mg", 12.5), ("1.250", 1.25), ("1.250 kg", 1250), ("2,000/4", 500)]
NO_WEIGHTS = [
    "abc", "-3", "0", "0 g", "1/0", "1/(2-2)", "9**9**9", "1 2", "8.1 8.3", "8.1, 8.3", "(2+3", "2+3)", "3 cups", "2 tbsp",
    "250 ml", "255 F", "12 C", "3 in", '3"', "5 %", "9999999", "1e400", "1e3", "__import__('os')", "1" * 300, "2-3 g",
    "--5", "8 - -5", "2–3 g", "2 — 3 g", "2 to 3 oz", "10-12 g", "about 12 g", "~12 g", "ca. 12 g", "12 g?", "12 or 13",
    "a bit", "to taste",
    "half", "two", "a", "1-1/2 oz", "2 1-1/2", "1/2/0", "3+5 oz", "1 oz + 5", "2 oz x 3 oz", "12 / 3 g / 2 g", "4 oz 1 lb",
    "1 oz 2 oz", "g", "oz 3", "12 gallons", "3 handfuls", "1.2.3", "1..2", "1 1/2/3/", "1 3/2 oz", "1.5 1/2 oz", "12,5,3",
    "five", "nan", "inf", "0x10", "1_000", "²", "½½", "42 g of", "g 42", "+", "()", "dozen", "12 pieces", "1 stick", "💚", "<5",
    "≤ 5 g", "42 g 8.4",
]  # fmt: skip
NO_WEIGHTS_WITH_DECIMAL_COMMA = ["1,250", "1.250", "12.345 g", "125.000", "1.250.50"]
NO_WEIGHTS_WITH_GROUPS = ["12,5", "1,25 g", "1,2345", "1.250,5", "12,5 x 2", "1 250 g", ",5 g"]
INGREDIENTS = [
    ("2 tbsp", "honey", Measures.US, 2 * US_TBSP * 1.42), ("2 tbsp", "honey", Measures.AU, 40 * 1.42),
    ("2 tbsp", "honey", Measures.METRIC, 30 * 1.42), ("2 tablespoons", "honey", Measures.UK, 30 * 1.42),
    ("2 tbsp.", "honey", Measures.US, 2 * US_TBSP * 1.42), ("2 tbs", "honey", Measures.US, 2 * US_TBSP * 1.42),
    ("2 level tbsp", "honey", Measures.METRIC, 30 * 1.42), ("2 US tbsp", "honey", Measures.AU, 2 * US_TBSP * 1.42),
    ("2 Australian tbsp", "honey", Measures.US, 40 * 1.42), ("1 metric cup", "honey", Measures.US, 250 * 1.42),
    ("1 UK cup", "honey", Measures.US, 284.13063 * 1.42), ("1 imperial pint", "honey", Measures.US, 568.26125 * 1.42),
    ("1 1/2 cup", "honey", Measures.US, 1.5 * US_CUP * 1.42), ("1½ cups", "honey", Measures.US, 1.5 * US_CUP * 1.42),
    ("1/3 cup", "honey", Measures.METRIC, 250 / 3 * 1.42), ("half a cup", "honey", Measures.METRIC, 125 * 1.42),
    ("one and a half cups", "honey", Measures.METRIC, 375 * 1.42),
    ("three quarters of a cup", "honey", Measures.METRIC, 187.5 * 1.42),
    ("two thirds cup", "honey", Measures.METRIC, 500 / 3 * 1.42),
    ("1 cup + 2 tbsp", "honey", Measures.US, (US_CUP + 2 * US_TBSP) * 1.42),
    ("1 cup 2 tbsp", "honey", Measures.US, (US_CUP + 2 * US_TBSP) * 1.42),
    ("1 cup less 1 tbsp", "honey", Measures.METRIC, 235 * 1.42), ("2 x 1/4 cup", "honey", Measures.METRIC, 125 * 1.42),
    ("1 cup/2", "honey", Measures.METRIC, 125 * 1.42), ("1 cup + 20 g", "honey", Measures.METRIC, 250 * 1.42 + 20),
    ("2 tbsp of honey", "honey", Measures.METRIC, 30 * 1.42), ("2 tbsp honey", "honey", Measures.METRIC, 30 * 1.42),
    ("30 g honey", "honey", Measures.METRIC, 30), ("30", "honey", Measures.US, 30), ("3 oz", "honey", Measures.US, 3 * OZ),
    ("3 fl oz", "honey", Measures.US, 88.72059 * 1.42), ("3 fl. oz.", "honey", Measures.UK, 85.23918 * 1.42),
    ("3 fluid ounces", "honey", Measures.US, 88.72059 * 1.42), ("250 ml", "honey", Measures.US, 250 * 1.42),
    ("250 mL", "honey", Measures.US, 250 * 1.42), ("25 cl", "honey", Measures.US, 250 * 1.42),
    ("2.5 dl", "honey", Measures.US, 250 * 1.42), ("0.25 l", "honey", Measures.US, 250 * 1.42),
    ("2 tsp", "honey", Measures.US, 2 * US_TSP * 1.42), ("a pinch", "honey", Measures.US, 0.3 * 1.42),
    ("1 quart", "honey", Measures.US, 946.35295 * 1.42), ("1 stick", "butter-unsalted", Measures.US, 113.4),
    ("1/2 stick butter", "butter-unsalted", Measures.US, 56.7), ("1½ sticks", "butter-unsalted", Measures.US, 170.1),
    ("1 stick + 1 tbsp", "butter-unsalted", Measures.US, 113.4 + US_TBSP * 0.96), ("2 eggs", "whole-egg", Measures.US, 100),
    ("2 large eggs", "whole-egg", Measures.US, 100), ("2 whites", "egg-white-fresh", Measures.US, 66),
    ("2 egg whites", "egg-white-fresh", Measures.US, 66), ("12 dates", "dates", Measures.US, 84),
    ("24 almonds", "almond-raw", Measures.US, 28.8), ("12 halves", "pecan", Measures.US, 18),
    ("3 cherries", "maraschino-cherry", Measures.US, 15), ("10 drops", "liquid-drop-sweetener", Measures.US, 0.5),
    ("6 squares", "soft-caramel-squares", Measures.US, 48),
]  # fmt: skip
NO_INGREDIENTS = [
    ("2 heaped tbsp", "honey"), ("a scant cup", "honey"), ("1 packed cup", "white-sugar"), ("2 T", "honey"), ("2 t", "honey"),
    ("2 honey", "honey"), ("2 tbsp sugar", "honey"), ("1 stick", "honey"), ("2 eggs", "honey"), ("1 cup, sifted", "honey"),
    ("2-3 tbsp", "honey"), ("a handful", "honey"), ("1 packet", "honey"), ("2 tbsp 1 cup", "honey"), ("255 F", "honey"),
    ("12 small eggs", "whole-egg"), ("1-1/2 cups", "honey"), ("cup", "honey"), ("tbsp 2", "honey"),
    ("2 cups x 3 cups", "honey"), ("1 half pecan", "honey"), ("3 + 5 ml", "honey"), ("2 tbsp %", "heavy-cream"),
    ("2,5 cups", "honey"),
]  # fmt: skip
CELSIUS = [
    ("118", 118), ("118 C", 118), ("118 °C", 118), ("118c", 118), ("118 degrees", None), ("245 F", 118.333),
    ("245°F", 118.333), ("245 fahrenheit", 118.333), ("32 F", 0), ("98,5", 98.5), ("121 celsius", 121), ("2 x 50 C", 100),
    ("118 + 2", 120), ("118 C + 2 C", None), ("118°", None), ("500", None), ("118 g", None), ("hot", None), ("-20 F", None),
]  # fmt: skip
LENGTHS = [
    ("38", 38), ("38 mm", 38), ("3.8 cm", 38), ("0.04 m", 40), ("1 1/2 in", 38.1), ('1½"', 38.1), ("1.5 inches", 38.1),
    ("1 ft 2 in", 355.6), ("1'2\"", 355.6), ("3,8 cm", 38), ("0", None), ("-3", None), ("2000", None), ("38 g", None),
    ("3-4 cm", None),
]  # fmt: skip


def _value_or_flag(found: Typed, typed: str, value: float | None) -> None:
    assert found.typed == typed
    if value is None:
        assert found.value is None, f"{typed!r} was guessed to be {found.value}"
        assert found.problem
    else:
        assert found.problem is None, found.problem
        assert found.value == pytest.approx(value, rel=1e-4)


def test_there_are_over_two_hundred() -> None:
    """As many as promised, all different."""
    weights = [typed for typed, _ in (*WEIGHTS, *DECIMAL_COMMA, *GROUPS)]
    flagged = [*NO_WEIGHTS, *NO_WEIGHTS_WITH_DECIMAL_COMMA, *NO_WEIGHTS_WITH_GROUPS]
    others = [(typed, food, measures) for typed, food, measures, _ in INGREDIENTS]
    assert len({*weights, *flagged, *others, *NO_INGREDIENTS, *CELSIUS, *LENGTHS}) > 250


@pytest.mark.parametrize("comma", list(Comma))
@pytest.mark.parametrize(("typed", "grams"), WEIGHTS)
def test_weights_in_any_region(typed: str, grams: float | None, comma: Comma) -> None:
    """Units, sums, fractions and words for numbers."""
    _value_or_flag(read_grams(typed, comma=comma), typed, grams)


@pytest.mark.parametrize(("typed", "grams"), DECIMAL_COMMA)
def test_weights_where_the_comma_is_decimal(typed: str, grams: float) -> None:
    """12,5 and 1.250,5 and 1 250."""
    _value_or_flag(read_grams(typed, comma=Comma.DECIMAL), typed, grams)


@pytest.mark.parametrize(("typed", "grams"), GROUPS)
def test_weights_where_the_comma_groups(typed: str, grams: float) -> None:
    """1,250 is a thousand and more."""
    _value_or_flag(read_grams(typed, comma=Comma.GROUPS), typed, grams)


@pytest.mark.parametrize("comma", list(Comma))
@pytest.mark.parametrize("typed", NO_WEIGHTS)
def test_what_is_no_weight_is_said(typed: str, comma: Comma) -> None:
    """A sentence, no value, and what was typed stays."""
    _value_or_flag(read_grams(typed, comma=comma), typed, None)


@pytest.mark.parametrize("typed", NO_WEIGHTS_WITH_DECIMAL_COMMA)
def test_what_two_regions_read_differently_is_not_guessed(typed: str) -> None:
    """1,250 may be a thousand and more or one and a quarter."""
    _value_or_flag(read_grams(typed, comma=Comma.DECIMAL), typed, None)


@pytest.mark.parametrize("typed", NO_WEIGHTS_WITH_GROUPS)
def test_a_comma_that_groups_nothing_is_said(typed: str) -> None:
    """12,5 on a US label is a slip or another country's habit."""
    _value_or_flag(read_grams(typed, comma=Comma.GROUPS), typed, None)


@pytest.mark.parametrize(
    ("typed", "words"),
    [
        ("abc", "Write grams or ounces"),
        ("-3", "-3 g was read; a weight is more than 0"),
        ("9999999", "more than 0 to 100000 g"),
        ("255 F", "a temperature; here a weight is wanted"),
        ("2 tbsp", "a volume, and what it weighs depends on what it is"),
        ("1,250", "Write 1250, or 1.2500"),
        ("1-1/2 oz", "Write 1 1/2, or 1 - 1/2"),
        ("2–3 g", "a range"),
        ("3+5 oz", "Give each its unit"),
        ("12 gallons", "“gallons” is not a unit known here"),
    ],
)
def test_a_problem_says_what_was_understood_and_what_is_accepted(typed: str, words: str) -> None:
    """In the user's terms."""
    problem = read_grams(typed).problem
    assert problem is not None
    assert words in problem


@pytest.mark.parametrize(("typed", "food", "measures", "grams"), INGREDIENTS)
def test_ingredients(typed: str, food: str, measures: Measures, grams: float) -> None:
    """Weight from spoons, cups and pieces, by density and country; error and assumption go with it."""
    found = read_ingredient(typed, PANTRY[food], measures=measures, comma=Comma.GROUPS)
    _value_or_flag(found, typed, grams)
    if found.low is not None and found.high is not None:
        assert found.low < grams < found.high
        assert found.assumption


@pytest.mark.parametrize(("typed", "food"), NO_INGREDIENTS)
def test_what_is_no_amount_of_an_ingredient_is_said(typed: str, food: str) -> None:
    """Heaped spoons, other things, and units that mean two things."""
    _value_or_flag(read_ingredient(typed, PANTRY[food], measures=Measures.US, comma=Comma.GROUPS), typed, None)


def test_a_spoonful_says_what_it_rests_on() -> None:
    """Worked example: 2 x 14.787 mL x 1.42 g/mL = 41.99 g, 8 % either way."""
    found = read_ingredient("2 tbsp", PANTRY["honey"], measures=Measures.US)
    assert found.value == pytest.approx(41.99, abs=0.01)
    assert (found.low, found.high) == (pytest.approx(41.99 * 0.92, abs=0.01), pytest.approx(41.99 * 1.08, abs=0.01))
    assert found.assumption == "Honey at 1.42 g/mL, US tbsp of 14.8 mL"


def test_none_in_the_house_is_an_amount_there_and_nowhere_else() -> None:
    """Zero is refused unless it makes sense."""
    assert read_ingredient("0", PANTRY["honey"], measures=Measures.US, zero=True).value == 0
    assert read_ingredient("0", PANTRY["honey"], measures=Measures.US).problem


@pytest.mark.parametrize(("typed", "temp_c"), CELSIUS)
def test_temperatures(typed: str, temp_c: float | None) -> None:
    """Celsius unless it says otherwise; 245 F = (245 - 32) x 5/9."""
    found = read_celsius(typed, low_c=0, high_c=200)
    assert (found.value is None) == (temp_c is None)
    if temp_c is not None:
        assert found.value == pytest.approx(temp_c, abs=0.001)


@pytest.mark.parametrize(("typed", "mm"), LENGTHS)
def test_lengths(typed: str, mm: float | None) -> None:
    """Millimetres unless it says otherwise."""
    _value_or_flag(read_millimetres(typed), typed, mm)


@pytest.mark.parametrize(
    ("typed", "metres"), [("1600", 1600), ("5200 ft", 1584.96), ("5,200 ft", 1584.96), ("-20", -20), ("9000", None)]
)
def test_heights(typed: str, metres: float | None) -> None:
    """Metres unless it says otherwise."""
    _value_or_flag(read_metres(typed, low_m=-430, high_m=6000, comma=Comma.GROUPS), typed, metres)


@pytest.mark.parametrize(
    ("typed", "count"),
    [
        ("12", 12),
        ("24 pieces", 24),
        ("2 x 6", 12),
        ("48/2", 24),
        ("1 bar", 1),
        ("a piece", 1),
        ("a dozen", 12),
        ("2 dozen pieces", 24),
        ("half a dozen", 6),
        ("1½ dozen", 18),
    ],
)
def test_counts(typed: str, count: int) -> None:
    """Whole numbers, sums of them, and words for pieces."""
    assert read_count(typed).value == count


@pytest.mark.parametrize("typed", ["1.5", "0", "-2", "many", "100000", "10/3", "12 g", "2 cups"])
def test_what_is_no_count_is_said(typed: str) -> None:
    """Parts of pieces, none, too many, and other kinds of amounts."""
    _value_or_flag(read_count(typed), typed, None)


@pytest.mark.parametrize(("typed", "value"), [("3.5", 3.5), ("3,5 %", 3.5), ("0", 0.0), ("7/2", 3.5), ("5 percent", 5)])
def test_percentages(typed: str, value: float) -> None:
    """With and without the sign."""
    assert read_percent(typed, most=50).value == pytest.approx(value)


@pytest.mark.parametrize("typed", ["-1", "80", "half", "5 %%", "5 g"])
def test_what_is_no_percentage_is_said(typed: str) -> None:
    """Outside 0 to the most, or no number."""
    assert read_percent(typed, most=50).problem


def _readers() -> list[Callable[[str], Typed]]:
    return [
        read_grams,
        read_count,
        read_millimetres,
        lambda text: read_percent(text, most=50),
        lambda text: read_celsius(text, low_c=0, high_c=200),
        lambda text: read_grams(text, comma=Comma.GROUPS),
        lambda text: read_ingredient(text, PANTRY["whole-egg"], measures=Measures.UK),
    ]


_SIGNS = st.text(alphabet="0123456789.,/x+-()% ½⅓gozCFtbspculmin\"'°", max_size=24)


@given(st.one_of(st.text(max_size=80), _SIGNS))
def test_no_text_breaks_the_readers(text: str) -> None:
    """Whatever is typed gives a value or a sentence or nothing for nothing, and is kept."""
    for reader in _readers():
        found = reader(text)
        assert found.typed == text
        assert (found.value is None and found.problem is None) == (not text.strip())
        assert found.value is None or found.problem is None


@given(st.floats(0.01, 9000, allow_nan=False))
def test_a_plain_number_is_itself(value: float) -> None:
    """What prints as a number reads as it."""
    assert read_grams(f"{value:.4f}").value == pytest.approx(value, abs=1e-4)


@given(st.floats(0.1, 90), st.sampled_from(["g", "oz", "tbsp", "cup", "ml"]), st.sampled_from(list(Measures)))
def test_twice_as_much_weighs_twice_as_much(amount: float, unit: str, measures: Measures) -> None:
    """In every unit and country."""
    one, two = (read_ingredient(f"{amount * times:.4f} {unit}", PANTRY["honey"], measures=measures).value for times in (1, 2))
    assert one is not None
    assert two == pytest.approx(2 * one, rel=2e-3)
