"""The usual cautions for what a batch holds and how it is cooked."""

from collections.abc import Sequence
from dataclasses import dataclass

from fern_match.core.batch.scale import Batch
from fern_match.core.food import Nutrient, Pantry, load_of
from fern_match.core.food.together import Allergens, allergens_in_words, lacking
from fern_match.core.food.tolerance import load_in_words

_TOLERATED = (Nutrient.POLYOLS, Nutrient.FIBRE)


@dataclass(frozen=True, slots=True)
class Caution:
    """One thing that can hurt, and what to do."""

    topic: str
    sentence: str
    can_hurt: bool = True  # else it is for others to know
    for_eaters: str = ""  # the same on the card, for whoever gets a piece


def cautions(
    batch: Batch,
    pantry: Pantry,
    *,
    allergens: Allergens | None = None,
    to_say: Sequence[str] = (),
    broken: Sequence[str] = (),
) -> tuple[Caution, ...]:
    """What to mind with this batch, most dangerous first.

    Args:
        batch: Its layers and shopping list.
        pantry: Compositions.
        allergens: Of its version, with what the original's label declares; by its lines alone where None.
        to_say: What must be said to whoever gets a piece.
        broken: What of its version's rules a piece breaks as it comes out.
    """
    held = allergens or batch.allergens
    foods = [pantry[line.ingredient_id] for line in batch.shopping if line.ingredient_id in pantry]
    found = []
    if any(layer.boiled for layer in batch.layers):
        found.append(
            Caution(
                "Hot sugar",
                "Boiling sugar sticks and burns in seconds. Use a pan of three times the volume, long sleeves, a bowl of cold "
                "water within reach; add cream and butter slowly, they boil over. No children near, never taste from the pan.",
            )
        )
    if broken:
        found.append(Caution("No longer holds", " ".join(broken), for_eaters=" ".join(broken)))
    eggs = [food.name.lower() for food in foods if food.category == "egg" and (food.pours or not food.knows(Nutrient.WATER))]
    if eggs:
        found.append(
            Caution(
                "Raw egg",
                f"{' and '.join(eggs).capitalize()}: use pasteurised egg, or see by a probe that the whole mix reaches 71 °C.",
                for_eaters=f"Made with {' and '.join(eggs)}: ask whether it was pasteurised or heated through before you give it "
                "to small children, pregnant or frail people.",
            )
        )
    if any(food.polyol_kind == "xylitol" for food in foods):
        found.append(
            Caution(
                "Dogs",
                "Xylitol can kill a dog, even a small amount. Keep pieces and scraps out of reach and say so.",
                for_eaters="Holds xylitol: a small amount can kill a dog.",
            )
        )
    eaten = (
        (line.ingredient_id, line.grams * layer.needed_g / layer.made_g)
        for layer in batch.layers
        if layer.made_g > 0
        for line in layer.ingredients
    )
    load = load_of(eaten, pantry) / batch.pieces
    if said := load_in_words(load, f"A piece of {batch.piece_g:.0f} g"):
        found.append(Caution("Polyols", f"{said} Warn your tasters.", can_hurt=False, for_eaters=said))
    unsure = lacking(foods, _TOLERATED)
    if unsure:
        found.append(
            Caution("Polyols", f"Polyols or fibre of {', '.join(unsure)} are not known, and not counted here.", can_hurt=False)
        )
    if to_say:
        found.append(Caution("To be said", " ".join(to_say), can_hurt=False))
    if held.holds or not held.known:
        found.append(
            Caution(
                "Allergens",
                f"{allergens_in_words(held)} Read your own packets, also for traces, before you hand pieces out. "
                "For sale, local food law and a qualified person decide what the label says.",
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
