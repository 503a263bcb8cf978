"""The evidence of a study as terms of the density: label rows, statement, chocolate rules, weighings.

Belongs here: what was seen, how surely, and which parts it counts. Must never happen here: how the terms are weighed up.
Imitate `weighings.py`.
"""

from fern_match.core.estimate.evidence.chocolate import rules_term
from fern_match.core.estimate.evidence.label_rows import row_evidence, rows_term
from fern_match.core.estimate.evidence.statement import limits_term, order_term, percents_term
from fern_match.core.estimate.evidence.weighings import weighing_evidence, weighings_term
from fern_match.core.estimate.problem import Problem
from fern_match.core.estimate.terms import Evidence, Term
from fern_match.core.study.reading import StudyReading


def evidence_terms(problem: Problem) -> tuple[Term, ...]:
    """All evidence of a study that is not switched off.

    Args:
        problem: As built; its reading says what is doubted.
    """
    reading = problem.reading
    terms: list[Term | None] = [
        rows_term(problem),
        order_term(problem),
        percents_term(problem),
        limits_term(problem),
        rules_term(problem),
        weighings_term(problem, reading.weighings),
    ]
    return tuple(term for term in terms if term is not None)


def unused_evidence(reading: StudyReading) -> tuple[Evidence, ...]:
    """Evidence the user has switched off or that cannot be used, as it would be listed.

    Args:
        reading: The study as read.
    """
    rows = [
        row_evidence(row, reading.study.region)
        for row in reading.rows
        if row.interval is not None and f"row:{row.row}" in reading.study.doubted
    ]
    weighed = [
        weighing_evidence(w, reading) for w in reading.weighings if w.grams and f"weighing:{w.subject}" in reading.study.doubted
    ]
    return (*rows, *weighed)
