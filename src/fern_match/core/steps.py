"""The steps of the way through, in their order: the one list of them in the core."""

from collections.abc import Callable
from dataclasses import dataclass

from fern_match.core.adapt.words import adapt_words
from fern_match.core.batch.words import batch_words
from fern_match.core.estimate.words import estimate_words
from fern_match.core.formulate.words import formulate_words
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.words import study_words


@dataclass(frozen=True, slots=True, kw_only=True)
class Situation:
    """What the words of all steps are made from: cheap to know, however large the match."""

    reading: StudyReading
    versions: int = 0
    batches: int = 0
    pieces: str = ""  # of the first batch, as typed


@dataclass(frozen=True, slots=True)
class StepWords:
    """A step of the path and the words under its name."""

    step: str
    words: str


_WORDS: dict[str, Callable[[Situation], str]] = {
    "study": lambda now: study_words(now.reading),
    "estimate": lambda now: estimate_words(now.reading),
    "formulate": lambda now: formulate_words(now.versions),
    "adapt": lambda now: adapt_words(now.versions),
    "batch": lambda now: batch_words(now.versions, now.batches, now.pieces, now.reading.comma),
}


def step_words(now: Situation) -> tuple[StepWords, ...]:
    """The path's words, step by step."""
    return tuple(StepWords(step, words(now)) for step, words in _WORDS.items())


def progress_words(study: str, versions: int, batches: int) -> str:
    """How far a match is on the way, for a list.

    Args:
        versions: How many there are.
        batches: How many there are.
    """
    if batches:
        return "As far as Batch"
    return "As far as Formulate" if versions else f"Study: {study or 'just begun'}"
