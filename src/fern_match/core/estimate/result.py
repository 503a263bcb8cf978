"""An estimate as its readers get it: layers, ingredients, the recomputed label, and every piece of evidence."""

from dataclasses import dataclass

from fern_match.core.estimate.terms import Kind
from fern_match.core.label.rows import RowId


@dataclass(frozen=True, slots=True)
class Range:
    """A best value with its 90 % range. The best value is the mean: means add up, medians do not."""

    best: float
    low: float
    high: float


@dataclass(frozen=True, slots=True, kw_only=True)
class IngredientAmount:
    """One ingredient of one layer, as added, per mean piece."""

    ingredient_id: str
    name: str
    role: str
    item: str | None  # the statement's key; None where the family implies it
    grams: Range
    share_of_layer: float  # of what goes into the bowl [g/g]
    presence: float  # probability that it is in this layer at all


@dataclass(frozen=True, slots=True, kw_only=True)
class LayerEstimate:
    """One layer of the mean piece."""

    layer_id: str
    name: str
    family: str
    grams: Range  # finished
    share: Range  # of the piece [g/g]
    water_lost_g: Range
    moisture: float  # of the finished layer [g/g]
    ingredients: tuple[IngredientAmount, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class LabelRowEstimate:
    """A panel row recomputed, on the label's own basis."""

    row: RowId
    title: str
    unit: str
    declared: str | None
    declared_low: float | None
    declared_high: float | None
    computed: Range
    printed: str
    is_evidence: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class EvidenceSeen:
    """One piece of evidence: what was seen, what the rest of the evidence foresees, how far apart they are."""

    id: str
    kind: Kind
    title: str
    seen: str
    unit: str
    seen_low: float | None
    seen_high: float | None
    expected_low: float | None  # 90 % range foreseen from all other evidence
    expected_high: float | None
    tension: float | None  # as a number of standard deviations; from 2 it pulls
    used: bool
    sentence: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Estimate:
    """What is probably in the mean piece, and why."""

    piece_g: Range
    layers: tuple[LayerEstimate, ...]
    label: tuple[LabelRowEstimate, ...]
    label_basis_g: float
    evidence: tuple[EvidenceSeen, ...]
    assumed: tuple[str, ...]  # sentences on what was taken for granted
    log_evidence: float
    particles: int
