"""Long work off the requests' threads: one slot for each match and kind, the newest input wins, results kept by their input."""

import asyncio
import logging
import threading
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar

from fern_match.api.hands import Compute, Hands
from fern_match.core.errors import CoreError

Result = TypeVar("Result")
_KEPT = 64
_WORKERS = 2
_LOG = logging.getLogger(__name__)


@dataclass(frozen=True, slots=True)
class Computing:
    """Not there yet."""

    done: float  # 0 to 1


@dataclass(frozen=True, slots=True)
class Failed:
    """The computation broke; a mistake of ours, said plainly."""

    sentence: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Work(Generic[Result]):
    """Something that takes long."""

    match_id: str
    kind: str  # estimate, causes, solve, ways, held back, proposals
    window: str = ""  # whose: in each window of the browser the newest input wins for itself; empty where all share it
    key: str  # a fingerprint of all its input
    compute: Compute[Result]  # asked to stop, told of progress; can be pickled where processes do the work
    broken: str  # what to say where it breaks
    then: Callable[[Result], None] = lambda _: None  # done here with what came of it, before it is known


@dataclass(slots=True)
class _Job:
    key: str
    stop: threading.Event = field(default_factory=threading.Event)
    done: float = 0.0
    future: "Future[None] | None" = None


Slot = tuple[str, str, str]  # match, kind, window


class Runner:
    """Runs work and remembers what came of it."""

    def __init__(self, stopped: type[Exception], hands: Hands | None = None) -> None:
        """A runner with nothing to do.

        Args:
            stopped: What work raises when it was asked to stop.
            hands: Processes that do the work; None where this one does it itself.
        """
        self._stopped, self._hands = stopped, hands
        self._pool = ThreadPoolExecutor(_WORKERS, thread_name_prefix="work")
        self._lock = threading.Lock()
        self._jobs: dict[Slot, _Job] = {}
        self._results: OrderedDict[str, Any] = OrderedDict()

    def outcome(self, work: Work[Result]) -> Result | Computing | Failed:
        """What is known of some work now; begins it where nobody did, and stops what its slot did before."""
        self._begin(work)
        return self._known(work)

    async def outcome_soon(self, work: Work[Result], wait_s: float) -> Result | Computing | Failed:
        """The same, after waiting a little; no thread waits.

        Args:
            wait_s: How long at most [s].
        """
        future = self._begin(work)
        if future is not None and wait_s > 0:
            await asyncio.wait([asyncio.wrap_future(future)], timeout=wait_s)
        return self._known(work)

    def kept(self, key: str) -> Any:
        """What came of some work, by its key; None where that is not known any more."""
        with self._lock:
            if key in self._results:
                self._results.move_to_end(key)
            return self._results.get(key)

    def stop(self, match_id: str, window: str | None = None) -> None:
        """Stops work for a match; nobody will ask for it.

        Args:
            match_id: Of the match.
            window: Only what one window of the browser asked for; None for all of it.
        """
        with self._lock:
            for slot in [slot for slot in self._jobs if slot[0] == match_id and window in {None, slot[2]}]:
                job = self._jobs.pop(slot)
                job.stop.set()
                if job.future is not None:
                    job.future.cancel()

    def busy(self) -> int:
        """How many slots have work under way or waiting."""
        with self._lock:
            return len(self._jobs)

    def close(self) -> None:
        """Stops everything."""
        with self._lock:
            for job in self._jobs.values():
                job.stop.set()
        self._pool.shutdown(wait=True, cancel_futures=True)

    def _begin(self, work: Work[Any]) -> "Future[None] | None":
        """The work under way for a slot, begun where it is new; None where its result is known."""
        slot = _slot_of(work)
        with self._lock:
            if work.key in self._results:
                return None
            job = self._jobs.get(slot)
            if job is None or job.key != work.key:
                if job is not None:
                    job.stop.set()
                    if job.future is not None:
                        job.future.cancel()  # one that has not begun yet takes no place in the queue
                job = self._jobs[slot] = _Job(work.key)
                job.future = self._pool.submit(self._run, work, job)
            return job.future

    def _run(self, work: Work[Any], job: _Job) -> None:
        """Does the work and keeps what came of it; the slot is free again when this returns."""

        def progress(done: float) -> None:
            job.done = done

        found: Any = None
        try:
            if not job.stop.is_set():
                do = self._hands.do if self._hands is not None else _done_here
                found = do(work.compute, job.stop.is_set, progress)
                work.then(found)
        except self._stopped:
            pass
        except CoreError as error:
            found = Failed(str(error))
        except Exception:
            _LOG.exception("%s of match %s failed", work.kind, work.match_id)
            found = Failed(work.broken)
        with self._lock:
            if self._jobs.get(_slot_of(work)) is job:
                del self._jobs[_slot_of(work)]
            if found is not None:
                self._results[work.key] = found
                while len(self._results) > _KEPT:
                    self._results.popitem(last=False)

    def _known(self, work: Work[Result]) -> Result | Computing | Failed:
        with self._lock:
            if work.key in self._results:
                self._results.move_to_end(work.key)
                found: Result | Failed = self._results[work.key]
                if isinstance(found, Failed):  # told, and tried anew when it is asked for again
                    del self._results[work.key]
                return found
            job = self._jobs.get(_slot_of(work))
            return Computing(job.done if job is not None and job.key == work.key else 0.0)


def _done_here(compute: Compute[Any], should_stop: Callable[[], bool], progress: Callable[[float], None]) -> Any:
    return compute(should_stop, progress)


def _slot_of(work: Work[Any]) -> Slot:
    return work.match_id, work.kind, work.window
