"""A batch plan as read: its figures, and the batch where it can be computed, weighed out within its version's rules."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace

from fern_match.core.adapt import limits_held
from fern_match.core.batch.plan import BatchPlan
from fern_match.core.batch.scale import MOST_LEFT_ON_TOOLS, Batch, scaled
from fern_match.core.batch.stock import Stock, stock
from fern_match.core.batch.weighing_out import WeighedOut, off_g, weighed_out
from fern_match.core.formulate import Overview
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures import Comma, Typed, read_count, read_ingredient, read_percent
from fern_match.core.measures.pieces import MOST_PIECES, USUAL_PIECES
from fern_match.core.measures.units import GRAMS_PER_OUNCE
from fern_match.core.study.reading import StudyReading


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchReading:
    """A batch plan as read, with the batch where it can be computed."""

    plan: BatchPlan
    pieces: Typed
    left_on_tools: Mapping[str, Typed]
    in_house: Mapping[str, Typed]
    batch: Batch | None
    stock: Stock | None
    weighed: str  # what weighing out does to the targets; empty without a batch


def read_batch(plan: BatchPlan, seen: Overview, reading: StudyReading, kitchen: KitchenReading) -> BatchReading:
    """A plan's figures as read and, once the pieces are known, its batch; a share that was not read counts as usual.

    Args:
        seen: The plan's version from all sides.
        reading: The study, with compositions and families.
        kitchen: Its scale, spoons, height and thermometer.
    """
    pantry, comma, measures = reading.pantry, reading.comma, kitchen.kitchen.measures
    pieces = read_pieces(plan.pieces, comma)
    losses = {key: read_percent(typed, most=100 * MOST_LEFT_ON_TOOLS, comma=comma) for key, typed in plan.left_on_tools.items()}
    in_house = {
        key: read_ingredient(typed, pantry[key], measures=measures, comma=comma, zero=True)
        if key in pantry
        else Typed(typed, None, "g", f"The pantry holds no “{key}”, so this was not read.")
        for key, typed in plan.in_house.items()
    }
    batch, weighed = None, ""
    if pieces.value is not None:
        shares = {key: typed.value / 100 for key, typed in losses.items() if typed.value is not None}
        batch, out = batch_of(seen, int(pieces.value), shares, reading, kitchen)
        weighed = out.words
    found = stock(batch, in_house) if batch is not None else None
    return BatchReading(
        plan=plan, pieces=pieces, left_on_tools=losses, in_house=in_house, batch=batch, stock=found, weighed=weighed
    )


def read_pieces(typed: str, comma: Comma) -> Typed:
    """How many pieces a batch is to give, 1 to 10,000: "24", "2 x 12"."""
    return read_count(typed, most=MOST_PIECES, what="number of pieces", comma=comma)


def batch_of(
    seen: Overview,
    pieces: int,
    left_on_tools: Mapping[str, float],
    reading: StudyReading,
    kitchen: KitchenReading,
    *,
    by_spoons: bool = False,
) -> tuple[Batch, WeighedOut]:
    """A version's batch, and how it is measured out in this kitchen, within the rules that the version was adapted under.

    Args:
        seen: The version from all sides.
        pieces: 1 to 10,000.
        left_on_tools: Layer id -> share that stays on tools [g/g]; the usual one elsewhere.
        reading: The study, with compositions and families.
        kitchen: Its scale, spoons, height and thermometer.
        by_spoons: Whether it is measured in spoons and cups, without a scale.

    Raises:
        OutOfRange: pieces or a share is outside.
    """
    formula, step = seen.formula, None if by_spoons else kitchen.scale_step_g
    batch = scaled(
        formula,
        pieces,
        left_on_tools,
        reading.pantry,
        reading.families,
        scale_step_g=kitchen.scale_step_g,
        measures=kitchen.kitchen.measures,
        boiling_reading_c=kitchen.boils_at_reading_c,
    )
    limits = limits_held(seen.version, formula, reading, off_g(formula, pieces, step))
    out = weighed_out(batch, formula, seen.targets, reading, scale_step_g=step, measures=kitchen.kitchen.measures, limits=limits)
    return (batch if by_spoons else _with_weights(batch, out)), out


def pieces_of(plans: Collection[BatchPlan], version_id: str, reading: StudyReading) -> int:
    """For how many pieces a version is measured out: what its first batch that says so wants, else what is usual."""
    for plan in plans:
        if plan.version == version_id:
            found = read_pieces(plan.pieces, reading.comma).value
            if found is not None:
                return int(found)
    return USUAL_PIECES


def _with_weights(batch: Batch, out: WeighedOut) -> Batch:
    """A batch with its lines as they are weighed out."""
    lines = iter(out.lines)
    layers = []
    for layer in batch.layers:
        weighed = []
        for one in layer.ingredients:
            line = next(lines)
            ounces = line.measured_g / GRAMS_PER_OUNCE
            weighed.append(replace(one, weigh_out_g=line.measured_g, weigh_out_oz=ounces, dilution=line.dilution))
        layers.append(replace(layer, ingredients=tuple(weighed)))
    return replace(batch, layers=tuple(layers))
