"""Component families and their roles, as data: what a soft caramel or a wafer is usually made of, and in what limits.

Belongs here: working ratios, windows, how a family looks and behaves. Must never happen here: anything about one match.
Imitate `tables.py`.
"""

from fern_match.core.families.tables import Family, Role, Traits, family, families, root_of, variants_of

__all__ = ["Family", "Role", "Traits", "families", "family", "root_of", "variants_of"]
