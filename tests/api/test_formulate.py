"""Versions over the API: begun, typed into, solved in one step, made in other ways, measured, compared, taken out."""

from collections.abc import Callable
from typing import Any

import pytest
from fastapi.testclient import TestClient

Worked = Callable[..., dict[str, Any]]

RECIPE = {
    "text": "Makes 12\nFor the base:\n200 g plain flour\n1 stick butter\n1/2 cup icing sugar\n"
    "Topping:\n6 oz dark chocolate\n1 cup nuts",
    "measures": "US",
}


@pytest.fixture
def taken(client: TestClient, match_id: str, ready: Callable[[str], Any]) -> str:
    """The faithful version of the small study; its address."""
    ready(match_id)
    made = client.post(f"/api/matches/{match_id}/versions", json={"revision": 1})
    assert made.status_code == 201
    return f"/api/matches/{match_id}/versions/{made.json()['version']['id']}"


def line_of(view: dict[str, Any], layer: str, ingredient: str) -> dict[str, Any]:
    """A line as kept."""
    part = next(one for one in view["version"]["layers"] if one["id"] == layer)
    return next(one for one in part["ingredients"] if one["ingredient"] == ingredient)  # type: ignore[no-any-return]


def test_a_version_from_all_sides(client: TestClient, taken: str) -> None:
    """Layers, targets, the label as it would print, balance, claims, cost, slice."""
    view = client.get(taken).json()
    assert [layer["layer_id"] for layer in view["layers"]] == ["coat", "caramel"]
    assert view["pieces"] == 24
    assert {"Fat, by the label", "Sweetness, whole piece"} <= {target["name"] for target in view["targets"]}
    assert {row["row"] for row in view["rows"]} >= {"fat", "sugars", "salt"}
    assert any(note["topic"] == "Keeping" for note in view["notes"])
    assert "milk" in view["allergens"]["holds"]
    assert view["cost"] > 0
    assert view["slice"]["bands"]
    assert sum(layer["finished_g"] for layer in view["layers"]) == pytest.approx(view["piece_g"])


def test_what_is_typed_is_kept_and_solving_leaves_it(client: TestClient, taken: str, worked: Worked) -> None:
    """A fixed amount stays as typed; the rest moves; one undo takes the whole solve back."""
    view = client.get(taken).json()
    version = view["version"]
    line = next(one for one in version["layers"][1]["ingredients"] if one["ingredient"] == "white-sugar")
    before = line["amount"]
    line |= {"amount": "1/4 oz", "locked": True}
    view = client.put(taken, json={"revision": view["revision"], "version": version}).json()
    assert line_of(view, "caramel", "white-sugar")["amount"] == "1/4 oz"
    others = {one["ingredient"]: one["amount"] for one in view["version"]["layers"][1]["ingredients"]}
    solved = worked("POST", f"{taken}/solve", json={"revision": view["revision"], "layers": ["caramel"]})
    assert line_of(solved["view"], "caramel", "white-sugar")["amount"] == "1/4 oz"
    now = {one["ingredient"]: one["amount"] for one in solved["view"]["version"]["layers"][1]["ingredients"]}
    assert now != others
    match = taken.rpartition("/versions")[0]
    undone = client.post(f"{match}/undo", json={"revision": solved["view"]["revision"]})
    assert undone.status_code == 200
    back = client.get(taken).json()
    assert {one["ingredient"]: one["amount"] for one in back["version"]["layers"][1]["ingredients"]} == others
    assert before != "1/4 oz"


@pytest.mark.parametrize(
    ("typed", "hold"),
    [
        ({"amount": "3 g"}, "fixed"),  # what is typed by hand is fixed
        ({"locked": True, "amount": "0 g"}, "none"),
        ({"locked": True, "amount": "0 oz"}, "none"),
        ({"locked": True, "amount": ""}, "fixed"),
        ({"locked": True, "amount": "a heap"}, "fixed"),
        ({"least": "1 g"}, "least"),
        ({"locked": True, "part": "2"}, "ratio"),
        ({}, "free"),
    ],
)
def test_how_a_line_is_held_is_read_with_it(client: TestClient, taken: str, typed: dict[str, Any], hold: str) -> None:
    """Free, fixed, fixed at nothing, at least so much, or a part of a ratio: by what is typed, whatever its unit."""
    view = client.get(taken).json()
    version = view["version"]
    next(one for one in version["layers"][1]["ingredients"] if one["ingredient"] == "white-sugar").update(typed)
    view = client.put(taken, json={"revision": view["revision"], "version": version}).json()
    seen = {line["ingredient_id"]: line["hold"] for line in view["layers"][1]["lines"]}
    assert seen.pop("white-sugar") == hold
    assert set(seen.values()) == {"free"}


def test_what_cannot_be_changes_nothing(client: TestClient, taken: str, worked: Worked) -> None:
    """It is said what would have to give, and the revision stays."""
    view = client.get(taken).json()
    version = view["version"]
    for line in version["layers"][1]["ingredients"]:
        line |= {"amount": "9 g", "locked": True}
    view = client.put(taken, json={"revision": view["revision"], "version": version}).json()
    solved = worked("POST", f"{taken}/solve", json={"revision": view["revision"], "layers": ["caramel"]})
    assert "would have to give" in solved["impossible"]
    assert solved["view"]["revision"] == view["revision"]


def test_one_ingredient_for_another(client: TestClient, taken: str, worked: Worked) -> None:
    """Solved again with it, in one step."""
    view = client.get(taken).json()
    line = line_of(view, "caramel", "glucose-syrup-42de")
    body = {
        "revision": view["revision"],
        "layers": ["caramel"],
        "replace": {"layer": "caramel", "line": line["id"], "ingredient": "honey"},
    }
    solved = worked("POST", f"{taken}/solve", json=body)
    assert solved["impossible"] is None
    honey = line_of(solved["view"], "caramel", "honey")
    assert honey["role"] == "doctor-sugar"
    assert solved["view"]["revision"] == view["revision"] + 1
    wrong = {**body, "revision": solved["view"]["revision"], "replace": {**body["replace"], "ingredient": "unicorn"}}  # type: ignore[dict-item]
    assert client.post(f"{taken}/solve", json=wrong).status_code == 404


def test_other_ways_and_taking_one(client: TestClient, taken: str, worked: Worked) -> None:
    """Different in kind, one of them bought; written into the version it is the layer."""
    view = client.get(taken).json()
    found = worked("GET", f"{taken}/ways/caramel")["ways"]
    assert 2 <= len(found) <= 3
    assert any(way["bought"] for way in found)
    way = found[-1]
    version = view["version"]
    version["layers"][1] = way["layer"]
    again = client.put(taken, json={"revision": view["revision"], "version": version}).json()
    assert again["layers"][1]["family"] == way["family_id"]
    assert client.get(f"{taken}/ways/nowhere").status_code == 404


def test_measured_out_by_scale_and_by_spoons(client: TestClient, taken: str) -> None:
    """For any number of pieces; the batch’s where none is asked for."""
    by_scale = client.get(f"{taken}/measured").json()["measured"]
    assert by_scale["pieces"] == 24
    assert all(line["words"].endswith(" g") for line in by_scale["lines"])
    spoons = client.get(f"{taken}/measured", params={"by": "spoons", "pieces": 40}).json()["measured"]
    assert spoons["pieces"] == 40
    assert any("cup" in line["words"] or "tbsp" in line["words"] for line in spoons["lines"])
    odd = client.get(f"{taken}/measured", params={"pieces": "many"}).json()
    assert (odd["measured"]["pieces"], "many" in odd["pieces"]["problem"]) == (24, True)
    assert client.get(f"{taken}/measured", params={"pieces": "2 x 12"}).json()["measured"]["pieces"] == 24


def test_a_copy_beside_its_parent(client: TestClient, match_id: str, taken: str) -> None:
    """It knows its parent; both are compared line by line; taken out, it goes with its batch."""
    versions = f"/api/matches/{match_id}/versions"
    revision = client.get(versions).json()["revision"]
    copy = client.post(f"{versions}/start", json={"revision": revision, "copy_of": "faithful"}).json()
    assert copy["version"]["parent"] == "faithful"
    beside = client.get(f"{versions}/{copy['version']['id']}/compared/faithful").json()
    assert all(line["before_g"] == pytest.approx(line["after_g"]) for line in beside["lines"])
    assert beside["rows"]
    out = client.request("DELETE", f"{versions}/{copy['version']['id']}", json={"revision": copy["revision"]})
    assert [one["id"] for one in out.json()["versions"]] == ["faithful"]
    assert len(client.get(f"/api/matches/{match_id}/batches").json()["batches"]) == 1
    assert client.get(f"{versions}/{copy['version']['id']}").status_code == 404


def test_working_ratios_of_the_build(client: TestClient, match_id: str) -> None:
    """Without an estimate; one layer begun again by another kind."""
    versions = f"/api/matches/{match_id}/versions"
    made = client.post(f"{versions}/start", json={"revision": 1}).json()
    view = client.get(f"{versions}/{made['version']['id']}").json()
    assert view["piece_g"] == pytest.approx(42, abs=1.5)
    body = {"revision": view["revision"], "layer": "caramel", "family": "toffee"}
    again = client.post(f"{versions}/{made['version']['id']}/family", json=body).json()
    assert again["layers"][1]["family"] == "toffee"
    assert again["layers"][1]["finished_g"] == pytest.approx(view["layers"][1]["finished_g"], abs=1e-3)
    empty = client.post("/api/matches", json={"name": "Empty", "region": "EU"}).json()
    refused = client.post(f"/api/matches/{empty['id']}/versions/start", json={"revision": 1})
    assert refused.status_code == 409
    assert "which layers" in refused.json()["message"]


def test_a_recipe_is_read_and_nothing_is_kept(client: TestClient) -> None:
    """What it could be is asked; a choice is read with its own density."""
    read = client.post("/api/recipe", json=RECIPE).json()
    assert read["pieces"] == 12
    assert [part["family_id"] for part in read["parts"]] == ["short-base", "dark-coat"]
    nuts = read["parts"][1]["lines"][1]
    assert nuts["ingredient_id"] is None
    assert "almonds" in nuts["problem"]
    chosen = client.post("/api/recipe", json={**RECIPE, "taken": {str(nuts["number"]): "pecan"}}).json()["parts"][1]["lines"][1]
    assert chosen["grams"] == pytest.approx(236.588 * 0.42, rel=0.01)
    assert chosen["problem"] is None
    assert client.get("/api/matches").json()["matches"] == []


def test_a_version_from_a_recipe(client: TestClient, match_id: str) -> None:
    """Its parts take the layers of the build they fit; the others come with ids of their own."""
    made = client.post(f"/api/matches/{match_id}/versions/recipe", json={"revision": 1, "recipe": RECIPE})
    assert made.status_code == 201
    version = made.json()["version"]
    assert version["origin"]["kind"] == "recipe"
    assert version["recipe"] == RECIPE["text"].strip()
    batches = client.get(f"/api/matches/{match_id}/batches").json()["batches"]
    of_it = next(one["id"] for one in batches if one["version"] == version["id"])
    assert client.get(f"/api/matches/{match_id}/batches/{of_it}").json()["recipe"] == version["recipe"]
    odd = {**RECIPE, "text": RECIPE["text"].replace("\n", "\r\n", 1) + "\f200\u2009g sugar\x07"}
    paged = client.post(f"/api/matches/{match_id}/versions/recipe", json={"revision": 2, "recipe": odd})
    assert paged.status_code == 201, paged.text
    assert paged.json()["version"]["recipe"] == RECIPE["text"] + "\n200 g sugar"
    copied = client.post(f"/api/matches/{match_id}/versions/start", json={"revision": 3, "copy_of": version["id"]})
    assert copied.status_code == 201, copied.text
    copy = copied.json()["version"]
    assert copy["recipe"] == version["recipe"]
    assert len(version["layers"]) == 2
    refused = client.post(
        f"/api/matches/{match_id}/versions/recipe", json={"revision": 4, "recipe": {"text": "Some unicorn dust"}}
    )
    assert refused.status_code == 409


def test_a_match_from_a_recipe_alone(client: TestClient, worked: Worked) -> None:
    """No wrapper: the version is there, the estimate says what it lacks, and a solve is possible."""
    made = client.post("/api/matches/from-recipe", json={"recipe": RECIPE, "name": "Slab"}).json()
    versions = client.get(f"/api/matches/{made['id']}/versions").json()
    assert versions["versions"][0]["origin"] == "recipe"
    assert worked("GET", f"/api/matches/{made['id']}/estimate")["status"] == "not_yet"
    view = client.get(f"/api/matches/{made['id']}/versions/recipe").json()
    assert view["pieces"] == 12
    assert view["slice"] is not None
    layers = [layer["layer_id"] for layer in view["layers"]]
    asked = {"revision": made["revision"], "layers": layers}
    solved = worked("POST", f"/api/matches/{made['id']}/versions/recipe/solve", json=asked)
    assert solved["impossible"] is None
    assert solved["view"]["piece_g"] == pytest.approx(view["piece_g"], abs=1e-4)


def test_a_changed_study_says_so_on_the_version(client: TestClient, match_id: str, taken: str, study: dict[str, Any]) -> None:
    """And a price alone changes nothing that was estimated."""
    study["label"]["price"] = "1.20"
    revision = client.get(taken).json()["revision"]
    client.put(f"/api/matches/{match_id}/study", json={"revision": revision, "study": study})
    view = client.get(taken).json()
    assert view["outdated"] is None
    assert view["shop_price"] == pytest.approx(1.2)
    study["label"]["rows"]["sugars"] = "50"
    client.put(f"/api/matches/{match_id}/study", json={"revision": view["revision"], "study": study})
    assert "study has changed" in client.get(taken).json()["outdated"]


def test_a_layer_is_added_and_the_version_taken_out_asks(client: TestClient, match_id: str, taken: str) -> None:
    """A layer comes with its family's working ratio; a version with a planned batch is not taken out unasked."""
    revision = client.get(taken).json()["revision"]
    added = client.post(f"{taken}/layers", json={"revision": revision, "family": "ganache-dark", "name": "Middle"})
    assert added.status_code == 200, added.json()
    assert [one["name"] for one in added.json()["version"]["layers"]][-1] == "Middle"
    path = f"/api/matches/{match_id}/batches"
    batch = client.get(path).json()["batches"][0]["id"]
    plan = {**client.get(f"{path}/{batch}").json()["plan"], "pieces": "12"}
    kept = client.put(f"{path}/{batch}", json={"revision": added.json()["revision"], "plan": plan}).json()
    asked = client.request("DELETE", taken, json={"revision": kept["revision"]})
    assert asked.status_code == 409
    assert "A batch of it would go along" in asked.json()["message"]
    gone = client.request("DELETE", taken, json={"revision": kept["revision"], "sure": True})
    assert (gone.status_code, gone.json()["versions"]) == (200, [])
    assert client.get(path).json()["batches"] == []


def test_unread_targets_stay_and_no_line_is_lost(client: TestClient, taken: str) -> None:
    """An amount in words no scale knows says so beside the line; it is kept as typed."""
    view = client.get(taken).json()
    version = view["version"]
    version["layers"][0]["ingredients"][0]["amount"] = "a good splash"
    saved = client.put(taken, json={"revision": view["revision"], "version": version}).json()
    assert saved["version"]["layers"][0]["ingredients"][0]["amount"] == "a good splash"
    assert any("a good splash" in one for one in saved["problems"])
