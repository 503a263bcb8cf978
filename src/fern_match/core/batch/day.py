"""What the room of the day does to a batch: too warm for chocolate, too damp for hard sugar, too dry for what is soft.

Worked example: at 24 degC and 65 % the air's dew point is 17.0 degC: a piece from a fridge of 5 degC sweats until it is warmer. A
honeycomb of water activity 0.30 at most takes up water from air of 65 %; a marshmallow of 0.62 and more gives none of its own.

Source: dew point by Magnus (17.62, 243.12 degC), good to 0.1 K from 0 to 60 degC; bands of water activity from data/families.csv.
"""

import math
from collections.abc import Sequence

from fern_match.core.batch.cautions import Caution
from fern_match.core.batch.scale import BatchLayer
from fern_match.core.errors import check_range
from fern_match.core.families import Families
from fern_match.core.food.together import listed

COLDEST_C, WARMEST_C = 0.0, 45.0
_TO_TEMPER_C = 22.0  # above it tempered chocolate sets slowly and blooms (approximate)
_TOO_WARM_C = 26.0  # above it it does not set at all (approximate)
_DAMPER, _DRIER = 0.05, 0.15  # beyond a family's band of water activity, from which it is felt
_SOFT_FROM = 0.4  # water activity: what is drier has nothing to lose
_FRIDGE_C = 6.0
_MAGNUS, _MAGNUS_C = 17.62, 243.12


def dew_point_c(room_c: float, humidity: float) -> float:
    """What is colder than this sweats [degC].

    Args:
        room_c: Of the air [degC], 0 to 45.
        humidity: Relative [1], above 0 to 1.

    Raises:
        OutOfRange: one is outside.

    >>> round(dew_point_c(24, 0.65), 1)
    17.0
    """
    check_range("room", room_c, COLDEST_C, WARMEST_C, unit="°C")
    check_range("humidity", humidity, 0.01, 1.0)
    gamma = math.log(humidity) + _MAGNUS * room_c / (_MAGNUS_C + room_c)
    return _MAGNUS_C * gamma / (_MAGNUS - gamma)


def of_the_day(
    inside: Sequence[BatchLayer], tempered: Sequence[str], families: Families, room_c: float | None, humidity: float | None
) -> tuple[Caution, ...]:
    """What to mind in this room; nothing of what is not known.

    Args:
        inside: Layers that meet the air until they are coated.
        tempered: Names of coats that are to be tempered, or may have to be.
        families: For their bands of water activity.
        room_c: Of the air [degC]; None where nobody said.
        humidity: Relative [1]; None where nobody said.
    """
    said: list[str] = []
    if room_c is not None and tempered and room_c > _TO_TEMPER_C:
        said.append(
            f"At {room_c:.0f}\u00a0°C {listed(tempered)} does not set on the table: work in the cool of the day, or set "
            "each tray in the fridge for 10 minutes at a time."
            if room_c > _TOO_WARM_C
            else f"At {room_c:.0f}\u00a0°C {listed(tempered)} sets slowly and may bloom: 10 minutes in the fridge help it."
        )
    if humidity is not None:
        bands = {one.name: families[one.family].water_activity for one in inside if one.family in families}
        known = {name: band for name, band in bands.items() if band is not None}
        damp = [name for name, (_, high) in known.items() if humidity > high + _DAMPER]
        dry = [name for name, (low, _) in known.items() if humidity < low - _DRIER and low > _SOFT_FROM]
        if damp:
            said.append(
                f"Air of {100 * humidity:.0f}\u00a0% makes {listed(damp)} soft or sticky: coat or wrap it as soon as it is cold."
            )
        if dry:
            said.append(f"Air of {100 * humidity:.0f}\u00a0% dries {listed(dry)}: keep it covered until it is coated.")
    if room_c is not None and humidity is not None:
        dew = dew_point_c(room_c, humidity)
        if dew > _FRIDGE_C:
            said.append(f"What is colder than {dew:.0f}\u00a0°C sweats: let pieces from the fridge warm up in a closed box.")
    return (Caution("Today’s room", " ".join(said), can_hurt=False),) if said else ()
