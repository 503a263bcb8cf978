"""A server that starts in a moment: everything is imported once, each start is a fork. Told what to do line by line."""

import os
import signal
import sys
from pathlib import Path

import uvicorn

from fern_match.api.app import create_app
from fern_match.api.settings import Settings
from fern_match.core.food import standard_pantry
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study


def main(database: str, port: int) -> None:
    """start and kill, until the input ends."""
    StudyReading(Study(name=""), standard_pantry()).placing  # noqa: B018  fills what every process would read for itself
    child = 0
    print("ready", flush=True)
    for line in sys.stdin:
        if line.strip() == "start":
            child = os.fork()
            if child == 0:
                app = create_app(Settings(database=Path(database), web=Path("/nonexistent")))
                uvicorn.run(app, host="127.0.0.1", port=port, log_level="critical")
                os._exit(0)
        elif child:
            os.kill(child, signal.SIGKILL)
            os.waitpid(child, 0)
            child = 0
        print("done", flush=True)
    if child:
        os.kill(child, signal.SIGKILL)


if __name__ == "__main__":
    main(sys.argv[1], int(sys.argv[2]))
