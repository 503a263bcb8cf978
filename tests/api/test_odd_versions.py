"""Versions that make no sense yet: every step answers with a sentence or with what can be done, never with a mistake."""

import copy
from collections.abc import Callable
from typing import Any

import pytest
from fastapi.testclient import TestClient

Change = Callable[[dict[str, Any]], None]


def _weight_of_the_coat(typed: str) -> Change:
    def change(version: dict[str, Any]) -> None:
        for target in version["targets"]:
            if target["property"] == "weight" and target["layer"] == version["layers"][0]["id"]:
                target["wanted"] = typed

    return change


def _amounts(typed: str) -> Change:
    def change(version: dict[str, Any]) -> None:
        for layer in version["layers"]:
            for line in layer["ingredients"]:
                line["amount"] = typed

    return change


def _empty(version: dict[str, Any]) -> None:
    version["layers"][0]["ingredients"] = []


def _no_layers(version: dict[str, Any]) -> None:
    version["layers"], version["targets"] = [], []


def _all_ratios(version: dict[str, Any]) -> None:
    for layer in version["layers"]:
        for line in layer["ingredients"]:
            line["part"] = "1"


def _all_water(version: dict[str, Any]) -> None:
    for layer in version["layers"]:
        layer["water_lost"] = "999 g"


def _nobody(version: dict[str, Any]) -> None:
    for layer in version["layers"]:
        layer["ingredients"][0]["ingredient"] = "nobody-knows"


ODD: dict[str, Change] = {
    "coat weight empty": _weight_of_the_coat(""),
    "coat weight 0": _weight_of_the_coat("0"),
    "coat weight in words": _weight_of_the_coat("a lot"),
    "nothing typed": _amounts(""),
    "nothing of it": _amounts("0 g"),
    "not read": _amounts("1 stick"),
    "an empty layer": _empty,
    "no layers": _no_layers,
    "all in ratio": _all_ratios,
    "more water lost than there is": _all_water,
    "unknown ingredients": _nobody,
}


@pytest.fixture(scope="module")
def exported() -> dict[str, Any]:
    """Filled by the first test of the module that needs it."""
    return {}


@pytest.mark.parametrize("odd", ODD)
def test_every_step_answers(
    odd: str,
    client: TestClient,
    match_id: str,
    ready: Callable[[str], Any],
    worked: Callable[..., dict[str, Any]],
    exported: dict[str, Any],
) -> None:
    """Adapted under two rules, read, held back, measured out, made in other ways, solved by layer and whole, scaled."""
    if not exported:
        ready(match_id)
        assert client.post(f"/api/matches/{match_id}/versions", json={"revision": 1}).status_code == 201
        exported.update(client.get(f"/api/matches/{match_id}/export").json())
    match = copy.deepcopy(exported)
    version = match["versions"][0]
    ODD[odd](version)
    made = client.post("/api/matches/import", json=match).json()["id"]
    path = f"/api/matches/{made}/versions/{version['id']}"
    answers = [worked("GET", f"{path}/adapt", params={"rule": [rule]}) for rule in ("vegan", "sugar-free")]
    answers += [worked("GET", f"{path}{part}") for part in ("", "/held-back", "/measured", "/adapt/rules")]
    answers += [worked("GET", f"{path}/ways/{layer['id']}") for layer in version["layers"][:1]]
    for layers in ([], [layer["id"] for layer in version["layers"]]):
        revision = client.get(path).json()["revision"]
        answers.append(worked("POST", f"{path}/solve", json={"revision": revision, "layers": layers}))
    answers.append(client.get(f"/api/matches/{made}/batches/{match['batches'][0]['id']}").json())
    for answer in answers:
        assert answer.get("code") not in {"Mistake", "Unknown"}, answer
        assert "could not be worked out" not in answer.get("message", ""), answer
        assert "could not be worked out" not in (answer.get("impossible") or ""), answer
