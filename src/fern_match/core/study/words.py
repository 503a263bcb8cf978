"""What each step of a match still lacks, in words."""

from collections.abc import Sequence
from dataclasses import dataclass

from fern_match.core.measures import Comma, read_count
from fern_match.core.study.flags import flags_of
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import PIECE


@dataclass(frozen=True, slots=True)
class StepWords:
    """A step of the path and the words under its name."""

    step: str
    words: str


def step_words(reading: StudyReading, versions: int, batches: Sequence[str]) -> tuple[StepWords, ...]:
    """The path's words for the steps that exist.

    Args:
        reading: The study as read.
        versions: How many versions there are.
        batches: Pieces of each batch, as typed.
    """
    return (
        StepWords("study", _study(reading)),
        StepWords("estimate", _estimate(reading)),
        StepWords("batch", _batch(versions, batches, reading.comma)),
    )


def _study(reading: StudyReading) -> str:
    if not reading.intervals:
        return "label to copy"
    if not reading.statement.items:
        return "statement to paste"
    if not reading.build:
        return "layers to name"
    if flags := flags_of(reading):
        count = len(flags)
        return "1 thing to look at" if count == 1 else f"{count} things to look at"
    weighed = sum(1 for weighing in reading.weighings if weighing.grams and weighing.subject != PIECE)
    layers = len(reading.study.layers)
    return "all layers weighed" if weighed == layers else f"{weighed} of {layers} layers weighed"


def _estimate(reading: StudyReading) -> str:
    if not reading.build:
        return "waits for layers"
    if reading.net_weight.value is None and not any(weighing.grams for weighing in reading.weighings):
        return "waits for a weight"
    return "follows the study"


def _batch(versions: int, batches: Sequence[str], comma: Comma) -> str:
    if not versions:
        return "waits for a version"
    if len(batches) > 1:
        return f"{len(batches)} batches"
    pieces = read_count(batches[0], comma=comma).value if batches else None
    if pieces is None:
        return "pieces to say"
    return "1 piece" if pieces == 1 else f"{pieces:.0f} pieces"
