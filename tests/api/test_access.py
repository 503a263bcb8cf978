"""Beyond this machine every request must carry the key."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from fern_match.api.access import address_with_key
from fern_match.api.app import create_app
from fern_match.api.settings import Settings

KEY = "a-key-of-our-own"


@pytest.fixture
def stranger(tmp_path: Path) -> Iterator[TestClient]:
    """A device in the same house that has not opened the address yet."""
    web = tmp_path / "web"
    (web / "assets").mkdir(parents=True)
    (web / "index.html").write_text("<p>the page</p>")
    settings = Settings(database=tmp_path / "a.db", web=web, host="0.0.0.0", key=KEY)
    with TestClient(create_app(settings), base_url="http://192.168.4.2:8765", follow_redirects=False) as made:
        yield made


@pytest.mark.parametrize("path", ["/api/matches", "/", "/m/x/study", "/api/openapi.json"])
def test_without_the_key_nothing_is_told(stranger: TestClient, path: str) -> None:
    """A sentence says where the key is."""
    answer = stranger.get(path)
    assert answer.status_code == 401
    assert "printed when the app started" in answer.text


@pytest.mark.parametrize("wrong", ["", "x", KEY[:-1], f"{KEY}x"])
def test_a_wrong_key_opens_nothing(stranger: TestClient, wrong: str) -> None:
    """Neither in the address nor in a header."""
    assert stranger.get("/", params={"key": wrong}).status_code == 401
    assert stranger.get("/api/matches", headers={"authorization": f"Bearer {wrong}"}).status_code == 401


def test_the_printed_address_opens_the_app_on_a_device(stranger: TestClient) -> None:
    """Once: the key leaves the address, and a cookie that no script can read stays."""
    opened = stranger.get("/", params={"key": KEY})
    assert (opened.status_code, opened.headers["location"]) == (303, "/")
    assert "HttpOnly" in opened.headers["set-cookie"]
    assert "SameSite=strict" in opened.headers["set-cookie"]
    assert stranger.get("/").text == "<p>the page</p>"
    assert stranger.post("/api/matches", json={"name": "x"}).status_code == 201


def test_programs_send_the_key_in_a_header(stranger: TestClient) -> None:
    """As usual."""
    assert stranger.get("/api/matches", headers={"authorization": f"Bearer {KEY}"}).json()["matches"] == []


def test_only_addresses_are_answered_not_foreign_names(stranger: TestClient) -> None:
    """A name that somebody else points here is refused even with the key."""
    with_key = {"authorization": f"Bearer {KEY}"}
    assert stranger.get("/api/matches", headers={**with_key, "host": "evil.example"}).status_code == 403
    assert stranger.get("/api/matches", headers={**with_key, "host": "[fe80::1]:8765"}).status_code == 200


def test_on_this_machine_no_key_is_wanted(tmp_path: Path) -> None:
    """Loopback is the usual case."""
    settings = Settings(database=tmp_path / "b.db", web=tmp_path)
    assert not settings.beyond_loopback
    with TestClient(create_app(settings), base_url="http://127.0.0.1") as client:
        assert client.get("/api/matches").status_code == 200


@pytest.mark.parametrize("path", ["//evil.example/", "//evil.example", "/\\evil.example", "///evil.example/x"])
def test_opening_never_leads_to_another_host(stranger: TestClient, path: str) -> None:
    """However many slashes the address begins with."""
    answer = stranger.get(f"http://192.168.4.2:8765{path}", params={"key": KEY})
    assert answer.status_code == 303
    assert not answer.headers["location"].startswith(("//", "/\\"))
    assert "://" not in answer.headers["location"]


@pytest.mark.parametrize(
    "key", ["a+b plus enough", "x#y and enough", "a&b and enough", "100% is enough", "☃ snow is enough", "ü/ö and enough"]
)
def test_any_key_can_stand_in_the_address(tmp_path: Path, key: str) -> None:
    """The printed address opens the app, whatever the key is made of."""
    settings = Settings(database=tmp_path / "k.db", web=tmp_path, host="0.0.0.0", key=key)
    with TestClient(create_app(settings), base_url="http://192.168.4.2:8765", follow_redirects=False) as client:
        assert client.get(address_with_key("http://192.168.4.2:8765", key)).status_code == 303
        assert client.get("/api/matches").status_code == 200


def test_a_taster_s_page_opens_without_the_key(stranger: TestClient) -> None:
    """The page of a plate and what pages are made of; of the app itself nothing."""
    assert stranger.get("/taste/a/b/c").text == "<p>the page</p>"
    assert stranger.get("/api/taste/a/b/00000000000000000000").status_code == 404
    assert stranger.get("/assets/none.js").status_code == 404
    assert stranger.get("/taste").status_code == 401
    assert stranger.put("/api/taste/a/b/c", json={}).status_code == 401
