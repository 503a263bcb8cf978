"""What tests of formulating share: short ways to write layers, and a checker that knows nothing of the solver."""

from collections.abc import Sequence

from fern_match.core.batch import WeighedOut, scaled, weighed_out
from fern_match.core.data import rows
from fern_match.core.families import Families, Role
from fern_match.core.food import Nutrient, Pantry, standard_pantry
from fern_match.core.formulate import (
    Formula,
    FormulaIngredient,
    FormulaLayer,
    PieceLimit,
    Property,
    Target,
    Version,
    read_targets,
    targets_of,
)
from fern_match.core.measures import Measures
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

PANTRY = standard_pantry()
READING = StudyReading(Study(name="bench"), PANTRY)
FAMILIES = READING.families
_STRENGTHS = {
    (row["role"], row["ingredient"]): float(row["share_of_usual"]) for row in rows("strengths.csv")
}  # beside the usual one
_WORK = {(row["role"], row["ingredient"]): float(row["factor"]) for row in rows("work.csv")}  # what gels and what foams


def line(key: str, grams: float = 0.0, role: str = "", **more: object) -> FormulaIngredient:
    """One line."""
    return FormulaIngredient(ingredient_id=key, name=PANTRY[key].name, role=role, grams=grams, **more)  # type: ignore[arg-type]


def layer(key: str, family: str, *lines: FormulaIngredient, lost: float = 0.0) -> FormulaLayer:
    """One layer."""
    return FormulaLayer(layer_id=key, name=key.capitalize(), family=family, water_lost_g=lost, ingredients=lines)


def formula(*layers: FormulaLayer) -> Formula:
    """A formula."""
    return Formula(name="bench", layers=layers)


def held_to(what: Formula, reading: StudyReading = READING) -> tuple[Target, ...]:
    """Targets that hold to what a formula gives."""
    return read_targets(Version(id="v", name="V", targets=targets_of(what, PANTRY)), what, reading)


def wanted(key: str, layer_id: str | None, what: Property, low: float, high: float, weight: float = 3.0) -> Target:
    """One target."""
    middle, title = (low + high) / 2, what.value.capitalize()
    whose = layer_id.capitalize() if layer_id else "whole piece"
    band = {"low": low, "wanted": middle, "high": high, "weight": weight}
    return Target(id=key, name=key, title=title, whose=whose, unit="g", layer_id=layer_id, what=what, **band)


def weighed(
    whole: Formula,
    targets: Sequence[Target],
    pieces: int,
    step: float | None,
    measures: Measures = Measures.METRIC,
    *,
    reading: StudyReading = READING,
    limits: Sequence[PieceLimit] = (),
) -> WeighedOut:
    """A version weighed out with nothing that stays on tools."""
    batch = scaled(whole, pieces, {layer.layer_id: 0.0 for layer in whole.layers}, reading.pantry, reading.families)
    return weighed_out(batch, whole, targets, reading, scale_step_g=step, measures=measures, limits=limits)


def caramel() -> FormulaLayer:
    """A soft caramel of 8 g from sugar, syrup, cream and butter."""
    return layer(
        "caramel",
        "soft-caramel",
        line("white-sugar", 3.0, "sweet-bulk"),
        line("glucose-syrup-42de", 3.0, "doctor-sugar"),
        line("heavy-cream", 2.6, "dairy-liquid"),
        line("butter-unsalted", 0.9, "fat"),
        line("whole-milk", 0.45, "dairy-liquid"),
        line("fine-salt", 0.05, "salt"),
        lost=2.0,
    )


def filling() -> FormulaLayer:
    """A peanut filling of 12 g."""
    return layer(
        "filling",
        "peanut-filling",
        line("peanut-butter-natural", 6.0, "nut-solids"),
        line("icing-sugar", 4.0, "sweet-bulk"),
        line("plain-biscuit-crumbs", 1.2, "crumb"),
        line("butter-unsalted", 0.8, "fat"),
        line("fine-salt", 0.05, "salt"),
    )


def ganache() -> FormulaLayer:
    """A dark ganache of 10 g."""
    return layer(
        "ganache",
        "ganache-dark",
        line("dark-chocolate-55", 6.0, "chocolate"),
        line("heavy-cream", 3.4, "dairy-liquid"),
        line("butter-unsalted", 0.6, "fat"),
    )


def base() -> FormulaLayer:
    """A short base of 9.45 g."""
    return layer(
        "base",
        "short-base",
        line("butter-unsalted", 3.4, "fat"),
        line("white-sugar", 1.8, "sweet-bulk"),
        line("plain-wheat-flour", 5.2, "flour"),
        lost=0.95,
    )


def coat(key: str = "dark-chocolate-70", family: str = "dark-coat", grams: float = 6.0) -> FormulaLayer:
    """A coat of one chocolate."""
    return layer("coat", family, line(key, grams, "chocolate"))


def recomputed(one: FormulaLayer, column: Nutrient, pantry: Pantry = PANTRY) -> float:
    """A nutrient of a layer from the composition table and the amounts alone [g]; water less what was driven off."""
    total = 0.0
    for entry in one.ingredients:
        value = pantry.by_id[entry.ingredient_id].per_100_g[column]
        total += entry.grams * (value or 0.0) / 100
    return total - one.water_lost_g if column is Nutrient.WATER else total


def _strength(role: Role, key: str) -> float:
    """How much of an ingredient does the work of a role's usual one."""
    own, usual = _WORK.get((role.name, key)), _WORK.get((role.name, role.default_id))
    return usual / own if own and usual else _STRENGTHS.get((role.name, key), 1.0)


def breaks(one: FormulaLayer, finished_g: float, families: Families = FAMILIES, room: float = 1e-6) -> Sequence[str]:
    """What a layer breaks of its family's windows and of its weight, found without the solver."""
    family = families[one.family]
    added = sum(entry.grams for entry in one.ingredients)
    found = []
    if abs(added - one.water_lost_g - finished_g) > room:
        found.append(f"weighs {added - one.water_lost_g}, not {finished_g}")
    if one.water_lost_g > family.water_lost_most * added + room:
        found.append("drives off more than its process can")
    water = recomputed(one, Nutrient.WATER)
    if not family.moisture_low * finished_g - room <= water <= family.moisture_high * finished_g + room:
        found.append(f"holds {water / finished_g:.3f} water")
    for role in family.roles:
        serving = [entry.grams / _strength(role, entry.ingredient_id) for entry in one.ingredients if entry.role == role.name]
        if serving and len(serving) < len(one.ingredients):
            share = sum(serving) / added
            least = 0.0 if role.optional else role.least
            if not least - room <= share <= role.most + room:
                found.append(f"{role.name} is {share:.4f}")
    if any(entry.grams < -room for entry in one.ingredients):
        found.append("less than nothing")
    return found
