"""An ingredient of one's own, from the panel on its packet: for a name that the pantry does not hold.

Worked example, an EU packet per 100 g: "fat 12, carbohydrate 30, of which sugars 5, fibre 15, protein 45, salt 0.05" of a nut
flour leaves 100 - 12 - 30 - 15 - 45 - 0.05 = -2 g for water, within the packet's rounding: it is taken as dry.
"""

import re
from collections.abc import Collection, Mapping
from dataclasses import dataclass

from fern_match.core.errors import CoreError
from fern_match.core.food.ingredients import Ingredient, Pantry
from fern_match.core.food.nutrients import Nutrient
from fern_match.core.label.rows import ROW_NUTRIENT, Basis, Region, RowId, panel_rows
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import LabelText, Study

OWN_PREFIX = "own-"
PACKET = "its packet"
_ASKED = frozenset(
    {
        RowId.FAT,
        RowId.SATURATES,
        RowId.CARBOHYDRATE,
        RowId.FIBRE,
        RowId.SUGARS,
        RowId.POLYOLS,
        RowId.PROTEIN,
        RowId.SALT,
        RowId.SODIUM,
    }
)
_ROOM_G, _ROUNDED_G = 3.0, 0.5  # what figures that are meant may be beyond 100 g, and how far each is rounded
_MAIN = 3  # figures that are added up
_SODIUM_MG_PER_SALT_G = 400.0


@dataclass(eq=False)
class NotAnIngredient(CoreError):
    """Figures that no food has."""

    field: str
    sentence: str

    def __str__(self) -> str:
        return self.sentence


def packet_rows(region: Region) -> tuple[RowId, ...]:
    """The rows of a packet's panel that are asked for, as they are printed in a region."""
    return tuple(spec.id for spec in panel_rows(region) if spec.id in _ASKED)


def own_ingredient(name: str, region: Region, rows: Mapping[RowId, str], serving: str, taken: Collection[str]) -> Ingredient:
    """An ingredient from a packet's panel; what the packet does not say counts as none, the rest as water.

    Args:
        name: What it is called.
        region: Whose packet it is: what its rows mean.
        rows: Figures as typed; empty fields may be left out.
        serving: The serving they are for, as typed; empty where they are for 100 g.
        taken: Ids that other ingredients have.

    Raises:
        NotAnIngredient: a figure is not one, or they cannot be true together.

    >>> own_ingredient("Peanut flour", Region.EU, {RowId.FAT: "12", RowId.PROTEIN: "50"}, "", ()).id
    'own-peanut-flour'
    """
    if not name.strip():
        raise NotAnIngredient("name", "Say what it is called.")
    basis = Basis.SERVING if serving.strip() else Basis.PER_100_G
    label = LabelText(serving=serving, basis=basis, rows=rows)
    reading = StudyReading(Study(name=name, region=region, label=label), Pantry({}))
    if reading.basis_g is None:
        raise NotAnIngredient("serving", reading.serving.problem or "Say what a serving weighs.")
    wrong = next((row for row in reading.rows if row.problem), None)
    if wrong is not None and wrong.problem is not None:
        raise NotAnIngredient(wrong.row, wrong.problem)
    per_100_g = {row.row: row.figure.value * 100.0 / reading.basis_g for row in reading.rows if row.figure is not None}
    figures = _figures(per_100_g, region)
    _check(per_100_g, figures, region, _ROUNDED_G * 100.0 / reading.basis_g)
    return Ingredient(
        id=_fresh_id(name, taken),
        name=name.strip()[:120],
        category="own",
        per_100_g=figures,
        note="From the panel on its packet; what the packet does not say counts as none, what is left as water.",
        origins={nutrient: PACKET for row in per_100_g if (nutrient := ROW_NUTRIENT.get(row)) is not None},
    )


def _figures(per_100_g: Mapping[RowId, float], region: Region) -> dict[Nutrient, float | None]:
    """A whole composition [per 100 g]."""
    found: dict[Nutrient, float] = dict.fromkeys(Nutrient, 0.0)
    found |= {ROW_NUTRIENT[row]: value for row, value in per_100_g.items() if row in ROW_NUTRIENT}
    if not region.counts_fibre:
        found[Nutrient.CARBOHYDRATE] += found[Nutrient.FIBRE]
    if RowId.SALT in per_100_g:
        found[Nutrient.SODIUM] = per_100_g[RowId.SALT] * _SODIUM_MG_PER_SALT_G
    found[Nutrient.SUCROSE] = found[Nutrient.ADDED_SUGARS] = found[Nutrient.SUGARS]
    found[Nutrient.ASH] = found[Nutrient.SODIUM] / _SODIUM_MG_PER_SALT_G
    solids = sum(found[one] for one in (Nutrient.FAT, Nutrient.CARBOHYDRATE, Nutrient.PROTEIN, Nutrient.ASH))
    found[Nutrient.WATER] = max(0.0, 100.0 - solids)
    return dict(found)


def _check(per_100_g: Mapping[RowId, float], figures: Mapping[Nutrient, float | None], region: Region, rounded_g: float) -> None:
    """That a food can have these figures, rounded as they are [g per 100 g]."""
    for spec in panel_rows(region):
        part, whole = per_100_g.get(spec.id, 0.0), per_100_g.get(spec.part_of, 0.0) if spec.part_of else None
        if whole is not None and part > whole + 2 * rounded_g:
            title = spec.title.removeprefix("of which ").capitalize()
            raise NotAnIngredient(spec.id, f"{title} ({part:.3g} g in 100 g) cannot exceed what it is part of ({whole:.3g} g).")
    total = sum(figures[one] or 0.0 for one in (Nutrient.FAT, Nutrient.CARBOHYDRATE, Nutrient.PROTEIN, Nutrient.ASH))
    if total > 100.0 + _ROOM_G + _MAIN * rounded_g:
        raise NotAnIngredient("fat", f"The figures add up to {total:.0f} g in 100 g. Are they for the serving that is typed?")
    if total <= 0:
        raise NotAnIngredient("fat", "Type at least one figure from the packet.")


def _fresh_id(name: str, taken: Collection[str]) -> str:
    stem = OWN_PREFIX + (re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:50] or "ingredient")
    number = 1
    while (fresh := stem if number == 1 else f"{stem}-{number}") in taken:
        number += 1
    return fresh
