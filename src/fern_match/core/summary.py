"""What a list shows of a match: its facts, and its piece by its look."""

from collections.abc import Mapping
from dataclasses import dataclass

from fern_match.core.estimate.picture import SmallSlice, rough_slice
from fern_match.core.match import Match
from fern_match.core.record.shape import fields_of, plural
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.words import study_words


@dataclass(frozen=True, slots=True, kw_only=True)
class MatchLine:
    """The facts of one line, and the slice in usual proportions for as long as there is no estimate."""

    name: str = ""
    maker: str = ""
    region: str = ""
    net_weight: str = ""
    layers: int = 0
    study_words: str = ""  # what the study lacks
    rough: SmallSlice | None = None

    def facts(self, counts: Mapping[str, int]) -> tuple[str, ...]:
        """What there is to say of it, in order.

        Args:
            counts: Of the match's parts, by their list.
        """
        parts = ((spec.noun, counts.get(spec.name, 0)) for spec in fields_of(Match) if spec.noun)
        told = (
            self.maker,
            self.net_weight,
            f"{self.region} label" if self.region else "",
            *(_counted(count, noun) for noun, count in (("layer", self.layers), *parts)),
        )
        return tuple(fact for fact in told if fact)


def match_line(reading: StudyReading) -> MatchLine:
    """The line of a match."""
    study = reading.study
    return MatchLine(
        name=study.name,
        maker=study.maker,
        region=study.region.value,
        net_weight=reading.net_weight_words,
        layers=len(study.layers),
        study_words=study_words(reading),
        rough=rough_slice(reading),
    )


def _counted(count: int, noun: str) -> str:
    return f"{count} {noun if count == 1 else plural(noun)}" if count else ""
