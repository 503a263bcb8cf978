"""Times of day as people write them, and minutes as a clock shows them.

Worked example: "2026-12-01 18:00" is 1080 minutes after the midnight of that day; "6 pm" the same of no day in particular.
"""

import re
from calendar import monthrange
from dataclasses import dataclass

from fern_match.core.measures import Typed

MINUTES_A_DAY = 1440
_TIME = re.compile(r"(?P<hour>\d{1,2})(?:[:.h](?P<minute>\d{2}))?\s*(?P<half>[ap]\.?m\.?)?", re.IGNORECASE)
_DATE = re.compile(r"(?P<year>\d{4})-(?P<month>\d{1,2})-(?P<day>\d{1,2})[T ]?\s*")
_WRITE = "Write a time, such as 18:00 or 6 pm, with a date before it where that matters: 2026-12-01 18:00."


@dataclass(frozen=True, slots=True)
class Moment:
    """A time of day, and the day where one was said."""

    day: str | None  # as 2026-12-01
    minute: int  # after midnight


def read_moment(typed: str) -> tuple[Typed, Moment | None]:
    """A moment as read, and what was read.

    Args:
        typed: What stands in the field.

    >>> read_moment("6 pm")[1].minute
    1080
    """
    text = typed.strip()
    if not text:
        return Typed(typed, None, "min"), None
    day, rest = None, text
    found = _DATE.match(text)
    if found is not None:
        year, month, date = (int(found.group(part)) for part in ("year", "month", "day"))
        if not (1 <= month <= 12 and year >= 1 and 1 <= date <= monthrange(year, month)[1]):
            return Typed(typed, None, "min", f"“{text}” holds a day that there is not. {_WRITE}"), None
        day = f"{year:04}-{month:02}-{date:02}"
        rest = text[found.end() :]
    minute = _minute(rest)
    if minute is None:
        return Typed(typed, None, "min", f"“{text}” was not read as a time. {_WRITE}"), None
    return Typed(typed, float(minute), "min"), Moment(day, minute)


def _minute(text: str) -> int | None:
    found = _TIME.fullmatch(text.strip())
    if found is None:
        return None
    hour, minute, half = int(found.group("hour")), int(found.group("minute") or 0), (found.group("half") or "").lower()
    if half and not 1 <= hour <= 12:
        return None
    if half:
        hour = hour % 12 + (12 if half.startswith("p") else 0)
    return hour * 60 + minute if hour < 24 and minute < 60 else None


def clock(minute: int) -> str:
    """A minute after some midnight as a clock shows it: "18:05".

    Args:
        minute: 0 or more.
    """
    of_day = minute % MINUTES_A_DAY
    return f"{of_day // 60:02}:{of_day % 60:02}"
