"""Trials: what came out, how close it is, what is wrong and why, and what to change next."""

import secrets
from collections.abc import Collection
from dataclasses import dataclass, field, replace
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fern_match.api.deps import ChangeIn, Desk, DeskDep, MadeOnIn, Opened, Short, kinds, touching
from fern_match.api.errors import NotReady
from fern_match.api.estimate import estimate_work
from fern_match.api.formulate import TakenOut, keep_begun
from fern_match.api.runner import Computing
from fern_match.api.trial_view import OverTimeOut, TrialOut, over_time_out, trial_out
from fern_match.core.batch import BatchPlan
from fern_match.core.batch.words import batch_line_words
from fern_match.core.cook import CookPlan, Logged
from fern_match.core.errors import NotKnown
from fern_match.core.estimate import Estimate
from fern_match.core.estimate.inputs import input_key
from fern_match.core.formulate import Version
from fern_match.core.kitchen import Kitchen
from fern_match.core.match import Match, with_another_trial, with_plan, with_trial, without_trial
from fern_match.core.record import digest
from fern_match.core.record.parts import PartKey
from fern_match.core.record.texts import Key
from fern_match.core.trials import BREAKS, Looked, Prepared, Trial, learnt, looked_at, over_time, prepared, served, tried
from fern_match.exchange.trials_csv import written_trials
from fern_match.store import cook_log

router = APIRouter(prefix="/api/matches/{match_id}/trials", tags=["trials"])
_MOST_SERVED = 60


class TrialLineOut(BaseModel):
    """A trial in the list of them."""

    id: str
    name: str
    batch: str
    version: str
    version_name: str


class CookedOut(BaseModel):
    """A batch, or a cook of it, that a trial can be begun for."""

    batch: str
    cook: str | None
    version: str
    words: str


class TrialsOut(BaseModel):
    """All trials of a match, and what further ones can be begun for."""

    revision: int
    trials: list[TrialLineOut]
    cooked: list[CookedOut]


class TrialIn(ChangeIn):
    """A changed trial, as typed."""

    trial: Trial


class NewTrialIn(MadeOnIn):
    """A trial to be begun."""

    batch: Key
    cook: Key | None = None


class NextIn(ChangeIn):
    """Changes to make a version of."""

    changes: Annotated[list[Short], Field(min_length=1, max_length=3)]


class ServeIn(ChangeIn):
    """Further servings of a tasting: a name each, or empty."""

    tasters: Annotated[list[Short], Field(min_length=1, max_length=_MOST_SERVED)]


class LearntIn(ChangeIn):
    """A planned figure to take from past trials."""

    batch: Key
    layer: Key  # or "breaks"


@router.get("")
def read_trials(match_id: str, desk: DeskDep) -> TrialsOut:
    """All trials, in the order they were begun."""
    opened = desk.open(match_id, kinds("versions", "batches", "cooks", "trials"))
    match = opened.match
    names = {version.id: version.name for version in match.versions}
    batches = {plan.id: plan for plan in match.batches}

    def words(plan: BatchPlan, more: str = "") -> str:
        said = batch_line_words(plan, opened.reading, opened.kitchen.gear_names)
        return ", ".join(one for one in (names.get(plan.version, plan.version), said, more) if one)

    cooked = [
        CookedOut(
            batch=cook.batch, cook=cook.id, version=batches[cook.batch].version, words=words(batches[cook.batch], f"cook {n}")
        )
        for n, cook in enumerate(match.cooks, 1)
    ]
    cooked += [
        CookedOut(batch=plan.id, cook=None, version=plan.version, words=words(plan, "without a log")) for plan in match.batches
    ]
    return TrialsOut(
        revision=opened.revision,
        trials=[
            TrialLineOut(
                id=one.id,
                name=one.name or "Unnamed trial",
                batch=one.batch,
                version=batches[one.batch].version,
                version_name=names.get(batches[one.batch].version, ""),
            )
            for one in match.trials
        ],
        cooked=cooked,
    )


@router.post("", status_code=201)
def begin_trial(match_id: str, body: NewTrialIn, desk: DeskDep) -> TrialsOut:
    """Begins a trial of a batch, and of its cook where it has one; the last of the list."""
    change = partial(with_another_trial, batch_id=body.batch, cook_id=body.cook, trial_id=f"trial-{secrets.token_hex(4)}")
    desk.keeper(match_id).save(body.revision, change)
    return read_trials(match_id, desk)


@router.get("/over-time")
def read_over_time(match_id: str, desk: DeskDep) -> OverTimeOut:
    """Every trial beside the one before."""
    opened = desk.open(match_id, kinds("versions", "batches", "cooks", "trials"))
    estimate, _ = _estimate(opened, desk)
    all_of_them = _Looking(opened, desk, estimate).all()
    taught = learnt([one.of for one in all_of_them])
    return over_time_out(opened.revision, over_time(all_of_them), taught, opened.kitchen)


@router.get("/table", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def read_table(match_id: str, desk: DeskDep) -> Response:
    """All trials and what was read in them, as a table."""
    opened = desk.open(match_id, kinds("versions", "batches", "cooks", "trials"))
    text = written_trials(_Looking(opened, desk).all())
    headers = {"Content-Disposition": 'attachment; filename="trials.csv"'}
    return Response(text, media_type="text/csv", headers=headers)


@router.post("/learnt")
def take_learnt(match_id: str, body: LearntIn, desk: DeskDep) -> OverTimeOut:
    """Plans a batch with what past trials say of a loss."""
    opened = desk.open(match_id, kinds("versions", "batches", "cooks", "trials"))
    taught = learnt([one.of for one in _Looking(opened, desk).all()])
    found = next((one for one in taught if one.layer_id == body.layer), None)
    if found is None:
        raise NotReady("What trials say of this has changed meanwhile. Look again.")
    figure = f"{found.proposed:.1f}"

    def change(match: Match) -> Match:
        plan = next((one for one in match.batches if one.id == body.batch), None)
        if plan is None:
            raise NotKnown("batch", body.batch)
        if found.layer_id == BREAKS:
            return with_plan(match, replace(plan, breaks=figure))
        return with_plan(match, replace(plan, left_on_tools={**plan.left_on_tools, found.layer_id: figure}))

    desk.keeper(match_id).save(body.revision, change, touching(PartKey("batches", body.batch)), decided_on=body.decided_on)
    return read_over_time(match_id, desk)


@router.get("/{trial_id}")
def read_one_trial(match_id: str, trial_id: str, desk: DeskDep) -> TrialOut:
    """One trial from all sides."""
    opened, trial = _open(match_id, trial_id, desk)
    estimate, under_way = _estimate(opened, desk)
    looked = _Looking(opened, desk, estimate).look(trial)
    return trial_out(opened, looked, under_way)


@router.put("/{trial_id}")
def write_trial(match_id: str, trial_id: str, body: TrialIn, desk: DeskDep) -> TrialOut:
    """Keeps a changed trial."""
    trial = replace(body.trial, id=trial_id)
    opened, _ = _open(match_id, trial_id, desk)

    def change(match: Match) -> Match:
        return with_trial(match, trial)

    named = [PartKey("versions", one.id) for one in opened.match.versions]  # so that history has the names of its layers
    desk.keeper(match_id).save(body.revision, change, [*_around(trial), *named], decided_on=body.decided_on)
    return read_one_trial(match_id, trial_id, desk)


@router.delete("/{trial_id}")
def delete_trial(match_id: str, trial_id: str, body: MadeOnIn, desk: DeskDep) -> TrialsOut:
    """Takes a trial out; undo brings it back."""
    desk.keeper(match_id).save(body.revision, partial(without_trial, trial_id=trial_id), touching(PartKey("trials", trial_id)))
    return read_trials(match_id, desk)


@router.post("/{trial_id}/next", status_code=201)
def take_next(match_id: str, trial_id: str, body: NextIn, desk: DeskDep) -> TakenOut:
    """Makes the version to cook next, with the changes chosen; it knows what it was made after."""
    opened, trial = _open(match_id, trial_id, desk)
    estimate, _ = _estimate(opened, desk)
    looked = _Looking(opened, desk, estimate).look(trial)
    versions = desk.open(match_id, kinds("versions", "batches"))
    found = looked.next(body.changes, [one.id for one in versions.match.versions])
    if found is None:
        raise NotReady("What was chosen is not proposed any more; the trial has changed meanwhile. Look again.")
    return keep_begun(match_id, body.revision, versions, found.version, desk, body.decided_on)


@router.post("/{trial_id}/tastings/{tasting_id}/serve")
def serve(match_id: str, trial_id: str, tasting_id: str, body: ServeIn, desk: DeskDep) -> TrialOut:
    """Draws codes and orders for further servings."""
    _, trial = _open(match_id, trial_id, desk)
    known = next((one for one in trial.tastings if one.id == tasting_id), None)
    if known is None:
        raise NotKnown("tasting", tasting_id)

    def change(match: Match) -> Match:
        now = next((one for one in match.trials if one.id == trial_id), None)
        tasting = next((one for one in now.tastings if one.id == tasting_id), None) if now is not None else None
        if now is None or tasting is None:
            raise NotKnown("tasting", tasting_id)
        more = served(tasting, body.tasters, secrets.randbelow, lambda: secrets.token_hex(10))
        return with_trial(match, replace(now, tastings=tuple(more if one.id == tasting_id else one for one in now.tastings)))

    desk.keeper(match_id).save(body.revision, change, _around(trial), decided_on=body.decided_on)
    return read_one_trial(match_id, trial_id, desk)


def _around(trial: Trial) -> Collection[PartKey]:
    keys = [PartKey("trials", trial.id), PartKey("batches", trial.batch)]
    return touching(*keys, *([PartKey("cooks", trial.cook)] if trial.cook is not None else []))


def _open(match_id: str, trial_id: str, desk: Desk) -> tuple[Opened, Trial]:
    """A match with a trial, its batch, its cook and its version.

    Raises:
        NotKnown: there is no such match or trial.
    """
    opened = desk.open(match_id, lambda key: key == PartKey("trials", trial_id))
    trial = next((one for one in opened.match.trials if one.id == trial_id), None)
    if trial is None:
        raise NotKnown("trial", trial_id)
    wanted = {PartKey("trials", trial_id), PartKey("batches", trial.batch), PartKey("cooks", trial.cook or "")}
    with_batch = desk.open(match_id, lambda key: key in wanted)
    batch = next((one for one in with_batch.match.batches if one.id == trial.batch), None)
    if batch is None:
        raise NotKnown("trial", trial_id)
    wanted.add(PartKey("versions", batch.version))
    return desk.open(match_id, lambda key: key in wanted), trial


@dataclass(frozen=True, slots=True)
class _Rests:
    """What trials of one batch and cook rest on, for a fingerprint."""

    batch: BatchPlan
    cook: CookPlan | None
    version: Version
    study: str
    kitchen: Kitchen


@dataclass
class _Looking:
    """Looks at trials of one match as it was opened; what several of them rest on is worked out once."""

    opened: Opened
    desk: Desk
    estimate: Estimate | None = None
    _rests: dict[str, tuple[str, CookPlan | None, tuple[Logged, ...]]] = field(default_factory=dict)

    def all(self) -> list[Looked]:
        """Every trial, in the order they were begun."""
        return [self.look(one) for one in self.opened.match.trials]

    def look(self, trial: Trial) -> Looked:
        """A trial from all sides; remembered as long as nothing it rests on has changed."""
        match, reading, kitchen = self.opened.match, self.opened.reading, self.opened.kitchen
        batch = next(one for one in match.batches if one.id == trial.batch)
        version = match.version(batch.version)
        rests, cook, entries = self._of_batch(trial, batch, version)
        guessed = "" if self.estimate is None else input_key(reading)

        def ready() -> Prepared:
            return prepared(version, batch, cook, reading, kitchen)

        def looked() -> Looked:
            made: Prepared = self.desk.tried.get(f"prepared {rests}", ready)
            return looked_at(tried(trial, made, entries, reading, kitchen), made.seen, self.estimate)

        found: Looked = self.desk.tried.get(f"{digest(trial)} {rests} {len(entries)} {guessed}", looked)
        return found

    def _of_batch(self, trial: Trial, batch: BatchPlan, version: Version) -> tuple[str, CookPlan | None, tuple[Logged, ...]]:
        """Fingerprint of a batch with its cook, the cook without its log, and the log."""
        key = f"{trial.batch} {trial.cook}"
        known = self._rests.get(key)
        if known is None:
            cook = next((one for one in self.opened.match.cooks if one.id == trial.cook), None)
            bare = replace(cook, log=()) if cook is not None else None
            rests = _Rests(batch, bare, version, self.opened.reading.fingerprint, self.opened.kitchen.kitchen)
            known = self._rests[key] = digest(rests), bare, _entries(self.opened.id, cook, self.desk)
        return known


def _entries(match_id: str, cook: CookPlan | None, desk: Desk) -> tuple[Logged, ...]:
    if cook is None:
        return ()
    with desk.database.reading() as session:
        return (*cook.log, *cook_log.logged(session, match_id, cook.id))


def _estimate(opened: Opened, desk: Desk) -> tuple[Estimate | None, bool]:
    """The estimate of the original where it is there, and whether it is still being computed."""
    found = desk.runner.outcome(estimate_work(desk, opened))
    return (found if isinstance(found, Estimate) else None), isinstance(found, Computing)
