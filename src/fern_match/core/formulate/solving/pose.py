"""A piece as a program: each free layer's amounts and water driven off, its hard limits, and what missing a target costs."""

from collections.abc import Sequence
from functools import cache
from itertools import pairwise

from fern_match.core.data import rows
from fern_match.core.families import Families, Family, Role, strength
from fern_match.core.families.admission import is_of_chocolate, role_of
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.formulate.record.formula import Formula, FormulaIngredient, FormulaLayer
from fern_match.core.formulate.record.version import Property
from fern_match.core.formulate.solving.needs import (
    pose_coat,
    pose_dough,
    pose_grain,
    pose_largest_shares,
    pose_polyols,
    pose_swelling,
    pose_twins,
    swells,
)
from fern_match.core.formulate.solving.posed import Choice, PieceLimit, Placed, Posed, Room
from fern_match.core.formulate.solving.prices import price
from fern_match.core.formulate.solving.program import Limit, LimitKind, Program
from fern_match.core.formulate.solving.targets import Target, weigher, with_got
from fern_match.core.study.reading import StudyReading

_INF = float("inf")
_STEP = 0.02  # of what goes into the bowl: how far a window is moved to see what it costs
_WATER, _WATER_STEP = "water", 0.01
_TOKEN = 0.05  # of what there is of a line: less is neither kept nor dropped
_HARDLY = 0.5  # of the least that makes sense of a new line: what the program wants less of is left out, where it can be
_SENSIBLE = 0.01  # least share of a layer at which a newly chosen ingredient makes sense
_BESIDE_WHOLE = 0.4  # of a layer that one role makes up, the least of a second thing in it: half a layer of coconut, or none
_KEPT, _KEPT_SMALL = 0.25, 0.7  # of its usual amount that a line keeps: what gives taste by a little is not to vanish
SMALL_ROLES = frozenset(
    {"flavour", "emulsifier", "salt", "acid", "colour", "leavening", "intense-sweetener", "gelling", "aerator"}
)
TASTED_ROLES = frozenset({"flavour", "nut-solids", "seed-solids", "fruit-solids", "coconut-solids"})  # what it tastes of
_SMALLEST = 0.0004
_SOME = 0.5  # of what it is in the version, that a line which stays has at least
_TASTED = 0.02  # g of sugar equivalents in a g of a layer, from which an intense sweetener makes sense


def pose(formula: Formula, targets: Sequence[Target], room: Room, reading: StudyReading) -> Posed:
    """The program whose cheapest values are the amounts; for whoever adds limits of its own.

    Args:
        formula: The version as it is.
        targets: What it is held to.
        room: What is free.
        reading: The study, with compositions and windows.
    """
    pantry, families = reading.pantry, reading.families
    program = Program(should_stop=room.should_stop)
    free = [layer for layer in formula.layers if layer.layer_id in room.free and layer.ingredients]
    layers = [_pose_layer(program, layer, targets, room, pantry, families) for layer in free]
    posed = Posed(program, layers, {})
    pose_twins(program, layers, room)
    given = [layer for layer in formula.layers if layer not in free]
    for target in (one for one in targets if one.counts):
        _pose_target(posed, target, given, reading)
    for limit in room.limits:
        _pose_limit(posed, limit, given, pantry)
    return posed


def _pose_limit(posed: Posed, limit: PieceLimit, given: Sequence[FormulaLayer], pantry: Pantry) -> None:
    """At most so much of something, what is given counted."""
    terms: dict[int, float] = {}
    for placed in posed.layers:
        if limit.layer_id in {None, placed.layer.layer_id}:
            for variable, line in zip(placed.amounts, placed.layer.ingredients, strict=True):
                if line.ingredient_id in pantry:
                    terms[variable] = limit.weigh(pantry[line.ingredient_id])
    rest = sum(
        line.grams * limit.weigh(pantry[line.ingredient_id])
        for layer in given
        if limit.layer_id in {None, layer.layer_id}
        for line in layer.ingredients
        if line.ingredient_id in pantry
    )
    terms = {variable: value for variable, value in terms.items() if value}
    if limit.price is not None:
        posed.over[limit.id] = posed.program.variable(cost=limit.price)
        terms[posed.over[limit.id]] = -1.0
    if terms:
        posed.program.limit(Limit(limit.id, terms, -_INF, limit.most - rest, limit.words, limit.step, limit.moved))


def _pose_layer(
    program: Program, layer: FormulaLayer, targets: Sequence[Target], room: Room, pantry: Pantry, families: Families
) -> Placed:
    family = families.by_id.get(layer.family)
    masses = (one for one in targets if one.layer_id == layer.layer_id and one.what is Property.MASS and one.counts)
    wanted_g = next((one.wanted for one in masses), 0.0)
    finished_g = wanted_g or layer.finished_g
    most_lost = family.water_lost_most if family is not None else 0.0
    proof = _proof(layer, room)
    if proof is not None and proof.added_g > 0:
        most_lost = max(most_lost, proof.water_lost_g / proof.added_g)
    elif family is None and layer.added_g > 0:
        most_lost = layer.water_lost_g / layer.added_g
    scale = finished_g / max(1e-9, 1 - most_lost) if finished_g > 0 else layer.added_g
    choices: list[Choice] = []
    amounts = [_pose_line(program, layer, line, finished_g, scale, room, pantry, family, choices) for line in layer.ingredients]
    lost = program.variable(cost=price("driven off") / max(scale, 1e-9))
    placed = Placed(layer, family, amounts, choices, lost, dict.fromkeys(amounts, 1.0))
    name = layer.name
    program.limit(
        Limit(
            f"{layer.layer_id} weight",
            {**placed.added, lost: -1.0},
            finished_g,
            finished_g,
            f"{name} of {finished_g:.4g} g",
            dear=price("weight of a layer"),
            kind=LimitKind.WEIGHT,
            of=layer.layer_id,
        )
    )
    _pose_water(program, placed, finished_g, most_lost, room, pantry)
    _pose_ratio(program, placed)
    own_ids = {line.ingredient_id for line in proof.ingredients if line.there} if proof is not None else set()
    in_a_coat = family is not None and is_of_chocolate(family) and layer.layer_id in room.before
    for group in (*_one_of(), *(_one_of("coat") if in_a_coat else ())):
        alike = [choice.used for choice in choices if choice.ingredient_id in group]
        together = len(group & own_ids)  # what the version has of it side by side can be
        if len(alike) > max(1, together):
            most = float(max(1, together))
            name = f"{layer.layer_id} one of {min(group)}"
            program.limit(Limit(name, dict.fromkeys(alike, 1.0), -_INF, most, kind=LimitKind.ONE_OF))
    if family is not None:
        names = [serves(line, family, families) for line in layer.ingredients]
        for role in family.roles:
            _pose_window(program, placed, role, names, finished_g, room, _present(proof, role, family, families))
    pose_largest_shares(program, placed, finished_g, proof)
    if room.choose and family is not None:
        pose_swelling(program, placed, room.before.get(layer.layer_id), pantry)
        pose_polyols(program, placed, family, proof, pantry)
        if family.grained:
            pose_grain(program, placed, family, proof, pantry)
        if "of protein" in family.sorts:
            pose_dough(program, placed, proof, pantry)
        if family.place == "coat" and len(family.roles) > 1:
            pose_coat(program, placed, proof, pantry)
    return placed


def _proof(layer: FormulaLayer, room: Room) -> FormulaLayer | None:
    """A layer as it is, whose composition proves what can be made; None where it becomes another kind, or proves nothing."""
    own = room.before.get(layer.layer_id)
    if own is not None:
        return own if own.family == layer.family else None
    return layer if room.widened else None


def _present(proof: FormulaLayer | None, role: Role, family: Family, families: Families) -> float | None:
    """What serves a role in a layer as it is, as a share of what goes into the bowl; None where nothing is known of that."""
    if proof is None or proof.added_g <= 0:
        return None
    serving = (line for line in proof.ingredients if serves(line, family, families) == role.name)
    return sum(line.grams / strength(role, line.ingredient_id) for line in serving) / proof.added_g


def _pose_line(
    program: Program,
    layer: FormulaLayer,
    line: FormulaIngredient,
    finished_g: float,
    scale: float,
    room: Room,
    pantry: Pantry,
    family: Family | None,
    choices: list[Choice],
) -> int:
    food = pantry.by_id.get(line.ingredient_id)
    paid = (food.price_per_kg or 0.0) / 1000 if food is not None else 0.0
    amount = program.variable(cost=price("money") * paid / max(scale, 1e-9) * 10)
    name, words = f"{layer.layer_id} {line.ingredient_id} {amount}", f"{line.name} in {layer.name}"
    if line.ingredient_id in room.without:
        program.define(f"{name} left out", {amount: 1.0})
        return amount
    if line.locked or food is None:  # of what nobody knows no amount is chosen
        kept = f"{words} locked at {line.grams:.4g} g"
        program.limit(Limit(f"{name} locked", {amount: 1.0}, line.grams, line.grams, kept, _INF, f"{words} unlocked"))
        return amount
    if line.least_g > 0:
        kept = f"{words} at least {line.least_g:.4g} g"
        program.limit(
            Limit(f"{name} least", {amount: 1.0}, line.least_g, _INF, kept, line.least_g, f"{words} allowed below that")
        )
    small = _role_name(line, family) in SMALL_ROLES or (food is not None and food.category in SMALL_ROLES)
    own = room.before.get(layer.layer_id)
    start = sum(one.grams for one in own.ingredients if one.ingredient_id == line.ingredient_id) if own is not None else 0.0
    usual = start or _usual_g(layer, line, finished_g, scale, family)
    if start > 0 and room.hold is not None:
        low, high = (1 - room.hold) * start, (1 + room.hold) * start
        high = _INF if line.ingredient_id == _WATER and swells(layer, own) else high
        program.limit(Limit(f"{name} held", {amount: 1.0}, low, high, f"{words} as it is"))
    if line.grams > 0 and not room.choose and room.keep:
        stays = (_KEPT_SMALL if small else _KEPT) * usual
        said = f"{words} kept at {stays:.2g} g or more"
        moved = f"{words} allowed to go"
        program.limit(Limit(f"{name} kept", {amount: 1.0}, stays, _INF, said, stays, moved, kind=LimitKind.KEPT))
    each = price(room.moved if start > 0 else "beside its usual amount")
    floor = 0.002 if start > 0 and small else 0.02
    less = each
    if start > 0 and room.choose and (small or line.role in TASTED_ROLES):  # a trace of soda is none, nor a third of the nuts
        less = price("small thing dropped" if small else "less of what it tastes of")
    elif start > 0 and line.role in TASTED_ROLES:
        less = max(each, price("estimate moved of what it tastes of"))
    over, under = (program.variable(cost=one / max(usual, floor * scale, 1e-9)) for one in (each, less))
    program.define(f"{name} usual", {amount: 1.0, over: -1.0, under: 1.0}, usual)
    if room.choose:
        stays_for = price("small thing dropped" if small else "line dropped") if start > 0 else 0.0
        strength = max(1.0, food.sweetness or 1.0) if food is not None and food.category == "intense-sweetener" else 1.0
        line_used = price("line used" if strength <= 1.0 else "sweetener used")
        if food is not None and start <= 0 and _may_bring_one(food, room):
            line_used += price("allergen brought")
        chosen = program.variable(cost=line_used - stays_for, high=1.0, whole=True)
        least = (_SMALLEST if small else _BESIDE_WHOLE if _is_whole(line, family) else _SENSIBLE) * scale
        if food is not None and food.category == "intense-sweetener" and food.sweetness:
            least = _TASTED * scale / food.sweetness
        if start > 0:
            least = min(least, _SOME * start)
        token = 0.0 if small or line.least_g > 0 else _TOKEN * start if start > 0 else _HARDLY * least
        choices.append(Choice(line.ingredient_id, amount, chosen, least, start > 0, token, strength, line_used))
        program.limit(Limit(f"{name} used", {amount: 1.0, chosen: -3 * max(scale, 1e-9)}, -_INF, 0.0))
        program.limit(Limit(f"{name} sensible", {amount: 1.0, chosen: -least}, 0.0, _INF))
    return amount


def _may_bring_one(food: Ingredient, room: Room) -> bool:
    """Whether an ingredient holds an allergen that is not there yet, or nobody knows what it holds."""
    return room.allergens is not None and (not food.allergens_known or not set(food.allergens) <= set(room.allergens))


def _role_name(line: FormulaIngredient, family: Family | None) -> str:
    return line.role if family is not None and any(role.name == line.role for role in family.roles) else ""


def _is_whole(line: FormulaIngredient, family: Family | None) -> bool:
    """Whether a line's role is all that its layer is made of: a bought wafer, nuts."""
    name = _role_name(line, family)
    return family is not None and any(role.name == name and role.is_whole for role in family.roles)


def _usual_g(layer: FormulaLayer, line: FormulaIngredient, finished_g: float, scale: float, family: Family | None) -> float:
    """What an ingredient usually is of its layer [g]: as it stands, else by its role."""
    if line.grams > 0:
        return line.grams * (finished_g / layer.finished_g if layer.finished_g > 0 else 1.0)
    role = next((one for one in family.roles if one.name == line.role), None) if family is not None else None
    if role is None:
        return 0.0
    beside = [one for one in layer.ingredients if one.role == line.role]
    return role.typical * scale / len(beside) if not any(one.grams > 0 for one in beside) else 0.0


def _pose_water(program: Program, placed: Placed, finished_g: float, most_lost: float, room: Room, pantry: Pantry) -> None:
    """What can be driven off, and the moisture of what is left."""
    layer, family = placed.layer, placed.family
    water = {
        variable: (pantry[line.ingredient_id].per_100_g.get(Nutrient.WATER) or 0.0) / 100
        for variable, line in zip(placed.amounts, layer.ingredients, strict=True)
        if line.ingredient_id in pantry
    }
    off = {**dict.fromkeys(placed.amounts, -most_lost), placed.lost: 1.0}
    if most_lost > 0:
        words = f"At most {100 * most_lost:.0f} % of {layer.name} can be driven off"
        moved = f"{layer.name} boiled or baked longer, {100 * (most_lost + _STEP):.0f} % driven off"
        program.limit(Limit(f"{layer.layer_id} driven off", off, -_INF, 0.0, words, _STEP * finished_g, moved))
    else:
        program.define(f"{layer.layer_id} nothing driven off", {placed.lost: 1.0})
    program.limit(Limit(f"{layer.layer_id} water there", {**water, placed.lost: -1.0}, 0.0, _INF))
    if family is None:
        return
    low, high = family.moisture_low, family.moisture_high
    proof = _proof(layer, room)
    if proof is not None:
        present = _moisture(proof, pantry)
        low, high = min(low, present), max(high, present)
    words = f"{layer.name} with {100 * low:.3g} to {100 * high:.3g} % water"
    moved = f"{layer.name} with 1 % {{way}} water than its kind has"
    program.limit(
        Limit(
            f"{layer.layer_id} moisture",
            {**water, placed.lost: -1.0},
            low * finished_g,
            high * finished_g,
            words,
            0.0 if family.place == "coat" else _WATER_STEP * finished_g,  # water makes a coat seize: that is no help
            moved,
        )
    )


def _moisture(layer: FormulaLayer, pantry: Pantry) -> float:
    water = sum(
        one.grams * (pantry[one.ingredient_id].per_100_g.get(Nutrient.WATER) or 0.0) / 100
        for one in layer.ingredients
        if one.ingredient_id in pantry
    )
    return (water - layer.water_lost_g) / layer.finished_g if layer.finished_g > 0 else 0.0


def _pose_ratio(program: Program, placed: Placed) -> None:
    parts = [(v, one) for v, one in zip(placed.amounts, placed.layer.ingredients, strict=True) if one.part and not one.locked]
    for (first, one), (second, other) in pairwise(parts):
        assert one.part
        assert other.part
        words = f"{one.name} to {other.name} as {one.part:g} : {other.part:g}"
        terms = {first: other.part, second: -one.part}
        program.limit(
            Limit(f"{placed.layer.layer_id} ratio {first}", terms, 0.0, 0.0, words, _INF, f"another ratio than {words}")
        )


def _pose_window(
    program: Program,
    placed: Placed,
    role: Role,
    names: Sequence[str],
    finished_g: float,
    room: Room,
    present: float | None,
) -> None:
    """A role's window: the sum of what serves it, as a share of what goes into the bowl.

    Args:
        names: Of the role that each line serves.
        present: What serves it in the layer as it is [g/g]; None where that proves nothing.
    """
    layer = placed.layer
    serving = [
        (variable, 1 / strength(role, line.ingredient_id))
        for variable, line, name in zip(placed.amounts, layer.ingredients, names, strict=True)
        if name == role.name
    ]
    if not serving:
        return
    least, most = role.least, role.most
    if role.optional and not room.choose:
        least = 0.0
    if present is not None:
        least, most = min(least, present), max(most, present)
    least = 0.0 if role.optional else least
    title = role.name.replace("-", " ")
    step = 0.0 if role.name in SMALL_ROLES else _STEP * finished_g  # more salt or gelling than a kind takes is no help
    whole = len(serving) == len(placed.amounts)
    if most < 1 and not whole:
        terms = dict.fromkeys(placed.amounts, -most)
        for variable, weight in serving:
            terms[variable] += weight
        words = f"{title} at most {100 * most:.3g} % of {layer.name}"
        moved = f"{title} allowed to {100 * (most + _STEP):.3g} % of {layer.name} instead of {100 * most:.3g} %"
        program.limit(Limit(f"{layer.layer_id} {role.name} most", terms, -_INF, 0.0, words, step, moved))
    if least > 0 and not whole:
        terms = dict.fromkeys(placed.amounts, -least)
        for variable, weight in serving:
            terms[variable] += weight
        words = f"{title} at least {100 * least:.3g} % of {layer.name}"
        moved = f"{title} allowed down to {100 * max(0.0, least - _STEP):.3g} % of {layer.name} instead of {100 * least:.3g} %"
        program.limit(Limit(f"{layer.layer_id} {role.name} least", terms, 0.0, _INF, words, step, moved))


def serves(line: FormulaIngredient, family: Family, families: Families) -> str:
    """The name of the role that a line serves; empty where it serves none."""
    if any(one.name == line.role for one in family.roles):
        return line.role
    found = role_of(families, family, line.ingredient_id)
    return found[0].name if found is not None else ""


def _pose_target(posed: Posed, target: Target, given: Sequence[FormulaLayer], reading: StudyReading) -> None:
    """What is missing and what is over costs; a target of nothing that is free costs nothing."""
    pantry = reading.pantry
    concerned = [one for one in posed.layers if target.layer_id in {None, one.layer.layer_id}]
    if not concerned or (target.what is Property.MASS and target.layer_id is not None):
        return
    weigh = weigher(target.what, reading)
    terms: dict[int, float] = {}
    for placed in concerned:
        for variable, line in zip(placed.amounts, placed.layer.ingredients, strict=True):
            if line.ingredient_id in pantry:
                terms[variable] = weigh(pantry[line.ingredient_id])
        if target.what in {Property.MASS, Property.WATER}:
            terms[placed.lost] = -1.0
    fixed = [layer for layer in given if target.layer_id in {None, layer.layer_id}]
    rest = with_got(target, Formula(name="", layers=tuple(fixed)), reading).got if fixed else 0.0
    program, a_gram = posed.program, target.weight / target.tolerance
    missing, over = program.variable(cost=a_gram), program.variable(cost=a_gram)
    below, above = (
        program.variable(cost=price("beside the middle") * a_gram, high=max(0.0, end))
        for end in (target.wanted - target.low, target.high - target.wanted)
    )
    slack = {missing: 1.0, below: 1.0, over: -1.0, above: -1.0}
    wanted = target.wanted - rest
    program.define(f"{target.id} target", {**terms, **slack}, wanted, kind=LimitKind.TARGET, of=target.id)
    posed.misses[target.id] = (missing, over, a_gram)
    posed.bands[target.id] = (max(0.0, target.wanted - target.low), max(0.0, target.high - target.wanted), a_gram)


@cache
def _one_of(only: str = "") -> tuple[frozenset[str], ...]:
    """Ingredients of which a choice takes one: the same thing in other grains or strengths; of some, in a coat only."""
    return tuple(frozenset(row["ingredients"].split("|")) for row in rows("one_of.csv") if row["only"] == only)
