"""What a plan and its schedule say of themselves."""

from dataclasses import replace

import pytest
from tests.cooking import STACK, Part, cooked

from fern_match.core.cook import Cue, Line, Place, Schedule, cue_words, schedule_words, water_words, window_words
from fern_match.core.cook.step import Stage
from fern_match.core.measures.shown import TemperatureUnit

STEP = cooked({"one": Part("soft-caramel", STACK)}).step("Cook to")


@pytest.mark.parametrize(("most", "words"), [(0.0, "it cannot wait"), (15.0, "waits 15 min at most"), (None, ""), (1440.0, "")])
def test_a_window_that_closes_is_said(most: float | None, words: str) -> None:
    """A day is no window."""
    assert window_words(replace(STEP, most_wait_min=most)) == words


def test_water_is_said_where_it_is_known() -> None:
    """Of a boil; of one with an unknown food that it is not known."""
    assert STEP.boil is not None
    assert water_words(STEP).endswith("% water")
    assert water_words(replace(STEP, boil=replace(STEP.boil, known=False))) == "its water not known"
    assert water_words(replace(STEP, boil=None)) == ""


def test_a_cue_stands_for_a_figure_in_the_kitchen_s_unit() -> None:
    """Or for none."""
    cue = Cue(id="a", stage=Stage.RIGHT, words="it leaves the side", quantity="°C", about=118.0, error=3.0)
    assert [cue_words(cue, unit) for unit in TemperatureUnit] == ["about 118 °C", "about 244 °F"]
    assert cue_words(replace(cue, quantity="min", about=4.0), TemperatureUnit.CELSIUS) == "about 4 min"
    assert cue_words(replace(cue, about=None), TemperatureUnit.CELSIUS) == ""


def test_a_schedule_says_its_hours_its_work_and_its_doubt() -> None:
    """From 18:00 over a night; an hour of it work; perhaps 4 % too long."""
    line = Line(step="a", round=1, start_min=1080, hands_end_min=1140, end_min=1980, cook=1, place=Place.ROOM)
    assert schedule_words(Schedule(lines=(line,), gap=0.0, clashes=())) == "18:00 to 09:00, 1 day later; 60 min of it hands on."
    said = schedule_words(Schedule(lines=(line,), gap=0.04, clashes=()))
    assert said.endswith("There may be one that is up to 4 % better.")
    assert schedule_words(Schedule(lines=(), gap=0.0, clashes=())) == ""
