"""Trials: what came out of a batch, why, and what to change next.

Belongs here: comparing a copy with its original, causes of faults, tastings, what past trials teach. Must never happen here: how
a version is solved (formulate) and what a cook does (cook). Imitate `difference.py`.
"""

from fern_match.core.trials.changes import WANTED, Change, Faulty, NextVersion
from fern_match.core.trials.closeness import Closeness, Compared, Group, closeness, closer, senses
from fern_match.core.trials.cook_clues import Reached
from fern_match.core.trials.difference import Difference, Known
from fern_match.core.trials.finding import LayerTrial, TrialOf, faults_of
from fern_match.core.trials.keeping import Keeping, keeping
from fern_match.core.trials.learnt import BREAKS, Learnt, learnt
from fern_match.core.trials.looked_at import Looked, Prepared, looked_at, prepared, tried
from fern_match.core.trials.over_time import TrialLine, over_time
from fern_match.core.trials.ranking import RankedCause, Ranking, Read, ranked
from fern_match.core.trials.reading import TrialReading
from fern_match.core.trials.record import Photo, Serving, Sheet, Tasting, TestKind, Trial, Whose
from fern_match.core.trials.tables import clues, faults
from fern_match.core.trials.tasting import NO_PREFERENCE, Verdict, served, tasters_for, verdict
from fern_match.core.trials.telling import (
    apart_words,
    chance_words,
    closeness_summary,
    figure_words,
    logged_words,
    planned_words,
    ranking_words,
    spoken_words,
    take_words,
)

__all__ = [
    "BREAKS",
    "NO_PREFERENCE",
    "WANTED",
    "Change",
    "Closeness",
    "Compared",
    "Difference",
    "Faulty",
    "Group",
    "Keeping",
    "Known",
    "LayerTrial",
    "Learnt",
    "Looked",
    "NextVersion",
    "Photo",
    "Prepared",
    "RankedCause",
    "Ranking",
    "Reached",
    "Read",
    "Serving",
    "Sheet",
    "Tasting",
    "TestKind",
    "Trial",
    "TrialLine",
    "TrialOf",
    "TrialReading",
    "Verdict",
    "Whose",
    "apart_words",
    "chance_words",
    "closeness",
    "closeness_summary",
    "closer",
    "clues",
    "faults",
    "faults_of",
    "figure_words",
    "keeping",
    "learnt",
    "logged_words",
    "looked_at",
    "over_time",
    "planned_words",
    "prepared",
    "ranked",
    "ranking_words",
    "senses",
    "served",
    "spoken_words",
    "take_words",
    "tasters_for",
    "tried",
    "verdict",
]
