"""The API translates between people and core, refuses in one shape, and lets nobody else in."""

from collections.abc import Callable
from typing import Any

import pytest
from fastapi.testclient import TestClient

from fern_match.exchange.match_file import MOST_BYTES

Ready = Callable[[str], dict[str, Any]]


def put(client: TestClient, match_id: str, revision: int, study: dict[str, Any]) -> Any:
    """Saves a study."""
    return client.put(f"/api/matches/{match_id}/study", json={"revision": revision, "study": study})


def test_health(client: TestClient) -> None:
    """It answers."""
    assert client.get("/api/health").json()["status"] == "ok"


def test_a_new_match_is_listed(client: TestClient, match_id: str) -> None:
    """With its name and counts."""
    listed = client.get("/api/matches").json()
    assert [(one["id"], one["name"], one["layers"]) for one in listed] == [(match_id, "Harbour Light", 2)]


def test_the_study_is_read(client: TestClient, match_id: str) -> None:
    """Typed and read stand side by side."""
    answer = client.get(f"/api/matches/{match_id}/study").json()
    assert answer["revision"] == 1
    assert answer["study"]["label"]["net_weight"] == "42"
    assert answer["reading"]["net_weight"] == {"typed": "42", "value": 42.0, "unit": "g", "problem": None, "read_as": None}
    fat = next(row for row in answer["reading"]["rows"] if row["row"] == "fat")
    assert (fat["low"], fat["high"]) == (23.5, 24.5)
    assert [step["step"] for step in answer["path"]] == ["study", "estimate", "batch"]


def test_a_changed_study_comes_back_read(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """The answer to a save is the new reading."""
    study["label"]["rows"]["sugars"] = "80"
    answer = put(client, match_id, 1, study).json()
    assert answer["revision"] == 2
    assert any("cannot exceed" in flag["sentence"] for flag in answer["reading"]["flags"])


def test_different_fields_of_two_windows_come_together(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """The later save was made on the same revision as the earlier."""
    put(client, match_id, 1, {**study, "maker": "Ferrywright"})
    answer = put(client, match_id, 1, {**study, "statement": "Sugar, cream"})
    assert answer.status_code == 200
    assert (answer.json()["study"]["maker"], answer.json()["study"]["statement"]) == ("Ferrywright", "Sugar, cream")


def test_the_same_field_can_be_decided(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """Mine where asked for, and what the other window changed elsewhere stays."""
    put(client, match_id, 1, {**study, "name": "Theirs", "maker": "Ferrywright"})
    body = {"revision": 1, "study": {**study, "name": "Mine"}, "prefer_mine": True}
    answer = client.put(f"/api/matches/{match_id}/study", json=body).json()
    assert (answer["study"]["name"], answer["study"]["maker"]) == ("Mine", "Ferrywright")


def test_the_same_field_asks_and_loses_nothing(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """Two windows on one field."""
    assert put(client, match_id, 1, {**study, "name": "Window one"}).status_code == 200
    refused = put(client, match_id, 1, {**study, "name": "Window two"})
    assert refused.status_code == 409
    assert "Name: yours “Window two”, there “Window one”" in refused.json()["message"]
    assert client.get(f"/api/matches/{match_id}/study").json()["study"]["name"] == "Window one"


def test_the_estimate_arrives(client: TestClient, match_id: str, ready: Ready) -> None:
    """Layers, label, evidence, slice: all there, on the revision asked for."""
    answer = ready(match_id)
    assert answer["status"] == "ready"
    assert answer["revision"] == 1
    assert {layer["layer_id"] for layer in answer["layers"]} == {"coat", "caramel"}
    assert sum(layer["grams"]["best"] for layer in answer["layers"]) == pytest.approx(answer["piece_g"]["best"])
    assert {row["row"] for row in answer["label"]} >= {"fat", "sugars", "salt"}
    assert {band["id"] for band in answer["slice"]["bands"]} == {"coat", "caramel"}
    assert answer["to_settle"] == sum(piece["pulls"] for piece in answer["evidence"])


def test_a_newer_study_overtakes_the_older(client: TestClient, match_id: str, study: dict[str, Any], ready: Ready) -> None:
    """The answer is about the newest revision, and the older computation is given up."""
    client.get(f"/api/matches/{match_id}/estimate", params={"wait_s": 0})
    study["weighings"] = [{"subject": "coat", "readings": ["20", "20.1", "19.9"]}]
    put(client, match_id, 1, study)
    answer = ready(match_id)
    assert answer["revision"] == 2
    coat = next(layer for layer in answer["layers"] if layer["layer_id"] == "coat")
    assert coat["grams"]["best"] == pytest.approx(20, abs=1)


def test_too_little_is_an_answer(client: TestClient, ready: Ready) -> None:
    """An empty match gets sentences, not an error."""
    match_id = client.post("/api/matches", json={"name": "Empty"}).json()["id"]
    answer = ready(match_id)
    assert answer["status"] == "not_yet"
    assert len(answer["sentences"]) == 2


def test_from_estimate_to_batch(client: TestClient, match_id: str, ready: Ready) -> None:
    """Taken as a version, scaled to pieces, with a loss of one's own."""
    ready(match_id)
    taken = client.post(f"/api/matches/{match_id}/versions", json={"revision": 1})
    assert taken.status_code == 201
    batch = taken.json()["batches"][0]
    assert batch["batch"] is None
    body = {"revision": 2, "pieces": "12 x 2", "left_on_tools": {"caramel": "10"}}
    answer = client.put(f"/api/matches/{match_id}/batches/{batch['id']}", json=body).json()
    scaled = answer["batches"][0]["batch"]
    caramel = next(layer for layer in scaled["layers"] if layer["layer_id"] == "caramel")
    assert scaled["pieces"] == 24
    assert caramel["made_g"] == pytest.approx(caramel["needed_g"] / 0.9)
    assert {one["topic"] for one in answer["batches"][0]["cautions"]} == {"Hot sugar", "Allergens"}


def test_taking_again_replaces_the_version_and_keeps_the_batch(client: TestClient, match_id: str, ready: Ready) -> None:
    """One faithful version; its batch's pieces stay."""
    ready(match_id)
    batch = client.post(f"/api/matches/{match_id}/versions", json={"revision": 1}).json()["batches"][0]
    client.put(f"/api/matches/{match_id}/batches/{batch['id']}", json={"revision": 2, "pieces": "7"})
    again = client.post(f"/api/matches/{match_id}/versions", json={"revision": 3}).json()
    assert len(again["versions"]) == 1
    assert again["batches"][0]["pieces"]["typed"] == "7"


def test_no_version_without_an_estimate(client: TestClient) -> None:
    """A sentence, and nothing changes."""
    match_id = client.post("/api/matches", json={"name": "Empty"}).json()["id"]
    refused = client.post(f"/api/matches/{match_id}/versions", json={"revision": 1})
    assert refused.status_code == 422
    assert "no estimate to take" in refused.json()["message"]
    assert client.get(f"/api/matches/{match_id}/batches").json()["versions"] == []


@pytest.mark.parametrize("pieces", ["", "-3", "many", "1e9", "0"])
def test_odd_pieces_are_kept_with_a_sentence(client: TestClient, match_id: str, ready: Ready, pieces: str) -> None:
    """What was typed stays; there is no batch of it."""
    ready(match_id)
    batch = client.post(f"/api/matches/{match_id}/versions", json={"revision": 1}).json()["batches"][0]
    answer = client.put(f"/api/matches/{match_id}/batches/{batch['id']}", json={"revision": 2, "pieces": pieces}).json()
    assert answer["batches"][0]["pieces"]["typed"] == pieces
    assert answer["batches"][0]["batch"] is None
    assert bool(answer["batches"][0]["pieces"]["problem"]) == bool(pieces)


def test_export_then_import_is_the_same_match(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """As a file, with a name people recognise."""
    exported = client.get(f"/api/matches/{match_id}/export")
    assert "harbour-light.fern-match.json" in exported.headers["content-disposition"]
    copied = client.post("/api/matches/import", content=exported.content, headers={"content-type": "application/json"}).json()
    again = client.get(f"/api/matches/{copied['id']}/export")
    assert again.text == exported.text


@pytest.mark.parametrize("content", [b"", b"{", b"[]", b'{"format": "fern-match", "version": 1}'])
def test_a_broken_import_says_why_and_imports_nothing(client: TestClient, content: bytes) -> None:
    """Not by halves."""
    refused = client.post("/api/matches/import", content=content, headers={"content-type": "application/json"})
    assert refused.status_code == 422
    assert refused.json()["message"].endswith("Nothing was imported.")
    assert client.get("/api/matches").json() == []


def test_deleting(client: TestClient, match_id: str) -> None:
    """Gone from the list and from its address."""
    assert client.delete(f"/api/matches/{match_id}").status_code == 204
    assert client.get("/api/matches").json() == []
    assert client.get(f"/api/matches/{match_id}/study").status_code == 404


@pytest.mark.parametrize("path", ["study", "estimate", "batches", "export"])
def test_an_unknown_match_is_404_in_the_one_shape(client: TestClient, path: str) -> None:
    """Code, message, field."""
    answer = client.get(f"/api/matches/nope/{path}")
    assert answer.status_code == 404
    assert answer.json() == {"code": "NotKnown", "message": "There is no match called “nope”.", "field": None}


@pytest.mark.parametrize(
    "body",
    [
        {"revision": 1},
        {"revision": "one", "study": {"name": "x"}},
        {"revision": 1, "study": {"name": "x", "colour": 1}},
        {"revision": 1, "study": {"name": "x" * 500}},
        {"revision": 1, "study": {"name": "bad\u0000name"}},
        {"revision": 1, "study": {"name": "x", "layers": [{"id": "a"}]}},
    ],
)
def test_malformed_requests_are_422_in_the_one_shape(client: TestClient, match_id: str, body: dict[str, Any]) -> None:
    """With the place in the request."""
    answer = client.put(f"/api/matches/{match_id}/study", json=body)
    assert answer.status_code == 422
    assert answer.json()["code"] == "Malformed"
    assert answer.json()["field"].startswith("body")


def test_two_layers_of_one_id_are_refused(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """With a sentence, when a match is made and when it is changed."""
    twice = {**study, "layers": [study["layers"][0], study["layers"][0]]}
    made = client.post("/api/matches", json=twice)
    changed = client.put(f"/api/matches/{match_id}/study", json={"revision": 1, "study": twice})
    assert (made.status_code, changed.status_code) == (422, 422)
    assert made.json()["message"] == changed.json()["message"] == "Two layers have the same id."


def test_choices_are_offered(client: TestClient) -> None:
    """Pantry, families and usual builds."""
    assert len(client.get("/api/pantry").json()) == 220
    assert len(client.get("/api/families").json()) == 74
    assert len(client.get("/api/starter-builds").json()) >= 4


@pytest.mark.parametrize(
    ("headers", "status", "code"),
    [
        ({"host": "evil.example"}, 403, "ForeignHost"),
        ({"host": "127.0.0.1.evil.example"}, 403, "ForeignHost"),
        ({"origin": "http://evil.example"}, 403, "ForeignOrigin"),
        ({"origin": "null"}, 403, "ForeignOrigin"),
        ({"content-type": "text/plain"}, 415, "NotJson"),
        ({"content-type": "application/x-www-form-urlencoded"}, 415, "NotJson"),
    ],
)
def test_foreign_pages_cannot_drive_the_app(client: TestClient, headers: dict[str, str], status: int, code: str) -> None:
    """Host, Origin and content type are checked before anything is done."""
    answer = client.post("/api/matches", content=b'{"name": "x"}', headers={"content-type": "application/json", **headers})
    assert (answer.status_code, answer.json()["code"]) == (status, code)
    assert client.get("/api/matches").json() == []


def test_a_huge_request_is_refused(client: TestClient) -> None:
    """Before it is read."""
    answer = client.post("/api/matches/import", content=b"x" * (MOST_BYTES + 1), headers={"content-type": "application/json"})
    assert answer.status_code == 413


def test_a_request_of_untold_length_is_refused(client: TestClient) -> None:
    """It could go on for ever."""
    answer = client.post("/api/matches", content=iter([b'{"name": ', b'"x"}']), headers={"content-type": "application/json"})
    assert (answer.status_code, answer.json()["code"]) == (411, "NoLength")


def test_every_answer_carries_the_strict_headers(client: TestClient) -> None:
    """Nothing is loaded from elsewhere."""
    headers = client.get("/api/health").headers
    assert "default-src 'self'" in headers["content-security-policy"]
    assert "frame-ancestors 'none'" in headers["content-security-policy"]
    assert headers["x-content-type-options"] == "nosniff"


def test_an_answer_leaves_after_its_change_is_kept(
    client: TestClient, match_id: str, study: dict[str, Any], monkeypatch: Any
) -> None:
    """If the change cannot be kept, nobody is told that it was."""
    from sqlalchemy.orm import Session

    def fail(_session: Session) -> None:
        raise OSError("disk full")

    with monkeypatch.context() as patch:
        patch.setattr("sqlalchemy.orm.Session.commit", fail)
        patch.setattr("sqlalchemy.orm.SessionTransaction.commit", lambda *_a, **_k: fail(Session()))
        refused = put(client, match_id, 1, {**study, "name": "Lost"})
    assert (refused.status_code, refused.json()["code"]) == (500, "Mistake")
    assert client.get(f"/api/matches/{match_id}/study").json()["study"]["name"] == "Harbour Light"


def act(client: TestClient, match_id: str, action: str, revision: int, **more: Any) -> Any:
    """Undo, redo or return."""
    return client.post(f"/api/matches/{match_id}/{action}", json={"revision": revision, **more})


def test_undo_and_redo_over_the_api(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """Each says what it would do next."""
    changed = put(client, match_id, 1, {**study, "maker": "Ferrywright"}).json()
    assert changed["reach"] == {"undo": "Maker: Ferrywright", "redo": None}
    back = act(client, match_id, "undo", 2).json()
    assert (back["revision"], back["study"]["maker"]) == (3, "")
    assert back["reach"] == {"undo": None, "redo": "Maker: Ferrywright"}
    again = act(client, match_id, "redo", 3).json()
    assert (again["study"]["maker"], again["reach"]["undo"]) == ("Ferrywright", "Maker: Ferrywright")


@pytest.mark.parametrize("action", ["undo", "redo"])
def test_nothing_to_undo_or_redo_is_a_sentence(client: TestClient, match_id: str, action: str) -> None:
    """On a match as it was made."""
    refused = act(client, match_id, action, 1)
    assert refused.status_code == 409
    assert f"nothing to {action}" in refused.json()["message"]


def test_undo_refuses_when_another_window_wrote(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """It would take back what the user has not seen."""
    put(client, match_id, 1, {**study, "maker": "A"})
    put(client, match_id, 2, {**study, "maker": "B"})
    refused = act(client, match_id, "undo", 2)
    assert (refused.status_code, refused.json()["code"]) == (409, "Stale")
    assert client.get(f"/api/matches/{match_id}/study").json()["study"]["maker"] == "B"


def test_what_changed_and_back_to_a_moment(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """The list in words, the difference between two moments, and a return that can be undone."""
    study["weighings"] = [{"subject": "coat", "readings": ["16.2", "15.9"]}]
    put(client, match_id, 1, study)
    study["weighings"] = [{"subject": "coat", "readings": ["16.2", "15.1"]}]
    put(client, match_id, 2, study)
    moments = client.get(f"/api/matches/{match_id}/moments").json()
    assert [one["words"] for one in moments] == [
        ["Milk coat, reading 2: 15.1 g, was 15.9 g"],
        ["Milk coat, reading 2: 15.9 g"],
        ["Match made"],
    ]
    told = client.get(f"/api/matches/{match_id}/changes", params={"since": 1, "until": 3}).json()
    assert told["sentences"] == ["Milk coat, reading 2: 15.1 g"]
    returned = act(client, match_id, "return", 3, number=1).json()
    assert returned["study"]["weighings"] == [{"subject": "coat", "readings": ["16.2"]}]
    assert act(client, match_id, "undo", 4).json()["study"]["weighings"][0]["readings"] == ["16.2", "15.1"]
    assert act(client, match_id, "return", 5, number=99).status_code == 404
