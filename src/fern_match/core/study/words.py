"""What the study still lacks, in words, and what of an original a list shows."""

from fern_match.core.study.flags import flags_of
from fern_match.core.study.reading import StudyReading


def study_words(reading: StudyReading) -> str:
    """The words under Study on the path."""
    if not reading.intervals:
        return "no label yet"
    if not reading.statement.items:
        return "no statement"
    if not reading.build:
        return "no layers yet"
    if flags := flags_of(reading):
        count = len(flags)
        return f"{count} to look at"
    weighed = sum(1 for weighing in reading.weighings if weighing.grams and len(weighing.layers) == 1)
    layers = len(reading.study.layers)
    return "all weighed" if weighed == layers else f"{weighed}/{layers} weighed"
