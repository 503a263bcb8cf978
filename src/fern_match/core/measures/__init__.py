"""Amounts as people write them, and the units of kitchens.

Belongs here: reading and writing of amounts. Must never happen here: what a layer or version holds.
Imitate `amounts.py`.
"""

from fern_match.core.measures.amounts import (
    Typed,
    read_celsius,
    read_count,
    read_grams,
    read_ingredient,
    read_metres,
    read_millilitres,
    read_millimetres,
    read_minutes,
    read_money,
    read_percent,
)
from fern_match.core.measures.numbers import Comma
from fern_match.core.measures.volumes import Measures

__all__ = [
    "Comma",
    "Measures",
    "Typed",
    "read_celsius",
    "read_count",
    "read_grams",
    "read_ingredient",
    "read_metres",
    "read_millilitres",
    "read_millimetres",
    "read_minutes",
    "read_money",
    "read_percent",
]
