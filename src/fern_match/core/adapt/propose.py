"""Proposals: a version worked out anew under rules, once for each system that can carry it.

Worked example: a caramel under sugar-free in the US: cream and butter stay, sugar and syrup give way to maltitol and its syrup
(one proposal), to allulose and fibre (another); each layer is solved alone for its family, then the piece for the limit it
shares.
"""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.adapt.bench import Bench, systems_for
from fern_match.core.adapt.limits import piece_limits
from fern_match.core.adapt.one_layer import LEAST_G, PARTS, best_layer
from fern_match.core.adapt.rules import Breach, Rule, amount_for, breaches
from fern_match.core.adapt.swaps import Swap, System, swaps_for
from fern_match.core.families import Families
from fern_match.core.food import Pantry, load_per_gram
from fern_match.core.formulate import (
    Formula,
    FormulaIngredient,
    FormulaLayer,
    Property,
    Room,
    Solved,
    Target,
    cost_of,
    solve,
)
from fern_match.core.formulate.properties import amount_of
from fern_match.core.study.reading import StudyReading

MOST_PROPOSALS = 3
_WIDER = (1.4, 2.0, 4.0, 10.0, 30.0)  # how far a limit that cannot be met is widened, to find the nearest that can
_LEAST_LIMIT = 0.05  # from which widening begins [g]
_BY_THE_GRAIN = frozenset({"flavour", "salt", "intense-sweetener", "emulsifier", "leavening", "gelling", "colour", "acid"})
_WORTH = 0.003  # of the piece: less of an ingredient makes no other proposal
_LEAST_SWEET = 0.5  # of the version's sweetness, below which a proposal is only made where there is no other
_NEAR = 3.0  # of a miss, below which nothing else is tried
_ATTEMPTS = ((True, PARTS[:1]), (True, PARTS), (False, PARTS[:1]), (False, PARTS))  # families made for it first; parts
_DROPPED = frozenset({Property.MILK_SOLIDS, Property.SUGARS, Property.FIBRE, Property.WATER})


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
    doubtful: tuple[str, ...]  # ingredient ids that depend on their maker


@dataclass(frozen=True, slots=True, kw_only=True)
class Unmet:
    """A rule that cannot be met, and the nearest that can."""

    rule: str
    because: str
    nearest: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Adapted:
    """What adapting gave."""

    breaches: tuple[Breach, ...]  # of the version as it is
    proposals: tuple[Proposal, ...]
    unmet: Unmet | None


def adapted(
    formula: Formula,
    targets: Sequence[Target],
    rules: Sequence[Rule],
    *,
    reading: StudyReading,
    pantry: Pantry,
    families: Families,
    serving_g: float,
    forbidden: Collection[str] = (),
    required: Collection[str] = (),
) -> Adapted:
    """Up to three versions under rules, each of another system, the nearest to the version's own targets first.

    Args:
        formula: The version to adapt.
        targets: What it is held to; those that a rule makes pointless are let go.
        rules: All of which hold.
        reading: The study.
        pantry: Compositions.
        families: Windows and variants.
        serving_g: What a serving weighs [g], above 0.
        forbidden: Ingredients that must not be used.
        required: Ingredients that must stay where they are.
    """
    resolved = tuple(_resolved(rule, formula, pantry) for rule in rules)
    bench = Bench(resolved, reading, pantry, families, serving_g, frozenset(forbidden), frozenset(required))
    found = breaches(formula, resolved, pantry, serving_g)
    held = _held_to(targets, bench)
    proposals = [one for system in systems_for(bench) for one in [_proposal(formula, held, system, bench)] if one is not None]
    different = _different(_worth_eating(formula, sorted(proposals, key=lambda one: one.miss), pantry))
    unmet = _unmet(formula, held, bench) if not different else None
    return Adapted(breaches=found, proposals=tuple(different[:MOST_PROPOSALS]), unmet=unmet)


def _resolved(rule: Rule, formula: Formula, pantry: Pantry) -> Rule:
    """A rule that compares with the version, as a limit in grams a piece."""
    if rule.basis != "share" or rule.limit is None:
        return rule
    whole = replace(rule, basis="piece")
    got, _ = amount_for(formula, whole, pantry, formula.piece_g)
    return replace(whole, limit=got * (1 - rule.limit), whole=got)


def _held_to(targets: Sequence[Target], bench: Bench) -> tuple[Target, ...]:
    """The version's own targets without the label's, and without what the rule is about."""
    kept = [one for one in targets if isinstance(one.what, Property) and one.what not in _DROPPED]
    if bench.of_animals or bench.of_sugar:
        kept = [replace(one, weight=0.3 * one.weight) if one.what is Property.PROTEIN else one for one in kept]
    return tuple(_wider(one) for one in kept)


def _wider(target: Target) -> Target:
    """Fat within 2 g in 100 g and sweetness within 5 %: what a rule may move."""
    if target.what is Property.SWEETNESS:
        room = max(target.tolerance, 0.05 * target.wanted)
        return replace(target, low=max(0.0, target.wanted - room), high=target.wanted + room)
    return target


def _proposal(
    formula: Formula, targets: Sequence[Target], system: System | None, bench: Bench, *, quick: bool = False
) -> Proposal | None:
    """A system's version, by the first attempt that comes near; quickly: by the one that finds something most often."""
    named = replace(formula, name=system.name if system is not None else "Other amounts")
    tried: list[Solved] = []
    for grouped, parts in _ATTEMPTS[-1:] if quick else _ATTEMPTS:
        if tried and not grouped:
            break
        solved = _of_layers(named, targets, system, bench, parts, grouped=grouped)
        tried += [solved] if solved is not None else []
        if solved is not None and solved.miss < _NEAR:
            break
    if not tried:
        return None
    solved = min(tried, key=lambda one: one.miss)
    name = named.name
    found = _without_crumbs(solved.formula, LEAST_G)
    if breaches(found, bench.rules, bench.pantry, bench.serving_g):
        return None
    return Proposal(
        name=name,
        system=system.id if system is not None else "",
        why=system.why if system is not None else "",
        formula=found,
        lines={
            layer.layer_id: _lines(layer, next(one for one in formula.layers if one.layer_id == layer.layer_id))
            for layer in found.layers
        },
        targets=solved.targets,
        miss=solved.miss,
        load=load_of(found, bench.pantry, bench.serving_g),
        cost=cost_of(found.layers, bench.pantry),
        doubtful=tuple(
            dict.fromkeys(
                line.ingredient_id
                for layer in found.layers
                for line in layer.ingredients
                if any(rule.doubts(bench.pantry[line.ingredient_id]) for rule in bench.rules)
            )
        ),
    )


def _of_layers(
    formula: Formula,
    targets: Sequence[Target],
    system: System | None,
    bench: Bench,
    parts: Sequence[float],
    *,
    grouped: bool,
) -> Solved | None:
    """Each layer's best choice, then all layers together; where those do not share a limit, everything that was on offer."""
    chosen, offered = [], []
    for layer in formula.layers:
        option = best_layer(formula, layer, targets, system, bench, parts, grouped=grouped)
        if option is None:
            return None
        chosen.append(option[0])
        offered.append(option[1])
    solved = _together(replace(formula, layers=tuple(chosen)), targets, bench)
    if solved is not None:
        return solved
    solved = _together(replace(formula, layers=tuple(offered)), targets, bench)
    return _together(_without_crumbs(solved.formula), targets, bench) or solved if solved is not None else None


def load_of(formula: Formula, pantry: Pantry, serving_g: float) -> float:
    """Polyols, allulose and fibre of a serving, as a share of what often upsets a stomach; 1 is a single dose.

    Args:
        formula: As read.
        pantry: Compositions.
        serving_g: What a serving weighs [g].
    """
    load = sum(
        line.grams * load_per_gram(pantry[line.ingredient_id])
        for layer in formula.layers
        for line in layer.ingredients
        if line.ingredient_id in pantry
    )
    return load * serving_g / formula.piece_g if formula.piece_g > 0 else 0.0


def _together(begun: Formula, targets: Sequence[Target], bench: Bench) -> Solved | None:
    """All layers solved at once, for what the piece shares a limit of; None where nothing fits."""
    room = Room(
        free=[layer.layer_id for layer in begun.layers], keep=False, limits=piece_limits(begun, targets, bench), explain=False
    )
    solved = solve(begun, targets, room, reading=bench.reading, pantry=bench.pantry, families=bench.families)
    return solved if solved.impossible is None else None


def _without_crumbs(formula: Formula, share: float = _WORTH) -> Formula:
    """A formula without lines that are too little to weigh; sweeteners by the milligram stay.

    Args:
        share: Of its layer, from which a line counts [g/g].
    """

    def counts(line: FormulaIngredient, layer: FormulaLayer) -> bool:
        least = LEAST_G if line.role in _BY_THE_GRAIN else max(LEAST_G, share * layer.added_g)
        return line.grams > (LEAST_G if share <= LEAST_G else least)

    return replace(
        formula,
        layers=tuple(
            replace(layer, ingredients=tuple(line for line in layer.ingredients if counts(line, layer)))
            for layer in formula.layers
        ),
    )


def _lines(layer: FormulaLayer, before: FormulaLayer) -> tuple[AdaptedLine, ...]:
    """Each line with what it stands in for: what was there and is gone, or is less, and a swap ties to it."""
    was = {line.ingredient_id: line.grams for line in before.ingredients}
    now = {line.ingredient_id: line.grams for line in layer.ingredients}
    gone = [key for key, grams in was.items() if now.get(key, 0.0) < 0.6 * grams]
    found = []
    for line in layer.ingredients:
        swap: Swap | None = None
        instead: tuple[str, ...] = ()
        if line.ingredient_id not in was:
            tied = [(one, key) for key in gone for one in swaps_for(key, layer.family) if line.ingredient_id in one.to]
            tied = tied or [(one, key) for key in gone for one in swaps_for(key, before.family) if line.ingredient_id in one.to]
            if tied:
                swap = tied[0][0]
                instead = tuple(dict.fromkeys(key for one, key in tied))
        found.append(
            AdaptedLine(ingredient_id=line.ingredient_id, name=line.name, grams=line.grams, instead_of=instead, swap=swap)
        )
    return tuple(found)


def _worth_eating(before: Formula, found: list[Proposal], pantry: Pantry) -> list[Proposal]:
    """Without what loses more than half of its sweetness, where there is something else."""

    def sweetness(formula: Formula) -> float:
        return amount_of(formula.layers, Property.SWEETNESS, pantry) / formula.piece_g if formula.piece_g > 0 else 0.0

    return [one for one in found if sweetness(one.formula) >= _LEAST_SWEET * sweetness(before)] or found


def _different(found: Sequence[Proposal]) -> list[Proposal]:
    """Proposals that are not of the same ingredients."""
    kept: list[Proposal] = []
    for one in found:
        if all(_differ(one.formula, other.formula) for other in kept):
            kept.append(one)
    return kept


def _differ(a: Formula, b: Formula) -> bool:
    """Whether one holds something worth a line that the other does not."""
    names = []
    for formula in (a, b):
        least = _WORTH * formula.piece_g
        names.append(
            {(layer.layer_id, line.ingredient_id) for layer in formula.layers for line in layer.ingredients if line.grams > least}
        )
    return bool(names[0] ^ names[1])


def _unmet(formula: Formula, targets: Sequence[Target], bench: Bench) -> Unmet:
    """Which rule stands in the way, and what can be reached: each is let go in turn, a limit is widened step by step."""
    for rule in bench.rules:
        others = tuple(one for one in bench.rules if one is not rule)
        if rule.limit is not None:
            for times in _WIDER:
                most = round(max(rule.limit, _LEAST_LIMIT) * times, 2)
                wider = replace(rule, limit=most)
                trial = replace(bench, rules=(*others, wider))
                if any(_proposal(formula, targets, system, trial, quick=True) is not None for system in systems_for(trial)):
                    wanted = f"{rule.measure.capitalize()} cannot be brought to {rule.limit:g} g a {rule.basis}"
                    return Unmet(
                        rule=rule.id,
                        because=f"{wanted} here; {most:g} g can be reached.",
                        nearest=wider.asked,
                    )
        elif others and any(
            _proposal(formula, targets, system, replace(bench, rules=others), quick=True) is not None
            for system in systems_for(replace(bench, rules=others))
        ):
            return Unmet(
                rule=rule.id,
                because=f"{rule.name} cannot be met together with the other rules with what the pantry holds.",
                nearest=", ".join(one.id for one in others),
            )
    stuck = [
        layer.name
        for layer in formula.layers
        if all(best_layer(formula, layer, targets, system, bench, PARTS) is None for system in systems_for(bench))
    ]
    which = (
        f"{stuck[0]} has no stand-ins in the pantry that keep" if stuck else "No stand-ins in the pantry keep the layers together"
    )
    return Unmet(rule=bench.rules[0].id, because=f"{which} within what {'its' if stuck else 'a'} family takes.", nearest="")
