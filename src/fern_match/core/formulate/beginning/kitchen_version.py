"""From what is probably in the original to what a kitchen buys: chocolate as chocolate, ground nuts as nut butter, sugar once.

Worked example: a coat estimated as 46 % sugar, 42 % cocoa mass, 12 % cocoa butter becomes dark chocolate of 55 % cocoa, or
that with a little of 70 %, in amounts that keep its weight, fat, sweetness and cocoa.
"""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from functools import cache

from fern_match.core.data import rows
from fern_match.core.families import Families, Family
from fern_match.core.families.admission import CHOCOLATE, best_role, is_of_chocolate
from fern_match.core.food import Pantry
from fern_match.core.formulate.record.formula import Formula, FormulaIngredient, FormulaLayer
from fern_match.core.formulate.solving.choice import without_empty
from fern_match.core.formulate.solving.posed import PieceLimit, Room
from fern_match.core.formulate.solving.solve import Solved, solve
from fern_match.core.formulate.solving.targets import Target
from fern_match.core.study.reading import StudyReading

_MOST_CHOCOLATES = 4


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
    layers = tuple(kitchen_layer(layer, reading.pantry, reading.families) for layer in formula.layers)
    changed = replace(formula, layers=layers)
    chosen = [
        layer.layer_id for layer in layers if len(layer.ingredients) > 1 and all(one.grams == 0 for one in layer.ingredients)
    ]
    if chosen:  # which of the chocolates, by layer
        first = solve(changed, targets, Room(free=chosen, choose=True, explain=False), reading)
        if isinstance(first, Solved):
            changed = without_empty(first.formula, chosen)
    solvable = [layer.layer_id for layer in changed.layers]
    before = {layer.layer_id: layer for layer in changed.layers if all(one.grams > 0 for one in layer.ingredients)}
    room = Room(free=solvable, widened=True, before=before, moved="estimate moved", limits=within, explain=False)
    solved = solve(changed, targets, room, reading)
    return solved.formula if isinstance(solved, Solved) else changed


def kitchen_layer(layer: FormulaLayer, pantry: Pantry, families: Families) -> FormulaLayer:
    """A layer with a kitchen's ingredients: chocolates to choose from where it was taken apart, forms that are sold."""
    family = families.by_id.get(layer.family)
    chocolates = _chocolates(layer, family, pantry)
    if chocolates and family is not None:
        lines = tuple(
            FormulaIngredient(ingredient_id=key, name=pantry[key].name, role=CHOCOLATE, grams=0.0) for key in chocolates
        )
        if len(lines) == 1:
            lines = (replace(lines[0], grams=layer.finished_g),)
        return replace(layer, ingredients=lines, water_lost_g=0.0)
    changed = [_form(line, layer.family, pantry) for line in layer.ingredients]
    return replace(layer, ingredients=merged(changed, family, families))


def _chocolates(layer: FormulaLayer, family: Family | None, pantry: Pantry) -> tuple[str, ...]:
    """The chocolates that a coat which was taken apart can be bought as; none where it is one already."""
    if family is None or not is_of_chocolate(family):
        return ()
    role = family.roles[0]
    if all(line.ingredient_id in role.admits for line in layer.ingredients):
        return ()
    return tuple(key for key in role.admits if key in pantry)[:_MOST_CHOCOLATES]


def _form(line: FormulaIngredient, family_id: str, pantry: Pantry) -> FormulaIngredient:
    wanted = next((to for where, of, to in _forms() if family_id in where and line.ingredient_id in of and to in pantry), None)
    return line if wanted is None else replace(line, ingredient_id=wanted, name=pantry[wanted].name)


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
    best = best_role(families, family.roles, line.ingredient_id)
    return best[0].name if best is not None else ""


@cache
def _forms() -> tuple[tuple[frozenset[str], frozenset[str], str], ...]:
    return tuple(
        (frozenset(row["families"].split("|")), frozenset(row["from"].split("|")), row["to"]) for row in rows("kitchen_forms.csv")
    )
