"""A version as kept: one formula for one piece, layer by layer, each amount as typed."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, ClassVar

from fern_match.core.record import STRICT, Count, Signs, told
from fern_match.core.record.texts import Cell, Key, Name


class OriginKind(StrEnum):
    """Where a version comes from."""

    ESTIMATE = "estimate"
    RECIPE = "recipe"
    SOLVED = "solved"
    HAND = "hand"


@dataclass(frozen=True, slots=True, kw_only=True)
class Origin:
    """Where a version comes from, and the fingerprint of what it was made from, so that it is known when that moves on."""

    __pydantic_config__: ClassVar = STRICT

    kind: OriginKind = told("made from", default=OriginKind.HAND)
    key: Annotated[str, Signs(64)] = told(
        "made from", default="", silent="a fingerprint"
    )  # of the study an estimate was made from


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionIngredient:
    """One line of a layer, as added, for one piece."""

    __pydantic_config__: ClassVar = STRICT

    id: Key  # of the line
    ingredient: Key = told("ingredient", says="ingredient")
    name: Name = told("name")
    role: Name = told("role", default="")
    amount: Cell = told("amount", says="grams", default="")  # as typed; a bare figure is in grams
    locked: bool = told("locked", default=False)  # whether solving leaves it alone


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionLayer:
    """One layer of one piece: all that is added less the water driven off is what it weighs when finished."""

    __pydantic_config__: ClassVar = STRICT

    id: Key  # of the study's layer where there is one
    name: Name = told("name")
    family: Key = told("family", says="family")
    water_lost: Cell = told("water driven off", says="grams", default="")
    ingredients: Annotated[tuple[VersionIngredient, ...], Count(200)] = told(
        "ingredients", label="{name}", noun="ingredient", value="amount", default=()
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Version:
    """A formula to cook, for one piece."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    name: Name = told("name")
    parent: Key | None = told("made after", default=None)  # the version it was derived from
    origin: Origin = told("origin", factory=Origin)
    layers: Annotated[tuple[VersionLayer, ...], Count(20)] = told("layers", label="{name}", noun="layer", default=())
