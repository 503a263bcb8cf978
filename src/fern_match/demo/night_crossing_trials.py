"""Night Crossing cooked twice, with logs and readings that follow from a hidden truth; and a vegan version under way.

What is hidden: in the first cook the coat was worked at 34.8 °C, more than three degrees too warm (no syrup is boiled in this
bar, so the heat that went too far is the coat's), and the cream was over-filled by 2.7 g. In the second cook both were as
planned. A test holds the ranking against it.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from fern_match.core.adapt import adapted, kept, rules_of
from fern_match.core.batch import BatchPlan, PlanBy
from fern_match.core.cook import CookPlan, Entry, EntryKind, Logged, Plan
from fern_match.core.estimate import Estimate
from fern_match.core.formulate import Version, declared_of, overview, serving_g
from fern_match.core.kitchen import KitchenReading
from fern_match.core.match import Match, first_plan, with_version
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import PieceSize
from fern_match.core.trials import Looked, Trial, looked_at, prepared, tried
from fern_match.core.trials.record import Day, FaultSeen, Kept, Sheet

WARM_COAT_C, RIGHT_COAT_C = 34.8, 31.7
OVERFILLED_G = 2.7
TRUE_CAUSES = {"coat": "seed-lost", "cream": "over-filled"}
_FIRST_DAY_MS, _SECOND_DAY_MS = 1_794_301_200_000, 1_794_906_000_000  # 10 and 17 November 2026, nine in the morning
_MINUTE_MS = 60_000
_WORKED = ("coat--temper", "build--dip-coat")
_SCATTER: Mapping[str, tuple[float, ...]] = {
    "piece": (1.006, 0.989, 1.014, 0.996, 0.995),
    "coat": (1.03, 0.975, 0.99),
    "cream": (1.012, 0.984, 1.006),
    "caramel": (0.978, 1.024),
    "wafer": (1.01, 0.985),
}
_AGAIN: Mapping[str, tuple[float, ...]] = {
    "piece": (0.994, 1.009, 0.988, 1.003, 1.008),
    "coat": (0.985, 1.02, 1.008),
    "cream": (0.99, 1.016, 0.997),
    "caramel": (1.018, 0.99),
    "wafer": (0.99, 1.012),
}


@dataclass(frozen=True, slots=True)
class _Told:
    """What went with a cook that no scale shows."""

    original: Mapping[str, str]
    copy: Mapping[str, str]
    words: str


_FIRST = _Told(
    {"sweet": "6", "snap": "8", "crunch": "7", "smoothness": "7", "bitter": "5"},
    {"sweet": "6.5", "snap": "3", "crunch": "6.5", "smoothness": "7", "bitter": "4.5"},
    "The coat gives before it breaks, and the cream is what one tastes.",
)
_SECOND = _Told(
    {"sweet": "6", "snap": "8", "crunch": "7", "smoothness": "7", "bitter": "5"},
    {"sweet": "6", "snap": "7.5", "crunch": "6.5", "smoothness": "7", "bitter": "5"},
    "Close. The wafer of the original is a shade thinner.",
)


def with_trials(match: Match, reading: StudyReading, kitchen: KitchenReading, found: Estimate) -> Match:
    """A match with its first version cooked and tried, the next made of what that taught and tried, and a vegan version begun.

    Args:
        match: With the faithful version and its batches.
        reading: Its study, with compositions and families.
        kitchen: Where it was cooked.
        found: The estimate of the original.
    """
    version = match.versions[0]
    plan = next(one for one in match.batches if one.by is PlanBy.PAN)
    first = _tried(
        "trial-one", "Trial 1", "10 November", version, plan, _FIRST_DAY_MS, _FIRST, reading, kitchen, found, warm=True
    )
    chosen = [one.id for one in first.looked.changes]
    made = first.looked.next(chosen, [one.id for one in match.versions])
    if made is None:
        raise TypeError("The first trial taught nothing.")
    again = BatchPlan(
        id="framed-again", version=made.version.id, by=PlanBy.PAN, gear=plan.gear, trim=plan.trim, dip_bowl=plan.dip_bowl
    )
    match = with_version(match, made.version, [again], reading.pantry)
    second = _tried("trial-two", "Trial 2", "17 November", made.version, again, _SECOND_DAY_MS, _SECOND, reading, kitchen, found)
    match = replace(match, cooks=(*match.cooks, first.cook, second.cook), trials=(first.trial, second.trial))
    vegan = vegan_version(made.version, reading)
    return with_version(match, vegan, [first_plan(vegan, "24")], reading.pantry)


def vegan_version(parent: Version, reading: StudyReading) -> Version:
    """The nearest vegan proposal, kept.

    Args:
        parent: The version that is adapted.
        reading: The study, with compositions and families.
    """
    seen = overview(parent, reading)
    rules = rules_of(("vegan",), reading.study.region, reading.pantry)
    grams = serving_g(reading, seen.formula)
    found = adapted(
        seen.formula, seen.targets, rules, reading, serving_g=grams, explain=False, declared=declared_of(parent, reading)
    )
    return kept(found.proposals[0], parent, seen.formula, rules, (), reading, {parent.id})


@dataclass(frozen=True, slots=True)
class _Tried:
    cook: CookPlan
    trial: Trial
    looked: Looked


def _tried(
    trial_id: str,
    name: str,
    day: str,
    version: Version,
    plan: BatchPlan,
    begun_ms: int,
    told: _Told,
    reading: StudyReading,
    kitchen: KitchenReading,
    found: Estimate,
    *,
    warm: bool = False,
) -> _Tried:
    """A cook with its log, and what was read of its pieces."""
    made = prepared(version, plan, None, reading, kitchen)
    read = made.read
    log = _log(made.plan, begun_ms, WARM_COAT_C if warm else RIGHT_COAT_C)
    cook = CookPlan(id=f"{trial_id}-cook", batch=plan.id, log=log)
    true = {one.layer_id: one.finished_g for one in read.seen.formula.layers}
    true["cream"] += OVERFILLED_G if warm else 0.15
    scatter = _SCATTER if warm else _AGAIN
    grams = {"piece": sum(true.values()), **true}
    pieces = read.batch.pieces if read.batch is not None else 0
    trial = Trial(
        id=trial_id,
        batch=plan.id,
        cook=cook.id,
        name=name,
        tried_on=day,
        made=str(pieces),
        whole=str(pieces - 1),
        weighed={key: " ".join(f"{grams[key] * factor:.1f}" for factor in scatter[key]) for key in grams},
        size=PieceSize(length="96", width="36", height="22" if warm else "21"),
        faults=(
            FaultSeen(id="soft", fault="chocolate-soft", layer="coat"),
            FaultSeen(id="heavy", fault="layer-heavy", layer="cream"),
        )
        if warm
        else (),
        sheets=(Sheet(id="ours", taster="Ours", original=told.original, copy=told.copy, words=told.words),),
        days=(
            Day(id="three", days="3", kept=Kept.AS_MADE, where="tin, 17 °C"),
            Day(id="ten", days="10", kept=Kept.LESS_GOOD, where="tin, 17 °C", words="The wafer is no longer crisp."),
        )
        if warm
        else (),
        words=told.words,
    )
    return _Tried(cook, trial, looked_at(tried(trial, made, log, reading, kitchen), made.seen, found))


def _log(plan: Plan, begun_ms: int, coat_c: float) -> tuple[Logged, ...]:
    """Each step opened and done in its minutes, heats read where the plan has some."""
    entries: list[tuple[int, Entry]] = [(begun_ms, Entry(key="begun", kind=EntryKind.BEGUN))]
    now = begun_ms
    for step in plan.steps:
        entries.append((now, Entry(key=f"{step.id} opened", kind=EntryKind.OPENED, step=step.id)))
        now += int(step.takes_min * _MINUTE_MS)
        if step.heat is not None:
            reading = coat_c if step.id in _WORKED else step.heat.aim_c
            entry = Entry(
                key=f"{step.id} read",
                kind=EntryKind.READING,
                step=step.id,
                of="thermometer",
                text=f"{reading:.1f}",
                value=round(reading, 1),
                unit="°C",
            )
            entries.append((now, entry))
        entries.append((now, Entry(key=f"{step.id} done", kind=EntryKind.DONE, step=step.id)))
    entries.append((now, Entry(key="ended", kind=EntryKind.ENDED)))
    return tuple(Logged(id=f"e{n}", number=n, at_ms=at, entry=entry) for n, (at, entry) in enumerate(entries, 1))
