"""Proposals as the command line prints them."""

from collections.abc import Sequence
from typing import Any

from fern_match.core.adapt.consequences import changes_for_the_eater, differences, process_notes, warnings
from fern_match.core.adapt.judged import judged
from fern_match.core.adapt.propose import Adapted, Proposal
from fern_match.core.adapt.rules import Rule
from fern_match.core.formulate import Overview, printed_rows
from fern_match.core.study.reading import StudyReading


def adapt_told(found: Adapted, seen: Overview, rules: Sequence[Rule], reading: StudyReading, serving_g: float) -> dict[str, Any]:
    """Proposals and what follows from each, as JSON values.

    Args:
        found: What adapting gave.
        seen: The version that was adapted, from all sides.
        rules: That were asked for.
        reading: The study.
        serving_g: What a serving weighs [g].
    """
    unmet = found.unmet
    return {
        "breaks": [one.sentence for one in found.breaches],
        "proposals": [_proposal(one, seen, rules, reading, serving_g) for one in found.proposals],
        "left_out": [{"system": one.system, "name": one.name, "because": one.because} for one in found.left_out],
        "unmet": None if unmet is None else {"rule": unmet.rule, "because": unmet.because, "nearest": unmet.nearest},
    }


def _proposal(
    proposal: Proposal, seen: Overview, rules: Sequence[Rule], reading: StudyReading, serving_g: float
) -> dict[str, Any]:
    pantry, before = reading.pantry, seen.formula
    sides = differences(before, proposal.formula, rules, pantry, serving_g)
    return {
        "name": proposal.name,
        "system": proposal.system,
        "why": proposal.why,
        "layers": [
            {
                "layer_id": layer.layer_id,
                "name": layer.name,
                "family": layer.family,
                "finished_g": layer.finished_g,
                "water_lost_g": layer.water_lost_g,
                "ingredients": [
                    {
                        "ingredient_id": line.ingredient_id,
                        "name": line.name,
                        "grams": line.grams,
                        "instead_of": list(line.instead_of),
                        "swap": line.swap.id if line.swap is not None else None,
                    }
                    for line in proposal.lines[layer.layer_id]
                ],
            }
            for layer in proposal.formula.layers
        ],
        "properties": {one.what: {"before": one.before, "after": one.after, "unit": one.unit} for one in sides},
        "label": [
            {"row": row.row.value, "computed": row.computed, "printed": row.printed, "declared": row.declared}
            for row in printed_rows(proposal.formula, reading)
        ],
        "differences": [*(one.sentence for one in sides if one.sentence), *changes_for_the_eater(proposal, before, pantry)],
        "process": list(process_notes(proposal, before, reading.families, pantry)),
        "warnings": [
            *warnings(proposal, before, rules, reading, serving_g),
            *judged(proposal, seen.version, seen.notes, reading),
        ],
        "doubtful": list(proposal.doubtful),
        "held_back": list(proposal.held_back),
    }
