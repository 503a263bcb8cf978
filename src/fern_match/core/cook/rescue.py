"""What saves a batch now, and the way back where a window has closed."""

from dataclasses import dataclass

from fern_match.core.cook.schools import JOIN
from fern_match.core.cook.step import Step
from fern_match.core.data import rows


@dataclass(frozen=True, slots=True, kw_only=True)
class Rescue:
    """Something that is seen, and what to do about it now."""

    seen: str
    now: str
    cannot: str  # what nothing saves; empty where it always can be


def rescues_for(step: Step) -> tuple[Rescue, ...]:
    """What can go wrong at a step and what saves it, in the table's order.

    Args:
        step: Of a plan.

    Source: data/rescues.csv.
    """
    known = set(step.rescues)
    return tuple(
        Rescue(seen=row["seen"], now=row["now"], cannot=row["cannot"])
        for row in rows("rescues.csv")
        if known & set(row["families"].split("|"))
    )


def way_back(step: Step) -> str:
    """What to do when what was made at a step has waited too long; empty where no table says it.

    Args:
        step: The one that is done.

    Source: data/ways_back.csv.
    """
    key, families = step.id.rpartition(JOIN)[2].split("-")[0], set(step.rescues)
    found = [row for row in rows("ways_back.csv") if row["step"] == key]
    own = next((row["words"] for row in found if row["families"] and families & _set(row["families"])), "")
    return own or next((row["words"] for row in found if not row["families"]), "")


def _set(text: str) -> set[str]:
    return set(text.split("|"))
