"""Whether a version still holds to the rules it was adapted under, and what solving and weighing out must keep to for them.

Worked example: kept under `keto:4`, a version that is given two more grams of honey says so: "Net carbohydrate 5.6 g, where at
most 4 g a piece are allowed".
"""

from dataclasses import dataclass

from fern_match.core.adapt.asking import rules_of
from fern_match.core.adapt.limits import shared_limits
from fern_match.core.adapt.rules import BadRule, Rule, breaches
from fern_match.core.food import Ingredient
from fern_match.core.formulate import Formula, PieceLimit, Version, serving_g
from fern_match.core.study.reading import StudyReading


@dataclass(frozen=True, slots=True, kw_only=True)
class Holding:
    """A rule of a version, and what of the version breaks it or may."""

    rule: str
    broken: tuple[str, ...]  # sentences; empty where it holds


def rules_held(version: Version, reading: StudyReading) -> tuple[Rule, ...]:
    """The rules a version was adapted under; one that is not known any more is let go.

    Args:
        version: As kept.
        reading: The study, with its region and compositions.
    """
    found: list[Rule] = []
    for asked in version.origin.rules:
        try:
            found += rules_of([asked], reading.study.region, reading.pantry)
        except BadRule:  # an ingredient of one's own that has gone from the pantry
            continue
    return tuple(found)


def holding(version: Version, formula: Formula, reading: StudyReading) -> tuple[Holding, ...]:
    """Rule by rule, whether a version holds to it.

    Args:
        version: As kept.
        formula: The same as read.
        reading: The study, with its region and compositions.
    """
    found = []
    for asked in version.origin.rules:
        try:
            rules = rules_of([asked], reading.study.region, reading.pantry)
        except BadRule as error:  # an ingredient of one's own that has gone from the pantry
            found.append(Holding(rule=asked, broken=(f"Whether it holds is not known: {error}",)))
            continue
        found += [
            Holding(
                rule=rule.name,
                broken=tuple(one.sentence for one in breaches(formula, [rule], reading.pantry, serving_g(reading, formula))),
            )
            for rule in rules
        ]
    return tuple(found)


def limits_held(version: Version, formula: Formula, reading: StudyReading, off_g: float = 0.0) -> tuple[PieceLimit, ...]:
    """What amounts of a version must keep to for its rules, however they are solved or rounded.

    Args:
        version: As kept.
        formula: The same as read.
        reading: The study, with its region and compositions.
        off_g: By how much a piece may come out lighter [g], by the steps of a scale.
    """
    if formula.piece_g <= off_g:
        return ()
    return shared_limits(rules_held(version, reading), formula.piece_g, serving_g(reading, formula), off_g=off_g)


def refused_by(version: Version, food: Ingredient, reading: StudyReading) -> str:
    """Why an ingredient may not come into a version that was adapted under rules: a sentence; empty where it may.

    Args:
        version: As kept.
        food: That is to come in.
        reading: The study, with its region and compositions.
    """
    for rule in rules_held(version, reading):
        why = rule.forbids(food) or (f"{food.name} depends on its maker." if rule.excludes and rule.doubts(food) else "")
        if why:
            return f"{why} This version was adapted under “{rule.name}”, which would no longer hold."
    return ""
