"""Adapting over the API: rules of the region, what breaks them, proposals, one kept and taken back."""

from collections.abc import Callable
from typing import Any

import pytest
from fastapi.testclient import TestClient

from fern_match.core.food import standard_pantry

Worked = Callable[..., dict[str, Any]]


@pytest.fixture
def taken(client: TestClient, match_id: str, ready: Callable[[str], Any]) -> str:
    """The faithful version of the small study; its address."""
    ready(match_id)
    made = client.post(f"/api/matches/{match_id}/versions", json={"revision": 1})
    assert made.status_code == 201
    return f"/api/matches/{match_id}/versions/{made.json()['version']['id']}"


def test_rules_say_where_they_come_from(client: TestClient, taken: str) -> None:
    """Each with its source and what it does not promise; allergens can be left out."""
    told = client.get(f"{taken}/adapt/rules").json()
    shown = [rule["id"] for rule in told["rules"] if not rule["variant_of"]]
    assert shown == ["vegan", "keto", "sugar-free", "no-added-sugar", "reduced-sugar", "fewer-kcal", "high-protein"]
    assert {rule["id"] for rule in told["rules"] if rule["variant_of"] == "keto"} == {"keto-all-off", "keto-counted"}
    assert all(rule["source"] and rule["promises_not"] for rule in told["rules"])
    assert "without-milk" in told["without"]
    assert "no-polyol" in told["categories"]
    suggested = {one["id"]: (one["amount"], one["unit"]) for one in told["own"]}
    assert suggested["at-most-fat"] > suggested["at-most-salt"] > (0, "g")
    assert suggested["at-most-energy"][1] == "kcal"
    assert suggested["at-least-protein"][0] > suggested["at-most-protein"][0]
    assert [one["name"] for one in told["own"] if one["id"].endswith("protein")] == ["protein", "protein, at least"]


def test_what_breaks_a_rule_is_there_at_once(client: TestClient, taken: str) -> None:
    """By layer and ingredient; a limit of one's own is read; what is no rule is a sentence."""
    told = client.get(f"{taken}/adapt/breaches", params={"rule": ["vegan", "keto:1.5"]}).json()
    assert told["rules"][1]["limit"] == 1.5
    assert {one["layer_id"] for one in told["breaches"]} >= {"caramel", None}
    refused = client.get(f"{taken}/adapt/breaches", params={"rule": ["lunar"]})
    assert refused.status_code == 422
    assert "“lunar” is no rule known here" in refused.json()["message"]


def test_a_proposal_is_kept_and_taken_back(client: TestClient, taken: str, worked: Worked) -> None:
    """It becomes a version that knows its parent, all vegan, of the weight that was shown; one undo takes it out again."""
    asked = {"rule": ["vegan"]}
    told = worked("GET", f"{taken}/adapt", params=asked)
    assert len(told["proposals"]) >= 2
    assert told["unmet"] is None
    first = told["proposals"][0]
    assert first["slice"]["bands"]
    assert any(line["instead_of"] for layer in first["layers"] for line in layer["lines"])
    body = {"revision": told["revision"], "key": told["key"], "system": first["system"]}
    made = client.post(f"{taken}/adapt", json=body)
    assert made.status_code == 201
    version = made.json()["version"]
    assert version["parent"] == taken.rpartition("/")[2]
    assert version["name"].startswith("Vegan, ")
    assert version["origin"]["kind"] == "adapted"
    match = taken.rpartition("/versions")[0]
    view = client.get(f"{match}/versions/{version['id']}").json()
    assert view["piece_g"] == pytest.approx(first["piece_g"], abs=1e-3)
    assert view["vegan"] == "yes"
    assert {row["reached"] for row in view["rows"]} == {None}  # another thing than the original: its label is no target
    assert not [target for target in view["targets"] if not target["reached"]]
    assert client.get(f"{match}/versions/{version['id']}/adapt/breaches", params=asked).json()["breaches"] == []
    assert client.post(f"{match}/undo", json={"revision": made.json()["revision"]}).status_code == 200
    assert client.get(f"{match}/versions/{version['id']}").status_code == 404


def test_what_is_forbidden_stays_out(client: TestClient, taken: str, worked: Worked) -> None:
    """The proposal is worked out without it; one that is not there any more is refused."""
    told = worked("GET", f"{taken}/adapt", params={"rule": ["vegan"]})
    shown = {line["ingredient_id"] for layer in told["proposals"][0]["layers"] for line in layer["lines"] if line["is_new"]}
    unwanted = sorted(shown & standard_pantry().by_id.keys())[0]
    again = worked("GET", f"{taken}/adapt", params={"rule": ["vegan"], "forbidden": [unwanted]})
    used = {line["ingredient_id"] for one in again["proposals"] for layer in one["layers"] for line in layer["lines"]}
    assert unwanted not in used
    body = {"revision": told["revision"], "key": told["key"], "system": "moonlight"}
    assert client.post(f"{taken}/adapt", json=body).status_code == 409


def test_an_unmet_rule_says_what_stands_in_the_way(client: TestClient, taken: str, worked: Worked) -> None:
    """No proposal; the layer or the limit by name, and what can be asked for instead where there is such a thing."""
    told = worked("GET", f"{taken}/adapt", params={"rule": ["keto:0.05"]})
    assert told["proposals"] == []
    assert "Milk coat" in told["unmet"] or "cannot be brought to 0.05 g a piece" in told["unmet"]
    assert told["nearest"] == "" or told["nearest"].startswith("keto:")


def test_what_is_required_is_used(client: TestClient, taken: str, worked: Worked) -> None:
    """In the layer that is named, in every proposal; what a rule refuses cannot be required, and the two are named."""
    asked = {"rule": ["vegan"], "required": ["caramel:agave-syrup"]}
    told = worked("GET", f"{taken}/adapt", params=asked)
    assert told["proposals"]
    for one in told["proposals"]:
        lines = {line["ingredient_id"] for layer in one["layers"] if layer["layer_id"] == "caramel" for line in layer["lines"]}
        assert "agave-syrup" in lines, one["name"]
    refused = client.get(f"{taken}/adapt", params={"rule": ["vegan"], "required": ["caramel:heavy-cream"]})
    assert refused.status_code == 422
    assert "is to be used, but Vegan refuses it" in refused.json()["message"]
    named = client.get(f"{taken}/adapt/breaches", params={"rule": ["vegan"], "ingredient": ["agave-syrup", "no-such"]}).json()
    assert named["names"] == {"agave-syrup": standard_pantry()["agave-syrup"].name}


def test_what_keeps_proposals_from_being_nearer_is_asked_for_apart(client: TestClient, taken: str, worked: Worked) -> None:
    """By the same systems as the proposals; under a limit this narrow something does, and it is named."""
    asked = {"rule": ["keto:3"]}
    told = worked("GET", f"{taken}/adapt", params=asked)
    proposals = told["proposals"]
    held = worked("GET", f"{taken}/adapt/held-back", params={"key": told["key"]})["by_system"]
    assert proposals
    assert held.keys() == {one["system"] for one in proposals}
    assert any("whole piece" in sentence for sentences in held.values() for sentence in sentences)


def test_what_is_required_of_nothing_is_said(client: TestClient, taken: str) -> None:
    """A layer there is not, an ingredient the pantry does not hold, one the region bars."""
    for required, words in (
        ("cellar:agave-syrup", "Layers are "),
        ("caramel:moonstone", "the pantry does not hold it"),
        ("caramel:allulose-syrup", "allulose is not authorised"),
    ):
        refused = client.get(f"{taken}/adapt", params={"rule": ["vegan"], "required": [required]})
        assert refused.status_code == 422, required
        assert words in refused.json()["message"]


def test_a_version_remembers_what_it_was_adapted_under(client: TestClient, taken: str, worked: Worked) -> None:
    """It says that it holds; with honey in it, it no longer does; a copy remembers as well; weighed out it still holds."""
    told = worked("GET", f"{taken}/adapt", params={"rule": ["vegan", "at-most-fat:30/100g"], "forbidden": ["oat-drink"]})
    body = {"revision": told["revision"], "key": told["key"], "system": told["proposals"][0]["system"]}
    made = client.post(f"{taken}/adapt", json=body).json()
    match, key = taken.rpartition("/versions")[0], made["version"]["id"]
    assert made["version"]["origin"]["rules"] == ["vegan", "at-most-fat:30/100g", "without-oat-drink"]
    view = client.get(f"{match}/versions/{key}").json()
    assert [one["broken"] for one in view["holding"]] == [[], [], []]
    copied = client.post(f"{match}/versions/start", json={"revision": made["revision"], "copy_of": key}).json()
    assert copied["version"]["origin"]["rules"] == made["version"]["origin"]["rules"]
    version = view["version"]
    line = version["layers"][0]["ingredients"][0]
    version["layers"][0]["ingredients"][0] = {**line, "ingredient": "honey", "name": "Honey"}
    saved = client.put(f"{match}/versions/{key}", json={"revision": copied["revision"], "version": version})
    assert saved.status_code == 200, saved.json()
    broken = {one["rule"]: one["broken"] for one in client.get(f"{match}/versions/{key}").json()["holding"]}
    assert any("Honey is of animal origin" in sentence for sentence in broken["Vegan"])
