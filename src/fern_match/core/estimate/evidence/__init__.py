"""The evidence of a study as terms of the density: one file for each kind.

Belongs here: what was seen, how surely, which parts it counts, how odd it is beside the rest, and how that is said. Must never
happen here: how the terms are weighed up. A new kind is a new file with its `Kind`, its term and a function that makes one from
a problem, and a line in `_KINDS`. Imitate `weighings.py`.
"""

from collections.abc import Iterable

import numpy as np

from fern_match.core.estimate.evidence.chocolate import rules_term
from fern_match.core.estimate.evidence.label_rows import rows_term
from fern_match.core.estimate.evidence.limits import limits_term
from fern_match.core.estimate.evidence.order import order_term
from fern_match.core.estimate.evidence.shares import percents_term
from fern_match.core.estimate.evidence.thickness import thickness_term
from fern_match.core.estimate.evidence.weighings import weighings_term
from fern_match.core.estimate.problem import Problem
from fern_match.core.estimate.terms import Evidence, Term

_KINDS = (rows_term, order_term, percents_term, limits_term, rules_term, weighings_term, thickness_term)


def evidence_terms(problem: Problem, doubted: Iterable[str]) -> tuple[tuple[Term, ...], tuple[Evidence, ...]]:
    """All evidence of a study that is in use, and what is switched off.

    Args:
        doubted: Ids of evidence that is switched off.
    """
    off = frozenset(doubted)
    used: list[Term] = []
    unused: list[Evidence] = []
    for kind in _KINDS:
        term: Term | None = kind(problem)
        if term is None:
            continue
        kept = np.array([row for row, piece in enumerate(term.evidence) if piece.id not in off], dtype=np.intp)
        unused += [piece for piece in term.evidence if piece.id in off]
        if len(kept):
            used.append(term if len(kept) == len(term.evidence) else term.only(kept))
    return tuple(used), tuple(unused)
