"""What is said of a piece: one thing, what would help, and how much it asks for attention."""

from dataclasses import dataclass
from enum import StrEnum


class Tone(StrEnum):
    """How much a sentence asks for attention."""

    FINE = "fine"
    LOOK = "look"  # look here
    FAILS = "fails"  # this will fail


@dataclass(frozen=True, slots=True, kw_only=True)
class Note:
    """One thing that is so with this piece."""

    topic: str
    sentence: str
    help: str = ""
    tone: Tone = Tone.FINE
    layer_id: str | None = None
