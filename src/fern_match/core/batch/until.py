"""What is worked in until it holds: set out with something to spare, and what was left says how much was used.

Worked example: 320 g of icing sugar are planned, so 352 g are set out, a tenth more; 42 g are left: 310 g went in, 3 % less.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from fern_match.core.batch.portion import off_words
from fern_match.core.batch.scale import Batch, BatchIngredient, BatchLayer
from fern_match.core.data import rows
from fern_match.core.formulate import Formula, FormulaIngredient, FormulaLayer
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures import Typed, read_ingredient
from fern_match.core.study.reading import StudyReading

MORE = 0.10  # set out beyond what is planned: flours and sugars differ so much in what they take up (approximate)


@dataclass(frozen=True, slots=True, kw_only=True)
class SetOut:
    """One line that is worked in until the layer holds."""

    ingredient_id: str
    planned_g: float
    out_g: float
    used_g: float | None  # None until it was said what is left
    words: str


def read_left_over(
    typed: Mapping[str, str], formula: Formula, reading: StudyReading, kitchen: KitchenReading
) -> dict[str, Typed]:
    """What was left of what was set out, by layer, as read [g]; nothing of a layer that has no such line.

    Args:
        typed: By layer.
        formula: Of a piece.
        reading: For compositions, and what a comma means.
        kitchen: For its spoons.
    """
    lines = {layer.layer_id: line for layer in formula.layers if (line := _worked_in(layer)) is not None}
    measures, comma, pantry = kitchen.kitchen.measures, reading.comma, reading.pantry
    return {
        key: read_ingredient(text, pantry[lines[key].ingredient_id], measures=measures, comma=comma, zero=True)
        for key, text in typed.items()
        if key in lines and lines[key].ingredient_id in pantry
    }


def set_out(batch: Batch, left: Mapping[str, Typed]) -> dict[str, SetOut]:
    """What is worked in until it holds, by layer.

    Args:
        batch: With its lines [g].
        left: By layer: what was left of what was set out, as read [g].
    """
    found = {}
    for layer in batch.layers:
        line = _worked_in(layer)
        if line is not None:
            typed = left.get(layer.layer_id)
            found[layer.layer_id] = _said(line.ingredient_id, line.grams, typed.value if typed is not None else None)
    return found


def _worked_in(layer: FormulaLayer | BatchLayer) -> FormulaIngredient | BatchIngredient | None:
    """The largest line of the role that is worked in by hand in layers of its family; None where nothing is.

    Source: data/until.csv.
    """
    role = _roles().get(layer.family)
    lines = [one for one in layer.ingredients if one.role == role and one.grams > 0 and not one.unread]
    return max(lines, key=lambda one: one.grams, default=None)


@cache
def _roles() -> Mapping[str, str]:
    return {row["family"]: row["role"] for row in rows("until.csv")}


def _said(ingredient_id: str, planned: float, left: float | None) -> SetOut:
    out, used = planned * (1 + MORE), None
    if left is None:
        said = f"Set out {out:.0f} g and work it in until it holds; write what is left."
    elif left > out:
        said = f"More is left than the {out:.0f} g that were to be set out: set out as much, or say what was."
    else:
        used = out - left
        off = off_words(used / planned - 1)
        said = f"{used:.0f} g went in, {f'{off} than' if off else 'as'} planned."
    return SetOut(ingredient_id=ingredient_id, planned_g=planned, out_g=out, used_g=used, words=said)
