"""Component families and their roles, as data: what a soft caramel or a wafer is usually made of, and in what limits.

Belongs here: working ratios, windows, how a family looks and behaves. Must never happen here: anything about one match.
Imitate `tables.py`.
"""

from fern_match.core.families.tables import (
    BOUGHT,
    FROM_PARTS,
    UNKNOWN_TEXTURE,
    UNKNOWN_TONE,
    BuildSign,
    ChocolateRule,
    Families,
    Family,
    Role,
    Traits,
    build_signs,
    chocolate_rules,
    search_words,
    standard_families,
    strength,
)

__all__ = [
    "BOUGHT",
    "FROM_PARTS",
    "UNKNOWN_TEXTURE",
    "UNKNOWN_TONE",
    "BuildSign",
    "ChocolateRule",
    "Families",
    "Family",
    "Role",
    "Traits",
    "build_signs",
    "chocolate_rules",
    "search_words",
    "standard_families",
    "strength",
]
