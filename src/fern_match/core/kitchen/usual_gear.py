"""Usual sizes of gear, to begin with one's own."""

from functools import cache

from fern_match.core.data import rows
from fern_match.core.kitchen.gear import Gear, GearKind, GearShape


@cache
def usual_gear() -> tuple[tuple[Gear, str], ...]:
    """Gear as it is usually sold, each with a note; its id is to be given where it is taken.

    Source: data/usual_gear.csv (approximate; sizes inside).
    """
    return tuple(
        (
            Gear(
                id=f"usual-{number}",
                name=row["name"],
                kind=GearKind(row["kind"]),
                shape=GearShape(row["shape"]),
                length=row["length"],
                width=row["width"],
                depth=row["depth"],
                volume=row["volume"],
                cavities=row["cavities"],
            ),
            row["note"],
        )
        for number, row in enumerate(rows("usual_gear.csv"))
    )
