"""Statements of our own with their trees, in a short notation: what the files in `statements/` hold.

`=` tree: names parted by `;` (or ` | ` between alternatives), `{}` what is in brackets, then share `=12.5`, limit `<2`,
class `/emulsifier`, source `@milk`. `+` contains, `?` may contain, `!` minima, `~` pantry (`-` is rightly unknown).
"""

import re
from dataclasses import dataclass, field
from pathlib import Path

from fern_match.core.label.statement import StatementItem

FOLDER = Path(__file__).parent / "statements"


@dataclass
class Written:
    """One statement as a careful person reads it."""

    id: str
    region: str
    text: str = ""
    tree: str = ""
    contains: list[str] = field(default_factory=list)
    may_contain: list[str] = field(default_factory=list)
    minima: list[str] = field(default_factory=list)
    pantry: dict[str, str | None] = field(default_factory=dict)


def written(name: str) -> list[Written]:
    """The statements of a file."""
    found: list[Written] = []
    for line in (FOLDER / name).read_text().splitlines():
        mark, rest = line[:2], line[2:]
        if re.fullmatch(r"\[\w+-\d+ [A-Z]+\]", line):
            found.append(Written(*line.strip("[]").split()))
        elif mark == "= ":
            found[-1].tree = rest
        elif mark in {"+ ", "? ", "! "}:
            names = [name.strip() for name in rest.split(";")]
            {"+ ": found[-1].contains, "? ": found[-1].may_contain, "! ": found[-1].minima}[mark].extend(names)
        elif mark == "~ ":
            for pair in rest.split("; "):
                name, _, food = pair.partition("=")
                found[-1].pantry[name] = None if food == "-" else food
        elif line:
            found[-1].text += ("\n" if found[-1].text else "") + line
    return found


def shown(items: tuple[StatementItem, ...]) -> str:
    """A tree as read, in the notation of the files."""
    text = ""
    for number, item in enumerate(items):
        joined = number and any(other.name in item.alternatives for other in items[number - 1 : number])
        text += ("" if not number else " | " if joined else "; ") + _one(item)
    return text


def _one(item: StatementItem) -> str:
    text = item.name
    text += f"={item.percent:g}" if item.percent is not None else ""
    text += f"<{item.at_most_percent:g}" if item.at_most_percent is not None else ""
    text += f"/{item.class_name}" if item.class_name else ""
    text += f"@{item.source}" if item.source else ""
    return text + (f"{{{shown(item.items)}}}" if item.items else "")
