"""The pantry over the API: found by any name, added to, changed beside the shipped rows, as a file."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

PACKET = {
    "name": "Hazel spread",
    "region": "EU",
    "rows": {"fat": "30", "carbohydrate": "57", "sugars": "55", "protein": "6"},
    "statement": "Sugar, palm oil, hazelnuts 13 %, skimmed milk powder",
}


def revision(client: TestClient) -> int:
    """The house’s newest."""
    return int(client.get("/api/kitchen").json()["revision"])


def add(client: TestClient, **changes: Any) -> dict[str, Any]:
    """Adds an ingredient from a packet; the answer."""
    answer: dict[str, Any] = client.post("/api/pantry/packet", json={"revision": revision(client), **PACKET, **changes}).json()
    return answer


def test_found_by_any_name(client: TestClient) -> None:
    """The likeliest first."""
    assert client.get("/api/pantry/search", params={"q": "powdered sugar"}).json()[0]["id"] == "icing-sugar"
    assert len(client.get("/api/pantry/search").json()) > 200


def test_from_a_packet_to_the_list(client: TestClient) -> None:
    """Estimated from panel and statement, and told apart."""
    (key,) = add(client)["ids"]
    row = next(one for one in client.get("/api/pantry").json() if one["id"] == key)
    assert (row["origin"], row["estimated"], row["vegan"]) == ("own", True, "no")
    assert "hazelnut" in row["allergens"]
    view = client.get(f"/api/pantry/{key}").json()
    assert view["ingredient"]["origins"]["fat_g"] == "its packet"
    assert view["shipped"] is None
    refused = client.post("/api/pantry/packet", json={"revision": revision(client), "name": "", "rows": {"fat": "3"}})
    assert refused.status_code == 422


def test_a_changed_figure_is_yours_and_the_shipped_one_stays(client: TestClient) -> None:
    """Impossible ones are refused; dropping brings the shipped figures back."""
    view = client.get("/api/pantry/honey").json()
    food = view["ingredient"]
    food["per_100_g"]["water_g"], food["price_per_kg"] = 19, 6.5
    kept = client.put("/api/pantry/honey", json={"revision": view["revision"], "ingredient": food}).json()
    assert kept["ingredient"]["origins"] == {"water_g": "your figure"}
    assert kept["origin"] == "changed"
    assert kept["shipped"]["per_100_g"]["water_g"] != 19
    food["per_100_g"]["sugars_g"] = 99
    refused = client.put("/api/pantry/honey", json={"revision": kept["revision"], "ingredient": food})
    assert refused.status_code == 422
    assert "cannot exceed" in refused.json()["message"]
    client.request("DELETE", "/api/pantry/honey", json={"revision": kept["revision"]})
    assert client.get("/api/pantry/honey").json()["origin"] == "shipped"


def test_a_match_keeps_the_figures_it_began_with(client: TestClient) -> None:
    """Until it is told to take the new ones."""
    recipe = {"text": "Filling:\n100 g tahini\n60 g icing sugar\n20 g coconut oil"}
    made = client.post("/api/matches/from-recipe", json={"recipe": recipe, "name": "Cream"}).json()
    at = f"/api/matches/{made['id']}/versions/recipe"
    before = client.get(at).json()
    food = client.get("/api/pantry/tahini").json()["ingredient"]
    food["per_100_g"]["fat_g"] = 58
    client.put("/api/pantry/tahini", json={"revision": revision(client), "ingredient": food})
    view = client.get(at).json()
    fat = [next(row["computed"] for row in each["rows"] if row["row"] == "fat") for each in (before, view)]
    assert fat[0] == pytest.approx(fat[1])
    assert [one["ingredient_id"] for one in view["stale"]] == ["tahini"]
    newest = client.post(f"{at}/compositions", json={"revision": view["revision"]}).json()
    assert newest["stale"] == []
    assert next(row["computed"] for row in newest["rows"] if row["row"] == "fat") > fat[0]


def test_an_own_ingredient_ages_no_version_that_does_not_use_it(client: TestClient, match_id: str, ready: Any) -> None:
    """Adding to the pantry is no change of any study."""
    ready(match_id)
    client.post(f"/api/matches/{match_id}/versions", json={"revision": 1})
    add(client)
    assert client.get(f"/api/matches/{match_id}/versions/faithful").json()["outdated"] is None


def test_out_as_csv_and_in_again(client: TestClient) -> None:
    """All of it, or one’s own; a broken file changes nothing."""
    add(client)
    own = client.get("/api/pantry/export", params={"own_only": True})
    assert own.headers["content-type"].startswith("text/csv")
    assert own.text.count("\n") == 2
    changed = own.text.replace("Hazel spread", "Hazel cream")
    taken = client.post("/api/pantry/import", json={"revision": revision(client), "text": changed}).json()
    assert client.get(f"/api/pantry/{taken['ids'][0]}").json()["ingredient"]["name"] == "Hazel cream"
    before = revision(client)
    refused = client.post("/api/pantry/import", json={"revision": before, "text": "name,fat_g\nA,1\nB,x\n"})
    assert refused.status_code == 422
    assert "Line 3" in refused.json()["message"]
    assert revision(client) == before


def test_a_layer_kept_as_an_ingredient(client: TestClient) -> None:
    """And used in another match by its name."""
    recipe = {"text": "Caramel:\n1 can condensed milk\n60 g butter\n60 g golden syrup"}
    made = client.post("/api/matches/from-recipe", json={"recipe": recipe, "name": "Caramel"}).json()
    layer = client.get(f"/api/matches/{made['id']}/versions/recipe").json()["layers"][0]["layer_id"]
    body = {
        "revision": revision(client),
        "match_id": made["id"],
        "version_id": "recipe",
        "layer_id": layer,
        "name": "House caramel",
    }
    (key,) = client.post("/api/pantry/component", json=body).json()["ids"]
    line = client.post("/api/recipe", json={"text": "200 g house caramel"}).json()["parts"][0]["lines"][0]
    assert line["ingredient_id"] == key
    assert client.post("/api/pantry/component", json={**body, "revision": revision(client), "layer_id": "no"}).status_code == 404
