"""What a trial says, in words: what lies between copy and original, what a reading says of a cause, what is to be read."""

from collections.abc import Sequence

from fern_match.core.measures.shown import MassUnit, TemperatureUnit, shown_mass, shown_temperature
from fern_match.core.trials.closeness import Compared, Group
from fern_match.core.trials.cook_clues import Reached
from fern_match.core.trials.ranking import RankedCause, Ranking, Spoken
from fern_match.core.trials.tables import ClueKind, clues

_EVEN = 1.5  # a reading that is less than so many times as likely says nothing
_LIKELY, _OPEN = 0.5, 0.3
_FEW = 3


def figure_words(one: Compared, value: float) -> str:
    """A value of something compared, with its unit: “14.3 g”.

    Args:
        one: What is compared.
        value: In its unit.
    """
    return f"{value:.{_digits(one)}f}{f' {one.unit}' if one.unit else ''}"


def apart_words(one: Compared) -> str:
    """What lies between copy and original; what is lacking where one of them is not known.

    Args:
        one: What is compared.
    """
    apart = one.apart
    if apart is None:
        return f"Not known of the {one.lacks}" if one.lacks else "Not known"
    digits = _digits(one)
    if not apart.is_told:
        finds = f"{apart.finds:.{digits}f}{f' {one.unit}' if one.unit else ''}"
        return f"No difference that these readings tell; {finds} would be found"
    low, high = sorted((abs(apart.low), abs(apart.high)))
    size = f"{abs(apart.value):.{digits}f}"
    return f"{size} {_way(one, apart.value > 0)} ({low:.{digits}f} to {high:.{digits}f})"


def _way(one: Compared, more: bool) -> str:
    unit = f"{one.unit} " if one.unit else ""
    words = {
        Group.WEIGHT: ("heavier", "lighter"),
        Group.SIZE: ("more", "less"),
        Group.LABEL: ("more", "less"),
        Group.SENSES: ("more", "less"),
    }[one.group]
    return f"{unit}{words[0] if more else words[1]}"


def _digits(one: Compared) -> int:
    if one.group is Group.LABEL and one.unit in {"kcal", "kJ", "mg"}:
        return 0
    if one.group is Group.LABEL and one.original is not None and abs(one.original.value) < 1:
        return 2
    return 1


def spoken_words(said: Spoken) -> str:
    """What a reading says of a cause: “121 °C, 3 °C over plan: speaks 8 to 1 for it”.

    Args:
        said: Of one cause.
    """
    if said.times >= _EVEN:
        return f"{said.words}: speaks {_to_one(said.times)} for it"
    if said.times <= 1 / _EVEN:
        return f"{said.words}: speaks {_to_one(1 / said.times)} against it"
    return f"{said.words}: says little"


def _to_one(times: float) -> str:
    return f"{times:.1f} to 1".replace(".0 ", " ") if times < 10 else f"{times:.0f} to 1"


def chance_words(ranked: RankedCause) -> str:
    """How likely a cause is, as a cook says it.

    Args:
        ranked: Of a layer.
    """
    return f"{100 * ranked.chance:.0f} in 100" if ranked.chance >= 0.01 else "less than 1 in 100"


def ranking_words(ranking: Ranking) -> str:
    """What the ranking comes to, and what to read where no reading speaks.

    Args:
        ranking: Of one layer.
    """
    if not ranking.causes:
        return ""
    first = ranking.causes[0]
    if first.is_spoken_for and first.chance >= _LIKELY:
        return f"{first.cause.says}: {chance_words(first)}."
    take = next((clues()[one.clue] for one in ranking.to_take), None)
    asked = f" Most would be told by {take.words}." if take is not None else ""
    if not first.is_spoken_for:
        return f"No reading of this batch speaks for any cause; they stand in their usual order.{asked}"
    return f"Not settled: {first.cause.says[:1].lower()}{first.cause.says[1:]} leads with {chance_words(first)}.{asked}"


def take_words(ranking: Ranking) -> tuple[tuple[str, bool], ...]:
    """What to read, the most telling first, and whether that can still be done now.

    Args:
        ranking: Of one layer.
    """
    return tuple((clues()[one.clue].ask, clues()[one.clue].is_now) for one in ranking.to_take[:_FEW])


def planned_words(one: Reached, heat: TemperatureUnit, mass: MassUnit) -> str:
    """What the plan has of something that can be typed; empty where it has nothing.

    Args:
        one: Of a layer.
        heat: The kitchen's unit.
        mass: The kitchen's unit.
    """
    row = clues()[one.clue]
    if one.planned is None or row.kind is ClueKind.LOOK:
        return ""
    return _shown(row.typed, one.planned, heat, mass)


def logged_words(one: Reached, heat: TemperatureUnit, mass: MassUnit) -> str:
    """What the log has of it; empty where it has nothing.

    Args:
        one: Of a layer.
        heat: The kitchen's unit.
        mass: The kitchen's unit.
    """
    return "" if one.logged is None else _shown(clues()[one.clue].typed, one.logged, heat, mass)


def _shown(typed: str, value: float, heat: TemperatureUnit, mass: MassUnit) -> str:
    if typed == "heat":
        return shown_temperature(value, heat)
    if typed == "mass":
        return shown_mass(value, mass)
    if typed == "time":
        return f"{value:.0f} min"
    if typed == "density":
        return f"{value:.0f} g in 100 mL"
    return f"{value:.1f} %"


def closeness_summary(compared: Sequence[Compared]) -> str:
    """How many things differ by what was read, in a sentence.

    Args:
        compared: Of one trial.
    """
    known = [one for one in compared if one.apart is not None]
    told = [one for one in known if one.apart is not None and one.apart.is_told and abs(one.apart.value) > one.tolerance]
    if not known:
        return "Nothing has been read of both yet."
    if not told:
        return f"Of {len(known)} things read of both, none is told to be off by more than an eater would notice."
    names = ", ".join(one.title.lower() if one.group is not Group.WEIGHT else one.title for one in told[:_FEW])
    more = f" and {len(told) - _FEW} more" if len(told) > _FEW else ""
    return f"Of {len(known)} things read of both, {len(told)} are off by more than an eater would notice: {names}{more}."
