"""Batches: a version scaled to pieces, with what boils off and what stays on tools.

Belongs here: how much to make and weigh out. Must never happen here: what the formula is.
Imitate `scale.py`.
"""

from fern_match.core.batch.cautions import Caution, cautions
from fern_match.core.batch.plan import BatchPlan
from fern_match.core.batch.reading import BatchReading, read_batch
from fern_match.core.batch.scale import Batch, BatchIngredient, BatchLayer, ShoppingLine, scaled
from fern_match.core.batch.stock import Stock, stock

__all__ = [
    "Batch",
    "BatchIngredient",
    "BatchLayer",
    "BatchPlan",
    "BatchReading",
    "Caution",
    "ShoppingLine",
    "Stock",
    "cautions",
    "read_batch",
    "scaled",
    "stock",
]
