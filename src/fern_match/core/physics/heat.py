"""How long things take to warm and to cool.

Worked example: a caramel 10 mm high in a tray, cooled from its face alone in a room of 20 °C: Bi = 10 x 0.010 / 0.30 = 0.333,
its first eigenvalue squared 0.2994, so from 110 to 35 °C it takes 93 minutes; 20 mm take 210.
"""

import math

from fern_match.core.errors import check_range

CONDUCTIVITY, DIFFUSIVITY = 0.30, 1.1e-7  # of sugar confections [W/(m K), m2/s] (approximate)
STILL_AIR = 10.0  # heat transfer [W/(m2 K)], 5 to 10 (approximate)
EVAPORATION_J_G = 2257.0  # of water at 100 °C
HOB_KW = 1.0  # what a domestic burner brings into the pan, 0.8 to 1.5 (approximate)
_S_PER_MIN = 60.0
_HALVINGS = 60


def first_eigenvalue(biot: float) -> float:
    """The first root of x tan x = Bi.

    Args:
        biot: Above 0, to 10000.

    Raises:
        OutOfRange: biot is outside.

    Source: Carslaw and Jaeger (1959), slab with convection; by bisection.

    >>> round(first_eigenvalue(1 / 3) ** 2, 3)
    0.299
    """
    check_range("Bi", biot, 1e-6, 10000.0)
    low, high = 0.0, math.pi / 2
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if middle * math.tan(middle) < biot else (low, middle)
    return (low + high) / 2


def cooling_min(thickness_mm: float, from_c: float, to_c: float, room_c: float, *, transfer: float = STILL_AIR) -> float:
    """Until the warmest spot of a slab that cools from one face has come down to a temperature [min].

    Args:
        thickness_mm: 0.1 to 200.
        from_c: At the start [degC].
        to_c: Wanted [degC], above the room.
        room_c: Of the air [degC].
        transfer: At its face [W/(m2 K)], 1 to 1000.

    Raises:
        OutOfRange: the slab is outside the range, or is to be colder than the room.

    Source: first term of the series (Carslaw and Jaeger 1959); good from Fo 0.2.

    >>> round(cooling_min(10, 110, 35, 20), 1)
    93.1
    """
    check_range("thickness", thickness_mm, 0.1, 200.0, unit="mm")
    check_range("heat transfer", transfer, 1.0, 1000.0)
    check_range("end of cooling", to_c, room_c + 0.5, max(from_c, room_c + 0.5), unit="°C")
    if from_c <= to_c:
        return 0.0
    length = thickness_mm / 1000
    root = first_eigenvalue(transfer * length / CONDUCTIVITY)
    first = 4 * math.sin(root) / (2 * root + math.sin(2 * root))
    theta = (to_c - room_c) / (from_c - room_c)
    return max(0.0, length**2 / (DIFFUSIVITY * root**2) * math.log(first / theta)) / _S_PER_MIN


def boiling_min(mass_g: float, rise_c: float, capacity: float, evaporated_g: float, net_kw: float = HOB_KW) -> float:
    """From cold until a boil has reached its end [min]: warming all of it, and the water that leaves it.

    Args:
        mass_g: In the pan at the start, 0 or more.
        rise_c: How much warmer it becomes [degC], 0 or more.
        capacity: Heat capacity [J/(g K)], 1 to 4.2.
        evaporated_g: Water driven off, 0 or more.
        net_kw: What reaches the pan [kW], 0.05 to 20.

    Raises:
        OutOfRange: capacity or net_kw is outside.

    Source: Q = m c dT + evaporated x 2257 J/g.

    >>> round(boiling_min(1250, 100, 2.4, 130), 2)
    9.89
    """
    check_range("heat capacity", capacity, 1.0, 4.2)
    check_range("power", net_kw, 0.05, 20.0, unit="kW")
    return (mass_g * capacity * rise_c + evaporated_g * EVAPORATION_J_G) / (1000 * net_kw) / _S_PER_MIN


def mixed_c(parts: tuple[tuple[float, float, float], ...]) -> float:
    """Temperature of things poured together [degC], no heat lost.

    Args:
        parts: Of each its mass [g], heat capacity [J/(g K)] and temperature [degC]; not empty.

    >>> round(mixed_c(((60, 3.9, 25), (500, 2.0, 120))), 1)
    102.0
    """
    held = sum(mass * capacity for mass, capacity, _ in parts)
    return sum(mass * capacity * temp for mass, capacity, temp in parts) / held
