"""What older versions wrote opens, as a file and as kept contents with their history; a field renamed today opens, too."""

import json
import shutil
import zlib
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import text

from fern_match.api.app import create_app
from fern_match.api.settings import Settings
from fern_match.core.batch import PlanBy
from fern_match.core.food import standard_pantry
from fern_match.core.formulate.record.formula import read_version
from fern_match.core.house import House
from fern_match.core.match import Match
from fern_match.core.record.parts import part_types
from fern_match.exchange import content, read_match_file, upgrade
from fern_match.exchange.backup import read_backup
from fern_match.store import Database, contents
from fern_match.store.moments import moments
from fern_match.store.trees import house, listed, load

DATA = Path(__file__).parents[1] / "data"


def test_a_new_kind_of_part_asks_for_a_new_version() -> None:
    """So that an older program says that it is older, and not that something in the file is wrong."""
    assert {*part_types(Match), *part_types(House)} == upgrade.KINDS[content.FORMAT_VERSION]


def test_each_version_has_its_step() -> None:
    """From 2 to today's, without a gap."""
    assert sorted(upgrade._PART_STEPS) == list(range(2, content.FORMAT_VERSION))


def test_silence_on_allergens_is_told_from_none() -> None:
    """What version 2 wrote of shipped rows is known; of what came from a packet it is not, in file and backup alike."""
    match = read_match_file((DATA / "match_file_2.json").read_bytes())
    known = {food.id: food.allergens_known for food in match.pinned}
    assert not known.pop("own-milk-crunch-bits")
    assert all(known.values())
    own, _ = read_backup((DATA / "backup_2.json").read_bytes())
    assert [food.allergens_known for food in own.ingredients] == [False]


@pytest.mark.parametrize("lost", [0.0, 0.5, 1.004, 1.2345, 12.125])
def test_a_weight_of_an_old_file_is_read_as_it_was(lost: float) -> None:
    """Also one of three decimals, which typed so could be thousands."""
    old = json.loads((DATA / "match_file_1.json").read_text())
    layer = old["versions"][0]["layers"][0]
    layer["ingredients"][0]["grams"] = 15.004
    layer["water_lost_g"] = lost
    layer["finished_g"] = sum(one["grams"] for one in layer["ingredients"]) - lost
    version = read_match_file(json.dumps(old).encode()).versions[0]
    read = read_version(version, standard_pantry())
    assert not read.problems
    assert read.layers[0].water_lost_g == pytest.approx(lost, abs=1e-6)
    assert read.layers[0].ingredients[0].grams == pytest.approx(15.004)


@pytest.fixture
def of_parts(tmp_path: Path) -> Path:
    """A database that version 2 kept in parts: eight revisions with an undo and a redo, own ingredients, an adapted version."""
    shutil.copy(DATA / "kept_in_parts_2.db", tmp_path / "parts.db")
    return tmp_path / "parts.db"


def test_a_database_of_version_2_opens_with_its_history(of_parts: Path) -> None:
    """The match as its own file of that time has it; every revision can be returned to; every page opens."""
    with TestClient(create_app(Settings(database=of_parts, web=of_parts)), base_url="http://127.0.0.1") as client:
        match_id = client.get("/api/matches").json()["matches"][0]["id"]
        at = f"/api/matches/{match_id}"
        for path in ("study", "frame", "versions", "batches", "moments", "export"):
            assert client.get(f"{at}/{path}").status_code == 200, path
        versions = [one["id"] for one in client.get(f"{at}/versions").json()["versions"]]
        assert [client.get(f"{at}/versions/{key}").status_code for key in versions] == [200, 200]
        view = client.get(f"{at}/versions/faithful").json()
        assert view["allergens"]["not_known"] == ["Milk crunch bits"]
        revision = client.get(f"{at}/study").json()["revision"]
        for number in range(1, revision):
            answer = client.post(f"{at}/return", json={"revision": revision, "number": number})
            assert answer.status_code == 200, answer.text
            revision = answer.json()["revision"]
    database = Database(of_parts)
    with database.reading() as session:
        assert listed(session)[0].line["name"] == "Harbour Light"
        assert len(moments(session, match_id)) == revision
        assert [food.id for food in house(session).whole.ingredients] == ["own-milk-crunch-bits"]
    database.close()


def test_a_field_renamed_today_opens_what_is_kept(of_parts: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A step from this version to a next one works on each part as it is read: a kept match, its history, and an old file.

    The rename is made backwards: contents of today are kept with the amount of a line called `quantity`, as if an older program
    had called it so, and the step gives it today's name.
    """
    written = content.FORMAT_VERSION

    def renamed(kind: str, part: dict[str, Any]) -> dict[str, Any]:
        changed: dict[str, Any] = json.loads(json.dumps(part).replace('"quantity"', '"amount"'))
        return changed if kind == "versions" else part

    database = Database(of_parts)
    with database.reading() as session:
        match_id = listed(session)[0].id
        before = load(session, match_id, Match).whole
    with database.writing() as session:
        for key, body in session.execute(text("select hash, body from contents where format = 2")).all():
            plain = upgrade.part_upgraded("versions", json.loads(zlib.decompress(body)), 2)
            odd = json.dumps(plain).replace('"amount"', '"quantity"')
            row = {"body": zlib.compress(odd.encode()), "format": written, "hash": key}
            session.execute(text("update contents set body = :body, format = :format where hash = :hash"), row)
    monkeypatch.setattr(upgrade, "FORMAT_VERSION", written + 1)
    monkeypatch.setattr(upgrade, "_PART_STEPS", {**upgrade._PART_STEPS, written: renamed})
    contents._remembered.cache_clear()
    with database.reading() as session:
        after = load(session, match_id, Match)
        assert after.whole.versions == before.versions
        assert len(moments(session, match_id)) == after.revision
    raw = json.loads((DATA / "match_file_2.json").read_text().replace('"amount"', '"quantity"'))
    plain = upgrade.upgraded({key: value for key, value in raw.items() if key != "format"})
    assert plain["versions"][0]["layers"][0]["ingredients"][0]["amount"]
    database.close()
    contents._remembered.cache_clear()


def test_what_version_3_kept_opens(tmp_path: Path) -> None:
    """File and database: the batch goes by its pieces, the kitchen has no gear and its scale; the change before can be undone."""
    match = read_match_file((DATA / "match_file_3.json").read_bytes())
    assert [(plan.by, plan.pieces) for plan in match.batches] == [(PlanBy.PIECES, "2 x 15")]
    shutil.copy(DATA / "kept_in_parts_3.db", tmp_path / "parts.db")
    with TestClient(create_app(Settings(database=tmp_path / "parts.db", web=tmp_path)), base_url="http://127.0.0.1") as client:
        kitchen = client.get("/api/kitchen").json()
        assert (kitchen["kitchen"]["scale_step"], kitchen["gear"]) == ("1 g", [])
        found = next(one for one in client.get("/api/matches").json()["matches"] if one["name"] == "Night Crossing")
        at = f"/api/matches/{found['id']}"
        batch_id = client.get(f"{at}/batches").json()["batches"][0]["id"]
        assert client.get(f"{at}/batches/{batch_id}").json()["batch"]["pieces"] == 30
        revision = client.get(f"{at}/frame").json()["revision"]
        assert client.post(f"{at}/undo", json={"revision": revision}).status_code == 200
        assert client.get(f"{at}/batches/{batch_id}").json()["batch"]["pieces"] == 24


@pytest.mark.parametrize("version", [5, 6])
def test_what_had_no_trials_yet_opens(version: int) -> None:
    """Files with cooks and lots: all of it is there, and nothing was tried."""
    raw = json.loads((DATA / f"match_file_{version}.json").read_text())
    match = read_match_file((DATA / f"match_file_{version}.json").read_bytes())

    assert raw["version"] == version
    assert [one.id for one in match.cooks] == [one["id"] for one in raw["cooks"]]
    assert (match.trials, match.photos, dict(match.study.senses)) == ((), (), {})
    assert len(match.batches) == len(raw["batches"])
