"""The card for whoever gets a piece: what is in it, allergens, what must be said, how to keep it."""

from collections.abc import Sequence
from dataclasses import dataclass

from fern_match.core.batch.cautions import Caution
from fern_match.core.batch.packs import WATER
from fern_match.core.batch.reading import BatchReading
from fern_match.core.food.together import allergens_in_words
from fern_match.core.study.reading import StudyReading

_KEEPING = "Keeping"


@dataclass(frozen=True, slots=True, kw_only=True)
class Card:
    """What stands on it; made at home, and no label for sale."""

    name: str
    made_on: str
    weighs: str
    ingredients: str  # most first, as a label lists them
    allergens: str
    mind: str  # what can hurt who eats it, and what must be said
    keeping: str


def card_of(reading: BatchReading, cautions: Sequence[Caution], study: StudyReading) -> Card:
    """The card of a batch.

    Args:
        reading: The batch, and a piece as it comes out.
        cautions: What there is to mind with it.
        study: For the original's name, and those of ingredients.
    """
    seen = reading.seen
    totals: dict[str, float] = {}
    names: dict[str, str] = {}
    for layer in seen.formula.layers:
        gone = layer.water_lost_g
        for line in layer.ingredients:
            if not line.there:
                continue
            boiled_off = min(gone, line.grams) if line.ingredient_id == WATER else 0.0
            gone -= boiled_off
            if line.unread or line.grams > boiled_off:
                totals[line.ingredient_id] = totals.get(line.ingredient_id, 0.0) + line.grams - boiled_off
                names[line.ingredient_id] = line.name
    most_first = sorted(totals, key=lambda key: -totals[key])
    told = [one.for_eaters for one in cautions if one.for_eaters]
    return Card(
        name=study.study.name,
        made_on=reading.plan.made_on,
        weighs=f"{seen.formula.piece_g:.0f} g a piece",
        ingredients=", ".join(study.pantry[key].name.lower() if key in study.pantry else names[key] for key in most_first),
        allergens=allergens_in_words(seen.allergens),
        mind=" ".join(dict.fromkeys((*told, *seen.to_say))),
        keeping=" ".join(dict.fromkeys(note.sentence for note in seen.notes if note.topic == _KEEPING)),
    )
