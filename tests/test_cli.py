"""The command line reads match files and prints estimates."""

import json
import os
import socket
import subprocess
import sys
import time
import urllib.request
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from tests.api.test_batch import FILE
from typer.testing import CliRunner

from fern_match.cli import app
from fern_match.core.food import standard_pantry
from fern_match.core.formulate.record.diet import vegan_in
from fern_match.core.label.rows import Region
from fern_match.core.match import Match
from fern_match.core.study.record import Study
from fern_match.exchange import read_match_file, written_match_file
from fern_match.store import Database

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
    assert found["read_anew"] is None


def test_an_estimate_is_of_the_reading_that_settles_all(tmp_path: Path, demo_study: Study) -> None:
    """A date caramel told as a marshmallow, and the command says so."""
    layers = tuple(replace(one, family="marshmallow") if one.id == "caramel" else one for one in demo_study.layers)
    path = tmp_path / "misread.json"
    path.write_text(written_match_file(Match(study=replace(demo_study, layers=layers))))
    found = json.loads(run.invoke(app, ["estimate", str(path)]).stdout)
    assert found["fit"] == "fits"
    assert found["read_anew"] == {
        "title": "Take Date caramel for date caramel, not marshmallow on gelatine",
        "outcome": "everything fits",
    }
    assert {one["layer_id"]: one["family"] for one in found["layers"]}["caramel"] == "date-caramel"


def test_formulate_prints_json(file: Path) -> None:
    """A version with its amounts, targets and label; the faithful one where the file holds none."""
    result = run.invoke(app, ["formulate", str(file)])
    assert result.exit_code == 0
    found = json.loads(result.stdout)
    layers = found["version"]["layers"]
    assert found["version"]["origin"] == "estimate"
    for layer in layers:
        added = sum(one["grams"] for one in layer["ingredients"])
        assert added - layer["water_lost_g"] == pytest.approx(layer["finished_g"], abs=1e-4)
        assert {"ingredient_id", "name", "grams", "weigh_out_g", "locked"} == layer["ingredients"][0].keys()
    assert {"name", "unit", "low", "wanted", "high", "got"} == found["targets"][0].keys()
    declared = [row for row in found["label"] if row["declared"] is not None]
    assert all(row["printed"] == row["declared"] for row in declared)
    assert all(isinstance(sentence, str) for sentence in found["held_back"])
    refused = run.invoke(app, ["formulate", str(file), "--version", "vegan"])
    assert refused.exit_code == 2
    assert "holds no version “vegan”" in refused.stderr


def test_adapt_prints_proposals(file: Path) -> None:
    """Versions under a rule, each line with what it stands in for; nothing of animal origin; what is in doubt is named."""
    result = run.invoke(app, ["adapt", str(file), "--rule", "vegan"])
    assert result.exit_code == 0
    found = json.loads(result.stdout)
    assert found["unmet"] is None
    assert any("depends on its maker" in sentence for sentence in found["breaks"])
    assert len({one["system"] for one in found["proposals"]}) >= 2
    assert any(not one["doubtful"] for one in found["proposals"])
    pantry = standard_pantry()
    for one in found["proposals"]:
        assert one.keys() >= {"name", "system", "layers", "properties", "label", "differences", "process", "warnings", "doubtful"}
        assert any("not an allergen statement" in sentence for sentence in one["warnings"])
        for layer in one["layers"]:
            added = sum(line["grams"] for line in layer["ingredients"])
            assert added - layer["water_lost_g"] == pytest.approx(layer["finished_g"], abs=1e-4)
            judged = {line["ingredient_id"]: vegan_in(pantry[line["ingredient_id"]], Region.EU) for line in layer["ingredients"]}
            assert "no" not in judged.values()
            assert all(name in one["doubtful"] for name, verdict in judged.items() if verdict != "yes")
            assert {"ingredient_id", "name", "grams", "instead_of", "swap"} == layer["ingredients"][0].keys()


def test_adapt_goes_without_and_with_what_it_is_told(file: Path) -> None:
    """One ingredient refused, another required in a layer; both in one is a sentence and status 2."""
    found = json.loads(run.invoke(app, ["adapt", str(file), "--rule", "vegan"]).stdout)
    layer = found["proposals"][0]["layers"][0]
    refused = layer["ingredients"][0]["ingredient_id"]
    must = f"{layer['layer_id']}:agave-syrup"
    asked = ["adapt", str(file), "--rule", "vegan", "--without", refused]
    told = json.loads(run.invoke(app, asked).stdout)
    used = {line["ingredient_id"] for one in told["proposals"] for made in one["layers"] for line in made["ingredients"]}
    assert refused not in used
    both = run.invoke(app, [*asked, "--with", f"{layer['layer_id']}:{refused}"])
    assert both.exit_code == 2
    assert "is to be used, but it is refused as well" in both.stderr
    assert run.invoke(app, ["adapt", str(file), "--rule", "without-soy", "--with", must]).exit_code == 0


def test_adapt_says_what_it_cannot_do(file: Path) -> None:
    """A rule that is not known, and one that cannot be met: status 2, with what there is and what is nearest."""
    refused = run.invoke(app, ["adapt", str(file), "--rule", "moon-diet"])
    assert refused.exit_code == 2
    assert "“moon-diet” is no rule known here" in refused.stderr
    unmet = run.invoke(app, ["adapt", str(file), "--rule", "keto:0.2"])
    assert unmet.exit_code == 2
    told = json.loads(unmet.stdout)["unmet"]
    assert told["rule"] == "keto"
    assert told["nearest"].startswith("keto:")
    assert told["because"] in unmet.stderr


def test_recipe_lines_as_json() -> None:
    """One object a line, in the order they came."""
    lines = "2 1/4 cups icing sugar, sifted\n\nsalt to taste\n1 cup nuts\n"
    result = run.invoke(app, ["recipe", "--country", "US"], input=lines)
    assert result.exit_code == 0
    sugar, salt, nuts = json.loads(result.stdout)
    assert set(sugar) == {"line", "grams", "low_g", "high_g", "ingredient", "assumed", "problem"}
    assert sugar["grams"] == pytest.approx(266.2, abs=0.1)
    assert sugar["ingredient"]["id"] == "icing-sugar"
    assert salt["grams"] is None
    assert salt["problem"] is None
    assert nuts["ingredient"] is None
    assert nuts["problem"]


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


def test_a_plan_is_printed_with_its_schedule(tmp_path: Path) -> None:
    """Steps in their order with what goes in, ends and windows; every step in the schedule after what it needs."""
    path = tmp_path / "caramel.json"
    path.write_text(json.dumps(FILE))
    told = json.loads(run.invoke(app, ["plan", str(path)]).stdout)
    steps = {one["id"]: one for one in told["steps"]}
    boil = next(one for one in told["steps"] if one["title"] == "Cook to 118 °C")
    assert (boil["temp_c"], boil["tools"][0], boil["cautions"]) == (118, "heavy pan", ["hot-sugar"])
    assert sum(use["grams"] for one in told["steps"] for use in one["uses"]) == pytest.approx(24 * 10 / 0.965, rel=0.01)
    ends = {one["step"]: one["end_min"] for one in told["schedule"]}
    assert ends.keys() == steps.keys()
    for line in told["schedule"]:
        assert all(line["start_min"] >= ends[need] for need in steps[line["step"]]["needs"])
    assert run.invoke(app, ["plan", str(path), "--batch", "none"]).exit_code == 2


def test_import_then_export(file: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Into the database and out again, the same."""
    monkeypatch.setenv("FERN_MATCH_DATABASE", str(tmp_path / "cli.db"))
    match_id = run.invoke(app, ["import", str(file)]).stdout.strip()
    assert read_match_file(run.invoke(app, ["export", match_id]).stdout) == read_match_file(file.read_text())
    assert run.invoke(app, ["export", "nope"]).exit_code == 2


def test_schema_and_openapi_are_printed() -> None:
    """For other programs."""
    assert json.loads(run.invoke(app, ["schema"]).stdout)["title"] == "Match"
    assert "/api/matches" in json.loads(run.invoke(app, ["openapi"]).stdout)["paths"]


@pytest.mark.parametrize("command", [["serve"], ["export", "x"], ["backup", "out.json"], ["import", "FILE"]])
def test_a_database_that_cannot_be_opened_is_a_sentence(
    file: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, command: list[str]
) -> None:
    """Whatever is asked for, and without a traceback."""
    junk = tmp_path / "junk.db"
    junk.write_bytes(b"not a database" * 200)
    monkeypatch.setenv("FERN_MATCH_DATABASE", str(junk))
    monkeypatch.chdir(tmp_path)
    result = run.invoke(app, [str(file) if word == "FILE" else word for word in command])
    assert result.exit_code == 2
    assert "not a database of this program" in result.stderr
    assert not (tmp_path / "out.json").exists()


def test_backup_then_restore(file: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Into a new database; a file that is there is never written over."""
    monkeypatch.setenv("FERN_MATCH_DATABASE", str(tmp_path / "one.db"))
    run.invoke(app, ["import", str(file)])
    backup = tmp_path / "all.json"
    assert run.invoke(app, ["backup", str(backup)]).exit_code == 0
    again = run.invoke(app, ["backup", str(backup)])
    assert (again.exit_code, "writes over nothing" in again.stderr) == (2, True)
    monkeypatch.setenv("FERN_MATCH_DATABASE", str(tmp_path / "two.db"))
    assert run.invoke(app, ["restore", str(backup)]).stdout == "1 matches restored, 0 were already here.\n"
    assert run.invoke(app, ["restore", str(backup)]).stdout == "0 matches restored, 1 were already here.\n"


def test_the_server_starts_by_itself_with_the_demo(tmp_path: Path) -> None:
    """The command that `make demo` runs, in a process of its own."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    environment = {**os.environ, "FERN_MATCH_DATABASE": str(tmp_path / "demo.db")}
    command = [sys.executable, "-m", "fern_match.cli", "serve", "--demo", "--port", str(port)]
    with subprocess.Popen(command, env=environment, stdout=subprocess.DEVNULL) as server:
        try:
            names = {one["name"] for one in matches_when_ready(f"http://127.0.0.1:{port}/api/matches")}
        finally:
            server.kill()
    assert names == {"Night Crossing", "Lime Quay", "Orchard Signal"}


def matches_when_ready(address: str) -> list[dict[str, Any]]:
    """Asked until the server answers."""
    deadline = time.monotonic() + 180
    while time.monotonic() < deadline:
        try:
            with urllib.request.urlopen(address, timeout=5) as answer:
                return list(json.load(answer)["matches"])
        except OSError:
            time.sleep(0.1)
    raise TimeoutError(address)


def test_statement_prints_what_was_read() -> None:
    """Names with shares and the pantry's ingredient; lists beside them."""
    typed = "Sugar, peanuts 20%, butter oil (milk). May contain nuts."
    result = run.invoke(app, ["statement", "--region", "UK"], input=typed)
    assert result.exit_code == 0
    found = json.loads(result.stdout)
    assert [item["name"] for item in found["items"]] == ["sugar", "peanuts", "butter oil"]
    assert (found["items"][1]["percent"], found["items"][2]["source"]) == (20, "milk")
    assert found["items"][0]["pantry"]["id"] == "white-sugar"
    assert found["may_contain"] == ["nuts"]


def test_measure_next_prints_the_best_first(file: Path, tmp_path: Path) -> None:
    """Ranked by narrowing per minute; a sentence where there is too little."""
    result = run.invoke(app, ["measure-next", str(file)])
    assert result.exit_code == 0
    gains = [one["narrowing"] / one["minutes"] for one in json.loads(result.stdout)]
    assert gains == sorted(gains, reverse=True)
    assert gains
    empty = tmp_path / "empty.json"
    empty.write_text(written_match_file(Match(study=Study(name="Empty"))))
    assert run.invoke(app, ["measure-next", str(empty)]).exit_code == 2


@pytest.mark.parametrize(
    ("name", "typed", "said"),
    [
        ("PORT", "abc", "FERN_MATCH_PORT cannot be “abc”"),
        ("KEY", "  ", "a key has 12 signs or more"),
        ("KEY", "short", "12 signs"),
    ],
)
def test_a_setting_that_cannot_be_is_a_sentence(monkeypatch: pytest.MonkeyPatch, name: str, typed: str, said: str) -> None:
    """No trace; with what was set."""
    monkeypatch.setenv(f"FERN_MATCH_{name}", typed)
    told = run.invoke(app, ["serve"])
    assert told.exit_code == 2
    assert said in told.stderr


def test_a_port_that_is_taken_is_said_before_anything_else(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Not after “Fern Match is at”."""
    monkeypatch.setenv("FERN_MATCH_DATABASE", str(tmp_path / "a.db"))
    with socket.socket() as other:
        other.bind(("127.0.0.1", 0))
        other.listen()
        told = run.invoke(app, ["serve", "--port", str(other.getsockname()[1])])
    assert (told.exit_code, told.stdout) == (2, "")
    assert "choose another --port" in told.stderr


def test_a_database_is_the_file_that_is_named(tmp_path: Path) -> None:
    """Signs that mean something in an address mean nothing in a path."""
    path = tmp_path / "a?b%20c.db"
    Database(path).close()
    assert path.is_file()


def test_a_batch_is_printed_with_the_gear_that_its_file_carries(tmp_path: Path) -> None:
    """In a pan of the file: its cuts, its layers that add up, what to buy; one that waits ends with what it waits for."""
    pan = {"id": "pan", "name": "Pan", "kind": "pan", "length": "200", "width": "200", "depth": "50"}
    today = json.loads(written_match_file(read_match_file(json.dumps(FILE))))
    batch = {**today["batches"][0], "by": "pan", "gear": "pan", "cut_length": "40 mm", "cut_width": "20 mm"}
    path = tmp_path / "caramel.json"
    path.write_text(json.dumps({**today, "batches": [batch], "gear": [pan]}))
    told = json.loads(run.invoke(app, ["batch", str(path)]).stdout)
    assert (told["pieces"], told["cuts"]["pans"]) == (50, 1)
    for layer in told["layers"]:
        assert sum(line["grams"] for line in layer["lines"]) == pytest.approx(layer["made_g"] + layer["water_lost_g"], rel=1e-3)
        assert layer["thickness_mm"] > 0
    assert {one["ingredient"] for one in told["shopping"]} == {
        line["ingredient"] for one in told["layers"] for line in one["lines"]
    }
    path.write_text(json.dumps({**today, "batches": [batch]}))
    waits = run.invoke(app, ["batch", str(path)])
    assert (waits.exit_code, waits.stdout) == (2, "")
    assert "not in the kitchen" in waits.stderr
