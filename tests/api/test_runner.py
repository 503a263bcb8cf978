"""The runner: one slot for each match and kind, the newest wins, results are kept, nothing waits in a thread."""

import asyncio
import pickle
import threading
import time
from collections.abc import Callable, Iterator

import pytest

from fern_match.api.runner import Computing, Failed, Runner, Work
from fern_match.core.food import standard_pantry
from fern_match.core.study.reading import StudyReading
from fern_match.demo import night_crossing

MOST_S = 10.0  # a runner that forgets to stop work ends a test, not hangs it


class Stopped(Exception):
    """Work was asked to stop."""


class Gate:
    """Work that goes on until it is let through or told to stop, and counts how often it was asked."""

    def __init__(self, key: str, match_id: str = "m", kind: str = "estimate") -> None:
        """Closed."""
        self.begun, self.through, self.stopped = threading.Event(), threading.Event(), threading.Event()
        self.work = Work(match_id=match_id, kind=kind, key=key, compute=self._compute, broken="It broke.")

    def _compute(self, should_stop: Callable[[], bool], progress: Callable[[float], None]) -> str:
        self.begun.set()
        progress(0.25)
        deadline = time.monotonic() + MOST_S
        while not self.through.wait(0.002):
            if should_stop():
                self.stopped.set()
                raise Stopped
            assert time.monotonic() < deadline, "nobody told it to stop"
        return f"result of {self.work.key}"


@pytest.fixture
def runner() -> Iterator[Runner]:
    """A runner that is closed afterwards."""
    made = Runner(Stopped)
    yield made
    made.close()


def fetched(runner: Runner, gate: Gate) -> object:
    """What comes of it, once it is let through."""
    gate.through.set()
    return asyncio.run(runner.outcome_soon(gate.work, 10.0))


def test_it_answers_with_progress_and_then_the_result(runner: Runner) -> None:
    """At once, then after a wait."""
    gate = Gate("a")
    assert isinstance(runner.outcome(gate.work), Computing)
    assert gate.begun.wait(5)
    assert runner.outcome(gate.work) == Computing(0.25)
    assert fetched(runner, gate) == "result of a"
    assert runner.outcome(gate.work) == "result of a"
    assert runner.busy() == 0


def test_a_result_is_kept_for_whoever_has_the_same_input(runner: Runner) -> None:
    """Another match with the same evidence is not computed again."""
    assert fetched(runner, Gate("a")) == "result of a"
    other = Gate("a", match_id="other")
    assert runner.outcome(other.work) == "result of a"
    assert not other.begun.is_set()


def test_newer_input_stops_the_older(runner: Runner) -> None:
    """The slot is the newest's: the older is told to stop, long before it would have ended."""
    older, newer = Gate("a"), Gate("b")
    runner.outcome(older.work)
    assert older.begun.wait(5)
    runner.outcome(newer.work)
    assert older.stopped.wait(5)
    assert fetched(runner, newer) == "result of b"


def test_kinds_and_matches_have_slots_of_their_own(runner: Runner) -> None:
    """A solve does not stop an estimate."""
    first, second = Gate("a"), Gate("b", kind="solve")
    runner.outcome(first.work)
    runner.outcome(second.work)
    assert first.begun.wait(5)
    assert second.begun.wait(5)
    assert not first.stopped.is_set()
    assert (fetched(runner, first), fetched(runner, second)) == ("result of a", "result of b")


def test_stopping_a_match_stops_all_its_work(runner: Runner) -> None:
    """And frees its slots."""
    gate = Gate("a")
    runner.outcome(gate.work)
    assert gate.begun.wait(5)
    runner.stop("m")
    assert gate.stopped.wait(5)
    assert runner.busy() == 0


def test_many_who_wait_hold_no_thread(runner: Runner) -> None:
    """Two hundred wait for the same work in one thread, and all get it."""
    gate = Gate("a")

    async def crowd() -> list[object]:
        waiting = [asyncio.create_task(runner.outcome_soon(gate.work, 10.0)) for _ in range(200)]
        await asyncio.sleep(0.05)
        before = threading.active_count()
        gate.through.set()
        found = await asyncio.gather(*waiting)
        assert before < 20
        return list(found)

    assert asyncio.run(crowd()) == ["result of a"] * 200


def test_a_mistake_of_ours_is_said_plainly(runner: Runner) -> None:
    """No traceback reaches a user, and the next input is computed as ever."""

    def broken(_stop: Callable[[], bool], _progress: Callable[[float], None]) -> str:
        raise ZeroDivisionError

    work = Work(match_id="m", kind="estimate", key="x", compute=broken, broken="It broke. What you typed is safe.")
    assert asyncio.run(runner.outcome_soon(work, 10.0)) == Failed("It broke. What you typed is safe.")
    assert fetched(runner, Gate("b")) == "result of b"


def test_a_failure_is_told_and_then_tried_anew() -> None:
    """What broke once may work when it is asked for again."""
    runner, tries = Runner(Stopped), []

    def compute(_stop: Callable[[], bool], _progress: Callable[[float], None]) -> str:
        tries.append(1)
        if len(tries) == 1:
            raise ZeroDivisionError
        return "found"

    work = Work(match_id="m", kind="estimate", key="k", compute=compute, broken="It broke.")
    assert asyncio.run(runner.outcome_soon(work, 10.0)) == Failed("It broke.")
    assert asyncio.run(runner.outcome_soon(work, 10.0)) == "found"
    assert (asyncio.run(runner.outcome_soon(work, 10.0)), len(tries)) == ("found", 2)
    runner.close()


def test_closing_ends_everything() -> None:
    """At once, whatever is under way."""
    runner, gate = Runner(Stopped), Gate("a")
    runner.outcome(gate.work)
    assert gate.begun.wait(5)
    start = time.monotonic()
    runner.close()
    assert gate.stopped.is_set()
    assert time.monotonic() - start < 5


def test_a_reading_is_sent_while_it_is_being_read() -> None:
    """What is worked out on demand grows in one thread while another sends it; what arrives is the same reading."""
    going = threading.Event()
    readings = [StudyReading(night_crossing.study(standard_pantry()), standard_pantry()) for _ in range(30)]

    def read() -> None:
        for one in readings:
            going.set()
            assert one.build
            assert one.weighings
            assert one.rows

    reader = threading.Thread(target=read)
    reader.start()
    going.wait(5)
    for one in readings:
        sent = pickle.loads(pickle.dumps(one))
        assert sent.study == one.study
        assert sent.pantry.key == one.pantry.key
        assert sent.families is one.families
    reader.join()
    assert len(pickle.dumps(readings[0])) == len(pickle.dumps(StudyReading(readings[0].study, readings[0].pantry)))
