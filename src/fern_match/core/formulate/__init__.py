"""Versions: formulas to cook. For now the faithful one, taken from an estimate.

Belongs here: what a version is, how it is read and how it comes to be. Must never happen here: how many pieces are made of it.
Imitate `formula.py`.
"""

from fern_match.core.formulate.faithful import FAITHFUL, WouldReplace, faithful_version, taken
from fern_match.core.formulate.formula import Formula, FormulaIngredient, FormulaLayer, read_version, written_grams
from fern_match.core.formulate.version import Origin, OriginKind, Version, VersionIngredient, VersionLayer

__all__ = [
    "FAITHFUL",
    "Formula",
    "FormulaIngredient",
    "FormulaLayer",
    "Origin",
    "OriginKind",
    "Version",
    "VersionIngredient",
    "VersionLayer",
    "WouldReplace",
    "faithful_version",
    "read_version",
    "taken",
    "written_grams",
]
