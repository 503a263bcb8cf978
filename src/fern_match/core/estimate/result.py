"""An estimate as its readers get it: layers, ingredients, the recomputed label, and every piece of evidence."""

from dataclasses import dataclass
from enum import StrEnum

from fern_match.core.label.rows import RowId


class Fit(StrEnum):
    """How well evidence, build and reading go together."""

    FITS = "fits"
    PULLS = "pulls"  # something to settle; ranges still hold
    FIGHTS = "fights"  # ranges are not to be relied on


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
    remark: str  # what a reader should know of it; else empty


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
    mainly: str  # its main ingredients in one line
    loses_water: bool  # so much that it is worth a line
    ingredients: tuple[IngredientAmount, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class LabelRowEstimate:
    """A panel row recomputed, on the label's own basis."""

    row: RowId
    title: str
    short: str  # its title where there is little room
    in_sight: bool  # whether it is one of the rows a match is held to at every step
    unit: str
    declared: str | None
    declared_low: float | None
    declared_high: float | None
    computed: Range
    printed: str
    is_evidence: bool
    tension: float | None  # of the row as evidence
    pulls: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class EvidenceSeen:
    """One piece of evidence: what was seen, what the rest of the evidence foresees, how far apart they are."""

    id: str
    kind: str  # label row, order, percent, 2 % or less, weighing, net weight, chocolate rule
    title: str
    seen: str
    unit: str
    expected_low: float | None  # 90 % range foreseen from all other evidence
    expected_high: float | None
    expected: str  # the same in words; what was seen where it is not used
    tension: float | None  # as a number of standard deviations
    pulls: bool
    used: bool
    sentence: str  # what fights; empty where nothing does
    group: str  # under which heading it is listed
    is_figure: bool  # something that can be read again
    names: tuple[str, ...] = ()  # of an order's two, the earlier first
    centre: float | None = None  # the mean of readings
    seen_low: float | None = None
    seen_high: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class NextReading:
    """A weighing that could be made, and what it would give."""

    subject: str  # a layer's id, or the whole piece
    name: str
    minutes: float
    narrowing: float  # by how much the ranges of all layers shrink together, 0 to 1
    widest: str  # the layer it narrows most
    width_before_g: float
    width_after_g: float
    sentence: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Together:
    """Layers of one recipe, whose masses are surer together than each."""

    layer_ids: tuple[str, ...]
    name: str
    grams: Range


@dataclass(frozen=True, slots=True)
class SumPart:
    """An ingredient of a layer."""

    layer_id: str
    ingredient_id: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SumTold:
    """Amounts that nothing parts, surer together than each: the sugar of coat and filling, two fats of one cream."""

    parts: tuple[SumPart, ...]
    name: str
    grams: Range  # as added, of the mean piece


@dataclass(frozen=True, slots=True, kw_only=True)
class LeftOut:
    """A name on the statement that no ingredient stands for."""

    name: str
    why: str  # as a sentence goes on after its name
    is_trace: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Estimate:
    """What is probably in the mean piece, and why."""

    piece_g: Range
    layers: tuple[LayerEstimate, ...]
    label: tuple[LabelRowEstimate, ...]
    label_basis_g: float
    fit: Fit  # whether the evidence goes together
    fit_words: str
    evidence: tuple[EvidenceSeen, ...]  # what pulls hardest first; what is switched off among the figures
    to_weigh: tuple[NextReading, ...]  # what would narrow it most per minute, first
    together: tuple[Together, ...]
    sums: tuple[SumTold, ...]  # of ingredients, the widest parts first
    left_out: tuple[LeftOut, ...]  # names it does without
    assumed: tuple[str, ...]  # sentences on what was taken for granted
    log_evidence: float
    particles: int

    @property
    def least_certain(self) -> str:
        """The layer with the widest range: the one to look into."""
        return max(self.layers, key=lambda layer: layer.grams.high - layer.grams.low).layer_id

    @property
    def to_settle(self) -> int:
        """How many pieces of evidence pull."""
        return sum(piece.pulls for piece in self.evidence)
