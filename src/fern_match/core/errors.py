"""Errors of the core: mistakes are exceptions with their field, value and limits; expected outcomes are values."""

import math
from dataclasses import dataclass, fields, is_dataclass
from typing import Any


class CoreError(Exception):
    """Anything the core refuses; its text is a sentence a user can read."""

    def __reduce__(self) -> tuple[Any, ...]:
        """As it is made from its fields, so that it comes whole out of another process."""
        if is_dataclass(self):
            return type(self), tuple(getattr(self, one.name) for one in fields(self))
        return type(self), self.args


@dataclass(eq=False)
class OutOfRange(CoreError):
    """A number lies outside the range a rule or formula is valid for."""

    field: str
    value: float
    low: float
    high: float
    unit: str = ""

    def __str__(self) -> str:
        unit = f" {self.unit}" if self.unit else ""
        return f"{self.field} is {self.value:g}{unit}; it can be {self.low:g} to {self.high:g}{unit}."


@dataclass(eq=False)
class MissingValue(CoreError):
    """A calculation needs a figure that a food does not have."""

    field: str
    food: str

    def __str__(self) -> str:
        return f"{self.food} has no figure for {self.field}."


@dataclass(eq=False)
class NotKnown(CoreError):
    """An id that no table holds."""

    kind: str
    key: str

    def __str__(self) -> str:
        return f"There is no {self.kind} called “{self.key}”."


class Stopped(Exception):
    """Somebody asked for long work to stop; nobody wants its outcome."""


def check_range(field: str, value: float, low: float, high: float, *, unit: str = "") -> float:
    """The value itself, once it is known to lie between low and high, ends included.

    Args:
        field: The name the error carries.
        value: The number to check, in `unit`.
        low: Least accepted.
        high: Most accepted.

    Raises:
        OutOfRange: value is outside, or not a number.
    """
    if math.isnan(value) or not low <= value <= high:
        raise OutOfRange(field, value, low, high, unit)
    return value
