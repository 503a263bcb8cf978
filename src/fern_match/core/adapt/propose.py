"""Proposals: a version worked out anew under rules, once for each system that can carry it.

Worked example: a caramel under sugar-free in the US: cream and butter stay, sugar and syrup give way to maltitol and its syrup
(one proposal), to allulose and fibre (another); each layer finds the families that come near, then the piece is solved for the
limit it shares.
"""

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.adapt.bench import Bench, never, systems_for
from fern_match.core.adapt.options import untouched
from fern_match.core.adapt.rules import (
    NONE_DECLARED,
    BadRule,
    Breach,
    Rule,
    amount_for,
    breaches,
    held_in,
    in_lines_of,
    not_approved,
    resolved,
    still_lost,
    unfound,
)
from fern_match.core.adapt.swaps import Shade, Swap, System, own_stand_ins, shade, swaps_for
from fern_match.core.adapt.unmet import LeftOut, Unmet, left_out, unmet
from fern_match.core.adapt.whole import NEAR, Whole, what_stops, whole
from fern_match.core.families import FROM_PARTS
from fern_match.core.families.admission import is_of_chocolate
from fern_match.core.food import Pantry, load_of
from fern_match.core.formulate import Formula, FormulaLayer, Property, Target, cost_of
from fern_match.core.formulate.record.properties import amount_of
from fern_match.core.formulate.solving.prices import price
from fern_match.core.formulate.solving.targets import WHOLE_PIECE, with_got
from fern_match.core.study.reading import StudyReading

MOST_PROPOSALS = 3
STRAIGHT_SWAP, AS_IT_IS, OTHER_AMOUNTS = "Straight swap", "As it is", "Other amounts"
STRAIGHT = 0.0999  # how far a straight swap moves what a rule allows, relative: a hair under a tenth
SWEETNESS_ROOM, FAT_ROOM = 0.049, 0.0195  # what a rule may move: a hair under 5 %, and under 2 g in 100 g of the piece
_NO_NEWS = frozenset({"coconut", "sulphites"})  # named by law nowhere, or above a limit alone: no price to bring them
_BOUGHT_ROOM = 0.099  # of the sweetness, where bought chocolate stands in: a hair under 10 %
_AS_A_LAYERS = 3.0  # weight of the whole piece's sweetness and fat in a straight swap: layers do not make up for each other
_LEAST_G = 1e-5
_LESS = 0.98  # of what there was, that counts as less
_APART = 0.05  # of the piece: two proposals of which less is another are one
_TASTED_APART = 0.01  # the same, where other kinds of stand-ins taste of something else
# Of the version's sweetness, and g of fat in a g of the piece: beyond, a proposal is only made where there is no other.
_LEAST_SWEET, _LEAST_SWEET_OF_ALL, _MOST_FAT_OFF = 0.7, 0.5, 0.08
_DROPPED = frozenset({Property.MILK_SOLIDS, Property.SUGARS, Property.FIBRE})
_GOES_WITHOUT = "-without-"  # between a system and what another proposal of it goes without
_AT_HOME, _FROM_PARTS = ", chocolate ground at home", "-from-parts"
_NEARER = "nearer than any chocolate that is bought; wants a grinder"
_MOST_TRIES = 5
_ENOUGH = 2  # proposals that came near
_WORSE = 20.0  # of a miss, by which another proposal may be further off


@dataclass(frozen=True, slots=True, kw_only=True)
class AdaptedLine:
    """One line of a proposal: what it stands in for, and the swap it rests on; neither where it was there or is arithmetic."""

    ingredient_id: str
    name: str
    grams: float
    instead_of: tuple[str, ...]
    swap: Swap | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposal:
    """A whole version under the rules."""

    name: str
    system: str
    why: str
    formula: Formula
    lines: Mapping[str, tuple[AdaptedLine, ...]]  # by layer
    targets: tuple[Target, ...]
    miss: float
    load: float  # share of a single laxative dose in a serving
    cost: float | None
    doubtful: tuple[str, ...]  # ingredient ids that depend on their maker, or of which nobody knows what they are
    made: Whole
    unexplained: tuple[str, ...] = ()  # sentences on allergens of the label that no line of the version explains
    held_back: tuple[str, ...] = ()  # what keeps it from the version's sweetness and fat, and what would help


@dataclass(frozen=True, slots=True, kw_only=True)
class Adapted:
    """What adapting gave."""

    breaches: tuple[Breach, ...]  # of the version as it is
    proposals: tuple[Proposal, ...]
    left_out: tuple[LeftOut, ...]  # systems that gave none, and why
    unmet: Unmet | None  # where no system gave one
    bench: Bench  # what it was worked out with

    def held_back(self, should_stop: Callable[[], bool] = lambda: False) -> dict[str, tuple[str, ...]]:
        """What keeps each proposal from the version's sweetness and fat, by system; from what is worked out already.

        Raises:
            Stopped: should_stop said so.
        """
        bench = replace(self.bench, should_stop=should_stop)
        return {one.system: what_stops(one.made, bench) for one in self.proposals}


def adapted(
    formula: Formula,
    targets: Sequence[Target],
    rules: Sequence[Rule],
    reading: StudyReading,
    *,
    serving_g: float,
    forbidden: Collection[str] = (),
    required: Collection[str] = (),
    explain: bool = True,
    declared: Mapping[str, frozenset[str]] = NONE_DECLARED,
    should_stop: Callable[[], bool] = lambda: False,
    progress: Callable[[float], None] = lambda _: None,
) -> Adapted:
    """Up to three versions under rules, each of another system, the nearest to the version's own targets first.

    Args:
        formula: The version to adapt.
        targets: What it is held to; those that a rule makes pointless are let go.
        rules: All of which hold.
        reading: The study, with compositions, windows and variants.
        serving_g: What a serving weighs [g], above 0.
        forbidden: Ingredients that must not be used.
        required: Ingredients that layers must have, each as layer:ingredient by their ids.
        explain: Whether to find out what keeps proposals from being nearer, which takes as long again.
        declared: Allergens that the original's label declares, where the version is a copy of it; see `breaches`.
        should_stop: Asked before each solving.
        progress: Told the share done, 0 to 1.

    Raises:
        BadRule: what is required is what a rule or the choice refuses, what is refused is not in the pantry, or the version
        weighs
            nothing.
        Stopped: should_stop said so.
    """
    pantry = reading.pantry
    check_asked(formula, rules, reading, serving_g=serving_g, forbidden=forbidden, required=required)
    held_to = tuple(one for rule in rules for one in resolved(rule, formula, pantry))
    short = any(one.least and one.is_missed(amount_for(formula, one, pantry, serving_g)[0]) for one in held_to)
    bench = Bench(
        held_to,
        reading,
        serving_g,
        frozenset(forbidden),
        _pairs(required),
        short,
        allergens=held_in(formula, pantry) | set(reading.declared_allergens) | _NO_NEWS,
        should_stop=should_stop,
    )
    held = _held_to(formula, targets, bench)
    broken = breaches(formula, held_to, pantry, serving_g, declared)
    lost = still_lost(formula, pantry, in_lines_of(formula, declared))
    if all(untouched(layer, bench, None) for layer in formula.layers) and not any(not one.doubtful for one in broken):
        return Adapted(
            breaches=broken,
            proposals=(_with_unfound(_as_it_is(formula, held, bench), bench, lost),),
            left_out=(),
            unmet=None,
            bench=replace(bench, should_stop=never),
        )
    tried = _tried(formula, held, bench, progress)
    begun = [(one, _proposal(formula, one, bench)) for one in tried]
    made = sorted((one for _, one in begun if one is not None), key=lambda one: (one.name != STRAIGHT_SWAP, one.miss))
    kept = _different(_worth_eating(formula, made, pantry))
    kept = _bought_first(formula, held, kept, bench)
    if len(kept) == 1:
        kept += _another(formula, held, kept[0], bench)
    kept = [replace(one, held_back=what_stops(one.made, bench)) for one in kept[:MOST_PROPOSALS]] if explain else kept
    failed = [one for one, proposal in begun if proposal is None]
    return Adapted(
        breaches=broken,
        proposals=tuple(_with_unfound(one, bench, lost) for one in kept[:MOST_PROPOSALS]),
        left_out=left_out(formula, held, failed, bench, closely=len(kept) < 2),
        unmet=unmet(formula, held, tried, bench) if not kept else None,
        bench=replace(bench, should_stop=never),
    )


def _with_unfound(proposal: Proposal, bench: Bench, lost: Mapping[str, frozenset[str]]) -> Proposal:
    """A proposal that says which allergens nobody finds in it of those that nobody found in the version."""
    found = unfound(proposal.formula, bench.rules, bench.pantry, lost)
    return replace(proposal, unexplained=tuple(dict.fromkeys(one.sentence for one in found)))


def _as_it_is(formula: Formula, targets: Sequence[Target], bench: Bench) -> Proposal:
    """A version that holds already."""
    reached = tuple(with_got(target, formula, bench.reading) for target in targets)
    return Proposal(
        name=AS_IT_IS,
        system="as-it-is",
        why="nothing in it breaks the rule",
        formula=formula,
        lines={layer.layer_id: _lines(layer, layer, bench) for layer in formula.layers},
        targets=reached,
        miss=0.0,
        load=load_of_serving(formula, bench.pantry, bench.serving_g),
        cost=cost_of(formula.layers, bench.pantry),
        doubtful=_doubtful(formula, bench),
        made=Whole(system=None, solved=None),
    )


def check_asked(
    formula: Formula,
    rules: Sequence[Rule],
    reading: StudyReading,
    *,
    serving_g: float,
    forbidden: Collection[str] = (),
    required: Collection[str] = (),
) -> None:
    """Refuses what cannot be asked of a version, before anything long is begun.

    Args:
        formula: The version to adapt.
        rules: All of which are to hold.
        reading: The study.
        serving_g: What a serving weighs [g].
        forbidden: Ingredients that must not be used.
        required: Ingredients that layers must have, each as layer:ingredient.

    Raises:
        BadRule: the version weighs nothing, what is refused is not in the pantry, or what is required cannot be.
    """
    if formula.piece_g <= 0 or serving_g <= 0:
        raise BadRule("This version weighs nothing yet. Type its amounts, and it can be adapted.")
    empty = [layer.name for layer in formula.layers if layer.finished_g <= 0]
    if empty:
        raise BadRule(f"{', '.join(empty)} weighs nothing yet. Type its amounts, or take the layer out; then it can be adapted.")
    for key in forbidden:
        if key not in reading.pantry:
            raise BadRule(f"“{key}” is to be left out, but the pantry holds no such thing.")
    held_to = tuple(one for rule in rules for one in resolved(rule, formula, reading.pantry))
    _check_required(formula, Bench(held_to, reading, serving_g, frozenset(forbidden), _pairs(required)))


def _pairs(required: Collection[str]) -> frozenset[tuple[str, str]]:
    """Layer and ingredient of each."""
    return frozenset((layer, key) for layer, _, key in (one.partition(":") for one in required))


def _check_required(formula: Formula, bench: Bench) -> None:
    """Refuses what is required and cannot be: of a layer there is not, not in the pantry, or against a rule.

    Raises:
        BadRule: it cannot be.
    """
    for where, key in sorted(bench.required):
        food = bench.pantry.by_id.get(key)
        if all(layer.layer_id != where for layer in formula.layers):
            layers = ", ".join(layer.layer_id for layer in formula.layers)
            raise BadRule(f"“{where}:{key}”: an ingredient is required of a layer, by the ids of both. Layers are {layers}.")
        if food is None:
            raise BadRule(f"“{key}” is to be used, but the pantry does not hold it.")
        refusing = [rule.name for rule in bench.rules if rule.forbids(food)]
        barred = not_approved(key, bench.reading.study.region)
        why = "it is refused as well" if key in bench.forbidden else f"{refusing[0]} refuses it" if refusing else barred
        if why:
            raise BadRule(f"{food.name} is to be used, but {why}. Drop one of the two.")


def _tried(formula: Formula, targets: Sequence[Target], bench: Bench, progress: Callable[[float], None]) -> list[Whole]:
    """What each system makes of a version; once enough of them came near, the others only by their first choice."""
    found: list[Whole] = []
    trying = systems_for(bench)
    if not bench.of_sugar and not bench.short:
        straight = whole(formula, _for_straight(formula, targets, bench), None, bench.holding(STRAIGHT), thorough=True)
        if straight.solved is not None:
            found.append(replace(straight, straight=True))
    for at, system in enumerate(trying):
        progress(at / (len(trying) + 1))
        near = [one for one in found if one.solved is not None and one.solved.miss < NEAR]
        made = whole(formula, targets, system, bench, thorough=len(near) < _ENOUGH)
        missed = made.solved is None and not made.stuck
        if missed and bench.of_sugar and not bench.of_animals:  # the sugar of milk may be what is too much
            again = replace(whole(formula, targets, system, bench.with_plants()), with_plants=True)
            made = again if again.solved is not None or (made.passed and again.passed_g <= made.passed_g) else made
        found.append(made)
    return found


def _for_straight(formula: Formula, targets: Sequence[Target], bench: Bench) -> tuple[Target, ...]:
    """What a straight swap is held to: where chocolate is bought in another's place, its sweetness may move the piece's by 10 %.

    Worked example: a milk chocolate that is 13 % less sweet as vegan on a third of a bar takes 4 % off the whole; that is said,
    and no oats give way to syrup for it. What the version itself misses of its targets is not mended on the way.
    """
    families = bench.families.by_id
    swapped = any(
        (family := families.get(layer.family)) is not None and is_of_chocolate(family) and not untouched(layer, bench, None)
        for layer in formula.layers
    )
    found = []
    for target in targets:
        one = replace(target, weight=_AS_A_LAYERS) if target.layer_id is None else target
        if swapped and one.layer_id is None and one.what is Property.SWEETNESS:
            room = _BOUGHT_ROOM * one.wanted
            found.append(replace(one, low=max(0.0, one.wanted - room), high=one.wanted + room))
        else:
            has = with_got(one, formula, bench.reading).got
            found.append(replace(one, low=min(one.low, has), wanted=has, high=max(one.high, has)))
    return tuple(found)


def _held_to(formula: Formula, targets: Sequence[Target], bench: Bench) -> tuple[Target, ...]:
    """The version's own targets by layer without the label's, and without what the rule is about; the piece as it is."""
    dropped = {*_DROPPED, Property.PROTEIN} if bench.short else _DROPPED
    kept = [one for one in targets if isinstance(one.what, Property) and one.what not in dropped and one.counts]
    kept = [one for one in kept if one.layer_id is not None or one.what not in {Property.SWEETNESS, Property.FAT}]
    kept = [one for one in kept if one.what is not Property.MASS or one.wanted > 0]
    weighed = {one.layer_id for one in kept if one.what is Property.MASS}
    as_it_is = [_of_layer(layer) for layer in formula.layers if layer.layer_id not in weighed]
    if bench.of_animals or bench.of_sugar:
        kept = [replace(one, weight=0.3 * one.weight) if one.what is Property.PROTEIN else one for one in kept]
    sweet, fat = (amount_of(formula.layers, what, bench.pantry) for what in (Property.SWEETNESS, Property.FAT))
    whole_piece = (
        _of_piece(Property.SWEETNESS, "g of sugar", sweet, SWEETNESS_ROOM * sweet),
        _of_piece(Property.FAT, "g", fat, FAT_ROOM * formula.piece_g),
    )
    return (*(_wider(one) for one in kept), *as_it_is, *whole_piece)


def _of_layer(layer: FormulaLayer) -> Target:
    """The weight a layer has, of one whose wanted weight was not read."""
    weight = layer.finished_g
    return Target(
        id=f"{layer.layer_id}-as-it-is",
        name=f"Weight, {layer.name}",
        title="Weight",
        whose=layer.name,
        unit="g",
        layer_id=layer.layer_id,
        what=Property.MASS,
        low=weight,
        wanted=weight,
        high=weight,
        weight=1.0,
    )


def _of_piece(what: Property, unit: str, wanted: float, room: float) -> Target:
    return Target(
        id=f"piece-{what.value}",
        name=f"{what.value.capitalize()}, {WHOLE_PIECE}",
        title=what.value.capitalize(),
        whose=WHOLE_PIECE,
        unit=unit,
        layer_id=None,
        what=what,
        low=max(0.0, wanted - room),
        wanted=wanted,
        high=wanted + room,
        weight=price("whole sweetness and fat under rules"),
    )


def _wider(target: Target) -> Target:
    """A layer's sweetness within 5 %: what a rule may move."""
    if target.what is Property.SWEETNESS:
        room = max(target.tolerance, SWEETNESS_ROOM * target.wanted)
        return replace(target, low=max(0.0, target.wanted - room), high=target.wanted + room)
    return target


def _another(formula: Formula, targets: Sequence[Target], only: Proposal, bench: Bench) -> list[Proposal]:
    """Where all systems come to one proposal: a second, without an ingredient that the first rests on."""
    before = {line.ingredient_id for layer in formula.layers for line in layer.ingredients}
    new = [line for layer in only.formula.layers for line in layer.ingredients if line.ingredient_id not in before]
    for line in sorted(new, key=lambda one: -one.grams)[:_MOST_TRIES]:
        fewer = bench.without(line.ingredient_id)
        found = _proposal(formula, whole(formula, targets, only.made.system, fewer), fewer)
        if found is None or found.miss > only.miss + _WORSE or not _differ(only, found):
            continue
        if _shades(found.formula, bench) != _shades(only.formula, bench):  # a white coat is white, and no dark one
            continue
        name = f"{line.name[0].lower()}{line.name[1:]}".split(" (")[0]
        other = f"Without {name}"
        why = f"for where there is no {name}"
        return [replace(found, name=other, system=f"{only.system}{_GOES_WITHOUT}{line.ingredient_id}", why=why)]
    return []


def _shades(formula: Formula, bench: Bench) -> list[set[Shade | None]]:
    """By layer, the shades of the chocolates in it."""
    foods = ([bench.pantry.by_id.get(line.ingredient_id) for line in layer.ingredients] for layer in formula.layers)
    return [{shade(one) for one in layer} - {None} for layer in foods]


def _bought_first(formula: Formula, targets: Sequence[Target], found: list[Proposal], bench: Bench) -> list[Proposal]:
    """Beside the first that has chocolate ground at home the same with what can be bought, though it comes less near.

    What is bought stands first, by how near it comes; what is ground at home comes after it. A straight swap is of what is
    bought, and nothing else.
    """
    for at, one in enumerate(found):
        if not _grinds(formula, one, bench):
            continue
        straight = one.made.straight
        buying = bench.buying().holding(STRAIGHT) if straight else bench.buying()
        buying = buying.with_plants() if one.made.with_plants else buying
        held = _for_straight(formula, targets, bench) if straight else targets
        made = replace(whole(formula, held, one.made.system, buying), straight=straight, with_plants=one.made.with_plants)
        bought = _proposal(formula, made, buying)
        if bought is None or _grinds(formula, bought, bench) or not _differ(bought, one):
            return _grinding_last(formula, found, bench)
        if len(_worth_eating(formula, [bought, one], bench.pantry)) < len((bought, one)):
            return _grinding_last(formula, found, bench)
        if straight:
            return [*found[:at], bought, *found[at + 1 :]]
        at_home = replace(one, name=f"{one.name}{_AT_HOME}", system=f"{one.system}{_FROM_PARTS}", why=_NEARER)
        at_home = replace(at_home, formula=replace(one.formula, name=at_home.name))
        others = [each for each in found if each is not one]
        if not all(_differ(bought, each) for each in others):
            return _grinding_last(formula, found, bench)
        nearest = sorted([*others, bought], key=lambda each: (each.name != STRAIGHT_SWAP, each.miss))
        return _grinding_last(formula, [*nearest, at_home], bench)
    return found


def _grinding_last(formula: Formula, found: Sequence[Proposal], bench: Bench) -> list[Proposal]:
    """What buys its chocolate before what is ground at home, in the order that each has."""
    return sorted(found, key=lambda one: _grinds(formula, one, bench))


def _grinds(before: Formula, proposal: Proposal, bench: Bench) -> bool:
    """Whether chocolate that the version buys is made from its parts."""
    known = bench.families.by_id
    pairs = [
        (known.get(one.family), known.get(now.family)) for one, now in zip(before.layers, proposal.formula.layers, strict=True)
    ]
    return any(was is not None and now is not None and is_of_chocolate(was) and now.made == FROM_PARTS for was, now in pairs)


def _proposal(formula: Formula, made: Whole, bench: Bench) -> Proposal | None:
    """A system's version; none where nothing fits or a rule is broken by a hair."""
    if made.solved is None:
        return None
    solved, system = made.solved, made.system
    bench = bench.with_plants() if made.with_plants else bench
    found = _without_crumbs(solved.formula)
    if any(not one.doubtful for one in breaches(found, bench.rules, bench.pantry, bench.serving_g)):
        return None
    name, why = (system.name, system.why) if system is not None else ("Other amounts", "")
    if made.straight:
        name, why = STRAIGHT_SWAP, "only what breaks the rule gives way"
    elif system is not None and not _shows(system, formula, found):
        name, why = OTHER_AMOUNTS, "what the rule leaves, in other amounts"
    return Proposal(
        name=name,
        system="straight" if made.straight else system.id if system is not None else "",
        why=why,
        formula=replace(found, name=name),
        lines={
            layer.layer_id: _lines(layer, next(one for one in formula.layers if one.layer_id == layer.layer_id), bench)
            for layer in found.layers
        },
        targets=solved.targets,
        miss=solved.miss,
        load=load_of_serving(found, bench.pantry, bench.serving_g),
        cost=cost_of(found.layers, bench.pantry),
        doubtful=_doubtful(found, bench),
        made=made,
    )


def _doubtful(formula: Formula, bench: Bench) -> tuple[str, ...]:
    """Ingredients whose makers must be asked, and those that the pantry does not hold."""
    lines = {line.ingredient_id for layer in formula.layers for line in layer.ingredients if line.there}
    foods = {key: bench.pantry.by_id.get(key) for key in sorted(lines)}
    return tuple(key for key, food in foods.items() if food is None or any(rule.doubts(food) for rule in bench.rules))


def _shows(system: System, before: Formula, after: Formula) -> bool:
    """Whether anything of a system came into a version, which is named after it only then."""
    was = {line.ingredient_id for layer in before.layers for line in layer.ingredients}
    theirs = system.members or own_stand_ins(system)
    now = {line.ingredient_id for layer in after.layers for line in layer.ingredients}
    return not theirs.isdisjoint(now - was)


def load_of_serving(formula: Formula, pantry: Pantry, serving_g: float) -> float:
    """Polyols, allulose and fibre of a serving, as a share of what often upsets a stomach; 1 is a single dose.

    Args:
        formula: As read.
        pantry: Compositions.
        serving_g: What a serving weighs [g].
    """
    amounts = ((line.ingredient_id, line.grams) for layer in formula.layers for line in layer.ingredients)
    return load_of(amounts, pantry) * serving_g / formula.piece_g if formula.piece_g > 0 else 0.0


def _without_crumbs(formula: Formula) -> Formula:
    """A formula without lines of next to nothing."""
    return replace(
        formula,
        layers=tuple(
            replace(layer, ingredients=tuple(line for line in layer.ingredients if line.grams > _LEAST_G or line.unread))
            for layer in formula.layers
        ),
    )


def _both(key: str, families: Sequence[str]) -> list[Swap]:
    """The swaps that take an ingredient's place in one family or the other."""
    return [swap for family in families for swap in swaps_for(key, family)]


def _lines(layer: FormulaLayer, before: FormulaLayer, bench: Bench) -> tuple[AdaptedLine, ...]:
    """Each line with what it stands in for: what was there and is gone, or is less, and a swap ties to it."""
    was = {line.ingredient_id: line.grams for line in before.ingredients}
    now = {line.ingredient_id: line.grams for line in layer.ingredients}
    gone = [key for key, grams in was.items() if now.get(key, 0.0) < 0.6 * grams]
    makes_room = [key for key, grams in was.items() if now.get(key, 0.0) < _LESS * grams]
    less = makes_room if bench.short else []  # for protein
    found = []
    for line in layer.ingredients:
        swap: Swap | None = None
        instead: tuple[str, ...] = ()
        if line.ingredient_id not in was:
            by = [layer.family, before.family]
            tied = [(one, key) for key in less for one in _both(key, by) if one.kind == "p" and line.ingredient_id in one.to]
            for family in by:  # only by what the rules call for: no protein powder where no protein was asked for
                goes = [(one, key) for key in gone for one in swaps_for(key, family) if bench.calls_for(one.kind)]
                tied = tied or [(one, key) for one, key in goes if line.ingredient_id in one.to]
            used = [(one, key) for one, key in tied if one.to[0] in now and one.to[0] not in was]  # by its main stand-in
            if used:
                swap = max(used, key=lambda pair: (pair[0].to[0] == line.ingredient_id, was[pair[1]]))[0]
            instead = tuple(dict.fromkeys(key for one, key in used or tied))
        found.append(
            AdaptedLine(ingredient_id=line.ingredient_id, name=line.name, grams=line.grams, instead_of=instead, swap=swap)
        )
    return tuple(found)


def _worth_eating(before: Formula, found: list[Proposal], pantry: Pantry) -> list[Proposal]:
    """Without what is another sweet, where there is something else: much less sweet, or much fatter or leaner."""

    def of(formula: Formula, what: Property) -> float:
        return amount_of(formula.layers, what, pantry) / formula.piece_g if formula.piece_g > 0 else 0.0

    def holds(one: Proposal, least_sweet: float, fat_room: float) -> bool:
        fat = abs(of(one.formula, Property.FAT) - of(before, Property.FAT))
        sweet = of(one.formula, Property.SWEETNESS)
        return sweet >= least_sweet * of(before, Property.SWEETNESS) and fat <= fat_room

    for least, room in ((_LEAST_SWEET, _MOST_FAT_OFF), (_LEAST_SWEET_OF_ALL, 1.0)):
        kept = [one for one in found if holds(one, least, room)]
        if kept:
            return kept
    return found


def _different(found: Sequence[Proposal]) -> list[Proposal]:
    """Proposals that are not of the same ingredients; of those that bear no system's sign only one."""
    kept: list[Proposal] = []
    straight = any(one.name == STRAIGHT_SWAP for one in found)
    for one in found:
        if straight and one.name == OTHER_AMOUNTS:
            continue
        if all(one.name != other.name and _differ(one, other) for other in kept):
            kept.append(one)
    return kept


def _differ(a: Proposal, b: Proposal) -> bool:
    """Whether so much of the piece is something else that one would taste it, or what stands in tastes of something else."""
    grams: list[dict[tuple[str, str], float]] = [{}, {}]
    for one, found in zip((a, b), grams, strict=True):
        for layer in one.formula.layers:
            for line in layer.ingredients:
                key = layer.layer_id, line.ingredient_id
                found[key] = found.get(key, 0.0) + line.grams
    apart = sum(abs(grams[0].get(key, 0.0) - grams[1].get(key, 0.0)) for key in {*grams[0], *grams[1]}) / 2 / a.formula.piece_g
    kinds = [
        {line.swap.id for lines in one.lines.values() for line in lines if line.swap is not None and line.swap.changes}
        for one in (a, b)
    ]
    return apart >= _APART or (apart >= _TASTED_APART and kinds[0] != kinds[1])
