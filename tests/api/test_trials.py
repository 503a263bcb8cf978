"""Trials over the API: begun, written, looked at; the next version; tastings; photos; what a file carries along."""

import base64
import csv
import io
import json
import random
import re
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from PIL import Image
from tests.api.test_batch import FILE

from fern_match.api.app import create_app
from fern_match.api.settings import Settings
from fern_match.core.match import Match
from fern_match.exchange import read_match_file
from fern_match.exchange.images import LONGEST_PX, MOST_KEPT_BYTES
from fern_match.exchange.log_csv import defused
from fern_match.exchange.match_file import document_of

LAYER = "caramel"
NOW: dict[str, Any] = document_of(read_match_file(json.dumps(FILE)))  # the same in today's format


@pytest.fixture
def base(client: TestClient) -> str:
    """The batch tests' caramel, with a cook that has a log."""
    made = client.post("/api/matches/import", json=FILE).json()
    at = f"/api/matches/{made['id']}"
    client.post(f"{at}/cooks", json={"revision": 1, "batch": "b"})
    return at


@pytest.fixture
def trial_url(client: TestClient, base: str) -> str:
    """A trial of that cook."""
    listed = client.get(f"{base}/trials").json()
    begun = client.post(
        f"{base}/trials", json={"revision": listed["revision"], "batch": "b", "cook": listed["cooked"][0]["cook"]}
    )
    assert begun.status_code == 201
    return f"{base}/trials/{begun.json()['trials'][0]['id']}"


def write(client: TestClient, url: str, **fields: Any) -> dict[str, Any]:
    """A trial with some fields changed."""
    now = client.get(url).json()
    answer = client.put(url, json={"revision": now["revision"], "trial": {**now["trial"], **fields}})
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


def layer(trial: dict[str, Any], layer_id: str = LAYER) -> dict[str, Any]:
    """What a trial says of a layer."""
    found: dict[str, Any] = next(one for one in trial["layers"] if one["layer_id"] == layer_id)
    return found


def runny(client: TestClient, url: str) -> dict[str, Any]:
    """A caramel that runs, and was read four degrees under."""
    return write(
        client,
        url,
        faults=[{"id": "f", "fault": "caramel-runny", "layer": LAYER}],
        reached={f"{LAYER}--end_heat": "114"},
    )


def test_a_trial_is_begun_of_what_was_cooked(client: TestClient, base: str, trial_url: str) -> None:
    """The list offers cooks with their log and batches without; the path counts it; taken out, undo brings it back."""
    listed = client.get(f"{base}/trials").json()
    frame = client.get(f"{base}/frame").json()

    assert [(one["batch"], bool(one["cook"])) for one in listed["cooked"]] == [("b", True), ("b", False)]
    assert next(one["words"] for one in frame["path"] if one["step"] == "trials") == "1 trial"
    gone = client.request("DELETE", trial_url, json={"revision": listed["revision"]})
    assert gone.json()["trials"] == []
    assert client.post(f"{base}/undo", json={"revision": gone.json()["revision"]}).status_code == 200
    assert len(client.get(f"{base}/trials").json()["trials"]) == 1


def test_what_was_read_is_told_with_what_it_says(client: TestClient, trial_url: str) -> None:
    """A heat typed afterwards stands beside the plan; the cause it speaks for leads; a figure that is none stays and says so."""
    found = layer(runny(client, trial_url))
    end = next(one for one in found["reached"] if one["key"] == f"{LAYER}--end_heat")

    assert (end["planned"], end["says"]) == ("118 °C", "114 °C, 4.0 °C under plan")
    assert found["causes"][0]["id"] == "undercooked"
    assert any("speaks" in said and "for it" in said for said in found["causes"][0]["spoken"])
    odd = write(client, trial_url, reached={f"{LAYER}--end_heat": "hot"}, weighed={"piece": "12 lots"}, made="some")
    assert "Write degrees" in next(one["cell"]["problem"] for one in layer(odd)["reached"] if one["key"] == f"{LAYER}--end_heat")
    assert odd["cells"]["weighed.piece"]["problem"]
    assert odd["cells"]["made"]["typed"] == "some"


def test_the_log_is_read_where_nobody_typed(client: TestClient, base: str, trial_url: str) -> None:
    """A reading that comes in at the stove afterwards is in the trial at once."""
    runny(client, trial_url)
    write(client, trial_url, reached={})
    cook = client.get(trial_url).json()["trial"]["cook"]
    entry = {"key": "k", "kind": "reading", "step": f"{LAYER}--cook", "of": "thermometer", "text": "121"}
    assert client.post(f"{base}/cooks/{cook}/run", json={"entries": [entry]}).status_code == 200
    found = layer(client.get(trial_url).json())
    end = next(one for one in found["reached"] if one["key"] == f"{LAYER}--end_heat")

    assert (end["logged"], end["says"]) == ("121 °C", "121 °C, 3.0 °C over plan")


def test_the_next_version_is_made_of_the_changes_chosen(client: TestClient, base: str, trial_url: str) -> None:
    """It knows its parent, carries what to mind, has a batch to fill in; what is not proposed any more is refused."""
    trial = runny(client, trial_url)
    chosen = [one["id"] for one in trial["changes"]]
    made = client.post(f"{trial_url}/next", json={"revision": trial["revision"], "changes": chosen})
    assert made.status_code == 201
    version = made.json()["version"]

    assert (version["parent"], version["name"].endswith(", try 2")) == ("v", True)
    assert any("keep to the plan" in note["text"] for note in version["notes"])
    assert any(one["version"] == version["id"] for one in client.get(f"{base}/batches").json()["batches"])
    gone = client.post(f"{trial_url}/next", json={"revision": made.json()["revision"], "changes": ["caramel:of-no-table"]})
    assert gone.status_code == 409


def test_two_windows_write_to_one_trial(client: TestClient, trial_url: str) -> None:
    """A weight here, a fault there: both are kept; the same field asks."""
    now = client.get(trial_url).json()
    one = {**now["trial"], "weighed": {"piece": "20.1"}}
    other = {**now["trial"], "faults": [{"id": "f", "fault": "caramel-runny", "layer": LAYER}]}
    third = {**now["trial"], "weighed": {"piece": "30"}}

    assert client.put(trial_url, json={"revision": now["revision"], "trial": one}).status_code == 200
    merged = client.put(trial_url, json={"revision": now["revision"], "trial": other}).json()["trial"]
    assert (merged["weighed"], len(merged["faults"])) == ({"piece": "20.1"}, 1)
    clash = client.put(trial_url, json={"revision": now["revision"], "trial": third})
    assert clash.status_code == 409
    assert "Piece, weighed" in clash.json()["message"] or "piece, weighed" in clash.json()["message"].lower()


def test_history_tells_a_trial_in_words(client: TestClient, base: str, trial_url: str) -> None:
    """By names, never by ids."""
    runny(client, trial_url)
    told = client.get(f"{base}/moments").text

    assert "Runny, flows in the cold" in told
    assert "Caramel: where the boil ended: 114" in told
    assert "end_heat" not in told


def test_losses_are_planned_as_trials_had_them(client: TestClient, base: str, trial_url: str) -> None:
    """20 g of 200 left on tools are learnt, drawn towards the usual; taking it plans the batch."""
    trial = write(client, trial_url, came_out={LAYER: "200"}, left={LAYER: "20"})
    taught = next(one for one in client.get(f"{base}/trials/over-time").json()["learnt"] if one["layer_id"] == LAYER)
    taken = client.post(f"{base}/trials/learnt", json={"revision": trial["revision"], "batch": "b", "layer": LAYER})
    assert taken.status_code == 200

    batch = client.get(f"{base}/batches/b").json()
    assert f"{batch['left_on_tools'][LAYER]['value']:.1f} %" == taught["proposed"]
    none = client.post(f"{base}/trials/learnt", json={"revision": taken.json()["revision"], "batch": "b", "layer": "coat"})
    assert none.status_code == 409


def test_the_table_is_read_by_another_reader(client: TestClient, base: str, trial_url: str) -> None:
    """CSV with what was compared, reached and found wrong; what a spreadsheet would take for a formula is text."""
    runny(client, trial_url)
    write(client, trial_url, name="=1+1", weighed={"piece": "20.1 20.3"})
    rows = list(csv.DictReader(io.StringIO(client.get(f"{base}/trials/table").text)))

    assert {row["trial"] for row in rows} == {"'=1+1"}
    assert any(row["what"] == "wrong: Runny, flows in the cold" for row in rows)
    assert next(row for row in rows if row["what"] == "weight: Piece")["copy"] == "20.2"
    assert next(row for row in rows if row["what"].startswith("reached"))["copy"] == "114"
    assert defused("@sum") == "'@sum"


def test_a_version_goes_out_as_a_recipe(client: TestClient, base: str) -> None:
    """JSON-LD that another reader finds its way in: types, durations, a step for each step, figures where they are known."""
    cook = client.get(f"{base}/cooks").json()["cooks"][0]["id"]
    answer = client.get(f"{base}/cooks/{cook}/recipe")
    recipe = json.loads(answer.text)
    steps = client.get(f"{base}/cooks/{cook}").json()["steps"]

    assert answer.headers["content-type"].startswith("application/ld+json")
    assert (recipe["@context"], recipe["@type"]) == ("https://schema.org", "Recipe")
    assert re.fullmatch(r"PT\d+M", recipe["totalTime"])
    assert [one["@type"] for one in recipe["recipeInstructions"]] == ["HowToStep"] * len(steps)
    assert all(one["name"] and one["text"] for one in recipe["recipeInstructions"])
    assert all(re.match(r"[\d.]+ g \S", one) for one in recipe["recipeIngredient"])
    assert re.fullmatch(r"[\d.]+ kcal", recipe["nutrition"]["calories"])


# --- tastings --------------------------------------------------------------------------------------------------------------


def tasting(client: TestClient, url: str, tasters: list[str], kind: str = "triangle") -> dict[str, Any]:
    """A tasting with servings drawn."""
    now = write(client, url, tastings=[{"id": "t1", "kind": kind, "servings": []}])
    answer = client.post(f"{url}/tastings/t1/serve", json={"revision": now["revision"], "tasters": tasters})
    assert answer.status_code == 200
    found: dict[str, Any] = answer.json()["trial"]["tastings"][0]
    return found


def plate(url: str, token: str) -> str:
    """Where a taster's plate is."""
    match_id, _, trial_id = url.removeprefix("/api/matches/").split("/")
    return f"/api/taste/{match_id}/{trial_id}/{token}"


def test_a_taster_sees_codes_and_nothing_else(client: TestClient, trial_url: str) -> None:
    """Neither page nor address says what lies where; the answer is in the verdict, and may be changed."""
    served = tasting(client, trial_url, ["Ida", ""])
    first = served["servings"][0]
    seen = client.get(plate(trial_url, first["id"]))

    assert set(seen.json()) == {"question", "codes", "taster", "answered", "may_have_none"}
    assert seen.json()["codes"] == first["codes"]
    assert not re.search(r"original|copy|Harbour|caramel", seen.text, re.IGNORECASE)
    odd = next(whose for whose in ("original", "copy") if first["pieces"].count(whose) == 1)
    right = first["codes"][first["pieces"].index(odd)]
    assert client.post(plate(trial_url, first["id"]), json={"answer": right}).json()["answered"] == right
    verdict = client.get(trial_url).json()["verdicts"][0]
    assert verdict["tasters"] == 1
    assert "1 of 1" in verdict["sentence"]
    other = next(code for code in first["codes"] if code != right)
    client.post(plate(trial_url, first["id"]), json={"answer": other})
    assert "0 of 1" in client.get(trial_url).json()["verdicts"][0]["sentence"]


@pytest.mark.parametrize("token", ["0" * 20, "short", "x" * 20])
def test_nobody_gets_a_plate_by_guessing(client: TestClient, trial_url: str, token: str) -> None:
    """A token that was not drawn is no plate; a code of another plate is no answer."""
    served = tasting(client, trial_url, ["a", "b"])

    assert client.get(plate(trial_url, token)).status_code == 404
    strange = served["servings"][1]["codes"][0]
    assert client.post(plate(trial_url, served["servings"][0]["id"]), json={"answer": strange}).status_code == 404


def test_a_phone_without_the_key_gets_its_plate_and_nothing_more(tmp_path: Path) -> None:
    """Beyond this machine a taster's address opens one plate; match, codes of others and the rest stay shut."""
    settings = Settings(database=tmp_path / "a.db", web=tmp_path / "none", host="0.0.0.0", key="k" * 20)
    with TestClient(create_app(settings), base_url="http://192.168.4.2:8765") as phone:
        owner = {"authorization": f"Bearer {'k' * 20}"}
        match_id = phone.post("/api/matches/import", json=FILE, headers=owner).json()["id"]
        at = f"/api/matches/{match_id}/trials"
        trial_id = phone.post(at, json={"revision": 1, "batch": "b"}, headers=owner).json()["trials"][0]["id"]
        now = phone.get(f"{at}/{trial_id}", headers=owner).json()
        trial = {**now["trial"], "tastings": [{"id": "t1", "kind": "preference", "servings": []}]}
        kept = phone.put(f"{at}/{trial_id}", json={"revision": now["revision"], "trial": trial}, headers=owner).json()
        drawn = phone.post(
            f"{at}/{trial_id}/tastings/t1/serve", json={"revision": kept["revision"], "tasters": [""]}, headers=owner
        ).json()
        token = drawn["trial"]["tastings"][0]["servings"][0]["id"]
        mine = f"/api/taste/{match_id}/{trial_id}/{token}"

        assert phone.get(mine).json()["may_have_none"] is True
        assert phone.post(mine, json={"answer": "-", "taster": "Jon"}).json()["answered"] == "-"
        for shut in (f"{at}/{trial_id}", f"/api/matches/{match_id}", "/api/matches", f"{at}/over-time"):
            assert phone.get(shut).status_code == 401
        assert phone.delete(mine).status_code == 401


# --- photos ----------------------------------------------------------------------------------------------------------------


def picture(width: int = 800, height: int = 500, kind: str = "JPEG", **more: Any) -> bytes:
    """A picture with something to see in it."""
    image = Image.effect_noise((width, height), 40).convert("RGB")
    out = io.BytesIO()
    image.save(out, kind, **more)
    return out.getvalue()


def send(client: TestClient, base: str, raw: bytes, content_type: str = "image/jpeg", of: str = "original", **more: Any) -> Any:
    """Sends a picture."""
    revision = client.get(f"{base}/photos").json()["revision"]
    return client.post(
        f"{base}/photos", params={"revision": revision, "of": of, **more}, content=raw, headers={"content-type": content_type}
    )


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_a_photo_is_taken_in_small_and_plain(client: TestClient, base: str, kind: str) -> None:
    """Whatever it came as it is a JPEG of at most 1200 pixels and 150 kB, without anything but its pixels."""
    exif = Image.Exif()
    exif[0x010F] = "A maker's name"
    answer = send(client, base, picture(2400, 1500, kind, exif=exif), f"image/{kind.lower()}")
    assert answer.status_code == 201
    photo = answer.json()["photos"][0]
    body = client.get(photo["image"]).content
    kept = Image.open(io.BytesIO(body))

    assert kept.format == "JPEG"
    assert max(kept.size) <= LONGEST_PX
    assert len(body) <= MOST_KEPT_BYTES
    assert not kept.getexif()
    assert b"maker" not in body
    assert (photo["photo"]["width_px"], photo["photo"]["height_px"]) == kept.size


def test_a_photo_is_turned_upright(client: TestClient, base: str) -> None:
    """A phone held upright writes the turn beside the pixels: they are turned, and the note goes."""
    exif = Image.Exif()
    exif[0x0112] = 6
    photo = send(client, base, picture(600, 300, exif=exif)).json()["photos"][0]["photo"]

    assert (photo["width_px"], photo["height_px"]) == (300, 600)


def test_photos_have_a_scale_and_words(client: TestClient, base: str, trial_url: str) -> None:
    """36 mm over 800 pixels; of a copy it goes with its trial, and comes back with it."""
    trial_id = trial_url.rpartition("/")[2]
    send(client, base, picture())
    answer = send(client, base, picture(400, 300), of="copy", trial=trial_id).json()
    photo = answer["photos"][1]["photo"]
    put = client.put(
        f"{base}/photos/{photo['id']}", json={"revision": answer["revision"], "wide": "36 mm", "words": "cut"}
    ).json()

    assert put["photos"][1]["mm_per_px"] == pytest.approx(36 / 400)
    assert put["photos"][1]["photo"]["words"] == "cut"
    gone = client.request("DELETE", trial_url, json={"revision": put["revision"]})
    assert [one["photo"]["of"] for one in client.get(f"{base}/photos").json()["photos"]] == ["original"]
    client.post(f"{base}/undo", json={"revision": gone.json()["revision"]})
    back = client.get(f"{base}/photos").json()["photos"]
    assert [one["photo"]["of"] for one in back] == ["original", "copy"]
    assert client.get(back[1]["image"]).status_code == 200


def hostile(number: int) -> bytes:
    """One of a hundred files that are no pictures, or none that anybody should read."""
    rng = random.Random(number)
    whole = picture(300, 200, rng.choice(["JPEG", "PNG", "WEBP"]))
    if number % 10 == 0:
        return b""
    if number % 10 == 1:
        return rng.randbytes(rng.randrange(1, 4000))
    if number % 10 == 2:
        return whole[: rng.randrange(4, len(whole) // 2)]
    if number % 10 == 3:
        return b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>"
    if number % 10 == 4:
        return bomb(rng.choice([8000, 20000, 60000]))
    if number % 10 == 5:
        return b"GIF89a" + rng.randbytes(200)
    if number % 10 == 6:
        return b"\xff\xd8\xff\xe0" + rng.randbytes(3000)
    if number % 10 == 7:
        return b"\x89PNG\r\n\x1a\n" + rng.randbytes(3000)
    if number % 10 == 8:
        return b"RIFF" + (2**31).to_bytes(4, "little") + b"WEBPVP8 " + rng.randbytes(300)
    return b"%PDF-1.4 " + rng.randbytes(500)


def bomb(side: int) -> bytes:
    """A PNG of a few kilobytes that claims so many pixels a side."""
    out = io.BytesIO()
    Image.new("1", (side, 8)).save(out, "PNG")
    raw = bytearray(out.getvalue())
    raw[20:24] = side.to_bytes(4, "big")
    import zlib

    raw[29:33] = zlib.crc32(bytes(raw[12:29])).to_bytes(4, "big")
    return bytes(raw)


def test_a_hundred_hostile_pictures_get_a_sentence(client: TestClient, base: str) -> None:
    """Bombs, wrong types, broken ones: each is refused in words, none is kept, and nothing grows."""
    import resource

    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    for number in range(100):
        answer = send(client, base, hostile(number), "image/png")
        assert answer.status_code == 422, number
        assert answer.json()["message"].endswith((".", "smaller.")), number
    assert client.get(f"{base}/photos").json()["photos"] == []
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < 150_000  # kB


def test_a_picture_is_told_by_its_type_and_its_size(client: TestClient, base: str) -> None:
    """JSON is none; 20 MB is the most."""
    assert send(client, base, b"{}", "application/json").status_code == 415
    assert send(client, base, b"x" * 20_000_001).status_code == 413


# --- many ------------------------------------------------------------------------------------------------------------------


def with_many(count: int) -> dict[str, Any]:
    """The batch tests' match with so many trials, each with a photo."""
    raw = picture(300, 200)
    photos = [
        {
            "id": f"p{n}",
            "of": "copy",
            "trial": f"t{n}",
            "data": base64.b64encode(raw).decode(),
            "image": "",
            "width_px": 1,
            "height_px": 1,
        }
        for n in range(count)
    ]
    trials = [{"id": f"t{n}", "batch": "b", "name": f"Trial {n}", "weighed": {"piece": f"{20 + n % 5}"}} for n in range(count)]
    return {**NOW, "trials": trials, "photos": photos}


def test_two_hundred_trials_with_photos_go_out_and_come_back(client: TestClient) -> None:
    """Export, import, copy and backup carry them all; a picture is served from each."""
    match_id = client.post("/api/matches/import", json=with_many(200)).json()["id"]
    text = client.get(f"/api/matches/{match_id}/export").text
    match: Match = read_match_file(text)
    again = client.post("/api/matches/import", content=text, headers={"content-type": "application/json"}).json()["id"]
    copied = client.post(f"/api/matches/{match_id}/duplicate").json()["id"]

    assert (len(match.trials), len(match.photos)) == (200, 200)
    assert all(one.data and one.image for one in match.photos)
    for key in (again, copied):
        photos = client.get(f"/api/matches/{key}/photos").json()["photos"]
        assert len(photos) == 200
        assert client.get(photos[199]["image"]).headers["content-type"] == "image/jpeg"
    assert read_match_file(client.get(f"/api/matches/{again}/export").text) == match
    over = client.get(f"/api/matches/{match_id}/trials/over-time").json()
    assert len(over["lines"]) == 200


def test_a_backup_carries_photos(client: TestClient, base: str, tmp_path: Path) -> None:
    """Restored elsewhere they are there; restored here nothing is doubled."""
    send(client, base, picture())
    backup = client.get("/api/backup").content
    headers = {"content-type": "application/json"}
    here = client.post("/api/restore", content=backup, headers=headers).json()
    settings = Settings(database=tmp_path / "other.db", web=tmp_path / "none")
    with TestClient(create_app(settings), base_url="http://127.0.0.1") as other:
        there = other.post("/api/restore", content=backup, headers=headers).json()
        match_id = other.get("/api/matches").json()["matches"][0]["id"]
        photo = other.get(f"/api/matches/{match_id}/photos").json()["photos"][0]
        assert other.get(photo["image"]).status_code == 200
    assert (here["added"], there["added"]) == (0, 1)


@pytest.mark.parametrize(
    ("photo", "words"),
    [
        ({"data": ""}, "Picture 1 is missing"),
        ({"data": "%%%"}, "not written as it should be"),
        ({"data": base64.b64encode(b"no picture at all").decode()}, "no JPEG, PNG or WebP"),
        ({"trial": "gone", "data": base64.b64encode(b"x").decode()}, "which is not there"),
    ],
)
def test_a_file_with_a_bad_picture_is_refused_whole(client: TestClient, photo: dict[str, Any], words: str) -> None:
    """With where and why, and nothing is imported."""
    given = {"id": "p", "of": "original", "image": "", "width_px": 1, "height_px": 1, **photo}
    answer = client.post("/api/matches/import", json={**NOW, "photos": [given]})

    assert answer.status_code == 422
    assert words in answer.json()["message"]
    assert client.get("/api/matches").json()["matches"] == []
