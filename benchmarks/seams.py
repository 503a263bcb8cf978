"""What own pantry rows cost an open match, what six presses on a limit compute, and how the frame answers while eight adapt."""

import statistics
import tempfile
import threading
import time
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from fern_match.api.app import create_app
from fern_match.api.hands import hands_of_process
from fern_match.api.settings import Settings
from fern_match.core.families import standard_families
from fern_match.core.food import standard_pantry
from fern_match.demo.world import night_crossing_match
from fern_match.exchange import written_match_file

ROUNDS, PRESSES, AT_ONCE = 40, 6, 8
OWN = ("honey", "tahini", "white-sugar")


def main(reference_ms: float) -> None:
    """Prints everything."""
    demo = written_match_file(night_crossing_match(standard_pantry(), standard_families()))
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Settings(database=Path(folder) / "seams.db", web=Path(folder)))
        with TestClient(app, base_url="http://127.0.0.1") as client:
            matches = [_imported(client, demo) for _ in range(AT_ONCE)]
            before = _reading(client, matches[0])
            for key in OWN:
                _own(client, key)
            after = _reading(client, matches[0])
            for what, first in before.items():
                print(f"{what}: {first:.0f} ms, with {len(OWN)} own rows {after[what]:.0f} ms ({after[what] / first:.2f} times)")
            print(f"{PRESSES} presses on a limit: {_presses(client, matches[0])} proposals worked out")
            times = _frames_while_adapting(client, matches)
            late = sorted(times)[int(0.95 * len(times))]
            print(
                f"frame while {AT_ONCE} adapt: {statistics.median(times):.0f} ms median, {late:.0f} ms at the 95th percentile, "
                f"{late / reference_ms:.2f} times the reference loop"
            )


def _imported(client: TestClient, text: str) -> str:
    return str(client.post("/api/matches/import", content=text, headers={"Content-Type": "application/json"}).json()["id"])


def _own(client: TestClient, key: str) -> None:
    view = client.get(f"/api/pantry/{key}").json()
    food = {**view["ingredient"], "note": "Weighed at home."}
    client.put(f"/api/pantry/{key}", json={"revision": view["revision"], "ingredient": food}).raise_for_status()


def _reading(client: TestClient, match: str) -> dict[str, float]:
    """Median time of what a page asks for [ms]."""
    found = {}
    for what in ("study", "frame", "estimate"):
        while (
            what == "estimate"
            and client.get(f"/api/matches/{match}/{what}", params={"wait_s": 2}).json()["status"] == "computing"
        ):
            pass
        times = []
        for _ in range(ROUNDS):
            start = time.perf_counter()
            client.get(f"/api/matches/{match}/{what}")
            times.append(1000 * (time.perf_counter() - start))
        found[what] = statistics.median(times)
    return found


def _presses(client: TestClient, match: str) -> int:
    """How many proposals are worked out for a limit that is moved six times in a row, each time before the last is there."""
    done: list[Any] = []
    hands: Any = hands_of_process()
    whole = hands.do

    def counted(*asked: Any) -> Any:
        found = whole(*asked)
        done.append(found)
        return found

    hands.do = counted
    try:
        for grams in range(4, 4 + PRESSES):
            asked: dict[str, Any] = {"rule": [f"keto:{grams}"], "window": "one", "wait_s": 0.0 if grams < 3 + PRESSES else 2.0}
            path = f"/api/matches/{match}/versions/faithful/adapt"
            while client.get(path, params=asked).json().get("status") == "computing" and asked["wait_s"]:
                pass
    finally:
        hands.do = whole
    return len(done)


def _frames_while_adapting(client: TestClient, matches: list[str]) -> list[float]:
    """Times of the frame while each match is adapted in a window of its own [ms]."""

    def adapt(match: str) -> None:
        path = f"/api/matches/{match}/versions/faithful/adapt"
        asked: dict[str, Any] = {"rule": ["sugar-free"], "window": match, "wait_s": 2.0}
        while client.get(path, params=asked).json().get("status") == "computing":
            pass

    working = [threading.Thread(target=adapt, args=(match,)) for match in matches]
    for one in working:
        one.start()
    times = []
    while any(one.is_alive() for one in working):
        start = time.perf_counter()
        client.get(f"/api/matches/{matches[0]}/frame")
        times.append(1000 * (time.perf_counter() - start))
        time.sleep(0.05)
    return times


if __name__ == "__main__":
    main(1.0)
