"""The runner: one slot per match, the newest wins, results are kept."""

import time
from collections.abc import Iterator
from dataclasses import replace

import pytest

from fern_match.api.runner import Computing, EstimateRunner, Failed, study_hash
from fern_match.core.estimate import Estimate, NotYet
from fern_match.core.food import Pantry
from fern_match.core.study.record import Study


@pytest.fixture
def runner(pantry: Pantry) -> Iterator[EstimateRunner]:
    """A runner that is closed afterwards."""
    made = EstimateRunner(pantry)
    yield made
    made.close()


def test_it_answers_with_progress_and_then_the_result(runner: EstimateRunner, small_study: Study) -> None:
    """Without waiting, then with."""
    assert isinstance(runner.outcome("m", small_study, 0.0), Computing)
    found = runner.outcome("m", small_study, 60.0)
    assert isinstance(found, Estimate)
    assert runner.outcome("m", small_study, 0.0) is found


def test_a_result_is_kept_for_any_match_with_the_same_evidence(runner: EstimateRunner, small_study: Study) -> None:
    """The name of a match is no input."""
    found = runner.outcome("m", small_study, 60.0)
    assert runner.outcome("other", replace(small_study, name="Copy"), 0.0) is found


def test_a_newer_study_stops_the_older(runner: EstimateRunner, small_study: Study) -> None:
    """The slot is the newest's."""
    runner.outcome("m", small_study, 0.0)
    newer = replace(small_study, weighings={"coat": ("20",)})
    start = time.monotonic()
    found = runner.outcome("m", newer, 60.0)
    assert isinstance(found, Estimate)
    assert time.monotonic() - start < 60


def test_too_little_is_kept_too(runner: EstimateRunner, small_study: Study) -> None:
    """An expected outcome is an outcome."""
    assert isinstance(runner.outcome("m", replace(small_study, layers=()), 10.0), NotYet)


def test_a_mistake_of_ours_is_said_plainly(runner: EstimateRunner, small_study: Study, monkeypatch: pytest.MonkeyPatch) -> None:
    """No traceback reaches a user, and the next study is computed as ever."""

    def broken(*_args: object, **_kwargs: object) -> Estimate:
        raise ZeroDivisionError

    with monkeypatch.context() as patch:
        patch.setattr("fern_match.api.runner.estimate", broken)
        found = runner.outcome("m", small_study, 10.0)
    assert isinstance(found, Failed)
    assert "safe" in found.sentence
    assert isinstance(runner.outcome("m", replace(small_study, weighings={}), 60.0), Estimate)


def test_the_hash_follows_the_evidence(small_study: Study) -> None:
    """Any change of evidence is another hash; a change of name is not."""
    assert study_hash(small_study) == study_hash(replace(small_study, name="x", maker="y"))
    assert study_hash(small_study) != study_hash(replace(small_study, statement="Sugar"))
    assert study_hash(small_study) != study_hash(replace(small_study, doubted=frozenset({"row:fat"})))
