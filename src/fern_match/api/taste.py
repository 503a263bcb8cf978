"""What a taster sees on a phone: the codes of one plate and the question, and nothing else.

A serving's own id is its key: eighty random bits. Whoever has the address may answer that one serving, and nothing more; neither
the answer nor the address tells which piece lies under which code, what the match is called, or what others said.
"""

import re
from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from fern_match.api.deps import Desk, DeskDep, Short, touching
from fern_match.core.errors import NotKnown
from fern_match.core.match import Match, with_trial
from fern_match.core.record.parts import PartKey
from fern_match.core.trials import NO_PREFERENCE, Serving, TestKind, Trial

TOKEN = re.compile(r"[0-9a-f]{20}")

router = APIRouter(prefix="/api/taste/{match_id}/{trial_id}", tags=["taste"])


class PlateOut(BaseModel):
    """One plate."""

    question: str
    codes: list[str]  # from left to right
    taster: str
    answered: str  # the code that was named; empty while none was
    may_have_none: bool  # whether "no preference" is an answer


class AnswerIn(BaseModel):
    """What a taster says."""

    model_config = ConfigDict(extra="forbid")

    answer: Annotated[str, Field(max_length=10)]
    taster: Short = ""


@router.get("/{token}")
def read_plate(match_id: str, trial_id: str, token: str, desk: DeskDep) -> PlateOut:
    """The codes of one plate, and the question."""
    _, kind, serving = _found(match_id, trial_id, token, desk)
    return _out(kind, serving)


@router.post("/{token}")
def answer_plate(match_id: str, trial_id: str, token: str, body: AnswerIn, desk: DeskDep) -> PlateOut:
    """Keeps a taster's answer; another one takes its place as long as the tasting is on."""
    trial, kind, serving = _found(match_id, trial_id, token, desk)
    allowed = {*serving.codes, *([NO_PREFERENCE] if kind is TestKind.PREFERENCE else [])}
    if body.answer not in allowed:
        raise NotKnown("code", body.answer)
    said = replace(serving, answer=body.answer, taster=serving.taster or body.taster.strip())

    def change(match: Match) -> Match:
        now = next((one for one in match.trials if one.id == trial_id), None)
        if now is None:
            raise NotKnown("plate", token)
        tastings = tuple(
            replace(one, servings=tuple(said if each.id == token else each for each in one.servings)) for one in now.tastings
        )
        return with_trial(match, replace(now, tastings=tastings))

    around = [
        PartKey("trials", trial_id),
        PartKey("batches", trial.batch),
        *([PartKey("cooks", trial.cook)] if trial.cook else []),
    ]
    desk.keeper(match_id).save(desk.open(match_id).revision, change, touching(*around))
    return _out(kind, said)


def _out(kind: TestKind, serving: Serving) -> PlateOut:
    triangle = kind is TestKind.TRIANGLE
    question = (
        "Two of the three are alike. Taste from left to right, water between. Which is the odd one? If unsure, guess."
        if triangle
        else "Taste from left to right, water between. Which one do you like better?"
    )
    return PlateOut(
        question=question, codes=list(serving.codes), taster=serving.taster, answered=serving.answer, may_have_none=not triangle
    )


def _found(match_id: str, trial_id: str, token: str, desk: Desk) -> tuple[Trial, TestKind, Serving]:
    """Trial, kind and serving of a token.

    Raises:
        NotKnown: nobody was given it.
    """
    if TOKEN.fullmatch(token):
        key = PartKey("trials", trial_id)
        for trial in desk.open(match_id, lambda part: part == key).match.trials:
            for tasting in trial.tastings:
                for serving in tasting.servings:
                    if serving.id == token:
                        return trial, tasting.kind, serving
    raise NotKnown("plate", token[:40])
