"""The API translates between people and core, refuses in one shape, and lets nobody else in."""

import sqlite3
from collections.abc import Callable
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from fern_match.api.app import create_app
from fern_match.api.errors import STATUS
from fern_match.api.settings import Settings
from fern_match.core.errors import CoreError
from fern_match.core.families import standard_families
from fern_match.core.food import standard_pantry
from fern_match.exchange.match_file import MOST_FILE_BYTES

Ready = Callable[[str], dict[str, Any]]


def listed(client: TestClient) -> list[dict[str, Any]]:
    """The lines of the list."""
    lines: list[dict[str, Any]] = client.get("/api/matches").json()["matches"]
    return lines


def undo_state(client: TestClient, match_id: str) -> dict[str, Any]:
    """What undo and redo would do."""
    state: dict[str, Any] = client.get(f"/api/matches/{match_id}/frame").json()["undo_state"]
    return state


def weighed(**subjects: list[str]) -> list[dict[str, str]]:
    """Readings as a client sends them."""
    return [
        {"id": f"{subject}-{number}", "subject": subject, "typed": typed}
        for subject, texts in subjects.items()
        for number, typed in enumerate(texts, 1)
    ]


def put(client: TestClient, match_id: str, revision: int, study: dict[str, Any]) -> Any:
    """Saves a study."""
    return client.put(f"/api/matches/{match_id}/study", json={"revision": revision, "study": study})


def test_health(client: TestClient) -> None:
    """It answers."""
    assert client.get("/api/health").json()["status"] == "ok"


def test_a_new_match_is_listed(client: TestClient, match_id: str) -> None:
    """With its facts, how far it is, and a slice in usual proportions."""
    (line,) = listed(client)
    assert (line["id"], line["name"], line["progress"]) == (match_id, "Harbour Light", "Study: 1/2 weighed")
    assert line["facts"] == ["42 g", "EU label", "2 layers"]
    assert line["picture"]["rough"]
    assert len(line["picture"]["bands"]) == 2


def test_the_study_is_read(client: TestClient, match_id: str) -> None:
    """Typed and read stand side by side."""
    answer = client.get(f"/api/matches/{match_id}/study").json()
    assert answer["revision"] == 1
    assert answer["study"]["label"]["net_weight"] == "42"
    assert answer["reading"]["net_weight"] == {"typed": "42", "value": 42.0, "unit": "g", "problem": None, "read_as": None}
    fat = next(row for row in answer["reading"]["rows"] if row["row"] == "fat")
    assert (fat["low"], fat["high"]) == (23.5, 24.5)


def test_the_frame_tells_all_that_stands_round_a_step(client: TestClient, match_id: str) -> None:
    """Name, path, layers with their looks, the rows in sight, undo."""
    frame = client.get(f"/api/matches/{match_id}/frame").json()
    assert (frame["name"], frame["about"], frame["basis"]) == ("Harbour Light", "42 g · EU label", "Per 100 g")
    assert [step["step"] for step in frame["path"]] == ["study", "estimate", "formulate", "adapt", "batch", "cook", "trials"]
    assert [(layer["layer_id"], layer["family_name"]) for layer in frame["layers"]] == [
        ("coat", "Milk chocolate coat"),
        ("caramel", "Soft caramel, cream school"),
    ]
    assert {target["title"]: target["declared"] for target in frame["targets"]}["Fat"] == "label 24 g"
    assert frame["undo_state"] == {"undo": None, "redo": None}


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
    body = {"revision": 1, "study": {**study, "name": "Mine"}, "decided_on": 2}
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
    pulling = sum(piece["pulls"] for piece in answer["evidence"])
    assert answer["settle_words"] == f"{pulling} to settle"


def test_a_newer_study_overtakes_the_older(client: TestClient, match_id: str, study: dict[str, Any], ready: Ready) -> None:
    """The answer is about the newest revision, and the older computation is given up."""
    client.get(f"/api/matches/{match_id}/estimate", params={"wait_s": 0})
    study["readings"] = weighed(coat=["20", "20.1", "19.9"])
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
    assert {one["part"] for one in answer["missing"]} == {"layers", "label"}


def taken(client: TestClient, match_id: str, revision: int = 1, **more: bool) -> Any:
    """Takes the estimate as a version."""
    return client.post(f"/api/matches/{match_id}/versions", json={"revision": revision, **more})


def versions(client: TestClient, match_id: str) -> list[dict[str, Any]]:
    """The list of versions."""
    found: list[dict[str, Any]] = client.get(f"/api/matches/{match_id}/versions").json()["versions"]
    return found


def batches(client: TestClient, match_id: str) -> list[dict[str, Any]]:
    """The batches, each computed."""
    path = f"/api/matches/{match_id}/batches"
    return [client.get(f"{path}/{one['id']}").json() for one in client.get(path).json()["batches"]]


def planned(client: TestClient, match_id: str, revision: int, **changes: Any) -> Any:
    """Changes the first batch's plan."""
    plan = {**batches(client, match_id)[0]["plan"], **changes}
    return client.put(f"/api/matches/{match_id}/batches/{plan['id']}", json={"revision": revision, "plan": plan})


def test_from_estimate_to_batch(client: TestClient, match_id: str, ready: Ready) -> None:
    """Taken as a version, scaled to pieces, with a loss of one's own."""
    ready(match_id)
    assert taken(client, match_id).status_code == 201
    assert batches(client, match_id)[0]["batch"] is None
    answer = planned(client, match_id, 2, pieces="12 x 2", left_on_tools={"caramel": "10"}).json()
    scaled = answer["batch"]
    caramel = next(layer for layer in scaled["layers"] if layer["layer_id"] == "caramel")
    assert scaled["pieces"] == 24
    assert caramel["made_g"] == pytest.approx(caramel["needed_g"] / 0.9)
    assert {one["topic"] for one in answer["cautions"]} == {"Hot sugar", "Allergens"}


def test_taking_the_same_estimate_again_changes_nothing(client: TestClient, match_id: str, ready: Ready) -> None:
    """Three windows at once make one faithful version with one batch."""
    ready(match_id)
    answers = [taken(client, match_id).json()["revision"] for _ in range(3)]
    assert answers == [2, 2, 2]
    assert (len(versions(client, match_id)), len(batches(client, match_id))) == (1, 1)


def test_taking_a_newer_estimate_asks_before_it_overwrites(
    client: TestClient, match_id: str, study: dict[str, Any], ready: Ready
) -> None:
    """The batch says that the study moved on; replacing keeps its pieces, keeping both makes a second."""
    ready(match_id)
    taken(client, match_id)
    planned(client, match_id, 2, pieces="7")
    assert batches(client, match_id)[0]["outdated"] is None
    put(client, match_id, 3, {**study, "readings": weighed(coat=["17.5"])})
    assert "has changed since this version was taken" in batches(client, match_id)[0]["outdated"]
    ready(match_id)
    asked = taken(client, match_id, 4)
    assert (asked.status_code, asked.json()["code"]) == (409, "WouldOverwrite")
    assert "has changed since it was taken" in asked.json()["message"]
    assert taken(client, match_id, 4, keep_both=True).json()["version"]["name"] == "Faithful 2"
    assert taken(client, match_id, 5, replace=True).status_code == 201
    found = batches(client, match_id)
    assert [batch["outdated"] for batch in found] == [None, None]
    assert found[0]["cells"]["pieces"]["typed"] == "7"


def test_a_version_changed_by_hand_is_not_overwritten_unasked(client: TestClient, match_id: str, ready: Ready) -> None:
    """The sentence says what it is that would go."""
    ready(match_id)
    taken(client, match_id)
    exported = client.get(f"/api/matches/{match_id}/export").json()
    exported["versions"][0]["layers"][0]["ingredients"][0]["amount"] = "9 g"
    copy = client.post("/api/matches/import", json=exported).json()["id"]
    asked = taken(client, copy)
    assert asked.status_code == 409
    assert "changed by hand since" in asked.json()["message"]


@pytest.mark.parametrize(("name", "words"), [("Empty", "no estimate to take. Add at least one layer")])
def test_no_version_without_an_estimate(client: TestClient, name: str, words: str) -> None:
    """A sentence that says what is missing, and nothing changes."""
    match_id = client.post("/api/matches", json={"name": name}).json()["id"]
    assert taken(client, match_id).status_code == 409  # it is being looked at
    client.get(f"/api/matches/{match_id}/estimate", params={"wait_s": 2})
    refused = taken(client, match_id)
    assert refused.status_code == 409
    assert words in refused.json()["message"]
    assert versions(client, match_id) == []


def test_an_estimate_under_way_is_not_called_missing(client: TestClient, match_id: str) -> None:
    """The sentence says how far it is; the request holds nobody up."""
    refused = taken(client, match_id)
    assert (refused.status_code, refused.json()["code"]) == (409, "NotReady")
    assert "is being computed" in refused.json()["message"]


@pytest.mark.parametrize("pieces", ["", "-3", "many", "1e9", "0"])
def test_odd_pieces_are_kept_with_a_sentence(client: TestClient, match_id: str, ready: Ready, pieces: str) -> None:
    """What was typed stays; there is no batch of it."""
    ready(match_id)
    taken(client, match_id)
    planned(client, match_id, 2, pieces=pieces)
    batch = batches(client, match_id)[0]
    assert batch["cells"]["pieces"]["typed"] == pieces
    assert batch["batch"] is None
    assert bool(batch["cells"]["pieces"]["problem"]) == bool(pieces)


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
    assert listed(client) == []


def test_deleting(client: TestClient, match_id: str) -> None:
    """Gone from the list and from its address."""
    assert client.delete(f"/api/matches/{match_id}").status_code == 204
    assert listed(client) == []
    assert client.get(f"/api/matches/{match_id}/study").status_code == 404


@pytest.mark.parametrize("path", ["study", "frame", "estimate", "batches", "export"])
def test_an_unknown_match_is_404_in_the_one_shape(client: TestClient, path: str) -> None:
    """Code, message, field."""
    answer = client.get(f"/api/matches/nope/{path}")
    assert answer.status_code == 404
    assert answer.json() == {"code": "NotKnown", "message": "There is no match called “nope”.", "field": None, "revision": None}


@pytest.mark.parametrize(
    "body",
    [
        {"revision": 1},
        {"revision": "one", "study": {"name": "x"}},
        {"revision": 1, "study": {"name": "x", "colour": 1}},
        {"revision": 1, "study": {"name": "x", "layers": [{"id": "a"}]}},
    ],
)
def test_malformed_requests_are_422_in_the_one_shape(client: TestClient, match_id: str, body: dict[str, Any]) -> None:
    """With the place in the request."""
    answer = client.put(f"/api/matches/{match_id}/study", json=body)
    assert answer.status_code == 422
    assert answer.json()["code"] == "Malformed"
    assert answer.json()["field"].startswith("body")


@pytest.mark.parametrize(
    ("wrong", "words"),
    [
        ({"name": "x" * 500}, "Name: 500 signs; at most 120 are kept."),
        ({"name": "bad\u0000name"}, "Name: the sign U+0000 cannot be kept; it is not writing."),
        ({"name": "x", "layers": [{"id": "a", "name": "", "family": "f", "place": "coat"}] * 2}, "Layers: two of them have"),
        ({"name": "x", "layers": [{"id": "a/b", "name": "", "family": "f", "place": "coat"}]}, "Id: “a/b” cannot be an id"),
    ],
)
def test_what_does_not_fit_is_refused_with_a_sentence(
    client: TestClient, match_id: str, wrong: dict[str, Any], words: str
) -> None:
    """The same one when a match is made, imported and changed."""
    made = client.post("/api/matches", json=wrong)
    changed = client.put(f"/api/matches/{match_id}/study", json={"revision": 1, "study": wrong})
    imported = client.post("/api/matches/import", json={"format": "fern-match", "version": 2, "study": wrong})
    assert [one.status_code for one in (made, changed, imported)] == [422, 422, 422]
    assert made.json()["message"] == changed.json()["message"]
    assert imported.json()["message"] == f"{made.json()['message']} Nothing was imported."
    assert made.json()["message"].startswith(words)
    assert made.json()["code"] == "NotFitting"
    assert made.json()["field"].startswith("study.name" if "Name" in words else "study.layers")


def test_choices_are_offered(client: TestClient) -> None:
    """Pantry, families and usual builds."""
    assert len(client.get("/api/pantry").json()) == len(standard_pantry().by_id)
    assert len(client.get("/api/families").json()) == len(list(standard_families().all()))
    builds = client.get("/api/starter-builds").json()["builds"]
    assert len(builds) == 11
    assert all(build["slice"]["bands"] for build in builds)


@pytest.mark.parametrize(
    ("headers", "status", "code"),
    [
        ({"host": "evil.example"}, 403, "ForeignHost"),
        ({"host": "127.0.0.1.evil.example"}, 403, "ForeignHost"),
        ({"host": "127.0.0.1:80/api/health?"}, 403, "ForeignHost"),
        ({"host": "127.0.0.1:evil"}, 403, "ForeignHost"),
        ({"origin": "http://["}, 403, "ForeignOrigin"),
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
    assert listed(client) == []


def test_a_huge_request_is_refused(client: TestClient) -> None:
    """Before it is read."""
    headers = {"content-type": "application/json", "content-length": str(MOST_FILE_BYTES + 1)}
    assert client.post("/api/matches/import", content=b"{}", headers=headers).status_code == 413
    assert client.post("/api/matches", content=b"x" * 2_000_001, headers={"content-type": "application/json"}).status_code == 413


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
    put(client, match_id, 1, {**study, "maker": "Ferrywright"})
    assert undo_state(client, match_id) == {"undo": "Maker: Ferrywright", "redo": None}
    assert act(client, match_id, "undo", 2).json() == {"revision": 3}
    assert client.get(f"/api/matches/{match_id}/study").json()["study"]["maker"] == ""
    assert undo_state(client, match_id) == {"undo": None, "redo": "Maker: Ferrywright"}
    act(client, match_id, "redo", 3)
    assert client.get(f"/api/matches/{match_id}/study").json()["study"]["maker"] == "Ferrywright"
    assert undo_state(client, match_id)["undo"] == "Maker: Ferrywright"


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
    """The list in words, a page of it, and a return that can be undone."""
    study["readings"] = weighed(coat=["16.2", "15.9"])
    put(client, match_id, 1, study)
    study["readings"] = weighed(coat=["16.2", "15.1"])
    put(client, match_id, 2, study)
    moments = client.get(f"/api/matches/{match_id}/moments").json()
    assert [one["words"] for one in moments] == [
        ["Milk coat, reading 2: 15.1 g, was 15.9 g"],
        ["Milk coat, reading 2: 15.9 g"],
        ["Made"],
    ]
    assert [one["number"] for one in client.get(f"/api/matches/{match_id}/moments", params={"before": 3}).json()] == [2, 1]
    assert act(client, match_id, "return", 3, number=1).json() == {"revision": 4}
    assert len(client.get(f"/api/matches/{match_id}/study").json()["study"]["readings"]) == 1
    act(client, match_id, "undo", 4)
    assert [one["typed"] for one in client.get(f"/api/matches/{match_id}/study").json()["study"]["readings"]] == ["16.2", "15.1"]
    assert act(client, match_id, "return", 5, number=99).status_code == 404
    assert client.get("/api/matches/nope/moments").status_code == 404


@pytest.mark.parametrize("path", ["/%00", "/" + "a" * 3000, "/..%2f..%2fetc/passwd"])
def test_an_odd_address_is_a_page(tmp_path: Path, path: str) -> None:
    """Of the interface, never an error and never a file from elsewhere."""
    (tmp_path / "assets").mkdir()
    (tmp_path / "index.html").write_text("the page")
    settings = Settings(database=tmp_path / "odd.db", web=tmp_path)
    with TestClient(create_app(settings), base_url="http://127.0.0.1", raise_server_exceptions=False) as client:
        answer = client.get(path)
    assert (answer.status_code, answer.text) == (200, "the page")


@pytest.mark.parametrize(
    "content",
    [
        b'{"format": "fern-match", "version": ' + b"1" * 5000 + b', "study": {"name": "x"}}',
        b'{"format": "fern-match", "version": 2, "study": {"name": "x", "name": "y"}}',
        b'{"format": "fern-match", "version": 2, "study": {"name": "x"}, "pinned": [{"id": "a", "sweetness": NaN}]}',
        b'{"format": "fern-match", "version": 1, "study": []}',
        b'{"format": "fern-match", "version": 8, "study": {"name": "x"}}',
        b'{"format": "fern-match", "version": 2, "study": {"name": "x"}, "batches": [{"id": "b", "version": "gone"}]}',
        b'{"format": "fern-match", "version": 3, "study": {"name": "x"}, "pinned": [{"id": "a", "name": "a", "category": "c",'
        b' "per_100_g": {"water_g": 1e308}}]}',
        b'{"format": "fern-match", "version": 3, "study": {"name": "a \\ud800 b"}}',
        b'{"format": "fern-match", "version": 3, ' + b",".join(b'"k%d": 1' % n for n in range(150_000)) + b', "k149999": 2}',
    ],
)
def test_a_hostile_file_is_refused_with_a_sentence(client: TestClient, content: bytes) -> None:
    """In both doors."""
    headers = {"content-type": "application/json"}
    refused = client.post("/api/matches/import", content=content, headers=headers)
    assert refused.status_code == 422
    assert refused.json()["message"].endswith("Nothing was imported.")
    backup = b'{"format": "fern-match-backup", "version": 2, "matches": [' + content + b"]}"
    refused = client.post("/api/restore", content=backup, headers=headers)
    assert refused.status_code == 422
    assert refused.json()["message"].endswith("Nothing was restored.")
    assert listed(client) == []


def test_a_statement_of_any_depth_and_length_can_be_opened(client: TestClient, study: dict[str, Any]) -> None:
    """500 nested brackets, 10,000 commas, 20,000 signs."""
    for statement in ("a(" * 500 + "x" + ")" * 500, "a," * 10_000, "x" * 20_000):
        match_id = client.post("/api/matches", json={**study, "statement": statement}).json()["id"]
        assert client.get(f"/api/matches/{match_id}/study").status_code == 200
        assert client.get(f"/api/matches/{match_id}/frame").status_code == 200


def test_every_error_has_its_status() -> None:
    """None is answered by chance."""

    def below(kind: type[Exception]) -> set[type[Exception]]:
        return {one for child in kind.__subclasses__() for one in (child, *below(child))}

    assert below(CoreError) == set(STATUS)


def test_a_locked_database_is_a_sentence(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """Another program holds it: a save says so, and reading goes on."""
    path = client.app.state.desk.database.engine.url.database  # type: ignore[attr-defined]
    with closing(sqlite3.connect(path, isolation_level=None)) as other:
        other.execute("BEGIN IMMEDIATE")
        assert client.get(f"/api/matches/{match_id}/study").status_code == 200
        refused = put(client, match_id, 1, {**study, "maker": "x"})
    assert (refused.status_code, refused.json()["code"]) == (503, "CannotKeep")
    assert refused.json()["message"].startswith("Another program holds the database.")
    assert put(client, match_id, 1, {**study, "maker": "x"}).status_code == 200
