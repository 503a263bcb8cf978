"""Night Crossing cooked twice: the ranking finds what is hidden, and the second copy is closer and says how sure that is."""

from dataclasses import replace

import pytest

from fern_match.core.cook import EntryKind
from fern_match.core.estimate import Estimate
from fern_match.core.families import standard_families
from fern_match.core.food import Pantry
from fern_match.core.kitchen import read_kitchen
from fern_match.core.match import Match, check_match, without_batch, without_cook, without_trial
from fern_match.core.study.reading import StudyReading
from fern_match.core.trials import Looked, looked_at, over_time, prepared, ranking_words, tried
from fern_match.demo.night_crossing_trials import TRUE_CAUSES, WARM_COAT_C
from fern_match.demo.world import KITCHEN, night_crossing_match


@pytest.fixture(scope="module")
def match(pantry: Pantry) -> Match:
    """As the demo has it."""
    return night_crossing_match(pantry, standard_families())


@pytest.fixture(scope="module")
def trials(match: Match, pantry: Pantry, demo_estimate: Estimate) -> list[Looked]:
    """Both trials from all sides."""
    return looked_of(match, pantry, demo_estimate)


def looked_of(match: Match, pantry: Pantry, found: Estimate) -> list[Looked]:
    """All trials of a match from all sides."""
    reading, kitchen = StudyReading(match.study, pantry.with_pinned(match.pinned), standard_families()), read_kitchen(KITCHEN)
    out = []
    for trial in match.trials:
        batch = next(one for one in match.batches if one.id == trial.batch)
        cook = next((one for one in match.cooks if one.id == trial.cook), None)
        version = match.version(batch.version)
        made = prepared(version, batch, cook, reading, kitchen)
        of = tried(trial, made, cook.log if cook is not None else (), reading, kitchen)
        out.append(looked_at(of, made.seen, found))
    return out


def test_the_hidden_causes_come_first(trials: list[Looked]) -> None:
    """The coat worked too warm, the cream over-filled: each leads with four in five and more, and says why."""
    first = trials[0]

    assert {key: one.ranking.causes[0].cause.id for key, one in first.faulty.items()} == TRUE_CAUSES
    assert all(one.ranking.causes[0].chance > 0.8 for one in first.faulty.values())
    assert "seed melted" in ranking_words(first.faulty["coat"].ranking)
    assert f"{WARM_COAT_C - 31.5:.1f} °C over plan" in first.faulty["coat"].ranking.causes[0].spoken[0].words


def test_without_its_log_the_coat_is_not_settled(match: Match, pantry: Pantry, demo_estimate: Estimate) -> None:
    """Take the heat away, and the coat's cause is open: it asks for a reading."""
    silent = tuple(
        replace(cook, log=tuple(one for one in cook.log if one.entry.kind is not EntryKind.READING)) for cook in match.cooks
    )
    first = looked_of(replace(match, cooks=silent), pantry, demo_estimate)[0]

    assert not first.faulty["coat"].ranking.causes[0].is_spoken_for
    assert "No reading of this batch speaks" in ranking_words(first.faulty["coat"].ranking)


def test_the_second_copy_is_closer_and_says_how_sure_that_is(trials: list[Looked]) -> None:
    """By what was read in both; the cream and the snap are what came nearer, and the changes made are told."""
    line = over_time(trials)[1]

    assert line.closer is not None
    assert line.closer > 0.99
    assert line.closer_words == "Closer than Trial 1, by 20 things read in both, more than 99 to 1."
    assert {one.title for one in line.helped} >= {"Sesame cream", "Snap of the coat"}
    assert not line.worse
    assert [said.partition(":")[0] for said in line.changed] == ["Sesame cream", "Dark coat"]


def test_the_next_version_knows_what_it_was_made_after(match: Match) -> None:
    """The second try is made after the first, the vegan one after the second; what the trial taught goes with it."""
    by_name = {one.name: one for one in match.versions}

    assert by_name["Faithful, try 2"].parent == "faithful"
    assert by_name["Faithful, try 2"].origin == by_name["Faithful"].origin
    vegan = match.versions[-1]
    assert (vegan.parent, vegan.origin.rules) == ("faithful-try-2", ("vegan",))
    assert any("Portion it by weight" in note.text for note in vegan.notes)


def test_the_demo_holds_together(match: Match) -> None:
    """Links are sound, and a batch, a cook or a trial that goes takes along what hangs on it and no more."""
    check_match(match)
    plan = match.trials[0].batch

    assert [one.id for one in without_batch(match, plan).trials] == ["trial-two"]
    cookless = without_cook(match, "trial-one-cook")
    assert [one.cook for one in cookless.trials] == [None, "trial-two-cook"]
    assert without_trial(match, "trial-one").trials == match.trials[1:]
    for after in (without_batch(match, plan), cookless):
        check_match(after)
