"""The tables of trials as typed values: faults, their causes, and the clues that speak for them."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache

from fern_match.core.data import rows

YES = "yes"


class ClueKind(StrEnum):
    """What kind of reading a clue is."""

    SLIP = "slip"  # of the cook, beside its plan
    CHECK = "check"  # of a thermometer
    ABSOLUTE = "absolute"  # as it was, whatever the plan
    WEIGHED = "weighed"  # of the copy, beside what is planned
    AMOUNT = "amount"  # that went in, beside the plan
    RECIPE = "recipe"  # of the version, worked out
    COMPARED = "compared"  # of copy and original
    LOOK = "look"  # yes or no


@dataclass(frozen=True, slots=True, kw_only=True)
class ClueRow:
    """Something that can be read of a batch, and what is usual of it where nothing is wrong."""

    id: str
    kind: ClueKind
    unit: str
    usual: float  # of a look: how often it is so all the same
    scatter: float
    steps: tuple[str, ...]  # at which it is read: keys of steps, `build:` and a verb, or `end` for the end of a boil
    typed: str  # heat, mass, time, share, density, yes or no; empty of what is not typed
    words: str
    ask: str  # how it is taken; empty of what is worked out

    @property
    def is_now(self) -> bool:
        """Whether it can still be taken when the cook is over."""
        return self.kind in {ClueKind.LOOK, ClueKind.CHECK, ClueKind.WEIGHED} or self.id in _STILL


@dataclass(frozen=True, slots=True)
class Sign:
    """How a clue reads where a cause is at work."""

    clue: str
    mean: float
    spread: float
    is_look: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class CauseRow:
    """One cause of a fault."""

    fault: str
    id: str
    odds: float  # beside the fault's other causes, before anything is read
    says: str
    signs: tuple[Sign, ...]
    slip: str  # the clue that shows it was a slip from the plan; empty where it never is one
    change: tuple[str, float] | None  # of what, and by how much
    do: str
    effect: str


@dataclass(frozen=True, slots=True, kw_only=True)
class FaultRow:
    """Something that may be wrong with a layer."""

    id: str
    families: tuple[str, ...]  # and groups of them; with an exclamation mark those that it is not of
    seen: str
    senses: tuple[str, ...]


_STILL = frozenset({"thickness", "slab", "store_heat", "room", "humidity"})


@cache
def clues() -> Mapping[str, ClueRow]:
    """All clues by their id.

    Source: data/clues.csv (approximate).
    """
    return {
        row["clue"]: ClueRow(
            id=row["clue"],
            kind=ClueKind(row["kind"]),
            unit=row["unit"],
            usual=float(row["usual"]),
            scatter=float(row["scatter"] or 0),
            steps=tuple(one for one in row["steps"].split("|") if one),
            typed=row["typed"],
            words=row["words"],
            ask=row["ask"],
        )
        for row in rows("clues.csv")
    }


@cache
def causes() -> Mapping[str, tuple[CauseRow, ...]]:
    """The causes of each fault, in the table's order.

    Source: data/causes.csv (approximate).
    """
    found: dict[str, list[CauseRow]] = {}
    for row in rows("causes.csv"):
        found.setdefault(row["fault"], []).append(
            CauseRow(
                fault=row["fault"],
                id=row["cause"],
                odds=float(row["odds"]),
                says=row["says"],
                signs=tuple(map(_sign, row["clues"].split("|"))),
                slip=row["slip"],
                change=_change(row["change"]),
                do=row["do"],
                effect=row["effect"],
            )
        )
    return {key: tuple(several) for key, several in found.items()}


@cache
def faults() -> Mapping[str, FaultRow]:
    """All faults by their id, in the table's order.

    Source: data/faults.csv.
    """
    return {
        row["fault"]: FaultRow(
            id=row["fault"],
            families=tuple(row["families"].split("|")),
            seen=row["seen"],
            senses=tuple(one for one in row["senses"].split("|") if one),
        )
        for row in rows("faults.csv")
    }


def _sign(text: str) -> Sign:
    clue, value, *spread = text.split()
    if value == YES:
        return Sign(clue, 1.0, 0.0, is_look=True)
    return Sign(clue, float(value), float(spread[0]))


def _change(text: str) -> tuple[str, float] | None:
    if not text:
        return None
    what, *by = text.split()
    return what, float(by[0]) if by else 0.0
