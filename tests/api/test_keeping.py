"""Duplicate, put away, delete with a way back, back up and restore; and the kitchen that amounts are given for."""

import json
from collections.abc import Callable
from typing import Any

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import text
from tests.api.test_api import planned, taken
from tests.api.test_batch import set_kitchen

from fern_match.store.trees import DELETED_KEPT_DAYS, purge

Ready = Callable[[str], dict[str, Any]]


def names(client: TestClient) -> list[str]:
    """Names on the list."""
    return [one["name"] for one in client.get("/api/matches").json()["matches"]]


def test_a_copy_is_its_own(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """The same study under another name; changing one leaves the other."""
    copy = client.post(f"/api/matches/{match_id}/duplicate").json()["id"]
    assert set(names(client)) == {"Harbour Light", "Harbour Light (copy)"}
    client.put(f"/api/matches/{copy}/study", json={"revision": 1, "study": {**study, "name": "Changed"}})
    assert client.get(f"/api/matches/{match_id}/study").json()["study"]["name"] == "Harbour Light"


def test_putting_away_and_taking_out(client: TestClient, match_id: str) -> None:
    """Still there, at the end of the list."""
    client.post("/api/matches", json={"name": "Older"})
    client.post(f"/api/matches/{match_id}/archive", json={"archived": True})
    listed = client.get("/api/matches").json()["matches"]
    assert [(one["name"], one["archived"]) for one in listed] == [("Older", False), ("Harbour Light", True)]
    client.post(f"/api/matches/{match_id}/archive", json={"archived": False})
    assert not any(one["archived"] for one in client.get("/api/matches").json()["matches"])


def test_a_deleted_match_can_be_brought_back(client: TestClient, match_id: str) -> None:
    """Whole, with its history."""
    before = client.get(f"/api/matches/{match_id}/study").json()
    client.delete(f"/api/matches/{match_id}")
    assert names(client) == []
    assert client.post(f"/api/matches/{match_id}/bring-back").status_code == 204
    assert client.get(f"/api/matches/{match_id}/study").json() == before


def test_deleted_matches_go_for_good_after_a_month(client: TestClient, match_id: str) -> None:
    """And not before."""
    client.delete(f"/api/matches/{match_id}")
    database = client.app.state.desk.database  # type: ignore[attr-defined]
    with database.writing() as session:
        assert purge(session) == 0
        session.execute(text(f"update trees set deleted_at = datetime('now', '-{DELETED_KEPT_DAYS + 1} days')"))
    with database.writing() as session:
        assert purge(session) == 1
    assert client.post(f"/api/matches/{match_id}/bring-back").status_code == 404


@pytest.mark.parametrize("action", ["duplicate", "bring-back"])
def test_what_is_not_there_is_404(client: TestClient, action: str) -> None:
    """In the one shape."""
    assert client.post(f"/api/matches/nope/{action}").json()["code"] == "NotKnown"


def test_a_backup_restores_everything(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """Into an emptied database: the same matches and the kitchen. Into one that has them: nothing twice."""
    client.post("/api/matches", json={**study, "name": "Second"})
    set_kitchen(client, scale_step="1 g", measures="US", mass_unit="oz")
    backup = client.get("/api/backup")
    assert "fern-match-backup.json" in backup.headers["content-disposition"]
    again = client.post("/api/restore", content=backup.content, headers={"content-type": "application/json"})
    assert (again.json()["added"], again.json()["already_here"]) == (0, 2)
    for one in client.get("/api/matches").json()["matches"]:
        client.delete(f"/api/matches/{one['id']}")
    set_kitchen(client, scale_step="0.1 g", measures="metric", mass_unit="g")  # as it came
    restored = client.post("/api/restore", content=backup.content, headers={"content-type": "application/json"})
    assert (restored.json()["added"], restored.json()["already_here"]) == (2, 0)
    assert client.get("/api/backup").text == backup.text


def test_a_restore_leaves_a_kitchen_that_was_set_up(client: TestClient, match_id: str) -> None:
    """An old backup does not undo what was typed since."""
    backup = client.get("/api/backup")
    set_kitchen(client, altitude="1600 m")
    client.post("/api/restore", content=backup.content, headers={"content-type": "application/json"})
    assert client.get("/api/kitchen").json()["kitchen"]["altitude"] == "1600 m"


@pytest.mark.parametrize("content", [b"{", b"{}", b'{"format": "fern-match-backup", "version": 1, "matches": [{"version": 1}]}'])
def test_a_broken_backup_restores_nothing(client: TestClient, match_id: str, content: bytes) -> None:
    """And says why."""
    refused = client.post("/api/restore", content=content, headers={"content-type": "application/json"})
    assert refused.status_code == 422
    assert refused.json()["message"].endswith("Nothing was restored.")
    assert len(names(client)) == 1


def test_one_bad_match_spoils_the_whole_backup(client: TestClient, match_id: str) -> None:
    """Nothing is half restored."""
    raw = json.loads(client.get("/api/backup").text)
    raw["matches"].append({**raw["matches"][0], "batches": [{"id": "b", "version": "gone"}]})
    refused = client.post("/api/restore", json=raw)
    assert refused.status_code == 422
    assert len(names(client)) == 1


def test_the_kitchen_gives_the_batch_its_scale_and_spoons(client: TestClient, match_id: str, ready: Ready) -> None:
    """Whole grams and US cups where it says so."""
    ready(match_id)
    taken(client, match_id)
    planned(client, match_id, 2, pieces="24")
    set_kitchen(client, scale_step="1 g", measures="US", mass_unit="oz")
    path = f"/api/matches/{match_id}/batches"
    answer = client.get(f"{path}/{client.get(path).json()['batches'][0]['id']}").json()
    amounts = [one for layer in answer["batch"]["layers"] for one in layer["ingredients"]]
    assert (answer["mass_unit"], answer["scale_step_g"]) == ("oz", 1.0)
    heavy = [one for one in amounts if not one["below_scale"]]
    assert heavy
    assert all(float(one["weigh_out_g"]).is_integer() for one in heavy)
    assert any(one["scooped"] and one["scooped"]["words"].endswith(("cup", "tbsp")) for one in amounts)
    assert all(one["weigh_out_oz"] == pytest.approx(one["weigh_out_g"] / 28.349523125) for one in amounts)


def test_an_odd_scale_is_kept_with_a_sentence(client: TestClient) -> None:
    """What was typed stays."""
    answer = set_kitchen(client, scale_step="very fine")
    assert answer["kitchen"]["scale_step"] == "very fine"
    assert "not read as a weight" in answer["scale_step"]["problem"]


def test_the_kitchen_tells_what_is_known_of_boiling(client: TestClient) -> None:
    """Height and reading together give the thermometer's own error; figures come in the kitchen's unit."""
    body = {"altitude": "5249 ft", "boiling_reading": "201 F", "temperature_unit": "F", "length_unit": "in", "measures": "US"}
    told = set_kitchen(client, **body)
    assert told["boiling_words"].startswith("Water boils at 202 °F there; your thermometer reads 1.4 °F low.")
    assert not told["thermometer_is_suspect"]
    assert (told["altitude"]["value"], told["altitude"]["read_as"]) == (pytest.approx(1599.9, abs=0.1), None)
    assert client.get("/api/kitchen").json() == told


def test_amounts_are_shown_in_the_kitchen_s_units(client: TestClient, match_id: str, study: dict[str, Any], ready: Ready) -> None:
    """What was read in ounces, the slice in inches and in the measured size."""
    size = {"length": "4 in", "width": "25", "height": "20"}
    client.put(f"/api/matches/{match_id}/study", json={"revision": 1, "study": {**study, "size": size}})
    set_kitchen(client, mass_unit="oz", length_unit="in")
    reading = client.get(f"/api/matches/{match_id}/study").json()["reading"]
    assert reading["net_weight"]["read_as"] == "1.48 oz"
    assert next(one for one in reading["weighings"] if one["subject"] == "coat")["mean_in_ounces"] == "0.571 oz"
    assert (reading["size"]["length"]["read_as"], reading["size"]["width"]["read_as"]) == (None, "0.984 in")
    face = ready(match_id)["slice"]
    assert (face["length"], face["width"], face["size_assumed"]) == ("4.00 in", "0.98 in", False)
    assert face["bands"][0]["thickness"].endswith(" in")


def test_two_windows_change_the_kitchen_without_undoing_each_other(client: TestClient) -> None:
    """Different settings come together; the same one asks, and can be decided."""
    usual = client.get("/api/kitchen").json()["kitchen"]

    def put(**changes: Any) -> Any:
        return client.put("/api/kitchen", json={"revision": 0, "kitchen": {**usual, **changes}})

    put(altitude="1600 m")
    told = put(scale_step="1 g").json()["kitchen"]
    assert (told["altitude"], told["scale_step"]) == ("1600 m", "1 g")
    asked = put(altitude="20 m")
    assert (asked.status_code, asked.json()["revision"]) == (409, 2)
    assert "Height above the sea: yours “20 m”, there “1600 m”" in asked.json()["message"]
    body = {"revision": 0, "kitchen": {**usual, "altitude": "20 m"}, "decided_on": 2}
    decided = client.put("/api/kitchen", json=body).json()["kitchen"]
    assert (decided["altitude"], decided["scale_step"]) == ("20 m", "1 g")


def test_a_change_of_the_kitchen_is_undone_and_done_again(client: TestClient) -> None:
    """By the mechanism of matches, with words."""
    set_kitchen(client, altitude="1600 m")
    changed = set_kitchen(client, altitude="20 m")
    assert changed["undo_state"]["undo"] == "Height above the sea: 20 m, was 1600 m"
    back = client.post("/api/kitchen/undo", json={"revision": 2}).json()
    assert (back["kitchen"]["altitude"], back["undo_state"]["redo"]) == ("1600 m", "Height above the sea: 20 m, was 1600 m")
    again = client.post("/api/kitchen/redo", json={"revision": 3}).json()
    assert again["kitchen"]["altitude"] == "20 m"
    assert client.post("/api/kitchen/undo", json={"revision": 2}).status_code == 409


def test_what_was_deleted_is_listed_until_it_is_gone(client: TestClient, match_id: str) -> None:
    """With the days that are left."""
    client.delete(f"/api/matches/{match_id}")
    found = client.get("/api/matches").json()
    assert found["deleted"] == [{"id": match_id, "name": "Harbour Light", "days_left": 30}]
    client.post(f"/api/matches/{match_id}/bring-back")
    assert client.get("/api/matches").json()["deleted"] == []


def test_deleting_stops_what_is_computed(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """Nobody will ask for it."""
    runner = client.app.state.desk.runner  # type: ignore[attr-defined]
    client.get(f"/api/matches/{match_id}/estimate", params={"wait_s": 0})
    client.delete(f"/api/matches/{match_id}")
    assert runner.busy() == 0


def test_the_list_draws_the_estimate_once_there_is_one(client: TestClient, match_id: str, ready: Ready) -> None:
    """In usual proportions before that."""
    before = client.get("/api/matches").json()["matches"][0]["picture"]
    ready(match_id)
    after = client.get("/api/matches").json()["matches"][0]["picture"]
    assert (before["rough"], after["rough"]) == (True, False)
    assert before["bands"] != after["bands"]
