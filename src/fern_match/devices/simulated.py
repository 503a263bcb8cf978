"""A simulated thermometer and scale: they show what the pan of a practice run would, faster than life."""

from dataclasses import dataclass

from fern_match.core.cook import Pan
from fern_match.devices.device import Measured

_MS = 1000.0
_LOOK_BACK_S = 20.0


@dataclass(frozen=True)
class SimulatedPan:
    """The pan of a practice run with its thermometer and its scale."""

    pan: Pan
    on_ms: int
    off_ms: int | None  # None while the heat is on
    speed: float  # so many times as fast as life
    offset_c: float = 0.0  # what the thermometer shows too much

    @property
    def name(self) -> str:
        """What the cook calls it."""
        return "Simulated thermometer and scale"

    def measured(self, now_ms: int) -> Measured:
        """What they show now, to a tenth.

        Args:
            now_ms: By the clock that the log is kept by.
        """
        on_s, off_s = self._seconds(now_ms)
        state, before = self.pan.at(on_s, off_s), self.pan.at(max(0.0, on_s - _LOOK_BACK_S), off_s)
        rising = (state.temp_c - before.temp_c) / _LOOK_BACK_S * 60 if self.off_ms is None else None
        return Measured(temp_c=round(state.temp_c + self.offset_c, 1), mass_g=round(state.mass_g, 1), rising_c_min=rising)

    def _seconds(self, now_ms: int) -> tuple[float, float]:
        end = now_ms if self.off_ms is None else self.off_ms
        on_s = max(0.0, (end - self.on_ms) / _MS * self.speed)
        return on_s, 0.0 if self.off_ms is None else max(0.0, (now_ms - self.off_ms) / _MS * self.speed)
