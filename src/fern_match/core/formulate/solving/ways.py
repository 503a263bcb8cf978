"""Other ways to make a layer, different in kind: bought or from its parts, from cream, condensed milk or milk powder.

Worked example: 8 g of soft caramel can be sugar, syrup, cream and butter boiled together, or 7.3 g of bought squares melted
with 0.7 g of cream; both are solved for the same weight, water, fat, sweetness, protein and salt, and their misses stand side
by side.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from fern_match.core.errors import NotKnown
from fern_match.core.families import Families, Family, Role
from fern_match.core.families.admission import CHOCOLATE, Grade, grade, is_of_chocolate, opened_families
from fern_match.core.food import Ingredient, Pantry
from fern_match.core.formulate.record.formula import Formula, FormulaIngredient, FormulaLayer
from fern_match.core.formulate.record.properties import amount_of
from fern_match.core.formulate.record.version import Property
from fern_match.core.formulate.solving.choice import without_empty
from fern_match.core.formulate.solving.pose import TASTED_ROLES
from fern_match.core.formulate.solving.posed import PieceLimit, Room
from fern_match.core.formulate.solving.solve import Solved, solve
from fern_match.core.formulate.solving.targets import WHOLE_PIECE, Target
from fern_match.core.study.reading import StudyReading

MOST_WAYS = 3
_MOST_LINES = 12
_FURTHER = 2  # ingredients of a required role beside those that are there and the usual one
_SIGNS = frozenset({"dairy-liquid", "milk-solids", "sweet-bulk", "crumb", "wafer", "chocolate"})  # by which a kind is known
_KEPT = 0.3  # share of what it tastes of that another way keeps at least
_LEAST_G = 1e-4
_SEEN = 0.03  # of what goes into the bowl, from which it is said that an ingredient goes
_GAP = 0.005  # of the price: nearer makes no other way
_BOUGHT = frozenset({"caramel-from-squares", "wafer-sheet-bought"})  # families whose work the shop has done


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """One way to make a layer, worked out."""

    family_id: str
    name: str
    layer: FormulaLayer
    bought: bool  # whether its main part comes ready
    missed: tuple[Target, ...]  # of this layer and the piece
    miss: float
    cost: float | None  # per piece, in the pantry's money; None where no price is known
    words: str  # what it rests on, and what it misses
    buy: str  # what to look for in a shop; empty where nothing is special


@dataclass(frozen=True, slots=True, kw_only=True)
class Within:
    """What other ways must keep to: the rules that a version was adapted under."""

    allows: Callable[[Ingredient], bool] = lambda _: True
    limits: Sequence[PieceLimit] = ()
    should_stop: Callable[[], bool] = lambda: False  # asked before each solving


def ways(
    formula: Formula, layer_id: str, targets: Sequence[Target], reading: StudyReading, within: Within | None = None
) -> tuple[Way, ...]:
    """Up to three ways to make a layer, the nearest to its targets first; the one in use is not among them.

    Args:
        formula: The version.
        layer_id: Of it.
        targets: What the version is held to.
        reading: The study, with compositions and windows.
        within: What every way keeps to as well.

    Raises:
        NotKnown: the formula has no such layer.
        Stopped: within's should_stop said so.
    """
    layer = next((one for one in formula.layers if one.layer_id == layer_id), None)
    if layer is None:
        raise NotKnown("layer", layer_id)
    within = within or Within()
    trying = _Trying(formula, layer, targets, reading, within)
    found = []
    for family in _kinds(layer, reading.families):
        way = trying.way(family)
        if way is not None and not _same(way.layer, layer):
            found.append(way)
    own = reading.families.by_id.get(layer.family)
    if len(found) < MOST_WAYS and own is not None:
        for key in _main_of(layer, own):
            way = trying.way(own, (key,))
            if way is not None and not any(_same(way.layer, one.layer) for one in found):
                found.append(way)
    found.sort(key=lambda one: one.miss + 0.1 * len(one.layer.ingredients))
    best = _different(found)
    bought = next((one for one in best if one.bought), None)
    if bought is not None and bought not in best[:MOST_WAYS]:  # both are to be seen: made and bought
        return (*best[: MOST_WAYS - 1], bought)
    return tuple(best[:MOST_WAYS])


def _kinds(layer: FormulaLayer, families: Families) -> list[Family]:
    """The family itself, what stands in for it in a plain diet, and a chocolate from its parts."""
    own = families.by_id.get(layer.family)
    if own is None:
        return []
    plain = [one for one in families.variants_of(own.id) if one.diet == "plain" or one.id == own.id]
    alone = is_of_chocolate(own)
    opened = [inner for inner in opened_families(families, own.roles[0]) if inner.diet == "plain"] if alone else []
    return list({one.id: one for one in (*plain, *opened) if "aerated" not in one.sorts}.values())


@dataclass(frozen=True, slots=True)
class _Trying:
    """One layer being made in another way."""

    formula: Formula
    layer: FormulaLayer
    targets: Sequence[Target]
    reading: StudyReading
    within: Within

    def way(self, family: Family, without: tuple[str, ...] = ()) -> Way | None:
        """The layer made in a family; None where nothing fits."""
        layer, pantry = self.layer, self.reading.pantry
        offered = candidates(layer, family, pantry, self.reading.families, without)
        lines = tuple(one for one in offered if one.locked or self.within.allows(pantry[one.ingredient_id]))
        if not lines:
            return None
        trial = replace(layer, family=family.id, ingredients=lines, water_lost_g=0.0)
        layers = tuple(trial if one.layer_id == layer.layer_id else one for one in self.formula.layers)
        concerned = [one for one in self.targets if one.layer_id in {None, layer.layer_id}]
        room = Room(
            free=[layer.layer_id],
            choose=True,
            explain=False,
            gap=_GAP,
            limits=self.within.limits,
            should_stop=self.within.should_stop,
        )
        solved = solve(replace(self.formula, layers=layers), concerned, room, self.reading)
        if not isinstance(solved, Solved):
            return None
        made = next(one for one in without_empty(solved.formula, [layer.layer_id]).layers if one.layer_id == layer.layer_id)
        if not made.ingredients:
            return None
        missed = tuple(one for one in solved.targets if not one.reached)
        return Way(
            family_id=family.id,
            name=family.name,
            layer=made,
            bought=_is_bought(made, family),
            missed=missed,
            miss=solved.miss,
            cost=cost_of([made], pantry),
            words=_words(layer, made, missed),
            buy=buy_words(layer, family, pantry),
        )


def candidates(
    layer: FormulaLayer, family: Family, pantry: Pantry, families: Families, without: Sequence[str] = ()
) -> tuple[FormulaIngredient, ...]:
    """What a layer could be made from in a family: what is in it already, the usual of each role, a few more.

    Args:
        without: Ingredients that must not be used.
    """
    present = {line.ingredient_id: line for line in _once_each(layer.ingredients)}
    tasted = {line.ingredient_id for line in layer.ingredients if line.role in TASTED_ROLES and line.grams > 0}
    found: dict[str, FormulaIngredient] = {}

    def offer(key: str, role_name: str) -> None:
        if key not in pantry or key in without or key in found:
            return
        line = present.get(key)
        locked = line is not None and line.locked
        least = line.least_g if line is not None else 0.0
        if line is not None and key in tasted:
            least = max(least, _KEPT * line.grams)
        found[key] = FormulaIngredient(
            ingredient_id=key,
            line_id=line.line_id if line is not None else "",
            name=pantry[key].name,
            role=role_name,
            grams=line.grams if line is not None and locked else 0.0,
            locked=locked,
            least_g=0.0 if locked else least,
        )

    for role in family.roles:
        for key in present:
            if key in role.admits or (key in tasted and grade(families, role, key) is Grade.LISTED):
                offer(key, role.name)
    for sign, role in _signs(layer, family, pantry):
        offer(sign, role.name)
        found[sign] = replace(found[sign], least_g=0.5 * role.least * layer.finished_g)
    for key in tasted:
        if len(family.roles) > 1:  # what is bought as one thing takes nothing else
            offer(key, "")
    for role in family.roles:
        if (role.typical > 0 or not role.optional) and not (role.name in TASTED_ROLES and tasted):
            offer(role.default_id, role.name)
    for role in family.roles:
        closed = role.name in TASTED_ROLES and tasted
        if (not role.optional or role.name == CHOCOLATE) and not closed:
            more = [key for key in role.admits if key in pantry and key not in found][: 4 if role.name == CHOCOLATE else _FURTHER]
            for key in more:
                if len(found) < _MOST_LINES:
                    offer(key, role.name)
    return tuple(found.values())


def _once_each(lines: Sequence[FormulaIngredient]) -> list[FormulaIngredient]:
    """Lines of one ingredient as one, for a way that weighs it once: with all its grams, locked where all of them are."""
    found: dict[str, FormulaIngredient] = {}
    for line in lines:
        known = found.get(line.ingredient_id)
        found[line.ingredient_id] = (
            line
            if known is None
            else replace(
                known,
                grams=known.grams + line.grams,
                locked=known.locked and line.locked,
                least_g=sum(one.grams if one.locked else one.least_g for one in (known, line)),
            )
        )
    return list(found.values())


def _signs(layer: FormulaLayer, family: Family, pantry: Pantry) -> list[tuple[str, Role]]:
    """What makes another kind of a layer: condensed milk, bought squares; none within its own kind."""
    if family.id == layer.family:
        return []
    present = {line.ingredient_id for line in layer.ingredients}
    return [
        (role.default_id, role)
        for role in family.roles
        if not role.optional and role.name in _SIGNS and role.default_id in pantry and role.default_id not in present
    ]


def _main_of(layer: FormulaLayer, family: Family) -> list[str]:
    """What a different way of the same kind would do without: the largest ingredients that have a stand-in."""
    able = []
    for line in layer.ingredients:
        role = next((one for one in family.roles if one.name == line.role), None)
        if role is not None and role.name not in TASTED_ROLES and len(role.admits) > 1 and not line.locked:
            able.append((line.grams, line.ingredient_id))
    return [key for _, key in sorted(able, reverse=True)[:2]]


def _same(a: FormulaLayer, b: FormulaLayer) -> bool:
    """Whether two layers are of the same ingredients."""
    names = [{line.ingredient_id for line in one.ingredients if line.grams > _LEAST_G} for one in (a, b)]
    return names[0] == names[1] and a.family == b.family


def _different(found: list[Way]) -> list[Way]:
    """Ways that differ in more than one small thing."""
    kept: list[Way] = []
    for way in found:
        if not any(_shared(way.layer, other.layer) > 0.9 for other in kept):
            kept.append(way)
    return kept


def _shared(a: FormulaLayer, b: FormulaLayer) -> float:
    grams = [{line.ingredient_id: line.grams / max(one.added_g, 1e-9) for line in one.ingredients} for one in (a, b)]
    return sum(min(share, grams[1].get(key, 0.0)) for key, share in grams[0].items())


def _is_bought(layer: FormulaLayer, family: Family) -> bool:
    return family.id in _BOUGHT or is_of_chocolate(family)


def _words(before: FormulaLayer, layer: FormulaLayer, missed: Sequence[Target]) -> str:
    main = sorted(layer.ingredients, key=lambda line: -line.grams)[:4]
    made = ", ".join(line.name.split(",")[0].split(" (")[0].lower() for line in main)
    now = {line.ingredient_id for line in layer.ingredients}
    gone = [line.name for line in before.ingredients if line.ingredient_id not in now and line.grams >= _SEEN * before.added_g]
    goes = f" Without {', '.join(gone)}." if gone else ""
    made = f"{made[0].upper()}{made[1:]}.{goes}"
    if not missed:
        return f"{made} Every target is reached."
    worst = sorted(missed, key=lambda one: -one.weight * abs(one.gap) / one.tolerance)[:2]
    short = dict.fromkeys(
        f"{_beginning(one)} {abs(one.gap):.2g} {one.unit} too {'little' if one.gap < 0 else 'much'}" for one in worst
    )
    return f"{made} Misses {'; '.join(short)}."


def _beginning(target: Target) -> str:
    """What a target is of, in the middle of a sentence; of the whole piece it says so."""
    of_all = " of the whole piece" if target.whose == WHOLE_PIECE else ""
    return f"{target.title[0].lower()}{target.title[1:]}{of_all}"


def buy_words(layer: FormulaLayer, family: Family, pantry: Pantry) -> str:
    """What to look for in a shop, for a layer that is bought as one chocolate.

    Args:
        layer: What it is to be like.
        family: The kind that is bought.
        pantry: Compositions.
    """
    if not is_of_chocolate(family) or layer.finished_g <= 0:
        return ""
    fat, sugars, cocoa = (
        100 * amount_of([layer], what, pantry) / layer.finished_g for what in (Property.FAT, Property.SUGARS, Property.COCOA)
    )
    kind = family.name.lower().removesuffix(" coat")
    more = f" and {cocoa:.0f} % dry cocoa without its fat" if cocoa >= 1 else ""
    return f"Buy a {kind} of about {fat:.0f} % fat, {sugars:.0f} % sugars{more}, like this one."


def cost_of(layers: Sequence[FormulaLayer], pantry: Pantry) -> float | None:
    """What the ingredients of layers cost, in the pantry's money; None where a price is not known."""
    total = 0.0
    for layer in layers:
        for line in layer.ingredients:
            food = pantry.by_id.get(line.ingredient_id)
            if food is None or (food.price_per_kg is None and line.grams > 0):
                return None
            total += line.grams * (food.price_per_kg or 0.0) / 1000
    return total
