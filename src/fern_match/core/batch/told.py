"""A batch as plain values, for whoever reads them by machine."""

from dataclasses import asdict
from typing import Any

from fern_match.core.batch.cautions import cautions
from fern_match.core.batch.plan import BatchPlan
from fern_match.core.batch.reading import BatchReading, read_batch
from fern_match.core.batch.scale import BatchIngredient, BatchLayer, ShoppingLine
from fern_match.core.food import Pantry
from fern_match.core.formulate import Version, overview
from fern_match.core.kitchen import KitchenReading
from fern_match.core.study.reading import StudyReading


def batch_told(version: Version, plan: BatchPlan, reading: StudyReading, kitchen: KitchenReading) -> dict[str, Any]:
    """A batch with its amounts, its gear, what to buy and what to mind; of one that waits, what it waits for and no layers.

    Args:
        version: That it is of.
        plan: As typed.
        reading: The study, with compositions and families.
        kitchen: With the gear it is made in.
    """
    read = read_batch(plan, overview(version, reading), reading, kitchen)
    batch, pantry = read.batch, reading.pantry
    if batch is None:
        return {"waits": read.waits or read.problem, "pieces": None, "layers": []}
    minded = cautions(batch, pantry, allergens=read.allergens, to_say=read.to_say, broken=read.broken)
    portions = read.portions
    return {
        "waits": "",
        "pieces": batch.pieces,
        "piece_g": batch.piece_g,
        "fits": _fits(read),
        "layers": [_layer(one, read, pantry) for one in batch.layers],
        "cuts": asdict(portions.cut) if portions is not None and portions.cut is not None else None,
        "lots": [
            {
                "id": one.id,
                "name": one.name,
                "mark": one.mark,
                "pieces": one.pieces,
                "piece_g": one.piece_g,
                "allergens": list(one.own.holds),
                "traces": [doubt.allergen for doubt in one.traces],
                "traces_not_known": list(one.traces_not_known),
                "broken": list(one.broken),
            }
            for one in (read.lots.made if read.lots is not None else ())
        ],
        "wrapping": [asdict(one) for one in (read.wrapping.lines if read.wrapping is not None else ())],
        "shopping": [_buy(one, read) for one in batch.shopping],
        "cautions": [{"topic": one.topic, "sentence": one.sentence} for one in (*minded, *read.today)],
        "premixes": [asdict(one) for one in read.premixes],
        "notes": [{"kind": one.kind.value, "text": one.text} for one in version.notes],
    }


def _fits(read: BatchReading) -> dict[str, Any]:
    """What the gear makes of it, by words and by how much larger each layer comes out."""
    portions = read.portions
    if portions is None:
        return {"words": [], "factors": {}}
    return {"by": read.plan.by.value, "words": list(portions.words), "factors": dict(portions.factors), "dip": read.dip}


def _layer(layer: BatchLayer, read: BatchReading, pantry: Pantry) -> dict[str, Any]:
    cut = read.portions.cut if read.portions is not None else None
    heights = {one.layer_id: one.stands_mm for one in (cut.heights if cut is not None else ())}
    return {
        "layer": layer.layer_id,
        "needed_g": layer.needed_g,
        "left_on_tools_g": layer.left_on_tools_g,
        "trimmed_g": layer.trimmed_g,
        "spare_g": layer.spare_g,
        "made_g": layer.made_g,
        "water_lost_g": layer.water_lost_g,
        "thickness_mm": heights.get(layer.layer_id),
        "lines": [_line(one, pantry) for one in layer.ingredients],
    }


def _line(one: BatchIngredient, pantry: Pantry) -> dict[str, Any]:
    spoons, food = one.scooped, pantry.by_id.get(one.ingredient_id)
    counted = one.grams / food.piece_g if one.each and food is not None and food.piece_g else None
    return {
        "line": one.line_id,
        "ingredient": one.ingredient_id,
        "grams": None if one.unread else one.grams,
        "weigh_out_g": None if one.unread else one.weigh_out_g,
        "spoons": one.measured or (spoons.words if spoons is not None else ""),
        "pieces": counted,
        "error_pct": 100 * (one.weigh_out_g / one.grams - 1) if one.grams > 0 and not one.unread else None,
        "note": one.note,
    }


def _buy(one: ShoppingLine, read: BatchReading) -> dict[str, Any]:
    pack = read.packs.lines.get(one.ingredient_id) if read.packs is not None else None
    return {
        "ingredient": one.ingredient_id,
        "grams": None if one.unread else one.grams,
        "packs": pack.packs if pack is not None else None,
        "cost": pack.cost if pack is not None else None,
        "left_g": pack.left_g if pack is not None else None,
    }
