"""The kitchen as read: scale, height and thermometer."""

import pytest

from fern_match.core.kitchen import Kitchen, read_kitchen
from fern_match.core.measures import Measures
from fern_match.core.measures.shown import TemperatureUnit


@pytest.mark.parametrize(("typed", "step"), [("0.1 g", 0.1), ("1", 1.0), ("0.01 oz", 0.283), ("", 0.1), ("fine", 0.1)])
def test_the_scale_s_step_is_read(typed: str, step: float) -> None:
    """What was not read counts as usual, with a sentence."""
    reading = read_kitchen(Kitchen(scale_step=typed))
    assert reading.scale_step_g == pytest.approx(step, abs=0.001)
    assert bool(reading.scale_step.problem) == (typed == "fine")


@pytest.mark.parametrize(
    ("altitude", "boiling", "reads", "offset"),
    [
        ("", "", 100.0, None),
        ("1600 m", "", 94.68, None),  # 100 - (99.97 - 94.65)
        ("", "98.5", 98.5, None),
        ("1600", "93.9 C", 93.9, -0.75),  # reads low
        ("5249 ft", "201 F", 93.89, -0.76),
    ],
)
def test_what_boiling_water_reads_here(altitude: str, boiling: str, reads: float, offset: float | None) -> None:
    """A reading in boiling water wins over the height; both together give the thermometer's own error."""
    reading = read_kitchen(Kitchen(altitude=altitude, boiling_reading=boiling))
    assert reading.boils_at_reading_c == pytest.approx(reads, abs=0.01)
    assert reading.corrects_boiling == bool(altitude or boiling)
    if offset is None:
        assert reading.thermometer_offset_c is None
    else:
        assert reading.thermometer_offset_c == pytest.approx(offset, abs=0.02)


def test_a_thermometer_far_off_is_said() -> None:
    """100 C in boiling water at 3000 m cannot be."""
    suspect = read_kitchen(Kitchen(altitude="3000 m", boiling_reading="100"))
    assert suspect.thermometer_is_suspect
    assert "boils at 90 °C at that height, and the thermometer reads 100 °C" in suspect.boiling_words
    assert not read_kitchen(Kitchen(altitude="3000 m", boiling_reading="90.5")).thermometer_is_suspect


@pytest.mark.parametrize(
    ("altitude", "boiling", "unit", "words"),
    [
        ("", "", "C", "Read it in a rolling boil"),
        ("1600 m", "", "F", "Water boils at 202 °F there. A reading"),
        ("", "98.5", "C", "98.5 °C stands for 100 °C at sea level"),
        ("", "98.5", "F", "209 °F stands for 212 °F at sea level"),
        ("1600 m", "93.65 C", "C", "your thermometer reads 1.0 °C low"),
        ("1600 m", "93.65 C", "F", "your thermometer reads 1.8 °F low"),
        ("0 m", "100 C", "C", "your thermometer is right"),
    ],
)
def test_what_is_known_of_boiling_is_told_in_the_kitchen_s_unit(altitude: str, boiling: str, unit: str, words: str) -> None:
    """And what to measure next."""
    kitchen = Kitchen(altitude=altitude, boiling_reading=boiling, temperature_unit=TemperatureUnit(unit))
    assert words in read_kitchen(kitchen).boiling_words


@pytest.mark.parametrize(
    ("field", "typed"), [("altitude", "9000"), ("altitude", "up"), ("boiling_reading", "60"), ("boiling_reading", "212")]
)
def test_what_cannot_be_is_said_and_not_used(field: str, typed: str) -> None:
    """212 without F is 212 degrees Celsius here."""
    reading = read_kitchen(Kitchen(**{field: typed}))
    assert getattr(reading, field).problem
    assert reading.boils_at_reading_c == pytest.approx(100.0)
    assert not reading.corrects_boiling


@pytest.mark.parametrize(("measures", "metres"), [(Measures.US, 1584.96), (Measures.METRIC, None)])
def test_the_comma_is_read_as_the_kitchen_s_country_does(measures: Measures, metres: float | None) -> None:
    """5,200 ft groups thousands in the US, and is not guessed where a comma is decimal."""
    reading = read_kitchen(Kitchen(altitude="5,200 ft", measures=measures))
    assert reading.altitude.value == (pytest.approx(metres) if metres else None)
