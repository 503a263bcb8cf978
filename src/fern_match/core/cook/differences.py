"""What another version changes at the stove: steps that come and go, ends that move.

Worked example: a caramel of sugar ends at 118 °C, its sugar-free twin of maltitol at 182 g in the pan: “Cook to 118 °C” goes,
“Cook to 182 g in the pan” comes, and it is said in one line.
"""

from collections.abc import Sequence

from fern_match.core.cook.step import Step
from fern_match.core.food.together import listed

_SAME_C, _SAME_MIN = 1.0, 0.25


def differences(steps: Sequence[Step], before: Sequence[Step]) -> tuple[str, ...]:
    """What a plan has that another has not, layer by layer, in sentences.

    Args:
        steps: Of this version.
        before: Of the version it was made after, for the same batch.
    """
    old, new = {one.id: one for one in before}, {one.id: one for one in steps}
    said: list[str] = []
    for layer_id in dict.fromkeys(one.layer_id for one in (*steps, *before)):
        mine = [one for one in steps if one.layer_id == layer_id]
        theirs = [one for one in before if one.layer_id == layer_id]
        name = next((one.layer for one in (*mine, *theirs)), "") or "The pieces"
        moved = [(old[one.id], one) for one in mine if one.id in old and _moved(old[one.id], one)]
        said += [f"{name}: “{one.title}” in place of “{was.title}”{_why(was, one)}." for was, one in moved]
        come = [f"“{one.title}”" for one in mine if one.id not in old]
        gone = [f"“{one.title}”" for one in theirs if one.id not in new]
        if come:
            said.append(f"{name}: new here {listed(come)}.")
        if gone:
            said.append(f"{name}: no longer {listed(gone)}.")
    return tuple(said)


def _moved(was: Step, now: Step) -> bool:
    heats = [one.heat.aim_c if one.heat is not None else None for one in (was, now)]
    if was.title != now.title or was.end_by != now.end_by or (heats[0] is None) != (heats[1] is None):
        return True
    if heats[0] is not None and heats[1] is not None and abs(heats[0] - heats[1]) >= _SAME_C:
        return True
    return was.wait_min > 0 and abs(now.wait_min / was.wait_min - 1) > _SAME_MIN


def _why(was: Step, now: Step) -> str:
    if was.title != now.title:
        return ""
    if was.end_by != now.end_by:
        return f", ended by {now.end_by or 'the step'}"
    return f", {now.wait_min:.0f} min in place of {was.wait_min:.0f}" if was.wait_min != now.wait_min else ", at another heat"
