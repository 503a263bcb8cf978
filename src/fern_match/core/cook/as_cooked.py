"""What changes where more or less went in than planned: the piece, its sweetness, its label, and how many pieces it gives.

Worked example: 20 g of sugar more in a caramel of 240 g for 24 pieces: 0.83 g more in each, if as many are made of it.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.adapt import holding
from fern_match.core.batch import BatchReading
from fern_match.core.cook.schools import JOIN
from fern_match.core.cook.step import Step
from fern_match.core.formulate import Formula, Overview, overview_of
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures.shown import shown_mass
from fern_match.core.study.reading import StudyReading

_SAME = 0.005


@dataclass(frozen=True, slots=True, kw_only=True)
class Altered:
    """One line of which another amount went in."""

    name: str
    planned_g: float
    went_in_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class AsCooked:
    """A piece as it is with what really went in."""

    altered: tuple[Altered, ...]
    seen: Overview
    piece_g: float
    planned_piece_g: float


def as_cooked(
    amounts: Mapping[tuple[str, str], float], steps: Sequence[Step], read: BatchReading, reading: StudyReading
) -> AsCooked | None:
    """A piece with what really went in; None where all went in as planned.

    Args:
        amounts: By step and line: what went in [g].
        steps: Of the plan.
        read: Its batch.
        reading: The study, with compositions and families.
    """
    factors: dict[tuple[str, str], float] = {}
    altered = []
    for step in steps:
        for use in step.uses:
            went_in = amounts.get((step.id, use.line_id))
            if went_in is None or use.grams <= 0 or abs(went_in / use.grams - 1) < _SAME:
                continue
            layer_id = step.id.partition(JOIN)[0]
            before = factors.get((layer_id, use.line_id), 1.0)
            factors[(layer_id, use.line_id)] = before + use.share * (went_in / use.grams - 1)
            altered.append(Altered(name=use.name, planned_g=use.grams, went_in_g=went_in))
    if not altered or read.batch is None:
        return None
    formula = _with(read.seen.formula, factors)
    seen = overview_of(read.seen.version, formula, reading)
    return AsCooked(altered=tuple(altered), seen=seen, piece_g=formula.piece_g, planned_piece_g=read.seen.formula.piece_g)


def altered_words(found: AsCooked | None, read: BatchReading, reading: StudyReading, kitchen: KitchenReading) -> str:
    """What other amounts do to a piece: its weight, its label, and the rules it was adapted under; empty where none went in.

    Args:
        found: A piece as it was cooked.
        read: Its batch, as planned.
        reading: The study, for its rules.
        kitchen: For its units.
    """
    if found is None:
        return ""
    unit = kitchen.kitchen.mass_unit
    lines = [
        f"{one.name} {shown_mass(one.went_in_g, unit)} in place of {shown_mass(one.planned_g, unit)}" for one in found.altered
    ]
    piece, planned = shown_mass(found.piece_g, unit), shown_mass(found.planned_piece_g, unit)
    before = {row.row: row for row in read.seen.rows}
    changed = [
        f"{row.short} {row.printed} {row.unit} ({before[row.row].printed})"
        for row in found.seen.rows
        if row.row in before and row.in_sight and row.printed != before[row.row].printed
    ]
    label = f"Label: {', '.join(changed)}." if changed else "The label reads the same."
    held = {one.rule: one.broken for one in holding(read.seen.version, read.seen.formula, reading)}
    broken = [
        f"“{one.rule}” no longer holds: {sentence}"
        for one in holding(read.seen.version, found.seen.formula, reading)
        for sentence in one.broken
        if sentence not in held.get(one.rule, ())
    ]
    return " ".join((f"{'; '.join(lines)}: a piece weighs {piece}, {planned} was planned.", label, *broken))


def _with(formula: Formula, factors: Mapping[tuple[str, str], float]) -> Formula:
    layers = tuple(
        replace(
            layer,
            ingredients=tuple(
                replace(one, grams=one.grams * factors.get((layer.layer_id, one.line_id), 1.0)) for one in layer.ingredients
            ),
        )
        for layer in formula.layers
    )
    return replace(formula, layers=layers)
