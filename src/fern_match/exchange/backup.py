"""The backup file: every match and the kitchen in one JSON file."""

import json
from typing import Final, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from fern_match.core.kitchen import Kitchen
from fern_match.core.match import Match
from fern_match.core.measures import Measures
from fern_match.core.measures.shown import LengthUnit, MassUnit, TemperatureUnit
from fern_match.exchange.match_file import MatchFile, check_links
from fern_match.exchange.shapes import BadMatchFile, Cell

BACKUP_FORMAT: Final = "fern-match-backup"
MOST_BACKUP_BYTES = 100_000_000


class KitchenFile(BaseModel):
    """The kitchen as typed."""

    model_config = ConfigDict(extra="forbid")

    scale_step: Cell = "0.1 g"
    measures: Measures = Measures.METRIC
    mass_unit: MassUnit = MassUnit.GRAMS
    temperature_unit: TemperatureUnit = TemperatureUnit.CELSIUS
    length_unit: LengthUnit = LengthUnit.MILLIMETRES
    altitude: Cell = ""
    boiling_reading: Cell = Field("", description="What the thermometer reads in boiling water, as typed.")

    def to_core(self) -> Kitchen:
        """The kitchen as the core has it."""
        return Kitchen(**dict(self))


class BackupFile(BaseModel):
    """Everything."""

    model_config = ConfigDict(extra="forbid")

    format: Literal["fern-match-backup"] = BACKUP_FORMAT
    version: Literal[1] = 1
    kitchen: KitchenFile = Field(default_factory=KitchenFile)
    matches: list[MatchFile]


def kitchen_file(kitchen: Kitchen) -> KitchenFile:
    """The file's shape of a kitchen.

    Args:
        kitchen: As typed.
    """
    names = KitchenFile.model_fields
    return KitchenFile(**{name: getattr(kitchen, name) for name in names})


def written_backup(matches: list[Match], kitchen: Kitchen) -> str:
    """Everything as the text of a backup file.

    Args:
        matches: All of them.
        kitchen: As typed.
    """
    backup = BackupFile(kitchen=kitchen_file(kitchen), matches=[MatchFile.of(match) for match in matches])
    return backup.model_dump_json(indent=1) + "\n"


def read_backup(text: str | bytes) -> tuple[list[Match], Kitchen]:
    """Everything from the text of a backup file; all of it or nothing.

    Args:
        text: JSON.

    Raises:
        BadMatchFile: with the place in the file, and why.
    """
    if len(text) > MOST_BACKUP_BYTES:
        raise BadMatchFile(f"The file is larger than {MOST_BACKUP_BYTES / 1e6:g} MB. Nothing was restored.")
    try:
        raw = json.loads(text)
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError) as error:
        line = getattr(error, "lineno", 1)
        raise BadMatchFile(f"The file is not JSON: line {line} could not be read. Nothing was restored.") from None
    if not isinstance(raw, dict) or raw.get("format") != BACKUP_FORMAT:
        raise BadMatchFile('This is no backup: it does not say "format": "fern-match-backup". Nothing was restored.')
    try:
        backup = BackupFile.model_validate(raw)
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(step) for step in first["loc"])
        raise BadMatchFile(f"At {place}: {first['msg']}. Nothing was restored.") from None
    try:
        matches = [match.to_core() for match in backup.matches]
    except BadMatchFile as error:
        raise BadMatchFile(f"{error} Nothing was restored.") from None
    for match in matches:
        check_links(match)
    return matches, backup.kitchen.to_core()
