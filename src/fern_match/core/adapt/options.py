"""What a layer may become under rules, each with what it costs at least: the layer alone, its ingredients in any share.

Worked example: a caramel under sugar-free may become a maltitol caramel or a fibre caramel; solved alone as linear programs, the
first misses its targets by less and stands first. What the piece shares a limit of is only a guide here: each layer's part of it
by weight, at a price.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from fern_match.core.adapt.bench import Bench
from fern_match.core.adapt.limits import layer_limits, taste_limits
from fern_match.core.adapt.offer import kinds_for, offered, one_each, takes_more
from fern_match.core.adapt.swaps import System
from fern_match.core.families import Family
from fern_match.core.families.admission import is_of_chocolate
from fern_match.core.formulate import Formula, FormulaLayer, PieceLimit, Property, Room, Solved, Target, least_cost, solve
from fern_match.core.formulate.solving.pose import serves
from fern_match.core.formulate.solving.prices import price


@dataclass(frozen=True, slots=True)
class Option:
    """A layer in one family, with all that is on offer for it."""

    layer: FormulaLayer
    cost: float  # at least, with what becoming another family costs
    extra: float  # of that, what becoming another family costs
    fixed: bool = False  # whether it stays exactly as it is: no rule touches it


def options(
    formula: Formula, layer: FormulaLayer, targets: Sequence[Target], system: System | None, bench: Bench
) -> list[Option]:
    """What a layer may become, the nearest to its own targets first; nothing where no family takes what the rules leave.

    A layer in which nothing is touched stays what it is.

    Args:
        formula: The version.
        layer: Of it.
        targets: What the version is held to.
        system: Whose stand-ins are on offer.
        bench: The rules.
    """
    if untouched(layer, bench, system):
        return [Option(layer, 0.0, 0.0, fixed=True)]
    own = [one for one in targets if one.layer_id == layer.layer_id]
    found: list[Option] = []
    family_now = bench.families.by_id.get(layer.family)
    at_home = family_now is not None and is_of_chocolate(family_now) and (bench.of_sugar or not bench.short)
    at_home = at_home and not bench.buys_chocolate
    for group in kinds_for(layer, system, bench):
        made = price("made instead of bought") if found else 0.0
        for family in group:
            trial, cost = _own_first(formula, layer, family, own, system, bench)
            if cost is not None and bench.hold is not None:
                trial, cost = _by_one_each(formula, layer, trial, cost, own, system, bench)
            if cost is not None:
                extra = made + (price("another family") if family.id != layer.family else 0.0)
                found.append(Option(trial, cost + extra, extra))
        if found and not at_home:  # what is made for it: the others' windows do not hold for what is cooked without sugar
            break
    return sorted(found, key=lambda one: one.cost)


def why_stuck(formula: Formula, layer: FormulaLayer, targets: Sequence[Target], system: System | None, bench: Bench) -> str:
    """Why no family takes what the rules leave for a layer: the least that would have to give, by solving with it moved.

    Args:
        formula: The version.
        layer: Of it, one without options.
        targets: What the version is held to.
        system: Whose stand-ins are on offer.
        bench: The rules.
    """
    own = [one for one in targets if one.layer_id == layer.layer_id]
    for family in (one for group in kinds_for(layer, system, bench) for one in group):
        trial = _trial(layer, family, system, bench)
        if trial.ingredients:
            limits = layer_limits(trial, _finished(trial, own), formula.piece_g, bench)
            missing = lacking_role(trial, layer, bench)
            if missing:
                kind = f"{family.name[0].lower()}{family.name[1:]}"
                return f"{layer.name} as {kind}: nothing that the rules leave serves as {missing}."
            room = replace(_room(formula, trial, limits, bench), swift=True)
            solved = solve(_with(formula, trial), own, room, bench.reading)
            named = f"{layer.name} as {family.name[0].lower()}{family.name[1:]}"
            return "" if isinstance(solved, Solved) else f"{named}: {solved.why}"
    return f"{layer.name}: the pantry holds nothing that may stand in."


def _by_one_each(
    formula: Formula,
    layer: FormulaLayer,
    trial: FormulaLayer,
    cost: float,
    own: Sequence[Target],
    system: System | None,
    bench: Bench,
) -> tuple[FormulaLayer, float]:
    """The same with one swap for each line that gives way, where that is nearly as near: a cook takes one cream for a cream."""
    family = bench.families[trial.family]
    best: tuple[FormulaLayer, float] | None = None
    for only in one_each(layer, family, system, bench):
        other = replace(trial, ingredients=offered(layer, family, system, bench, only.swaps))
        alone = _cost(formula, other, own, bench)
        least = None if alone is None else alone + only.mixed * price("mixed instead of bought")
        if least is not None and (best is None or least < best[1]):
            best = other, least
    return best if best is not None and best[1] <= cost + price("one stand-in for one") else (trial, cost)


def _own_first(
    formula: Formula, layer: FormulaLayer, family: Family, own: Sequence[Target], system: System | None, bench: Bench
) -> tuple[FormulaLayer, float | None]:
    """A layer with each line's stand-in of the system alone, where that comes nearly as near; else with all that is on offer."""
    everything = _trial(layer, family, system, bench)
    cost = _cost(formula, everything, own, bench)
    if system is None or bench.of_sugar or cost is None:
        return everything, cost
    alone = replace(everything, ingredients=offered(layer, family, system, bench, own_first=True))
    if alone == everything:
        return everything, cost
    least = _cost(formula, alone, own, bench)
    return (alone, least) if least is not None and least <= cost + price("one stand-in for one") else (everything, cost)


def _trial(layer: FormulaLayer, family: Family, system: System | None, bench: Bench) -> FormulaLayer:
    return replace(layer, family=family.id, ingredients=offered(layer, family, system, bench), water_lost_g=0.0)


def _cost(formula: Formula, trial: FormulaLayer, own: Sequence[Target], bench: Bench) -> float | None:
    """What a layer alone costs at least; None where nothing fits."""
    if not trial.ingredients or lacking_role(trial, _own(formula, trial), bench):
        return None
    key = (
        trial.layer_id,
        trial.family,
        bench.hold,
        tuple((one.ingredient_id, one.least_g, one.locked) for one in trial.ingredients),
    )
    if key not in bench.costs:
        limits = layer_limits(trial, _finished(trial, own), formula.piece_g, bench)
        least = least_cost(_with(formula, trial), own, _room(formula, trial, limits, bench), bench.reading)
        bench.costs[key] = least.cost if least is not None else None
    return bench.costs[key]


def _room(formula: Formula, trial: FormulaLayer, limits: Sequence[PieceLimit], bench: Bench) -> Room:
    return Room(
        free=[trial.layer_id],
        choose=True,
        keep=False,
        limits=[*limits, *taste_limits(_own(formula, trial), trial.finished_g or _own(formula, trial).finished_g, bench)],
        before={trial.layer_id: _own(formula, trial)},
        allergens=bench.allergens,
        hold=bench.hold,
        should_stop=bench.should_stop,
    )


def _own(formula: Formula, trial: FormulaLayer) -> FormulaLayer:
    """A layer as it is in the version."""
    return next(one for one in formula.layers if one.layer_id == trial.layer_id)


def lacking_role(trial: FormulaLayer, own: FormulaLayer, bench: Bench) -> str:
    """What a layer's kind cannot be without and nothing on offer serves as, in words; empty where there is nothing such.

    What the version itself does without, its own composition proves needless.

    Args:
        trial: With all that is on offer.
        own: The layer as it is.
        bench: The rules.
    """
    family = bench.families.by_id.get(trial.family)
    if family is None:
        return ""
    served = {serves(line, family, bench.families) for line in trial.ingredients}
    there = {serves(line, family, bench.families) for line in own.ingredients} if own.family == trial.family else None
    for role in family.roles:
        needed = not role.optional and role.least > 0 and (there is None or role.name in there)
        if needed and role.name not in served:
            return role.name.replace("-", " ")
    return ""


def _with(formula: Formula, trial: FormulaLayer) -> Formula:
    return replace(formula, layers=tuple(trial if one.layer_id == trial.layer_id else one for one in formula.layers))


def _finished(layer: FormulaLayer, own: Sequence[Target]) -> float:
    return next((one.wanted for one in own if one.what is Property.MASS and one.counts), layer.finished_g)


def untouched(layer: FormulaLayer, bench: Bench, system: System | None) -> bool:
    """Whether a layer may stay: nothing forbidden in it, nothing that a limit is about, nothing lacking or required."""
    if (bench.short and takes_more(layer, bench)) or any(where == layer.layer_id for where, _ in bench.required):
        return False
    for line in layer.ingredients:
        food = bench.pantry.by_id.get(line.ingredient_id)
        if food is None:  # nobody knows: it stays, and the question with it
            continue
        if not bench.allowed(food, system):
            return False
        if any(
            rule.measured(food) * line.grams > 0.01 * layer.finished_g for rule in bench.rules if rule.measure and not rule.least
        ):
            return False
    return True
