"""Versions: the estimate taken as the faithful one."""

from fastapi import APIRouter
from pydantic import BaseModel

from fern_match.api.deps import DeskDep, MadeOnIn, kinds, touching
from fern_match.api.errors import NotReady, WouldOverwrite
from fern_match.api.estimate import estimate_work
from fern_match.api.runner import Computing, Failed
from fern_match.core.estimate import NotYet
from fern_match.core.formulate import Version, WouldReplace, taken
from fern_match.core.match import first_plan, ingredients_of, with_version
from fern_match.core.record.parts import PartKey

router = APIRouter(prefix="/api/matches/{match_id}/versions", tags=["formulate"])


class TakeIn(MadeOnIn):
    """Takes the estimate; where that would overwrite a version, `replace` says to do so, `keep_both` to put it beside."""

    replace: bool = False
    keep_both: bool = False


class TakenOut(BaseModel):
    """The version that was taken."""

    revision: int
    version: Version


@router.post("", status_code=201)
def take_estimate(match_id: str, body: TakeIn, desk: DeskDep) -> TakenOut:
    """Takes the estimate of the newest study as a version, with a batch of it to fill in."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    work = estimate_work(desk, opened)
    found = desk.runner.outcome(work)
    match found:
        case Computing(done):
            raise NotReady(f"The estimate is being computed, {100 * done:.0f} % done. Take it once it is there.")
        case Failed(sentence):
            raise NotReady(sentence)
        case NotYet():
            raise NotReady(" ".join(("There is no estimate to take.", *found.sentences)))
    version = taken(opened.match.versions, found, work.key, keep_both=body.keep_both, over=body.replace)
    if isinstance(version, WouldReplace):
        raise WouldOverwrite(version.sentence)
    fresh = version
    plans = [plan for plan in opened.match.batches if plan.version == fresh.id] or [first_plan(fresh)]
    keys = [PartKey("versions", fresh.id), *(PartKey("batches", plan.id) for plan in plans)]
    keys += [PartKey("pinned", ingredient) for ingredient in ingredients_of(fresh)]
    kept = desk.keeper(match_id).save(
        body.revision, lambda match: with_version(match, fresh, plans, desk.pantry), touching(*keys)
    )
    return TakenOut(revision=kept.revision, version=fresh)
