"""Versions: formulas to cook. How they begin, how their amounts are solved for targets, and what they are like.

Belongs here: what a version is, how it is read, solved, rounded and judged. Must never happen here: what a batch loses on
its tools. Imitate `targets.py`.
"""

from fern_match.core.formulate.beginning.changing import (
    begun_again,
    by_working_ratios,
    copied,
    settled,
    with_another,
    with_further_layer,
)
from fern_match.core.formulate.beginning.faithful import FAITHFUL, WouldReplace, faithful_version, kitchen_version, taken
from fern_match.core.formulate.beginning.kitchen_version import fitting_role
from fern_match.core.formulate.beginning.start import (
    FamilyGuess,
    fitting_families,
    is_coat_name,
    layer_of_family,
    layers_for,
    version_of_recipe,
)
from fern_match.core.formulate.judging.balance import KEEPING, LayerNature, balance, natures
from fern_match.core.formulate.judging.cook_end import CookEnd, HeatEnd, WeightEnd, cook_end, weight_words
from fern_match.core.formulate.judging.handling import shapings, usual_shaping
from fern_match.core.formulate.judging.notes import Note, Tone
from fern_match.core.formulate.record.compare import ComparedLine, compared
from fern_match.core.formulate.record.formula import Formula, FormulaIngredient, FormulaLayer, read_version, written_grams
from fern_match.core.formulate.record.version import (
    NoteKind,
    Origin,
    OriginKind,
    Property,
    Shaping,
    Version,
    VersionIngredient,
    VersionLayer,
    VersionNote,
    VersionTarget,
)
from fern_match.core.formulate.record.writing import written_layer, written_version
from fern_match.core.formulate.solving.held_back import short_of
from fern_match.core.formulate.solving.pose import SMALL_ROLES, TASTED_ROLES
from fern_match.core.formulate.solving.posed import PieceLimit, Room
from fern_match.core.formulate.solving.solve import Impossible, LeastCost, Outcome, Solved, TooLong, least_cost, solve
from fern_match.core.formulate.solving.targets import Target, read_targets, targets_of
from fern_match.core.formulate.solving.ways import Way, Within, candidates, cost_of, ways
from fern_match.core.formulate.telling.overview import (
    Overview,
    PrintedRow,
    declared_of,
    overview,
    overview_of,
    printed_rows,
    serving_g,
    what_holds_back,
)
from fern_match.core.formulate.telling.seen import LayerSeen, LineSeen, layers_seen
from fern_match.core.formulate.telling.version_slice import layer_cm3, slice_of_version

__all__ = [
    "FAITHFUL",
    "KEEPING",
    "SMALL_ROLES",
    "TASTED_ROLES",
    "ComparedLine",
    "CookEnd",
    "FamilyGuess",
    "Formula",
    "FormulaIngredient",
    "FormulaLayer",
    "HeatEnd",
    "Impossible",
    "LayerNature",
    "LayerSeen",
    "LeastCost",
    "LineSeen",
    "Note",
    "NoteKind",
    "Origin",
    "OriginKind",
    "Outcome",
    "Overview",
    "PieceLimit",
    "PrintedRow",
    "Property",
    "Room",
    "Shaping",
    "Solved",
    "Target",
    "Tone",
    "TooLong",
    "Version",
    "VersionIngredient",
    "VersionLayer",
    "VersionNote",
    "VersionTarget",
    "Way",
    "WeightEnd",
    "Within",
    "WouldReplace",
    "balance",
    "begun_again",
    "by_working_ratios",
    "candidates",
    "compared",
    "cook_end",
    "copied",
    "cost_of",
    "declared_of",
    "faithful_version",
    "fitting_families",
    "fitting_role",
    "is_coat_name",
    "kitchen_version",
    "layer_cm3",
    "layer_of_family",
    "layers_for",
    "layers_seen",
    "least_cost",
    "natures",
    "overview",
    "overview_of",
    "printed_rows",
    "read_targets",
    "read_version",
    "serving_g",
    "settled",
    "shapings",
    "short_of",
    "slice_of_version",
    "solve",
    "taken",
    "targets_of",
    "usual_shaping",
    "version_of_recipe",
    "ways",
    "weight_words",
    "what_holds_back",
    "with_another",
    "with_further_layer",
    "written_grams",
    "written_layer",
    "written_version",
]
