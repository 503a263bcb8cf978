"""The match file: round trips, older versions, and broken files that say where and why."""

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from tests.any_match import matches

from fern_match.core.batch import BatchPlan
from fern_match.core.estimate import Estimate
from fern_match.core.food import Pantry
from fern_match.core.formulate import OriginKind, faithful_version, read_version
from fern_match.core.house import House
from fern_match.core.match import Match, with_version
from fern_match.core.study.record import Study
from fern_match.exchange import BadFile, read_match_file, written_match_file
from fern_match.exchange.backup import read_backup, written_backup
from fern_match.exchange.content import canonical, plain_of, record_of
from fern_match.exchange.match_file import document_of, match_file_schema

DATA = Path(__file__).parents[1] / "data"


def test_the_demo_goes_out_and_comes_in(demo_study: Study, demo_estimate: Estimate, pantry: Pantry) -> None:
    """Export then import gives the same match, its pinned compositions too."""
    version = faithful_version("v", demo_estimate, "ab12")
    match = with_version(Match(study=demo_study), version, [BatchPlan(id="b", version="v", pieces="24")], pantry)
    assert len(match.pinned) > 10
    assert read_match_file(written_match_file(match)) == match


@given(matches())
def test_any_match_goes_out_and_comes_in(match: Match) -> None:
    """As a file and as kept content; markup, formulas and odd signs are text."""
    assert read_match_file(written_match_file(match)) == match
    assert record_of(Match, json.loads(canonical(plain_of(match)))) == match


def test_equal_records_have_equal_content(pantry: Pantry) -> None:
    """Whatever order their mappings were filled in; what is as usual takes no room."""
    one, other = Study(name="x", corrections={"a": "b", "c": "d"}), Study(name="x", corrections={"c": "d", "a": "b"})
    assert canonical(plain_of(one)) == canonical(plain_of(other))
    assert canonical(plain_of(Study(name="x"))) == b'{"name":"x"}'
    assert record_of(type(pantry["honey"]), plain_of(pantry["honey"])) == pantry["honey"]


def test_it_is_written_for_people(demo_study: Study) -> None:
    """Indented JSON that names its format and version."""
    text = written_match_file(Match(study=demo_study))
    assert text.startswith('{\n  "format": "fern-match",\n  "version": 7,')


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "not JSON"),
        ("{\n  nonsense\n}", "line 2"),
        ("[]", "no JSON object"),
        ("{}", "not a match file"),
        ('{"format": "other"}', "not a match file"),
        ('{"format": "fern-match", "version": 8, "study": {"name": "x"}}', "At version"),
        ('{"format": "fern-match", "version": "2", "study": {"name": "x"}}', "At version"),
        ('{"format": "fern-match", "version": 1}', "At study"),
        ('{"format": "fern-match", "version": 2}', "At study"),
        ('{"format": "fern-match", "version": 1, "study": {"name": "x", "colour": "red"}}', "At study.colour"),
        ('{"format": "fern-match", "version": 2, "study": {"name": "x", "colour": "red"}}', "At study.colour"),
        ('{"format": "fern-match", "version": 2, "study": {"name": "x", "region": "Mars"}}', "At study.region"),
        ('{"format": "fern-match", "version": 1, "study": {"name": "x", "weighings": [7]}}', "another shape"),
        ("[" * 100_000, "nested too deep"),
        ('{"format": "fern-match", "version": ' + "1" * 5000 + "}", "could not be read"),
        ('{"format": "fern-match", "format": "fern-match"}', "stands twice"),
    ],
)
def test_broken_files_say_where_and_why(text: str, words: str) -> None:
    """And nothing is imported by halves."""
    with pytest.raises(BadFile) as caught:
        read_match_file(text)
    assert words in str(caught.value)
    assert str(caught.value).endswith("Nothing was imported.")


def test_bytes_that_are_no_text_are_refused() -> None:
    """A picture is no match."""
    with pytest.raises(BadFile, match="not text"):
        read_match_file(b"\x89PNG\r\n\x1a\n\xff\xfe\xfa")


def heavy(versions: int) -> str:
    """A file of versions of 2.3 MB each."""
    line = {"ingredient": "honey", "name": "n" * 120, "role": "r" * 120, "amount": "9" * 200}
    lines = [{**line, "id": f"l{number}"} for number in range(200)]
    layers = [{"id": f"y{number}", "name": "n", "family": "f", "ingredients": lines} for number in range(20)]
    whole = document_of(Match(study=Study(name="x")))
    return json.dumps({**whole, "versions": [{"id": f"v{n}", "name": "v", "layers": layers} for n in range(versions)]})


def test_a_file_too_large_is_refused() -> None:
    """Before it is parsed; and a match that holds too much, after."""
    with pytest.raises(BadFile, match="larger than 100 MB"):
        read_match_file(b"x" * 100_000_001)
    with pytest.raises(BadFile, match="one match holds at most 8 MB"):
        read_match_file(heavy(4))


def test_a_file_of_many_odd_ids_is_read_at_once() -> None:
    """20,000 ids that were no ids, all of one stem: each gets one of its own."""
    layers = [{"id": f"a/{'é' * n}", "name": "x", "family": "f", "place": "stack"} for n in range(20)]
    versions = [{"id": f"é{'!' * n}", "name": "v", "layers": []} for n in range(200)]
    raw = {"format": "fern-match", "version": 1, "study": {"name": "x", "layers": layers}, "versions": versions}
    match = read_match_file(json.dumps(raw))
    assert len({one.id for one in match.versions}) == 200


def test_the_largest_match_that_is_kept_comes_in_again() -> None:
    """What may be kept may be exported, and what was exported may be imported: spaces for people are never in the way."""
    match = read_match_file(heavy(3))
    assert read_match_file(written_match_file(match)) == match


def broken(change: str, demo_study: Study) -> dict[str, Any]:
    """A file whose parts do not hang together."""
    raw: dict[str, Any] = document_of(Match(study=demo_study))
    version = {"id": "v", "name": "V", "layers": []}
    layer = {"id": "coat", "name": "C", "family": "dark-coat"}
    if change == "layer twice":
        raw["study"]["layers"].append(raw["study"]["layers"][0])
    elif change == "version twice":
        raw["versions"] = [version, version]
    elif change == "layer of a version twice":
        raw["versions"] = [{**version, "layers": [layer, layer]}]
    elif change == "batch of nothing":
        raw["batches"] = [{"id": "b", "version": "gone", "pieces": "2"}]
    elif change == "odd id":
        raw["batches"] = [{"id": "a/b", "version": "v"}]
        raw["versions"] = [version]
    elif change == "too many":
        raw["versions"] = [{**version, "id": f"v{number}"} for number in range(201)]
    return raw


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ("layer twice", "Layers: two of them have the id “coat”"),
        ("version twice", "Versions: two of them have the id “v”"),
        ("layer of a version twice", "Layers: two of them"),
        ("batch of nothing", "“gone”, which is not there"),
        ("odd id", "“a/b” cannot be an id"),
        ("too many", "Versions: 201 of them; at most 200 are kept."),
    ],
)
def test_parts_that_do_not_hang_together(change: str, words: str, demo_study: Study) -> None:
    """Ids once and fit for an address, batches of versions that are there, no more than is kept."""
    with pytest.raises(BadFile) as caught:
        read_match_file(json.dumps(broken(change, demo_study)))
    assert words in str(caught.value)


def test_a_file_of_version_1_opens_with_all_it_holds(pantry: Pantry) -> None:
    """Every fact of it, in today's shape."""
    raw = json.loads((DATA / "match_file_1.json").read_text())
    match = read_match_file((DATA / "match_file_1.json").read_bytes())
    study = match.study
    assert (study.name, study.maker, study.statement) == (raw["study"]["name"], raw["study"]["maker"], raw["study"]["statement"])
    assert {row.value: typed for row, typed in study.label.rows.items()} == raw["study"]["label"]["rows"]
    typed = [text for weighing in raw["study"]["weighings"] for text in weighing["readings"]]
    assert sorted(one.typed for one in study.readings) == sorted(typed)
    assert [layer.name for layer in study.layers] == [layer["name"] for layer in raw["study"]["layers"]]
    assert study.corrections == {"sugar": "icing-sugar"}
    old, version = raw["versions"][0], match.versions[0]
    assert (version.id, version.name, version.origin.kind) == (old["id"], old["name"], OriginKind.ESTIMATE)
    formula = read_version(version, pantry)
    assert formula.problems == ()
    for before, layer in zip(old["layers"], formula.layers, strict=True):
        assert layer.finished_g == pytest.approx(before["finished_g"], abs=1e-6)
        assert layer.water_lost_g == pytest.approx(before["water_lost_g"], abs=1e-6)
        grams = [one["grams"] for one in before["ingredients"]]
        assert [one.grams for one in layer.ingredients] == pytest.approx(grams, abs=1e-8)
    plan = match.batches[0]
    assert (plan.pieces, list(plan.left_on_tools.values()), plan.in_house) == ("24", ["4"], {"white-sugar": "1 cup"})


def test_two_weighings_of_one_subject_in_an_old_file_are_both_kept() -> None:
    """Version 1 let a subject stand twice; no reading is lost."""
    raw = {
        "format": "fern-match",
        "version": 1,
        "study": {
            "name": "x",
            "weighings": [{"subject": "piece", "readings": ["8", "9"]}, {"subject": "piece", "readings": ["1 g"]}],
        },
    }
    readings = read_match_file(json.dumps(raw)).study.readings
    assert [(one.id, one.typed) for one in readings] == [("piece-1", "8"), ("piece-2", "9"), ("piece-3", "1 g")]


def test_a_backup_of_version_1_opens_with_all_it_holds() -> None:
    """Its kitchen and its matches; and goes out again as one of today."""
    house, found = read_backup((DATA / "backup_1.json").read_bytes())
    assert (house.kitchen.altitude, house.kitchen.scale_step) == ("1600 m", "1 g")
    assert {match.study.name for match in found} == {"Harbour Light", "Second"}
    assert read_backup(written_backup(house, found)) == (house, found)
    assert read_backup(written_backup(House(), [])) == (House(), [])


def test_the_published_schema_is_the_code_s() -> None:
    """docs/formats is up to date."""
    published = Path(__file__).parents[2] / "docs" / "formats" / "match.schema.json"
    assert published.read_text() == match_file_schema()
