"""Every operation of the API under requests made from its own OpenAPI document: no request breaks the server."""

import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from schemathesis import GenerationMode
from tests.api.test_batch import FILE

from fern_match.api.app import create_app
from fern_match.api.settings import Settings

EXAMPLES = 100 if os.environ.get("FERN_MATCH_CAMPAIGN") else 10  # of each operation and mode; always the same ones
_APP = create_app(Settings(database=Path("never-opened.db"), web=Path("none")))  # opened where a lifespan begins, not here
_SCHEMA = schemathesis.openapi.from_dict(_APP.openapi())
OPERATIONS = {operation.ok().label: operation.ok() for operation in _SCHEMA.get_all_operations()}
_FITTING = [(label, GenerationMode.POSITIVE) for label in OPERATIONS]
_NOT_FITTING = [(label, GenerationMode.NEGATIVE) for label, one in OPERATIONS.items() if one.body or one.query]


@pytest.fixture(scope="module")
def client(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    """A running application that nothing was sent to yet."""
    folder = tmp_path_factory.mktemp("fuzz")
    app = create_app(Settings(database=folder / "fuzz.db", web=folder / "none"))
    with TestClient(app, base_url="http://127.0.0.1", raise_server_exceptions=False) as made:
        yield made


@pytest.mark.parametrize(("label", "mode"), [*_FITTING, *_NOT_FITTING])
def test_no_request_breaks_the_server(client: TestClient, label: str, mode: GenerationMode) -> None:
    """What fits the document, and what does not, is answered or refused; half of it is aimed at a match that is there."""
    operation = OPERATIONS[label]
    here = client.post("/api/matches/import", json=FILE).json()["id"]

    @given(case=operation.as_strategy(generation_mode=mode), aimed=st.booleans())
    @settings(max_examples=EXAMPLES, deadline=None, database=None, derandomize=True, suppress_health_check=list(HealthCheck))
    def fuzz(case: Any, aimed: bool) -> None:
        if aimed and "match_id" in (case.path_parameters or {}):
            case.path_parameters |= {"match_id": here} | ({"batch_id": "b"} if "batch_id" in case.path_parameters else {})
            if isinstance(case.body, dict) and "revision" in case.body:
                case.body["revision"] = 1
        sent = case.as_transport_kwargs(base_url="http://127.0.0.1")
        body = {"content": sent["data"]} if sent.get("data") is not None else {"json": sent["json"]} if "json" in sent else {}
        answer = client.request(sent["method"], sent["url"], params=sent.get("params"), headers=sent["headers"], **body)
        assert answer.status_code < 500, f"{sent['method']} {sent['url']} {body}: {answer.text}"
        if answer.status_code >= 400:
            assert answer.json()["message"], "a refusal without a sentence"

    fuzz()


def test_every_operation_is_fuzzed() -> None:
    """The document leaves none out."""
    routes = {f"{method.upper()} {path}" for path, entry in _APP.openapi()["paths"].items() for method in entry}
    assert set(OPERATIONS) == routes
