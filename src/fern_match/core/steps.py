"""The steps of the way through, in their order: the one list of them in the core."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from fern_match.core.adapt.words import adapt_words
from fern_match.core.batch.words import batch_words
from fern_match.core.cook.words import cook_words
from fern_match.core.estimate.words import estimate_words
from fern_match.core.formulate.telling.words import formulate_words
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.words import study_words
from fern_match.core.trials.words import trial_words


@dataclass(frozen=True, slots=True, kw_only=True)
class Situation:
    """What the words of all steps are made from: cheap to know, however large the match."""

    reading: StudyReading
    counts: Mapping[str, int] = field(default_factory=dict)  # of the match's parts, by their list: versions, batches
    batch: str = ""  # how large the first batch is, in words

    def count(self, parts: str) -> int:
        """How many of a kind of part there are."""
        return self.counts.get(parts, 0)


@dataclass(frozen=True, slots=True)
class StepWords:
    """A step of the path and the words under its name."""

    step: str
    words: str


@dataclass(frozen=True, slots=True)
class _Step:
    id: str
    title: str
    words: Callable[[Situation], str]
    makes: str = ""  # the list of the match that it fills: where there is one of them, one has come as far


_STEPS = (
    _Step("study", "Study", lambda now: study_words(now.reading)),
    _Step("estimate", "Estimate", lambda now: estimate_words(now.reading)),
    _Step("formulate", "Formulate", lambda now: formulate_words(now.count("versions")), "versions"),
    _Step("adapt", "Adapt", lambda now: adapt_words(now.count("versions"))),
    _Step(
        "batch",
        "Batch",
        lambda now: batch_words(now.count("versions"), now.count("batches"), now.batch),
        "batches",
    ),
    _Step("cook", "Cook", lambda now: cook_words(now.count("versions"), now.count("batches"), now.count("cooks")), "cooks"),
    _Step("trials", "Trials", lambda now: trial_words(now.count("batches"), now.count("trials")), "trials"),
)


def step_words(now: Situation) -> tuple[StepWords, ...]:
    """The path's words, step by step."""
    return tuple(StepWords(step.id, step.words(now)) for step in _STEPS)


def progress_words(study: str, counts: Mapping[str, int]) -> str:
    """How far a match is on the way, for a list.

    Args:
        study: What the study lacks, in words.
        counts: Of the match's parts, by their list.
    """
    far = next((step.title for step in reversed(_STEPS) if step.makes and counts.get(step.makes)), None)
    return f"As far as {far}" if far is not None else f"Study: {study or 'just begun'}"
