"""A kitchen as typed, and as read: what it weighs, scoops and measures with, how high it stands, and how it is shown."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, ClassVar

from fern_match.core.kitchen.gear import Gear, GearReading, read_gear
from fern_match.core.kitchen.wraps import Wrap, WrapReading, read_wrap
from fern_match.core.measures.amounts import Typed, read_celsius, read_count, read_grams, read_metres
from fern_match.core.measures.numbers import Comma
from fern_match.core.measures.shown import LengthUnit, MassUnit, ShownIn, TemperatureUnit, shown_difference, shown_temperature
from fern_match.core.measures.volumes import Measures
from fern_match.core.physics.boiling import (
    BOILS_AT_SEA_LEVEL_C,
    HIGHEST_M,
    LOWEST_M,
    READS_AT_SEA_LEVEL_C,
    water_boils_c,
)
from fern_match.core.record import STRICT, Count, told
from fern_match.core.record.texts import Cell, Key

USUAL_SCALE_STEP_G = 0.1
_LEAST_STEP_G, _MOST_STEP_G = 0.001, 50.0
_COLDEST_BOIL_C, _HOTTEST_BOIL_C = 75.0, 110.0
_USUALLY = {"cooks": 1, "burners": 4, "ovens": 1, "fridges": 1}
_MOST_AT_ONCE = 40
_AS_GOOD_AS_RIGHT_C = 0.05  # less than any kitchen thermometer shows
_SUSPECT_OFFSET_C = 5.0  # a thermometer this far off is broken, or the altitude is wrong


class Tool(StrEnum):
    """What a kitchen may be without; the value is what it is called."""

    SCALE = "scale"
    THERMOMETER = "thermometer"
    OVEN = "oven"
    FREEZER = "freezer"
    MICROWAVE = "microwave"
    MIXER = "mixer"
    PROCESSOR = "food processor"
    WAFFLE_IRON = "waffle iron"


@dataclass(frozen=True, slots=True, kw_only=True)
class Pack:
    """How an ingredient is sold here, as typed."""

    __pydantic_config__: ClassVar = STRICT

    id: Key = told("pack of", says="ingredient")
    size: Cell = told("size", default="")
    price: Cell = told("price", default="")


@dataclass(frozen=True, slots=True, kw_only=True)
class Kitchen:
    """What the user said of the kitchen; figures as typed."""

    __pydantic_config__: ClassVar = STRICT

    scale_step: Cell = told("Smallest step of the scale", default="0.1 g")
    measures: Measures = told("Spoons and cups", default=Measures.METRIC)
    mass_unit: MassUnit = told("Weights", default=MassUnit.GRAMS)
    temperature_unit: TemperatureUnit = told("Heat", default=TemperatureUnit.CELSIUS)
    length_unit: LengthUnit = told("Lengths", default=LengthUnit.MILLIMETRES)
    altitude: Cell = told("Height above the sea", default="")
    boiling_reading: Cell = told("Your thermometer in boiling water", default="")
    gear: Annotated[tuple[Gear, ...], Count(200)] = told("gear", label="{name}", noun="gear", default=())
    lacks: Annotated[tuple[Tool, ...], Count(20)] = told(
        "Not in this kitchen", added="No {0} in this kitchen", removed="There is a {0}", default=()
    )
    cooks: Cell = told("Cooks", default="")
    burners: Cell = told("Burners", default="")
    ovens: Cell = told("Ovens", default="")
    fridges: Cell = told("Fridges", default="")
    packs: Annotated[tuple[Pack, ...], Count(400)] = told("packs", label="Pack of {id}", noun="pack", default=())
    wraps: Annotated[tuple[Wrap, ...], Count(100)] = told("wrapping", label="{name}", noun="wrapping", default=())

    @property
    def shown_in(self) -> ShownIn:
        """The units amounts are shown in."""
        return ShownIn(mass=self.mass_unit, temperature=self.temperature_unit, length=self.length_unit)


@dataclass(frozen=True, slots=True, kw_only=True)
class KitchenReading:
    """The kitchen as read; what was not read counts as usual."""

    kitchen: Kitchen
    scale_step: Typed  # g
    altitude: Typed  # m
    boiling_reading: Typed  # degC
    comma: Comma
    gear: tuple[GearReading, ...]
    wraps: tuple[WrapReading, ...]
    at_once: Mapping[str, Typed]  # cooks, burners, ovens, fridges: how many there are

    def has(self, what: str) -> int:
        """How many cooks, burners, ovens or fridges there are; as many as is usual where nobody said.

        Args:
            what: One of them, by its field.
        """
        typed = self.at_once[what].value
        return _USUALLY[what] if typed is None else int(typed)

    def lacks(self, tool: Tool) -> bool:
        """Whether the kitchen is without a tool."""
        return tool in self.kitchen.lacks

    @property
    def gear_names(self) -> dict[str, str]:
        """Names of its gear by id."""
        return {one.gear.id: one.gear.name for one in self.gear}

    @property
    def scale_step_g(self) -> float:
        """The scale's step [g]."""
        return max(self.scale_step.value or USUAL_SCALE_STEP_G, _LEAST_STEP_G)

    @property
    def water_boils_c(self) -> float:
        """Where water boils by the altitude alone [degC]; as at sea level where that is not known."""
        return BOILS_AT_SEA_LEVEL_C if self.altitude.value is None else water_boils_c(self.altitude.value)

    @property
    def thermometer_offset_c(self) -> float | None:
        """How much the thermometer reads above the truth [degC]; None until both altitude and boiling water are known."""
        if self.boiling_reading.value is None or self.altitude.value is None:
            return None
        return self.boiling_reading.value - self.water_boils_c

    @property
    def boils_at_reading_c(self) -> float:
        """What the thermometer shows in boiling water here [degC]: as measured, else by the altitude."""
        if self.boiling_reading.value is not None:
            return self.boiling_reading.value
        return READS_AT_SEA_LEVEL_C - (BOILS_AT_SEA_LEVEL_C - self.water_boils_c)

    @property
    def corrects_boiling(self) -> bool:
        """Whether end temperatures differ here from a recipe's by what the user said."""
        return self.altitude.value is not None or self.boiling_reading.value is not None

    @property
    def thermometer_is_suspect(self) -> bool:
        """Whether altitude and thermometer cannot both be right."""
        offset = self.thermometer_offset_c
        return offset is not None and abs(offset) > _SUSPECT_OFFSET_C

    @property
    def boiling_words(self) -> str:
        """What is known of boiling here, in the kitchen's unit, and what to measure next."""
        unit = self.kitchen.temperature_unit
        boils, reads = (shown_temperature(temp, unit) for temp in (self.water_boils_c, self.boils_at_reading_c))
        offset = self.thermometer_offset_c
        if self.thermometer_is_suspect:
            return (
                f"Water boils at {boils} at that height, and the thermometer reads {reads}. "
                "One of the two is wrong; boil water again and read it in the rolling boil."
            )
        if offset is not None:
            off = f"reads {shown_difference(abs(offset), unit)} {'high' if offset > 0 else 'low'}"
            off = "is right" if abs(offset) < _AS_GOOD_AS_RIGHT_C else off
            return f"Water boils at {boils} there; your thermometer {off}. End temperatures are given as it will show them."
        if self.boiling_reading.value is not None:
            sea = shown_temperature(READS_AT_SEA_LEVEL_C, unit)
            return f"End temperatures follow that reading: {reads} stands for {sea} at sea level."
        if self.altitude.value is not None:
            return f"Water boils at {boils} there. A reading in boiling water would correct the thermometer too."
        return "Read it in a rolling boil: that corrects height, weather and thermometer at once."


def read_kitchen(kitchen: Kitchen) -> KitchenReading:
    """A kitchen with its figures read."""
    comma = Comma.DECIMAL if kitchen.measures is Measures.METRIC else Comma.GROUPS
    return KitchenReading(
        kitchen=kitchen,
        scale_step=read_grams(kitchen.scale_step, most_g=_MOST_STEP_G, comma=comma),
        altitude=read_metres(kitchen.altitude, low_m=LOWEST_M, high_m=HIGHEST_M, comma=comma),
        comma=comma,
        gear=tuple(read_gear(one, kitchen.measures, comma) for one in kitchen.gear),
        wraps=tuple(read_wrap(one, comma) for one in kitchen.wraps),
        at_once={what: read_count(getattr(kitchen, what), most=_MOST_AT_ONCE, what="number", comma=comma) for what in _USUALLY},
        boiling_reading=read_celsius(kitchen.boiling_reading, low_c=_COLDEST_BOIL_C, high_c=_HOTTEST_BOIL_C, comma=comma),
    )
