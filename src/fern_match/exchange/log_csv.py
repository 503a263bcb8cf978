"""The log of a cook as CSV: one row for each entry, formulas defused."""

import csv
import datetime as dates
import io
from collections.abc import Mapping, Sequence

from fern_match.core.cook import Logged

_COLUMNS = ("number", "at", "kind", "step", "title", "round", "of", "value", "unit", "text")
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
_MS = 1000


def written_log(entries: Sequence[Logged], titles: Mapping[str, str]) -> str:
    """The rows of a log, times in UTC.

    Args:
        entries: In their order.
        titles: Of steps by id.
    """
    text = io.StringIO()
    rows = csv.writer(text, lineterminator="\n")
    rows.writerow(_COLUMNS)
    for one in entries:
        entry = one.entry
        at = dates.datetime.fromtimestamp(one.at_ms / _MS, dates.UTC).isoformat(timespec="milliseconds")
        value = "" if entry.value is None else f"{entry.value:g}"
        title = titles.get(entry.step, "")
        cells = (one.number, at, entry.kind.value, entry.step, title, entry.round, entry.of, value, entry.unit, entry.text)
        rows.writerow([defused(cell) for cell in cells])
    return text.getvalue()


def defused(cell: object) -> object:
    """A text that a spreadsheet would take for a formula, with a sign before it that says it is text."""
    return f"'{cell}" if isinstance(cell, str) and cell.startswith(_FORMULA) else cell
