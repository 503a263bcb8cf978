"""Clues of a cook: what was reached beside its plan, from its log or typed afterwards.

Worked example: a caramel that ends at 118 °C was last read at 121 in the pan: 3 °C over. With no thermometer “a hard ball” was
seen: such a cue stands for 126 °C, give or take 6.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from fern_match.core.cook import EntryKind, Logged, Plan, Run, Step
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures import Comma, Typed, read_celsius, read_grams, read_minutes, read_percent
from fern_match.core.measures.shown import TemperatureUnit, shown_difference, shown_mass, shown_temperature
from fern_match.core.trials.ranking import Read
from fern_match.core.trials.record import Trial
from fern_match.core.trials.tables import ClueKind, ClueRow, clues

JOIN = "--"
YES, NO = "yes", "no"
_THERMOMETER, _SCALE = "thermometer", "scale"
_CHECKED_C, _UNCHECKED_C = (
    0.7,
    1.3,
)  # error of a thermometer that was held in boiling water, and of one that was not (approximate)
_MINUTES = 12.0  # error of logged minutes [%]: a step is opened late, ended late (approximate)
_PAN = 1.0  # of a weight in the pan [%]
_OTHERS = 5.0  # of what is typed as a share
_DENSITY = 3.0  # of a cup that is weighed [%]
_MS_A_MIN = 60_000.0
_BUILD = "build"
_LATE = {"end_heat", "work_heat", "melt_heat", "mix_heat"}  # of several readings the hottest counts
_OF_WHAT_COMES_ON_IT = {"fill_heat", "laid_heat"}
_PER_CM3 = "g in 100 mL"


@dataclass(frozen=True, slots=True)
class Reached:
    """One thing that was or can be read of a layer's cook."""

    clue: str
    layer_id: str  # empty of the whole cook
    planned: float | None  # in the clue's own unit: degC, g, min; None where the plan does not say
    typed: Typed
    logged: float | None  # by the log
    read: Read | None

    @property
    def key(self) -> str:
        """As the trial's record has it."""
        return f"{self.layer_id}{JOIN}{self.clue}"


@dataclass(frozen=True, slots=True)
class Kitchens:
    """Whatever the figures of a cook are read with."""

    kitchen: KitchenReading
    unit: TemperatureUnit

    @property
    def heat_error_c(self) -> float:
        """Of a thermometer here [degC]."""
        return _CHECKED_C if self.kitchen.boiling_reading.value is not None else _UNCHECKED_C


def read_typed(row: ClueRow, typed: str, comma: Comma) -> Typed:
    """What was typed of a clue, as read: heat [degC], mass [g], time [min], share [%], or yes and no as 1 and 0.

    Args:
        row: Of the clue.
        typed: What stands in the field.
        comma: What a comma means.
    """
    if row.typed == "heat":
        return read_celsius(typed, low_c=-30.0, high_c=260.0, comma=comma)
    if row.typed == "mass":
        return read_grams(typed, most_g=50_000.0, comma=comma)
    if row.typed == "time":
        return read_minutes(typed, comma=comma)
    if row.typed == "share":
        return read_percent(typed, most=100.0, comma=comma)
    if row.typed == "density":
        return read_grams(typed, most_g=400.0, comma=comma)
    said = typed.strip().lower()
    if said in {"", YES, NO}:
        return Typed(typed, {YES: 1.0, NO: 0.0}.get(said), "")
    return Typed(typed, None, "", "Write yes or no.")


def reached(
    trial: Trial,
    layer_id: str,
    near: Sequence[str],
    wanted: Iterable[str],
    plan: Plan,
    run: Run,
    here: Kitchens,
    planned_density: float | None,
    planned_loss: float | None,
) -> tuple[Reached, ...]:
    """What was reached of a layer, clue by clue: typed afterwards, else logged.

    Args:
        trial: With what was typed.
        layer_id: Of the layer; empty for what is of the whole cook.
        near: Layers that are laid on it or filled into it.
        wanted: Ids of clues.
        plan: Of the cook.
        run: What its log says.
        here: The kitchen.
        planned_density: Of the layer [g/cm3]; None where nobody knows.
        planned_loss: What of it bakes or boils off [%].
    """
    found = []
    for clue in wanted:
        row = clues()[clue]
        typed = read_typed(row, trial.reached.get(f"{layer_id}{JOIN}{clue}", ""), here.kitchen.comma)
        steps = _steps(row, layer_id, plan) or _laid(row, near, plan)
        planned = _planned(row, steps)
        if clue == "density":
            planned = 100 * planned_density if planned_density is not None else None
        elif clue == "bake_loss":
            planned = planned_loss
        elif clue == "boiling_check":
            planned = here.kitchen.boils_at_reading_c
        logged = _logged(row, steps, run)
        cue = _cue(row, steps, run) if logged is None and typed.value is None else None
        found.append(Reached(clue, layer_id, planned, typed, logged, _read(row, planned, typed.value, logged, cue, here)))
    return tuple(found)


def _steps(row: ClueRow, layer_id: str, plan: Plan) -> tuple[Step, ...]:
    """The steps at which a clue is read."""
    found = []
    for step in plan.steps:
        where, _, key = step.id.partition(JOIN)
        for token in row.steps:
            verb = token.removeprefix(f"{_BUILD}:")
            at_end = token == "end" and where == layer_id and bool(step.end_by)
            built = token != verb and where == _BUILD and key.startswith(verb) and key.endswith(layer_id)
            if at_end or built or (token == key and where == layer_id):
                found.append(step)
    return tuple({step.id: step for step in found}.values())


def _laid(row: ClueRow, near: Sequence[str], plan: Plan) -> tuple[Step, ...]:
    """The steps at which what lies beside a layer is laid or filled in, for clues that are read there."""
    if row.id not in _OF_WHAT_COMES_ON_IT:
        return ()
    return tuple(step for layer_id in near for step in _steps(row, layer_id, plan))


def _planned(row: ClueRow, steps: Sequence[Step]) -> float | None:
    """What the plan has of a clue [degC, g, min]."""
    for step in steps:
        if row.typed == "heat" and step.heat is not None:
            return step.heat.aim_c
        if row.typed == "mass":
            if step.end_weight_g is not None:
                return step.end_weight_g
            if step.boil is not None and step.boil.known and step.boil.left_g > 0:
                return step.boil.left_g
        if row.typed == "time" and step.hands_on_min + step.wait_min > 0:
            return step.takes_min
    return None


def _logged(row: ClueRow, steps: Sequence[Step], run: Run) -> float | None:
    """What the log has of it; of heats the hottest where too hot is the danger, else the last."""
    ids = {step.id for step in steps}
    if row.typed in {"heat", "mass"}:
        device = _THERMOMETER if row.typed == "heat" else _SCALE
        values = [
            one.entry.value
            for one in run.readings
            if one.entry.kind is EntryKind.READING and one.entry.step in ids and _device(one) == device and one.entry.value
        ]
        return (max(values) if row.id in _LATE else values[-1]) if values else None
    if row.typed == "time" and run.speed == 0 and not run.heat:
        took = [(run.done[key] - run.opened[key]) / _MS_A_MIN for key in run.done if key[0] in ids and key in run.opened]
        return sum(took) if took else None
    return None


def _device(one: Logged) -> str:
    return one.entry.of or _THERMOMETER


def _cue(row: ClueRow, steps: Sequence[Step], run: Run) -> tuple[float, float, str] | None:
    """What a cue stands for beside what was aimed at, its error, and its words; None where none was logged."""
    if row.typed != "heat":
        return None
    by_id = {step.id: step for step in steps}
    for one in reversed(run.readings):
        step = by_id.get(one.entry.step)
        if one.entry.kind is not EntryKind.CUE or step is None or step.heat is None:
            continue
        cue = next((known for known in step.cues if known.id == one.entry.of), None)
        if cue is None or cue.about is None or cue.error is None or cue.quantity != "°C":
            continue
        aim = step.heat.sea_level_c if step.heat.sea_level_c is not None else step.heat.aim_c
        return cue.about - aim, cue.error, cue.words
    return None


def _read(
    row: ClueRow,
    planned: float | None,
    typed: float | None,
    logged: float | None,
    cue: tuple[float, float, str] | None,
    here: Kitchens,
) -> Read | None:
    """A clue as a cause reads it: beside its plan, with its error."""
    value = typed if typed is not None else logged
    if row.kind is ClueKind.LOOK:
        return None if value is None else Read(clue=row.id, value=value, words=row.words if value else f"no {row.words}")
    if value is None:
        if cue is None:
            return None
        off, error, words = cue
        return Read(clue=row.id, value=off, error=error, words=f"{words}: {_off_heat(off, here)}")
    if row.kind is ClueKind.ABSOLUTE:
        shown = shown_temperature(value, here.unit) if row.typed == "heat" else f"{value:.0f} %"
        return Read(clue=row.id, value=value, error=1.0 if row.typed == "heat" else _OTHERS, words=f"{row.words}: {shown}")
    if planned is None:
        return None
    if row.typed == "heat":
        shown = shown_temperature(value, here.unit)
        return Read(
            clue=row.id, value=value - planned, error=here.heat_error_c, words=f"{shown}, {_off_heat(value - planned, here)}"
        )
    if row.typed == "share":
        return Read(clue=row.id, value=value - planned, error=1.0, words=f"{value:.1f} %, {planned:.1f} planned")
    off = 100 * (value / planned - 1) if planned > 0 else 0.0
    if row.typed == "mass":
        unit = here.kitchen.kitchen.mass_unit
        words = f"{shown_mass(value, unit)} in the pan, {shown_mass(planned, unit)} planned"
        return Read(clue=row.id, value=off, error=_PAN, words=words)
    if row.typed == "density":
        return Read(clue=row.id, value=off, error=_DENSITY, words=f"{value:.0f} {_PER_CM3}, {planned:.0f} planned")
    return Read(clue=row.id, value=off, error=_MINUTES, words=f"{value:.0f} min, {planned:.0f} planned")


def _off_heat(off_c: float, here: Kitchens) -> str:
    if abs(off_c) < 0.5:
        return "as planned"
    return f"{shown_difference(abs(off_c), here.unit)} {'over' if off_c > 0 else 'under'} plan"


def amounts_off(went_in: Mapping[str, tuple[float, float]], error_g: float) -> dict[str, Read]:
    """What went in of each kind beside the plan, of those that were logged.

    Args:
        went_in: By clue, grams planned and gone in.
        error_g: Of each weighing [g].
    """
    found = {}
    for clue, (planned, grams) in went_in.items():
        if planned <= 0:
            continue
        off = 100 * (grams / planned - 1)
        words = f"{clues()[clue].words}: {grams:.3g} g, {planned:.3g} planned"
        found[clue] = Read(clue=clue, value=off, error=100 * error_g / planned, words=words)
    return found
