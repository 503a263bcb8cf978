"""Amounts as people write them, and the units of kitchens.

Belongs here: reading and writing of amounts. Must never happen here: what the amount is of.
Imitate `amounts.py`.
"""

from fern_match.core.measures.amounts import Typed, read_count, read_grams

__all__ = ["Typed", "read_count", "read_grams"]
