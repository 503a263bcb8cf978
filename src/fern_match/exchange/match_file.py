"""The match file: the whole of a match as JSON, versioned, with a schema made from the records themselves."""

import json
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, Final

from pydantic import ValidationError

from fern_match.core.errors import CoreError
from fern_match.core.kitchen import Gear, Kitchen, Wrap
from fern_match.core.match import Match, check_match
from fern_match.core.record import NotFitting, check_limits
from fern_match.exchange.content import FORMAT_VERSION, adapter_of, canonical, plain_of, record_of
from fern_match.exchange.images import BadImage, with_sound_pictures
from fern_match.exchange.upgrade import upgraded

FORMAT: Final = "fern-match"
_OF_THE_KITCHEN: Final = ("gear", "wraps")  # what a file carries of the kitchen
MOST_FILE_BYTES = 100_000_000  # of anything that is read in
MOST_MATCH_BYTES = 8_000_000  # of one match as JSON without spaces; written out with spaces it is never ten times that


class BadFile(CoreError):
    """A file that is not what it should be; its text says where and why."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Brought:
    """What a match file brings: the match, and what its batches are made and wrapped in."""

    match: Match
    gear: tuple[Gear, ...] = ()
    wraps: tuple[Wrap, ...] = ()


def read_match_file(text: str | bytes) -> Match:
    """A match from the text of a match file of any version; all of it or nothing.

    Raises:
        BadFile: with the line or the place in the file, and why.
    """
    return read_brought(text).match


def read_brought(text: str | bytes) -> Brought:
    """The same with what its batches are made and wrapped in.

    Raises:
        BadFile: with the line or the place in the file, and why.
    """
    done = "Nothing was imported."
    raw = read_json(text, done)
    if raw.get("format") != FORMAT:
        raise BadFile(f'This is not a match file: it does not say "format": "{FORMAT}". {done}')
    found: Brought = read_document({key: value for key, value in raw.items() if key != "format"}, _brought, done)
    return found


def _brought(raw: dict[str, Any]) -> Brought:
    """A match with its gear, held to every limit of a kitchen."""
    match = match_of_document({key: value for key, value in raw.items() if key not in _OF_THE_KITCHEN})
    kitchen = record_of(Kitchen, {key: raw[key] for key in _OF_THE_KITCHEN if key in raw})
    check_limits(kitchen)
    return Brought(match=match, gear=kitchen.gear, wraps=kitchen.wraps)


def match_of_document(raw: dict[str, Any]) -> Match:
    """A match from a document of any version, held to every limit.

    Args:
        raw: JSON values with a version.

    Raises:
        BadFile, NotFitting, pydantic.ValidationError, KeyError, TypeError, AttributeError, ValueError: it is none.
    """
    if not isinstance(raw.get("version"), int) or not 1 <= raw["version"] <= FORMAT_VERSION:
        raise BadFile(
            f"At version: {str(raw.get('version'))[:20]!r} is not one this program reads; it reads 1 to {FORMAT_VERSION}. "
            "A newer program wrote it, perhaps."
        )
    plain = {key: value for key, value in upgraded(raw).items() if key != "version"}
    match = record_of(Match, plain)
    check_match(match)
    match = with_sound_pictures(match)
    plain_match = replace(match, photos=tuple(replace(photo, data="") for photo in match.photos))
    size = len(canonical(plain_of(plain_match)))
    if size > MOST_MATCH_BYTES:
        raise BadFile(f"The match holds {size / 1e6:.1f} MB; one match holds at most {MOST_MATCH_BYTES / 1e6:g} MB.")
    return match


def read_document(raw: dict[str, Any], reader: Callable[[dict[str, Any]], Any], done: str) -> Any:
    """What a reader makes of a document; whatever is wrong with it becomes a sentence.

    Args:
        done: What was not done, as a sentence.

    Raises:
        BadFile: with the place and why.
    """
    try:
        return reader(raw)
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(step) for step in first["loc"]) or "the whole file"
        raise BadFile(f"At {place}: {first['msg']}. {done}") from None
    except (BadFile, BadImage, NotFitting) as error:
        raise BadFile(f"{error} {done}") from None
    except KeyError as error:
        raise BadFile(f"At {error.args[0]}: it is missing. {done}") from None
    except (TypeError, AttributeError, ValueError):
        raise BadFile(f"Something in it has another shape than its version says. {done}") from None


def read_json(text: str | bytes, done: str) -> dict[str, Any]:
    """An object from a file's text.

    Args:
        text: JSON in UTF-8.
        done: What was not done, as a sentence.

    Raises:
        BadFile: it is no JSON object, with the line.
    """
    if len(text) > MOST_FILE_BYTES:
        raise BadFile(f"The file is larger than {MOST_FILE_BYTES / 1e6:g} MB. {done}")
    try:
        raw = json.loads(text, parse_constant=_refused, object_pairs_hook=_each_once)
    except UnicodeDecodeError:
        raise BadFile(f"The file is not text; it should be JSON in UTF-8. {done}") from None
    except json.JSONDecodeError as error:
        raise BadFile(f"The file is not JSON: line {error.lineno} could not be read. {done}") from None
    except RecursionError:
        raise BadFile(f"The file is not JSON of ours: it is nested too deep. {done}") from None
    except ValueError as error:  # figures of thousands of digits, names that stand twice
        raise BadFile(f"The file could not be read: {str(error)[:120].rstrip('.')}. {done}") from None
    if not isinstance(raw, dict):
        raise BadFile(f"This is not a file of ours: it holds no JSON object. {done}")
    return raw


def _refused(constant: str) -> float:
    raise ValueError(f"{constant} is no figure")


def _each_once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) != len(pairs):
        seen: set[str] = set()
        twice = next(name for name, _ in pairs if name in seen or seen.add(name))  # type: ignore[func-returns-value]
        raise ValueError(f"“{twice[:40]}” stands twice in one place")
    return found


def written_match_file(match: Match, kitchen: Kitchen | None = None) -> str:
    """A match as the text of a match file, indented for people.

    Args:
        match: The whole of it.
        kitchen: Where its batches are made: what they are made and wrapped in goes along.
    """
    plain = document_of(match)
    if kitchen is not None:
        used = {key for plan in match.batches for key in (plan.gear, plan.dip_bowl, *plan.wrapped_in)}
        theirs = Kitchen(
            gear=tuple(one for one in kitchen.gear if one.id in used), wraps=tuple(one for one in kitchen.wraps if one.id in used)
        )
        plain |= {key: found for key, found in plain_of(theirs, whole=True).items() if key in _OF_THE_KITCHEN and found}
    return json.dumps(plain, indent=2, ensure_ascii=False) + "\n"


def file_name(match: Match) -> str:
    """What a match's file is called: its name in letters, digits and hyphens."""
    plain = "".join(sign if sign.isascii() and sign.isalnum() else "-" for sign in match.study.name).strip("-").lower()
    return f"{plain or 'match'}.fern-match.json"


def document_of(match: Match) -> dict[str, Any]:
    """A match as the values of a match file."""
    return {"format": FORMAT, "version": FORMAT_VERSION, **plain_of(match, whole=True)}


def match_file_schema() -> str:
    """The JSON Schema of match files, as published in docs/formats."""
    schema = adapter_of(Match).json_schema()
    head = {"format": {"const": FORMAT}, "version": {"const": FORMAT_VERSION}}
    of_kitchen = adapter_of(Kitchen).json_schema()
    tail = {key: of_kitchen["properties"][key] for key in _OF_THE_KITCHEN}
    schema["$defs"] = {**of_kitchen["$defs"], **schema["$defs"]}
    schema["properties"] = {**head, **schema["properties"], **tail}
    schema["required"] = [*head, *schema.get("required", ())]
    return json.dumps(schema, indent=2, ensure_ascii=False) + "\n"
