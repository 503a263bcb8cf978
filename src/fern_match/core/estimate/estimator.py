"""The door to the estimator: a study as read goes in, an estimate or the reason why there is none yet comes out."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from fern_match.core.errors import Stopped
from fern_match.core.estimate.evidence import evidence_terms
from fern_match.core.estimate.fit import fit_of, fit_words
from fern_match.core.estimate.log_density import LogDensity
from fern_match.core.estimate.next_reading import readings_to_make
from fern_match.core.estimate.problem import Problem, build_problem
from fern_match.core.estimate.readout import label_estimates, layer_estimates, range_of, sums_told, together
from fern_match.core.estimate.result import Estimate, EvidenceSeen, LeftOut
from fern_match.core.estimate.sampler import SEED, Effort, Particles, sampled
from fern_match.core.estimate.state import State, state_of
from fern_match.core.estimate.tension import PULLS_FROM, Tension, tension_of, tension_without
from fern_match.core.estimate.terms import Evidence, Foreseen
from fern_match.core.food import unlisted
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import PIECE

__all__ = ["NotYet", "Sampled", "estimate", "sampled_study"]

_MOST_NAMES, _MOST_LAYERS = 100, 12
_MOST_RERUNS = 2  # estimates run again without a piece of evidence, the worst first
_OF_WEIGHT = 2.0  # g per 100 g of piece: from there a name that no layer is usually made with is a sign of a wrong family
_WORTH_A_RERUN = 1.5  # tension, by unreliable weights, from which it is worth finding out
_RERUN_EFFORT = Effort(particles=150, transitions=4, pooled=3)
_RANK_OF_UNUSED = 6.0
_DRAWS_FOR_TENSION = 800  # the newest; more only cost time


@dataclass(frozen=True, slots=True)
class Missing:
    """Something to add before there can be an estimate."""

    sentence: str
    part: str  # of the study: label, statement, layers, weighings


@dataclass(frozen=True, slots=True)
class NotYet:
    """There is too little to estimate from; what to add."""

    missing: tuple[Missing, ...]

    @property
    def sentences(self) -> tuple[str, ...]:
        """What to add, in words."""
        return tuple(one.sentence for one in self.missing)


def estimate(
    reading: StudyReading,
    *,
    effort: Effort | None = None,
    seed: int = SEED,
    should_stop: Callable[[], bool] = lambda: False,
    progress: Callable[[float], None] = lambda _: None,
) -> Estimate | NotYet:
    """Layer masses and ingredient amounts of the mean piece, with 90 % ranges [g].

    Args:
        effort: How hard to sample; None for the usual.
        seed: The same seed and study give the same estimate.
        should_stop: Asked many times a second.
        progress: Told the share done, 0 to 1.

    Raises:
        Stopped: should_stop said so.

    Source: docs/method/estimate.md.
    """
    run = sampled_study(
        reading, effort or Effort(), seed=seed, should_stop=should_stop, progress=lambda done: progress(0.9 * done)
    )
    if isinstance(run, NotYet):
        return run
    recent = state_of(run.problem, run.particles.unknowns[:, -_DRAWS_FOR_TENSION:])
    seen = _evidence_seen(run.density, recent, run.unused, should_stop, seed)
    progress(1.0)
    return _read_out(run.problem, run.state, run.particles, seen)


@dataclass(frozen=True, slots=True)
class Sampled:
    """One run of the sampler on a study."""

    problem: Problem
    density: LogDensity
    unused: tuple[Evidence, ...]  # evidence that is switched off
    particles: Particles

    @property
    def state(self) -> State:
        """The amounts that the particles stand for."""
        return state_of(self.problem, self.particles.unknowns)


def sampled_study(
    reading: StudyReading,
    effort: Effort,
    *,
    seed: int = SEED,
    should_stop: Callable[[], bool] = lambda: False,
    progress: Callable[[float], None] = lambda _: None,
) -> Sampled | NotYet:
    """Particles of a study's posterior, or what is missing.

    Args:
        seed: The same seed and study give the same particles.

    Raises:
        Stopped: should_stop said so.
    """
    missing = _missing(reading)
    centre_g = _mass_centre_g(reading)
    if missing or centre_g is None:
        return NotYet(missing)
    problem = build_problem(reading, centre_g)
    terms, unused = evidence_terms(problem, reading.study.doubted)
    density = LogDensity(problem, terms)
    return Sampled(problem, density, unused, sampled(density, effort, seed=seed, should_stop=should_stop, progress=progress))


def _missing(reading: StudyReading) -> tuple[Missing, ...]:
    found = []
    if not reading.build:
        found.append(Missing("Add at least one layer to the build: without layers there is nothing to estimate.", "layers"))
    if _mass_centre_g(reading) is None:
        sentence = "Say how heavy a piece is: the net weight on the label, or a weighing of a whole piece or of every layer."
        found.append(Missing(sentence, "label"))
    if len(reading.ingredient_of) > _MOST_NAMES or len(reading.build) > _MOST_LAYERS:
        sentence = (
            f"The estimate takes up to {_MOST_NAMES} ingredient names and {_MOST_LAYERS} layers; here are "
            f"{len(reading.ingredient_of)} and {len(reading.build)}."
        )
        found.append(Missing(sentence, "layers" if len(reading.build) > _MOST_LAYERS else "statement"))
    return tuple(found)


def _mass_centre_g(reading: StudyReading) -> float | None:
    """Where to look for the mean piece's mass; weighings and net weight then decide."""
    by_subject = {weighing.subject: weighing.mean_g for weighing in reading.weighings}
    if by_subject.get(PIECE) is not None:
        return by_subject[PIECE]
    if reading.piece_prior is not None:
        return reading.piece_prior.mean_g
    layers = [by_subject.get(layer.id) for layer, _ in reading.build]
    weighed = [grams for grams in layers if grams is not None]
    return sum(weighed) if weighed and len(weighed) == len(layers) else None


def _read_out(problem: Problem, state: State, particles: Particles, seen: tuple[EvidenceSeen, ...]) -> Estimate:
    tension = {piece.id: piece.tension for piece in seen if piece.tension is not None}
    rows, basis_g = label_estimates(problem, state, tension)
    homeless = _homeless(problem, state)
    return Estimate(
        piece_g=range_of(state.mass_g),
        layers=layer_estimates(problem, state),
        label=rows,
        label_basis_g=basis_g,
        evidence=seen,
        fit=(fit := fit_of(seen, homeless)),
        fit_words=fit_words(fit, seen, homeless),
        to_weigh=readings_to_make(problem, state),
        together=together(problem, state),
        sums=sums_told(problem, state),
        left_out=_left_out(problem.reading),
        assumed=problem.assumed,
        log_evidence=particles.log_evidence,
        particles=particles.unknowns.shape[1],
    )


def _homeless(problem: Problem, state: State) -> tuple[str, ...]:
    """Names that no layer is usually made with, and that weigh something all the same."""
    found = []
    for key in problem.reading.anywhere:
        rows = [at for at, part in enumerate(problem.parts) if part.item == key]
        if state.amount[rows].sum(axis=0).mean() >= _OF_WEIGHT:
            found.append(key.rpartition(" > ")[2])
    return tuple(found)


def _left_out(reading: StudyReading) -> tuple[LeftOut, ...]:
    """Names without an ingredient or a layer, those that may count first."""
    names = dict.fromkeys(leaf.name for leaf in reading.statement.leaves() if leaf.key not in reading.ingredient_of)
    found = []
    for name in names:
        known = unlisted(name)
        why = f"it may hold {known.may_hold}" if known else "nobody here knows it; it may hold anything"
        found.append(LeftOut(name=name, why=why, is_trace=known is not None and known.is_trace))
    for key in reading.placeless:
        found.append(LeftOut(name=key.rpartition(" > ")[2], why="no layer takes it", is_trace=False))
    return tuple(sorted(found, key=lambda one: one.is_trace))


# --- evidence beside what the rest foresees ------------------------------------------------------------------------------


def _evidence_seen(
    density: LogDensity, state: State, unused: tuple[Evidence, ...], should_stop: Callable[[], bool], seed: int
) -> tuple[EvidenceSeen, ...]:
    likelihood = density.by_evidence(state)
    foreseen = [term.expected(state) for term in density.terms]
    means = np.concatenate([one.mean for one in foreseen]) if foreseen else np.zeros((0, 1))
    sds = np.concatenate([one.sd for one in foreseen]) if foreseen else np.zeros((0, 1))
    pieces = density.evidence
    tensions = [tension_of(piece, likelihood[row], Foreseen(means[row], sds[row])) for row, piece in enumerate(pieces)]
    doubtful = sorted(
        (row for row, tension in enumerate(tensions) if not tension.reliable and tension.z > _WORTH_A_RERUN),
        key=lambda row: -tensions[row].z,
    )
    for row in doubtful[:_MOST_RERUNS]:
        if should_stop():
            raise Stopped
        tensions[row] = _rerun_without(density, pieces[row], seed, should_stop)
    listed = [_seen(piece, tension) for piece, tension in zip(pieces, tensions, strict=True)]
    listed += [_seen(piece, None) for piece in unused]
    return tuple(sorted(listed, key=_rank, reverse=True))


def _rank(piece: EvidenceSeen) -> float:
    """What pulls hardest first; figures before order and rules at the same tension, what is switched off with the figures."""
    return 10 * (piece.tension or 0.0) + 5 * piece.is_figure if piece.used else _RANK_OF_UNUSED


def _rerun_without(density: LogDensity, piece: Evidence, seed: int, should_stop: Callable[[], bool]) -> Tension:
    """The estimate once more without one piece of evidence, to see what the rest foresees."""
    reading = density.problem.reading
    terms, _ = evidence_terms(density.problem, (*reading.study.doubted, piece.id))
    problem = density.problem
    without = LogDensity(problem, terms)
    particles = sampled(without, _RERUN_EFFORT, seed=seed, should_stop=should_stop)
    state = state_of(problem, particles.unknowns)
    for term in density.terms:
        for row, other in enumerate(term.evidence):
            if other.id == piece.id:
                foreseen = term.expected(state)
                return tension_without(piece, Foreseen(foreseen.mean[row], foreseen.sd[row]))
    raise AssertionError(piece.id)


def _seen(piece: Evidence, tension: Tension | None) -> EvidenceSeen:
    """A piece of evidence as listed; one without a tension is not used."""
    pulls = tension is not None and tension.z >= PULLS_FROM
    return EvidenceSeen(
        id=piece.id,
        kind=piece.kind.id,
        is_figure=piece.kind.is_figure,
        title=piece.title,
        seen=piece.seen,
        unit=piece.unit,
        expected_low=tension.expected_low if tension else None,
        expected_high=tension.expected_high if tension else None,
        expected=(
            piece.kind.expected(piece, tension.expected_low, tension.expected_high, pulls)
            if tension
            else f"seen {piece.seen}, not used"
        ),
        tension=round(max(0.0, tension.z), 2) if tension else None,
        pulls=pulls,
        used=tension is not None,
        sentence=piece.kind.sentence(piece, tension.expected_low, tension.expected_high) if tension and pulls else "",
        group=piece.kind.group,
        names=piece.names,
        centre=piece.centre,
        seen_low=piece.seen_low,
        seen_high=piece.seen_high,
    )
