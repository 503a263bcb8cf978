"""Gear of the kitchen and what batches make of it, over the API."""

from collections.abc import Callable
from typing import Any

import pytest
from fastapi.testclient import TestClient
from tests.api.test_batch import FILE

PAN = {"id": "pan", "name": "Square pan", "kind": "pan", "length": "20 cm", "width": "8 in", "depth": "5 cm"}
MOULD = {"id": "mould", "name": "Domes", "kind": "mould", "shape": "half sphere", "length": "35", "cavities": "15"}


@pytest.fixture
def address(client: TestClient) -> str:
    """Where the only batch of a match with a version is."""
    made = client.post("/api/matches/import", json=FILE)
    assert made.status_code == 201
    return f"/api/matches/{made.json()['id']}/batches"


@pytest.fixture
def plan(client: TestClient, address: str) -> Callable[..., dict[str, Any]]:
    """Keeps changes of the first batch; what is answered."""

    def change(**asked: Any) -> dict[str, Any]:
        listed = client.get(address).json()
        batch_id = listed["batches"][0]["id"]
        now = client.get(f"{address}/{batch_id}").json()
        body = {"revision": now["revision"], "plan": {**now["plan"], **asked}}
        kept = client.put(f"{address}/{batch_id}", json=body)
        assert kept.status_code == 200, kept.text
        return kept.json()  # type: ignore[no-any-return]

    return change


def with_gear(client: TestClient, *gear: dict[str, Any], **more: Any) -> dict[str, Any]:
    """A kitchen with gear in it."""
    now = client.get("/api/kitchen").json()
    body = {"revision": now["revision"], "kitchen": {**now["kitchen"], "gear": list(gear), **more}}
    kept = client.put("/api/kitchen", json=body)
    assert kept.status_code == 200, kept.text
    return kept.json()  # type: ignore[no-any-return]


def test_gear_is_read_and_told(client: TestClient) -> None:
    """Sizes in any unit; what is still to say, and what makes no sense, beside it; nothing typed is lost."""
    broken = {"id": "odd", "name": "Odd", "kind": "mould", "shape": "other", "volume": "0 mL"}
    seen = with_gear(client, PAN, MOULD, broken)["gear"]
    assert seen[0]["cells"]["width"]["value"] == pytest.approx(203.2)
    assert "406 cm²" in seen[0]["words"]
    assert seen[1]["words"] == "35 mm, 11.2 mL, 15 cavities"
    assert "more than 0" in seen[2]["problem"]
    assert seen[2]["gear"]["volume"] == "0 mL"


def test_usual_sizes_are_offered(client: TestClient) -> None:
    """With what they hold."""
    usual = client.get("/api/kitchen/usual-gear").json()
    assert {one["gear"]["kind"] for one in usual} == {"pan", "mould", "cup", "scoop", "cutter", "bowl"}
    assert any(one["words"] == "15.8 mL" for one in usual)


def test_a_batch_in_a_pan_and_in_a_mould(client: TestClient, plan: Callable[..., dict[str, Any]]) -> None:
    """The drawing, the pieces and the grams are of one plan; in the mould the piece takes its size."""
    with_gear(client, PAN, MOULD)
    waiting = plan(by="pan", gear="pan")
    assert waiting["batch"] is None
    assert "how long and wide" in waiting["waits"]
    cut = plan(by="pan", gear="pan", cut_length="4 cm", cut_width="25 mm")
    assert cut["portions"]["pieces"] == len(cut["portions"]["cut"]["corners"]) == cut["batch"]["pieces"] == 40
    domes = plan(by="mould", gear="mould", gear_count="2", shell="1.5")
    assert domes["batch"]["pieces"] == 30
    assert domes["batch"]["piece_g"] == pytest.approx(sum(one["grams"] for one in domes["portions"]["cavity"]["parts"]))
    refused = plan(by="pan", gear="pan", cut_length="60 cm", cut_width="25 mm")
    assert refused["batch"] is None
    assert "fits in Square pan" in refused["problem"]
    assert refused["plan"]["cut_length"] == "60 cm"


def test_gear_taken_out_is_asked_for(client: TestClient, plan: Callable[..., dict[str, Any]]) -> None:
    """The plan stays as it is."""
    with_gear(client, PAN)
    plan(by="pan", gear="pan", cut_length="40", cut_width="25")
    with_gear(client)
    assert "not in the kitchen any more" in plan()["problem"]


def test_without_a_scale(client: TestClient, plan: Callable[..., dict[str, Any]]) -> None:
    """Every line in spoons, cups or pieces, or it says that it needs a scale."""
    with_gear(client, lacks=["scale"])
    told = plan(pieces="24", by="pieces")
    for layer in told["batch"]["layers"]:
        for line in layer["ingredients"]:
            assert line["measured"]
            assert line["measured"].endswith(" g") == ("needs a scale" in line["note"])


def test_packs_of_the_house(client: TestClient, plan: Callable[..., dict[str, Any]]) -> None:
    """Typed once, bought whole in every batch."""
    told = plan(pieces="24", by="pieces")
    key = told["batch"]["shopping"][0]["ingredient_id"]
    with_gear(client, packs=[{"id": key, "size": "10 g", "price": "1.50"}])
    told = plan()
    line = told["packs"]["lines"][key]
    assert line["packs"] * 10 - line["left_g"] == pytest.approx(told["batch"]["shopping"][0]["grams"])
    assert told["packs"]["cost"] == pytest.approx(1.5 * line["packs"])


def test_another_batch_and_out_again(client: TestClient, address: str, plan: Callable[..., dict[str, Any]]) -> None:
    """Planned as the first is, apart from it, and taken out again; one undo brings it back."""
    plan(pieces="24", by="pieces")
    now = client.get(address).json()
    first = now["batches"][0]["id"]
    made = client.post(address, json={"revision": now["revision"], "like": first})
    assert made.status_code == 201
    other = made.json()["batches"][-1]["id"]
    assert other != first
    assert client.get(f"{address}/{other}").json()["plan"]["pieces"] == "24"
    out = client.request("DELETE", f"{address}/{other}", json={"revision": made.json()["revision"]})
    assert [one["id"] for one in out.json()["batches"]] == [first]
    assert client.post(address, json={"revision": out.json()["revision"], "like": "gone"}).status_code == 404


def test_two_windows_on_gear_merge_or_ask(client: TestClient) -> None:
    """Different pans merge; the same size of one asks."""
    before = with_gear(client, PAN, MOULD)
    revision, kitchen = before["revision"], before["kitchen"]

    def save(at: int, **changed: str) -> Any:
        gear = [{**one, **changed} if number == at else one for number, one in enumerate(kitchen["gear"])]
        return client.put("/api/kitchen", json={"revision": revision, "kitchen": {**kitchen, "gear": gear}})

    assert save(0, depth="6 cm").status_code == 200
    merged = save(1, cavities="24")
    assert merged.status_code == 200
    kept = merged.json()["kitchen"]["gear"]
    assert (kept[0]["depth"], kept[1]["cavities"]) == ("6 cm", "24")
    asked = save(0, depth="7 cm")
    assert asked.status_code == 409


def test_the_card_says_what_is_in_a_piece(plan: Callable[..., dict[str, Any]]) -> None:
    """Most first, with allergens and the day."""
    card = plan(pieces="24", by="pieces", made_on="30 November")["cards"][0]
    assert card["made_on"] == "30 November"
    assert card["ingredients"]
    assert card["allergens"]
    assert card["weighs"].endswith("g a piece")


def test_without_a_thermometer(client: TestClient, plan: Callable[..., dict[str, Any]]) -> None:
    """A boil that ends by heat ends by a cue, with how sure that is; with one it does not."""
    told = plan(pieces="24", by="pieces")
    assert all(not end["cue"] for end in told["cook_ends"].values())
    with_gear(client, lacks=["thermometer"])
    ends = [end for end in plan()["cook_ends"].values() if end["by"] == "heat"]
    assert ends
    assert all(end["cue"] and end["cue_error"] for end in ends)


BOXES = {"id": "boxes", "name": "Boxes", "kind": "box", "holds": "6", "pack": "4", "price": "3.20", "for_food": True}


def test_a_file_carries_the_gear_that_its_batches_use(
    client: TestClient, plan: Callable[..., dict[str, Any]], address: str
) -> None:
    """Brought to a kitchen that has none of it, it is there; what is there by the same id stays as it is."""
    with_gear(client, PAN, MOULD, wraps=[BOXES])
    plan(by="pan", gear="pan", cut_length="4 cm", cut_width="2 cm", wrapped_in=["boxes"])
    exported = client.get(f"{address.removesuffix('/batches')}/export").json()
    assert [one["id"] for one in exported["gear"]] == ["pan"]
    assert [one["id"] for one in exported["wraps"]] == ["boxes"]
    with_gear(client, {**MOULD, "name": "Mine"})
    now = client.get("/api/kitchen").json()
    client.put("/api/kitchen", json={"revision": now["revision"], "kitchen": {**now["kitchen"], "wraps": []}})
    brought = client.post("/api/matches/import", json=exported)
    assert brought.status_code == 201, brought.text
    kitchen = client.get("/api/kitchen").json()["kitchen"]
    assert [(one["id"], one["name"]) for one in kitchen["gear"]] == [("mould", "Mine"), ("pan", "Square pan")]
    assert [one["id"] for one in kitchen["wraps"]] == ["boxes"]
    at = f"/api/matches/{brought.json()['id']}/batches"
    batch = client.get(f"{at}/{client.get(at).json()['batches'][0]['id']}").json()
    assert batch["portions"]["cut"]["pans"] >= 1
    assert batch["wrapping"]["lines"][0]["count"] > 0


@pytest.mark.parametrize(
    "gear", [[{"id": "a b", "name": "Pan", "kind": "pan"}], [{"id": "pan", "name": "Pan", "kind": "cloud"}], 7]
)
def test_gear_that_is_none_refuses_the_file(client: TestClient, gear: Any) -> None:
    """All of it or nothing, with the place."""
    answer = client.post("/api/matches/import", json={**FILE, "gear": gear})
    assert answer.status_code == 422
    assert "Nothing was imported." in answer.text


def test_a_kitchen_that_is_full_refuses_the_file_whole(client: TestClient, address: str) -> None:
    """200 pans are there: a file that brings another leaves no match behind."""
    exported = client.get(f"{address.removesuffix('/batches')}/export").json()
    with_gear(client, *({**PAN, "id": f"pan-{number}"} for number in range(200)))
    before = len(client.get("/api/matches").json()["matches"])
    answer = client.post("/api/matches/import", json={**exported, "gear": [PAN]})
    assert answer.status_code == 422, answer.text
    assert len(client.get("/api/matches").json()["matches"]) == before


def test_two_windows_on_wrapping_merge(client: TestClient) -> None:
    """One adds, the other changes a price: both stay."""
    first = with_gear(client, wraps=[BOXES])
    base = first["revision"]
    foil = {"id": "foil", "name": "Foil", "kind": "sheet"}
    one = {"revision": base, "kitchen": {**first["kitchen"], "wraps": [BOXES, foil]}}
    other = {"revision": base, "kitchen": {**first["kitchen"], "wraps": [{**BOXES, "price": "2.80"}]}}
    assert client.put("/api/kitchen", json=one).status_code == 200
    merged = client.put("/api/kitchen", json=other)
    assert merged.status_code == 200, merged.text
    assert {wrap["id"]: wrap["price"] for wrap in merged.json()["kitchen"]["wraps"]} == {"boxes": "2.80", "foil": ""}
