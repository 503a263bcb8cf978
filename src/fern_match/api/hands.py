"""Processes that do long work, so that no request waits for the interpreter while a proposal is worked out.

A piece of work goes to a process as a picklable call, and its result comes back. While it runs, its process is told to stop
through a shared flag and tells through a shared figure how far it is. They are forked from one that has read every table.
"""

import atexit
import contextlib
import multiprocessing
import os
import pickle
import signal
import threading
from collections.abc import Callable
from functools import cache
from multiprocessing.connection import Connection
from multiprocessing.context import BaseContext
from multiprocessing.process import BaseProcess
from typing import Any, TypeVar

Result = TypeVar("Result")
Compute = Callable[[Callable[[], bool], Callable[[float], None]], Result]
_ASK_EVERY_S = 0.02  # how soon a process learns that its work is not wanted any more
_ALONE_EVERY_S = 2.0  # how often one without work looks whether anybody is there to ask for some
_LESS_URGENT = 5  # niceness: requests come first
_PRELOADED = ["fern_match.api.hands", "fern_match.api.hands_ready"]


class Broken(Exception):
    """A process ended in the midst of its work."""


class _Hand:
    """One process, with what it is told through."""

    def __init__(self, context: BaseContext) -> None:
        self._ours, theirs = context.Pipe()
        self._stop = context.RawValue("b", 0)  # one writes, the other reads: no lock is needed
        self._done = context.RawValue("d", 0.0)
        self.process: BaseProcess = context.Process(  # type: ignore[attr-defined]
            target=_serve, args=(theirs, self._stop, self._done), daemon=True
        )
        self.process.start()
        theirs.close()

    def do(self, compute: Compute[Result], should_stop: Callable[[], bool], progress: Callable[[float], None]) -> Result:
        self._stop.value = 0
        self._done.value = 0.0
        try:
            self._ours.send_bytes(pickle.dumps(compute, pickle.HIGHEST_PROTOCOL))
            while not self._ours.poll(_ASK_EVERY_S):
                if should_stop():
                    self._stop.value = 1
                progress(self._done.value)
            worked, found = pickle.loads(self._ours.recv_bytes())
        except (EOFError, OSError) as error:
            raise Broken from error
        if not worked:
            raise found
        result: Result = found
        return result

    def close(self) -> None:
        self._ours.close()
        self.process.terminate()


class Hands:
    """As many processes as are needed at once; each begins when there is work for it, and stays."""

    def __init__(self, forked_here: int = 0) -> None:
        """None yet, or some that are forked at once.

        Args:
            forked_here: How many to fork from this process as it is, which has read its tables and runs one thread; the rest, and
                all where it is 0, come from a process of their own that reads the tables first.
        """
        self._context = multiprocessing.get_context("forkserver")
        self._context.set_forkserver_preload(_PRELOADED)
        self._lock = threading.Lock()
        self._free = [_Hand(multiprocessing.get_context("fork")) for _ in range(forked_here)]

    def do(self, compute: Compute[Result], should_stop: Callable[[], bool], progress: Callable[[float], None]) -> Result:
        """Does some work in a process of its own and waits for what comes of it.

        Args:
            compute: What to do; it and its result can be pickled.
            should_stop: Whether it is not wanted any more.
            progress: Told how far it is.

        Raises:
            Broken: the process ended; the next work gets another.
            Exception: whatever the work raised.
        """
        with self._lock:
            hand = self._free.pop() if self._free else _Hand(self._context)
        try:
            return hand.do(compute, should_stop, progress)
        finally:
            if hand.process.is_alive():
                with self._lock:
                    self._free.append(hand)
            else:
                hand.close()

    def close(self) -> None:
        """Ends every process that is not at work."""
        with self._lock:
            for hand in self._free:
                hand.close()
            self._free.clear()


@cache
def hands_of_process() -> Hands:
    """The hands that every application of this process shares."""
    made = Hands()
    atexit.register(made.close)
    return made


def _serve(theirs: Connection, stop: Any, done: Any) -> None:
    """What a process does until the other end is gone: one piece of work after another."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # the server stops first, and this ends with it
    with contextlib.suppress(OSError):
        os.nice(_LESS_URGENT)

    def progress(share: float) -> None:
        done.value = share

    def should_stop() -> bool:
        return bool(stop.value)

    parent = os.getppid()
    while True:
        while not theirs.poll(_ALONE_EVERY_S):
            if os.getppid() != parent:  # killed, with no time to say so
                return
        try:
            compute = pickle.loads(theirs.recv_bytes())
        except (EOFError, OSError):
            return
        found: tuple[bool, Any]
        try:
            found = True, compute(should_stop, progress)
        except Exception as error:  # whatever it is, who asked learns of it
            found = False, error
        theirs.send_bytes(pickle.dumps(found, pickle.HIGHEST_PROTOCOL))
