"""A match: one original with its study, its versions and its batches, as the user has them."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from fern_match.core.batch import Batch, Stock, scaled, stock
from fern_match.core.batch.scale import MOST_LEFT_ON_TOOLS, MOST_PIECES
from fern_match.core.errors import NotKnown
from fern_match.core.food import Pantry
from fern_match.core.formulate import Version
from fern_match.core.kitchen import Kitchen, KitchenReading, read_kitchen
from fern_match.core.measures import Typed, read_count, read_ingredient, read_percent
from fern_match.core.study.record import Study


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchPlan:
    """What the user asked of a batch, as typed."""

    id: str
    version_id: str
    pieces: str
    left_on_tools: Mapping[str, str] = field(default_factory=dict)  # layer id -> per cent as typed
    in_house: Mapping[str, str] = field(default_factory=dict)  # ingredient id -> amount as typed


@dataclass(frozen=True, slots=True, kw_only=True)
class Match:
    """One project."""

    study: Study
    versions: tuple[Version, ...] = ()
    batches: tuple[BatchPlan, ...] = ()

    def version(self, version_id: str) -> Version:
        """One version.

        Args:
            version_id: Its id.

        Raises:
            NotKnown: the match has no such version.
        """
        for version in self.versions:
            if version.id == version_id:
                return version
        raise NotKnown("version", version_id)


@dataclass(frozen=True, slots=True, kw_only=True)
class BatchReading:
    """A batch plan as read, with the batch where it can be computed."""

    plan: BatchPlan
    pieces: Typed
    left_on_tools: Mapping[str, Typed]
    in_house: Mapping[str, Typed]
    batch: Batch | None
    stock: Stock | None


def read_batch(match: Match, plan: BatchPlan, pantry: Pantry, kitchen: KitchenReading | None = None) -> BatchReading:
    """A plan's figures as read and, once the pieces are known, its batch; a share that was not read counts as usual.

    Args:
        match: Whose version the plan scales.
        plan: As typed.
        pantry: For allergens and densities.
        kitchen: Its scale, spoons, height and thermometer; None for usual ones.

    Raises:
        NotKnown: the plan's version is not one of the match's.
    """
    version = match.version(plan.version_id)
    comma = match.study.region.comma
    pieces = read_count(plan.pieces, most=MOST_PIECES, what="number of pieces", comma=comma)
    losses = {key: read_percent(typed, most=100 * MOST_LEFT_ON_TOOLS, comma=comma) for key, typed in plan.left_on_tools.items()}
    shares = {key: typed.value / 100 for key, typed in losses.items() if typed.value is not None}
    own = kitchen or read_kitchen(Kitchen())
    measures = own.kitchen.measures
    in_house = {
        key: read_ingredient(typed, pantry[key], measures=measures, comma=comma, zero=True)
        if key in pantry
        else Typed(typed, None, "g", f"The pantry holds no “{key}”, so this was not read.")
        for key, typed in plan.in_house.items()
    }
    batch = None
    if pieces.value is not None:
        batch = scaled(
            version,
            int(pieces.value),
            shares,
            pantry,
            scale_step_g=own.scale_step_g,
            measures=measures,
            boiling_reading_c=own.boils_at_reading_c,
        )
    found = stock(batch, in_house) if batch is not None else None
    return BatchReading(plan=plan, pieces=pieces, left_on_tools=losses, in_house=in_house, batch=batch, stock=found)
