"""The match file: round trips, and broken files say where and why."""

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from tests.any_match import matches

from fern_match.core.estimate import Estimate
from fern_match.core.formulate import faithful_version
from fern_match.core.match import BatchPlan, Match
from fern_match.core.study.record import Study
from fern_match.exchange import read_match_file, written_match_file
from fern_match.exchange.match_file import match_file_schema
from fern_match.exchange.shapes import BadMatchFile


def test_the_demo_goes_out_and_comes_in(demo_study: Study, demo_estimate: Estimate) -> None:
    """Export then import gives the same match."""
    version = faithful_version("v", demo_estimate)
    match = Match(study=demo_study, versions=(version,), batches=(BatchPlan(id="b", version_id="v", pieces="24"),))
    assert read_match_file(written_match_file(match)) == match


@given(matches())
def test_any_match_goes_out_and_comes_in(match: Match) -> None:
    """Export then import gives the same match; markup, formulas and odd signs are text."""
    assert read_match_file(written_match_file(match)) == match


def test_it_is_written_for_people(demo_study: Study) -> None:
    """Indented JSON that names its format and version."""
    text = written_match_file(Match(study=demo_study))
    assert text.startswith('{\n  "format": "fern-match",\n  "version": 1,')


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "not JSON"),
        ("{\n  nonsense\n}", "line 2"),
        ("[]", "not a match file"),
        ("{}", "not a match file"),
        ('{"format": "other"}', "not a match file"),
        ('{"format": "fern-match", "version": 2, "study": {"name": "x"}}', "At version"),
        ('{"format": "fern-match", "version": 1}', "At study"),
        ('{"format": "fern-match", "version": 1, "study": {"name": "x", "colour": "red"}}', "At study.colour"),
        ('{"format": "fern-match", "version": 1, "study": {"name": "x", "region": "Mars"}}', "At study.region"),
        ("[" * 100_000, "not JSON"),
    ],
)
def test_broken_files_say_where_and_why(text: str, words: str) -> None:
    """And nothing is imported by halves."""
    with pytest.raises(BadMatchFile) as caught:
        read_match_file(text)
    assert words in str(caught.value)


def test_bytes_that_are_no_text_are_refused() -> None:
    """A picture is no match."""
    with pytest.raises(BadMatchFile):
        read_match_file(b"\x89PNG\r\n\x1a\n\xff\xfe\xfa")


def test_a_file_too_large_is_refused() -> None:
    """Before it is parsed."""
    with pytest.raises(BadMatchFile, match="larger than 2 MB"):
        read_match_file("x" * 2_000_001)


def broken(change: str, demo_study: Study) -> dict[str, Any]:
    """A file whose parts do not hang together."""
    raw: dict[str, Any] = json.loads(written_match_file(Match(study=demo_study)))
    version = {"id": "v", "name": "V", "layers": []}
    layer = {"layer": "coat", "name": "C", "family": "dark-coat", "finished_g": 1, "water_lost_g": 0, "ingredients": []}
    if change == "layer twice":
        raw["study"]["layers"].append(raw["study"]["layers"][0])
    elif change == "version twice":
        raw["versions"] = [version, version]
    elif change == "layer of a version twice":
        raw["versions"] = [{**version, "layers": [layer, layer]}]
    elif change == "batch of nothing":
        raw["batches"] = [{"id": "b", "version": "gone", "pieces": "2"}]
    elif change == "negative grams":
        raw["versions"] = [{**version, "layers": [{**layer, "finished_g": -1}]}]
    return raw


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ("layer twice", "Two layers have the same id"),
        ("version twice", "Two versions have the same id"),
        ("layer of a version twice", "has a layer twice"),
        ("batch of nothing", "which is not in the file"),
        ("negative grams", "versions.0.layers.0.finished_g"),
    ],
)
def test_parts_that_do_not_hang_together(change: str, words: str, demo_study: Study) -> None:
    """Ids once, batches of versions that are there."""
    with pytest.raises(BadMatchFile) as caught:
        read_match_file(json.dumps(broken(change, demo_study)))
    assert words in str(caught.value)


def test_the_published_schema_is_the_code_s() -> None:
    """docs/formats is up to date."""
    published = Path(__file__).parents[2] / "docs" / "formats" / "match.schema.json"
    assert published.read_text() == match_file_schema()
