"""A field in the shape of the API: as typed, what was read, the problem if any."""

from pydantic import BaseModel

from fern_match.core.measures import Typed
from fern_match.core.measures.shown import ShownIn, what_was_read


class TypedOut(BaseModel):
    """A field: as typed, what was read, the problem if any."""

    typed: str
    value: float | None
    unit: str
    problem: str | None
    read_as: str | None  # in the kitchen's unit, where that is more than what stands there


def typed_out(field: Typed, shown_in: ShownIn) -> TypedOut:
    """A field as the API tells it."""
    return TypedOut(
        typed=field.typed, value=field.value, unit=field.unit, problem=field.problem, read_as=what_was_read(field, shown_in)
    )
