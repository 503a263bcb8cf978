"""How long steps take: by mass, by thickness, by where things stand, by the warmth of the room."""

from fern_match.core.cook.tables import Oven, Setting, Spread
from fern_match.core.errors import OutOfRange
from fern_match.core.physics.heat import cooling_min

_WARM_C, _HOT_C = 22.0, 26.0
_SLOWER_WARM, _SLOWER_HOT = 1.4, 2.0  # how much longer what sets in the room takes when it is warm (approximate)
_BAKE_POWER = 1.2  # minutes of a base by its thickness (approximate)
_LEAST, _MOST = 0.4, 3.0  # of the table's minutes: beyond, a thickness tells nothing any more


def _by_thickness(spread: Spread, factor: float) -> Spread:
    return spread.times(min(_MOST, max(_LEAST, factor)))


def setting_min(setting: Setting, where: str, thickness_mm: float | None, room_c: float) -> Spread | None:
    """How long something takes to set [min]; None where that is no place for it.

    Worked example: a caramel of 20 mm in a room of 20 °C: 90 minutes at 10 mm, times (20 / 10)^1.3, 222 minutes; at 24 °C
    four tenths more.

    Args:
        setting: Of the table.
        where: room, fridge or freezer.
        thickness_mm: How thick it is; as in the table where None.
        room_c: Of the air [degC].

    Source: data/setting_times.csv.
    """
    spread = setting.at(where)
    if spread is None:
        return None
    by = 1.0 if thickness_mm is None else (thickness_mm / setting.ref_mm) ** setting.power
    if where == "room" and room_c > _WARM_C:
        by *= _SLOWER_HOT if room_c > _HOT_C else _SLOWER_WARM
    return _by_thickness(spread, by)


def baking_min(oven: Oven, thickness_mm: float | None) -> Spread:
    """How long something bakes [min].

    Args:
        oven: Of the table.
        thickness_mm: How thick it is; as in the table where None.

    Source: data/bake.csv and roast.csv; by thickness to the power of 1.2 (approximate).
    """
    if thickness_mm is None or oven.ref_mm is None:
        return oven.minutes
    return _by_thickness(oven.minutes, (thickness_mm / oven.ref_mm) ** _BAKE_POWER)


def tray_cooling_min(thickness_mm: float | None, from_c: float, to_c: float, room_c: float) -> float:
    """How long a tray cools in the room [min].

    Args:
        thickness_mm: How thick it is; 12 mm where None.
        from_c: At the start [degC].
        to_c: Wanted [degC].
        room_c: Of the air [degC].
    """
    try:
        return cooling_min(thickness_mm or 12.0, from_c, max(to_c, room_c + 3), room_c)
    except OutOfRange:
        return 0.0
