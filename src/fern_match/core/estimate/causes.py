"""Why a study does not fit: each doubtful reading of it tried the other way, and ranked by how much better all evidence fits.

A bracket's meaning, a name's match, a place, a family, or a figure may be wrong. Each alternative is one changed study; the
sampler's log evidence says how much better it explains what was seen, and prior odds say how likely such a mistake is: a
misread bracket is likelier than a slip of the scale. What one piece of evidence may gain or lose is capped: in a bad misfit
the one figure that fights most could buy any change at all. Where one change does not settle it, further ones are looked for on
top of it, of readings only: figures are blamed last. Worked example: the bracket of condensed milk as an ingredient gains 21
over all evidence (prior odds 0.3 to 0.7, -0.8), the coat's weighing as an outlier 6 by the cap (-4): the bracket is named. A
reading that settles all, by far and against no answer of the user's, decides: the study is then read so by itself.
"""

import itertools
import math
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from fern_match.core.errors import Stopped
from fern_match.core.estimate.estimator import NotYet, Sampled, estimate, sampled_study
from fern_match.core.estimate.evidence.limits import SMALL
from fern_match.core.estimate.evidence.shares import PERCENT
from fern_match.core.estimate.evidence.weighings import NET_WEIGHT, WEIGHING
from fern_match.core.estimate.inputs import input_key
from fern_match.core.estimate.result import Estimate, EvidenceSeen, Fit, Range
from fern_match.core.estimate.sampler import SEED, Effort
from fern_match.core.families import FROM_PARTS, Family
from fern_match.core.families.admission import Grade, alike, grade, misfit
from fern_match.core.food import resembling, unlisted
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import PIECE, Layer, Meaning, Study, Whereabouts

_TRIAL = Effort(particles=120, climbing_steps=4, transitions=0, pooled=0)
_SHOWN = Effort(particles=250, transitions=4, pooled=3)
_MOST_TRIED, _MOST_NAMED = 40, 3
_MOST_EACH = 6.0  # in log likelihood, what one piece of evidence counts for or against a reading
_MOST_CHAINED = 3  # changes that are proposed together
_LEAST_FURTHER = 4.0  # in log evidence, that each further change brings
_RESEMBLES, _MOST_RESEMBLING = 62.0, 4  # of an unknown name and a known one, 0 to 100; rows tried for it
_LEAST_GAIN = 3.0  # in log evidence; what is under it may be chance
_LEAST_GAIN_IN_A_FIGHT = 0.0  # there something is wrong
# Log prior odds that a mistake of a kind was made, against that it was not.
_MATCH, _PLACE, _FAMILY, _FIGURE = -2.0, -2.3, -2.5, -4.0
_UNKNOWN, _LIST, _MINIMUM = -0.7, -2.0, -3.0
_HOMELESS = -2.3  # of each name that no layer of the build is usually made with
_MAKES_IT = 0.05  # usual share of a role from which a layer is known by it [g/g]
_NAMED = 2.0  # a layer that is called after its kind is mostly of that kind
_TAKEN_BACK = 1.0  # an own answer that differs from what was proposed is the likelier mistake
_LEAST_ODDS = 0.002  # meanings less likely than this are not tried
_FAMILIES_TRIED = 4
_DECIDES = 10.0  # in log evidence, from which a reading after which everything fits is taken without asking
_CLEAR = 3.0  # in log evidence, that it must be ahead of whatever else is named
_OUTLIER = 0.35  # spread of a figure that is simply wrong [share of it]


class CauseKind(StrEnum):
    """What may be wrong."""

    MEANING = "meaning"
    MATCH = "match"
    PLACE = "place"
    FAMILY = "family"
    FIGURE = "figure"


@dataclass(frozen=True, slots=True, kw_only=True)
class BeforeAfter:
    """A layer without and with a change."""

    name: str
    before: Range
    after: Range


@dataclass(frozen=True, slots=True, kw_only=True)
class Cause:
    """One change that makes the evidence fit better."""

    kind: CauseKind
    subject: str  # the item, layer or evidence it is about
    title: str  # what to do, as a sentence
    outcome: str  # what fits then
    gain: float  # in log evidence, prior odds counted
    changed: Study
    key: str  # of the estimate of the changed study
    layers: tuple[BeforeAfter, ...]
    fit: Fit
    decides: bool = False  # whether the study is read so without asking


@dataclass(frozen=True, slots=True)
class _Trial:
    kind: CauseKind
    subject: str
    title: str
    changed: Study
    prior: float
    off: str | None = None  # the evidence that is switched off in it


def likely_causes(
    reading: StudyReading,
    found: Estimate,
    *,
    seed: int = SEED,
    should_stop: Callable[[], bool] = lambda: False,
    progress: Callable[[float], None] = lambda _: None,
) -> tuple[Cause, ...]:
    """The changes that explain a misfit best, the likeliest first; none where nothing helps.

    Args:
        found: The estimate of the same study.
        seed: The same seed gives the same answer.
        should_stop: Asked before each trial.
        progress: Told the share done, 0 to 1.

    Raises:
        Stopped: should_stop said so.
    """
    least = _LEAST_GAIN_IN_A_FIGHT if found.fit is Fit.FIGHTS else _LEAST_GAIN
    ranked = _ranked(reading, found, _trials(reading, found), least, seed, should_stop, lambda done: progress(0.6 * done))
    causes: list[Cause] = []
    for gain, trial in ranked[:_MOST_NAMED]:
        if should_stop():
            raise Stopped
        after = estimate(reading.with_study(trial.changed), effort=_SHOWN, seed=seed)
        if not isinstance(after, Estimate):
            continue
        helps = after.fit is not Fit.FIGHTS or after.to_settle < found.to_settle
        whole = (gain, trial, after)
        if not causes and after.fit is Fit.FIGHTS and trial.off is None:
            whole = _further(reading, whole, seed, should_stop)
        if helps or not causes:
            causes.append(_cause(reading, found, *whole))
    progress(1.0)
    if causes and found.fit is Fit.FIGHTS and _decides(causes, reading):
        causes[0] = replace(causes[0], decides=True)
    return tuple(causes)


def read_by_evidence(reading: StudyReading, *, seed: int = SEED) -> tuple[Estimate | NotYet, Cause | None]:
    """The estimate of a study, read as the evidence decides where it does not fit; with the cause that decided, if one did.

    Args:
        reading: The study.
        seed: The same seed gives the same answer.
    """
    found = estimate(reading, seed=seed)
    if not isinstance(found, Estimate) or found.fit is not Fit.FIGHTS:
        return found, None
    cause = next((one for one in likely_causes(reading, found, seed=seed) if one.decides), None)
    return (found, None) if cause is None else (estimate(reading.with_study(cause.changed), seed=seed), cause)


def _decides(causes: Sequence[Cause], reading: StudyReading) -> bool:
    """Whether the first is a reading, not a figure, after which all fits, that stands out and is against no answer given.

    Another school of the same kind of layer is no rival: both say caramel.
    """
    first, *others = causes
    next_best = max((one.gain for one in others if not _of_a_kind(one, first, reading)), default=-math.inf)
    return (
        first.kind is not CauseKind.FIGURE
        and first.fit is Fit.FITS
        and first.gain >= _DECIDES
        and first.gain >= next_best + _CLEAR
        and not _against_answers(reading.study, first.changed)
    )


def _of_a_kind(one: Cause, other: Cause, reading: StudyReading) -> bool:
    """Whether two causes take one layer for the same kind of thing."""
    kinds = {
        reading.families.root_of(layer.family)
        for cause in (one, other)
        for layer in cause.changed.layers
        if layer.id == cause.subject
    }
    return one.kind is other.kind is CauseKind.FAMILY and one.subject == other.subject and len(kinds) == 1


def _against_answers(study: Study, changed: Study) -> bool:
    """Whether a change takes back what the user said of names, brackets or places."""
    told = ((study.corrections, changed.corrections), (study.meanings, changed.meanings))
    places = ((given, changed.placements.get(key, {})) for key, given in study.placements.items())
    return any(after.get(key) != said for before, after in (*told, *places) for key, said in before.items())


def _ranked(
    reading: StudyReading,
    found: Estimate,
    trials: Iterable[_Trial],
    least: float,
    seed: int,
    should_stop: Callable[[], bool],
    progress: Callable[[float], None] = lambda _: None,
) -> list[tuple[float, _Trial]]:
    """Trials that gain at least so much, the best first."""
    here = sampled_study(reading, _TRIAL, seed=seed)
    if isinstance(here, NotYet):
        return []
    likely = _by_piece(here)
    tried = list(trials)[:_MOST_TRIED]
    ranked: list[tuple[float, _Trial]] = []
    for number, trial in enumerate(tried):
        if should_stop():
            raise Stopped
        gain = _gain(reading, trial, here.particles.log_evidence, likely, found, seed)
        if gain is not None and gain > least:
            ranked.append((gain, trial))
        progress((number + 1) / len(tried))
    return sorted(ranked, key=lambda entry: -entry[0])


def _further(
    reading: StudyReading, so_far: tuple[float, _Trial, Estimate], seed: int, should_stop: Callable[[], bool]
) -> tuple[float, _Trial, Estimate]:
    """A change that does not settle it, with further ones of the reading that do more on top of it."""
    gain, trial, after = so_far
    for _ in range(_MOST_CHAINED - 1):
        changed = reading.with_study(trial.changed)
        more = (one for one in _trials(changed, after) if one.off is None and one.subject != trial.subject)
        ranked = _ranked(changed, after, more, _LEAST_FURTHER, seed, should_stop)
        then = estimate(changed.with_study(ranked[0][1].changed), effort=_SHOWN, seed=seed) if ranked else None
        if not isinstance(then, Estimate) or (then.fit is Fit.FIGHTS and then.to_settle >= after.to_settle):
            break
        best = ranked[0]
        title = f"{trial.title}, and {best[1].title[0].lower()}{best[1].title[1:]}"
        gain, trial, after = gain + best[0], replace(trial, title=title, changed=best[1].changed), then
        if after.fit is not Fit.FIGHTS:
            break
    return gain, trial, after


def _by_piece(run: Sampled) -> dict[str, float]:
    """What each piece of evidence counts in a run, on average: its log likelihood by id."""
    likely = run.density.by_evidence(run.state).mean(axis=1)
    return {piece.id: float(value) for piece, value in zip(run.density.evidence, likely, strict=True)}


def _gain(
    reading: StudyReading, trial: _Trial, here: float, likely: Mapping[str, float], found: Estimate, seed: int
) -> float | None:
    """The log evidence that a trial gains with its prior odds, what one piece brings or costs capped."""
    changed = reading.with_study(trial.changed)
    run = sampled_study(changed, _TRIAL, seed=seed)
    if isinstance(run, NotYet):
        return None
    gain = run.particles.log_evidence - here + _HOMELESS * (len(changed.anywhere) - len(reading.anywhere))
    then = _by_piece(run)
    if trial.off is not None:
        wrong = _log_wrong(next(one for one in found.evidence if one.id == trial.off))
        gain, then = gain + wrong, {**then, trial.off: wrong}
    steps = [then[key] - value for key, value in likely.items() if key in then]
    return gain - sum(step - min(max(step, -_MOST_EACH), _MOST_EACH) for step in steps) + trial.prior


def _log_wrong(piece: EvidenceSeen) -> float:
    """Log density of a figure that is simply wrong: anywhere about what the rest foresees."""
    if piece.expected_low is None or piece.expected_high is None:
        return 0.0
    middle = 0.5 * (piece.expected_low + piece.expected_high)
    spread = max(_OUTLIER * abs(middle), 1e-3)
    seen = piece.centre if piece.centre is not None else middle
    log_density = -0.5 * ((seen - middle) / spread) ** 2 - float(np.log(spread))
    if piece.kind in {WEIGHING.id, NET_WEIGHT.id}:
        return log_density
    width = (piece.seen_high or 0.0) - (piece.seen_low or 0.0)
    return log_density + float(np.log(max(width, 1e-3) / np.sqrt(2 * np.pi)))


def _cause(reading: StudyReading, before: Estimate, gain: float, trial: _Trial, after: Estimate) -> Cause:
    outcome = {
        Fit.FITS: "everything fits",
        Fit.PULLS: "all but a little fits",
        Fit.FIGHTS: f"{before.to_settle} things fought, {after.to_settle} still do",
    }[after.fit]
    return Cause(
        kind=trial.kind,
        subject=trial.subject,
        title=trial.title,
        outcome=outcome,
        gain=round(gain, 1),
        changed=trial.changed,
        key=input_key(reading.with_study(trial.changed)),
        layers=tuple(
            BeforeAfter(name=one.name, before=one.grams, after=other.grams)
            for one, other in zip(before.layers, after.layers, strict=True)
        ),
        fit=after.fit,
    )


# --- what is tried -----------------------------------------------------------------------------------------------------


def _trials(reading: StudyReading, found: Estimate) -> Iterator[_Trial]:
    """Every doubtful reading the other way, the cheapest mistakes first."""
    fighting = [piece for piece in found.evidence if piece.pulls]
    yield from _meanings(reading)
    yield from _unknown_names(reading)
    yield from _own_answers(reading)
    yield from _lists(reading)
    yield from _minima(reading, fighting)
    yield from _figures(reading, fighting)
    yield from _matches(reading)
    yield from _families(reading)
    yield from _places(reading, fighting)


def _meanings(reading: StudyReading) -> Iterator[_Trial]:
    words = {
        Meaning.INGREDIENT: "as one ingredient",
        Meaning.LAYER: "as a layer’s own list",
        Meaning.PARTS: "as parts of one kind",
    }
    for bracket in reading.brackets:
        here = max(bracket.odds[bracket.meaning], 1e-3)
        for meaning, odds in bracket.odds.items():
            if meaning is bracket.meaning or odds < _LEAST_ODDS or not bracket.may_mean(meaning):
                continue
            changed = replace(reading.study, meanings={**reading.study.meanings, bracket.item: meaning})
            prior = float(np.log(odds / here)) + _TAKEN_BACK * bracket.corrected
            title = f"Read the bracket after {bracket.name} {words[meaning]}"
            yield _Trial(CauseKind.MEANING, bracket.item, title, changed, prior)


def _unknown_names(reading: StudyReading) -> Iterator[_Trial]:
    """Names that nobody knows, as each of the rows they resemble."""
    for leaf in reading.statement.leaves():
        outside = unlisted(leaf.name)
        if leaf.key in reading.ingredient_of or leaf.key in reading.study.corrections or (outside and outside.is_trace):
            continue
        for food in resembling(leaf.name, reading.pantry, least=_RESEMBLES)[:_MOST_RESEMBLING]:
            changed = replace(reading.study, corrections={**reading.study.corrections, leaf.key: food.id})
            yield _Trial(CauseKind.MATCH, leaf.key, f"Take “{leaf.name}” for {food.name}", changed, _UNKNOWN)


def _lists(reading: StudyReading) -> Iterator[_Trial]:
    """A list as another layer's, and two lists with their places changed."""
    layers = {layer.id: layer.name or family.name for layer, family in reading.build}
    given = {key: ids for key, ids in reading.placing.compounds.items() if len(ids) == 1}
    told = {layer_id for ids in reading.placing.compounds.values() for layer_id in ids}
    for key, (old,) in given.items():
        name = key.rpartition(" > ")[2]
        for new, title in layers.items():
            if new in told:
                continue
            changed = _placed(reading.study, {key: {old: Whereabouts.NO, new: Whereabouts.YES}})
            yield _Trial(CauseKind.PLACE, key, f"Take the list after {name} for that of {title}", changed, _LIST)
    for (one, (here,)), (other, (there,)) in itertools.combinations(given.items(), 2):
        changed = _placed(
            reading.study,
            {one: {here: Whereabouts.NO, there: Whereabouts.YES}, other: {there: Whereabouts.NO, here: Whereabouts.YES}},
        )
        names = " and ".join(key.rpartition(" > ")[2] for key in (one, other))
        yield _Trial(CauseKind.PLACE, one, f"Let the lists after {names} change places", changed, _LIST)


def _placed(study: Study, given: Mapping[str, Mapping[str, Whereabouts]]) -> Study:
    placements = {key: {**study.placements.get(key, {}), **where} for key, where in given.items()}
    return replace(study, placements={**study.placements, **placements})


def _minima(reading: StudyReading, fighting: Sequence[EvidenceSeen]) -> Iterator[_Trial]:
    """Least contents of a chocolate that the label declares, and that may be another's."""
    for piece in fighting:
        if piece.id.startswith("minimum:"):
            changed = replace(reading.study, doubted=(*reading.study.doubted, piece.id))
            yield _Trial(CauseKind.FIGURE, piece.id, f"Leave out “{piece.title}”", changed, _MINIMUM, off=piece.id)


def _own_answers(reading: StudyReading) -> Iterator[_Trial]:
    """Matches and places that the user set against what was proposed."""
    study = reading.study
    proposed = reading.with_study(replace(study, corrections={}))
    for key, ingredient_id in study.corrections.items():
        match = proposed.matches.get(key)
        if match is None or match.ingredient_id in {None, ingredient_id}:
            continue
        changed = replace(study, corrections={k: v for k, v in study.corrections.items() if k != key})
        name = key.rpartition(" > ")[2]
        food = reading.pantry[match.ingredient_id].name if match.ingredient_id else ""
        yield _Trial(CauseKind.MATCH, key, f"Take “{name}” for {food}", changed, _MATCH + 2 * _TAKEN_BACK)
    layers = {layer.id: layer for layer in study.layers}
    for key, given in study.placements.items():
        for layer_id in given:
            if layer_id in layers and not _must_be_there(reading, key, layers[layer_id]):
                changed = replace(study, placements={**study.placements, key: {k: v for k, v in given.items() if k != layer_id}})
                title = f"Take back your answer on {key.rpartition(' > ')[2]} in {layers[layer_id].name}"
                yield _Trial(CauseKind.PLACE, key, title, changed, _PLACE + _TAKEN_BACK)


def _must_be_there(reading: StudyReading, key: str, layer: Layer) -> bool:
    """Whether a layer of its kind is hardly without an ingredient: a fruit jelly without its fruit explains nothing."""
    family, ingredient = reading.families.by_id.get(layer.family), reading.ingredient_of.get(key)
    if family is None or ingredient is None:
        return False
    return any(
        (not role.optional or role.typical >= _MAKES_IT) and grade(reading.families, role, ingredient) is not Grade.NONE
        for role in family.roles
    )


def _matches(reading: StudyReading) -> Iterator[_Trial]:
    """Names that could be another row of the pantry."""
    doubtful = sorted(
        (leaf for leaf in reading.statement.leaves() if leaf.key in reading.ingredient_of),
        key=lambda leaf: reading.matches[leaf.key].confidence,
    )
    for leaf in doubtful:
        ingredient_id = reading.ingredient_of[leaf.key]
        category = reading.pantry[ingredient_id].category
        others = alike(ingredient_id) if category in {"chocolate", "fat", "dairy", "syrup", "cocoa"} else frozenset()
        for other in sorted(others - {ingredient_id}):
            if other not in reading.pantry:
                continue
            changed = replace(reading.study, corrections={**reading.study.corrections, leaf.key: other})
            title = f"Take “{leaf.name}” for {reading.pantry[other].name}"
            yield _Trial(CauseKind.MATCH, leaf.key, title, changed, _MATCH - (reading.matches[leaf.key].confidence > 0.95))


def _families(reading: StudyReading) -> Iterator[_Trial]:
    """Layers as another kind of component that explains the names about as well."""
    for layer, family in reading.build:
        for other in _rivals(reading, layer, family):
            layers = tuple(replace(one, family=other.id) if one.id == layer.id else one for one in reading.study.layers)
            title = f"Take {layer.name or family.name} for {other.name.lower()}, not {family.name.lower()}"
            prior = _FAMILY + _NAMED * (_is_called(layer.name, other, reading) - _is_called(layer.name, family, reading))
            yield _Trial(CauseKind.FAMILY, layer.id, title, replace(reading.study, layers=layers), prior)


def _is_called(name: str, family: Family, reading: StudyReading) -> bool:
    """Whether a layer's own name says a family or what it is a kind of, as “Date caramel” and “Our date caramel” do."""
    said = f" {name.lower()} "
    kinds = [family, *([reading.families[family.variant_of]] if family.variant_of else [])]
    return any(f" {words.lower()} " in said for kind in kinds for words in (kind.name, *kind.traits.words))


def _rivals(reading: StudyReading, layer: Layer, family: Family) -> Sequence[Family]:
    known = reading.families
    names = reading.names_for(layer.id)
    complete = any(layer.id in given for given in reading.placing.compounds.values())
    here = misfit(known, family, names, complete=complete)

    def cost(other: Family) -> float:
        return misfit(known, other, names, complete=complete) - 0.5 * (known.root_of(other.id) == known.root_of(family.id))

    fits = [
        other
        for other in known.all()
        if other.id != family.id
        and other.made != FROM_PARTS
        and (other.place in {"any", family.place} or family.place == "any" or other.place == layer.place)
        and (other.place == "coat") == (family.place == "coat")
        and cost(other) <= here + 0.5
    ]
    return sorted(fits, key=cost)[:_FAMILIES_TRIED]


def _figures(reading: StudyReading, fighting: Sequence[EvidenceSeen]) -> Iterator[_Trial]:
    """Weighings and declared figures that may be wrong."""
    figures = [piece for piece in fighting if piece.is_figure]
    weighed = {reading_.subject for reading_ in reading.study.readings}
    for piece in figures:
        subject = piece.id.partition(":")[2]
        what = "Weigh the whole piece" if subject == PIECE else f"Weigh {piece.title.removesuffix(', weighed')}"
        again = piece.kind == WEIGHING.id and subject in weighed
        title = (
            f"{what} again: {piece.seen} does not go with the rest"
            if again
            else f"Check {piece.title}: {piece.seen} does not go with the rest"
        )
        changed = replace(reading.study, doubted=(*reading.study.doubted, piece.id))
        prior = _FIGURE - (piece.kind != WEIGHING.id)
        yield _Trial(CauseKind.FIGURE, piece.id, title, changed, prior, off=piece.id)


def _places(reading: StudyReading, fighting: Sequence[EvidenceSeen]) -> Iterator[_Trial]:
    """Ingredients whose order or share fights, in a layer where they were not, or out of one where they may be."""
    names = {name for piece in fighting for name in piece.names} | {
        piece.id.partition(":")[2] for piece in fighting if piece.kind in {PERCENT.id, SMALL.id}
    }
    layers = {layer.id: layer.name for layer, _ in reading.build}
    homes = {placing.item: 0 for placing in reading.placing.placings}
    for placing in reading.placing.placings:
        homes[placing.item] += placing.where is not Whereabouts.NO
    for placing in reading.placing.placings:
        name = placing.item.rpartition(" > ")[2]
        if name not in names and placing.item not in names:
            continue
        where = Whereabouts.YES if placing.where is Whereabouts.NO else Whereabouts.NO
        if where is Whereabouts.NO and homes[placing.item] < 2:
            continue
        given = {**reading.study.placements.get(placing.item, {}), placing.layer_id: where}
        changed = replace(reading.study, placements={**reading.study.placements, placing.item: given})
        said = "is in" if where is Whereabouts.YES else "is not in"
        yield _Trial(CauseKind.PLACE, placing.item, f"Say that {name} {said} {layers[placing.layer_id]}", changed, _PLACE)
