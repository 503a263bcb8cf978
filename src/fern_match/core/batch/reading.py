"""A batch plan as read: its figures, the batch where it can be computed, and what has moved on since its version was made."""

from collections.abc import Mapping
from dataclasses import dataclass

from fern_match.core.batch.plan import BatchPlan
from fern_match.core.batch.scale import MOST_LEFT_ON_TOOLS, MOST_PIECES, Batch, scaled
from fern_match.core.batch.stock import Stock, stock
from fern_match.core.families import Families
from fern_match.core.food import Pantry
from fern_match.core.formulate import Formula
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures import Comma, Typed, read_count, read_ingredient, read_percent


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchReading:
    """A batch plan as read, with the batch where it can be computed."""

    plan: BatchPlan
    pieces: Typed
    left_on_tools: Mapping[str, Typed]
    in_house: Mapping[str, Typed]
    batch: Batch | None
    stock: Stock | None


def read_batch(
    plan: BatchPlan, formula: Formula, pantry: Pantry, families: Families, kitchen: KitchenReading, comma: Comma
) -> BatchReading:
    """A plan's figures as read and, once the pieces are known, its batch; a share that was not read counts as usual.

    Args:
        formula: The plan's version as read.
        kitchen: Its scale, spoons, height and thermometer.
        comma: What a comma means in the plan.
    """
    pieces = read_count(plan.pieces, most=MOST_PIECES, what="number of pieces", comma=comma)
    losses = {key: read_percent(typed, most=100 * MOST_LEFT_ON_TOOLS, comma=comma) for key, typed in plan.left_on_tools.items()}
    shares = {key: typed.value / 100 for key, typed in losses.items() if typed.value is not None}
    measures = kitchen.kitchen.measures
    in_house = {
        key: read_ingredient(typed, pantry[key], measures=measures, comma=comma, zero=True)
        if key in pantry
        else Typed(typed, None, "g", f"The pantry holds no “{key}”, so this was not read.")
        for key, typed in plan.in_house.items()
    }
    batch = None
    if pieces.value is not None:
        batch = scaled(
            formula,
            int(pieces.value),
            shares,
            pantry,
            families,
            scale_step_g=kitchen.scale_step_g,
            measures=measures,
            boiling_reading_c=kitchen.boils_at_reading_c,
        )
    found = stock(batch, in_house) if batch is not None else None
    return BatchReading(plan=plan, pieces=pieces, left_on_tools=losses, in_house=in_house, batch=batch, stock=found)
