"""What was read, in the kitchen's units."""

import pytest

from fern_match.core.food import standard_pantry
from fern_match.core.measures import Measures, Typed, read_celsius, read_grams, read_ingredient, read_metres, read_millimetres
from fern_match.core.measures.shown import (
    LengthUnit,
    MassUnit,
    ShownIn,
    TemperatureUnit,
    shown_length,
    shown_mass,
    shown_temperature,
    what_was_read,
)

METRIC = ShownIn()
IMPERIAL = ShownIn(mass=MassUnit.OUNCES, temperature=TemperatureUnit.FAHRENHEIT, length=LengthUnit.INCHES)
HONEY = read_ingredient("2 tbsp", standard_pantry()["honey"], measures=Measures.METRIC)


@pytest.mark.parametrize(
    ("field", "metric", "imperial"),
    [
        (read_grams("42"), None, "1.48 oz"),
        (read_grams("42 g"), None, "1.48 oz"),
        (read_grams("1.5 oz"), "42.5 g", None),
        (read_grams("42/3"), "14 g", "0.494 oz"),
        (read_grams("lots"), None, None),
        (read_grams(""), None, None),
        (
            HONEY,
            "42.6 g, 39.2 to 46: Honey at 1.42 g/mL, metric tbsp of 15 mL",
            "1.5 oz, 1.38 to 1.62: Honey at 1.42 g/mL, metric tbsp of 15 mL",
        ),
        (read_celsius("245 F", low_c=0, high_c=200), "118 °C", None),
        (read_celsius("118", low_c=0, high_c=200), None, "244 °F"),
        (read_celsius("98.5 C", low_c=0, high_c=200), None, "209 °F"),
        (read_millimetres("1 1/2 in"), "38.1 mm", "1.5 in"),
        (read_metres("1600 m", low_m=0, high_m=6000), None, "5249 ft"),
    ],
)
def test_what_was_read_stands_beside_what_was_typed(field: Typed, metric: str | None, imperial: str | None) -> None:
    """Only where it says more than the field does."""
    assert what_was_read(field, METRIC) == metric
    assert what_was_read(field, IMPERIAL) == imperial


def test_temperatures_and_lengths_are_shown_as_tools_show_them() -> None:
    """Half degrees Celsius, whole degrees Fahrenheit; tenths of millimetres, hundredths of inches."""
    assert shown_temperature(112.6, TemperatureUnit.CELSIUS) == "112.5 °C"
    assert shown_temperature(118.0, TemperatureUnit.FAHRENHEIT) == "244 °F"
    assert (shown_mass(42.5, MassUnit.OUNCES), shown_mass(42.5, MassUnit.GRAMS)) == ("1.5 oz", "42.5 g")
    assert shown_length(25.4, LengthUnit.INCHES) == "1.00 in"
    assert shown_length(25.43, LengthUnit.MILLIMETRES) == "25.4 mm"
