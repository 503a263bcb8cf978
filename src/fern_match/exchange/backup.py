"""The backup file: the house and every match in one JSON file."""

import json
from collections.abc import Iterable
from typing import Any, Final

from fern_match.core.house import House
from fern_match.core.match import Match
from fern_match.core.record import check_limits
from fern_match.exchange.content import FORMAT_VERSION, plain_of, record_of
from fern_match.exchange.match_file import BadFile, document_of, match_of_document, read_document, read_json
from fern_match.exchange.upgrade import parts_upgraded

BACKUP_FORMAT: Final = "fern-match-backup"


def written_backup(house: House, matches: Iterable[Match]) -> str:
    """Everything as the text of a backup file.

    Args:
        house: What belongs to no match.
    """
    found = {
        "format": BACKUP_FORMAT,
        "version": FORMAT_VERSION,
        "house": plain_of(house, whole=True),
        "matches": [document_of(match) for match in matches],
    }
    return json.dumps(found, indent=1, ensure_ascii=False) + "\n"


def read_backup(text: str | bytes) -> tuple[House, list[Match]]:
    """The house and the matches of a backup file of any version; all of it or nothing.

    Raises:
        BadFile: with the place in the file, and why.
    """
    done = "Nothing was restored."
    raw = read_json(text, done)
    if raw.get("format") != BACKUP_FORMAT:
        raise BadFile(f'This is no backup: it does not say "format": "{BACKUP_FORMAT}". {done}')
    if not isinstance(raw.get("matches"), list):
        raise BadFile(f"At matches: a list of matches is missing. {done}")
    if not isinstance(raw.get("version", 1), int) or not 1 <= raw.get("version", 1) <= FORMAT_VERSION:
        raise BadFile(
            f"At version: {str(raw.get('version'))[:20]!r} is not one this program reads; it reads 1 to {FORMAT_VERSION}. "
            f"A newer program wrote it, perhaps. {done}"
        )
    house = read_document(raw, _house_of, done)
    return house, [
        read_document(one, _match_of, f"{number}. match of the backup. {done}") for number, one in enumerate(raw["matches"], 1)
    ]


def _house_of(raw: dict[str, Any]) -> House:
    plain = raw.get("house") or {"kitchen": raw.get("kitchen") or {}}  # version 1 had the kitchen alone
    house = record_of(House, parts_upgraded(plain, max(2, raw.get("version", 1))))
    check_limits(house)
    return house


def _match_of(raw: dict[str, Any]) -> Match:
    return match_of_document({"version": 1, **{key: value for key, value in raw.items() if key != "format"}})
