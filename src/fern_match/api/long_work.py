"""Long work about versions, keyed by all its input: solving, other ways, what holds back, proposals.

Each is asked for with the window that wants it; asked again while it is under way, it tells how far it is. Nothing is worked out
twice, and what was seen can be kept by its key.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from fastapi import Query
from pydantic import BaseModel, Field

from fern_match.api.deps import Opened
from fern_match.api.runner import Work
from fern_match.core.adapt import Adapted, Rule, adapted, limits_held, refused_by
from fern_match.core.formulate import (
    Outcome,
    Overview,
    PieceLimit,
    Room,
    Version,
    Way,
    Within,
    declared_of,
    overview,
    serving_g,
    solve,
    ways,
    what_holds_back,
)
from fern_match.core.measures import Measures
from fern_match.core.record import digest
from fern_match.core.study.reading import StudyReading

MOST_WAIT_S = 2.0
Window = Annotated[str, Field(max_length=40)]
WindowQuery = Annotated[str, Query(max_length=40)]
WaitQuery = Annotated[float, Query(ge=0, le=MOST_WAIT_S, allow_inf_nan=False)]
_BROKEN = "This could not be worked out. What you typed is safe; undo the last change and try again."


class UnderWay(BaseModel):
    """It is being worked out; ask again."""

    status: Literal["computing"] = "computing"
    revision: int
    done: float


def key_of(kind: str, version: Version, opened: Opened, *asked: Any) -> str:
    """A fingerprint of all that some work about a version rests on.

    Args:
        kind: Of the work.
        asked: What it was asked for with.
    """
    measures = opened.kitchen.kitchen.measures.value
    return f"{kind} {digest((version, opened.reading.fingerprint, measures, *asked))}"


@dataclass(frozen=True, slots=True)
class SolvedFor:
    """What solving gave, and the version it was asked of."""

    found: Overview
    outcome: Outcome


@dataclass(frozen=True, slots=True)
class _OfVersion:
    """Long work about a version, as a call that a process can be given."""

    version: Version
    reading: StudyReading
    measures: Measures

    def seen(self) -> Overview:
        """The version from all sides."""
        return overview(self.version, self.reading, self.measures)

    def limits(self, found: Overview) -> tuple[PieceLimit, ...]:
        """What the rules it was adapted under allow."""
        return limits_held(self.version, found.formula, self.reading)


@dataclass(frozen=True, slots=True)
class Solving(_OfVersion):
    """Solving layers of a version."""

    layers: tuple[str, ...]

    def __call__(self, should_stop: Callable[[], bool], _: Callable[[float], None]) -> SolvedFor:
        """The version, and what came of it."""
        found = self.seen()
        room = Room(free=self.layers, widened=True, limits=self.limits(found), should_stop=should_stop)
        return SolvedFor(found, solve(found.formula, found.targets, room, self.reading))


@dataclass(frozen=True, slots=True)
class FindingWhatHoldsBack(_OfVersion):
    """Finding what stops the targets that are missed."""

    def __call__(self, should_stop: Callable[[], bool], _: Callable[[float], None]) -> Outcome:
        """What the amounts can do and what not."""
        found = self.seen()
        return what_holds_back(found, self.reading, self.limits(found), should_stop)


@dataclass(frozen=True, slots=True)
class FindingWays(_OfVersion):
    """Working out other ways to make a layer, within the rules that the version was adapted under."""

    layer_id: str

    def __call__(self, should_stop: Callable[[], bool], _: Callable[[float], None]) -> tuple[Way, ...]:
        """The ways, the nearest first."""
        found = self.seen()
        within = Within(
            allows=lambda food: not refused_by(self.version, food, self.reading),
            limits=self.limits(found),
            should_stop=should_stop,
        )
        return ways(found.formula, self.layer_id, found.targets, self.reading, within)


def solve_work(version: Version, layers: Sequence[str], opened: Opened, window: str) -> Work[SolvedFor]:
    """Solves layers of a version.

    Args:
        layers: Their ids.
    """
    key = key_of("solve", version, opened, sorted(layers))
    compute = Solving(version, opened.reading, opened.kitchen.kitchen.measures, tuple(layers))
    return Work(match_id=opened.id, kind="solve", window=window, key=key, compute=compute, broken=_BROKEN)


def held_back_work(version: Version, opened: Opened, window: str) -> Work[Outcome]:
    """Finds what stops the targets that are missed."""
    key = key_of("held back", version, opened)
    compute = FindingWhatHoldsBack(version, opened.reading, opened.kitchen.kitchen.measures)
    return Work(match_id=opened.id, kind="held back", window=window, key=key, compute=compute, broken=_BROKEN)


def ways_work(version: Version, layer_id: str, opened: Opened, window: str) -> Work[tuple[Way, ...]]:
    """Works out other ways to make a layer."""
    key = key_of("ways", version, opened, layer_id)
    compute = FindingWays(version, opened.reading, opened.kitchen.kitchen.measures, layer_id)
    return Work(match_id=opened.id, kind="ways", window=window, key=key, compute=compute, broken=_BROKEN)


@dataclass(frozen=True, slots=True, kw_only=True)
class Worked:
    """Proposals as they are shown, with all that keeping one needs."""

    parent: Version
    found: Overview
    rules: tuple[Rule, ...]
    forbidden: tuple[str, ...]
    adapted: Adapted


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposing:
    """Working out proposals under rules."""

    parent: Version
    found: Overview
    rules: tuple[Rule, ...]
    forbidden: tuple[str, ...]
    required: tuple[str, ...]
    reading: StudyReading

    def __call__(self, should_stop: Callable[[], bool], progress: Callable[[float], None]) -> Worked:
        """The proposals, with all that keeping one needs."""
        found = self.found
        worked = adapted(
            found.formula,
            found.targets,
            self.rules,
            self.reading,
            serving_g=serving_g(self.reading, found.formula),
            forbidden=self.forbidden,
            required=self.required,
            explain=False,
            declared=declared_of(self.parent, self.reading),
            should_stop=should_stop,
            progress=progress,
        )
        return Worked(parent=self.parent, found=found, rules=self.rules, forbidden=self.forbidden, adapted=worked)


@dataclass(frozen=True, slots=True)
class FindingWhatHoldsProposalsBack:
    """Finding what keeps proposals from being nearer, from what is worked out already."""

    worked: Adapted

    def __call__(self, should_stop: Callable[[], bool], _: Callable[[float], None]) -> dict[str, tuple[str, ...]]:
        """Sentences by system."""
        return self.worked.held_back(should_stop)


def proposals_work(
    version: Version,
    found: Overview,
    rules: tuple[Rule, ...],
    asked: Mapping[str, Sequence[str]],
    opened: Opened,
    window: str,
) -> Work[Worked]:
    """Works out proposals under rules.

    Args:
        found: The version from all sides.
        rules: That hold, as read.
        asked: `rule`, `forbidden` and `required` as they were asked for.
    """
    forbidden, required = tuple(asked["forbidden"]), tuple(asked["required"])
    compute = Proposing(parent=version, found=found, rules=rules, forbidden=forbidden, required=required, reading=opened.reading)
    key = key_of("proposals", version, opened, tuple(asked["rule"]), forbidden, required)
    return Work(match_id=opened.id, kind="proposals", window=window, key=key, compute=compute, broken=_BROKEN)


def proposals_held_back_work(worked: Worked, key: str, match_id: str, window: str) -> Work[dict[str, tuple[str, ...]]]:
    """Finds what keeps proposals from being nearer.

    Args:
        worked: The proposals.
        key: Under which they are known.
    """
    return Work(
        match_id=match_id,
        kind="proposals held back",
        window=window,
        key=f"held back, {key}",
        compute=FindingWhatHoldsProposalsBack(worked.adapted),
        broken=_BROKEN,
    )
