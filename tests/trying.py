"""What tests of trials share: a piece of given families, cooked with a log, tried, and looked at from all sides."""

from collections.abc import Mapping, Sequence
from dataclasses import replace

from tests.cooking import FAMILIES, PANTRY, Part, layer_of

from fern_match.core.batch import BatchPlan, read_batch
from fern_match.core.cook import CookPlan, Entry, EntryKind, Logged, plan_of
from fern_match.core.formulate import Version, overview, read_version
from fern_match.core.formulate.solving.targets import targets_of
from fern_match.core.kitchen import Kitchen, KitchenReading, read_kitchen
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, PieceSize, Study, weighed
from fern_match.core.trials import Looked, Trial, looked_at, prepared, tried
from fern_match.core.trials.record import FaultSeen

MIN = 60_000


def version_of(parts: Mapping[str, Part]) -> Version:
    """A version of such layers, held to what they are."""
    version = Version(id="v", name="Ours", layers=tuple(layer_of(key, one) for key, one in parts.items()))
    return replace(version, targets=targets_of(read_version(version, PANTRY), PANTRY))


def study_of(parts: Mapping[str, Part], original: Mapping[str, Sequence[str]] | None = None) -> StudyReading:
    """An original of such layers, weighed so."""
    study = Study(
        name="Bench",
        size=PieceSize(length="60", width="25", height="20"),
        layers=tuple(
            Layer(id=key, name=key.capitalize(), family=one.family, place=one.place, host=one.host) for key, one in parts.items()
        ),
        readings=weighed(original or {}),
    )
    return StudyReading(study, PANTRY, FAMILIES)


def log_of(*entries: tuple[int, EntryKind, Mapping[str, object]]) -> tuple[Logged, ...]:
    """Entries at so many minutes."""
    return tuple(
        Logged(id=f"e{n}", number=n, at_ms=minute * MIN, entry=Entry(key=f"k{n}", kind=kind, **more))  # type: ignore[arg-type]
        for n, (minute, kind, more) in enumerate(entries, 1)
    )


def read_at(step: str, value: float, of: str = "thermometer") -> tuple[int, EntryKind, Mapping[str, object]]:
    """A device read at a step."""
    return 10, EntryKind.READING, {"step": step, "of": of, "value": value}


def seen_at(step: str, cue: str) -> tuple[int, EntryKind, Mapping[str, object]]:
    """A cue seen at a step."""
    return 10, EntryKind.CUE, {"step": step, "of": cue}


def trial_of(
    parts: Mapping[str, Part],
    wrong: Mapping[str, str] | None = None,
    *,
    log: Sequence[Logged] = (),
    kitchen: Kitchen | None = None,
    original: Mapping[str, Sequence[str]] | None = None,
    version: Version | None = None,
    batch: Mapping[str, str] | None = None,
    schools: Mapping[str, str] | None = None,
    **typed: object,
) -> Looked:
    """A trial of 24 pieces from all sides.

    Args:
        wrong: By layer, the fault.
        typed: Further fields of the trial.
    """
    here = read_kitchen(kitchen or Kitchen())
    reading, made = study_of(parts, original), version or version_of(parts)
    faults = tuple(FaultSeen(id=f"f{n}", fault=fault, layer=layer) for n, (layer, fault) in enumerate((wrong or {}).items()))
    trial = Trial(id="t", batch="b", cook="c", faults=faults, **typed)  # type: ignore[arg-type]
    plan = BatchPlan(id="b", version="v", pieces="24", **(batch or {}))  # type: ignore[arg-type]
    cook = CookPlan(id="c", batch="b", schools=schools or {})
    ready = prepared(made, plan, cook, reading, here)
    return looked_at(tried(trial, ready, tuple(log), reading, here), ready.seen, None)


def steps_of(parts: Mapping[str, Part], kitchen: Kitchen | None = None, schools: Mapping[str, str] | None = None) -> list[str]:
    """Ids of the steps that such a piece has."""
    here: KitchenReading = read_kitchen(kitchen or Kitchen())
    reading = study_of(parts)
    read = read_batch(BatchPlan(id="b", version="v", pieces="24"), overview(version_of(parts), reading), reading, here)
    return [one.id for one in plan_of(CookPlan(id="c", batch="b", schools=schools or {}), read, reading, here).steps]
