"""The house: what belongs to the user and not to one match. Its parts are kept, undone and told as a match's are."""

from dataclasses import dataclass
from typing import ClassVar

from fern_match.core.kitchen import Kitchen
from fern_match.core.record import STRICT, told


@dataclass(frozen=True, slots=True, kw_only=True)
class House:
    """Each field holds one kind of part; pans and ingredients of one's own will stand beside the kitchen."""

    __pydantic_config__: ClassVar = STRICT

    kitchen: Kitchen = told("kitchen", factory=Kitchen)
