"""A version and its plan as a schema.org Recipe in JSON-LD, for whatever reads recipes."""

import json
from typing import Any, Final

from fern_match.core.batch import BatchReading, pieces_words
from fern_match.core.cook import Plan, Step
from fern_match.core.label.rows import RowId

CONTEXT: Final = "https://schema.org"
_NUTRITION: Final = {
    RowId.ENERGY_KCAL: "calories",
    RowId.FAT: "fatContent",
    RowId.SATURATES: "saturatedFatContent",
    RowId.CARBOHYDRATE: "carbohydrateContent",
    RowId.SUGARS: "sugarContent",
    RowId.FIBRE: "fiberContent",
    RowId.PROTEIN: "proteinContent",
    RowId.SODIUM: "sodiumContent",
}
_UNITS: Final = {"kcal": "kcal", "g": "g", "mg": "mg"}


def written_recipe(name: str, read: BatchReading, plan: Plan) -> str:
    """A batch with its plan as the text of a JSON-LD file.

    Args:
        name: What the piece is called.
        read: The batch, with the version it is of.
        plan: Of its cook.

    Source: schema.org/Recipe, HowToSection, HowToStep, NutritionInformation; durations by ISO 8601.
    """
    return json.dumps(_recipe(name, read, plan), indent=2, ensure_ascii=False) + "\n"


def _recipe(name: str, read: BatchReading, plan: Plan) -> dict[str, Any]:
    batch, version = read.batch, read.seen.version
    found: dict[str, Any] = {
        "@context": CONTEXT,
        "@type": "Recipe",
        "name": f"{name}, {version.name.lower()}",
        "recipeCategory": "Confectionery",
        "recipeIngredient": [
            f"{one.grams:.4g} g {one.name}" if not one.unread else one.name
            for one in (batch.shopping if batch is not None else ())
        ],
        "recipeInstructions": [_step(one) for one in plan.steps],
    }
    if batch is not None:
        found["recipeYield"] = pieces_words(batch.pieces)
        found["nutrition"] = _nutrition(read, batch.piece_g)
        found["description"] = " ".join([*(note.text for note in version.notes), *read.to_say])
    if plan.steps:
        found["totalTime"] = f"PT{round(sum(one.takes_min for one in plan.steps))}M"
    if read.seen.vegan == "yes":
        found["suitableForDiet"] = f"{CONTEXT}/VeganDiet"
    return {key: value for key, value in found.items() if value not in ("", [], {})}


def _step(step: Step) -> dict[str, Any]:
    uses = "; ".join(f"{one.name} {one.words or f'{one.grams:.4g} g'}" for one in step.uses)
    text = " ".join(part for part in (f"{uses}." if uses else "", step.words, step.gate) if part)
    return {"@type": "HowToStep", "name": f"{step.layer}: {step.title}" if step.layer else step.title, "text": text or step.title}


def _nutrition(read: BatchReading, piece_g: float) -> dict[str, Any]:
    """Of one piece, as far as it is known: a row that is not is left out, never nothing."""
    found: dict[str, Any] = {"@type": "NutritionInformation", "servingSize": f"1 piece, {piece_g:.0f} g"}
    for row in read.seen.rows:
        if row.row in _NUTRITION and row.computed is not None and row.unit in _UNITS and read.seen.basis_g > 0:
            value = row.computed * piece_g / read.seen.basis_g
            found[_NUTRITION[row.row]] = f"{value:.3g} {_UNITS[row.unit]}"
    return found
