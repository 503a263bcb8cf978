"""What a coat does in the bowl: whether it is to be tempered, and what a blend of two makes of it.

Worked example: half a dark chocolate (35.5 g cocoa butter in 100 g) and half a coating (32 g lauric fat, 2 g cocoa butter): of
70.3 g fat 53 % is cocoa butter and 46 % lauric. Neither sets in the other: it is kept cold.
"""

from fern_match.core.food import Pantry
from fern_match.core.formulate import FormulaLayer, Overview
from fern_match.core.physics.fats import fat_kinds_per_100_g

_COCOA, _SETS_ALONE = "cocoa butter", ("lauric fat", "palm fat", "hardened fat")
_TO_TEMPER = 0.60  # of a coat's fat, from which its crystals decide (approximate)
_BY_ITSELF = 0.85  # of fats that set without it (approximate)


def coat_words(layer: FormulaLayer, seen: Overview, pantry: Pantry) -> tuple[str, ...]:
    """What to know of a coat before it is melted.

    Args:
        layer: A coat.
        seen: Its version from all sides, with what there is to say of its fats.
        pantry: Compositions.
    """
    kinds: dict[str, float] = {}
    for line in layer.ingredients:
        food = pantry.by_id.get(line.ingredient_id)
        for kind, grams in fat_kinds_per_100_g(food).items() if food is not None else ():
            kinds[kind] = kinds.get(kind, 0.0) + grams * line.grams / 100
    fat = sum(kinds.values())
    if fat <= 0:
        return ()
    cocoa, alone = kinds.get(_COCOA, 0.0) / fat, sum(kinds.get(one, 0.0) for one in _SETS_ALONE) / fat
    if alone >= _BY_ITSELF:
        said = "No tempering: its fat sets by itself."
    elif cocoa >= _TO_TEMPER and alone <= 1 - _BY_ITSELF:
        said = f"To be tempered: {100 * cocoa:.0f}\u00a0% of its fat is cocoa butter."
    else:
        said = (
            f"Two fats that do not set together, {100 * cocoa:.0f}\u00a0% cocoa butter and {100 * alone:.0f}\u00a0% coating fat: "
            "tempering does little, it stays soft; set it in the fridge, keep and serve it cold."
        )
    notes = [note for note in seen.notes if note.topic == "Fats" and note.layer_id == layer.layer_id]
    return (said, *(" ".join(one for one in (note.sentence, note.help) if one) for note in notes))
