"""Long work that several tests ask for is done once in a run: its result lies in a folder that all workers share."""

import fcntl
import hashlib
import os
import pickle
import shutil
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from fern_match.api.hands import Compute, Hands, Result

_FOLDER = "FERN_MATCH_TESTS_FOLDER"


def begin_run() -> None:
    """A folder for one run of the tests; workers that begin later learn of it, and order their sets alike."""
    os.environ[_FOLDER] = tempfile.mkdtemp(prefix="fern-match-tests-")
    os.environ.setdefault("PYTHONHASHSEED", "0")


def end_run() -> None:
    """The folder goes."""
    shutil.rmtree(folder(), ignore_errors=True)


def folder() -> Path:
    """The folder of this run."""
    return Path(os.environ[_FOLDER])


@contextmanager
def alone(name: str) -> Iterator[Path]:
    """The path of something in the folder, while no other worker makes it."""
    path = folder() / name
    with (folder() / f"{name}.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield path


class RememberingHands(Hands):
    """Processes that are asked only for what no test asked for before, input for input."""

    def do(self, compute: Compute[Result], should_stop: Callable[[], bool], progress: Callable[[float], None]) -> Result:
        """As every hand does it; what work raises is raised each time anew."""
        path = folder() / hashlib.sha256(pickle.dumps(compute)).hexdigest()
        if path.exists():
            found: Result = pickle.loads(path.read_bytes())
            return found
        found = super().do(compute, should_stop, progress)
        unfinished = path.with_suffix(f".{os.getpid()}-{id(compute)}")
        unfinished.write_bytes(pickle.dumps(found))
        unfinished.replace(path)
        return found
