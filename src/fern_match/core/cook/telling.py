"""What a log and a device say, in words: entries, warnings before the end, alarms past it.

Worked example: a caramel that ends at 118 °C, reads 114 and rises 2 °C a minute: “2 min to 118 °C”. At 122, with 121 as its
highest: past it.
"""

from collections.abc import Mapping

from fern_match.core.cook.boils import heat_at_g, mass_at_c
from fern_match.core.cook.building import shown_minutes
from fern_match.core.cook.cues import cue_by_id
from fern_match.core.cook.pan import Pan
from fern_match.core.cook.record import Entry, EntryKind
from fern_match.core.cook.step import Step
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures import Typed, read_celsius, read_grams, read_ingredient, read_minutes
from fern_match.core.measures.shown import shown_mass, shown_temperature
from fern_match.core.study.reading import StudyReading

HOLD_A_FIGURE = frozenset({EntryKind.AMOUNT, EntryKind.READING, EntryKind.TIMER})
_NEAR_MIN = 2.0  # before the end a cook is warned
_NEAR_C = 2.5
_HEAT, _WEIGHT = "thermometer", "scale"
_BOILS_FROM_C, _BOILS_TO_C = 101.0, 158.0  # between which a boil's heat says its water
_OVER = 0.985  # of the end weight: below it, too much has boiled off


def read_entry(entry: Entry, step: Step | None, reading: StudyReading, kitchen: KitchenReading) -> Typed | None:
    """What was typed in an entry that holds a figure, as read: degC, g or minutes; None of an entry that holds none.

    Args:
        entry: With its text as typed, where it has no value yet.
        step: Of the plan, for what its lines are.
        reading: For compositions.
        kitchen: For spoons, and what a comma means.
    """
    if entry.value is not None:
        return None
    if entry.kind is EntryKind.READING:
        if entry.of == _WEIGHT:
            return read_grams(entry.text, most_g=50_000.0, comma=kitchen.comma)
        return read_celsius(entry.text, low_c=-30.0, high_c=260.0, comma=kitchen.comma)
    if entry.kind is EntryKind.TIMER:
        return read_minutes(entry.text, comma=kitchen.comma)
    if entry.kind is EntryKind.AMOUNT and step is not None:
        use = next((one for one in step.uses if one.line_id == entry.of), None)
        food = reading.pantry.by_id.get(use.ingredient_id) if use is not None else None
        if food is None:
            return read_grams(entry.text, most_g=50_000.0, comma=kitchen.comma)
        return read_ingredient(entry.text, food, measures=kitchen.kitchen.measures, comma=kitchen.comma, zero=True)
    return None


def entry_words(entry: Entry, steps: Mapping[str, Step], kitchen: KitchenReading) -> str:
    """An entry in a sentence's shape.

    Args:
        entry: Of a log.
        steps: Of the plan, by id.
        kitchen: For its units.
    """
    step = steps.get(entry.step)
    title = step.title if step is not None else entry.step
    round_words = f", round {entry.round}" if entry.round > 1 else ""
    match entry.kind:
        case EntryKind.READING:
            return f"{_figure(entry, kitchen)} at “{title}”{_other_way(entry, step, kitchen)}"
        case EntryKind.CUE:
            cue = cue_by_id(entry.of, step.cues) if step is not None else None
            return f"Seen: {cue.words if cue is not None else entry.text}"
        case EntryKind.AMOUNT:
            name = next((use.name for use in step.uses if use.line_id == entry.of), "") if step is not None else ""
            grams = shown_mass(entry.value or 0.0, kitchen.kitchen.mass_unit)
            return f"{name or 'A line'}: {grams} went in"
        case EntryKind.TIMER:
            return f"Timer of {shown_minutes(entry.value or 0.0)}: {entry.text or title}"
        case EntryKind.NOTE | EntryKind.RESCUE:
            return entry.text
        case EntryKind.PRACTICE:
            return f"Practice, {entry.value:g} times as fast" if entry.value else "No practice"
        case _:
            return f"{_SAID[entry.kind]}{f': {title}{round_words}' if entry.step else ''}"


_SAID = {
    EntryKind.BEGUN: "Begun",
    EntryKind.ENDED: "Ended",
    EntryKind.OPENED: "Begun",
    EntryKind.DONE: "Done",
    EntryKind.UNDONE: "Not done after all",
    EntryKind.TIMER_OFF: "Timer off",
    EntryKind.HEAT_ON: "Heat on",
    EntryKind.HEAT_OFF: "Heat off",
}


def _other_way(entry: Entry, step: Step | None, kitchen: KitchenReading) -> str:
    """What a heat means for the weight in the pan and its water, and a weight for the heat; empty where nothing is boiled."""
    if step is None or step.boil is None or step.heat is None or step.heat.sea_level_c is None or not entry.value:
        return ""
    boil, here = step.boil, step.heat.aim_c - step.heat.sea_level_c
    dry = sum(boil.dissolved.values()) + boil.others_g
    if entry.of == _WEIGHT:
        boils, water = heat_at_g(boil, entry.value), entry.value - dry
        if boils is None or water >= boil.water_g:
            return ""
        heat = shown_temperature(boils + here, kitchen.kitchen.temperature_unit)
        return f": about {heat}, {100 * water / entry.value:.0f} % water"
    sea_c = entry.value - here
    left = mass_at_c(boil, sea_c) if _BOILS_FROM_C < sea_c < _BOILS_TO_C else None
    if left is None:
        return ""
    return f": about {shown_mass(left, kitchen.kitchen.mass_unit)} in the pan, {100 * (left - dry) / left:.0f} % water"


def _figure(entry: Entry, kitchen: KitchenReading) -> str:
    value = entry.value or 0.0
    if entry.of == _WEIGHT:
        return shown_mass(value, kitchen.kitchen.mass_unit)
    return shown_temperature(value, kitchen.kitchen.temperature_unit)


def warning_of(
    step: Step, temp_c: float, mass_g: float, rising_c_min: float | None, pan: Pan, kitchen: KitchenReading
) -> tuple[str, str]:
    """What a device's readings foretell, and how pressing it is: near, past, or nothing.

    Args:
        step: That is boiled.
        temp_c: Read now [degC].
        mass_g: In the pan now [g].
        rising_c_min: How fast it warms [degC/min]; None where nobody knows.
        pan: In which it is, for how long weight and heat still take.
        kitchen: For its units.
    """
    if step.end_by == "weight" and step.end_weight_g is not None:
        end = shown_mass(step.end_weight_g, kitchen.kitchen.mass_unit)
        if mass_g < step.end_weight_g * _OVER:
            return f"Past {end}: off the heat. What is too much boiled off goes back in as hot water.", "past"
        rate = pan.net_kw * 1000 / 2257.0 * 60  # g of steam a minute once it boils
        left = (mass_g - step.end_weight_g) / rate
        return (f"{shown_minutes(max(0.1, left))} to {end}", "near" if left <= _NEAR_MIN else "")
    if step.heat is None:
        return "", ""
    aim = shown_temperature(step.heat.aim_c, kitchen.kitchen.temperature_unit)
    if temp_c > step.heat.high_c:
        return f"Past {aim}: off the heat, and see what saves it.", "past"
    if temp_c >= step.heat.aim_c:
        return f"{aim} is reached: off the heat.", "past"
    left_c = step.heat.aim_c - temp_c
    if rising_c_min is None or rising_c_min <= 0:
        return f"{left_c:.0f} degrees to {aim}", "near" if left_c <= _NEAR_C else ""
    left = left_c / rising_c_min
    return f"{shown_minutes(max(0.1, left))} to {aim}", "near" if left <= _NEAR_MIN or left_c <= _NEAR_C else ""
