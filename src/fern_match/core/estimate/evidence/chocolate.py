"""Least contents of a chocolate that the statement opens into its parts: by law, and as the label declares them."""

import numpy as np

from fern_match.core.estimate.evidence.limits import LimitsTerm
from fern_match.core.estimate.problem import Part, Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.terms import Evidence, Kind, limit_tail
from fern_match.core.families import ChocolateRule, Family, chocolate_rules
from fern_match.core.food import Nutrient
from fern_match.core.food.together import lacking
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer

_RULE_SD = 0.15  # g per 100 g of piece
_MOST_DECLARED = 100.0


def _expected(_: Evidence, __: float, high: float, pulls: bool) -> str:
    return "met without it" if high <= 0 else "the rest does not meet it" if pulls else "the rest leaves it open"


def _sentence(piece: Evidence, _: float, __: float) -> str:
    return f"{piece.title} is not met by what the rest asks for. Is the layer’s family right?"


RULE = Kind(
    id="chocolate rule", group="Rules of chocolate", is_figure=False, tail=limit_tail, expected=_expected, sentence=_sentence
)
_CONTENT = {
    "cocoa": (Nutrient.COCOA_BUTTER, Nutrient.COCOA_SOLIDS_NONFAT),
    "dry cocoa without its fat": (Nutrient.COCOA_SOLIDS_NONFAT,),
    "cocoa butter": (Nutrient.COCOA_BUTTER,),
    "milk": (Nutrient.MILK_FAT, Nutrient.MILK_SOLIDS_NONFAT),
    "milk fat": (Nutrient.MILK_FAT,),
    "fat": (Nutrient.FAT,),
}
_CHOCOLATES = ("chocolate", "couverture")  # heads of a chocolate's own list; a filling's list is of the filling


def rules_term(problem: Problem) -> LimitsTerm | None:
    """Least contents of a chocolate that the statement opens: what it lacks, per 100 g of piece, is at most nothing.

    By law of the region, and as the label itself declares them ("cocoa solids 30 % minimum").
    """
    reading = problem.reading
    entries: list[tuple[Evidence, Floats]] = []
    bracketed = {
        layer_id
        for item in reading.printed.everything()
        if item.name.lower().endswith(_CHOCOLATES)
        for layer_id in reading.placing.compounds.get(item.key, ())
    }
    for index, (layer, family) in enumerate(problem.layers):
        opened = reading.placing.opened.get(layer.id)
        if opened is None or (len(family.roles) > 1 and layer.id not in bracketed):
            continue  # which chocolate a filling holds is a guess until a bracket of chocolate says it
        for rule, evidence in (*_by_law(reading, layer, opened), *_declared(reading, layer, opened)):
            short = np.array([_lacking(problem, part, index, rule) for part in problem.parts])
            if short.any():
                entries.append((evidence, short))
    if not entries:
        return None
    return LimitsTerm(
        evidence=tuple(evidence for evidence, _ in entries),
        most=np.zeros((len(entries), 1)),
        sd=np.full((len(entries), 1), _RULE_SD),
        counts=np.stack([short for _, short in entries]),
        counts_lost=np.zeros((len(entries), len(problem.layers))),
    )


def _by_law(reading: StudyReading, layer: Layer, opened: Family) -> list[tuple[ChocolateRule, Evidence]]:
    law = reading.study.region.chocolate_law
    rules = [rule for rule in chocolate_rules() if rule.family == opened.id and rule.region == law]
    return [(rule, _rule_evidence(rule, layer, "rule", "by law")) for rule in rules]


def _declared(reading: StudyReading, layer: Layer, opened: Family) -> list[tuple[ChocolateRule, Evidence]]:
    """Minima that the label prints for a chocolate of this kind, and contents beside its name."""
    heads = [item for item in reading.printed.everything() if layer.id in reading.placing.compounds.get(item.key, ())]
    told = [one for one in reading.printed.minima if not one.of or not _kind_of(one.of) or _kind_of(one.of) == opened.chocolate]
    told += [one for head in heads for one in head.contents]
    most = {one.what: one.percent for one in sorted(told, key=lambda one: one.percent)}
    rules = [
        ChocolateRule(family=opened.id, region="", what=what, minimum=percent / 100)
        for what, percent in most.items()
        if what in _CONTENT and 0 < percent < _MOST_DECLARED
    ]
    return [(rule, _rule_evidence(rule, layer, "minimum", "as declared")) for rule in rules]


def _kind_of(name: str) -> str:
    kinds = (("white", "white"), ("milk", "milk"), ("dark", "dark"), ("plain", "dark"), ("semi", "dark"))
    return next((kind for word, kind in kinds if word in name), "")


def _lacking(problem: Problem, part: Part, layer: int, rule: ChocolateRule) -> float:
    """By how much a gram of a part falls short of a rule [g/g]; 0 outside the chocolate, and where a figure is not known."""
    food = problem.pantry[part.ingredient_id]
    if part.layer != layer or part.opened != rule.family or lacking([food], _CONTENT[rule.what]):
        return 0.0
    return rule.minimum - sum(food.amount(nutrient) for nutrient in _CONTENT[rule.what]) / 100


def _rule_evidence(rule: ChocolateRule, layer: Layer, kind: str, seen: str) -> Evidence:
    return Evidence(
        id=f"{kind}:{layer.id}:{rule.what}",
        kind=RULE,
        title=f"{layer.name}: {rule.what} at least {100 * rule.minimum:g} % of the chocolate",
        seen=seen,
        unit="g per 100 g",
        seen_high=0.0,
    )
