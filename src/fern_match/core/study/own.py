"""An ingredient of one's own, from the panel on its packet: for a name that the pantry does not hold.

Worked example, an EU packet per 100 g: "fat 12, carbohydrate 30, of which sugars 5, fibre 15, protein 45, salt 0.05" of a nut
flour leaves 100 - 12 - 30 - 15 - 45 - 0.05 = -2 g for water, within the packet's rounding: it is taken as dry. Without its fibre
row neither fibre nor water is known, and the carbohydrate is what it says: without fibre.
"""

from collections.abc import Collection, Mapping

from fern_match.core.food.ingredients import Ingredient, Pantry
from fern_match.core.food.nutrients import FIBRE_APART, Nutrient, salt_g, sodium_mg
from fern_match.core.food.sound import NotSound
from fern_match.core.label.rows import ROW_NUTRIENT, Basis, Region, RowId, panel_rows
from fern_match.core.record import fresh_id
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


def packet_rows(region: Region) -> tuple[RowId, ...]:
    """The rows of a packet's panel that are asked for, as they are printed in a region."""
    return tuple(spec.id for spec in panel_rows(region) if spec.id in _ASKED)


def own_ingredient(name: str, region: Region, rows: Mapping[RowId, str], serving: str, taken: Collection[str]) -> Ingredient:
    """An ingredient from a packet's panel; what the packet does not say is not known. What is left of 100 g is water.

    Args:
        name: What it is called.
        region: Whose packet it is: what its rows mean.
        rows: Figures as typed; empty fields may be left out.
        serving: The serving they are for, as typed; empty where they are for 100 g.
        taken: Ids that other ingredients have.

    Raises:
        NotSound: a figure is not one, or they cannot be true together.

    >>> own_ingredient("Peanut flour", Region.EU, {RowId.FAT: "12", RowId.PROTEIN: "50"}, "", ()).id
    'own-peanut-flour'
    """
    if not name.strip():
        raise NotSound("name", "Say what it is called.")
    basis = Basis.SERVING if serving.strip() else Basis.PER_100_G
    label = LabelText(serving=serving, basis=basis, rows=rows)
    reading = StudyReading(Study(name=name, region=region, label=label), Pantry({}))
    if reading.basis_g is None:
        raise NotSound("serving", reading.serving.problem or "Say what a serving weighs.")
    wrong = next((row for row in reading.rows if row.problem), None)
    if wrong is not None and wrong.problem is not None:
        raise NotSound(wrong.row, wrong.problem)
    per_100_g = {row.row: row.figure.value * 100.0 / reading.basis_g for row in reading.rows if row.figure is not None}
    figures = _figures(per_100_g, region)
    _check(per_100_g, figures, region, _ROUNDED_G * 100.0 / reading.basis_g)
    return Ingredient(
        id=fresh_id(f"{OWN_PREFIX}{name}", taken),
        name=name.strip()[:120],
        category="own",
        per_100_g=figures,
        note="From the panel on its packet: what the packet does not say is not known.",
        origins={nutrient: _origin(nutrient, figures, region) for nutrient in figures if figures[nutrient] is not None},
    )


def _origin(nutrient: Nutrient, figures: Mapping[Nutrient, float | None], region: Region) -> str:
    """Where a figure comes from; a carbohydrate that leaves an unknown fibre out says so."""
    apart = nutrient is Nutrient.CARBOHYDRATE and not region.counts_fibre and figures[Nutrient.FIBRE] is None
    return FIBRE_APART if apart else PACKET


def _figures(per_100_g: Mapping[RowId, float], region: Region) -> dict[Nutrient, float | None]:
    """What the panel tells of a composition [per 100 g]; what it is silent on is not known.

    Water is what is left of 100 g, once fat, carbohydrate, fibre and protein are all known. Ash is at least the salt.
    """
    found: dict[Nutrient, float | None] = dict.fromkeys(Nutrient)
    found |= {ROW_NUTRIENT[row]: value for row, value in per_100_g.items() if row in ROW_NUTRIENT}
    fibre, carbohydrate = found[Nutrient.FIBRE], found[Nutrient.CARBOHYDRATE]
    if not region.counts_fibre and carbohydrate is not None and fibre is not None:
        found[Nutrient.CARBOHYDRATE] = carbohydrate + fibre
    if RowId.SALT in per_100_g:
        found[Nutrient.SODIUM] = sodium_mg(per_100_g[RowId.SALT])
    sodium = found[Nutrient.SODIUM]
    found[Nutrient.ASH] = salt_g(sodium) if sodium is not None else None
    main = [found[one] for one in (Nutrient.FAT, Nutrient.CARBOHYDRATE, Nutrient.PROTEIN, Nutrient.ASH)]
    known = [one for one in main if one is not None]
    if len(known) == len(main) and (fibre is not None or region.counts_fibre):
        found[Nutrient.WATER] = max(0.0, 100.0 - sum(known))
    return found


def _check(per_100_g: Mapping[RowId, float], figures: Mapping[Nutrient, float | None], region: Region, rounded_g: float) -> None:
    """That a food can have these figures, rounded as they are [g per 100 g]."""
    for spec in panel_rows(region):
        part, whole = per_100_g.get(spec.id), per_100_g.get(spec.part_of) if spec.part_of else None
        if part is not None and whole is not None and part > whole + 2 * rounded_g:
            title = spec.title.removeprefix("of which ").capitalize()
            raise NotSound(spec.id, f"{title} ({part:.3g} g in 100 g) cannot exceed what it is part of ({whole:.3g} g).")
    total = sum(figures[one] or 0.0 for one in (Nutrient.FAT, Nutrient.CARBOHYDRATE, Nutrient.PROTEIN, Nutrient.ASH))
    if total > 100.0 + _ROOM_G + _MAIN * rounded_g:
        raise NotSound("fat", f"The figures add up to {total:.0f} g in 100 g. Are they for the serving that is typed?")
    if total <= 0:
        raise NotSound("fat", "Type at least one figure from the packet.")
