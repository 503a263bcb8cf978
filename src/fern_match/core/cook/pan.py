"""A pan on a burner, simulated: it warms, boils, thickens and passes its end, by the physics of a syrup.

Worked example: 1000 g sugar and 300 g water with 1 kW net: 2.4 J/(g K) on the way to 103 °C take 4.3 minutes; to 118 °C 145 g
of water are to leave, 5.5 minutes more and a little for the warming.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from fern_match.core.cook.boils import capacity_of
from fern_match.core.cook.step import Boil
from fern_match.core.errors import check_range
from fern_match.core.physics.heat import EVAPORATION_J_G, HOB_KW
from fern_match.core.physics.syrup import boils_c

_ROOM_C = 20.0
_POINTS = 240
_DRIEST = 0.985  # of the water phase: beyond, it burns
_COOLS_MIN = 18.0  # time constant of a pan off the heat (approximate)
_USUAL_SOLUTE = {"sucrose": 1.0}


@dataclass(frozen=True, slots=True)
class PanState:
    """What is in the pan at a moment."""

    temp_c: float
    water_g: float
    mass_g: float


@dataclass(frozen=True)
class Pan:
    """A pan with what is boiled in it."""

    boil: Boil
    net_kw: float = HOB_KW
    boils_at_c: float = 100.0  # water, here

    @property
    def dry_g(self) -> float:
        """All but the water [g]."""
        return sum(self.boil.dissolved.values()) + self.boil.others_g

    @cached_property
    def _course(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Seconds, temperatures and water left from cold on, with the heat on all the time."""
        check_range("power", self.net_kw, 0.05, 20.0, unit="kW")
        solute = self.boil.dissolved if sum(self.boil.dissolved.values()) > 0 else _USUAL_SOLUTE
        grams = max(1e-6, sum(self.boil.dissolved.values()))
        least = grams * (1 - _DRIEST) / _DRIEST
        water = np.linspace(max(self.boil.water_g, least * 1.01), least, _POINTS)
        temps = np.array([self._boils(solute, grams / (grams + one)) for one in water])
        seconds, power = np.zeros(_POINTS), 1000 * self.net_kw
        seconds[0] = self._warming_j(float(water[0]), float(temps[0])) / power
        for at in range(1, _POINTS):
            gone = float(water[at - 1] - water[at])
            capacity = capacity_of(self.boil.dissolved, float(water[at]), self.boil.others_g)
            warmed = (self.dry_g + float(water[at])) * capacity * max(0.0, float(temps[at] - temps[at - 1]))
            seconds[at] = seconds[at - 1] + (gone * EVAPORATION_J_G + warmed) / power
        return seconds, temps, water

    def _boils(self, solute: Mapping[str, float], solids: float) -> float:
        return self.boils_at_c + self.boil.rise * (boils_c(solute, min(solids, 0.99)) - 100.0)

    def _warming_j(self, water_g: float, to_c: float) -> float:
        capacity = capacity_of(self.boil.dissolved, water_g, self.boil.others_g)
        return (self.dry_g + water_g) * capacity * max(0.0, to_c - _ROOM_C)

    def at(self, on_s: float, off_s: float = 0.0) -> PanState:
        """What is in it after so long on the heat, and so long off it again.

        Args:
            on_s: Heat on from cold [s], 0 or more.
            off_s: Heat off since [s], 0 or more.
        """
        seconds, temps, water = self._course
        if on_s < seconds[0]:
            share = on_s / seconds[0] if seconds[0] > 0 else 1.0
            temp, left = _ROOM_C + share * (float(temps[0]) - _ROOM_C), float(water[0])
        else:
            temp, left = float(np.interp(on_s, seconds, temps)), float(np.interp(on_s, seconds, water))
        temp = _ROOM_C + (temp - _ROOM_C) * math.exp(-off_s / 60 / _COOLS_MIN)
        return PanState(temp_c=temp, water_g=left, mass_g=self.dry_g + left)

    def until_c(self, temp_c: float) -> float:
        """How long on the heat until it reads a temperature [s]; as long as it can be followed where it never does.

        Args:
            temp_c: Wanted [degC].
        """
        seconds, temps, _ = self._course
        if temp_c <= temps[0]:
            return float(seconds[0] * max(0.0, temp_c - _ROOM_C) / max(1e-6, temps[0] - _ROOM_C))
        return float(np.interp(temp_c, temps, seconds))
