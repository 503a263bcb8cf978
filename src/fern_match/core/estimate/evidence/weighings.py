"""Weighings: whole pieces, layers, and what the net weight says of the piece."""

from collections.abc import Sequence

import numpy as np

from fern_match.core.estimate.problem import Problem
from fern_match.core.estimate.terms import Evidence, Kind, WeighingsTerm
from fern_match.core.study.reading import StudyReading, WeighingReading
from fern_match.core.study.record import PIECE

BETWEEN_PIECES = 0.035  # pieces of one maker differ by 3 to 4 %
_PRIOR_READINGS = 3.0  # how many readings that judgement is worth against the user's own scatter
SCALE_SD_G = 0.06  # half of a 0.1 g step each way, two readings


def mean_reading_sd_g(grams: Sequence[float]) -> float:
    """Standard error of the mean of readings of pieces [g].

    The scatter between pieces is 3 % until the user's own readings say otherwise; the scale adds half its step.

    Args:
        grams: One reading or more [g].

    Source: docs/method/estimate.md ("Weighings").
    """
    mean = float(np.mean(grams))
    n = len(grams)
    own = float(np.var(grams, ddof=1)) if n > 1 else 0.0
    between = (_PRIOR_READINGS * (BETWEEN_PIECES * mean) ** 2 + (n - 1) * own) / (_PRIOR_READINGS + n - 1)
    return float(np.sqrt(SCALE_SD_G**2 + between / n))


def weighings_term(problem: Problem) -> WeighingsTerm | None:
    """Whole pieces and layers as weighed, and the net weight; None without any."""
    reading = problem.reading
    index = {layer.id: number for number, (layer, _) in enumerate(problem.layers)}
    entries: list[tuple[Evidence, float, float, int, float]] = []
    for weighing in reading.weighings:
        known = weighing.subject == PIECE or weighing.subject in index
        if not weighing.grams or not known:
            continue
        layer = index.get(weighing.subject, len(index))
        sticky = float(layer < len(index) and problem.layers[layer][1].traits.sticky)
        mean = float(np.mean(weighing.grams))
        entries.append((weighing_evidence(weighing, reading), mean, mean_reading_sd_g(weighing.grams), layer, sticky))
    prior = reading.piece_prior
    if prior is not None:
        evidence = Evidence(
            id="net_weight",
            kind=Kind.NET_WEIGHT,
            title="Net weight, per piece",
            seen=f"{prior.declared_g:.1f} g declared",
            unit="g",
            seen_low=prior.low_g,
            seen_high=prior.high_g,
            centre=prior.mean_g,
        )
        entries.append((evidence, prior.mean_g, prior.sd_g, len(index), 0.0))
    if not entries:
        return None
    return WeighingsTerm(
        evidence=tuple(entry[0] for entry in entries),
        grams=np.array([[entry[1]] for entry in entries]),
        sd=np.array([[entry[2]] for entry in entries]),
        layer=np.array([entry[3] for entry in entries], dtype=np.intp),
        sticky=np.array([[entry[4]] for entry in entries]),
    )


def weighing_evidence(weighing: WeighingReading, reading: StudyReading) -> Evidence:
    """A weighing as it is listed.

    Args:
        weighing: Its readings, at least one.
    """
    names = {layer.id: layer.name for layer in reading.study.layers}
    count = len(weighing.grams)
    title = "Whole piece" if weighing.subject == PIECE else names[weighing.subject]
    readings = "one reading" if count == 1 else f"{count} readings"
    mean = float(np.mean(weighing.grams))
    return Evidence(
        id=f"weighing:{weighing.subject}",
        kind=Kind.WEIGHING,
        title=f"{title}, weighed",
        seen=f"{mean:.2f} g" + (f" ({readings})" if count > 1 else ""),
        unit="g",
        seen_low=min(weighing.grams),
        seen_high=max(weighing.grams),
        centre=mean,
    )
