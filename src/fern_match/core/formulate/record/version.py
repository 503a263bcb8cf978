"""A version as kept: one formula for one piece, layer by layer, each amount as typed."""

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated, ClassVar

from fern_match.core.record import STRICT, Count, Signs, told
from fern_match.core.record.texts import Cell, Key, Name, Statement


class OriginKind(StrEnum):
    """Where a version comes from."""

    ESTIMATE = "estimate"
    RECIPE = "recipe"
    HAND = "hand"
    ADAPTED = "adapted"


class Property(StrEnum):
    """What a version is held to, of one layer or of the whole piece."""

    MASS = "weight"
    WATER = "water"
    FAT = "fat"
    SWEETNESS = "sweetness"
    SUGARS = "sugars"
    PROTEIN = "protein"
    SALT = "salt"
    FIBRE = "fibre"
    COCOA = "non-fat cocoa"
    MILK_SOLIDS = "non-fat milk solids"
    SOLID_FAT = "solid fat at 20 °C"


class Shaping(StrEnum):
    """How a layer is brought into its shape."""

    POUR = "pour"
    SCOOP = "scoop"
    PIPE = "pipe"
    ROLL = "roll"
    PRESS = "press"
    CUT = "cut"


@dataclass(frozen=True, slots=True, kw_only=True)
class Origin:
    """Where a version comes from, and the fingerprint of what it was made from, so that it is known when that moves on."""

    __pydantic_config__: ClassVar = STRICT

    kind: OriginKind = told("made from", default=OriginKind.HAND)
    key: Annotated[str, Signs(64)] = told(
        "made from", default="", silent="a fingerprint"
    )  # of the study an estimate was made from
    # as asked for: vegan, keto:4
    rules: Annotated[tuple[Name, ...], Count(50)] = told("adapted under", together="rules", default=())


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionIngredient:
    """One line of a layer, as added, for one piece."""

    __pydantic_config__: ClassVar = STRICT

    id: Key  # of the line
    ingredient: Key = told("ingredient", says="ingredient", together="line")
    name: Name = told("name", follows="line")
    role: Name = told("role", follows="line", default="")
    amount: Cell = told("amount", says="grams", together="line", default="")  # as typed; a bare figure is in grams
    locked: bool = told("locked", together="line", default=False)  # whether solving leaves it alone
    least: Cell = told("at least", says="grams", together="line", default="")  # as typed; solving may give more
    part: Cell = told("part", together="line", default="")  # of a fixed ratio with the layer's other parts, as 2 in 2 : 1 : 3


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionLayer:
    """One layer of one piece: all that is added less the water driven off is what it weighs when finished."""

    __pydantic_config__: ClassVar = STRICT

    id: Key  # of the study's layer where there is one
    name: Name = told("name")
    family: Key = told("family", says="family")
    water_lost: Cell = told("water driven off", says="grams", default="")
    shaping: Shaping | None = told("shaped by", default=None)
    ingredients: Annotated[tuple[VersionIngredient, ...], Count(200)] = told(
        "ingredients", label="{name}", noun="ingredient", value="amount", default=()
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionTarget:
    """What a version should reach, for one piece: inside the tolerance it counts as reached."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    layer: Key | None = told("of layer", default=None)  # of the whole piece where None
    property: Property = told("what")
    wanted: Cell = told(
        "wanted", together="band", default=""
    )  # as typed; a bare figure is in grams, of sweetness in grams of sugar
    tolerance: Cell = told("within", together="band", default="")  # as typed, in the same unit


class NoteKind(StrEnum):
    """Whom a note is for."""

    COOK = "cook"
    EATER = "eater"
    MIND = "mind"  # what is to be said to people, and minded


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionNote:
    """What adapting taught of a version: it goes with it to batch, plan, card and print."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    kind: NoteKind = told("for")
    text: Annotated[str, Signs(1000)] = told("note", default="")


@dataclass(frozen=True, slots=True, kw_only=True)
class Version:
    """A formula to cook, for one piece."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    name: Name = told("name")
    parent: Key | None = told("made after", says="version", refers="version", default=None)  # the version it was derived from
    origin: Origin = told("origin", factory=Origin)
    layers: Annotated[tuple[VersionLayer, ...], Count(20)] = told("layers", label="{name}", noun="layer", default=())
    targets: Annotated[tuple[VersionTarget, ...], Count(200)] = told(
        "targets", label="{property}", noun="target", value="wanted", default=()
    )
    notes: Annotated[tuple[VersionNote, ...], Count(200)] = told("notes", label="Note", noun="note", value="text", default=())
    # of a version from a recipe: its title, lines and method as they were pasted
    recipe: Statement = told("recipe as it was", default="")

    def called(self, version_id: str) -> "Version":
        """The same under an id."""
        return self if self.id == version_id else replace(self, id=version_id)

    def with_layer(self, layer: VersionLayer) -> "Version":
        """The same with a layer in place of the one of its id."""
        return replace(self, layers=tuple(layer if one.id == layer.id else one for one in self.layers))
