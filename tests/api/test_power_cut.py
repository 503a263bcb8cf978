"""The server is killed again and again during a stream of edits: no acknowledged edit is lost."""

import http.client
import json
import random
import socket
import sqlite3
import subprocess
import sys
import threading
import time
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest

KILLS = 200
SEED = 7


class Writer(threading.Thread):
    """Saves one name after another, and remembers the last one that was acknowledged."""

    def __init__(self, port: int, match_id: str) -> None:
        """A writer that is not running yet."""
        super().__init__(daemon=True)
        self.port, self.match_id = port, match_id
        self.acknowledged, self.tried, self.done = -1, -1, threading.Event()

    def run(self) -> None:
        """Until it is told to stop; a lost server is tried again."""
        while not self.done.is_set():
            try:
                self._stream()
            except (OSError, http.client.HTTPException):
                time.sleep(0.002)

    def _stream(self) -> None:
        with closing(http.client.HTTPConnection("127.0.0.1", self.port, timeout=5)) as connection:
            self._edits(connection)

    def _edits(self, connection: http.client.HTTPConnection) -> None:
        known = ask(connection, "GET", f"/api/matches/{self.match_id}/study")
        revision = known["revision"]
        while not self.done.is_set():
            self.tried = max(self.tried, self.acknowledged) + 1
            body = {"revision": revision, "study": {"name": str(self.tried)}, "prefer_mine": True}
            revision = ask(connection, "PUT", f"/api/matches/{self.match_id}/study", body)["revision"]
            self.acknowledged = self.tried


def ask(connection: http.client.HTTPConnection, method: str, path: str, body: Any = None) -> Any:
    """One request; anything but success is a lost server."""
    connection.request(method, path, json.dumps(body) if body else None, {"Content-Type": "application/json"})
    answer = connection.getresponse()
    content = answer.read()
    if answer.status >= 400:
        raise OSError(answer.status)
    return json.loads(content)


class Launcher:
    """The forking server, told to start and to die."""

    def __init__(self, database: Path) -> None:
        """Everything imported, nothing started."""
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        command = [sys.executable, str(Path(__file__).with_name("forked.py")), str(database), str(self.port)]
        self._process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
        self._answer()

    def _answer(self) -> None:
        assert self._process.stdout is not None
        self._process.stdout.readline()

    def tell(self, word: str) -> None:
        """start or kill; returns once it is done."""
        assert self._process.stdin is not None
        self._process.stdin.write(f"{word}\n")
        self._process.stdin.flush()
        self._answer()

    def close(self) -> None:
        """The end of it."""
        assert self._process.stdin is not None
        assert self._process.stdout is not None
        self._process.stdin.close()
        self._process.stdout.close()
        self._process.wait(10)


def first_answer(port: int) -> None:
    """Waits until the server answers."""
    deadline = time.monotonic() + 20
    while time.monotonic() < deadline:
        try:
            with closing(http.client.HTTPConnection("127.0.0.1", port, timeout=2)) as connection:
                ask(connection, "GET", "/api/health")
            return
        except (OSError, http.client.HTTPException):
            time.sleep(0.003)
    raise TimeoutError("the server did not start")


@pytest.mark.slow
def test_no_acknowledged_edit_is_lost(tmp_path: Path) -> None:
    """Killed again and again at random moments; each time it starts again, the database is sound, and the last answer holds."""
    chance = random.Random(SEED)
    server = Launcher(tmp_path / "cut.db")
    server.tell("start")
    first_answer(server.port)
    with closing(http.client.HTTPConnection("127.0.0.1", server.port)) as connection:
        match_id = ask(connection, "POST", "/api/matches", {"name": "-1"})["id"]
    writer = Writer(server.port, match_id)
    writer.start()
    for _ in range(KILLS):
        time.sleep(chance.uniform(0.02, 0.14))
        server.tell("kill")
        acknowledged = writer.acknowledged
        with closing(sqlite3.connect(tmp_path / "cut.db")) as database:
            assert database.execute("pragma integrity_check").fetchone() == ("ok",)
            (name,) = database.execute("select name from matches").fetchone()
            assert int(name) >= acknowledged
        server.tell("start")
        first_answer(server.port)
    writer.done.set()
    writer.join(10)
    server.tell("kill")
    server.close()
    assert writer.acknowledged > KILLS / 2  # it did get through in between
