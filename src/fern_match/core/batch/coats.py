"""What a coat does in the bowl: whether it is to be tempered, and what a blend of two makes of it.

Worked example: half a dark chocolate (35.5 g cocoa butter in 100 g) and half a coating (32 g lauric fat, 2 g cocoa butter): of
70.3 g fat 53 % is cocoa butter and 46 % lauric. Neither sets in the other: it is kept cold.
"""

from enum import Enum

from fern_match.core.food import Nutrient, Pantry
from fern_match.core.food.together import listed
from fern_match.core.formulate import FormulaIngredient, FormulaLayer, Overview
from fern_match.core.formulate.record.properties import fat_by_kind

_COCOA, _SETS_ALONE = "cocoa butter", ("lauric fat", "palm fat", "hardened fat")
_TO_TEMPER = 0.60  # of a coat's fat, from which its crystals decide (approximate)
_BY_ITSELF = 0.85  # of fats that set without it (approximate)


class Tempering(Enum):
    """Whether a coat is to be tempered."""

    NEEDED = "needed"
    NEEDLESS = "needless"
    VAIN = "vain"  # two fats that do not set together
    NOT_KNOWN = "not known"


def tempering(layer: FormulaLayer, pantry: Pantry) -> tuple[Tempering, str]:
    """Whether a coat is to be tempered, and why; not known where the fat of a line is not.

    Args:
        layer: A coat.
        pantry: Compositions.
    """
    kinds = fat_by_kind([layer], pantry)
    fat = sum(kinds.values())
    unsure = list(dict.fromkeys(one.name for one in layer.ingredients if one.there and not _fat_is_known(one, pantry)))
    if unsure:
        return Tempering.NOT_KNOWN, f"Whether it is to be tempered is not known: nobody knows the fat of {listed(unsure)}."
    if fat <= 0:
        return Tempering.NEEDLESS, "No tempering: it holds no fat."
    cocoa, alone = kinds.get(_COCOA, 0.0) / fat, sum(kinds.get(one, 0.0) for one in _SETS_ALONE) / fat
    if alone >= _BY_ITSELF:
        return Tempering.NEEDLESS, "No tempering: its fat sets by itself."
    if cocoa >= _TO_TEMPER and alone <= 1 - _BY_ITSELF:
        return Tempering.NEEDED, f"To be tempered: {100 * cocoa:.0f}\u00a0% of its fat is cocoa butter."
    return (
        Tempering.VAIN,
        f"Two fats that do not set together, {100 * cocoa:.0f}\u00a0% cocoa butter and {100 * alone:.0f}\u00a0% coating fat: "
        "tempering does little, it stays soft; set it in the fridge, keep and serve it cold.",
    )


def _fat_is_known(line: FormulaIngredient, pantry: Pantry) -> bool:
    food = pantry.by_id.get(line.ingredient_id)
    return not line.unread and food is not None and food.knows(Nutrient.FAT)


def coat_words(layer: FormulaLayer, seen: Overview, pantry: Pantry) -> tuple[str, ...]:
    """What to know of a coat before it is melted.

    Args:
        layer: A coat.
        seen: Its version from all sides, with what there is to say of its fats.
        pantry: Compositions.
    """
    notes = [note for note in seen.notes if note.topic == "Fats" and note.layer_id == layer.layer_id]
    said = (" ".join(one for one in (note.sentence, note.help) if one) for note in notes)
    return (tempering(layer, pantry)[1], *said)
