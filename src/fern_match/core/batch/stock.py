"""What is in the house against what a batch takes.

Worked example: 24 pieces take 240 g of dates; 1 1/2 metric cups at 0.62 g/mL are 375 x 0.62 = 232.5 g, so 7.5 g are missing and
the dates are enough for floor(24 x 232.5 / 240) = 23 pieces.
What a dip leaves in the bowl is taken off both first. A cup errs by 10 %, 209 to 256 g: whether they are enough is unsure.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass

from fern_match.core.batch.scale import Batch
from fern_match.core.measures import Typed

_ENOUGH = 1e-6  # relative: sums of the same figures in another order


@dataclass(frozen=True, slots=True, kw_only=True)
class StockLine:
    """One ingredient that somebody looked for in the house."""

    missing_g: float  # to buy; 0 where there is enough
    pieces: int  # it is enough for
    unsure: bool  # whether the way it was measured leaves open that there is enough


@dataclass(frozen=True, slots=True, kw_only=True)
class Stock:
    """All that was looked for."""

    lines: Mapping[str, StockLine]  # by ingredient
    pieces: int | None  # what is in the house is enough for; None while nothing was looked for
    scarce: str | None  # the ingredient that runs out first, where there is not enough


def stock(batch: Batch, have: Mapping[str, Typed]) -> Stock:
    """What is missing, and how many pieces the house is enough for; what nobody looked for counts as there.

    Args:
        batch: Its shopping list [g].
        have: Ingredient id -> amount in the house as read [g]; one that was not read counts as not looked for.
    """
    lines = {}
    for need in batch.shopping:
        found = have.get(need.ingredient_id)
        if found is None or found.value is None or need.grams <= need.fixed_g:
            continue
        lines[need.ingredient_id] = StockLine(
            missing_g=max(0.0, need.grams - found.value),
            pieces=max(0, math.floor(batch.pieces * (found.value - need.fixed_g) / (need.grams - need.fixed_g) * (1 + _ENOUGH))),
            unsure=found.low is not None and found.high is not None and found.low < need.grams <= found.high,
        )
    if not lines:
        return Stock(lines={}, pieces=None, scarce=None)
    scarce = min(lines, key=lambda ingredient_id: lines[ingredient_id].pieces)
    pieces = lines[scarce].pieces
    return Stock(lines=lines, pieces=pieces, scarce=scarce if pieces < batch.pieces else None)
