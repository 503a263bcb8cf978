"""What a version is held to: its own targets as read, and the rows of the original's label.

Worked example: fat 2.31 g of a caramel within 0.12 g is reached from 2.19 to 2.43 g; a label that says 31 g fat per 100 g stands
for 30.5 to 31.5, so a piece of 42 g is held to 12.81 to 13.23 g.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.food import Ingredient, Pantry
from fern_match.core.formulate.record.formula import Formula, FormulaLayer, written_grams
from fern_match.core.formulate.record.properties import (
    NOTICED,
    UNITS,
    amount_of,
    not_known,
    per_gram,
    row_per_gram,
    solid_fat_counts,
    unknown_rows,
)
from fern_match.core.formulate.record.version import OriginKind, Property, Version, VersionTarget
from fern_match.core.formulate.solving.prices import price, weight_of_target
from fern_match.core.label.rows import IN_SIGHT, RowId, panel_rows
from fern_match.core.measures import Comma, read_grams
from fern_match.core.study.reading import StudyReading

_OF_LAYERS = (
    Property.MASS,
    Property.WATER,
    Property.FAT,
    Property.SWEETNESS,
    Property.PROTEIN,
    Property.SALT,
    Property.COCOA,
    Property.MILK_SOLIDS,
    Property.SOLID_FAT,
)
_LEAST_SHARE = 0.004  # of its layer [g/g]: less of a thing is no target
_REACHED = 1e-6
WHOLE_PIECE, BY_LABEL = "whole piece", "by the label"
_EMPTY = "Write how much is wanted, such as 2.5; or take it out with ×."
_INSIDE = 0.04  # of a declared interval that is kept away from at either end


@dataclass(frozen=True, slots=True, kw_only=True)
class Target:
    """One target for one piece, as read, in its unit."""

    id: str
    name: str  # what it is about, and of what: "Fat, Caramel"
    title: str  # what it is about: "Fat"
    whose: str  # of what: "Caramel", "whole piece", "by the label"
    unit: str
    layer_id: str | None  # of the whole piece where None
    what: Property | RowId
    low: float
    wanted: float
    high: float
    weight: float
    got: float = 0.0  # as far as it is known
    unknown: tuple[str, ...] = ()  # lines of which it is not known what they add to it
    problem: str | None = None
    tolerance_problem: str | None = None
    counts: bool = True  # whether its figure was read; else it holds to nothing

    @property
    def gap(self) -> float:
        """How far what is got lies outside; negative below; nothing where the target was not read."""
        if not self.counts:
            return 0.0
        return min(0.0, self.got - self.low) + max(0.0, self.got - self.high)

    @property
    def tolerance(self) -> float:
        """Half of the band, never nothing."""
        return max((self.high - self.low) / 2, 0.002 * abs(self.wanted), 1e-4)

    @property
    def reached(self) -> bool:
        """Whether it is known to lie in the band."""
        return self.counts and not self.unknown and abs(self.gap) <= _REACHED * max(1.0, abs(self.wanted))


def read_targets(version: Version, formula: Formula, reading: StudyReading) -> tuple[Target, ...]:
    """All targets of a version, its own and the label's, with what its amounts give now.

    An adapted version is not held to the label of an original that it must differ from.
    """
    names = {layer.layer_id: layer.name for layer in formula.layers}
    own = [
        target
        for entry in version.targets
        if entry.layer is None or entry.layer in names
        for target in [_read(entry, names, reading.comma)]
    ]
    found = [*own, *label_targets(formula, reading, own)] if held_to_label(version) else own
    return tuple(with_got(target, formula, reading) for target in found)


def with_got(target: Target, formula: Formula, reading: StudyReading) -> Target:
    """A target with what a formula gives."""
    pantry = reading.pantry
    layers = [layer for layer in formula.layers if target.layer_id in {None, layer.layer_id}]
    if isinstance(target.what, Property):
        unknown = not_known(layers, target.what, pantry)
        return replace(target, got=amount_of(layers, target.what, pantry), unknown=unknown)
    weigh = weigher(target.what, reading)
    got = sum(
        one.grams * weigh(pantry[one.ingredient_id])
        for layer in layers
        for one in layer.ingredients
        if one.ingredient_id in pantry
    )
    unknown = unknown_rows(replace(formula, layers=tuple(layers)), target.what, reading.study.region, pantry)
    return replace(target, got=got, unknown=unknown)


def weigher(what: Property | RowId, reading: StudyReading) -> Callable[[Ingredient], float]:
    """What a gram of an ingredient adds to a target."""
    if isinstance(what, Property):
        return lambda food: per_gram(food, what)
    return lambda food: row_per_gram(food, what, reading.study.region)


def label_targets(formula: Formula, reading: StudyReading, own: Sequence[Target]) -> list[Target]:
    """The label's declared rows for one piece of the weight it is to have."""
    piece_g = sum(
        next(
            (one.wanted for one in own if one.layer_id == layer.layer_id and one.what is Property.MASS and one.counts),
            layer.finished_g,
        )
        for layer in formula.layers
    )
    basis = reading.basis_g
    if basis is None or piece_g <= 0:
        return []
    found = []
    for spec in panel_rows(reading.study.region):
        interval = reading.intervals.get(spec.id)
        if interval is None:
            continue
        inside = _INSIDE * (interval.high - interval.low)  # so that what is printed does not hang on the last digit
        low = (interval.low + inside if interval.low > 0 else 0.0) * piece_g / basis
        high = (interval.high - inside) * piece_g / basis
        found.append(
            Target(
                id=f"label.{spec.id}",
                name=f"{spec.short}, by the label",
                title=spec.short,
                whose=BY_LABEL,
                unit=spec.unit,
                layer_id=None,
                what=spec.id,
                low=low,
                wanted=(low + high) / 2,
                high=high,
                weight=price("label row in sight" if spec.id in IN_SIGHT else "label row beside"),
            )
        )
    return found


def targets_of(formula: Formula, pantry: Pantry) -> tuple[VersionTarget, ...]:
    """Targets that hold a version to what a formula gives, within what a person would notice."""
    found = [_of(layer, what, pantry) for layer in formula.layers for what in _OF_LAYERS]
    sweet = amount_of(formula.layers, Property.SWEETNESS, pantry)
    sweet = 0.0 if not_known(formula.layers, Property.SWEETNESS, pantry) else sweet
    whole = [
        VersionTarget(id="piece-sweetness", property=Property.SWEETNESS, wanted=written(sweet), tolerance=written(0.02 * sweet))
    ]
    return tuple(one for one in (*found, *(whole if sweet > 0 else ())) if one is not None)


def _of(layer: FormulaLayer, what: Property, pantry: Pantry) -> VersionTarget | None:
    got, finished = amount_of([layer], what, pantry), layer.finished_g
    if finished <= 0 or (what is Property.SOLID_FAT and not solid_fat_counts([layer], pantry)):
        return None
    least = 0.0005 if what is Property.SALT else _LEAST_SHARE
    if what is not Property.MASS and (got < least * finished or not_known([layer], what, pantry)):
        return None
    relative, share = NOTICED[what]
    return VersionTarget(
        id=f"{layer.layer_id[:50]}-{what.name.lower().replace('_', '-')}",
        layer=layer.layer_id,
        property=what,
        wanted=written(got),
        tolerance=written(max(relative * got, share * finished)),
    )


def written(grams: float) -> str:
    """A computed target as a field holds it: to a tenth of a milligram.

    Args:
        grams: 0 or more.
    """
    return written_grams(round(grams, 4))


def held_to_label(version: Version) -> bool:
    """Whether a version is to print the original's label: one that was adapted is another thing, held to its own figures."""
    return version.origin.kind is not OriginKind.ADAPTED


def title_of(what: Property) -> str:
    """A property as a row's title."""
    return f"{what.value[0].upper()}{what.value[1:]}"


def _read(entry: VersionTarget, names: Mapping[str, str], comma: Comma) -> Target:
    """A target as read; one whose figure was not read holds to nothing, and says so."""
    wanted, tolerance = (read_grams(typed, comma=comma, zero=True) for typed in (entry.wanted, entry.tolerance))
    whose = names[entry.layer] if entry.layer is not None else WHOLE_PIECE
    title = title_of(entry.property)
    value = wanted.value or 0.0
    band = tolerance.value if tolerance.value is not None else NOTICED[entry.property][0] * value
    weight = weight_of_target(entry.property.value) * (price("of the whole piece") if entry.layer is None else 1.0)
    return Target(
        id=entry.id,
        name=f"{title}, {whose}",
        title=title,
        whose=whose,
        unit=UNITS.get(entry.property, "g"),
        layer_id=entry.layer,
        what=entry.property,
        low=max(0.0, value - band),
        wanted=value,
        high=value + band,
        weight=weight,
        problem=wanted.problem or (_EMPTY if wanted.value is None else None),
        tolerance_problem=tolerance.problem,
        counts=wanted.value is not None,
    )
