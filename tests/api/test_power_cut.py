"""The server is killed again and again during a stream of edits: no acknowledged edit is lost."""

import http.client
import json
import os
import random
import sqlite3
import threading
import time
import zlib
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from tests.api.test_batch import FILE
from tests.served import Launcher, Server

KILLS = int(os.environ.get("FERN_MATCH_KILLS", "20"))  # `make campaign` asks for more
SEED = 7


class Client(threading.Thread):
    """Asks the server for something again and again; a lost server is tried again."""

    def __init__(self, port: int) -> None:
        """Not running yet."""
        super().__init__(daemon=True)
        self.port, self.done = port, threading.Event()

    def run(self) -> None:
        """Until it is told to stop."""
        while not self.done.is_set():
            try:
                with closing(http.client.HTTPConnection("127.0.0.1", self.port, timeout=5)) as connection:
                    self.stream(connection)
            except (OSError, http.client.HTTPException):
                time.sleep(0.002)

    def stream(self, connection: http.client.HTTPConnection) -> None:
        """One thing after the other."""
        raise NotImplementedError


class Writer(Client):
    """Saves one number after another in one field, and remembers the last one that was acknowledged."""

    def __init__(self, port: int, match_id: str, field: str) -> None:
        """Of one field of one match."""
        super().__init__(port)
        self.match_id, self.field = match_id, field
        self.acknowledged, self.tried = -1, -1

    def stream(self, connection: http.client.HTTPConnection) -> None:
        """Each edit on the newest revision known; another writer's edits of the same match are merged."""
        address = f"/api/matches/{self.match_id}/study"
        known = ask(connection, "GET", address)
        while not self.done.is_set():
            self.tried = max(self.tried, self.acknowledged) + 1
            study = {**known["study"], self.field: str(self.tried)}
            known = ask(connection, "PUT", address, {"revision": known["revision"], "study": study})
            self.acknowledged = self.tried


class Logger(Client):
    """Logs one entry after another at the stove, and counts those that were acknowledged."""

    def __init__(self, port: int, url: str) -> None:
        """Of one cook."""
        super().__init__(port)
        self.url, self.acknowledged, self.tried = url, 0, 0

    def stream(self, connection: http.client.HTTPConnection) -> None:
        """An entry whose answer did not come is sent again under its key; no faster than a cook could ever press."""
        while not self.done.is_set():
            self.tried = self.acknowledged + 1
            entry = {"key": str(self.tried), "kind": "timer", "of": str(self.tried), "value": 60.0}
            ask(connection, "POST", f"{self.url}/run", {"entries": [entry]})
            self.acknowledged = self.tried
            time.sleep(0.01)


class Importer(Client):
    """Imports one match after another, and remembers those that were acknowledged."""

    def __init__(self, port: int) -> None:
        """Of the batch tests' match."""
        super().__init__(port)
        self.acknowledged: list[str] = []

    def stream(self, connection: http.client.HTTPConnection) -> None:
        """A little slower than the writers."""
        while not self.done.is_set():
            self.acknowledged.append(ask(connection, "POST", "/api/matches/import", FILE)["id"])
            time.sleep(0.01)


def ask(connection: http.client.HTTPConnection, method: str, path: str, body: Any = None) -> Any:
    """One request; anything but success is a lost server."""
    connection.request(method, path, json.dumps(body) if body else None, {"Content-Type": "application/json"})
    answer = connection.getresponse()
    content = answer.read()
    if answer.status >= 400:
        raise OSError(answer.status)
    return json.loads(content)


@pytest.mark.slow
def test_no_acknowledged_change_is_lost(tmp_path: Path) -> None:
    """Killed again and again at random moments while three write to two matches, one imports and one logs a cook.

    Each time it starts again, the database is sound, every last answer holds, and what was imported is whole.
    """
    chance = random.Random(SEED)
    launcher = Launcher()
    server = Server(launcher, tmp_path / "cut.db")
    server.start()
    with closing(http.client.HTTPConnection("127.0.0.1", server.port)) as connection:
        one, other = (ask(connection, "POST", "/api/matches", {"name": "-1", "maker": "-1"})["id"] for _ in range(2))
        cooked = f"/api/matches/{ask(connection, 'POST', '/api/matches/import', FILE)['id']}/cooks"
        cook = ask(connection, "POST", cooked, {"revision": 1, "batch": "b"})["cooks"][0]["id"]
    writers = [Writer(server.port, one, "name"), Writer(server.port, one, "maker"), Writer(server.port, other, "name")]
    importer, logger = Importer(server.port), Logger(server.port, f"{cooked}/{cook}")
    for client in (*writers, importer, logger):
        client.start()
    for _ in range(KILLS):
        time.sleep(chance.uniform(0.1, 0.9))
        server.stop()
        acknowledged, imported = [writer.acknowledged for writer in writers], list(importer.acknowledged)
        check(tmp_path / "cut.db", writers, acknowledged, imported)
        check_log(tmp_path / "cut.db", logger.acknowledged)
        server.start()
    for client in (*writers, importer, logger):
        client.done.set()
    for client in (*writers, importer, logger):
        client.join(10)
    launcher.close()
    assert sum(writer.acknowledged for writer in writers) > KILLS  # they did get through in between
    assert len(importer.acknowledged) > KILLS / 4
    assert logger.acknowledged > 0


def check(path: Path, writers: list[Writer], acknowledged: list[int], imported: list[str]) -> None:
    """The file of a killed server, looked into as another program would."""
    with closing(sqlite3.connect(path)) as database:
        assert database.execute("pragma integrity_check").fetchone() == ("ok",)
        assert database.execute("pragma foreign_key_check").fetchall() == []
        for writer, number in zip(writers, acknowledged, strict=True):
            assert int(study_of(database, writer.match_id)[writer.field]) >= number
        parts = dict(database.execute("select tree_id, count(*) from parts group by tree_id").fetchall())
        assert {parts.get(match_id) for match_id in imported} <= {3}  # a study, a version, a batch: never a part of it
        gaps = "select 1 from trees where revision != (select max(number) from changes where tree_id = trees.id)"
        assert database.execute(gaps).fetchall() == []


def check_log(path: Path, acknowledged: int) -> None:
    """Every entry that was acknowledged is there, once, in order, and none was written back in time."""
    with closing(sqlite3.connect(path)) as database:
        found = database.execute("select number, key, at_ms from cook_log order by number").fetchall()
    assert [number for number, _, _ in found] == list(range(1, len(found) + 1))
    assert [int(key) for _, key, _ in found] == list(range(1, len(found) + 1))
    assert len(found) >= acknowledged
    assert [at for _, _, at in found] == sorted(at for _, _, at in found)


def study_of(database: sqlite3.Connection, match_id: str) -> dict[str, Any]:
    """The study of a match as it is kept."""
    wanted = "select body from contents join parts using (hash) where tree_id = ? and kind = 'study'"
    (body,) = database.execute(wanted, (match_id,)).fetchone()
    study: dict[str, Any] = json.loads(zlib.decompress(body))
    return study
