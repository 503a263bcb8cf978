"""A step of a plan, and what it is made from."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from fern_match.core.batch import BatchLayer, BatchReading
from fern_match.core.families import Families
from fern_match.core.food import Pantry
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures.shown import TemperatureUnit, temperatures_in


class Place(StrEnum):
    """Where a step occupies something besides the cook."""

    BENCH = "bench"
    BURNER = "burner"
    OVEN = "oven"
    FRIDGE = "fridge"
    FREEZER = "freezer"
    ROOM = "room"
    MIXER = "mixer"
    IRON = "iron"


class Stage(StrEnum):
    """What a cue says."""

    EARLY = "early"
    RIGHT = "right"
    LATE = "late"


@dataclass(frozen=True, slots=True, kw_only=True)
class Cue:
    """Something seen or felt, and what it stands for."""

    id: str
    stage: Stage
    words: str
    short: str = ""  # as a title says it: "a soft ball"; empty where it has no name
    quantity: str  # °C, % water ...; empty where it stands for no figure
    about: float | None
    error: float | None  # one standard error of a first try


@dataclass(frozen=True, slots=True, kw_only=True)
class Use:
    """What goes in."""

    line_id: str
    ingredient_id: str
    name: str
    grams: float
    words: str  # as it is measured in this kitchen
    share: float  # of the line of the batch [g/g]
    each: str = ""  # where it goes in by the piece
    how: str = ""  # how to measure what is too little for the scale; else empty


@dataclass(frozen=True, slots=True, kw_only=True)
class Heat:
    """A temperature to reach [degC]: as this thermometer shows it here."""

    low_c: float
    aim_c: float
    high_c: float
    of: str  # what is read: "the syrup", "the oven", "the coat"
    sea_level_c: float | None = None  # of a boil: as recipes give it


@dataclass(frozen=True, slots=True, kw_only=True)
class Boil:
    """What is in a pan that is boiled [g], for how long it takes and for practice."""

    dissolved: Mapping[str, float]
    water_g: float
    others_g: float
    left_g: float
    rise: float = 1.0  # how its boiling point rises beside that of a clear syrup of the same sugars and water
    known: bool = True  # whether the pantry says of all of it how much water and sugar it holds


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One thing to do."""

    id: str
    layer_id: str  # empty of what is done with the pieces
    layer: str
    title: str
    words: str = ""
    uses: tuple[Use, ...] = ()
    needs: tuple[str, ...] = ()  # steps that are done before
    hands_on_min: float
    wait_min: float = 0.0
    most_wait_min: float | None = None  # until what needs it begins; None where it can wait for days
    place: Place = Place.BENCH
    heat: Heat | None = None
    end_weight_g: float | None = None
    end_by: str = ""  # heat, cue or weight: which of them says that it is there; empty where nothing is boiled
    cues: tuple[Cue, ...] = ()
    gate: str = ""
    tools: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    reason: str = ""
    problem: str = ""  # why this kitchen cannot do it so
    rounds: int = 1
    block: str = ""  # steps of one block are repeated together
    round_words: str = ""
    rescues: tuple[str, ...] = ()  # families or names that the table of rescues knows it by
    no_return: bool = False  # from here on everything must be at hand
    boil: Boil | None = None
    note: str = ""  # the user's
    own: bool = False
    changed: bool = False

    @property
    def takes_min(self) -> float:
        """Hands on and waiting, over all rounds [min]."""
        return self.rounds * (self.hands_on_min + self.wait_min)


@dataclass(frozen=True, slots=True)
class Bench:
    """What every step is made from."""

    read: BatchReading
    pantry: Pantry
    families: Families
    kitchen: KitchenReading
    schools: Mapping[str, str] = field(default_factory=dict)  # chosen option by the id of its choice
    in_pan: bool = True  # whether a base is pressed into a pan, and not into cavities

    def school(self, asked: str, layer_id: str = "") -> str:
        """What is taken of a choice: that of the layer, else that of the whole cook; empty where nothing is asked.

        Args:
            asked: Name of the choice.
            layer_id: Of the layer it is for.
        """
        return self.schools.get(f"{layer_id}--{asked}", self.schools.get(asked, ""))

    @property
    def unit(self) -> TemperatureUnit:
        """What temperatures are shown in."""
        return self.kitchen.kitchen.temperature_unit

    def say(self, text: str) -> str:
        """A text of a table with its temperatures in the kitchen's unit.

        Args:
            text: With temperatures as “45–50 °C”.
        """
        return temperatures_in(text, self.unit)

    @property
    def room_c(self) -> float:
        """Of the air on the day; 20 where nobody said [degC]."""
        typed = self.read.cells["room"].value
        return USUAL_ROOM_C if typed is None else typed

    def lacks(self, tool: str) -> bool:
        """Whether the kitchen is without a tool.

        Args:
            tool: Its name.
        """
        return any(one.value == tool for one in self.kitchen.kitchen.lacks)

    def layers(self) -> tuple[BatchLayer, ...]:
        """Of the batch; none while there is no batch."""
        return self.read.batch.layers if self.read.batch is not None else ()


USUAL_ROOM_C = 20.0
