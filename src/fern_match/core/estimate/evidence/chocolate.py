"""Rules of law for a chocolate that the statement opens into its parts."""

import numpy as np

from fern_match.core.estimate.problem import Part, Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.terms import Evidence, Kind, LimitsTerm
from fern_match.core.families import ChocolateRule, chocolate_rules
from fern_match.core.food import Nutrient

_RULE_SD = 0.15  # g per 100 g of piece
_CONTENT = {
    "cocoa": (Nutrient.COCOA_BUTTER, Nutrient.COCOA_SOLIDS_NONFAT),
    "cocoa butter": (Nutrient.COCOA_BUTTER,),
    "milk": (Nutrient.MILK_FAT, Nutrient.MILK_SOLIDS_NONFAT),
    "milk fat": (Nutrient.MILK_FAT,),
    "fat": (Nutrient.FAT,),
}


def rules_term(problem: Problem) -> LimitsTerm | None:
    """Least contents of a chocolate that the statement opens: what it lacks, per 100 g of piece, is at most nothing."""
    reading = problem.reading
    region = "US" if reading.study.region.is_us else "EU"
    entries: list[tuple[Evidence, Floats]] = []
    bracketed = {layer_id for given in reading.placing.compounds.values() for layer_id in given}
    for index, (layer, family) in enumerate(problem.layers):
        if len(family.roles) > 1 and layer.id not in bracketed:
            continue  # which chocolate a filling holds is a guess until brackets say it
        opened = reading.placing.opened.get(layer.id)
        for rule in chocolate_rules():
            if opened is None or rule.family != opened.id or rule.region != region:
                continue
            evidence = _rule_evidence(rule, layer.id, layer.name)
            lacking = np.array([_lacking(problem, part, index, rule) for part in problem.parts])
            if lacking.any():
                entries.append((evidence, lacking))
    if not entries:
        return None
    return LimitsTerm(
        evidence=tuple(evidence for evidence, _ in entries),
        most=np.zeros((len(entries), 1)),
        sd=np.full((len(entries), 1), _RULE_SD),
        counts=np.stack([lacking for _, lacking in entries]),
        counts_lost=np.zeros((len(entries), len(problem.layers))),
    )


def _lacking(problem: Problem, part: Part, layer: int, rule: ChocolateRule) -> float:
    """By how much a gram of a part falls short of a rule [g/g]; 0 outside the chocolate."""
    if part.layer != layer or part.opened != rule.family:
        return 0.0
    food = problem.pantry[part.ingredient_id]
    return rule.minimum - sum(food.amount(nutrient) for nutrient in _CONTENT[rule.what]) / 100


def _rule_evidence(rule: ChocolateRule, layer_id: str, name: str) -> Evidence:
    return Evidence(
        id=f"rule:{layer_id}:{rule.what}",
        kind=Kind.RULE,
        title=f"{name}: {rule.what} at least {100 * rule.minimum:g} % of the chocolate",
        seen="by law",
        unit="g per 100 g",
        seen_high=0.0,
    )
