"""What all files share: strict shapes, and texts without control signs."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from fern_match.core.errors import CoreError

_NO_CONTROL = r"^[^\x00-\x08\x0b\x0c\x0e-\x1f]*$"
Name = Annotated[str, StringConstraints(max_length=120, pattern=_NO_CONTROL)]
Key = Annotated[str, StringConstraints(min_length=1, max_length=400, pattern=_NO_CONTROL)]
Cell = Annotated[str, StringConstraints(max_length=200, pattern=_NO_CONTROL)]
Statement = Annotated[str, StringConstraints(max_length=20_000, pattern=_NO_CONTROL)]
Grams = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]


class BadMatchFile(CoreError):
    """A file that is not a match file; its text says where and why."""


class Shape(BaseModel):
    """An object of a file; a field that is not known is refused."""

    model_config = ConfigDict(extra="forbid")
