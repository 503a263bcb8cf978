"""What is not known stays unknown: no page dies of it, no sum leaves it out in silence, no rule takes it for none."""

import json
from collections.abc import Callable
from typing import Any

import pytest
from fastapi.testclient import TestClient

from fern_match.core.food import standard_pantry

SPREAD = "name,water_g,fat_g,carbohydrate_g,protein_g,sugars_g\nMy spread,2,40,50,6,45\n"


def house(client: TestClient) -> int:
    """The house’s newest revision."""
    return int(client.get("/api/kitchen").json()["revision"])


@pytest.fixture
def spread(client: TestClient) -> str:
    """An ingredient whose fibre, polyols, allergens and diet nobody has entered."""
    answer = client.post("/api/pantry/import", json={"revision": house(client), "text": SPREAD})
    return str(answer.json()["ids"][0])


@pytest.fixture
def version(client: TestClient, spread: str) -> str:
    """The address of a version of a recipe with it."""
    recipe = {"text": "Filling:\n100 g tahini\n60 g icing sugar\n40 g my spread"}
    made = client.post("/api/matches/from-recipe", json={"recipe": recipe, "name": "Cream"})
    assert made.status_code == 201, made.text
    return f"/api/matches/{made.json()['id']}/versions/recipe"


def test_every_page_of_a_version_opens(client: TestClient, version: str) -> None:
    """Its own, the list, what holds it back, measured out, other ways, adapting, batches."""
    layer = client.get(version).json()["layers"][0]["layer_id"]
    match = version.rpartition("/versions")[0]
    for path in (version, f"{match}/versions", f"{version}/held-back", f"{version}/measured", f"{version}/ways/{layer}"):
        assert client.get(path).status_code == 200, path
    assert client.get(f"{match}/batches").status_code == 200
    assert client.get(f"{version}/adapt", params={"rule": ["vegan"]}).status_code == 200
    assert client.get(f"{version}/adapt/breaches", params={"rule": ["keto"]}).status_code == 200


def test_a_sum_with_an_unknown_part_is_not_known(client: TestClient, version: str) -> None:
    """Energy needs fibre; fat does not. Claims that hang on it are neither allowed nor refused; how sweet it is stays open."""
    view = client.get(version).json()
    rows = {row["row"]: row for row in view["rows"]}
    assert (rows["energy_kcal"]["computed"], rows["energy_kcal"]["printed"]) == (None, "not known")
    assert rows["energy_kcal"]["unknown"] == ["My spread"]
    assert rows["fat"]["computed"] > 30
    claims = {one["claim"]: one["allowed"] for one in view["claims"]}
    assert claims["High fibre"] is None
    assert claims["Low fat"] is False
    assert any(note["topic"] == "Sweetness" and "My spread" in note["sentence"] for note in view["notes"])
    assert view["allergens"] == {"holds": ["sesame"], "not_known": ["My spread"], "may": []}


def test_a_save_that_is_kept_is_answered_as_kept(client: TestClient, version: str) -> None:
    """Not refused after it was kept."""
    view = client.get(version).json()
    lines = view["version"]["layers"][0]["ingredients"]
    lines[-1]["amount"] = "50 g"
    saved = client.put(version, json={"revision": view["revision"], "version": view["version"]})
    assert saved.status_code == 200
    assert saved.json()["revision"] == view["revision"] + 1


def test_rules_ask_the_maker(client: TestClient, version: str) -> None:
    """Without milk: the spread may hold it. The batch's caution names what is not known."""
    told = client.get(f"{version}/adapt/breaches", params={"rule": ["without-milk"]}).json()
    (one,) = told["breaches"]
    assert one["doubtful"]
    assert "My spread" in one["sentence"]
    match = version.rpartition("/versions")[0]
    batch = client.get(f"{match}/batches/{client.get(f'{match}/batches').json()['batches'][0]['id']}").json()
    told = client.put(
        f"{match}/batches/{batch['plan']['id']}",
        json={"revision": client.get(version).json()["revision"], "plan": {**batch["plan"], "pieces": "10"}},
    ).json()
    said = {one["topic"]: one["sentence"] for one in told["cautions"]}
    assert "sesame" in said["Allergens"]
    assert "My spread" in said["Allergens"]
    assert "My spread" in said["Polyols"]


def test_an_estimate_says_what_it_takes_for_granted(
    client: TestClient, spread: str, study: dict[str, Any], ready: Callable[[str], dict[str, Any]]
) -> None:
    """With an ingredient of which the water is not known it still comes."""
    view = client.get(f"/api/pantry/{spread}").json()
    food = view["ingredient"]
    food["per_100_g"]["water_g"] = None
    assert client.put(f"/api/pantry/{spread}", json={"revision": view["revision"], "ingredient": food}).status_code == 200
    statement = study["statement"].replace(", butter,", ", my spread,")
    study = {**study, "statement": statement, "placements": {"my spread": {"caramel": "yes"}}}
    match_id = client.post("/api/matches", json=study).json()["id"]
    found = ready(match_id)
    assert found["status"] == "ready"
    assert any("My spread has no figure for water" in one and "other figures leave" in one for one in found["assumed"])


def test_two_windows_on_one_composition(client: TestClient, spread: str) -> None:
    """Figures that cannot be together ask; figures that can come together, on a shipped row changed for the first time, too."""

    def put(key: str, revision: int, decided_on: int | None = None, **figures: float) -> Any:
        food = client.get(f"/api/pantry/{key}").json()["ingredient"]
        food["per_100_g"] = {**before[key], **figures}
        body = {"revision": revision, "ingredient": food} | ({"decided_on": decided_on} if decided_on else {})
        return client.put(f"/api/pantry/{key}", json=body)

    before = {key: client.get(f"/api/pantry/{key}").json()["ingredient"]["per_100_g"] for key in (spread, "honey")}
    seen = house(client)
    assert put(spread, seen, fat_g=44).status_code == 200
    asked = put(spread, seen, protein_g=10)
    assert asked.status_code == 409
    assert "Fat in 100 g" in asked.json()["message"] or "Protein" in asked.json()["message"]
    decided = put(spread, seen, asked.json()["revision"], protein_g=7)
    assert decided.status_code == 200
    kept = decided.json()["ingredient"]["per_100_g"]
    assert (kept["fat_g"], kept["protein_g"]) == (44, 7)
    seen = house(client)
    assert put("honey", seen, water_g=18).status_code == 200
    both = put("honey", seen, protein_g=0.5)
    assert both.status_code == 200, both.text
    assert (both.json()["ingredient"]["per_100_g"]["water_g"], both.json()["ingredient"]["per_100_g"]["protein_g"]) == (18, 0.5)


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("sweetness", -1),
        ("sweetness", 1e308),
        ("piece_g", -5),
        ("price_per_kg", 1e308),
        ("vegan", "maybe"),
        ("label_names", ["a|b"]),
    ],
)
def test_what_no_food_has_is_refused(client: TestClient, field: str, value: Any) -> None:
    """With a sentence, at the sheet as at every door."""
    view = client.get("/api/pantry/honey").json()
    refused = client.put(
        "/api/pantry/honey", json={"revision": view["revision"], "ingredient": {**view["ingredient"], field: value}}
    )
    assert refused.status_code == 422
    assert refused.json()["code"] in {"NotSound", "NotFitting"}


@pytest.mark.parametrize("figure", ["NaN", "Infinity", "1e999"])
def test_a_figure_that_is_none_is_refused(client: TestClient, figure: str) -> None:
    """A number that JSON only nearly has."""
    view = client.get("/api/pantry/honey").json()
    food = json.dumps({**view["ingredient"], "sweetness": "figure"}).replace('"figure"', figure)
    body = f'{{"revision": {view["revision"]}, "ingredient": {food}}}'
    answer = client.put("/api/pantry/honey", content=body, headers={"content-type": "application/json"})
    assert answer.status_code == 422, answer.text


def test_a_file_says_what_it_would_do_before_it_does(client: TestClient) -> None:
    """What is new, what changes in words, and how many rows say what is there already."""
    name = client.get("/api/pantry/honey").json()["ingredient"]["name"]
    text = f"name,price_per_kg,allergens\n{name},99,\nCrunch,3,none\n"
    told = client.post("/api/pantry/import/preview", json={"revision": house(client), "text": text}).json()
    assert [(one["name"], one["is_new"]) for one in told["changes"]] == [(name, False), ("Crunch", True)]
    assert [one.partition(":")[0] for one in told["changes"][0]["words"]] == ["Price per kg"]
    assert client.get("/api/pantry/own-crunch").status_code == 404
    whole = client.get("/api/pantry/export").text
    told = client.post("/api/pantry/import/preview", json={"revision": house(client), "text": whole}).json()
    assert (told["changes"], told["unchanged"]) == ([], len(standard_pantry().by_id))


def test_changes_of_the_pantry_are_told_by_name(client: TestClient, spread: str) -> None:
    """A price on a shipped row is a change, and what is of one's own has its name."""
    view = client.get("/api/pantry/honey").json()
    food = {**view["ingredient"], "price_per_kg": 6.5}
    client.put("/api/pantry/honey", json={"revision": view["revision"], "ingredient": food})
    undo = client.get("/api/kitchen").json()["undo_state"]["undo"]
    assert undo.startswith(f"{food['name']}, price per kg: 6.5, was ")
    client.request("DELETE", f"/api/pantry/{spread}", json={"revision": house(client)})
    assert client.get("/api/kitchen").json()["undo_state"]["undo"] == "My spread: ingredient removed"


def test_an_own_ingredient_goes_along_with_the_study(client: TestClient, match_id: str, study: dict[str, Any]) -> None:
    """A name is taken for one of the house's own: the match file holds its composition before any version does."""
    made = client.post(
        "/api/pantry/packet",
        json={
            "revision": 0,
            "name": "Date syrup, mine",
            "rows": {"fat": "1", "carbohydrate": "70", "sugars": "66", "protein": "1"},
        },
    )
    assert made.status_code in {200, 201}, made.json()
    mine = next(one["id"] for one in client.get("/api/pantry").json() if one["name"] == "Date syrup, mine")
    revision = client.get(f"/api/matches/{match_id}/study").json()["revision"]
    changed = {**study, "corrections": {"cream": mine}}
    assert client.put(f"/api/matches/{match_id}/study", json={"revision": revision, "study": changed}).status_code == 200
    exported = client.get(f"/api/matches/{match_id}/export").json()
    assert [food["id"] for food in exported["pinned"]] == [mine]


def test_what_a_recipe_names_and_the_pantry_lacks_stays(client: TestClient) -> None:
    """With its weight, or with none: on the page, among what may hold allergens, in the batch. Nothing of it is dropped."""
    recipe = {
        "text": "Makes 10\nFilling:\n100 g tahini\n60 g icing sugar\n40 g moonbeam dust\n1 packet stardust flakes\nsome almonds"
    }
    made = client.post("/api/matches/from-recipe", json={"recipe": recipe, "name": "Cream"}).json()
    at = f"/api/matches/{made['id']}/versions/recipe"
    view = client.get(at).json()
    lines = {one["name"]: one for one in view["layers"][0]["lines"]}
    assert (lines["moonbeam dust"]["grams"], lines["moonbeam dust"]["known"]) == (pytest.approx(4.0), False)
    assert any("stardust flakes" in name for name in lines)
    assert "moonbeam dust" in view["allergens"]["not_known"]
    assert any("stardust" in name for name in view["allergens"]["not_known"])
    assert "almond" in view["allergens"]["holds"]
    breaches = client.get(f"{at}/adapt/breaches", params={"rule": ["vegan"]}).json()
    assert any("moonbeam dust" in json.dumps(one) for one in breaches["breaches"])
    [plan] = client.get(f"/api/matches/{made['id']}/batches").json()["batches"]
    batch = client.get(f"/api/matches/{made['id']}/batches/{plan['id']}").json()
    assert any("moonbeam dust" in one["sentence"] and "stardust" in one["sentence"] for one in batch["cautions"])
    bought = {one["name"]: one for one in batch["batch"]["shopping"]}
    assert bought["moonbeam dust"]["unread"] is False
    assert all(one["unread"] for name, one in bought.items() if "stardust" in name or "lmond" in name)


def test_an_own_ingredient_with_a_comma_in_its_name_is_found(client: TestClient) -> None:
    """What stands behind a comma is most often how it is treated, and here its name."""
    text = 'name,water_g,fat_g\n"Crunch bits, market hall",2,30\n'
    made = client.post("/api/pantry/import", json={"revision": house(client), "text": text}).json()
    read = client.post("/api/recipe", json={"text": "200 g crunch bits, market hall\n100 g sugar, sifted"}).json()
    assert [line["ingredient_id"] for line in read["parts"][0]["lines"]] == [made["ids"][0], "white-sugar"]


def test_what_is_open_or_strange_outlives_a_proposal(client: TestClient, worked: Callable[..., dict[str, Any]]) -> None:
    """Kept as vegan: the dust weighs what it weighed, the almonds are still without an amount, the layer is as heavy."""
    recipe = {"text": "Makes 10\nMiddle:\n200 g icing sugar\n40 g cream\n20 g moonbeam dust\nsome almonds"}
    made = client.post("/api/matches/from-recipe", json={"recipe": recipe, "name": "Cream"}).json()
    at = f"/api/matches/{made['id']}/versions/recipe"
    before = client.get(at).json()
    told = worked("GET", f"{at}/adapt", params={"rule": ["vegan"]})
    body = {"revision": told["revision"], "key": told["key"], "system": told["proposals"][0]["system"]}
    kept = client.post(f"{at}/adapt", json=body)
    assert kept.status_code == 201, kept.text
    version = kept.json()["version"]
    lines = {one["name"]: one["amount"] for one in version["layers"][0]["ingredients"]}
    assert lines["moonbeam dust"] == "2 g"
    assert next(amount for name, amount in lines.items() if "lmond" in name and "raw" in name) == ""
    view = client.get(f"/api/matches/{made['id']}/versions/{version['id']}").json()
    assert view["layers"][0]["finished_g"] == pytest.approx(before["layers"][0]["finished_g"])
    assert any("moonbeam dust" in note["text"] for note in version["notes"])
    assert "almond" in view["allergens"]["holds"]
