"""Several readings in one field: "41.8 42.3 40.9", "1 1/2 oz; 1.6 oz".

Worked example: "8.1 8.4; 8.2" has a semicolon, so its parts are "8.1 8.4", which is no weight, and "8.2".
"""

import re
import statistics
from collections.abc import Callable
from dataclasses import dataclass

from fern_match.core.measures import Typed

MOST_READINGS = 60
_UNIT = re.compile(r"[^\W\d_]+\.?|[°%]\S*")


@dataclass(frozen=True, slots=True)
class Several:
    """A field with one or more readings: what was typed, each as read, and the problem if any."""

    typed: str
    values: tuple[float, ...]
    unit: str
    problem: str | None = None

    @property
    def mean(self) -> float | None:
        """Of all that were read; None without any."""
        return statistics.fmean(self.values) if self.values else None


def read_several(typed: str, read: Callable[[str], Typed]) -> Several:
    """All readings of a field; none where one of them was not understood.

    Args:
        typed: Readings apart by spaces or semicolons; with fractions, by semicolons.
        read: Reads one of them.
    """
    parts = _parts(typed)
    if parts is None:
        return Several(
            typed, (), read("").unit, "Fractions in a row can be read in two ways. Put semicolons between the readings."
        )
    if len(parts) > MOST_READINGS:
        return Several(typed, (), read("").unit, f"{len(parts)} readings; at most {MOST_READINGS} are read.")
    found = [read(part) for part in parts]
    for one in found:
        if one.problem:
            where = f"“{one.typed[:40]}”: " if len(found) > 1 else ""
            return Several(typed, (), one.unit, f"{where}{one.problem}")
    return Several(
        typed, tuple(one.value for one in found if one.value is not None), read("").unit if not found else found[0].unit
    )


def _parts(typed: str) -> list[str] | None:
    """The readings of a field as texts; None where they could be parted in two ways."""
    if ";" in typed or "\n" in typed:
        return [part.strip() for part in re.split(r"[;\n]", typed) if part.strip()]
    tokens = [token.strip(",") for token in typed.split() if token.strip(",")]
    if len(tokens) > 1 and any(sign in token for token in tokens for sign in "/*x×+½¼¾") and _has_figures(tokens) > 1:
        return [typed.strip()] if _has_figures(tokens) == 2 and "/" in typed else None
    joined: list[str] = []
    for token in tokens:
        if joined and _UNIT.fullmatch(token):
            joined[-1] += f" {token}"
        else:
            joined.append(token)
    return joined


def _has_figures(tokens: list[str]) -> int:
    return sum(any(sign.isdigit() for sign in token) for token in tokens)
