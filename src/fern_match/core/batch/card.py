"""The card for whoever gets a piece, of each lot one: what is in it, allergens, what must be said, how to keep it."""

from collections.abc import Sequence
from dataclasses import dataclass

from fern_match.core.batch.cautions import Caution
from fern_match.core.batch.lots import LotMade, traces_in_words
from fern_match.core.batch.packs import WATER
from fern_match.core.batch.reading import BatchReading
from fern_match.core.food.together import allergens_in_words
from fern_match.core.formulate import KEEPING
from fern_match.core.study.reading import StudyReading


@dataclass(frozen=True, slots=True, kw_only=True)
class Card:
    """What stands on it; made at home, and no label for sale."""

    name: str
    lot: str  # empty where all pieces are alike
    mark: str  # by which the lot is known
    made_on: str
    weighs: str
    ingredients: str  # most first, as a label lists them
    allergens: str
    mind: str  # what can hurt who eats it, and what must be said
    keeping: str


def cards_of(reading: BatchReading, cautions: Sequence[Caution], study: StudyReading) -> tuple[Card, ...]:
    """The cards of a batch: one of each lot, or one.

    Args:
        reading: The batch, and a piece as it comes out.
        cautions: What there is to mind with it.
        study: For the original's name, and those of ingredients.
    """
    made = reading.lots.made if reading.lots is not None else ()
    return tuple(_card(reading, cautions, study, lot) for lot in made) if made else (_card(reading, cautions, study, None),)


def _card(reading: BatchReading, cautions: Sequence[Caution], study: StudyReading, lot: LotMade | None) -> Card:
    seen = reading.seen if lot is None else lot.seen
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
        lot=lot.name if lot is not None else "",
        mark=lot.mark if lot is not None else "",
        made_on=reading.plan.made_on,
        weighs=f"{seen.formula.piece_g:.0f} g a piece",
        ingredients=", ".join(study.pantry[key].name.lower() if key in study.pantry else names[key] for key in most_first),
        allergens=allergens_in_words(seen.allergens)
        if lot is None
        else " ".join(one for one in (allergens_in_words(lot.own), traces_in_words(lot)) if one),
        mind=" ".join(dict.fromkeys((*told, *seen.to_say))),
        keeping=" ".join(dict.fromkeys(note.sentence for note in seen.notes if note.topic == KEEPING)),
    )
