"""Whether the evidence fits together, said before any figure."""

from collections.abc import Iterable

from fern_match.core.estimate.result import EvidenceSeen, Fit

# Tensions, in standard deviations: one so far out, or two this far, do not happen to a study that is read right.
_ONE_FIGHTS, _TWO_FIGHT = 3.3, 2.6
_PULLS = 2.0


def fit_of(evidence: Iterable[EvidenceSeen]) -> Fit:
    """How well the evidence of an estimate goes together."""
    tensions = sorted((piece.tension for piece in evidence if piece.tension is not None), reverse=True)[:2] or [0.0]
    if tensions[0] >= _ONE_FIGHTS or (len(tensions) > 1 and tensions[1] >= _TWO_FIGHT):
        return Fit.FIGHTS
    return Fit.PULLS if tensions[0] >= _PULLS else Fit.FITS


def fit_words(fit: Fit, count: int) -> str:
    """The sentence that stands above the estimate.

    Args:
        count: How many pieces of evidence pull.
    """
    match fit:
        case Fit.FIGHTS:
            return "This does not fit together yet: the ranges below are not to be relied on until the cause is found."
        case Fit.PULLS:
            return f"{count} {'piece' if count == 1 else 'pieces'} of evidence pull; nine in ten of the ranges below should hold."
    return "Everything fits; nine in ten of the ranges below should hold."
