"""Estimates off the request's thread: one slot per match, the newest study wins, results kept by a hash of their input."""

import hashlib
import logging
import threading
from collections import OrderedDict
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass, field

from fern_match.core.estimate import Estimate, NotYet, estimate
from fern_match.core.estimate.estimator import Stopped
from fern_match.core.food import Pantry
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study
from fern_match.exchange import StudyFile

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


Outcome = Estimate | NotYet | Computing | Failed


@dataclass(slots=True)
class _Job:
    key: str
    stop: threading.Event = field(default_factory=threading.Event)
    done: float = 0.0
    future: "Future[Estimate | NotYet] | None" = None


class EstimateRunner:
    """Runs estimates and remembers them."""

    def __init__(self, pantry: Pantry) -> None:
        """A runner with nothing to do.

        Args:
            pantry: Compositions.
        """
        self._pantry = pantry
        self._pool = ThreadPoolExecutor(_WORKERS, thread_name_prefix="estimate")
        self._lock = threading.Lock()
        self._jobs: dict[str, _Job] = {}
        self._results: OrderedDict[str, Estimate | NotYet] = OrderedDict()

    def outcome(self, match_id: str, study: Study, wait_s: float) -> Outcome:
        """The estimate of a study, or how far it is; a newer study of the same match stops the older.

        Args:
            match_id: Whose slot.
            study: What to estimate.
            wait_s: How long to wait for a result before answering with progress [s].
        """
        key = study_hash(study)
        with self._lock:
            known = self._results.get(key)
            if known is not None:
                self._results.move_to_end(key)
                return known
            job = self._jobs.get(match_id)
            if job is None or job.key != key:
                if job is not None:
                    job.stop.set()
                job = self._start(match_id, key, study)
        return self._answer(match_id, job, wait_s)

    def close(self) -> None:
        """Stops everything."""
        with self._lock:
            for job in self._jobs.values():
                job.stop.set()
        self._pool.shutdown(wait=True, cancel_futures=True)

    def _start(self, match_id: str, key: str, study: Study) -> _Job:
        job = _Job(key)

        def progress(done: float) -> None:
            job.done = done

        def work() -> Estimate | NotYet:
            return estimate(StudyReading(study, self._pantry), should_stop=job.stop.is_set, progress=progress)

        job.future = self._pool.submit(work)
        self._jobs[match_id] = job
        return job

    def _answer(self, match_id: str, job: _Job, wait_s: float) -> Outcome:
        assert job.future is not None
        try:
            result = job.future.result(timeout=wait_s)
        except TimeoutError:
            return Computing(job.done)
        except Stopped:
            return Computing(0.0)
        except Exception:
            _LOG.exception("estimate of match %s failed", match_id)
            return Failed("The estimate broke on this study. What you typed is safe; switch off the evidence changed last.")
        with self._lock:
            self._results[job.key] = result
            while len(self._results) > _KEPT:
                self._results.popitem(last=False)
        return result


def study_hash(study: Study) -> str:
    """A hash of all that an estimate depends on; a match's name is not.

    Args:
        study: The input.
    """
    shape = StudyFile.of(study).model_copy(update={"name": "", "maker": ""})
    return hashlib.sha256(shape.model_dump_json().encode()).hexdigest()
