"""Whether the evidence fits together, said before any figure."""

from collections.abc import Sequence

from fern_match.core.estimate.result import EvidenceSeen, Fit

# Tensions, in standard deviations: one so far out, or two this far, do not happen to a study that is read right.
_ONE_FIGHTS, _TWO_FIGHT = 3.3, 2.6
_PULLS = 2.0


def fit_of(evidence: Sequence[EvidenceSeen], homeless: Sequence[str] = ()) -> Fit:
    """How well the evidence of an estimate goes together.

    Args:
        evidence: With its tensions; what was left out has none, and keeps the rest from being said to fit.
        homeless: Names of weight that no layer is usually made with.
    """
    tensions = sorted((piece.tension for piece in evidence if piece.tension is not None), reverse=True)[:2] or [0.0]
    if tensions[0] >= _ONE_FIGHTS or (len(tensions) > 1 and tensions[1] >= _TWO_FIGHT):
        return Fit.FIGHTS
    reserved = homeless or any(not piece.used for piece in evidence)
    return Fit.PULLS if tensions[0] >= _PULLS or reserved else Fit.FITS


def fit_words(fit: Fit, evidence: Sequence[EvidenceSeen], homeless: Sequence[str] = ()) -> str:
    """The sentence that stands above the estimate.

    Args:
        evidence: With its tensions.
        homeless: Names of weight that no layer is usually made with.
    """
    if fit is Fit.FIGHTS:
        return "This does not fit together yet: the ranges below are not to be relied on until the cause is found."
    pulls, unused = sum(piece.pulls for piece in evidence), sum(not piece.used for piece in evidence)
    said = [
        *([f"{pulls} {'piece' if pulls == 1 else 'pieces'} of evidence {'pulls' if pulls == 1 else 'pull'}"] if pulls else []),
        *([f"{unused} {'figure is' if unused == 1 else 'figures are'} left out"] if unused else []),
        *([f"no layer here is usually made with {' or '.join(homeless)}: are the families right?"] if homeless else []),
    ]
    if not said:
        return "Everything fits; nine in ten of the ranges below should hold."
    told = "; ".join(said)
    whole = told[0].upper() + told[1:]
    return f"{whole} {_MOSTLY}" if homeless else f"{whole}; nine in ten of the ranges below should hold."


_MOSTLY = "If they are, nine in ten of the ranges below should hold."
