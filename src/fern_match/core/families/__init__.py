"""Component families and their roles, as data: what a soft caramel or a wafer is usually made of, and in what limits.

Belongs here: working ratios, windows, how a family looks and behaves. Must never happen here: anything about one match.
Imitate `tables.py`.
"""

from fern_match.core.families.tables import (
    ChocolateRule,
    Family,
    Role,
    Traits,
    chocolate_rules,
    families,
    family,
    root_of,
    strength,
    variants_of,
)

__all__ = [
    "ChocolateRule",
    "Family",
    "Role",
    "Traits",
    "chocolate_rules",
    "families",
    "family",
    "root_of",
    "strength",
    "variants_of",
]
