"""A version as the command line prints it."""

from collections.abc import Mapping
from typing import Any

from fern_match.core.formulate.record.version import Version
from fern_match.core.formulate.solving.solve import Solved
from fern_match.core.formulate.telling.overview import overview, what_holds_back
from fern_match.core.study.reading import StudyReading


def formulate_told(
    version: Version, reading: StudyReading, *, pieces: int = 1, weigh_out_g: Mapping[tuple[str, str], float] | None = None
) -> dict[str, Any]:
    """Amounts, targets, label and what holds the targets back, as JSON values.

    Args:
        version: As kept.
        reading: The study it is held to.
        pieces: For which amounts are weighed out, 1 or more.
        weigh_out_g: By layer and line, as the batch weighs them out [g].
    """
    found = overview(version, reading)
    held = what_holds_back(found, reading)
    measured = weigh_out_g or {}
    return {
        "version": {
            "name": version.name,
            "origin": version.origin.kind.value,
            "pieces": pieces,
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
                            "weigh_out_g": measured.get((layer.layer_id, one.line_id), one.grams),
                            "locked": one.locked,
                        }
                        for one in layer.ingredients
                    ],
                }
                for layer in found.formula.layers
            ],
        },
        "targets": [
            {
                "name": one.name,
                "unit": one.unit,
                "low": one.low,
                "wanted": one.wanted,
                "high": one.high,
                "got": None if one.unknown else one.got,
            }
            for one in found.targets
        ],
        "label": [
            {"row": row.row.value, "computed": row.computed, "printed": row.printed, "declared": row.declared}
            for row in found.rows
        ],
        "held_back": list(held.held_back) if isinstance(held, Solved) else [held.why],
    }
