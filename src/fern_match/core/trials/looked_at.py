"""A trial from all sides: compared, how close, what is wrong and why, what to change; the same for page and command line."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from fern_match.core.batch import BatchPlan, BatchReading, portioned, read_batch
from fern_match.core.cook import CookPlan, Logged, Plan, Run, as_cooked, plan_of, run_of
from fern_match.core.estimate import Estimate
from fern_match.core.formulate import Formula, Overview, Version, overview
from fern_match.core.kitchen import KitchenReading
from fern_match.core.study.reading import StudyReading
from fern_match.core.trials.changes import (
    MOST_CHANGES,
    Change,
    Faulty,
    NextVersion,
    change_for,
    changes_for,
    next_version,
)
from fern_match.core.trials.closeness import Closeness, Compared, closeness, comparison
from fern_match.core.trials.finding import LayerTrial, TrialOf, layers_tried
from fern_match.core.trials.reading import TrialReading, read_trial
from fern_match.core.trials.record import Trial
from fern_match.core.trials.tasting import Verdict, verdict


@dataclass(frozen=True, kw_only=True)
class Looked:
    """A trial from all sides; causes and changes are worked out when they are first asked for."""

    of: TrialOf
    seen: Overview  # the version, as it is written
    compared: tuple[Compared, ...]

    @cached_property
    def close(self) -> Closeness | None:
        """What all that was compared comes to; None where nothing was read of both."""
        return closeness(self.compared, self.trial.id)

    @cached_property
    def layers(self) -> tuple[LayerTrial, ...]:
        """What the trial says of each layer, and of the whole piece."""
        return layers_tried(self.of, self.compared)

    @cached_property
    def changes(self) -> tuple[Change, ...]:
        """One to three things to do otherwise next time; none where nothing is wrong."""
        return changes_for([one.faulty for one in self.layers if one.faulty is not None])

    @cached_property
    def wanted(self) -> Mapping[str, Change]:
        """By cause of each faulty layer, what would be changed if the user takes it for the one."""
        several = [one.faulty for one in self.layers if one.faulty is not None]
        every = (change_for(one, cause, wanted=True) for one in several for cause in one.ranking.causes)
        return {change.id: change for change in every}

    @cached_property
    def verdicts(self) -> Mapping[str, Verdict]:
        """Of its tastings, by their ids."""
        return {one.id: verdict(one) for one in self.trial.tastings}

    @property
    def trial(self) -> Trial:
        """As it was typed."""
        return self.of.read.trial

    @property
    def faulty(self) -> Mapping[str, Faulty]:
        """Layers with something wrong, by id."""
        return {one.layer_id: one.faulty for one in self.layers if one.faulty is not None}

    @property
    def copy(self) -> Formula:
        """A piece as it was cooked, its layers as heavy as they were weighed."""
        made = self.of.made.formula
        weighed = {
            one.layer_id: one.copy.value for one in self.compared if one.layer_id and one.unit == "g" and one.copy is not None
        }
        factors = {
            one.layer_id: weighed[one.layer_id] / one.finished_g
            for one in made.layers
            if one.layer_id in weighed and one.finished_g > 0
        }
        return portioned(made, factors)

    def next(self, chosen: Sequence[str], taken: Sequence[str]) -> NextVersion | None:
        """The version to cook next; None where nothing is chosen.

        Args:
            chosen: Ids of changes.
            taken: Ids of the versions there are.
        """
        known = {**self.wanted, **{one.id: one for one in self.changes}}
        changes = [known[key] for key in dict.fromkeys(chosen) if key in known][:MOST_CHANGES]
        return next_version(self.seen, changes, self.faulty, taken, self.of.reading) if changes else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Prepared:
    """What all trials of one batch and cook rest on."""

    seen: Overview
    read: BatchReading
    plan: Plan


def prepared(
    version: Version, batch: BatchPlan, cook: CookPlan | None, reading: StudyReading, kitchen: KitchenReading
) -> Prepared:
    """A batch as it was planned, and the plan of its cook.

    Args:
        version: Of the batch.
        batch: That was made.
        cook: Its cook; None where it was not planned here.
        reading: The study, with compositions and families.
        kitchen: Where it was made.
    """
    seen = overview(version, reading, kitchen.kitchen.measures)
    read = read_batch(batch, seen, reading, kitchen)
    plan = plan_of(cook or CookPlan(id="plan", batch=batch.id), read, reading, kitchen)
    return Prepared(seen=seen, read=read, plan=plan)


def tried(trial: Trial, made: Prepared, entries: Sequence[Logged], reading: StudyReading, kitchen: KitchenReading) -> TrialOf:
    """What a trial rests on.

    Args:
        trial: As typed.
        made: Its batch and its plan.
        entries: Of the log of its cook; none where nobody logged it.
        reading: The study, with compositions and families.
        kitchen: Where it was made.
    """
    run = run_of(entries, entries[-1].at_ms if entries else 0)
    typed = read_trial(trial, made.read, reading, kitchen)
    return TrialOf(
        read=typed,
        batch=made.read,
        plan=made.plan,
        run=run,
        made=_made(typed, made.plan, run, made.read, reading),
        reading=reading,
        kitchen=kitchen,
    )


def looked_at(of: TrialOf, seen: Overview, estimate: Estimate | None) -> Looked:
    """A trial from all sides.

    Args:
        of: What it rests on.
        seen: Its version, as it is written.
        estimate: Of the original; None where there is none yet.
    """
    return Looked(of=of, seen=seen, compared=comparison(of.read, of.made, of.reading, of.kitchen, estimate))


def _made(typed: TrialReading, plan: Plan, run: Run, read: BatchReading, reading: StudyReading) -> Overview:
    """A piece with what really went in: by the log, and by what was typed afterwards."""
    layers = read.batch.layers if read.batch is not None else ()
    planned = {(layer.layer_id, line.line_id): line.weigh_out_g for layer in layers for line in layer.ingredients}
    amounts = dict(run.amounts)
    for step in plan.steps:
        for use in step.uses:
            key = (step.layer_id, use.line_id)
            one = typed.went_in.get(key)
            if one is not None and one.value is not None and planned.get(key, 0.0) > 0:
                amounts[(step.id, use.line_id)] = use.grams * one.value / planned[key]
    found = as_cooked(amounts, plan.steps, read, reading)
    return found.seen if found is not None else read.seen
