"""A version as a whole: amounts, targets, label, balance and cost, the same for screen, file and command line."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.food import Ingredient, Nutrient
from fern_match.core.food.together import OF_ANIMALS, Allergens, MayHold, allergens_of, lacking, unexplained, vegan_of
from fern_match.core.formulate.judging.balance import LayerNature, balance, natures
from fern_match.core.formulate.judging.notes import Note
from fern_match.core.formulate.judging.to_say import polyols_by_kind, to_say
from fern_match.core.formulate.record.diet import vegan_in
from fern_match.core.formulate.record.formula import Formula, read_version
from fern_match.core.formulate.record.properties import rows_per_100_g, unknown_rows
from fern_match.core.formulate.record.version import OriginKind, Version
from fern_match.core.formulate.solving.posed import PieceLimit, Room
from fern_match.core.formulate.solving.solve import Outcome, solve
from fern_match.core.formulate.solving.targets import Target, held_to_label, read_targets
from fern_match.core.formulate.solving.ways import cost_of
from fern_match.core.label.claims import Claim, claims
from fern_match.core.label.printing import printed
from fern_match.core.label.rows import IN_SIGHT, RowId, panel_rows
from fern_match.core.measures import Measures
from fern_match.core.study.reading import StudyReading

NOT_KNOWN = "not known"
_EXACT = 1e-9  # sums of the same figures in another order


@dataclass(frozen=True, slots=True, kw_only=True)
class PrintedRow:
    """A row of the label as this version would print it, on the original's basis, beside what the original declares."""

    row: RowId
    title: str
    short: str
    unit: str
    in_sight: bool
    computed: float | None  # None where an ingredient's figure is not known
    printed: str  # "not known" then
    declared: str | None
    declared_low: float | None
    declared_high: float | None
    unknown: tuple[str, ...]  # ingredients whose figure the table lacks
    reached: bool | None  # whether it lies where the declared figure stands for; None where either is not known, or not asked


@dataclass(frozen=True, slots=True, kw_only=True)
class Overview:
    """Everything there is to say of a version."""

    version: Version
    formula: Formula
    targets: tuple[Target, ...]
    rows: tuple[PrintedRow, ...]
    basis_g: float
    notes: tuple[Note, ...]
    natures: tuple[LayerNature, ...]
    claims: tuple[Claim, ...]
    allergens: Allergens
    to_say: tuple[str, ...]  # to whoever gets a piece
    vegan: str  # yes, no, or check
    vegan_doubts: tuple[str, ...]  # names of lines that are not, or that depend on the maker
    cost: float | None  # per piece, in the pantry's money
    layer_costs: Mapping[str, float | None]
    shop_price: float | None  # of a piece of the original, as bought


def overview(version: Version, reading: StudyReading, measures: Measures = Measures.METRIC) -> Overview:
    """A version read and looked at from all sides.

    Args:
        version: As kept.
        reading: The study it is held to, with compositions, the match's own where it has pinned them, and windows.
        measures: Whose spoons and cups, where an amount is typed in them.
    """
    return overview_of(version, read_version(version, reading.pantry, measures=measures, comma=reading.comma), reading)


def overview_of(version: Version, formula: Formula, reading: StudyReading) -> Overview:
    """The same of a version as it was read, or as a mould or a pan makes it.

    Args:
        version: As kept.
        formula: Of one piece.
        reading: The study it is held to, with compositions, the match's own where it has pinned them, and windows.
    """
    pantry, families = reading.pantry, reading.families
    per_100_g = rows_per_100_g(formula, reading.study.region, pantry)
    used = [
        pantry[one.ingredient_id]
        for layer in formula.layers
        for one in layer.ingredients
        if one.there and one.ingredient_id in pantry
    ]
    strangers = tuple(
        dict.fromkeys(
            one.name for layer in formula.layers for one in layer.ingredients if one.there and one.ingredient_id not in pantry
        )
    )
    region = reading.study.region
    vegan = vegan_of([replace(food, vegan=vegan_in(food, region)) for food in used], strangers=bool(strangers))
    allergens = with_declared(allergens_of(used, strangers), version, reading)
    return Overview(
        version=version,
        formula=formula,
        targets=read_targets(version, formula, reading),
        rows=tuple(row if held_to_label(version) else replace(row, reached=None) for row in printed_rows(formula, reading)),
        basis_g=reading.basis_g or 100.0,
        notes=balance(version, formula, pantry, families),
        natures=natures(formula, pantry, families),
        claims=claims(
            reading.study.region,
            per_100_g,
            serving_g(reading, formula) or None,
            original=_original(reading),
            added_sugar=_added_sugar(used, strangers),
            vegan=vegan,
            allergens=allergens,
            polyols=polyols_by_kind(formula, pantry),
        )
        if per_100_g
        else (),
        allergens=allergens,
        to_say=to_say(formula, reading.study.region, serving_g(reading, formula) or None, pantry, families),
        vegan=vegan,
        vegan_doubts=(*dict.fromkeys(food.name for food in used if vegan_in(food, region) != "yes"), *strangers),
        cost=cost_of(formula.layers, pantry),
        layer_costs={layer.layer_id: cost_of([layer], pantry) for layer in formula.layers},
        shop_price=reading.price.value / max(1, reading.pieces) if reading.price.value is not None else None,
    )


def declared_of(version: Version, reading: StudyReading) -> Mapping[str, frozenset[str]]:
    """Allergens that the original's label declares, of a version that is a copy of the original; of any other none.

    Each with the ingredients of which the label says so and the pantry does not.
    """
    if version.origin.kind is not OriginKind.ESTIMATE:
        return {}
    return {one: reading.unplaced_allergens.get(one, frozenset()) for one in reading.declared_allergens}


def with_declared(found: Allergens, version: Version, reading: StudyReading) -> Allergens:
    """Allergens with those that the original's label declares or names and no line of a version explains.

    Of a copy of the original they hold until somebody says where they went; of what was adapted it may hold them, unless it was
    adapted to go without them. What no line explained it may hold all the same, unless the lines are gone of which the label said
    so: fish goes with "gelatine (fish)", and of an egg that is only declared nobody knows with which line it went.

    Args:
        found: By the version's lines.
        version: With where it comes from.
        reading: The study.
    """
    lost = unexplained(reading.declared_allergens, found.holds)
    if declared_of(version, reading):
        return replace(found, holds=tuple(sorted({*found.holds, *lost})))
    if version.origin.kind is not OriginKind.ADAPTED:
        return found
    without = {rule.removeprefix("without-") for rule in version.origin.rules}
    lines = {line.ingredient for layer in version.layers for line in layer.ingredients}
    stays = {one for one, foods in reading.unplaced_allergens.items() if not foods or foods & lines}
    gone = (without | (OF_ANIMALS if "vegan" in without else set())) - stays
    label = "the original’s label"
    known = {one.allergen for one in found.may}
    more = tuple(MayHold(one, (label,)) for one in lost if one not in gone | known)
    return replace(found, may=(*found.may, *more))


def _added_sugar(used: Sequence[Ingredient], strangers: Sequence[str]) -> bool | None:
    """Whether sugar is added; None where a figure that would tell is not known, and no other one tells."""
    if any((food.per_100_g.get(Nutrient.ADDED_SUGARS) or 0.0) > 0 for food in used):
        return True
    return None if strangers or lacking(used, [Nutrient.ADDED_SUGARS]) else False


def printed_rows(formula: Formula, reading: StudyReading) -> tuple[PrintedRow, ...]:
    """The label as it would print for a formula, on the original's basis; per 100 g where that is not known."""
    pantry = reading.pantry
    region, basis = reading.study.region, reading.basis_g or 100.0
    per_100_g = rows_per_100_g(formula, region, pantry)
    declared = {row.row: row.figure for row in reading.rows if row.figure is not None}
    found = []
    for spec in panel_rows(region):
        if spec.id not in per_100_g:
            continue
        known = per_100_g[spec.id]
        value = known * basis / 100 if known is not None else None
        interval = reading.intervals.get(spec.id)
        found.append(
            PrintedRow(
                row=spec.id,
                title=spec.title,
                short=spec.short,
                unit=spec.unit,
                in_sight=spec.id in IN_SIGHT,
                computed=value,
                printed=printed(region, spec.id, value) if value is not None else NOT_KNOWN,
                declared=declared[spec.id].words if spec.id in declared else None,
                declared_low=interval.low if interval is not None else None,
                declared_high=interval.high if interval is not None else None,
                unknown=unknown_rows(formula, spec.id, region, pantry),
                reached=_inside(value, interval.low, interval.high) if interval is not None else None,
            )
        )
    return tuple(found)


def _inside(value: float | None, low: float, high: float) -> bool | None:
    return None if value is None else low - _EXACT <= value <= high + _EXACT


def what_holds_back(
    found: Overview,
    reading: StudyReading,
    limits: Sequence[PieceLimit] = (),
    should_stop: Callable[[], bool] = lambda: False,
) -> Outcome:
    """The version solved with every layer free, and what stops the targets that even so are missed.

    Args:
        found: The version from all sides.
        reading: The study.
        limits: What the piece must hold to as well.
        should_stop: Asked before each solving.

    Raises:
        Stopped: should_stop said so.
    """
    free = [layer.layer_id for layer in found.formula.layers]
    missed = [target.id for target in found.targets if not target.reached]
    room = Room(free=free, widened=True, about=missed, limits=limits, should_stop=should_stop)
    return solve(found.formula, found.targets, room, reading)


def serving_g(reading: StudyReading, formula: Formula) -> float:
    """What a serving weighs [g]: the label's, else a piece; 0 where neither weighs anything."""
    serving = reading.serving.value
    return serving if serving is not None else formula.piece_g


def _original(reading: StudyReading) -> Mapping[RowId, float] | None:
    """The original's declared rows for 100 g."""
    basis = reading.basis_g
    if basis is None or not reading.intervals:
        return None
    return {row: (interval.low + interval.high) / 2 * 100 / basis for row, interval in reading.intervals.items()}
