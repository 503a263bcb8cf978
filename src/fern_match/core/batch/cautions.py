"""The usual cautions for what a batch holds and how it is cooked."""

from dataclasses import dataclass

from fern_match.core.batch.scale import Batch
from fern_match.core.food import Nutrient, Pantry, load_of

_LAXATIVE_FROM_G = 10.0  # polyols per piece
_LAXATIVE_FROM_LOAD = 0.5  # of a dose per piece, fibre and allulose counted


@dataclass(frozen=True, slots=True)
class Caution:
    """One thing that can hurt, and what to do."""

    topic: str
    sentence: str
    can_hurt: bool = True  # else it is for others to know


def cautions(batch: Batch, pantry: Pantry) -> tuple[Caution, ...]:
    """What to mind with this batch, most dangerous first.

    Args:
        batch: Its layers and shopping list.
    """
    ids = {line.ingredient_id for line in batch.shopping}
    found = []
    if any(layer.boiled for layer in batch.layers):
        found.append(
            Caution(
                "Hot sugar",
                "Boiling sugar sticks and burns in seconds. Use a pan of three times the volume, long sleeves, a bowl of cold "
                "water within reach; add cream and butter slowly, they boil over. No children near, never taste from the pan.",
            )
        )
    if "egg-white-fresh" in ids:
        found.append(
            Caution(
                "Raw egg",
                "Use pasteurised white, or check with a probe that the whole mix reaches 71 °C after the syrup is in.",
            )
        )
    if "xylitol" in ids:
        found.append(
            Caution("Dogs", "Xylitol can kill a dog, even a small amount. Keep pieces and scraps out of reach and say so.")
        )
    polyols = sum(line.grams * _polyols(line.ingredient_id, pantry) for line in batch.shopping) / batch.pieces
    load = load_of(((line.ingredient_id, line.grams) for line in batch.shopping), pantry) / batch.pieces
    if polyols >= _LAXATIVE_FROM_G or load >= _LAXATIVE_FROM_LOAD:
        much = (
            f"About {polyols:.0f} g of polyols a piece"
            if polyols >= _LAXATIVE_FROM_G
            else f"Polyols, allulose and fibre of a piece come to {100 * load:.0f} % of what often upsets a stomach"
        )
        found.append(Caution("Polyols", f"{much}: more than one can have a laxative effect. Warn your tasters.", can_hurt=False))
    if batch.allergens:
        found.append(
            Caution(
                "Allergens",
                f"By the pantry this batch holds {', '.join(batch.allergens)}. Read your own packets, also for traces, before "
                "you hand pieces out. For sale, local food law and a qualified person decide what the label says.",
                can_hurt=False,
            )
        )
    if batch.unknown:
        found.append(
            Caution(
                "Not in the tables",
                f"{', '.join(batch.unknown)}: allergens, polyols, spoons and end temperatures of these are not known here.",
                can_hurt=False,
            )
        )
    return tuple(found)


def _polyols(ingredient_id: str, pantry: Pantry) -> float:
    if ingredient_id not in pantry:
        return 0.0
    food = pantry[ingredient_id]
    return food.amount(Nutrient.POLYOLS) / 100 if food.knows(Nutrient.POLYOLS) else 0.0
