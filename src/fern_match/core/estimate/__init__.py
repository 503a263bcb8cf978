"""From evidence to layer masses and ingredient amounts, each with a 90 % range.

The unknowns and evidence of one study become a `Problem` (problem.py); `RecipeTree` turns unknowns into amounts and carries
gradients back; `LogDensity` adds up what the evidence says; the sampler draws particles; the read-out makes an `Estimate`.
Belongs here: probability. Must never happen here: parsing of what was typed, or a label rule written out again.
Imitate `recipe_tree.py`.
"""

from fern_match.core.estimate.estimator import NotYet, estimate
from fern_match.core.estimate.result import Estimate, EvidenceSeen, IngredientAmount, LayerEstimate, Range

__all__ = ["Estimate", "EvidenceSeen", "IngredientAmount", "LayerEstimate", "NotYet", "Range", "estimate"]
