"""What a lacking tool changes: the same by hand and longer, or a step that this kitchen cannot do."""

from dataclasses import replace

from fern_match.core.cook.step import Bench, Step
from fern_match.core.data import rows


def without_tools(step: Step, key: str, bench: Bench) -> Step:
    """A step as it is done without the tools that the kitchen lacks; the same where it lacks none that it wants.

    Args:
        step: As it is usually done.
        key: Of the step in its way of making.
        bench: With what the kitchen lacks.

    Source: data/lacking.csv (approximate).
    """
    for row in rows("lacking.csv"):
        if not bench.lacks(row["tool"]) or key not in row["steps"].split("|") or not _wants(step, row["tool"]):
            continue
        by_hand = float(row["hands_factor"]) > 1  # then a machine no longer works by itself
        hands = step.hands_on_min + (step.wait_min if by_hand else 0.0)
        step = replace(
            step,
            words=f"{step.words} {row['instead']}".strip(),
            hands_on_min=hands * float(row["hands_factor"]) + float(row["extra_min"]),
            wait_min=0.0 if by_hand else step.wait_min,
            problem=row["problem"] or step.problem,
            tools=tuple(one for one in step.tools if _TOOL.get(one, one) != row["tool"]),
        )
    return step


_TOOL = {"processor": "food processor", "iron": "waffle iron", "grinder": "food processor"}


def _wants(step: Step, tool: str) -> bool:
    if tool == "oven":
        return step.place.value == "oven"
    if tool == "waffle iron":
        return step.place.value == "iron"
    if tool == "mixer":
        return step.place.value == "mixer" or "mixer" in step.tools
    return any(_TOOL.get(one, one) == tool for one in step.tools)
