"""Two windows on one version: what differs comes together, what is one decision asks; nothing is lost either way."""

import copy
from collections.abc import Callable
from typing import Any

import pytest
from fastapi.testclient import TestClient

Edit = Callable[[dict[str, Any]], None]
LINES = [
    {"id": "l1", "ingredient": "white-sugar", "name": "Sugar", "amount": "8 g"},
    {"id": "l2", "ingredient": "tahini", "name": "Tahini", "amount": "5 g"},
    {"id": "l3", "ingredient": "heavy-cream", "name": "Cream", "amount": "4 g"},
]
VERSION: dict[str, Any] = {
    "id": "v",
    "name": "Faithful",
    "layers": [
        {"id": "c", "name": "Caramel", "family": "soft-caramel", "ingredients": LINES},
        {
            "id": "n",
            "name": "Nuts",
            "family": "whole-nuts",
            "ingredients": [{"id": "l1", "ingredient": "pecan", "name": "Pecans", "amount": "3 g"}],
        },
    ],
    "targets": [{"id": "t", "layer": "c", "property": "fat", "wanted": "4", "tolerance": "0.2"}],
}


def line(number: int, **fields: Any) -> Edit:
    """Changes a line of the caramel."""

    def edit(version: dict[str, Any]) -> None:
        version["layers"][0]["ingredients"][number].update(fields)

    return edit


def layer(number: int, **fields: Any) -> Edit:
    """Changes a layer."""

    def edit(version: dict[str, Any]) -> None:
        version["layers"][number].update(fields)

    return edit


def target(**fields: Any) -> Edit:
    """Changes the target."""

    def edit(version: dict[str, Any]) -> None:
        version["targets"][0].update(fields)

    return edit


def named(version: dict[str, Any]) -> None:
    """Another name of the version."""
    version["name"] = "Darker"


def without_line(version: dict[str, Any]) -> None:
    """The tahini goes."""
    del version["layers"][0]["ingredients"][1]


def without_target(version: dict[str, Any]) -> None:
    """The target goes."""
    version["targets"] = []


def with_line(version: dict[str, Any]) -> None:
    """Honey comes."""
    version["layers"][0]["ingredients"].append({"id": "l9", "ingredient": "honey", "name": "Honey", "amount": "1 g"})


def with_target(version: dict[str, Any]) -> None:
    """A target comes."""
    version["targets"].append({"id": "t2", "layer": None, "property": "sweetness", "wanted": "9", "tolerance": ""})


def turned(version: dict[str, Any]) -> None:
    """The layers change places."""
    version["layers"].reverse()


SWAPPED = line(1, ingredient="almond-butter", name="Almond butter")
TOGETHER: dict[str, tuple[Edit, Edit]] = {
    "two lines": (line(0, amount="7 g"), line(1, amount="6 g")),
    "an amount and a name of the version": (line(0, amount="7 g"), named),
    "an amount and a target": (line(0, amount="7 g"), target(wanted="5")),
    "a line comes, another changes": (with_line, line(0, amount="7 g")),
    "a target comes, another changes": (with_target, target(tolerance="0.3")),
    "layers turn, a line changes": (turned, line(2, amount="3 g")),
    "a layer's name and its line": (layer(0, name="Toffee"), line(0, amount="7 g")),
    "two layers' names": (layer(0, name="Toffee"), layer(1, name="Pecans")),
    "the same by both": (line(0, amount="7 g"), line(0, amount="7 g")),
    "a line goes, another changes": (without_line, line(0, amount="7 g")),
}
ASKED: dict[str, tuple[Edit, Edit]] = {
    "one amount": (line(0, amount="7 g"), line(0, amount="6 g")),
    "swapped, and its amount": (SWAPPED, line(1, amount="3 g")),
    "locked, and its amount": (line(0, locked=True), line(0, amount="7 g")),
    "at least, and in ratio": (line(0, least="5 g"), line(0, part="2")),
    "a line goes, and changes": (without_line, line(1, amount="3 g")),
    "a target goes, and changes": (without_target, target(wanted="5")),
    "wanted, and within": (target(wanted="5"), target(tolerance="1")),
    "a layer's name": (layer(0, name="Toffee"), layer(0, name="Fudge")),
    "the version's name": (named, lambda version: version.update(name="Milder")),
    "swapped for two things": (SWAPPED, line(1, ingredient="peanut-butter", name="Peanut butter")),
}


@pytest.fixture
def version(client: TestClient) -> str:
    """Its address in a match of its own."""
    match = {"format": "fern-match", "version": 2, "study": {"name": "x"}, "versions": [VERSION]}
    made = client.post("/api/matches/import", json=match).json()
    return f"/api/matches/{made['id']}/versions/v"


def both(client: TestClient, path: str, first: Edit, second: Edit) -> tuple[Any, dict[str, Any]]:
    """Two windows on one state; the second's answer, and what it had sent."""
    start = client.get(path).json()
    mine, theirs = copy.deepcopy(start["version"]), copy.deepcopy(start["version"])
    first(mine)
    second(theirs)
    assert client.put(path, json={"revision": start["revision"], "version": mine}).status_code == 200
    return client.put(path, json={"revision": start["revision"], "version": theirs}), theirs


@pytest.mark.parametrize("what", TOGETHER)
def test_what_differs_comes_together(client: TestClient, version: str, what: str) -> None:
    """Both are there afterwards, as if one window had done both."""
    answer, _ = both(client, version, *TOGETHER[what])
    assert answer.status_code == 200, answer.json()
    wanted = client.get(version).json()["version"]
    first, second = TOGETHER[what]
    again = copy.deepcopy(wanted)
    if what not in {"a line comes, another changes", "a target comes, another changes", "a line goes, another changes"}:
        if what != "layers turn, a line changes":
            first(again)
            second(again)
        assert again == wanted
    else:
        assert len(wanted["layers"][0]["ingredients"]) + len(wanted["targets"]) in {3, 5}


@pytest.mark.parametrize("what", ASKED)
def test_what_is_one_decision_asks(client: TestClient, version: str, what: str) -> None:
    """Named in the question; nothing of the second is kept until it is decided, then it is."""
    answer, sent = both(client, version, *ASKED[what])
    assert answer.status_code == 409, what
    told = answer.json()
    assert told["message"]
    before = client.get(version).json()
    decided = client.put(version, json={"revision": before["revision"], "version": sent, "decided_on": told["revision"]})
    assert decided.status_code == 200, decided.json()
