"""Cues as data: what is seen or felt at a step, and what each stands for, with its error."""

from collections.abc import Mapping
from functools import cache

from fern_match.core.batch import kind_of_boil
from fern_match.core.cook.step import Cue, Stage
from fern_match.core.data import rows
from fern_match.core.families import Families

FIRST_TRY_C = 6.0  # error of a cook's eye for a boil at first; half of it when trained (approximate)
_NEAR_C = 14.0  # cues of a boil this far from its end are no use
_QUANTITY = "°C"


@cache
def _stages() -> Mapping[str, tuple[Cue, ...]]:
    found: dict[str, list[Cue]] = {}
    for number, row in enumerate(rows("stage_cues.csv")):
        found.setdefault(row["of"], []).append(
            Cue(
                id=f"{row['of']}-{number}",
                stage=Stage(row["stage"]),
                words=row["cue"],
                quantity=row["quantity"] if row["about"] else "",
                about=float(row["about"]) if row["about"] else None,
                error=float(row["error"]) if row["error"] else None,
            )
        )
    return {key: tuple(several) for key, several in found.items()}


def stage_cues(of: str, aim_c: float | None = None) -> tuple[Cue, ...]:
    """What is seen at a step that is no boil, from early to late.

    Args:
        of: Name in data/stage_cues.csv.
        aim_c: What is aimed at, where its cues are read by heat: of working chocolate each kind has its own [degC].

    Source: data/stage_cues.csv (approximate).
    """
    found = _stages().get(of, ())
    if of != "work" or aim_c is None:
        return found
    right = next(one.about for one in found if one.stage is Stage.RIGHT and one.about is not None)
    return tuple(
        Cue(
            id=one.id,
            stage=one.stage,
            words=one.words,
            quantity=one.quantity,
            about=one.about + aim_c - right if one.about is not None else None,
            error=one.error,
        )
        for one in found
    )


def boil_cues(family_id: str, aim_c: float | None, families: Families) -> tuple[Cue, ...]:
    """What is seen in a boil, from early to late, judged by where this one ends.

    Args:
        family_id: Of the layer.
        aim_c: Where it ends, as at sea level [degC]; None of one that ends at a weight: no cue of sugar holds for it.
        families: For what it is a kind of.

    Source: data/cues.csv and cue_kinds.csv (approximate; a calm boil).
    """
    if aim_c is None:
        return ()
    kind = kind_of_boil(family_id, families)
    found = []
    for number, row in enumerate(rows("cues.csv")):
        low, high = float(row["low_c"]), float(row["high_c"])
        middle = (low + high) / 2
        if row["of"] != kind or abs(middle - aim_c) > _NEAR_C + (high - low) / 2:
            continue
        stage = Stage.RIGHT if low <= aim_c < high else Stage.EARLY if middle < aim_c else Stage.LATE
        found.append(
            Cue(
                id=f"{kind}-{number}",
                stage=stage,
                words=row["cue"],
                short=row["short"],
                quantity=_QUANTITY,
                about=middle,
                error=FIRST_TRY_C,
            )
        )
    return tuple(found)


def cue_by_id(cue_id: str, cues: tuple[Cue, ...]) -> Cue | None:
    """One of several; None where it is none of them.

    Args:
        cue_id: As in the table.
        cues: Of a step.
    """
    return next((one for one in cues if one.id == cue_id), None)
