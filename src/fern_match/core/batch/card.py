"""The card for whoever gets a piece: what is in it, allergens, what must be said, how to keep it."""

from fern_match.core.batch.reading import BatchReading
from fern_match.core.food.together import allergens_in_words
from fern_match.core.formulate import Overview
from fern_match.core.study.reading import StudyReading

_KEEPING = "Keeping"
_WATER = "water"  # what boils off is not in the piece


def card_of(reading: BatchReading, seen: Overview, study: StudyReading) -> dict[str, str]:
    """What the card says; made at home, and no label for sale.

    Args:
        reading: The batch, and a piece as it comes out.
        seen: Its version from all sides.
        study: For the names of ingredients.
    """
    totals: dict[str, float] = {}
    names: dict[str, str] = {}
    for layer in reading.formula.layers:
        gone = layer.water_lost_g
        for line in layer.ingredients:
            if not line.there:
                continue
            boiled_off = min(gone, line.grams) if line.ingredient_id == _WATER else 0.0
            gone -= boiled_off
            if line.unread or line.grams > boiled_off:
                totals[line.ingredient_id] = totals.get(line.ingredient_id, 0.0) + line.grams - boiled_off
                names[line.ingredient_id] = line.name
    listed = sorted(totals, key=lambda key: -totals[key])
    return {
        "ingredients": ", ".join(_short(study.pantry[key].name if key in study.pantry else names[key]) for key in listed),
        "allergens": allergens_in_words(seen.allergens),
        "to_say": " ".join(seen.to_say),
        "keeping": " ".join(dict.fromkeys(note.sentence for note in seen.notes if note.topic == _KEEPING)),
        "weighs": f"{reading.formula.piece_g:.0f} g a piece",
    }


def _short(name: str) -> str:
    """A name without its brackets, in lower case but for its first letter."""
    return name.partition(" (")[0].lower()
