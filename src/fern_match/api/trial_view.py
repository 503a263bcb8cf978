"""A trial as its page shows it: figures in words and units, bars in tolerances, causes with what speaks for them."""

from collections.abc import Mapping, Sequence

from pydantic import BaseModel

from fern_match.api.deps import Opened
from fern_match.api.estimate import CutFaceOut, cut_face_out
from fern_match.api.typed import TypedOut, typed_out
from fern_match.core.formulate import slice_of_version
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures import Typed
from fern_match.core.measures.shown import shown_mass, temperatures_in
from fern_match.core.trials import (
    WANTED,
    Change,
    Closeness,
    Compared,
    Group,
    Keeping,
    LayerTrial,
    Learnt,
    Looked,
    RankedCause,
    Reached,
    Trial,
    TrialLine,
    Verdict,
    apart_words,
    chance_words,
    closeness_summary,
    clues,
    figure_words,
    keeping,
    logged_words,
    planned_words,
    ranking_words,
    senses,
    spoken_words,
    take_words,
    tasters_for,
)
from fern_match.core.trials.changes import MOST_CHANGES


class BesideOut(BaseModel):
    """One thing of original and copy."""

    id: str
    group: Group
    title: str
    layer_id: str
    original: str
    copy_is: str
    from_original: str
    from_copy: str
    field: str  # where the copy's readings are typed; empty of what is worked out
    apart: str
    is_told: bool
    off: float | None  # in tolerances; None where one of the two is not known
    off_low: float | None
    off_high: float | None


class ClosenessOut(BaseModel):
    """What all of it comes to."""

    words: str
    best: float
    low: float
    high: float


class ChangeOut(BaseModel):
    """One thing to do otherwise next time."""

    id: str
    cause_id: str  # in its layer
    layer_id: str
    words: str
    why: str
    effect: str
    chance: str


class CauseOut(BaseModel):
    """A cause, how likely, and what speaks for and against it."""

    id: str
    says: str
    chance: float
    chance_words: str
    spoken: list[str]
    change: ChangeOut  # what would be changed if this is taken for the cause


class ToTakeOut(BaseModel):
    """A reading that would tell more."""

    ask: str
    is_now: bool


class FaultOut(BaseModel):
    """Something that can be wrong."""

    id: str
    seen: str


class ReachedOut(BaseModel):
    """Something that can be typed of a layer's cook."""

    key: str
    title: str
    ask: str
    is_look: bool
    planned: str
    logged: str
    cell: TypedOut
    says: str  # as it was read; empty where nothing was


class LayerTrialOut(BaseModel):
    """A layer of the copy."""

    layer_id: str
    name: str
    can_be: list[FaultOut]
    wrong: list[str]
    reached: list[ReachedOut]
    ranking: str
    causes: list[CauseOut]
    something_else: str
    to_take: list[ToTakeOut]


class VerdictOut(BaseModel):
    """What a tasting says."""

    tasting: str
    sentence: str
    tasters: int
    is_told: bool


class SenseLineOut(BaseModel):
    """A line that tasters mark."""

    id: str
    title: str
    low: str
    high: str
    own: bool


class WeighableOut(BaseModel):
    """Something of the copy that can be weighed, in the same words as the original."""

    id: str
    name: str


class TrialOut(BaseModel):
    """A trial from all sides."""

    revision: int
    trial: Trial
    version: str
    version_name: str
    estimate_under_way: bool
    cells: dict[str, TypedOut]  # by field, and key where it has some: "made", "weighed.cream"
    weighable: list[WeighableOut]
    lines: list[WeighableOut]  # of the batch, by layer and line
    planned: dict[str, str]  # what the plan has of a cell
    close: ClosenessOut | None
    summary: str
    copy_face: CutFaceOut | None
    compared: list[BesideOut]
    layers: list[LayerTrialOut]
    changes: list[ChangeOut]
    most_changes: int  # to be taken at once
    verdicts: list[VerdictOut]
    senses: list[SenseLineOut]
    keeping: Keeping
    tasters_for: dict[str, int | None]  # tasters that find what so many in ten notice


class MovedOut(BaseModel):
    """One thing that lies nearer or further than in the trial before."""

    title: str
    words: str


class TrialOverTimeOut(BaseModel):
    """A trial beside the one before."""

    trial_id: str
    name: str
    tried_on: str
    version: str
    close: ClosenessOut | None
    closer_words: str
    gave: str
    cost: float | None
    changed: list[str]
    helped: list[MovedOut]
    worse: list[MovedOut]


class LearntOut(BaseModel):
    """What trials say of a loss."""

    layer_id: str
    words: str
    proposed: str


class OverTimeOut(BaseModel):
    """All trials of a match in their order."""

    revision: int
    lines: list[TrialOverTimeOut]
    learnt: list[LearntOut]


_TELLERS = ("0.2", "0.3", "0.5")


def trial_out(opened: Opened, looked: Looked, under_way: bool) -> TrialOut:
    """A trial as its page shows it.

    Args:
        opened: The match, with its kitchen.
        looked: The trial from all sides.
        under_way: Whether the estimate of the original is still being computed.
    """
    kitchen, trial = looked.of.kitchen, looked.trial
    mass = kitchen.kitchen.mass_unit
    layers = looked.of.batch.batch.layers if looked.of.batch.batch is not None else ()
    return TrialOut(
        revision=opened.revision,
        trial=trial,
        version=looked.seen.version.id,
        version_name=looked.seen.version.name,
        estimate_under_way=under_way,
        cells={key: typed_out(one, kitchen.kitchen.shown_in) for key, one in _cells(looked).items()},
        weighable=[WeighableOut(id=one.layer_id, name=one.name) for one in looked.of.made.formula.layers],
        lines=[
            WeighableOut(id=f"{layer.layer_id}--{line.line_id}", name=f"{layer.name}: {line.name}")
            for layer in layers
            for line in layer.ingredients
        ],
        planned={
            **{f"came_out.{one.layer_id}": shown_mass(one.made_g, mass) for one in layers},
            **{f"left.{one.layer_id}": shown_mass(one.left_on_tools_g, mass) for one in layers},
            **{
                f"went_in.{layer.layer_id}--{line.line_id}": shown_mass(line.weigh_out_g, mass)
                for layer in layers
                for line in layer.ingredients
            },
            "made": str(looked.of.batch.batch.pieces) if looked.of.batch.batch is not None else "",
        },
        close=_close(looked.close),
        summary=closeness_summary(looked.compared),
        copy_face=_face(looked, opened),
        compared=[compared_out(one) for one in looked.compared],
        layers=[_layer(one, looked.wanted, kitchen) for one in looked.layers],
        changes=[_change(one, kitchen) for one in looked.changes],
        most_changes=MOST_CHANGES,
        verdicts=[_verdict(key, one) for key, one in looked.verdicts.items()],
        senses=[
            *(SenseLineOut(id=one.id, title=one.title, low=one.low, high=one.high, own=False) for one in senses()),
            *(SenseLineOut(id=one.id, title=one.name, low=one.low, high=one.high, own=True) for one in trial.senses),
        ],
        keeping=keeping(looked.of.read, looked.of.made),
        tasters_for={one: tasters_for(float(one)) for one in _TELLERS},
    )


def over_time_out(revision: int, lines: Sequence[TrialLine], taught: Sequence[Learnt], kitchen: KitchenReading) -> OverTimeOut:
    """All trials beside each other.

    Args:
        revision: Of the match.
        lines: In their order.
        taught: What they say of losses.
        kitchen: For its unit of heat.
    """
    unit = kitchen.kitchen.temperature_unit
    return OverTimeOut(
        revision=revision,
        lines=[
            TrialOverTimeOut(
                trial_id=one.trial_id,
                name=one.name,
                tried_on=one.tried_on,
                version=one.version,
                close=_close(one.close),
                closer_words=one.closer_words,
                gave=_gave(one),
                cost=one.cost,
                changed=[temperatures_in(said, unit) for said in one.changed],
                helped=[MovedOut(title=moved.title, words=moved.words) for moved in one.helped],
                worse=[MovedOut(title=moved.title, words=moved.words) for moved in one.worse],
            )
            for one in lines
        ],
        learnt=[LearntOut(layer_id=one.layer_id, words=one.words, proposed=f"{one.proposed:.1f} %") for one in taught],
    )


def _face(looked: Looked, opened: Opened) -> CutFaceOut | None:
    reading = opened.reading
    size = [looked.of.read.size[key].value for key in ("length", "width", "height")]
    box = reading.size.box_mm if any(one is None for one in size) else tuple(one or 0.0 for one in size)
    face = slice_of_version(looked.copy, reading.study.layers, reading.pantry, reading.families, box)  # type: ignore[arg-type]
    return cut_face_out(face, opened) if face is not None else None


def _gave(one: TrialLine) -> str:
    if one.made is None:
        return f"{one.planned} planned" if one.planned is not None else ""
    of = f" of {one.planned} planned" if one.planned is not None and one.planned != one.made else ""
    whole = f", {one.whole} whole" if one.whole is not None and one.whole != one.made else ""
    return f"{one.made} pieces{of}{whole}"


def compared_out(one: Compared) -> BesideOut:
    """One thing of original and copy.

    Args:
        one: As compared.
    """
    apart = one.apart
    by = one.tolerance
    return BesideOut(
        id=one.id,
        group=one.group,
        title=one.title,
        layer_id=one.layer_id,
        original=figure_words(one, one.original.value) if one.original is not None else "",
        copy_is=figure_words(one, one.copy.value) if one.copy is not None else "",
        from_original=one.from_original,
        from_copy=one.from_copy,
        field=one.field,
        apart=apart_words(one),
        is_told=apart is not None and apart.is_told,
        off=apart.value / by if apart is not None and by > 0 else None,
        off_low=apart.low / by if apart is not None and by > 0 else None,
        off_high=apart.high / by if apart is not None and by > 0 else None,
    )


def _close(close: Closeness | None) -> ClosenessOut | None:
    if close is None:
        return None
    return ClosenessOut(words=close.words, best=close.best, low=close.low, high=close.high)


def _layer(one: LayerTrial, wanted: Mapping[str, Change], kitchen: KitchenReading) -> LayerTrialOut:
    ranking = one.faulty.ranking if one.faulty is not None else None
    unit = kitchen.kitchen.temperature_unit
    return LayerTrialOut(
        layer_id=one.layer_id,
        name=one.name,
        can_be=[FaultOut(id=row.id, seen=row.seen) for row in one.can_be],
        wrong=[row.id for row in one.wrong],
        reached=[_reached(row, kitchen) for row in one.reached],
        ranking=ranking_words(ranking) if ranking is not None else "",
        causes=[_cause(row, wanted[f"{one.layer_id}:{row.cause.id}{WANTED}"], kitchen) for row in ranking.causes]
        if ranking is not None
        else [],
        something_else=f"{100 * ranking.something_else:.0f} in 100" if ranking is not None else "",
        to_take=[ToTakeOut(ask=temperatures_in(ask, unit), is_now=now) for ask, now in take_words(ranking)] if ranking else [],
    )


def _cause(one: RankedCause, change: Change, kitchen: KitchenReading) -> CauseOut:
    return CauseOut(
        id=one.cause.id,
        says=one.cause.says,
        chance=one.chance,
        chance_words=chance_words(one),
        spoken=[spoken_words(said) for said in one.spoken],
        change=_change(change, kitchen),
    )


def _reached(one: Reached, kitchen: KitchenReading) -> ReachedOut:
    row, unit, mass = clues()[one.clue], kitchen.kitchen.temperature_unit, kitchen.kitchen.mass_unit
    return ReachedOut(
        key=one.key,
        title=row.words[:1].upper() + row.words[1:],
        ask=row.ask,
        is_look=row.typed == "yes or no",
        planned=planned_words(one, unit, mass),
        logged=logged_words(one, unit, mass),
        cell=typed_out(one.typed, kitchen.kitchen.shown_in),
        says=one.read.words if one.read is not None else "",
    )


def _change(one: Change, kitchen: KitchenReading) -> ChangeOut:
    unit = kitchen.kitchen.temperature_unit
    chance = f"{100 * one.chance:.0f} in 100"
    return ChangeOut(
        id=one.id,
        cause_id=one.cause_id,
        layer_id=one.layer_id,
        words=temperatures_in(one.words, unit),
        why=temperatures_in(one.why, unit),
        effect=one.effect,
        chance=chance,
    )


def _verdict(key: str, one: Verdict) -> VerdictOut:
    return VerdictOut(tasting=key, sentence=one.sentence, tasters=one.tasters, is_told=one.is_told)


def _cells(looked: Looked) -> dict[str, Typed]:
    read = looked.of.read
    found = {"made": read.made, "whole": read.whole, **{f"size.{key}": one for key, one in read.size.items()}}
    for name, several in (("weighed", read.weighed), ("thick", read.thick)):
        for key, one in several.items():
            mean = f"mean of {len(one.values)}" if len(one.values) > 1 else None
            found[f"{name}.{key}"] = Typed(one.typed, one.mean, one.unit, one.problem, mean)
    found |= {f"came_out.{key}": one for key, one in read.came_out.items()}
    found |= {f"left.{key}": one for key, one in read.left.items()}
    found |= {f"went_in.{layer}--{line}": one for (layer, line), one in read.went_in.items()}
    for sheet in read.sheets:
        found |= {f"original.{sheet.sheet.id}.{key}": one for key, one in sheet.original.items()}
        found |= {f"copy.{sheet.sheet.id}.{key}": one for key, one in sheet.copy.items()}
    return found | {f"days.{key}": one for key, one in read.days.items()}
