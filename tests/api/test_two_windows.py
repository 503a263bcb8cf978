"""Two windows on one match, in twenty ways: what both did is there, or the second is asked; nothing is lost in silence."""

from collections.abc import Callable
from typing import Any

import pytest
from fastapi.testclient import TestClient
from tests.api.test_batch import set_kitchen

Doc = dict[str, Any]
Edit = Callable[[Doc], Doc]


def layer(key: str, **more: Any) -> Doc:
    """A layer as a client sends it."""
    return {"id": key, "name": key.title(), "family": "soft-caramel", "place": "stack", "host": None, **more}


def reading(key: str, subject: str, typed: str) -> Doc:
    """A reading as a client sends it."""
    return {"id": key, "subject": subject, "typed": typed}


BASE: Doc = {
    "name": "Harbour Light",
    "maker": "Ferrywright",
    "region": "EU",
    "label": {"net_weight": "42", "basis": "100 g", "rows": {"fat": "24"}},
    "statement": "Sugar, cream, salt",
    "corrections": {},
    "layers": [layer("coat"), layer("caramel"), layer("nuts", place="inclusion", host="caramel")],
    "placements": {},
    "readings": [reading("r1", "caramel", "8.1"), reading("r2", "caramel", "8.2"), reading("r3", "nuts", "2.0")],
    "doubted": [],
}


def set_to(**parts: Any) -> Edit:
    """Sets fields of the study."""
    return lambda study: {**study, **parts}


def row(name: str, typed: str) -> Edit:
    """Types a label row."""
    return lambda study: {**study, "label": {**study["label"], "rows": {**study["label"]["rows"], name: typed}}}


def reads(key: str, subject: str, typed: str) -> Edit:
    """Adds a reading."""
    return lambda study: {**study, "readings": [*study["readings"], reading(key, subject, typed)]}


def unreads(*keys: str) -> Edit:
    """Takes readings away."""
    return lambda study: {**study, "readings": [one for one in study["readings"] if one["id"] not in keys]}


def rereads(key: str, typed: str) -> Edit:
    """Changes a reading."""
    return lambda study: {
        **study,
        "readings": [{**one, "typed": typed} if one["id"] == key else one for one in study["readings"]],
    }


def adds(key: str, at: int = 99) -> Edit:
    """Puts a layer in."""
    return lambda study: {**study, "layers": [*study["layers"][:at], layer(key), *study["layers"][at:]]}


def removes(key: str) -> Edit:
    """Takes a layer out, as the interface does: what hangs on it is left to the core."""
    return lambda study: {**study, "layers": [one for one in study["layers"] if one["id"] != key]}


def orders(*keys: str) -> Edit:
    """Puts the layers in an order."""
    return lambda study: {**study, "layers": [next(one for one in study["layers"] if one["id"] == key) for key in keys]}


def renames(key: str, name: str) -> Edit:
    """Renames a layer."""
    return lambda study: {**study, "layers": [{**one, "name": name} if one["id"] == key else one for one in study["layers"]]}


def places(item: str, where: Doc) -> Edit:
    """Says where a name is."""
    return lambda study: {**study, "placements": {**study["placements"], item: where}}


def both(*edits: Edit) -> Edit:
    """One after the other."""

    def done(study: Doc) -> Doc:
        for edit in edits:
            study = edit(study)
        return study

    return done


# --- what comes together -------------------------------------------------------------------------------------------------

Holds = Callable[[Doc], bool]


def typed(study: Doc, subject: str) -> list[str]:
    """Readings of a subject."""
    return [one["typed"] for one in study["readings"] if one["subject"] == subject]


def ids(study: Doc) -> list[str]:
    """The layers, in order."""
    return [one["id"] for one in study["layers"]]


TOGETHER: dict[str, tuple[Edit, Edit, Holds]] = {
    "different fields": (
        set_to(maker="Hollin & Rook"),
        row("sugars", "50"),
        lambda now: (now["maker"], now["label"]["rows"]) == ("Hollin & Rook", {"fat": "24", "sugars": "50"}),
    ),
    "the same change twice": (set_to(maker="X"), set_to(maker="X"), lambda now: now["maker"] == "X"),
    "equal readings": (
        reads("a", "caramel", "8.3"),
        reads("b", "caramel", "8.3"),
        lambda now: typed(now, "caramel") == ["8.1", "8.2", "8.3", "8.3"],
    ),
    "readings removed on both sides": (unreads("r1"), unreads("r2"), lambda now: typed(now, "caramel") == []),
    "a reading removed, another added": (
        unreads("r1"),
        reads("b", "caramel", "8.4"),
        lambda now: typed(now, "caramel") == ["8.2", "8.4"],
    ),
    "layers added on both sides": (
        adds("wafer", 1),
        adds("jelly"),
        lambda now: ids(now) == ["coat", "wafer", "caramel", "nuts", "jelly"],
    ),
    "a layer added while the build is turned round": (
        adds("wafer", 1),
        orders("nuts", "caramel", "coat"),
        lambda now: ids(now) == ["nuts", "caramel", "coat", "wafer"],
    ),
    "a layer removed, another renamed": (
        removes("nuts"),
        renames("coat", "Dark coat"),
        lambda now: (ids(now), now["layers"][0]["name"], typed(now, "nuts")) == (["coat", "caramel"], "Dark coat", []),
    ),
    "answers about one name in two layers": (
        places("salt", {"coat": "no"}),
        places("salt", {"nuts": "yes"}),
        lambda now: now["placements"] == {"salt": {"coat": "no", "nuts": "yes"}},
    ),
    "evidence switched off on both sides": (
        set_to(doubted=["row:fat"]),
        set_to(doubted=["net_weight"]),
        lambda now: now["doubted"] == ["net_weight", "row:fat"],
    ),
    "one reorders, the other weighs": (
        orders("caramel", "coat", "nuts"),
        reads("b", "coat", "16.2"),
        lambda now: (ids(now), typed(now, "coat")) == (["caramel", "coat", "nuts"], ["16.2"]),
    ),
}


@pytest.fixture
def address(client: TestClient) -> str:
    """The study of a match with three layers and three readings."""
    made = client.post("/api/matches", json=BASE)
    assert made.status_code == 201
    return f"/api/matches/{made.json()['id']}/study"


def save(client: TestClient, address: str, edit: Edit, **more: Any) -> Any:
    """Saves an edit made on the first revision."""
    return client.put(address, json={"revision": 1, "study": edit(BASE), **more})


@pytest.mark.parametrize("turned", [False, True])
@pytest.mark.parametrize("case", sorted(TOGETHER))
def test_what_differs_comes_together(client: TestClient, address: str, case: str, turned: bool) -> None:
    """Whichever comes first, without a question, and all of both is there."""
    one, other, holds = TOGETHER[case]
    first, second = (other, one) if turned else (one, other)
    assert save(client, address, first).status_code == 200
    answer = save(client, address, second)
    assert answer.status_code == 200
    assert holds(answer.json()["study"]), answer.json()["study"]


# --- what asks -----------------------------------------------------------------------------------------------------------

ASKS: dict[str, tuple[Edit, Edit, str, Holds]] = {
    "the same field": (
        set_to(maker="Theirs"),
        set_to(maker="Mine"),
        "Maker: yours “Mine”, there “Theirs”",
        lambda now: now["maker"] == "Mine",
    ),
    "the same row": (
        row("fat", "25"),
        row("fat", "26"),
        "Fat: yours “26”, there “25”",
        lambda now: now["label"]["rows"]["fat"] == "26",
    ),
    "the same statement": (
        set_to(statement="Salt"),
        set_to(statement="Cream"),
        "Ingredient statement: yours “Cream”, there “Salt”",
        lambda now: now["statement"] == "Cream",
    ),
    "the same reading": (
        rereads("r1", "9"),
        rereads("r1", "7"),
        "Caramel, reading 1: yours “7 g”, there “9 g”",
        lambda now: typed(now, "caramel") == ["7", "8.2"],
    ),
    "a reading removed and changed": (
        unreads("r1"),
        rereads("r1", "7"),
        "Caramel, reading 1: yours “7 g”, there taken away",
        lambda now: sorted(typed(now, "caramel")) == ["7", "8.2"],
    ),
    "two orders": (
        orders("caramel", "coat", "nuts"),
        orders("nuts", "coat", "caramel"),
        "Layers: yours “Nuts, Coat, Caramel”, there “Caramel, Coat, Nuts”",
        lambda now: [key for key in ids(now) if key != "wafer"] == ["nuts", "coat", "caramel"],
    ),
    "a layer removed and weighed": (
        removes("nuts"),
        reads("b", "nuts", "2.1"),
        "Nuts (layer): yours still used and changed, there removed",
        lambda now: "nuts" in ids(now) and typed(now, "nuts") == ["2.0", "2.1"],
    ),
    "a layer weighed and removed": (
        reads("b", "nuts", "2.1"),
        removes("nuts"),
        "Nuts (layer): yours removed, there still used and changed",
        lambda now: "nuts" not in ids(now) and typed(now, "nuts") == [],
    ),
    "a layer removed and renamed": (
        removes("nuts"),
        renames("nuts", "Pecans"),
        "Pecans (layer): yours still used and changed, there removed",
        lambda now: now["layers"][-1]["name"] == "Pecans",
    ),
    "a layer removed and something placed in it": (
        removes("coat"),
        both(adds("raisins"), places("salt", {"coat": "yes"})),
        "Coat (layer): yours still used and changed, there removed",
        lambda now: {"coat", "raisins"} <= set(ids(now)) and now["placements"] == {"salt": {"coat": "yes"}},
    ),
}


@pytest.mark.parametrize("case", sorted(ASKS))
def test_what_fights_asks_and_the_answer_holds(client: TestClient, address: str, case: str) -> None:
    """Nothing is overwritten; keeping mine gives mine where it was asked, and leaves what theirs did elsewhere."""
    theirs, mine, question, holds = ASKS[case]
    elsewhere = both(theirs, row("sugars", "50"), adds("wafer", 0))
    assert save(client, address, elsewhere).status_code == 200
    before = client.get(address).json()["study"]
    asked = save(client, address, mine)
    assert asked.status_code == 409
    assert question in asked.json()["message"]
    assert client.get(address).json()["study"] == before
    decided = save(client, address, mine, decided_on=asked.json()["revision"])
    assert decided.status_code == 200
    now = decided.json()["study"]
    assert holds(now), now
    assert now["label"]["rows"]["sugars"] == "50"
    assert "wafer" in ids(now)


def test_a_decision_does_not_reach_what_came_after_it(client: TestClient, address: str) -> None:
    """A third window wrote while I was deciding: it asks again, about that."""
    save(client, address, set_to(maker="Second"))
    asked = save(client, address, set_to(maker="Mine")).json()["revision"]
    client.put(address, json={"revision": asked, "study": set_to(maker="Third")(BASE)})
    again = save(client, address, set_to(maker="Mine"), decided_on=asked)
    assert again.status_code == 409
    assert "there “Third”" in again.json()["message"]


def test_taking_back_while_another_window_saves(client: TestClient, address: str) -> None:
    """Undo refuses what it has not seen; the other window's edit made on the older revision is merged after an undo."""
    match = address.removesuffix("/study")
    save(client, address, set_to(maker="X"))
    save(client, address, row("sugars", "50"))
    assert client.post(f"{match}/undo", json={"revision": 2}).status_code == 409
    assert client.post(f"{match}/undo", json={"revision": 3}).status_code == 200
    late = client.put(
        address, json={"revision": 3, "study": both(set_to(maker="X"), row("sugars", "50"), row("salt", "1"))(BASE)}
    )
    assert late.json()["study"]["label"]["rows"] == {"fat": "24", "salt": "1"}


def test_a_plan_whose_version_goes_meanwhile(client: TestClient) -> None:
    """Returning to before there was a version, while the other window plans pieces of it: asked, not lost."""
    made = client.post("/api/matches", json={"name": "x"}).json()["id"]
    exported = client.get(f"/api/matches/{made}/export").json()
    line = {"id": "l1", "ingredient": "white-sugar", "name": "Sugar", "amount": "8 g"}
    version = {
        "id": "v",
        "name": "Faithful",
        "layers": [{"id": "c", "name": "C", "family": "soft-caramel", "ingredients": [line]}],
    }
    match = client.post(
        "/api/matches/import", json={**exported, "versions": [version], "batches": [{"id": "b", "version": "v"}]}
    ).json()["id"]
    plan = {"id": "b", "version": "v", "pieces": "24"}
    first = client.put(f"/api/matches/{match}/batches/b", json={"revision": 1, "plan": plan})
    assert first.status_code == 200
    client.post(f"/api/matches/{match}/undo", json={"revision": 2})
    later = client.put(
        f"/api/matches/{match}/batches/b", json={"revision": 2, "plan": {**plan, "in_house": {"white-sugar": "1 kg"}}}
    )
    assert later.status_code == 200
    batch = client.get(f"/api/matches/{match}/batches/b").json()
    assert (batch["plan"]["pieces"], batch["plan"]["in_house"]) == ("", {"white-sugar": "1 kg"})


def test_the_kitchen_in_two_windows(client: TestClient) -> None:
    """As a match: the same setting asks, others come together."""
    usual = client.get("/api/kitchen").json()["kitchen"]
    set_kitchen(client, altitude="1600 m")
    body = {"revision": 0, "kitchen": {**usual, "scale_step": "1 g"}}
    assert client.put("/api/kitchen", json=body).json()["kitchen"]["altitude"] == "1600 m"
    assert client.put("/api/kitchen", json={"revision": 0, "kitchen": {**usual, "altitude": "2 m"}}).status_code == 409


def test_there_are_twenty_and_more() -> None:
    """So many ways were thought of."""
    assert len(TOGETHER) + len(ASKS) >= 20
