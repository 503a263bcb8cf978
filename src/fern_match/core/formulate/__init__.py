"""Versions: formulas to cook. How they begin, how their amounts are solved for targets, and what they are like.

Belongs here: what a version is, how it is read, solved, rounded and judged. Must never happen here: what a batch loses on
its tools. Imitate `targets.py`.
"""

from fern_match.core.formulate.balance import LayerNature
from fern_match.core.formulate.compare import ComparedLine, compared
from fern_match.core.formulate.faithful import FAITHFUL, WouldReplace, faithful_version, kitchen_version, taken
from fern_match.core.formulate.formula import Formula, FormulaIngredient, FormulaLayer, read_version, written_grams
from fern_match.core.formulate.handling import shapings, usual_shaping
from fern_match.core.formulate.kitchen_version import fitting_role
from fern_match.core.formulate.notes import Note, Tone
from fern_match.core.formulate.overview import Overview, PrintedRow, overview, printed_rows, what_holds_back
from fern_match.core.formulate.pose import SMALL_ROLES, PieceLimit, Room
from fern_match.core.formulate.rounding import Rounded, RoundedLine, rounded
from fern_match.core.formulate.solve import LeastCost, Solved, least_cost, solve
from fern_match.core.formulate.start import (
    USUAL_PIECES,
    FamilyGuess,
    fitting_families,
    is_coat_name,
    layer_of_family,
    version_of_recipe,
)
from fern_match.core.formulate.targets import Target, read_targets, targets_of
from fern_match.core.formulate.version import (
    Origin,
    OriginKind,
    Property,
    Shaping,
    Version,
    VersionIngredient,
    VersionLayer,
    VersionTarget,
)
from fern_match.core.formulate.version_slice import slice_of_version
from fern_match.core.formulate.ways import TASTED_ROLES, Way, candidates, cost_of, ways
from fern_match.core.formulate.writing import written_version

__all__ = [
    "FAITHFUL",
    "SMALL_ROLES",
    "TASTED_ROLES",
    "USUAL_PIECES",
    "ComparedLine",
    "FamilyGuess",
    "Formula",
    "FormulaIngredient",
    "FormulaLayer",
    "LayerNature",
    "LeastCost",
    "Note",
    "Origin",
    "OriginKind",
    "Overview",
    "PieceLimit",
    "PrintedRow",
    "Property",
    "Room",
    "Rounded",
    "RoundedLine",
    "Shaping",
    "Solved",
    "Target",
    "Tone",
    "Version",
    "VersionIngredient",
    "VersionLayer",
    "VersionTarget",
    "Way",
    "WouldReplace",
    "candidates",
    "compared",
    "cost_of",
    "faithful_version",
    "fitting_families",
    "fitting_role",
    "is_coat_name",
    "kitchen_version",
    "layer_of_family",
    "least_cost",
    "overview",
    "printed_rows",
    "read_targets",
    "read_version",
    "rounded",
    "shapings",
    "slice_of_version",
    "solve",
    "taken",
    "targets_of",
    "usual_shaping",
    "version_of_recipe",
    "ways",
    "what_holds_back",
    "written_grams",
    "written_version",
]
