"""What the user decided about a cook, as typed: schools, what of the plan is changed; and the log of what happened."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, ClassVar

from fern_match.core.record import STRICT, Count, Signs, told
from fern_match.core.record.texts import Cell, Key, Name

LONGEST_STEP_ID = 180
StepId = Annotated[str, Signs(LONGEST_STEP_ID)]  # layer, step: "caramel--cook"
Note = Annotated[str, Signs(2000)]


@dataclass(frozen=True, slots=True, kw_only=True)
class StepChange:
    """A step of the plan as the user wants it; what is empty stays as planned."""

    __pydantic_config__: ClassVar = STRICT

    id: StepId
    title: Name = told("step", default="", silent="it is the plan's own name for it")
    hands_on: Cell = told("hands-on minutes", default="")
    wait: Cell = told("waiting minutes", default="")
    heat: Cell = told("heat", default="")
    note: Note = told("note", default="")
    left_out: bool = told("left out", default=False)
    after: StepId = told("comes after", default="", silent="an id of the plan's; where it stands is seen")


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnStep:
    """A step of the user's own."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    title: Name = told("what is done", default="")
    note: Note = told("how", default="")
    hands_on: Cell = told("hands-on minutes", default="")
    wait: Cell = told("waiting minutes", default="")
    heat: Cell = told("heat", default="")
    after: StepId = told("comes after", default="", silent="an id of the plan's; where it stands is seen")


class EntryKind(StrEnum):
    """What an entry says."""

    BEGUN = "begun"  # the cook; again after it was ended
    ENDED = "ended"
    OPENED = "opened"  # a step
    DONE = "done"
    UNDONE = "undone"  # a step that was done after all not
    TIMER = "timer"
    TIMER_OFF = "timer off"
    READING = "reading"  # of a thermometer or a scale
    CUE = "cue"
    NOTE = "note"
    AMOUNT = "amount"  # what of a line really went in
    RESCUE = "rescue"
    PRACTICE = "practice"  # simulated thermometer and scale, so many times as fast as life; 0 for none
    HEAT_ON = "heat on"  # in practice: under the pan
    HEAT_OFF = "heat off"


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """One entry of the log."""

    __pydantic_config__: ClassVar = STRICT

    key: Annotated[str, Signs(80)]  # of whoever wrote it, so that what is sent twice is there once
    kind: EntryKind
    step: Annotated[str, Signs(LONGEST_STEP_ID)] = ""
    round: int = 1
    of: Annotated[str, Signs(160)] = ""  # which timer, cue, line or device
    text: Annotated[str, Signs(2000)] = ""
    value: float | None = None  # minutes, degC, g
    unit: Annotated[str, Signs(20)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Logged:
    """An entry with when it was written."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    number: int  # from 1, without gaps
    at_ms: int  # of whoever keeps the log
    entry: Entry


@dataclass(frozen=True, slots=True, kw_only=True)
class CookPlan:
    """A cook of a batch."""

    __pydantic_config__: ClassVar = STRICT

    id: Key
    batch: Key = told("batch", refers="batch", silent="which batch it is of is its name")
    # which way is taken where there are several: by what is asked, and the layer where it is asked of one
    schools: Annotated[Mapping[StepId, Key], Count(400)] = told("{0}", keys=("school",), factory=dict, silent="seen on the page")
    changes: Annotated[tuple[StepChange, ...], Count(400)] = told(
        "changed steps", label="{title}", noun="changed step", default=()
    )
    own: Annotated[tuple[OwnStep, ...], Count(100)] = told("own steps", label="{title}", noun="step", default=())
    cooks: Cell = told("Cooks", default="")
    begins: Cell = told("Begins at", default="")
    ready_by: Cell = told("Ready by", default="")
    day_from: Cell = told("The day begins", default="")
    day_to: Cell = told("The day ends", default="")
    # what was logged before the match came here in a file; what is logged here is kept beside it, and only ever added to
    log: Annotated[tuple[Logged, ...], Count(20_000)] = told("log", silent="it is no decision", default=())
