"""What is worked in until it holds, and what pieces are rolled in: set out with something to spare; what was left says how much
was used.

Worked example: 320 g of icing sugar are planned, so 352 g are set out, a tenth more; 42 g are left: 310 g went in, 3 % less. Of a
crust of chopped nuts 36 g stick to 24 balls: 72 g are put out, for a ball picks nothing up from a bare plate.
"""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from functools import cache

from fern_match.core.batch.portion import off_words
from fern_match.core.batch.scale import Batch, BatchIngredient, BatchLayer
from fern_match.core.data import rows
from fern_match.core.formulate import Formula, FormulaIngredient, FormulaLayer
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures import Typed, read_ingredient
from fern_match.core.study.reading import StudyReading

CRUST_MORE = 1.0  # put out beyond what sticks: a ball needs a bed to roll in (approximate)
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
    typed: Mapping[str, str], formula: Formula, rolled: Collection[str], reading: StudyReading, kitchen: KitchenReading
) -> dict[str, Typed]:
    """What was left of what was set out, by layer, as read [g]; nothing of a layer that has no such line.

    Args:
        typed: By layer.
        formula: Of a piece.
        rolled: Ids of layers that pieces are rolled in.
        reading: For compositions, and what a comma means.
        kitchen: For its spoons.
    """
    lines = {layer.layer_id: line for layer in formula.layers if (line := _worked_in(layer, rolled)) is not None}
    measures, comma, pantry = kitchen.kitchen.measures, reading.comma, reading.pantry
    return {
        key: read_ingredient(text, pantry[lines[key].ingredient_id], measures=measures, comma=comma, zero=True)
        for key, text in typed.items()
        if key in lines and lines[key].ingredient_id in pantry
    }


def set_out(batch: Batch, rolled: Collection[str], left: Mapping[str, Typed]) -> dict[str, SetOut]:
    """What is worked in until it holds, or rolled on, by layer.

    Args:
        batch: With its lines [g].
        rolled: Ids of layers that pieces are rolled in.
        left: By layer: what was left of what was set out, as read [g].
    """
    found = {}
    for layer in batch.layers:
        line = _worked_in(layer, rolled)
        if line is not None:
            typed = left.get(layer.layer_id)
            crust = layer.layer_id in rolled
            was_left = typed.value if typed is not None else None
            found[layer.layer_id] = _said(line.ingredient_id, line.grams, was_left, crust=crust)
    return found


def _worked_in(layer: FormulaLayer | BatchLayer, rolled: Collection[str]) -> FormulaIngredient | BatchIngredient | None:
    """The largest line of what is rolled on, or of the role that is worked in by hand; None where nothing is.

    Source: data/until.csv.
    """
    role = _roles().get(layer.family)
    crust = layer.layer_id in rolled
    lines = [one for one in layer.ingredients if (crust or one.role == role) and one.grams > 0 and not one.unread]
    return max(lines, key=lambda one: one.grams, default=None)


@cache
def _roles() -> Mapping[str, str]:
    return {row["family"]: row["role"] for row in rows("until.csv")}


def _said(ingredient_id: str, planned: float, left: float | None, *, crust: bool) -> SetOut:
    out, used = planned * (1 + (CRUST_MORE if crust else MORE)), None
    if left is None and crust:
        said = (
            f"Put {out:.0f} g out to roll in: {planned:.0f} g stick. Write what is left; sieved and kept dry it does "
            "for another batch, but it holds what the pieces hold."
        )
    elif left is None:
        said = f"Set out {out:.0f} g and work it in until it holds; write what is left."
    elif left > out:
        said = f"More is left than the {out:.0f} g that were to be set out: set out as much, or say what was."
    else:
        used = out - left
        off = off_words(used / planned - 1)
        said = f"{used:.0f} g went in, {f'{off} than' if off else 'as'} planned."
    return SetOut(ingredient_id=ingredient_id, planned_g=planned, out_g=out, used_g=used, words=said)
