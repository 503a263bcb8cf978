"""How pieces keep: what was seen after some days, beside what their water says.

Worked example: a piece whose wettest layer has a water activity of 0.72 is to be kept cool for one to two weeks; it was as made
after 7 days and less good after 14: it held for 7 days here, which says nothing about what cannot be seen.
"""

from dataclasses import dataclass

from fern_match.core.formulate import KEEPING, Overview
from fern_match.core.trials.reading import TrialReading
from fern_match.core.trials.record import Kept

_CAUTION = (
    "Water activity is estimated: measure it with a meter before selling or long keeping. What is swollen, fizzy or mouldy is "
    "thrown away, not tasted."
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Keeping:
    """How a copy keeps, in words."""

    advice: tuple[str, ...]  # by its water
    seen: str  # empty where nobody looked
    caution: str


def keeping(read: TrialReading, made: Overview) -> Keeping:
    """How a copy keeps.

    Args:
        read: The trial, with how a piece was after some days.
        made: A piece as it was cooked.
    """
    advice = tuple(note.sentence for note in made.notes if note.topic == KEEPING)
    looked = sorted((days.value, one.kept) for one in read.trial.days for days in [read.days[one.id]] if days.value is not None)
    return Keeping(advice=advice, seen=_seen(looked), caution=_CAUTION)


def _seen(looked: list[tuple[float, Kept]]) -> str:
    if not looked:
        return ""
    good = [days for days, kept in looked if kept is Kept.AS_MADE]
    first_bad = next((days for days, kept in looked if kept is not Kept.AS_MADE), None)
    held = max((days for days in good if first_bad is None or days < first_bad), default=None)
    if first_bad is None:
        return f"As made after {_days(held or 0)}; not looked at later."
    how = next(kept for days, kept in looked if days == first_bad)
    before = f"As made after {_days(held)}, " if held is not None else ""
    said = f"{before}{how.value} after {_days(first_bad)}."
    return said[:1].upper() + said[1:]


def _days(days: float) -> str:
    return "1 day" if days == 1 else f"{days:.0f} days"
