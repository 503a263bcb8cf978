"""The match file: the whole of a match as JSON, versioned, with a schema made from these models."""

import json
from typing import Final, Literal, Self

from pydantic import Field, ValidationError

from fern_match.core.match import Match
from fern_match.exchange.shapes import BadMatchFile, Shape
from fern_match.exchange.study_file import StudyFile
from fern_match.exchange.version_file import BatchFile, VersionFile

FORMAT: Final = "fern-match"
VERSION: Final = 1
MOST_BYTES = 2_000_000


class MatchFile(Shape):
    """The whole of a match."""

    format: Literal["fern-match"] = FORMAT
    version: Literal[1] = VERSION
    study: StudyFile
    versions: list[VersionFile] = Field(default_factory=list, max_length=50)
    batches: list[BatchFile] = Field(default_factory=list, max_length=50)

    def to_core(self) -> Match:
        """The match as the core has it."""
        return Match(
            study=self.study.to_core(),
            versions=tuple(version.to_core() for version in self.versions),
            batches=tuple(one.to_core() for one in self.batches),
        )

    @classmethod
    def of(cls, match: Match) -> Self:
        """The file's shape of a match."""
        return cls(
            study=StudyFile.of(match.study),
            versions=[VersionFile.of(version) for version in match.versions],
            batches=[BatchFile.of(plan) for plan in match.batches],
        )


def read_match_file(text: str | bytes) -> Match:
    """A match from the text of a match file; all of it or nothing.

    Args:
        text: JSON.

    Raises:
        BadMatchFile: with the line or the place in the file, and why.
    """
    if len(text) > MOST_BYTES:
        raise BadMatchFile(f"The file is larger than {MOST_BYTES / 1e6:g} MB; a match file is not.")
    try:
        raw = json.loads(text)
    except UnicodeDecodeError:
        raise BadMatchFile("The file is not text; a match file is JSON in UTF-8.") from None
    except (json.JSONDecodeError, RecursionError) as error:
        line = getattr(error, "lineno", 1)
        raise BadMatchFile(f"The file is not JSON: line {line} could not be read. Nothing was imported.") from None
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise BadMatchFile('This is not a match file: it does not say "format": "fern-match". Nothing was imported.')
    try:
        match = MatchFile.model_validate(raw).to_core()
    except BadMatchFile as error:
        raise BadMatchFile(f"{error} Nothing was imported.") from None
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(step) for step in first["loc"]) or "the whole file"
        raise BadMatchFile(f"At {place}: {first['msg']}. Nothing was imported.") from None
    check_links(match)
    return match


def check_links(match: Match) -> None:
    """Refuses a match whose parts do not hang together.

    Args:
        match: As read from a file.

    Raises:
        BadMatchFile: an id stands twice, or a batch is of no version.
    """
    versions = [version.id for version in match.versions]
    batches = [plan.id for plan in match.batches]
    for what, keys in (("versions", versions), ("batches", batches)):
        if len(set(keys)) != len(keys):
            raise BadMatchFile(f"Two {what} have the same id. Nothing was imported.")
    for version in match.versions:
        layers = [layer.layer_id for layer in version.layers]
        if len(set(layers)) != len(layers):
            raise BadMatchFile(f"Version “{version.id}” has a layer twice. Nothing was imported.")
    for plan in match.batches:
        if plan.version_id not in versions:
            raise BadMatchFile(
                f"Batch “{plan.id}” is of version “{plan.version_id}”, which is not in the file. Nothing was imported."
            )


def written_match_file(match: Match) -> str:
    """A match as the text of a match file.

    Args:
        match: All of it is written.
    """
    return MatchFile.of(match).model_dump_json(indent=2) + "\n"


def match_file_schema() -> str:
    """The JSON Schema of match files, as published in docs/formats."""
    return json.dumps(MatchFile.model_json_schema(), indent=2, ensure_ascii=False) + "\n"
