"""A kitchen as typed, and as read: what it weighs and scoops with."""

from dataclasses import dataclass
from enum import StrEnum

from fern_match.core.measures.amounts import Typed, read_grams
from fern_match.core.measures.volumes import Measures

USUAL_SCALE_STEP_G = 0.1
_LEAST_STEP_G, _MOST_STEP_G = 0.001, 50.0


class MassUnit(StrEnum):
    """How masses are shown."""

    GRAMS = "g"
    OUNCES = "oz"


@dataclass(frozen=True, slots=True, kw_only=True)
class Kitchen:
    """What the user said of the kitchen; figures as typed."""

    scale_step: str = "0.1 g"
    measures: Measures = Measures.METRIC
    mass_unit: MassUnit = MassUnit.GRAMS


@dataclass(frozen=True, slots=True, kw_only=True)
class KitchenReading:
    """The kitchen as read; what was not read counts as usual."""

    kitchen: Kitchen
    scale_step: Typed  # g

    @property
    def scale_step_g(self) -> float:
        """The scale's step [g]."""
        return max(self.scale_step.value or USUAL_SCALE_STEP_G, _LEAST_STEP_G)


def read_kitchen(kitchen: Kitchen) -> KitchenReading:
    """A kitchen with its figures read.

    Args:
        kitchen: As typed.
    """
    return KitchenReading(kitchen=kitchen, scale_step=read_grams(kitchen.scale_step, most_g=_MOST_STEP_G))
