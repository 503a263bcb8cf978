"""Why a system gives no proposal, what would have to give, and the nearest rule that can be met.

Worked example: net carbohydrate at most 5 g a piece, and amounts that come nearest still hold 6.2 g: solved again with 6.2 g
allowed it fits, so `keto:6.2` is the nearest rule.
"""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from fern_match.core.adapt.asking import rules_of
from fern_match.core.adapt.bench import Bench, barred_systems, systems_for
from fern_match.core.adapt.limits import LOAD, limit_id
from fern_match.core.adapt.options import why_stuck
from fern_match.core.adapt.rules import ENERGY, OF_ENERGY, Rule, amount_for, breaches
from fern_match.core.adapt.whole import Whole, whole
from fern_match.core.food import Ingredient
from fern_match.core.formulate import Formula, Target

_SUGAR_FREE, _NO_ADDED = "sugar-free", "no-added-sugar"
_HIGH, _SOURCE = "high-protein", "source-of-protein"
_LESSER = {  # a claim, the one beside it, and what to say of that
    _SUGAR_FREE: (_NO_ADDED, "“No added sugar” holds as it is.", "“No added sugar” can be met: that is sugar of their own."),
    _HIGH: (_SOURCE, "“Source of protein” holds as it is.", "“Source of protein” can be met."),
}
_TRIES = (1.0, 1.05, 1.2, 1.5, 2.0)  # of what linear programs reach: whole lines take a little more
_MORE = 1.001
_LEAST_LIMIT = 0.01  # g
_WORTH_SAYING = 0.15  # of what is left


@dataclass(frozen=True, slots=True, kw_only=True)
class Unmet:
    """A rule that cannot be met, and the nearest that can."""

    rule: str
    because: str
    nearest: str  # how to ask for it, with all that can be kept beside it, each after a comma; empty where nothing near was found
    nearest_words: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class LeftOut:
    """A system that gives no proposal, and why."""

    system: str
    name: str
    because: str


def left_out(
    formula: Formula, targets: Sequence[Target], failed: Sequence[Whole], bench: Bench, *, closely: bool
) -> tuple[LeftOut, ...]:
    """Why systems give no proposal.

    Args:
        formula: The version.
        targets: What it is held to.
        failed: What the systems made of it.
        bench: The rules.
        closely: Whether to find out what would have to give where a layer has no family; that takes a while.
    """
    found = [
        LeftOut(
            system=one.system.id if one.system is not None else "",
            name=one.system.name if one.system is not None else "Other amounts",
            because=_because(formula, targets, one, bench, closely=closely),
        )
        for one in failed
    ]
    barred = [
        LeftOut(system=system.id, name=system.name, because=f"{why[0].upper()}{why[1:]}.")
        for system, why in barred_systems(bench)
    ]
    return (*found, *barred)


def _because(formula: Formula, targets: Sequence[Target], made: Whole, bench: Bench, *, closely: bool) -> str:
    if made.stuck:
        layer = next(one for one in formula.layers if one.layer_id == made.stuck[0])
        why = why_stuck(formula, layer, targets, made.system, bench) if closely else ""
        return why or f"No family takes what the rules leave for {layer.name}."
    said = [_passed(key, grams, formula, bench) for key, grams in (made.passed or {}).items()]
    return " ".join(said) or "No amounts keep all layers within what their families take."


def _passed(key: str, grams: float, formula: Formula, bench: Bench) -> str:
    if key == LOAD:
        doses = 1 + grams * bench.serving_g / formula.piece_g
        return f"A serving of {bench.serving_g:.3g} g would hold {doses:.2g} times what often upsets a stomach."
    rule = next(one for one in bench.rules if limit_id(one) == key)
    edge = "most" if rule.least else "least"
    return f"{rule.measure.capitalize()} {_reached(rule, grams, formula, bench):.3g} {rule.unit} {rule.a_basis} at the {edge}."


def _reached(rule: Rule, grams: float, formula: Formula, bench: Bench) -> float:
    """What of a limit's measure is left, or of a least is there, on its basis [g, or % of the energy, about]."""
    if rule.basis == OF_ENERGY:
        kcal, _ = amount_for(formula, replace(rule, measure=ENERGY, basis="piece"), bench.pantry, bench.serving_g)
        return max(0.0, (rule.limit or 0.0) - (100 * grams / kcal if kcal > 0 else 0.0))
    if rule.least:
        return max(0.0, (rule.limit or 0.0) - grams * rule.basis_g(formula.piece_g, bench.serving_g) / formula.piece_g)
    return (rule.limit or 0.0) + grams * rule.basis_g(formula.piece_g, bench.serving_g) / formula.piece_g


def unmet(formula: Formula, targets: Sequence[Target], tried: Sequence[Whole], bench: Bench) -> Unmet:
    """Which rule stands in the way, and what can be met instead: found by solving again.

    Args:
        formula: The version.
        targets: What it is held to.
        tried: What each system made of it: nothing.
        bench: The rules.
    """
    nearest = (
        _by_another_claim(formula, targets, bench)
        or _by_a_wider_limit(formula, targets, tried, bench)
        or _by_fewer_rules(formula, targets, bench)
    )
    if nearest is not None:
        return nearest
    best = min(tried, key=lambda one: (len(one.stuck), one.passed_g))
    return Unmet(rule=bench.rules[0].id, because=_because(formula, targets, best, bench, closely=True), nearest="")


def _by_another_claim(formula: Formula, targets: Sequence[Target], bench: Bench) -> Unmet | None:
    """A lesser claim that holds: what nuts, fruit and coconut hold of their own is no added sugar."""
    for rule in bench.rules:
        if rule.id not in _LESSER:
            continue
        lesser, holds, can_be_met = _LESSER[rule.id]
        other = rules_of([lesser], bench.reading.study.region, bench.pantry)
        trial = bench.under([*other, *(one for one in bench.rules if one is not rule)])
        asked, words = _together(trial.rules, bench, lesser)
        wanted = f"{rule.measure.capitalize()} cannot be brought to {rule.limit:g} {rule.unit} {rule.a_basis} here."
        if not breaches(formula, trial.rules, bench.pantry, bench.serving_g):
            because = " ".join(filter(None, (wanted, _what_holds(formula, rule, bench), holds)))
            return Unmet(rule=rule.id, because=because, nearest=asked, nearest_words=words)
        for system in systems_for(trial):
            met = whole(formula, targets, system, trial).solved
            if met is not None:
                because = " ".join(filter(None, (wanted, _what_holds(met.formula, rule, bench), can_be_met)))
                return Unmet(rule=rule.id, because=because, nearest=asked, nearest_words=words)
    return None


def _by_a_wider_limit(formula: Formula, targets: Sequence[Target], tried: Sequence[Whole], bench: Bench) -> Unmet | None:
    """The system that passes a rule's limit by least, solved again with that much allowed."""
    near = sorted((one for one in tried if one.passed), key=lambda one: one.passed_g)
    for made in near:
        for rule in bench.rules:
            grams = (made.passed or {}).get(limit_id(rule))
            if grams is None or len(made.passed or {}) > 1:
                continue
            reached = _reached(rule, grams, formula, bench)
            for times in _TRIES:
                wider = replace(rule, limit=_wider(rule, reached, times))
                trial = bench.under([wider if one is rule else one for one in bench.rules]).with_plants()
                met = whole(formula, targets, made.system, trial).solved
                if met is not None:
                    wanted = f"{rule.measure.capitalize()} cannot be brought to {rule.limit:g} {rule.unit} {rule.a_basis} here"
                    because = (
                        f"{wanted}; {wider.limit:g} {rule.unit} can be reached. {_what_holds(met.formula, rule, bench)}".strip()
                    )
                    asked, words = _together([wider if one is rule else one for one in bench.rules], bench)
                    return Unmet(rule=rule.id, because=because, nearest=asked, nearest_words=words)
    return None


def _what_holds(formula: Formula, rule: Rule, bench: Bench) -> str:
    """Which ingredients hold most of what a rule limits, in a formula that comes nearest; of a share of the energy, which hold
    most of the energy that comes with too little of it."""
    if rule.least and rule.basis != OF_ENERGY:
        return ""
    parts = [
        (line.grams * _weighs(rule, bench.pantry[line.ingredient_id]), f"{line.name} in {layer.name}")
        for layer in formula.layers
        for line in layer.ingredients
        if line.ingredient_id in bench.pantry
    ]
    total = sum(grams for grams, _ in parts)
    most = sorted(parts, reverse=True)[:2]
    worth = [(100 * grams / total, words) for grams, words in most if grams > _WORTH_SAYING * total]
    if rule.least:
        said = [f"{share:.0f} % is in {words}" for share, words in worth]
        return f"Of the energy that comes with too little {rule.measure} {' and '.join(said)}." if said else ""
    said = [f"{share:.0f} % of it is in {words}" for share, words in worth]
    return f"{' and '.join(said)}." if said else ""


def _weighs(rule: Rule, food: Ingredient) -> float:
    return max(0.0, rule.short_by(food)) if rule.least else rule.measured(food)


def _together(rules: Sequence[Rule], bench: Bench, claim: str = "") -> tuple[str, str]:
    """How to ask for several rules, and what they are called; what goes with a share by itself is not asked for.

    Args:
        rules: As resolved.
        bench: Region and pantry.
        claim: One of them that is asked for without its limit.
    """
    told = [(claim, one.name) if one.id == claim else (one.asked, _named(one, bench)) for one in rules if one.asked]
    return ", ".join(asked for asked, _ in told), " and ".join(words for _, words in told)


def _named(rule: Rule, bench: Bench) -> str:
    """A rule as it would be called where it was asked for with its limit."""
    asked = rule.asked
    name = rules_of([asked], bench.reading.study.region, bench.pantry)[0].name if asked else rule.name
    of_a_share = rule.whole is not None  # its grams are of this piece, and no limit that anybody asked for
    return (
        name
        if rule.limit is None or of_a_share or any(sign.isdigit() for sign in name)
        else f"{name} at {rule.limit:g} {rule.unit}"
    )


def _wider(rule: Rule, reached: float, times: float) -> float:
    """A limit that is a little easier than what linear programs reach, to two digits."""
    if rule.least:
        return _to_two_digits(max(reached / (_MORE * times), _LEAST_LIMIT), math.floor)
    return _to_two_digits(max(_MORE * reached * times, _LEAST_LIMIT), math.ceil)


def _to_two_digits(value: float, rounded: Callable[[float], int]) -> float:
    """To two digits, upwards or downwards."""
    step = 10.0 ** (math.floor(math.log10(value)) - 1)
    hair = -1e-9 if rounded is math.ceil else 1e-9
    return round(rounded(value / step + hair) * step, 6)


def _by_fewer_rules(formula: Formula, targets: Sequence[Target], bench: Bench) -> Unmet | None:
    """One rule let go, so that the others fit."""
    for rule in bench.rules if len(bench.rules) > 1 else ():
        others = [one for one in bench.rules if one is not rule]
        fewer = bench.under(others)
        if any(whole(formula, targets, system, fewer).solved is not None for system in systems_for(fewer)):
            because = f"{rule.name} cannot be met together with the other rules with what the pantry holds."
            asked, words = _together(others, bench)
            return Unmet(rule=rule.id, because=because, nearest=asked, nearest_words=words)
    return None
