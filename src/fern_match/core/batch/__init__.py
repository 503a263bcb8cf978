"""Batches: a version scaled to pieces, with what boils off and what stays on tools, weighed out.

Belongs here: how much to make and weigh out, for every step that says grams of a batch. Must never happen here: what the formula
is. Imitate `scale.py`.
"""

from fern_match.core.batch.asked import bowls, fitting_gear, read_pieces
from fern_match.core.batch.card import Card, cards_of
from fern_match.core.batch.cautions import Caution, cautions
from fern_match.core.batch.coats import Tempering, coat_words, tempering
from fern_match.core.batch.cues import ERROR, cue_for, kind_of_boil
from fern_match.core.batch.lots import LotMade, Lots, in_turn, lot_parts, traces_in_words
from fern_match.core.batch.packs import PackLine, Packs, read_packs
from fern_match.core.batch.plan import LEFT_OUT, BatchPlan, Keeps, Lot, PlanBy
from fern_match.core.batch.portion import CavityPart, CavityPlan, CutPlan, NoPortion, Piece, Portions, pieces_words, portioned
from fern_match.core.batch.reading import BatchReading, batch_of, pieces_of, read_batch
from fern_match.core.batch.scale import (
    BY_THE_PIECE,
    Batch,
    BatchIngredient,
    BatchLayer,
    HeatHere,
    ShoppingLine,
    WeightHere,
    own_end_words,
    scaled,
)
from fern_match.core.batch.slab import slab_heights
from fern_match.core.batch.stock import Stock, stock
from fern_match.core.batch.until import SetOut
from fern_match.core.batch.weighing_out import WeighedLine, WeighedOut, off_g, weighed_out
from fern_match.core.batch.wrapping import WrapLine, Wrapping

__all__ = [
    "BY_THE_PIECE",
    "ERROR",
    "LEFT_OUT",
    "Batch",
    "BatchIngredient",
    "BatchLayer",
    "BatchPlan",
    "BatchReading",
    "Card",
    "Caution",
    "CavityPart",
    "CavityPlan",
    "CutPlan",
    "HeatHere",
    "Keeps",
    "Lot",
    "LotMade",
    "Lots",
    "NoPortion",
    "PackLine",
    "Packs",
    "Piece",
    "PlanBy",
    "Portions",
    "SetOut",
    "ShoppingLine",
    "Stock",
    "Tempering",
    "WeighedLine",
    "WeighedOut",
    "WeightHere",
    "WrapLine",
    "Wrapping",
    "batch_of",
    "bowls",
    "cards_of",
    "cautions",
    "coat_words",
    "cue_for",
    "fitting_gear",
    "in_turn",
    "kind_of_boil",
    "lot_parts",
    "off_g",
    "own_end_words",
    "pieces_of",
    "pieces_words",
    "portioned",
    "read_batch",
    "read_packs",
    "read_pieces",
    "scaled",
    "slab_heights",
    "stock",
    "tempering",
    "traces_in_words",
    "weighed_out",
]
