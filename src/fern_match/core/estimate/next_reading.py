"""What to weigh next: which reading would narrow the layers most for the minutes it takes.

A reading of q with spread s shrinks the variance of t by rho(t, q)^2 Var(q) / (Var(q) + s^2). Worked example: a layer between 8
and 12 g (variance 1.5) that is read to 0.3 g: its own variance shrinks to 0.09 / 1.59 of what it was, a neighbour's that moves
against it with a correlation of -0.9 to 1 - 0.81 x 1.5 / 1.59 = 0.236 of its own.
"""

import numpy as np

from fern_match.core.estimate.evidence.weighings import mean_reading_sd_g
from fern_match.core.estimate.problem import Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.result import NextReading
from fern_match.core.estimate.state import State
from fern_match.core.families import Family
from fern_match.core.study.record import PIECE, Place

_READINGS = 3  # of three pieces, as one takes them
# to weigh three pieces, to part a layer from them (our judgement)
_WHOLE_MINUTES, _EASY_MINUTES, _STICKY_MINUTES = 2.0, 6.0, 10.0
_LEAST_NARROWING = 0.02
_90 = 3.29  # the width of a 90 % range in standard deviations


def readings_to_make(problem: Problem, state: State) -> tuple[NextReading, ...]:
    """Weighings not made yet, the one that narrows most per minute first."""
    grams = state.layer_share * state.mass_g
    reading = problem.reading
    done = {weighing.subject for weighing in reading.weighings if weighing.grams}
    candidates = [(PIECE, "the whole piece", state.mass_g, _WHOLE_MINUTES)]
    for index, (layer, family) in enumerate(problem.layers):
        candidates.append((layer.id, layer.name or family.name.lower(), grams[index], _minutes(family, layer.place)))
    found = []
    for subject, name, values, minutes in candidates:
        if subject in done:
            continue
        spread = mean_reading_sd_g([float(values.mean())] * _READINGS)
        variance = float(values.var())
        gain = variance / (variance + spread**2)
        rho = np.array([_correlation(layer, values) for layer in grams])
        before = grams.std(axis=1)
        after = before * np.sqrt(1 - rho**2 * gain)
        most = int(np.argmax(before - after))
        narrowing = float(1 - after.sum() / before.sum()) if before.sum() > 0 else 0.0
        if narrowing < _LEAST_NARROWING:
            continue
        layer = problem.layers[most][0]
        found.append(
            NextReading(
                subject=subject,
                name=name,
                minutes=minutes,
                narrowing=narrowing,
                widest=layer.id,
                width_before_g=float(_90 * before[most]),
                width_after_g=float(_90 * after[most]),
                sentence=f"{name}, three pieces, {minutes:.0f} min: {'its' if layer.id == subject else f'{layer.name}’s'} range "
                f"narrows from {_90 * before[most]:.1f} to {_90 * after[most]:.1f}\u00a0g.",
            )
        )
    return tuple(sorted(found, key=lambda one: -one.narrowing / one.minutes))


def _minutes(family: Family, place: Place) -> float:
    return _STICKY_MINUTES if family.traits.sticky or place is Place.INCLUSION else _EASY_MINUTES


def _correlation(a: Floats, b: Floats) -> float:
    if a.std() == 0 or b.std() == 0:
        return 0.0
    return float(np.corrcoef(a, b)[0, 1])
