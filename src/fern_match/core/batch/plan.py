"""What the user asked of a batch, as typed."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, ClassVar

from fern_match.core.record import STRICT, Count, told
from fern_match.core.record.texts import Cell, Key


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchPlan:
    """A version, how many pieces of it, and what differs from the usual."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    version: Key = told("version", says="version", refers="version")
    pieces: Cell = told("Pieces wanted", default="")
    # per cent of what is made, by layer
    left_on_tools: Annotated[Mapping[Key, Cell], Count(400)] = told("{0}, stays on tools", keys=("layer",), factory=dict)
    # amounts by ingredient
    in_house: Annotated[Mapping[Key, Cell], Count(400)] = told("{0}, in the house", keys=("ingredient",), factory=dict)
