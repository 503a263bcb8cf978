"""The application in a process of its own."""

import os
import socket
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

ROOT = Path(__file__).parents[2]


class Server:
    """The application in a process of its own, which can be stopped and started again."""

    def __init__(self, database: Path, *, demo: bool) -> None:
        """A server that is not started yet."""
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self._environment = {**os.environ, "FERN_MATCH_DATABASE": str(database), "FERN_MATCH_WEB": str(ROOT / "web" / "dist")}
        self._demo = ["--demo"] if demo else []
        self._process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Starts and waits until it answers."""
        command = [sys.executable, "-m", "fern_match.cli", "serve", "--port", str(self.port), *self._demo]
        self._process = subprocess.Popen(command, env=self._environment, stdout=subprocess.DEVNULL)
        deadline = time.monotonic() + 40
        while time.monotonic() < deadline:
            try:
                with urllib.request.urlopen(f"{self.url}/api/health", timeout=2):
                    return
            except OSError:
                time.sleep(0.1)
        raise TimeoutError("the server did not start")

    def stop(self) -> None:
        """Ends it, as a power cut would."""
        if self._process is not None:
            self._process.kill()
            self._process.wait()
            self._process = None
