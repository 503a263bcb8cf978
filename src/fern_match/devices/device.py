"""What a device at the stove is asked, and what it answers."""

from dataclasses import dataclass
from typing import Protocol


@dataclass(frozen=True, slots=True, kw_only=True)
class Measured:
    """What a device shows at a moment; None of what it does not measure."""

    temp_c: float | None
    mass_g: float | None
    rising_c_min: float | None  # how fast it warms


class Device(Protocol):
    """A thermometer, a scale, or both."""

    @property
    def name(self) -> str:
        """What the cook calls it."""
        ...

    def measured(self, now_ms: int) -> Measured:
        """What it shows now.

        Args:
            now_ms: By the clock that the log is kept by.
        """
        ...
