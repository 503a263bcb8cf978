"""The command line reads match files and prints estimates."""

import json
from pathlib import Path

import pytest
from typer.testing import CliRunner

from fern_match.cli import app
from fern_match.core.match import Match
from fern_match.core.study.record import Study
from fern_match.exchange import written_match_file

run = CliRunner()


@pytest.fixture
def file(tmp_path: Path, demo_study: Study) -> Path:
    """The demo as a match file."""
    path = tmp_path / "demo.json"
    path.write_text(written_match_file(Match(study=demo_study)))
    return path


def test_estimate_prints_json(file: Path) -> None:
    """Layers with mean and range in g, ingredients the same, label rows, evidence with tension."""
    result = run.invoke(app, ["estimate", str(file)])
    assert result.exit_code == 0
    found = json.loads(result.stdout)
    coat = found["layers"][0]
    assert coat["layer_id"] == "coat"
    assert coat["grams"]["low"] < coat["grams"]["best"] < coat["grams"]["high"]
    assert coat["ingredients"][0]["grams"]["best"] > 0
    assert {"row", "printed", "computed", "declared"} <= found["label"][0].keys()
    assert {"id", "seen", "expected_low", "tension"} <= found["evidence"][0].keys()


@pytest.mark.parametrize(
    ("content", "words"), [("nonsense", "not JSON"), ("{}", "not a match file"), (None, "could not be opened")]
)
def test_a_broken_file_is_a_sentence(tmp_path: Path, content: str | None, words: str) -> None:
    """On standard error, with an exit status of 2."""
    path = tmp_path / "broken.json"
    if content is not None:
        path.write_text(content)
    result = run.invoke(app, ["estimate", str(path)])
    assert result.exit_code == 2
    assert words in result.stderr
    assert result.stdout == ""


def test_too_little_is_a_sentence(tmp_path: Path) -> None:
    """What to add."""
    path = tmp_path / "empty.json"
    path.write_text(written_match_file(Match(study=Study(name="Empty"))))
    result = run.invoke(app, ["estimate", str(path)])
    assert result.exit_code == 2
    assert "at least one layer" in result.stderr


def test_import_then_export(file: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Into the database and out again, the same."""
    monkeypatch.setenv("FERN_MATCH_DATABASE", str(tmp_path / "cli.db"))
    match_id = run.invoke(app, ["import", str(file)]).stdout.strip()
    assert run.invoke(app, ["export", match_id]).stdout == file.read_text()
    assert run.invoke(app, ["export", "nope"]).exit_code == 2


def test_schema_and_openapi_are_printed() -> None:
    """For other programs."""
    assert json.loads(run.invoke(app, ["schema"]).stdout)["title"] == "MatchFile"
    assert "/api/matches" in json.loads(run.invoke(app, ["openapi"]).stdout)["paths"]
