"""Where a boil ends without a thermometer: what is seen, felt, or dropped into cold water.

Worked example: a nougat's syrup to 121 degC is one of which a drop in cold water makes a ball that holds; a trained eye is good
to about 3 degC, a first try to 6.
"""

from collections.abc import Mapping
from functools import cache

from fern_match.core.data import rows
from fern_match.core.families import Families

ERROR = "A first try errs by about 6\u00a0°C, a trained eye by 3"


@cache
def _cues() -> tuple[tuple[str, float, float, str], ...]:
    return tuple((row["of"], float(row["low_c"]), float(row["high_c"]), row["cue"]) for row in rows("cues.csv"))


@cache
def _kinds() -> Mapping[str, str]:
    return {row["family"]: row["of"] for row in rows("cue_kinds.csv")}


def kind_of_boil(family_id: str, families: Families) -> str:
    """Which cues a boil is read by: those of a syrup, a caramel, a jelly.

    Args:
        family_id: Of the layer that is boiled.
        families: For what it is a variant of.

    Source: data/cue_kinds.csv.
    """
    root = families.root_of(family_id) if family_id in families else family_id
    return _kinds().get(family_id) or _kinds().get(root, "syrup")


def cue_for(family_id: str, at_c: float, families: Families) -> str:
    """What shows that a boil has come to its end; empty where no cue is near.

    Args:
        family_id: Of the layer that is boiled.
        at_c: Where it ends, as at sea level [degC].
        families: For what it is a kind of.

    Source: data/cues.csv and cue_kinds.csv (approximate; a calm boil).
    """
    of = kind_of_boil(family_id, families)
    return next((cue for kind, low, high, cue in _cues() if kind == of and low <= at_c < high), "")
