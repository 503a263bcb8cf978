"""Amounts as the kitchen shows them: grams or ounces, Celsius or Fahrenheit, millimetres or inches."""

import re
from dataclasses import dataclass
from enum import StrEnum

from fern_match.core.measures.amounts import Typed
from fern_match.core.measures.units import GRAMS_PER_OUNCE, METRES_PER_FOOT, MM_PER_INCH

_PLAIN_FIGURE = re.compile(r"\d+(?:[.,]\d+)?\s*(?P<unit>\S*)")


class MassUnit(StrEnum):
    """How masses are shown."""

    GRAMS = "g"
    OUNCES = "oz"


class TemperatureUnit(StrEnum):
    """How temperatures are shown."""

    CELSIUS = "C"
    FAHRENHEIT = "F"


class LengthUnit(StrEnum):
    """How lengths are shown."""

    MILLIMETRES = "mm"
    INCHES = "in"


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownIn:
    """The units a kitchen is shown in."""

    mass: MassUnit = MassUnit.GRAMS
    temperature: TemperatureUnit = TemperatureUnit.CELSIUS
    length: LengthUnit = LengthUnit.MILLIMETRES


def in_fahrenheit(temp_c: float) -> float:
    """A temperature in degrees Fahrenheit.

    Args:
        temp_c: In degrees Celsius.

    >>> in_fahrenheit(118.0)
    244.4
    """
    return temp_c * 9 / 5 + 32


def shown_temperature(temp_c: float, unit: TemperatureUnit) -> str:
    """A temperature to the nearest half degree Celsius or whole degree Fahrenheit: "116.5 °C".

    Args:
        temp_c: In degrees Celsius.
    """
    if unit is TemperatureUnit.FAHRENHEIT:
        return f"{in_fahrenheit(temp_c):.0f} °F"
    return f"{round(2 * temp_c) / 2:g} °C"


def shown_difference(difference_c: float, unit: TemperatureUnit) -> str:
    """A difference of temperatures to a tenth of a degree.

    Args:
        difference_c: In degrees Celsius.
    """
    if unit is TemperatureUnit.FAHRENHEIT:
        return f"{difference_c * 9 / 5:.1f} °F"
    return f"{difference_c:.1f} °C"


def shown_mass(grams: float, unit: MassUnit) -> str:
    """A weight in three figures.

    Args:
        grams: In grams.
    """
    return f"{_figure(grams / GRAMS_PER_OUNCE)} oz" if unit is MassUnit.OUNCES else f"{_figure(grams)} g"


def shown_length(mm: float, unit: LengthUnit) -> str:
    """A length to the nearest tenth of a millimetre or hundredth of an inch.

    Args:
        mm: In millimetres.
    """
    return f"{mm / MM_PER_INCH:.2f} in" if unit is LengthUnit.INCHES else f"{round(mm, 1):g} mm"


def what_was_read(field: Typed, shown_in: ShownIn) -> str | None:
    """What a field was read as, in the kitchen's unit, where that is more than what stands there: "42 g, 39 to 45"."""
    if field.value is None:
        return None
    size, unit = _shown_unit(field.unit, shown_in)
    if field.assumption is None and _says_it_already(field, unit):
        return None
    convert = in_fahrenheit if unit == "°F" else lambda value: value / size
    words = f"{_figure(convert(field.value))} {unit}"
    if field.low is not None and field.high is not None:
        words += f", {_figure(convert(field.low))} to {_figure(convert(field.high))}"
    return f"{words}: {field.assumption}" if field.assumption else words


def _shown_unit(unit: str, shown_in: ShownIn) -> tuple[float, str]:
    if unit == "g" and shown_in.mass is MassUnit.OUNCES:
        return GRAMS_PER_OUNCE, "oz"
    if unit == "°C" and shown_in.temperature is TemperatureUnit.FAHRENHEIT:
        return 1.0, "°F"
    if unit == "mm" and shown_in.length is LengthUnit.INCHES:
        return MM_PER_INCH, "in"
    if unit == "m" and shown_in.length is LengthUnit.INCHES:
        return METRES_PER_FOOT, "ft"
    return 1.0, unit


def _says_it_already(field: Typed, unit: str) -> bool:
    """Whether a plain figure stands there, in the unit it is shown in."""
    found = _PLAIN_FIGURE.fullmatch(field.typed.strip())
    if found is None:
        return False
    return found["unit"] in {unit, unit.removeprefix("°")} or (not found["unit"] and unit == field.unit)


def _figure(value: float) -> str:
    """Three figures, more where the whole part has more."""
    return f"{value:.0f}" if abs(value) >= 100 else f"{value:.3g}"


_TEMPERATURES = re.compile(r"(\d+(?:\.\d+)?)(?:–(\d+(?:\.\d+)?))? (Δ?)°C")


def temperatures_in(text: str, unit: TemperatureUnit) -> str:
    """A text with its temperatures in a unit: “45–50 °C” as “113–122 °F”, “5 Δ°C warmer” as “9 °F warmer”.

    Args:
        text: With temperatures in degrees Celsius, differences with a Δ before the degrees.
        unit: To show them in.

    >>> temperatures_in("Cool it to 45–50 °C, then 10 Δ°C further.", TemperatureUnit.FAHRENHEIT)
    'Cool it to 113–122 °F, then 18 °F further.'
    """

    def shown(found: re.Match[str]) -> str:
        low, high, difference = found.groups()
        if unit is not TemperatureUnit.FAHRENHEIT:
            return found.group(0).replace("Δ", "")
        figures = [9 / 5 * float(one) if difference else in_fahrenheit(float(one)) for one in (low, high) if one]
        return f"{'–'.join(f'{one:.0f}' for one in figures)} °F"

    return _TEMPERATURES.sub(shown, text)


def shown_range(low_c: float, high_c: float, unit: TemperatureUnit) -> str:
    """Two temperatures with one unit: "27 to 28.5 °C".

    Args:
        low_c: In degrees Celsius.
        high_c: In degrees Celsius.
        unit: To show them in.
    """
    low, high = shown_temperature(low_c, unit), shown_temperature(high_c, unit)
    return low if low == high else f"{low.rpartition(' ')[0]} to {high}"
