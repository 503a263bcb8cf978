"""A version as the command line prints it."""

from typing import Any

from fern_match.core.formulate.overview import overview, what_holds_back
from fern_match.core.formulate.rounding import rounded
from fern_match.core.formulate.version import Version
from fern_match.core.measures import Measures
from fern_match.core.study.reading import StudyReading

_SCALE_STEP_G = 0.1


def formulate_told(version: Version, reading: StudyReading, *, pieces: float | None = None) -> dict[str, Any]:
    """Amounts, targets, label and what holds the targets back, as JSON values.

    Args:
        version: As kept.
        reading: The study it is held to.
        pieces: For which amounts are measured out, to 0.1 g; one piece where None.
    """
    pantry, families = reading.pantry, reading.families
    found = overview(version, reading, pantry, families)
    held = what_holds_back(found, reading, pantry, families)
    out = rounded(
        found.formula,
        found.targets,
        int(pieces or 1),
        scale_step_g=_SCALE_STEP_G,
        measures=Measures.METRIC,
        reading=reading,
        pantry=pantry,
        families=families,
    )
    measured = {(line.layer_id, line.ingredient_id): line.measured_g for line in out.lines}
    return {
        "version": {
            "name": version.name,
            "origin": version.origin.kind.value,
            "pieces": out.pieces,
            "layers": [
                {
                    "layer_id": layer.layer_id,
                    "name": layer.name,
                    "family": layer.family,
                    "finished_g": layer.finished_g,
                    "water_lost_g": layer.water_lost_g,
                    "ingredients": [
                        {
                            "ingredient_id": one.ingredient_id,
                            "name": one.name,
                            "grams": one.grams,
                            "weigh_out_g": measured.get((layer.layer_id, one.ingredient_id), one.grams),
                            "locked": one.locked,
                        }
                        for one in layer.ingredients
                    ],
                }
                for layer in found.formula.layers
            ],
        },
        "targets": [
            {"name": one.name, "unit": one.unit, "low": one.low, "wanted": one.wanted, "high": one.high, "got": one.got}
            for one in found.targets
        ],
        "label": [
            {"row": row.row.value, "computed": row.computed, "printed": row.printed, "declared": row.declared}
            for row in found.rows
        ],
        "held_back": list(held.held_back) if held.impossible is None else [held.impossible],
    }
