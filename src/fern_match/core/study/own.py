"""An ingredient of one's own, from the figures on its packet: for a name that the pantry does not hold.

Worked example: "fat 12, carbohydrate 30, sugars 5, fibre 15, protein 45, salt 0.05" of a nut flour leaves 100 - 12 - 30 - 15 - 45
= -2 g for water, within the packet's rounding: it is taken as dry.
"""

import re
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from enum import StrEnum

from fern_match.core.errors import CoreError
from fern_match.core.food.ingredients import Ingredient
from fern_match.core.food.nutrients import Nutrient
from fern_match.core.measures.numbers import Comma, Unread, figure_value

OWN_PREFIX = "own-"
_ROOM_G = 6.0  # a packet's rounded figures may add up to so much more than 100 g
_UNIT = re.compile(r"\s*(?:g|%|per cent)\s*$", re.IGNORECASE)


class PacketRow(StrEnum):
    """A figure on a packet, in grams per 100 g."""

    FAT = "fat"
    SATURATES = "saturates"
    CARBOHYDRATE = "carbohydrate"  # without fibre
    SUGARS = "sugars"
    FIBRE = "fibre"
    POLYOLS = "polyols"
    PROTEIN = "protein"
    SALT = "salt"
    ALCOHOL = "alcohol"


@dataclass(eq=False)
class NotAnIngredient(CoreError):
    """Figures that no food has."""

    field: str
    sentence: str

    def __str__(self) -> str:
        return self.sentence


def own_ingredient(name: str, typed: Mapping[PacketRow, str], taken: Collection[str], comma: Comma = Comma.DECIMAL) -> Ingredient:
    """An ingredient from a packet's figures per 100 g; what the packet does not say counts as none, the rest as water.

    Args:
        name: What it is called.
        typed: Figures as typed; empty fields may be left out.
        taken: Ids that other ingredients have.
        comma: What a comma means in figures.

    Raises:
        NotAnIngredient: a figure is not one, or they cannot be true together.

    >>> own_ingredient("Peanut flour", {PacketRow.FAT: "12", PacketRow.PROTEIN: "50"}, ()).id
    'own-peanut-flour'
    """
    if not name.strip():
        raise NotAnIngredient("name", "Say what it is called.")
    grams = {row: _grams(row, typed.get(row, ""), comma) for row in PacketRow}
    for part, whole in ((PacketRow.SATURATES, PacketRow.FAT), (PacketRow.SUGARS, PacketRow.CARBOHYDRATE)):
        if grams[part] > grams[whole] + 0.5:
            raise NotAnIngredient(part, f"{part.capitalize()} ({grams[part]:g} g) cannot exceed {whole} ({grams[whole]:g} g).")
    parts = (PacketRow.FAT, PacketRow.CARBOHYDRATE, PacketRow.FIBRE, PacketRow.PROTEIN, PacketRow.SALT, PacketRow.ALCOHOL)
    total = sum(grams[row] for row in parts)
    if total > 100.0 + _ROOM_G:
        raise NotAnIngredient("fat", f"The figures add up to {total:.0f} g in 100 g. Are they per 100 g?")
    if total <= 0:
        raise NotAnIngredient("fat", "Type at least one figure from the packet, per 100 g.")
    figures: dict[Nutrient, float | None] = dict.fromkeys(Nutrient, 0.0)
    figures |= {
        Nutrient.WATER: max(0.0, 100.0 - total),
        Nutrient.FAT: grams[PacketRow.FAT],
        Nutrient.SATURATES: grams[PacketRow.SATURATES],
        Nutrient.CARBOHYDRATE: grams[PacketRow.CARBOHYDRATE] + grams[PacketRow.FIBRE],
        Nutrient.SUGARS: grams[PacketRow.SUGARS],
        Nutrient.ADDED_SUGARS: grams[PacketRow.SUGARS],
        Nutrient.SUCROSE: grams[PacketRow.SUGARS],
        Nutrient.FIBRE: grams[PacketRow.FIBRE],
        Nutrient.POLYOLS: grams[PacketRow.POLYOLS],
        Nutrient.PROTEIN: grams[PacketRow.PROTEIN],
        Nutrient.ASH: grams[PacketRow.SALT],
        Nutrient.SODIUM: grams[PacketRow.SALT] * 400.0,
        Nutrient.ALCOHOL: grams[PacketRow.ALCOHOL],
    }
    return Ingredient(
        id=_fresh_id(name, taken),
        name=name.strip()[:120],
        category="own",
        per_100_g=figures,
        note="From the figures on its packet; what the packet does not say counts as none, what is left as water.",
    )


def _grams(row: PacketRow, typed: str, comma: Comma) -> float:
    text = _UNIT.sub("", typed.strip()).removeprefix("<").strip()
    if not text:
        return 0.0
    try:
        value = figure_value(text, comma)
    except Unread as problem:
        raise NotAnIngredient(row, f"{row.capitalize()}: {problem}") from None
    if value > 100.0:
        raise NotAnIngredient(row, f"{row.capitalize()}: {value:g} g in 100 g cannot be.")
    return value


def _fresh_id(name: str, taken: Collection[str]) -> str:
    stem = OWN_PREFIX + (re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:50] or "ingredient")
    number = 1
    while (fresh := stem if number == 1 else f"{stem}-{number}") in taken:
        number += 1
    return fresh
