"""The user's kitchen: scale, spoons and cups, units, and the gear that pieces are made in.

Belongs here: what one kitchen is like. Must never happen here: anything about a match.
Imitate `kitchen.py`.
"""

from fern_match.core.kitchen.gear import Gear, GearKind, GearReading, GearShape, inside_ml, read_gear
from fern_match.core.kitchen.kitchen import USUAL_SCALE_STEP_G, Kitchen, KitchenReading, Pack, Tool, read_kitchen
from fern_match.core.kitchen.usual_gear import usual_gear
from fern_match.core.kitchen.wraps import Wrap, WrapKind, WrapReading, sheets_of

__all__ = [
    "USUAL_SCALE_STEP_G",
    "Gear",
    "GearKind",
    "GearReading",
    "GearShape",
    "Kitchen",
    "KitchenReading",
    "Pack",
    "Tool",
    "Wrap",
    "WrapKind",
    "WrapReading",
    "inside_ml",
    "read_gear",
    "read_kitchen",
    "sheets_of",
    "usual_gear",
]
