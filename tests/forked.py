"""A server that starts in a moment: everything is imported once, each start is a fork. Told what to do line by line."""

import os
import signal
import sys
from pathlib import Path

import uvicorn
from tests.remembered import RememberingHands

from fern_match.api.app import create_app
from fern_match.api.deps import Desk
from fern_match.api.settings import Settings
from fern_match.core.cook import Entry, EntryKind
from fern_match.core.estimate.inputs import input_key
from fern_match.core.food import standard_pantry
from fern_match.core.match import Match
from fern_match.core.record import check_limits
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study
from fern_match.exchange import read_match_file, written_match_file
from fern_match.exchange.content import plain_of, record_of


def fill_memories() -> None:
    """Reads and builds once what every process would read and build for itself: tables, and what reads and writes records."""
    reading = StudyReading(Study(name=""), standard_pantry())
    Desk(None, reading.pantry, reading.families, None).line(Match(study=reading.study))  # type: ignore[arg-type]
    read_match_file(written_match_file(Match(study=reading.study)))
    record_of(Entry, plain_of(Entry(key="k", kind=EntryKind.NOTE)))
    check_limits(Entry(key="k", kind=EntryKind.NOTE))
    assert reading.placing.placings == ()
    assert input_key(reading)


def main() -> None:
    """start database port pages, and kill port, until the input ends."""
    fill_memories()
    children: dict[int, int] = {}
    print("ready", flush=True)
    for line in sys.stdin:
        word, *told = line.rstrip("\n").split("\t")
        if word == "start":
            database, port, pages = told
            children[int(port)] = child = os.fork()
            if child == 0:
                app = create_app(Settings(database=Path(database), web=Path(pages)), RememberingHands(forked_here=2))
                uvicorn.run(app, host="127.0.0.1", port=int(port), log_level="critical")
                os._exit(0)
        else:
            end(children.pop(int(told[0])))
        print("done", flush=True)
    for child in children.values():
        end(child)


def end(child: int) -> None:
    """At once, as a power cut would."""
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)


if __name__ == "__main__":
    main()
