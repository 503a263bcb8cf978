"""When a cook is to begin or to be ready, who is there and from when to when: the cells of a plan as read."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from fern_match.core.cook.moments import MINUTES_A_DAY, read_moment
from fern_match.core.cook.record import CookPlan
from fern_match.core.cook.schedule import USUAL_DAY, Hands
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures import Typed, read_count

_MOST_COOKS = 12
_USUAL_BEGIN_MIN = 9 * 60
DAYS_BEFORE = 7  # that a plan which is to be ready by a time may reach back


@dataclass(frozen=True, slots=True, kw_only=True)
class When:
    """When, and with whom."""

    cells: Mapping[str, Typed]
    hands: Hands
    begins_min: int | None  # None where it goes back from when it is to be ready
    ready_min: int | None
    day: str | None  # that it begins on, or is to be ready on; None where nobody said


def when_of(cook: CookPlan, kitchen: KitchenReading) -> When:
    """When a cook is, as far as it was said: from nine in the morning on where it was not.

    Args:
        cook: As typed.
        kitchen: With its cooks, burners, ovens and fridges.
    """
    begins, begin = read_moment(cook.begins)
    ready, end = read_moment(cook.ready_by)
    day_from, first = read_moment(cook.day_from)
    day_to, last = read_moment(cook.day_to)
    cooks = read_count(cook.cooks, most=_MOST_COOKS, what="number of cooks", comma=kitchen.comma)
    day = (first.minute if first else USUAL_DAY[0], last.minute if last else USUAL_DAY[1])
    if day[1] - day[0] < 60:
        day_to = replace(day_to, value=None, problem="The day ends an hour or more after it begins.")
        day = USUAL_DAY
    hands = Hands(
        cooks=int(cooks.value) if cooks.value is not None else kitchen.has("cooks"),
        burners=kitchen.has("burners"),
        ovens=kitchen.has("ovens"),
        fridges=kitchen.has("fridges"),
        day=day,
    )
    cells = {"begins": begins, "ready_by": ready, "day_from": day_from, "day_to": day_to, "cooks": cooks}
    if end is not None:
        return When(cells=cells, hands=hands, begins_min=None, ready_min=DAYS_BEFORE * MINUTES_A_DAY + end.minute, day=end.day)
    minute = begin.minute if begin is not None else max(_USUAL_BEGIN_MIN, day[0])
    return When(cells=cells, hands=hands, begins_min=minute, ready_min=None, day=begin.day if begin is not None else None)
