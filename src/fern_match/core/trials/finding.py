"""What a trial says of each layer: the clues that were read, what can be wrong with it, and the causes of what is.

Worked example: a date caramel came out sticky; its log has no boil, its water lies 3 points above its kind's usual: that clue
and the answers to what was asked are all there is, and the ranking says which reading would tell more.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fern_match.core.batch import BatchLayer, BatchReading
from fern_match.core.cook import Plan, Run, Step
from fern_match.core.families import Families
from fern_match.core.formulate import FormulaLayer, Overview, Property
from fern_match.core.kitchen import KitchenReading
from fern_match.core.physics.density import mixture_density_g_cm3
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Place
from fern_match.core.trials.changes import Faulty
from fern_match.core.trials.closeness import Compared
from fern_match.core.trials.cook_clues import JOIN, Kitchens, Reached, amounts_off, reached
from fern_match.core.trials.ranking import Read, ranked
from fern_match.core.trials.reading import TrialReading
from fern_match.core.trials.recipe_clues import inside_clues, recipe_clues
from fern_match.core.trials.record import WHOLE
from fern_match.core.trials.tables import FaultRow, causes, clues, faults

_WHOLE_COOK = ("room", "humidity", "boiling_check", "store_heat")
_ALWAYS = ("end_heat", "pan_weight", "boil_minutes", "bake_minutes", "work_heat")  # shown wherever the plan has such a step
_AMOUNTS: Mapping[str, tuple[str, ...]] = {
    "fat_in": ("fat", "nut-solids", "seed-solids"),
    "sweet_in": ("sweet-bulk",),
    "gel_in": ("gelling",),
    "leaven_in": ("leavening",),
    "salt_in": ("salt",),
    "water_in": ("water", "dairy-liquid", "plant-liquid", "fruit-solids"),
}
# groups of families that the table of faults names


@dataclass(frozen=True, slots=True, kw_only=True)
class LayerTrial:
    """A layer of the copy: what can be wrong with it, what was read, and what is wrong."""

    layer_id: str  # empty of the whole piece
    name: str
    can_be: tuple[FaultRow, ...]
    wrong: tuple[FaultRow, ...]
    reached: tuple[Reached, ...]  # what can be typed or was logged
    read: Mapping[str, Read]
    faulty: Faulty | None  # None where nothing is wrong


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialOf:
    """All that a trial rests on."""

    read: TrialReading
    batch: BatchReading
    plan: Plan
    run: Run
    made: Overview  # a piece as it was cooked
    reading: StudyReading
    kitchen: KitchenReading


def layers_tried(of: TrialOf, compared: Sequence[Compared]) -> tuple[LayerTrial, ...]:
    """What the trial says of each layer, and of the piece as a whole.

    Args:
        of: The trial with its batch and cook.
        compared: With the original.
    """
    formula = of.made.formula
    wrong: dict[str, list[FaultRow]] = {}
    for seen in of.read.trial.faults:
        if seen.fault in faults():
            wrong.setdefault(seen.layer, []).append(faults()[seen.fault])
    found = [_layer(layer, wrong.get(layer.layer_id, []), of, compared) for layer in formula.layers]
    return (*found, _piece(wrong.get(WHOLE, []), of, compared))


def faults_of(family_id: str, families: Families) -> tuple[FaultRow, ...]:
    """What can be wrong with a layer of a family.

    Args:
        family_id: Of the layer.
        families: For what it is a variant of.
    """
    family = families.by_id.get(family_id)
    known = {family_id}
    if family is not None:
        known.add(families.root_of(family_id))
        known |= {family.variant_of} if family.variant_of is not None else set()
        if family.place == "coat":
            known.add("coat")
        if family.traits.boiled:
            known.add("boiled")
        if "sugar-free" in family.diet or "keto" in family.diet:
            known.add("polyol")
        known |= family.sorts
    return tuple(
        row for row in faults().values() if (known | {"any"}) & set(row.families) and f"!{family_id}" not in row.families
    )


def _layer(layer: FormulaLayer, wrong: Sequence[FaultRow], of: TrialOf, compared: Sequence[Compared]) -> LayerTrial:
    made = next((one for one in of.batch.batch.layers if one.layer_id == layer.layer_id), None) if of.batch.batch else None
    can_be = faults_of(layer.family, of.reading.families)
    asked = dict.fromkeys(sign.clue for fault in wrong for cause in causes()[fault.id] for sign in cause.signs)
    wanted = [*(clue for clue in _ALWAYS if clue not in asked), *(clue for clue in asked if clues()[clue].typed)]
    here = Kitchens(of.kitchen, of.kitchen.kitchen.temperature_unit)
    every = reached(
        of.read.trial,
        layer.layer_id,
        _near(layer, of),
        [clue for clue in wanted if clue not in _WHOLE_COOK],
        of.plan,
        of.run,
        here,
        _density(layer, of.reading),
        100 * layer.water_lost_g / layer.added_g if layer.added_g > 0 else None,
    )
    shown = tuple(one for one in every if one.clue in asked or one.planned is not None)
    whole = _of_the_cook(of, here)
    read: dict[str, Read] = {one.clue: one.read for one in (*whole, *every) if one.read is not None}
    if wrong:  # else nobody asks what its composition says
        read |= recipe_clues(of.made, layer, _beside(layer, of), of.reading)
    if wrong and of.batch.is_coat(layer):
        read |= inside_clues(of.made, [one for one in of.made.formula.layers if not of.batch.is_coat(one)], of.reading)
    read |= _of_the_copy(layer, made, of, compared)
    name = next((one.name for one in of.made.formula.layers if one.layer_id == layer.layer_id), layer.name)
    faulty = _faulty(layer.layer_id, name, wrong, read, of, compared)
    return LayerTrial(
        layer_id=layer.layer_id, name=name, can_be=can_be, wrong=tuple(wrong), reached=shown, read=read, faulty=faulty
    )


def _piece(wrong: Sequence[FaultRow], of: TrialOf, compared: Sequence[Compared]) -> LayerTrial:
    here = Kitchens(of.kitchen, of.kitchen.kitchen.temperature_unit)
    whole = _of_the_cook(of, here)
    read: dict[str, Read] = {one.clue: one.read for one in whole if one.read is not None}
    sweet = _sweetness(None, of)
    if sweet is not None:
        read["sweetness"] = sweet
    can_be = tuple(row for row in faults().values() if row.families == ("any",))
    return LayerTrial(
        layer_id=WHOLE,
        name="The piece",
        can_be=can_be,
        wrong=tuple(wrong),
        reached=whole,
        read=read,
        faulty=_faulty(WHOLE, "The piece", wrong, read, of, compared),
    )


def _of_the_cook(of: TrialOf, here: Kitchens) -> tuple[Reached, ...]:
    """Room, damp and thermometer: typed with the trial, else said of the batch's day."""
    found = reached(of.read.trial, WHOLE, (), _WHOLE_COOK, of.plan, of.run, here, None, None)
    out = []
    for one in found:
        said = of.batch.cells[one.clue].value if one.clue in of.batch.cells else None
        row = clues()[one.clue]
        if one.read is None and said is not None:
            words = f"{row.words}: {said:.0f} {row.unit}"
            read = Read(clue=one.clue, value=said, error=1.0 if row.unit == "°C" else 5.0, words=words)
            out.append(Reached(one.clue, one.layer_id, one.planned, one.typed, said, read))
        else:
            out.append(one)
    return tuple(out)


def _of_the_copy(layer: FormulaLayer, made: BatchLayer | None, of: TrialOf, compared: Sequence[Compared]) -> dict[str, Read]:
    """What was weighed and measured of the copy, what went in, and how sweet it is beside the original."""
    found: dict[str, Read] = {}
    weighed = next((one.copy for one in compared if one.id == f"weight {layer.layer_id}"), None)
    planned = next((one.finished_g for one in of.batch.seen.formula.layers if one.layer_id == layer.layer_id), 0.0)
    if weighed is not None and planned > 0:
        words = f"{weighed.value:.1f} g in the copy, {planned:.1f} planned"
        found["layer_weight"] = Read(
            clue="layer_weight", value=100 * (weighed.value / planned - 1), error=100 * weighed.error / planned, words=words
        )
    thick = of.read.millimetres(layer.layer_id)
    if thick:
        mean = sum(thick) / len(thick)
        clue = "thickness" if of.batch.is_coat(layer) else "slab"  # a coat's usual thickness is no slab's
        found[clue] = Read(clue=clue, value=mean, error=0.2, words=f"{mean:.1f} mm thick")
    sweet = _sweetness(layer, of)
    if sweet is not None:
        found["sweetness"] = sweet
    if made is not None:
        found |= amounts_off(_went_in(made, of), of.kitchen.scale_step_g)
    return found


def _went_in(made: BatchLayer, of: TrialOf) -> dict[str, tuple[float, float]]:
    """Planned and gone in by kind, of those of which a line was logged or typed [g]."""
    by_line = dict(of.read.went_in)
    logged: dict[str, float] = {}
    for step in of.plan.steps:
        for use in step.uses:
            went_in = of.run.amounts.get((step.id, use.line_id))
            if went_in is not None and step.id.partition(JOIN)[0] == made.layer_id and use.grams > 0:
                logged[use.line_id] = logged.get(use.line_id, 1.0) + use.share * (went_in / use.grams - 1)
    found = {}
    for clue, roles in _AMOUNTS.items():
        lines = [one for one in made.ingredients if one.role in roles and one.weigh_out_g > 0]
        typed = {
            one.line_id: by_line[(made.layer_id, one.line_id)].value for one in lines if (made.layer_id, one.line_id) in by_line
        }
        if not any(one.line_id in logged or typed.get(one.line_id) is not None for one in lines):
            continue
        planned = sum(one.weigh_out_g for one in lines)
        total = 0.0
        for one in lines:
            own = typed.get(one.line_id)
            total += own if own is not None else one.weigh_out_g * logged.get(one.line_id, 1.0)
        found[clue] = (planned, total)
    return found


def _sweetness(layer: FormulaLayer | None, of: TrialOf) -> Read | None:
    """How sweet the copy is beside what the version is held to, which is the original where it came from there [%]."""
    layer_id = layer.layer_id if layer is not None else None
    target = next((one for one in of.made.targets if one.what is Property.SWEETNESS and one.layer_id == layer_id), None)
    if target is None or not target.counts or target.unknown or target.wanted <= 0:
        return None
    off = 100 * (target.got / target.wanted - 1)
    words = f"as sweet as {target.got:.1f} g of sugar, {target.wanted:.1f} wanted"
    return Read(clue="sweetness", value=off, error=3.0, words=words)


def _density(layer: FormulaLayer, reading: StudyReading) -> float | None:
    family = reading.families.by_id.get(layer.family)
    grams = {one.ingredient_id: one.grams for one in layer.ingredients}
    if family is None or layer.finished_g <= 0 or any(key not in reading.pantry for key in grams):
        return None
    total: dict[str, float] = {}
    for one in layer.ingredients:
        total[one.ingredient_id] = total.get(one.ingredient_id, 0.0) + one.grams
    return mixture_density_g_cm3(total, layer.water_lost_g, family.porosity_typical, reading.pantry)


def _near(layer: FormulaLayer, of: TrialOf) -> tuple[str, ...]:
    """Layers whose laying or filling a layer feels: of a coat all that go in, of another the one that comes on it."""
    others = [one for one in of.made.formula.layers if one.layer_id != layer.layer_id]
    if of.batch.is_coat(layer):
        return tuple(one.layer_id for one in others if not of.batch.is_coat(one))
    return tuple(one.layer_id for one in _beside(layer, of)[-1:])


def _beside(layer: FormulaLayer, of: TrialOf) -> tuple[FormulaLayer, ...]:
    """The layers that lie on a layer or under it; coats touch whatever is outside, and change nothing there."""
    places = {one.id: one.place for one in of.reading.study.layers}
    stack = [one for one in of.made.formula.layers if places.get(one.layer_id, Place.STACK) is not Place.COAT]
    if layer not in stack:
        return ()
    at = stack.index(layer)
    return tuple(stack[n] for n in (at - 1, at + 1) if 0 <= n < len(stack))


def _faulty(
    layer_id: str,
    name: str,
    wrong: Sequence[FaultRow],
    read: Mapping[str, Read],
    of: TrialOf,
    compared: Sequence[Compared],
) -> Faulty | None:
    if not wrong:
        return None
    weight = next((one for one in compared if one.id == f"weight {layer_id}"), None)
    return Faulty(
        layer_id=layer_id,
        name=name,
        ranking=ranked([one.id for one in wrong], read),
        step=_end_of(layer_id, of.plan),
        original_g=weight.original.value if weight is not None and weight.original is not None else None,
        off_g=_off_g(layer_id, weight, of),
        off_c=read["end_heat"].value if "end_heat" in read else None,
    )


def _off_g(layer_id: str, weight: Compared | None, of: TrialOf) -> float | None:
    planned = next((one.finished_g for one in of.batch.seen.formula.layers if one.layer_id == layer_id), None)
    return weight.copy.value - planned if weight is not None and weight.copy is not None and planned is not None else None


def _end_of(layer_id: str, plan: Plan) -> Step | None:
    return next((one for one in plan.steps if one.layer_id == layer_id and one.boil is not None and one.end_by), None)
