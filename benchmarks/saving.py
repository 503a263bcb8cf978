"""How long a saved change takes to be answered, with 200 matches in the database."""

import statistics
import tempfile
import time
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from fern_match.api.app import create_app
from fern_match.api.settings import Settings
from fern_match.core.food import standard_pantry
from fern_match.demo.world import night_crossing_match
from fern_match.exchange import written_match_file

MATCHES, SAVES = 200, 120


def save_times_ms() -> list[float]:
    """Each save of one field of a whole study [ms]: merged, kept on the disk with its revision, answered with its reading."""
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Settings(database=Path(folder) / "saving.db", web=Path(folder)))
        with TestClient(app, base_url="http://127.0.0.1") as client:
            return _save_times_ms(client)


def _save_times_ms(client: TestClient) -> list[float]:
    demo = written_match_file(night_crossing_match(standard_pantry()))
    headers = {"Content-Type": "application/json"}
    made = [client.post("/api/matches/import", content=demo, headers=headers).json() for _ in range(MATCHES)]
    times = []
    for at in range(SAVES):
        address = f"/api/matches/{made[at * 7 % MATCHES]['id']}/study"
        known: dict[str, Any] = client.get(address).json()
        known["study"]["label"]["net_weight"] = f"{40 + at / 10:.1f} g"
        body = {"revision": known["revision"], "study": known["study"]}
        begin = time.perf_counter()
        answer = client.put(address, json=body)
        times.append(1000 * (time.perf_counter() - begin))
        if answer.status_code != 200:
            raise RuntimeError(answer.text)
    return times


def percentile_95(times: list[float]) -> float:
    """The 95th percentile.

    Args:
        times: At least two.
    """
    return statistics.quantiles(times, n=20)[-1]
