"""The application in a process of its own, which starts in a moment and dies at a word."""

import http.client
import socket
import subprocess
import sys
import time
from contextlib import closing
from pathlib import Path

ROOT = Path(__file__).parents[1]
PAGES = ROOT / "web" / "dist"
LONG_MS = 180_000  # what is worked out on a machine that has much else to do: it gives way to all of that


class Launcher:
    """A process that has everything imported, and forks a server at each start."""

    def __init__(self) -> None:
        """Ready to start servers."""
        command = [sys.executable, "-m", "tests.forked"]
        self._process = subprocess.Popen(command, cwd=ROOT, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
        self._answer()

    def _answer(self) -> None:
        assert self._process.stdout is not None
        self._process.stdout.readline()

    def tell(self, *words: object) -> None:
        """start database port pages, or kill port; returns once it is done."""
        assert self._process.stdin is not None
        self._process.stdin.write("\t".join(map(str, words)) + "\n")
        self._process.stdin.flush()
        self._answer()

    def close(self) -> None:
        """The end of it and of all its servers."""
        assert self._process.stdin is not None
        assert self._process.stdout is not None
        self._process.stdin.close()
        self._process.stdout.close()
        self._process.wait(10)


class Server:
    """The application on a database, which can be stopped and started again."""

    def __init__(self, launcher: Launcher, database: Path) -> None:
        """A server that is not started yet."""
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self._launcher = launcher
        self._database = database
        self._runs = False

    def start(self) -> None:
        """Starts and waits until it answers."""
        self._launcher.tell("start", self._database, self.port, PAGES)
        self._runs = True
        deadline = time.monotonic() + 120
        while time.monotonic() < deadline:
            try:
                with closing(http.client.HTTPConnection("127.0.0.1", self.port, timeout=2)) as connection:
                    connection.request("GET", "/api/health")
                    if connection.getresponse().status == 200:
                        return
            except OSError:
                time.sleep(0.01)
        raise TimeoutError("the server did not start")

    def stop(self) -> None:
        """Ends it, as a power cut would."""
        if self._runs:
            self._launcher.tell("kill", self.port)
            self._runs = False
