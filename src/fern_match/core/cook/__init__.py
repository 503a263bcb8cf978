"""The cook: in what order, how hot, how long; a schedule of it; and the run of one batch with its log.

Belongs here: steps from the tables, build order, rounds, windows, schedule, what a log says of a run. Must never happen
here: what is weighed out (the batch says it) and what time it is (whoever calls says so). Imitate `lines.py`.
"""

from fern_match.core.cook.as_cooked import AsCooked, altered_words, as_cooked
from fern_match.core.cook.asked_time import When, when_of
from fern_match.core.cook.boils import mass_at_c, water_left_share
from fern_match.core.cook.building import shown_minutes
from fern_match.core.cook.differences import differences
from fern_match.core.cook.edits import read_change
from fern_match.core.cook.log import Run, Timer, run_of
from fern_match.core.cook.moments import MINUTES_A_DAY, clock
from fern_match.core.cook.now import Closing, Doing, Now, now_of
from fern_match.core.cook.pan import Pan, PanState
from fern_match.core.cook.plan import Plan, at_hand_before, plan_of, uses_by_line
from fern_match.core.cook.record import CookPlan, Entry, EntryKind, Logged, OwnStep, StepChange
from fern_match.core.cook.rescue import Rescue, rescues_for, way_back
from fern_match.core.cook.schedule import USUAL_DAY, Hands, Line, Schedule, schedule, tasks_of
from fern_match.core.cook.schools import Option, School
from fern_match.core.cook.step import Boil, Cue, Heat, Place, Stage, Step, Use
from fern_match.core.cook.tables import caution_sentences
from fern_match.core.cook.telling import HOLD_A_FIGURE, entry_words, read_entry, warning_of
from fern_match.core.cook.words import cue_words, schedule_words, water_words, window_words

__all__ = [
    "HOLD_A_FIGURE",
    "MINUTES_A_DAY",
    "USUAL_DAY",
    "AsCooked",
    "Boil",
    "Closing",
    "CookPlan",
    "Cue",
    "Doing",
    "Entry",
    "EntryKind",
    "Hands",
    "Heat",
    "Line",
    "Logged",
    "Now",
    "Option",
    "OwnStep",
    "Pan",
    "PanState",
    "Place",
    "Plan",
    "Rescue",
    "Run",
    "Schedule",
    "School",
    "Stage",
    "Step",
    "StepChange",
    "Timer",
    "Use",
    "When",
    "altered_words",
    "as_cooked",
    "at_hand_before",
    "caution_sentences",
    "clock",
    "cue_words",
    "differences",
    "entry_words",
    "mass_at_c",
    "now_of",
    "plan_of",
    "read_change",
    "read_entry",
    "rescues_for",
    "run_of",
    "schedule",
    "schedule_words",
    "shown_minutes",
    "tasks_of",
    "uses_by_line",
    "warning_of",
    "water_left_share",
    "water_words",
    "way_back",
    "when_of",
    "window_words",
]
