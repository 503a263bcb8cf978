"""A batch over the API: what the house holds, where boils end here, and two windows on one plan."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

CARAMEL: dict[str, Any] = {
    "layer": "caramel",
    "name": "Caramel",
    "family": "soft-caramel",
    "finished_g": 8.0,
    "water_lost_g": 2.0,
    "ingredients": [
        {"ingredient": "white-sugar", "name": "White sugar", "role": "sugars", "grams": 6.0},
        {"ingredient": "heavy-cream", "name": "Cream", "role": "fat", "grams": 4.0},
    ],
}
FILE: dict[str, Any] = {
    "format": "fern-match",
    "version": 1,
    "study": {"name": "Harbour Light", "region": "US"},
    "versions": [{"id": "v", "name": "Faithful", "layers": [CARAMEL]}],
    "batches": [{"id": "b", "version": "v", "pieces": "24"}],
}


@pytest.fixture
def batch_url(client: TestClient) -> str:
    """The plan of an imported match with one boiled layer."""
    made = client.post("/api/matches/import", json=FILE).json()
    return f"/api/matches/{made['id']}/batches"


def plan(**changes: Any) -> dict[str, Any]:
    """A plan as a client sends it."""
    decided = {"decided_on": changes.pop("decided_on")} if "decided_on" in changes else {}
    return {"revision": 1, "plan": {"id": "b", "version": "v", "pieces": "24", **changes}, **decided}


def set_kitchen(client: TestClient, **changes: str) -> dict[str, Any]:
    """Changes settings of the kitchen; the answer."""
    known = client.get("/api/kitchen").json()
    body = {"revision": known["revision"], "kitchen": {**known["kitchen"], **changes}}
    answer: dict[str, Any] = client.put("/api/kitchen", json=body).json()
    return answer


def test_the_house_is_read_in_the_kitchen_s_measures(client: TestClient, batch_url: str) -> None:
    """24 pieces take 24 x 6 / 0.965 = 149.2 g of sugar; half a US cup is 118.3 mL x 0.85 = 100.6 g: enough for 16."""
    set_kitchen(client, measures="US", mass_unit="g", scale_step="1 g")
    answer = client.put(f"{batch_url}/b", json=plan(in_house={"white-sugar": "1/2 cup", "heavy-cream": "1-1/2 cups"})).json()
    batch = answer
    sugar, cream = batch["in_house"]["white-sugar"], batch["in_house"]["heavy-cream"]
    assert sugar["value"] == pytest.approx(100.55, abs=0.01)
    assert "US cup of 237 mL" in sugar["read_as"]
    assert cream["value"] is None
    assert "could be 1 and 1/2" in cream["problem"]
    assert batch["stock"]["lines"]["white-sugar"]["missing_g"] == pytest.approx(24 * 6 / 0.965 - 100.55, abs=0.01)
    assert (batch["stock"]["pieces"], batch["stock"]["scarce"]) == (16, "white-sugar")


def test_a_boil_ends_as_this_thermometer_shows_it(client: TestClient, batch_url: str) -> None:
    """118 C at sea level; at 1600 m 118 - (99.97 - 94.65) = 112.7, shown to half a degree; 234.4 F with a reading of 201 F."""
    at_sea = client.get(f"{batch_url}/b").json()["cook_ends"]["caramel"]
    assert (at_sea["aim"], at_sea["corrected"]) == ("118 °C", False)
    set_kitchen(client, altitude="1600 m")
    there = client.get(f"{batch_url}/b").json()["cook_ends"]["caramel"]
    assert (there["aim"], there["sea_level"], there["corrected"]) == ("112.5 °C", "118 °C", True)
    set_kitchen(client, boiling_reading="201 F", temperature_unit="F")
    measured = client.get(f"{batch_url}/b").json()["cook_ends"]["caramel"]
    assert (measured["low"], measured["aim"], measured["high"]) == ("226 °F", "233 °F", "239 °F")


def test_two_windows_on_one_plan(client: TestClient, batch_url: str) -> None:
    """Different cells come together; the same cell asks, names it, and can be decided."""
    client.put(f"{batch_url}/b", json=plan(in_house={"white-sugar": "200"}))
    both = client.put(f"{batch_url}/b", json=plan(pieces="12")).json()
    assert (both["cells"]["pieces"]["typed"], both["in_house"]["white-sugar"]["typed"]) == ("12", "200")
    asked = client.put(f"{batch_url}/b", json=plan(in_house={"white-sugar": "300"}))
    assert asked.status_code == 409
    assert "White granulated sugar, in the house" in asked.json()["message"]
    decided = client.put(f"{batch_url}/b", json=plan(in_house={"white-sugar": "300"}, decided_on=3)).json()
    assert decided["in_house"]["white-sugar"]["typed"] == "300"
    assert decided["cells"]["pieces"]["typed"] == "12"


def test_a_plan_that_is_not_there_is_404(client: TestClient, batch_url: str) -> None:
    """Nothing is kept quietly."""
    assert client.put(f"{batch_url}/no-such", json=plan()).status_code == 404


def test_a_sweetener_of_two_layers_is_mixed_once(client: TestClient) -> None:
    """What is mixed first is said for the batch, at its lines, and at the steps of its cook."""

    def dry(key: str, family: str) -> dict[str, Any]:
        names = (("stevia-reb-a", 0.02), ("erythritol", 2.0), ("almond-flour", 5.0), ("butter-unsalted", 3.0))
        lines = [{"ingredient": food, "name": food, "role": "sugars", "grams": grams} for food, grams in names]
        return {"layer": key, "name": key, "family": family, "finished_g": 10.0, "water_lost_g": 0.0, "ingredients": lines}

    layers = [dry("crust", "keto-short-base"), dry("crumb", "keto-crumb-base")]
    file = {
        **FILE,
        "versions": [{"id": "v", "name": "Keto", "layers": layers}],
        "batches": [{"id": "b", "version": "v", "pieces": "10"}],
    }
    made = client.post("/api/matches/import", json=file).json()
    at = f"/api/matches/{made['id']}"
    scale = client.get("/api/kitchen").json()
    revised = {**scale["kitchen"], "scale_step": "0.1 g"}
    assert client.put("/api/kitchen", json={"revision": scale["revision"], "kitchen": revised}).status_code == 200
    batch = client.get(f"{at}/batches/b").json()
    (words,) = batch["premixes"]
    assert words.startswith("Sieve 1 g of stevia three times with")
    assert "crust takes" in words
    lines = [one for layer in batch["batch"]["layers"] for one in layer["ingredients"] if one["ingredient_id"] == "stevia-reb-a"]
    assert len(lines) == 2
    assert all("g of the mix (1 g of stevia to" in one["dilution"] for one in lines)
    measured = client.get(f"{at}/versions/v/measured").json()["measured"]
    assert [one["words"] for one in measured["premixes"]] != []
