"""Recipes as people write them: lines of amounts in any unit, read into grams with what that rests on.

Belongs here: lines, sections and what contradicts itself in them. Must never happen here: what a version holds.
Imitate `line.py`.
"""

from fern_match.core.recipe.asked import pieces_of, read_asked, usual_measures
from fern_match.core.recipe.line import Bought, LineKind, RecipeLine, read_line
from fern_match.core.recipe.tongue import tongue_of
from fern_match.core.recipe.whole import Recipe, RecipeSection, read_recipe

__all__ = [
    "Bought",
    "LineKind",
    "Recipe",
    "RecipeLine",
    "RecipeSection",
    "pieces_of",
    "read_asked",
    "read_line",
    "read_recipe",
    "tongue_of",
    "usual_measures",
]
