"""Causes by their readings: forty made-up trials with a hidden cause each, and what must hold of every ranking."""

import csv
from collections.abc import Mapping
from pathlib import Path

import pytest

from fern_match.core.trials.ranking import Ranking, Read, ranked, times_as_likely
from fern_match.core.trials.tables import Sign, causes, clues, faults
from fern_match.core.trials.telling import ranking_words, take_words

_HERE = Path(__file__).parent
_CUE = 4.0  # from this error on a heat was judged by eye
_USUAL_ERROR = {"°C": 1.0, "%": 2.0, "points": 1.0}


def made_up(*names: str) -> list[dict[str, str]]:
    """Trials with a hidden cause, of one half or both."""
    texts = [(_HERE / f"made_up_{name}.csv").read_text(encoding="utf-8") for name in names]
    return [row for text in texts for row in csv.DictReader(text.splitlines())]


def read_of(row: Mapping[str, str]) -> dict[str, Read]:
    """Its readings: a figure, with its error where it was judged by a cue; or yes and no."""
    found = {}
    for one in row["readings"].split(";"):
        clue, typed = one.split("=")
        figure, _, error = typed.partition("~")
        value = {"yes": 1.0, "no": 0.0}.get(figure)
        usual = 0.0 if value is not None else _USUAL_ERROR.get(clues()[clue].unit, 0.0)
        found[clue] = Read(
            clue=clue,
            value=value if value is not None else float(figure),
            error=float(error) if error else usual,
            words=clue,
        )
    return found


def ranking_of(row: Mapping[str, str]) -> Ranking:
    """Its causes, ranked."""
    return ranked([row["faults"]], read_of(row))


def place_of(row: Mapping[str, str]) -> int:
    """Where the true cause stands, from 1."""
    return [one.cause.id for one in ranking_of(row).causes].index(row["cause"]) + 1


def test_the_true_cause_is_first_in_seven_of_ten_and_among_three_in_nine_of_ten() -> None:
    """Over forty trials of more than fifteen kinds of fault."""
    rows = made_up("first", "second")
    places = [place_of(row) for row in rows]

    assert len(rows) == 40
    assert len({row["faults"] for row in rows}) >= 15
    assert sum(place == 1 for place in places) >= 0.7 * len(rows)
    assert sum(place <= 3 for place in places) >= 0.9 * len(rows)


def test_eyes_and_clocks_find_causes_too() -> None:
    """The same of those that were judged without a thermometer: by cues, minutes, counts and looks."""
    rows = [
        row
        for row in made_up("first", "second")
        if not any(
            clues()[one.clue].typed == "heat" and one.error < _CUE and one.clue not in {"room", "set_heat", "store_heat"}
            for one in read_of(row).values()
        )
    ]

    assert len(rows) >= 13
    assert sum(place_of(row) == 1 for row in rows) >= 0.7 * len(rows)


@pytest.mark.parametrize("fault", sorted(causes()))
def test_chances_add_up(fault: str) -> None:
    """Causes and something else together are certain."""
    found = ranked([fault], {})

    assert sum(one.chance for one in found.causes) + found.something_else == pytest.approx(1.0)


@pytest.mark.parametrize("fault", sorted(causes()))
def test_a_cause_that_reads_as_the_table_says_leads(fault: str) -> None:
    """Whatever cause is at work, where all of its clues read just as they do then, none stands before it."""
    for cause in causes()[fault]:
        read = {sign.clue: Read(clue=sign.clue, value=sign.mean, error=sign.spread / 4) for sign in cause.signs}

        assert ranked([fault], read).causes[0].cause.id == cause.id, cause.id


@pytest.mark.parametrize("fault", sorted(causes()))
def test_where_nothing_was_read_it_says_what_to_read(fault: str) -> None:
    """A ranking that rests on nothing says so, and asks where anything could be read."""
    found = ranked([fault], {})
    askable = {sign.clue for cause in causes()[fault] for sign in cause.signs if clues()[sign.clue].ask}

    assert "No reading of this batch speaks" in ranking_words(found)
    assert bool(take_words(found)) == (bool(askable) and len(found.causes) + 1 > 1)


def test_a_reading_never_decides_alone() -> None:
    """However far out, one reading is worth at most forty to one, and never makes a cause impossible."""
    sign = Sign("end_heat", -4.0, 2.0)

    assert times_as_likely(sign, Read(clue="end_heat", value=-8.0, error=0.5)) <= 40
    assert times_as_likely(sign, Read(clue="end_heat", value=8.0, error=0.5)) >= 0.03


def test_a_reading_with_more_doubt_says_less() -> None:
    """Four degrees under by thermometer speak louder than the same by a first look at a drop."""
    sign = Sign("end_heat", -4.0, 2.0)
    sure, unsure = (times_as_likely(sign, Read(clue="end_heat", value=-4.0, error=error)) for error in (1.0, 6.0))

    assert sure > 5
    assert 1.0 < unsure < 2.0


def test_two_faults_of_one_layer_point_at_what_causes_both() -> None:
    """A caramel both runny and grainy for want of nothing but its syrup: what explains one alone falls back."""
    both = ranked(["nougat-soft", "nougat-collapsed"], {"density": Read(clue="density", value=20.0, error=2.0)})
    alone = ranked(["nougat-soft"], {})

    assert {one.cause.id for one in alone.causes} < {one.cause.id for one in both.causes}
    assert sum(one.chance for one in both.causes) <= 1.0


def test_every_fault_has_causes_and_every_clue_is_used() -> None:
    """No row of the tables is dead: faults with causes, clues that some cause reads, changes that are known."""
    used = {sign.clue for several in causes().values() for cause in several for sign in cause.signs}

    assert set(faults()) == set(causes())
    assert set(clues()) == used
    assert all(cause.do or cause.change for several in causes().values() for cause in several)
