"""The user's kitchen: scale, spoons and cups, units.

Belongs here: what one kitchen is like. Must never happen here: anything about a match.
Imitate `kitchen.py`.
"""

from fern_match.core.kitchen.kitchen import USUAL_SCALE_STEP_G, Kitchen, KitchenReading, read_kitchen

__all__ = ["USUAL_SCALE_STEP_G", "Kitchen", "KitchenReading", "read_kitchen"]
