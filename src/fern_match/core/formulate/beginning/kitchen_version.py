"""From what is probably in the original to what a kitchen buys: chocolate as chocolate, ground nuts as nut butter, sugar once.

Worked example: a coat estimated as 46 % sugar, 42 % cocoa mass, 12 % cocoa butter becomes dark chocolate of 55 % cocoa; one of
62 % cocoa that with some of 70 %, in amounts that keep its weight, fat, sweetness and cocoa. A ganache of cream, cocoa mass,
sugar and cocoa butter becomes cream and dark chocolate: nobody makes one from what a factory grinds.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from functools import cache

from fern_match.core.data import rows
from fern_match.core.families import Families, Family
from fern_match.core.families.admission import CHOCOLATE, Grade, is_of_chocolate, role_of, stands_for
from fern_match.core.food import Pantry
from fern_match.core.formulate.beginning.coat_chocolate import nearest_chocolates
from fern_match.core.formulate.record.formula import Formula, FormulaIngredient, FormulaLayer
from fern_match.core.formulate.record.version import Property
from fern_match.core.formulate.solving.choice import without_empty
from fern_match.core.formulate.solving.pose import SMALL_ROLES
from fern_match.core.formulate.solving.posed import PieceLimit, Room
from fern_match.core.formulate.solving.solve import Solved, solve
from fern_match.core.formulate.solving.targets import Target, with_got
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.whereabouts import ANY_ROLE

_MOST_CHOCOLATES = 4
_TRACE, _WATER = 0.01, "water"  # of what goes into a layer, below which a body is not worth weighing there [g/g]
_OF_CHOCOLATE = frozenset({"cocoa-mass", "cocoa-butter"})


def for_this_kitchen(
    formula: Formula, targets: Sequence[Target], reading: StudyReading, within: Sequence[PieceLimit] = ()
) -> Formula:
    """A formula with what a kitchen buys in place of what a factory starts from, its amounts solved again.

    Args:
        formula: The estimate's best values.
        targets: What it is to keep; a layer that cannot be solved stays as it was.
        reading: The study, with compositions and windows.
        within: What the estimate leaves room for.
    """
    made = _in_this_kitchen(formula, targets, reading, within, blends=False)
    if all(one.reached for one in _labels(made, targets, reading)):
        return made
    blended = _in_this_kitchen(formula, targets, reading, within, blends=True)
    missed, still = (sum(not one.reached for one in _labels(each, targets, reading)) for each in (made, blended))
    return blended if still < missed else made


def _labels(formula: Formula, targets: Sequence[Target], reading: StudyReading) -> list[Target]:
    """The label's rows as a formula comes to them."""
    return [with_got(one, formula, reading) for one in targets if one.what not in set(Property) and one.counts]


def _in_this_kitchen(
    formula: Formula, targets: Sequence[Target], reading: StudyReading, within: Sequence[PieceLimit], *, blends: bool
) -> Formula:
    """The same, with coats of one chocolate each or, where the label wants it, of two."""
    opened = reading.placing.opened
    layers = tuple(
        kitchen_layer(one, reading.pantry, reading.families, opened.get(one.layer_id), blends=blends) for one in formula.layers
    )
    changed = replace(formula, layers=layers)
    chosen = [
        layer.layer_id for layer in layers if len(layer.ingredients) > 1 and any(one.grams == 0 for one in layer.ingredients)
    ]
    if chosen:
        changed = _with_chosen(changed, chosen, targets, reading, within) or _each_chosen(
            changed, chosen, formula, targets, reading
        )
    solvable = [layer.layer_id for layer in changed.layers]
    before = {layer.layer_id: layer for layer in changed.layers if all(one.grams > 0 for one in layer.ingredients)}
    room = Room(free=solvable, widened=True, before=before, moved="estimate moved", limits=within, explain=False)
    solved = solve(changed, targets, room, reading)
    if not isinstance(solved, Solved):
        return changed
    fewer = _without_traces(solved.formula)
    if fewer == solved.formula:
        return fewer
    again = solve(fewer, targets, replace(room, before={layer.layer_id: layer for layer in fewer.layers}), reading)
    return again.formula if isinstance(again, Solved) else solved.formula


def _without_traces(formula: Formula) -> Formula:
    """A formula without bodies of which solving left a trace in a layer and another has more: no 0.5 % of butter in peanuts."""
    most: dict[str, float] = {}
    for line in (line for layer in formula.layers for line in layer.ingredients):
        for key in _OF_CHOCOLATE if line.role == CHOCOLATE else {line.ingredient_id}:  # bought chocolate is mass and butter
            most[key] = max(most.get(key, 0.0), line.grams)

    def stays(line: FormulaIngredient, layer: FormulaLayer) -> bool:
        worth = line.grams >= _TRACE * layer.added_g or line.role in SMALL_ROLES | {CHOCOLATE}
        return worth or line.grams >= most[line.ingredient_id] or line.ingredient_id == _WATER

    layers = (
        replace(layer, ingredients=tuple(line for line in layer.ingredients if stays(line, layer))) for layer in formula.layers
    )
    return replace(formula, layers=tuple(layers))


def _with_chosen(
    formula: Formula, chosen: Sequence[str], targets: Sequence[Target], reading: StudyReading, within: Sequence[PieceLimit] = ()
) -> Formula | None:
    """A formula with the chocolates that some of its layers are made from; None where nothing fits."""
    kept = {
        one.layer_id: one for one in formula.layers if one.layer_id in chosen and any(line.grams > 0 for line in one.ingredients)
    }
    room = Room(free=list(chosen), choose=True, before=kept, moved="estimate moved", limits=within, explain=False)
    found = solve(formula, targets, room, reading)
    return without_empty(found.formula, chosen) if isinstance(found, Solved) else None


def _each_chosen(
    formula: Formula, chosen: Sequence[str], estimated: Formula, targets: Sequence[Target], reading: StudyReading
) -> Formula:
    """The same layer by layer; one that nothing fits stays as it was estimated, from its parts."""
    for layer_id in chosen:
        was = {one.layer_id: one for one in estimated.layers}
        as_it_was = replace(
            formula, layers=tuple(was[one.layer_id] if one.layer_id == layer_id else one for one in formula.layers)
        )
        formula = _with_chosen(formula, [layer_id], targets, reading) or as_it_was
    return formula


def kitchen_layer(
    layer: FormulaLayer, pantry: Pantry, families: Families, opened: Family | None = None, *, blends: bool = False
) -> FormulaLayer:
    """A layer with a kitchen's ingredients: chocolates to choose from where it was taken apart, forms that are sold.

    Args:
        layer: As estimated.
        pantry: Compositions.
        families: For the roles.
        opened: The family of the chocolate that the label takes apart in it.
        blends: Whether a coat may be of two chocolates though one is nearly it.
    """
    family = families.by_id.get(layer.family)
    chocolates = _chocolates(layer, family, pantry, blends=blends)
    if chocolates and family is not None:
        lines = tuple(
            FormulaIngredient(ingredient_id=key, name=pantry[key].name, role=CHOCOLATE, grams=0.0) for key in chocolates
        )
        if len(lines) == 1:
            lines = (replace(lines[0], grams=layer.finished_g),)
        return replace(layer, ingredients=lines, water_lost_g=0.0)
    changed = [_form(line, layer.family, pantry) for line in _closed(layer, family, opened, pantry, families)]
    return replace(layer, ingredients=merged(changed, family, families))


def _closed(
    layer: FormulaLayer, family: Family | None, opened: Family | None, pantry: Pantry, families: Families
) -> Sequence[FormulaIngredient]:
    """A filling's lines with chocolates to choose from in place of cocoa mass, cocoa butter and what only they need."""
    role = next((one for one in family.roles if one.name == CHOCOLATE), None) if family is not None else None
    parts = [line for line in layer.ingredients if line.ingredient_id in _OF_CHOCOLATE]
    if family is None or role is None or opened is None or not parts:
        return layer.ingredients
    bought = [
        key for key in role.admits if key in pantry and stands_for(key, opened) and _form_of(key, layer.family, pantry) == key
    ]
    if not bought or any(line.ingredient_id in role.admits for line in layer.ingredients):
        return layer.ingredients
    theirs = _needed_by(opened)
    most = {line.ingredient_id: line for line in sorted(layer.ingredients, key=lambda line: line.grams)}
    kept = [
        line
        for line in layer.ingredients
        if line not in parts
        and (line.ingredient_id not in theirs or (_has_place(line, family, families) and _is_first(line, most)))
    ]
    gone = sum(line.grams for line in layer.ingredients if line not in kept)
    each = gone if len(bought) == 1 else 0.0  # of several, which and how much is to be chosen
    new = [FormulaIngredient(ingredient_id=key, name=pantry[key].name, role=CHOCOLATE, grams=each) for key in bought]
    return [*kept, *new[:_MOST_CHOCOLATES]]


def _is_first(line: FormulaIngredient, most: Mapping[str, FormulaIngredient]) -> bool:
    """Whether a line is no second one of its ingredient: of two sugars the lesser is the chocolate's."""
    return line.role == ANY_ROLE or line is most[line.ingredient_id] or most[line.ingredient_id].role == ANY_ROLE


def _has_place(line: FormulaIngredient, family: Family, families: Families) -> bool:
    """Whether a line is the filling's own: the label names it beside the chocolate, or the family has a role for it."""
    best = role_of(families, family, line.ingredient_id)
    return (
        line.role == ANY_ROLE
        or any(role.name == line.role for role in family.roles)
        or (best is not None and best[1] is Grade.LISTED)
    )


def _needed_by(opened: Family) -> frozenset[str]:
    return frozenset(key for role in opened.roles for key in role.admits)


def _chocolates(layer: FormulaLayer, family: Family | None, pantry: Pantry, *, blends: bool) -> tuple[str, ...]:
    """The chocolates that a coat which was taken apart can be bought as; none where it is one already."""
    if family is None or not is_of_chocolate(family):
        return ()
    role = family.roles[0]
    if all(line.ingredient_id in role.admits for line in layer.ingredients):
        return ()
    found = [key for key in role.admits if key in pantry and _form_of(key, family.id, pantry) == key]
    return nearest_chocolates(found, layer, pantry, blends=blends)[:_MOST_CHOCOLATES]


def _form(line: FormulaIngredient, family_id: str, pantry: Pantry) -> FormulaIngredient:
    wanted = _form_of(line.ingredient_id, family_id, pantry)
    return line if wanted == line.ingredient_id else replace(line, ingredient_id=wanted, name=pantry[wanted].name)


def _form_of(key: str, family_id: str, pantry: Pantry) -> str:
    """The form of an ingredient that a kitchen takes in a family; itself where any does."""
    return next((to for where, of, to in _forms() if family_id in where and key in of and to in pantry), key)


def merged(
    lines: Iterable[FormulaIngredient], family: Family | None = None, families: Families | None = None
) -> tuple[FormulaIngredient, ...]:
    """Lines of one ingredient as one: nobody weighs sugar twice for one bowl. It takes the role that fits it best."""
    found: dict[str, FormulaIngredient] = {}
    largest: dict[str, float] = {}
    for line in lines:
        known = found.get(line.ingredient_id)
        if known is None:
            found[line.ingredient_id], largest[line.ingredient_id] = line, line.grams
            continue
        role = line.role if line.grams > largest[line.ingredient_id] else known.role
        largest[line.ingredient_id] = max(largest[line.ingredient_id], line.grams)
        found[line.ingredient_id] = replace(known, grams=known.grams + line.grams, role=role)
    if family is None or families is None:
        return tuple(found.values())
    return tuple(replace(line, role=fitting_role(line, family, families)) for line in found.values())


def fitting_role(line: FormulaIngredient, family: Family, families: Families) -> str:
    """The role a line has in a family: its own where the family knows it, else the best, else none."""
    if any(role.name == line.role for role in family.roles):
        return line.role
    best = role_of(families, family, line.ingredient_id)
    return best[0].name if best is not None else ""


@cache
def _forms() -> tuple[tuple[frozenset[str], frozenset[str], str], ...]:
    return tuple(
        (frozenset(row["families"].split("|")), frozenset(row["from"].split("|")), row["to"]) for row in rows("kitchen_forms.csv")
    )
