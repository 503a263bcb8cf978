"""Shopping in packs: how many to buy, what they cost, and what stays in them.

Worked example: 310 g of chocolate in packs of 200 g at 3.49: two packs, 6.98, and 90 g are left in the second.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fern_match.core.batch.scale import Batch
from fern_match.core.batch.stock import Stock
from fern_match.core.food import Pantry
from fern_match.core.food.together import listed
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures import Typed, read_ingredient, read_money

WATER = "water"  # comes from the tap
_NAMED = 4
_ENOUGH = 1e-6  # relative: the same figures summed in another order


@dataclass(frozen=True, slots=True, kw_only=True)
class PackReading:
    """How an ingredient is sold, as read."""

    size: Typed  # g
    price: Typed


@dataclass(frozen=True, slots=True, kw_only=True)
class PackLine:
    """What to buy of one ingredient."""

    packs: int
    left_g: float  # in the packs, once the batch is made
    cost: float | None  # of the packs; None while their price is not known


@dataclass(frozen=True, slots=True, kw_only=True)
class Packs:
    """All that is bought in packs."""

    lines: Mapping[str, PackLine]  # by ingredient
    cost: float | None  # of those whose price is known; None where none is
    not_counted: tuple[str, ...]  # names of what is to buy and has no pack, no price, or no known amount
    words: str


def read_packs(kitchen: KitchenReading, pantry: Pantry) -> dict[str, PackReading]:
    """Packs of the house by ingredient; of an ingredient that the pantry does not hold none.

    Args:
        kitchen: Its packs as typed.
        pantry: For densities, where a pack is in cups or spoons.
    """
    return {
        one.id: PackReading(
            size=read_ingredient(one.size, pantry[one.id], measures=kitchen.kitchen.measures, comma=kitchen.comma),
            price=read_money(one.price, comma=kitchen.comma),
        )
        for one in kitchen.kitchen.packs
        if one.id in pantry
    }


def in_packs(batch: Batch, found: Stock | None, packs: Mapping[str, PackReading]) -> Packs:
    """What of a batch is bought in how many packs.

    Args:
        batch: Its shopping list [g].
        found: What is in the house; what nobody looked for is to buy.
        packs: By ingredient.
    """
    lines: dict[str, PackLine] = {}
    lacking: list[str] = []
    for need in batch.shopping:
        stock = found.lines.get(need.ingredient_id) if found is not None else None
        to_buy = need.grams if stock is None else stock.missing_g
        pack = packs.get(need.ingredient_id)
        if need.ingredient_id == WATER or (to_buy <= 0 and not need.unread):
            continue
        if need.unread or pack is None or pack.size.value is None:
            lacking.append(need.name)
            continue
        count = math.ceil(to_buy / pack.size.value * (1 - _ENOUGH))
        price = pack.price.value
        lines[need.ingredient_id] = PackLine(
            packs=count, left_g=count * pack.size.value - to_buy, cost=count * price if price is not None else None
        )
        if price is None:
            lacking.append(need.name)
    known = [one.cost for one in lines.values() if one.cost is not None]
    cost = sum(known) if known else None
    return Packs(lines=lines, cost=cost, not_counted=tuple(lacking), words=_words(cost, lacking))


def _words(cost: float | None, lacking: Sequence[str]) -> str:
    if cost is None:
        return "Say how an ingredient is sold, and the packs to buy and their cost follow. Kept for all matches."
    few = [name.partition(",")[0].lower() for name in lacking[:_NAMED]]
    others = [f"{len(lacking) - _NAMED} more"] if len(lacking) > _NAMED else []
    return f"Packs to buy come to {cost:.2f}" + (f"; not counted: {listed([*few, *others])}." if lacking else ".")
