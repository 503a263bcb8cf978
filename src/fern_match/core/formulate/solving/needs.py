"""What a layer's kind asks for beside its roles: where a polyol may be, what coats, and the most of one thing.

Worked example: a jelly with 2 g of water at the end takes 0.8 · 0.59 · 2 = 0.94 g of erythritol, however sweet it is to be.
"""

from collections.abc import Sequence
from itertools import combinations

from fern_match.core.families import Family
from fern_match.core.families.doses import largest_share, swelling
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.formulate.record.formula import FormulaLayer
from fern_match.core.formulate.solving.posed import Placed, Room
from fern_match.core.formulate.solving.program import Limit, Program
from fern_match.core.physics.grain import crystallises, crystals, makes_no_glass

_ALIKE, _A_TRACE = 0.1, 0.005  # how far shares of twins may be apart: relative, and of the bowl
_INF = float("inf")
_STEP = 0.02  # of what goes into the bowl: how far a share is moved to see what it costs
_COATS_FROM, _PASTY = 0.28, 0.045  # of a coat from its parts: fat at least, flours and plant proteins at most [g/g]
_THICKENS = frozenset(
    {"flour-starch", "pea-protein-isolate", "soy-protein-isolate", "potato-protein", "maltodextrin"}  # categories and ids
)
_BINDS, _WET, _FAT = 0.8, 10.0, 30.0  # of a dough's powders, what binds at least [g/g]; from where it does [g in 100 g]
_POWDERS = frozenset({"whey-protein-isolate", "milk-protein-concentrate", "pea-protein-isolate", "soy-protein-isolate"})
_LIQUID = 0.3  # g of water in a g, from which something is wet enough to soak in
_SYRUPY = "glycerol"  # the polyol that is a syrup without water
_IN_GLASS = 0.10  # of what goes into the bowl of a hard sugar: what has no glass of its own
_GRAINS = 0.5  # of what a fondant or fudge usually has of sugar: what crystallises, at least
_OVER_HELD, _HOLDS_ENOUGH = 0.8, 1.2  # of what water holds at 20 °C, beside what else is dissolved; from where it does not grain


def pose_coat(program: Program, placed: Placed, proof: FormulaLayer | None, pantry: Pantry) -> None:
    """A coat from its parts flows by its fat and turns pasty by flours, starches and plant proteins.

    Args:
        program: That takes the limits.
        placed: The layer in it.
        proof: The layer as it is, where its composition proves what can be made.
        pantry: Compositions.

    Source: working limits of coats, 28 % of fat and a twentieth (approximate).
    """
    if proof is not None:
        return
    layer = placed.layer
    lines = _known(placed, pantry)
    fat = dict.fromkeys(placed.amounts, -_COATS_FROM)
    pasty = dict.fromkeys(placed.amounts, -_PASTY)
    for variable, food in lines:
        fat[variable] += (food.per_100_g.get(Nutrient.FAT) or 0.0) / 100
        if food.category in _THICKENS or food.id in _THICKENS:
            pasty[variable] += 1.0
    words = f"{layer.name} with {100 * _COATS_FROM:g} % of fat, to coat with"
    program.limit(Limit(f"{layer.layer_id} coats", fat, 0.0, _INF, words))
    words = f"At most {100 * _PASTY:g} % of {layer.name} of flours, starches and plant proteins"
    program.limit(Limit(f"{layer.layer_id} pasty", pasty, -_INF, 0.0, words))


def pose_dough(program: Program, placed: Placed, proof: FormulaLayer | None, pantry: Pantry) -> None:
    """A dough of powder holds together by syrups, fat, pastes and fruit: four parts of those for five of powder.

    Worked example: 30 g of protein with 12 of fibre, 4 of sugar and 2 of cocoa are 48 of powder, and ask for 38 of what binds.

    Args:
        program: That takes the limits.
        placed: The layer in it.
        proof: The layer as it is, where its composition proves what can be made.
        pantry: Compositions.

    Source: working ratios of pressed protein bars (approximate).
    """
    if proof is not None:
        return
    terms = {variable: 1.0 if _binds(food) else -_BINDS for variable, food in _known(placed, pantry)}
    words = f"{placed.layer.name} with enough syrup, fat or paste to hold its powders"
    moved = f"less to hold the powders of {placed.layer.name}"
    program.limit(Limit(f"{placed.layer.layer_id} binds", terms, 0.0, _INF, words, _STEP * placed.layer.finished_g, moved))


def _known(placed: Placed, pantry: Pantry) -> list[tuple[int, Ingredient]]:
    """The lines whose composition is known, by their variables."""
    lines = zip(placed.amounts, placed.layer.ingredients, strict=True)
    return [(variable, pantry[line.ingredient_id]) for variable, line in lines if line.ingredient_id in pantry]


def _binds(food: Ingredient) -> bool:
    """Whether it is wet, fat or a syrup by itself."""
    wet, fat = ((food.per_100_g.get(one) or 0.0) for one in (Nutrient.WATER, Nutrient.FAT))
    return wet > _WET or fat > _FAT or food.polyol_kind == _SYRUPY


def pose_polyols(program: Program, placed: Placed, family: Family, proof: FormulaLayer | None, pantry: Pantry) -> None:
    """Where a polyol may be: of what grains no more than a wet layer's water holds, in a glass next to nothing of what has none.

    Args:
        program: That takes the limits.
        placed: The layer in it.
        family: Its kind.
        proof: The layer as it is, where its composition proves what can be made.
        pantry: Compositions.

    Source: data/polyols.csv (solubilities), data/traits.csv (which families are wet or glass); approximate.
    """
    layer = placed.layer
    there = {line.ingredient_id for line in proof.ingredients if line.there} if proof is not None else set()
    lines = [
        (variable, line, pantry[line.ingredient_id])
        for variable, line in zip(placed.amounts, layer.ingredients, strict=True)
        if line.ingredient_id in pantry and line.ingredient_id not in there and not line.locked
    ]
    if family.traits.glass:
        soft = {variable: 1.0 for variable, _, food in lines if makes_no_glass(food)}
        if soft:
            terms = {one: soft.get(one, 0.0) - _IN_GLASS for one in placed.amounts}
            words = f"At most {100 * _IN_GLASS:g} % of {layer.name} of what makes no glass"
            program.limit(Limit(f"{layer.layer_id} glass", terms, -_INF, 0.0, words))
        return
    if not family.wet:
        return
    water = {
        variable: (pantry[line.ingredient_id].per_100_g.get(Nutrient.WATER) or 0.0) / 100
        for variable, line in zip(placed.amounts, layer.ingredients, strict=True)
        if line.ingredient_id in pantry
    }
    for kind, crystal in crystals().items():
        mine = {
            variable: (food.per_100_g.get(Nutrient.POLYOLS) or 0.0) / 100
            for variable, _, food in lines
            if food.polyol_kind == kind
        }
        holds = crystal.holds_g
        if not mine or holds >= _HOLDS_ENOUGH:
            continue
        terms = {one: mine.get(one, 0.0) - _OVER_HELD * holds * water.get(one, 0.0) for one in placed.amounts}
        terms[placed.lost] = _OVER_HELD * holds
        words = f"No more {kind} than the water of {layer.name} holds"
        program.limit(Limit(f"{layer.layer_id} {kind} dissolved", terms, -_INF, 0.0, words))


def pose_grain(program: Program, placed: Placed, family: Family, proof: FormulaLayer | None, pantry: Pantry) -> None:
    """What is meant to grain holds enough that crystallises: a fondant of polydextrose and syrup stays a syrup.

    Half of what its kind usually has of sugar; what coconut holds together does not need it.

    Args:
        program: That takes the limits.
        placed: The layer in it.
        family: Its kind.
        proof: The layer as it is, where its composition proves what can be made.
        pantry: Compositions.

    Source: working limit (approximate).
    """
    usual = sum(role.typical for role in family.roles if role.name == "sweet-bulk")
    if any(role.name == "coconut-solids" and not role.optional for role in family.roles):
        return
    there = 0.0
    if proof is not None and proof.added_g > 0:
        parts = ((line.grams, pantry.by_id.get(line.ingredient_id)) for line in proof.ingredients)
        there = sum(grams * crystallises(food) for grams, food in parts if food is not None) / proof.added_g
    least = _GRAINS * usual if proof is None else min(_GRAINS * usual, there)
    terms = dict.fromkeys(placed.amounts, -least)
    for variable, food in _known(placed, pantry):
        terms[variable] += crystallises(food)
    words = f"{placed.layer.name} with enough that crystallises: it is meant to grain"
    program.limit(Limit(f"{placed.layer.layer_id} grains", terms, 0.0, _INF, words))


def swells(layer: FormulaLayer, own: FormulaLayer | None) -> frozenset[str]:
    """What is on offer for a layer in its egg's place and must swell first: water may then be more than it was.

    Args:
        layer: With all that is on offer.
        own: As it is in the version, where that is known.
    """
    there = {line.ingredient_id for line in own.ingredients if line.there} if own is not None else set()
    return frozenset(line.ingredient_id for line in layer.ingredients if not line.locked) & swelling().keys() - there


def pose_swelling(program: Program, placed: Placed, own: FormulaLayer | None, pantry: Pantry) -> None:
    """Ground flax for egg comes with the water that it binds by: 4 g of it for each gram, of what is wet in the bowl.

    Worked example: 1.3 g of flax for 6 g of egg in a brownie with 0.7 g of water asks for 4.5 g of water more.

    Args:
        program: That takes the limits.
        placed: The layer in it.
        own: The layer as it is in the version, where that is known.
        pantry: Compositions.

    Source: data/hydration.csv (approximate).
    """
    new = swells(placed.layer, own)
    if not new or placed.family is None or "structure-protein" not in {role.name for role in placed.family.roles}:
        return
    terms = {}
    for variable, food in _known(placed, pantry):
        water = (food.per_100_g.get(Nutrient.WATER) or 0.0) / 100
        terms[variable] = -swelling()[food.id] if food.id in new else water * (water > _LIQUID)
    words = f"{placed.layer.name} with the water that {' and '.join(pantry[key].name.lower() for key in sorted(new))} swells in"
    program.limit(Limit(f"{placed.layer.layer_id} swells", terms, 0.0, _INF, words, _STEP * placed.layer.finished_g, words))


def pose_largest_shares(program: Program, placed: Placed, finished_g: float, proof: FormulaLayer | None) -> None:
    """Of each ingredient the largest sensible share, all its lines together; what is locked is the user's own doing.

    Args:
        program: That takes the limits.
        placed: The layer in it.
        finished_g: What the layer weighs when finished [g], above 0.
        proof: The layer as it is, where its composition proves what can be made.

    Source: data/largest_shares.csv (approximate).
    """
    layer, lines = placed.layer, list(zip(placed.amounts, placed.layer.ingredients, strict=True))
    for key in dict.fromkeys(line.ingredient_id for _, line in lines):
        share = largest_share(key, placed.family)
        own = [(variable, line) for variable, line in lines if line.ingredient_id == key]
        if share is None or any(line.locked for _, line in own):
            continue
        if proof is not None and proof.added_g > 0:
            share = max(share, sum(line.grams for line in proof.ingredients if line.ingredient_id == key) / proof.added_g)
        mine = {variable for variable, _ in own}
        limited = {one: (1.0 if one in mine else 0.0) - share for one in placed.amounts}
        title = own[0][1].name
        words = f"{title} at most {100 * share:g} % of {layer.name}"
        moved = f"{title} allowed to {100 * (share + _STEP):g} % of {layer.name} instead of {100 * share:g} %"
        program.limit(Limit(f"{layer.layer_id} {key} most", limited, -_INF, 0.0, words, _STEP * finished_g, moved))
    _pose_powders(program, placed, finished_g, proof)


def _pose_powders(program: Program, placed: Placed, finished_g: float, proof: FormulaLayer | None) -> None:
    """Protein powders together no more than the one that a layer takes most of: several do not add up to a larger share."""
    lines = list(zip(placed.amounts, placed.layer.ingredients, strict=True))
    powders = [(variable, line) for variable, line in lines if line.ingredient_id in _POWDERS]
    shares = [largest_share(line.ingredient_id, placed.family) for _, line in powders]
    if len(powders) < 2 or any(line.locked for _, line in powders):
        return
    share = max(one for one in shares if one is not None)
    if proof is not None and proof.added_g > 0:
        share = max(share, sum(line.grams for line in proof.ingredients if line.ingredient_id in _POWDERS) / proof.added_g)
    mine = {variable for variable, _ in powders}
    limited = {one: (1.0 if one in mine else 0.0) - share for one in placed.amounts}
    words = f"Protein powders together at most {100 * share:g} % of {placed.layer.name}"
    moved = f"protein powders allowed to {100 * (share + _STEP):g} % of {placed.layer.name} together"
    program.limit(Limit(f"{placed.layer.layer_id} powders", limited, -_INF, 0.0, words, _STEP * finished_g, moved))


def pose_twins(program: Program, layers: Sequence[Placed], room: Room) -> None:
    """Two creams or biscuits of one recipe stay of one recipe: what goes into the bowl keeps its shares.

    Args:
        program: That takes the limits.
        layers: That are free.
        room: With the layers as they are; those of one kind and one recipe are twins.
    """
    for first, second in combinations(layers, 2):
        a, b = (room.before.get(one.layer.layer_id) for one in (first, second))
        if a is None or b is None or not are_twins(a, b):
            continue
        ids = [[line.ingredient_id for line in one.layer.ingredients] for one in (first, second)]
        if first.layer.family != second.layer.family or ids[0] != ids[1]:
            continue
        for one, other in zip(first.amounts, second.amounts, strict=True):
            name = f"{first.layer.layer_id} {second.layer.layer_id} twins {one}"
            program.limit(Limit(name, {one: b.finished_g, other: -a.finished_g}, 0.0, 0.0, "twins stay twins"))


def are_twins(a: FormulaLayer, b: FormulaLayer) -> bool:
    """Whether two layers are made by one recipe: one kind, the same ingredients, about the same shares."""
    shares = []
    for one in (a, b):
        found: dict[str, float] = {}
        for line in one.ingredients:
            found[line.ingredient_id] = found.get(line.ingredient_id, 0.0) + line.grams / max(one.added_g, 1e-9)
        shares.append(found)
    if a.family != b.family or shares[0].keys() != shares[1].keys() or min(a.finished_g, b.finished_g) <= 0:
        return False
    return all(abs(shares[0][key] - shares[1][key]) <= max(_ALIKE * shares[0][key], _A_TRACE) for key in shares[0])
