"""What a question to the solver is made of: room, limits of one's own, and layers and lines as they stand in the program."""

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field

from fern_match.core.families import Family
from fern_match.core.food import Ingredient
from fern_match.core.formulate.record.formula import FormulaLayer
from fern_match.core.formulate.solving.program import Program


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceLimit:
    """Something of which a piece, or one layer, may hold at most so much."""

    id: str
    words: str  # what it says, in the user's terms
    weigh: Callable[[Ingredient], float]  # what a gram of an ingredient adds
    most: float
    layer_id: str | None = None  # of the whole piece where None
    step: float = 0.0  # how far it is moved to see what it costs
    moved: str = ""
    price: float | None = None  # of each gram above it, where it may give; else it is hard


@dataclass(frozen=True, slots=True, kw_only=True)
class Room:
    """What solving may do."""

    free: Collection[str]  # ids of the layers that are solved
    choose: bool = False  # whether lines may be left out and new ones come in; else each line stays
    widened: bool = False  # whether the present amounts prove that they can be made: windows then take them in
    without: Collection[str] = ()  # ingredients that must not be used
    explain: bool = True  # whether to find out what holds back
    about: Collection[str] | None = None  # the targets to explain; all that are missed where None
    limits: Sequence[PieceLimit] = ()
    keep: bool = True  # whether each line keeps some of what it is
    before: Mapping[str, FormulaLayer] = field(default_factory=dict)  # layers as they are in the version: what they hold can be
    # made, and what moves from there, or goes, has its price
    allergens: Collection[str] | None = None  # that may be there without a price; any where None
    moved: str = "own amount moved"  # by which price what moves from there is priced
    hold: float | None = None  # how far a line of theirs may move at all, relative; any way where None
    swift: bool = False  # whether lines are chosen by a few linear programs: soon, and dearer by a line or so
    gap: float = 1e-6  # how near to the cheapest is near enough, relative
    should_stop: Callable[[], bool] = lambda: False  # asked before each solving


@dataclass(frozen=True, slots=True)
class Choice:
    """A line that may be left out, in the program."""

    ingredient_id: str
    amount: int
    used: int  # 1 where it is used
    least: float  # what it has then at least [g]
    stays: bool = False  # whether it is in the version already
    token: float = 0.0  # less of it is a token: left out where that is possible [g]
    strength: float = 1.0  # how many times its weight of a usual line's work it does: an intense sweetener counts by milligrams
    price: float = 0.0  # of being one more line


@dataclass(slots=True)
class Placed:
    """One free layer in the program."""

    layer: FormulaLayer
    family: Family | None
    amounts: list[int]  # variables, line by line
    choices: list[Choice]  # of lines that may be left out
    lost: int
    added: dict[int, float] = field(default_factory=dict)  # terms of what goes into the bowl


@dataclass(slots=True)
class Posed:
    """A question to the solver: the program, its free layers, and what missing each target costs."""

    program: Program
    layers: list[Placed]
    misses: dict[str, tuple[int, int, float]]  # target -> variables of what is missing and over, and the price
    over: dict[str, int] = field(default_factory=dict)  # limit that may give -> variable of what is above it
    # target -> how far below and above what is wanted is as good, and the price of each gram beyond
    bands: dict[str, tuple[float, float, float]] = field(default_factory=dict)
