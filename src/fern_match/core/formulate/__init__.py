"""Versions: formulas to cook. For now the faithful one, taken from an estimate.

Belongs here: what a version is and how it comes to be. Must never happen here: how many pieces are made of it.
Imitate `version.py`.
"""

from fern_match.core.formulate.version import Version, VersionIngredient, VersionLayer, faithful_version

__all__ = ["Version", "VersionIngredient", "VersionLayer", "faithful_version"]
