"""Ingredients and what they are made of: the pantry, nutrients, lot spreads, names on labels.

Belongs here: facts about foods. Must never happen here: a rule of one country's label, or a guess in place of an unknown figure.
Imitate `ingredients.py`.
"""

from fern_match.core.food.ingredients import Ingredient, Pantry, standard_pantry
from fern_match.core.food.names import NameMatch, Unlisted, Within, matched_name, resembling, unlisted
from fern_match.core.food.nutrients import Nutrient
from fern_match.core.food.tolerance import load_of, load_per_gram

__all__ = [
    "Ingredient",
    "NameMatch",
    "Nutrient",
    "Pantry",
    "Unlisted",
    "Within",
    "load_of",
    "load_per_gram",
    "matched_name",
    "resembling",
    "standard_pantry",
    "unlisted",
]
