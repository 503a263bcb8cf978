"""How long a saved field and the frame take, with 200 small matches in the database and one that holds very much."""

import statistics
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from fern_match.api.app import create_app
from fern_match.api.settings import Settings
from fern_match.core.families import standard_families
from fern_match.core.food import standard_pantry
from fern_match.core.match import Match, first_plan
from fern_match.demo.world import night_crossing_match
from fern_match.exchange import written_match_file

MATCHES, ROUNDS = 200, 120
LARGE = {"50 versions and batches": 50, "150 versions and batches": 150}


@dataclass
class Times:
    """What was timed of matches of one size [ms]."""

    title: str
    saves: list[float]
    frames: list[float]

    def line(self, reference_ms: float) -> str:
        """One printed row."""
        words = []
        for what, times in (("saved field", self.saves), ("frame", self.frames)):
            late = percentile_95(times)
            words.append(
                f"{what} {statistics.median(times):.0f} ms median, {late:.0f} ms at the 95th percentile, "
                f"{late / reference_ms:.2f} times the reference loop"
            )
        return f"{self.title}: {'; '.join(words)}"


def save_times() -> list[Times]:
    """Each save of one field of a whole study, from its sending to its answer, and the frame that is then asked for."""
    demo = night_crossing_match(standard_pantry(), standard_families())
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Settings(database=Path(folder) / "saving.db", web=Path(folder)))
        with TestClient(app, base_url="http://127.0.0.1") as client:
            small = [_imported(client, demo) for _ in range(MATCHES)]
            timed = [_timed(client, f"{MATCHES} small matches", lambda at: small[at * 7 % MATCHES])]
            for title, count in LARGE.items():
                large = _imported(client, grown(demo, count))
                timed.append(_timed(client, title, lambda _, large=large: large))  # type: ignore[misc]
            return timed


def grown(match: Match, count: int) -> Match:
    """A match with so many versions of the first one's size, each with a batch."""
    first = match.versions[0]
    versions = tuple(replace(first, id=f"v{at}", name=f"Try {at}") for at in range(count))
    stock = {line.ingredient: "250 g" for layer in first.layers for line in layer.ingredients}
    batches = tuple(replace(first_plan(version), pieces="24", in_house=stock) for version in versions)
    return replace(match, versions=versions, batches=batches)


def _imported(client: TestClient, match: Match) -> str:
    answer = client.post("/api/matches/import", content=written_match_file(match), headers={"Content-Type": "application/json"})
    return str(_answer(answer)["id"])


def _timed(client: TestClient, title: str, match_at: Callable[[int], str]) -> Times:
    saves, frames = [], []
    for at in range(ROUNDS):
        address = f"/api/matches/{match_at(at)}"
        known = _answer(client.get(f"{address}/study"))
        known["study"]["label"]["net_weight"] = f"{40 + at / 10:.1f} g"
        body = {"revision": known["revision"], "study": known["study"]}
        begin = time.perf_counter()
        answer = client.put(f"{address}/study", json=body)
        saves.append(1000 * (time.perf_counter() - begin))
        _answer(answer)
        begin = time.perf_counter()
        answer = client.get(f"{address}/frame")
        frames.append(1000 * (time.perf_counter() - begin))
        _answer(answer)
    return Times(title, saves, frames)


def _answer(answer: Any) -> dict[str, Any]:
    if answer.is_error:
        raise RuntimeError(answer.text)
    return dict(answer.json())


def percentile_95(times: list[float]) -> float:
    """The 95th percentile.

    Args:
        times: At least two.
    """
    return statistics.quantiles(times, n=20)[-1]
