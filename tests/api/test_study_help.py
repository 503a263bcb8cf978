"""What the study's screens ask for beside keeping: a pasted panel, proposed builds, an ingredient of one's own, causes."""

import time
from typing import Any

from fastapi.testclient import TestClient

PANEL = (
    "Typical values per 100 g\nEnergy 2288kJ/549kcal\nFat 34.2g\nof which saturates 19g\nCarbohydrate 55 g\nof which sugars 51g"
)


def put(client: TestClient, match_id: str, revision: int, study: dict[str, Any]) -> Any:
    """Saves a study."""
    return client.put(f"/api/matches/{match_id}/study", json={"revision": revision, "study": study})


def wrapper(client: TestClient, **fields: Any) -> str:
    """A match of a wrapper alone."""
    return str(client.post("/api/matches", json={"name": "Tin Lantern", "region": "EU", **fields}).json()["id"])


def test_a_pasted_panel_comes_back_as_rows(client: TestClient, match_id: str) -> None:
    """As they would be typed; nothing is kept by asking."""
    before = client.get(f"/api/matches/{match_id}/study").json()
    found = client.post(f"/api/matches/{match_id}/study/panel", json={"text": PANEL}).json()
    assert (found["rows"]["fat"], found["rows"]["saturates"], found["basis"]) == ("34.2", "19", "100 g")
    assert client.get(f"/api/matches/{match_id}/study").json() == before


def test_the_wrapper_proposes_a_build(client: TestClient) -> None:
    """With families and a small slice; none where the statement says nothing."""
    says = "Dark chocolate 40% (sugar, cocoa mass, cocoa butter), caramel (glucose syrup, sugar, cream, butter), salt"
    builds = client.get(f"/api/matches/{wrapper(client, statement=says)}/study/builds").json()
    assert {layer["family"] for layer in builds[0]["layers"]} >= {"dark-coat"}
    assert builds[0]["reason"]
    assert builds[0]["slice"]["bands"]
    assert client.get(f"/api/matches/{wrapper(client)}/study/builds").json() == []


def test_an_unknown_name_gets_an_ingredient_of_its_own(client: TestClient) -> None:
    """Made from a packet, kept with the match, and undone in one step."""
    made = wrapper(client, statement="Sugar, tigernut paste, salt")
    before = client.get(f"/api/matches/{made}/study").json()
    body = {"revision": before["revision"], "item": "tigernut paste", "name": "Tigernut paste", "rows": {"fat": "24"}}
    answer = client.post(f"/api/matches/{made}/study/ingredients", json=body)
    assert answer.status_code == 201
    taken = {item["name"]: item["ingredient_id"] for item in answer.json()["reading"]["statement"]}
    assert taken["tigernut paste"] == "own-tigernut-paste"
    assert answer.json()["reading"]["own_ingredients"] == [{"id": "own-tigernut-paste", "name": "Tigernut paste"}]
    changed = {**answer.json()["study"], "maker": "Hollin & Rook"}
    saved = put(client, made, answer.json()["revision"], changed).json()
    assert [item["ingredient_name"] for item in saved["reading"]["statement"]] == [
        "White granulated sugar",
        "Tigernut paste",
        "Salt, fine",
    ]
    again = client.post(f"/api/matches/{made}/study/ingredients", json={**body, "revision": saved["revision"]}).json()
    assert again["study"]["corrections"] == {"tigernut paste": "own-tigernut-paste-2"}


def test_a_packet_that_cannot_be_is_a_sentence(client: TestClient) -> None:
    """Nothing is kept."""
    made = wrapper(client, statement="Sugar, tigernut paste, salt")
    body = {"revision": 1, "item": "tigernut paste", "name": "Tigernut paste", "rows": {"fat": "240"}}
    answer = client.post(f"/api/matches/{made}/study/ingredients", json=body)
    assert answer.status_code == 422
    assert "add up to 240 g in 100 g" in answer.text
    assert client.get(f"/api/matches/{made}/study").json()["study"].get("corrections", {}) == {}


def test_a_misfit_has_causes(client: TestClient, study: dict[str, Any]) -> None:
    """Asked for until they are there; a study that fits has none."""
    study["readings"] += [{"id": "caramel-1", "subject": "caramel", "typed": "64"}]
    made = str(client.post("/api/matches", json=study).json()["id"])
    deadline = time.monotonic() + 120
    while (answer := client.get(f"/api/matches/{made}/estimate/causes", params={"wait_s": 2}).json())["status"] == "computing":
        assert time.monotonic() < deadline
    assert answer["causes"][0]["kind"] == "figure"
    assert "weigh" in answer["causes"][0]["title"].lower()


def test_layers_weighed_together_go_with_either(client: TestClient, study: dict[str, Any]) -> None:
    """A pair is one line of its own; without one of its layers it is no weighing of the other."""
    study["readings"] = [{"id": "both", "subject": "coat", "also": "caramel", "typed": "41.5"}]
    made = str(client.post("/api/matches", json=study).json()["id"])
    found = client.get(f"/api/matches/{made}/study").json()
    lines = {line["subject"]: line for line in found["reading"]["weighings"]}
    assert (lines["caramel+coat"]["mean_g"], lines["coat"]["mean_g"]) == (41.5, None)
    fewer = {**found["study"], "layers": found["study"]["layers"][:1]}
    kept = client.put(f"/api/matches/{made}/study", json={"revision": found["revision"], "study": fewer}).json()
    assert kept["study"]["readings"] == []


def test_a_coats_thickness_waits_for_the_size(client: TestClient, study: dict[str, Any]) -> None:
    """Said in a sentence until the three sides are there."""
    study["thicknesses"] = [{"id": "top", "layer": "coat", "typed": "1.5 mm", "spot": "top"}]
    made = str(client.post("/api/matches", json=study).json()["id"])
    reading = client.get(f"/api/matches/{made}/study").json()["reading"]
    lines = [(one["layer_id"], one["spot"], one["mean_mm"]) for one in reading["thicknesses"]]
    assert lines == [("coat", "top", 1.5), ("coat", "side", None), ("coat", "bottom", None), ("caramel", "anywhere", None)]
    assert any("once length, width and height" in flag["sentence"] for flag in reading["flags"])
