"""Many at once: backups, saves and readers beside each other are all answered."""

import threading
from collections.abc import Callable
from typing import Any

from fastapi.testclient import TestClient
from tests.api.test_batch import FILE


def at_once(*asks: Callable[[], Any]) -> list[Any]:
    """What each answers, all asked at the same time."""
    answers: list[Any] = [None] * len(asks)

    def run(at: int) -> None:
        answers[at] = asks[at]()

    threads = [threading.Thread(target=run, args=(at,)) for at in range(len(asks))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return answers


def test_twelve_backups_and_a_save_beside_them(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """None waits for another so long that it is turned away."""
    for _ in range(60):
        client.post("/api/matches/import", json=FILE)

    def save() -> Any:
        return client.put(f"/api/matches/{match_id}/study", json={"revision": 1, "study": {**study, "maker": "x"}})

    answers = at_once(*[lambda: client.get("/api/backup")] * 12, save, lambda: client.get("/api/matches"))
    assert [answer.status_code for answer in answers] == [200] * 14


def test_a_restore_holds_nobody_up(client: TestClient, match_id: str) -> None:
    """Whoever asks meanwhile is answered; everything comes in."""
    backup = {"format": "fern-match-backup", "version": 2, "matches": [{**FILE, "study": {"name": str(n)}} for n in range(120)]}
    answers = at_once(lambda: client.post("/api/restore", json=backup), *[lambda: client.get("/api/health")] * 5)
    assert [answer.status_code for answer in answers] == [200] * 6
    assert answers[0].json()["added"] == 120
    assert len(client.get("/api/matches").json()["matches"]) == 121


def test_many_who_wait_for_an_estimate_leave_room_for_others(client: TestClient, match_id: str) -> None:
    """Sixty ask for one that takes a while; health is answered beside them."""
    asks = [lambda: client.get(f"/api/matches/{match_id}/estimate", params={"wait_s": 2})] * 60
    answers = at_once(*asks, lambda: client.get("/api/health"))
    assert {answer.status_code for answer in answers} == {200}
    assert {answer.json()["revision"] for answer in answers[:-1]} == {1}
