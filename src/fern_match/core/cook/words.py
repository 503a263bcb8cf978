"""What a cook waits for, how far it is, and what its plan says, in words."""

from fern_match.core.cook.boils import water_left_share
from fern_match.core.cook.building import shown_minutes
from fern_match.core.cook.moments import MINUTES_A_DAY, clock
from fern_match.core.cook.schedule import Schedule
from fern_match.core.cook.step import Cue, Step
from fern_match.core.measures.shown import TemperatureUnit, shown_temperature

_LONG_MIN = 240.0  # a longer wait is no window
_NO_WATER = 0.005
_NO_GAP = 0.005


def cook_words(versions: int, batches: int, cooks: int) -> str:
    """The words under Cook on the path.

    Args:
        versions: How many there are.
        batches: How many there are.
        cooks: How many there are.
    """
    if not versions:
        return "no version"
    if not batches:
        return "no batch yet"
    if cooks:
        return "1 cook" if cooks == 1 else f"{cooks} cooks"
    return "none planned"


def window_words(step: Step) -> str:
    """How long a step can wait for the next; empty where nothing presses.

    Args:
        step: Of a plan.

    >>> _of_minutes(0), _of_minutes(15), _of_minutes(None)
    ('it cannot wait', 'waits 15 min at most', '')
    """
    return _of_minutes(step.most_wait_min)


def _of_minutes(most: float | None) -> str:
    if most is None or most > _LONG_MIN:
        return ""
    return "it cannot wait" if most <= 0 else f"waits {shown_minutes(most)} at most"


def water_words(step: Step) -> str:
    """How much of what is left in the pan is water as a boil ends; empty where nothing is boiled, or none is left.

    Args:
        step: Of a plan.
    """
    if step.boil is None or step.boil.left_g <= 0:
        return ""
    share = water_left_share(step.boil)
    if share is None:
        return "its water not known"
    return f"{100 * share:.0f} % water" if share >= _NO_WATER else ""


def cue_words(cue: Cue, unit: TemperatureUnit) -> str:
    """What a cue stands for; empty where it stands for no figure.

    Args:
        cue: Of a step.
        unit: To say temperatures in.
    """
    if cue.about is None:
        return ""
    return f"about {shown_temperature(cue.about, unit) if cue.quantity == '°C' else f'{cue.about:g} {cue.quantity}'}"


def schedule_words(found: Schedule) -> str:
    """When a cook begins and ends, how much of it is work, and whether there may be a better one.

    Args:
        found: Of a plan; empty where nothing was scheduled.
    """
    if not found.lines:
        return ""
    days = found.end_min // MINUTES_A_DAY - found.start_min // MINUTES_A_DAY
    later = f", {days} day{'s' if days > 1 else ''} later" if days else ""
    hands = sum(one.hands_end_min - one.start_min for one in found.lines)
    said = f"{clock(found.start_min)} to {clock(found.end_min)}{later}; {shown_minutes(hands)} of it hands on."
    if found.gap > _NO_GAP:
        said += f" There may be one that is up to {100 * found.gap:.0f} % better."
    return said
