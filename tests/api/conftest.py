"""A running application on a fresh database, without a server."""

import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from tests.remembered import RememberingHands

from fern_match.api.app import create_app
from fern_match.api.hands import Hands
from fern_match.api.settings import Settings


@pytest.fixture(scope="session")
def hands() -> Iterator[Hands]:
    """Processes for long work, shared by all applications of this worker."""
    made = RememberingHands()
    yield made
    made.close()


@pytest.fixture
def client(tmp_path: Path, hands: Hands) -> Iterator[TestClient]:
    """A client of an empty application."""
    settings = Settings(database=tmp_path / "api.db", web=tmp_path / "none")
    with TestClient(create_app(settings, hands), base_url="http://127.0.0.1", raise_server_exceptions=False) as made:
        yield made


@pytest.fixture
def study() -> dict[str, Any]:
    """A coated caramel as a client sends it."""
    return {
        "name": "Harbour Light",
        "region": "EU",
        "label": {
            "net_weight": "42",
            "basis": "100 g",
            "rows": {"fat": "24", "saturates": "14", "carbohydrate": "65", "sugars": "52", "protein": "4.5", "salt": "0.4"},
        },
        "statement": "Sugar, glucose syrup, cocoa butter, cream, whole milk powder, cocoa mass, butter, salt, soya lecithin.",
        "layers": [
            {"id": "coat", "name": "Milk coat", "family": "milk-coat", "place": "coat"},
            {"id": "caramel", "name": "Caramel", "family": "soft-caramel", "place": "core"},
        ],
        "readings": [{"id": "coat-1", "subject": "coat", "typed": "16.2"}],
    }


@pytest.fixture
def match_id(client: TestClient, study: dict[str, Any]) -> str:
    """That caramel, created."""
    return str(client.post("/api/matches", json=study).json()["id"])


@pytest.fixture
def ready(client: TestClient) -> Callable[[str], dict[str, Any]]:
    """Asks for an estimate until it is there."""

    def wait(match_id: str) -> dict[str, Any]:
        deadline = time.monotonic() + 180
        while time.monotonic() < deadline:
            answer: dict[str, Any] = client.get(f"/api/matches/{match_id}/estimate", params={"wait_s": 2}).json()
            if answer["status"] != "computing":
                return answer
        raise TimeoutError("no estimate")

    return wait


@pytest.fixture
def worked(client: TestClient) -> Callable[..., dict[str, Any]]:
    """Asks for what takes a while until it is there."""

    def wait(method: str, path: str, **asked: Any) -> dict[str, Any]:
        deadline = time.monotonic() + 180
        while time.monotonic() < deadline:
            answer: dict[str, Any] = client.request(method, path, **asked).json()
            if answer.get("status") != "computing":
                return answer
        raise TimeoutError(path)

    return wait
