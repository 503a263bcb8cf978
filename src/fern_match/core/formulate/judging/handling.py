"""Whether a layer can be worked as it is to be: emulsions, and shaping by hand, bag, press or pan."""

from collections.abc import Mapping
from functools import cache

from fern_match.core.data import rows
from fern_match.core.families import Family
from fern_match.core.food import Pantry
from fern_match.core.formulate.judging.notes import Note, Tone
from fern_match.core.formulate.record.formula import FormulaLayer
from fern_match.core.formulate.record.properties import amount_of
from fern_match.core.formulate.record.version import Property, Shaping, Version


def _measure(layer: FormulaLayer, measure: str, pantry: Pantry) -> float:
    """A share of the finished layer [%]."""
    if measure == "sugar and crumb":
        dry = sum(
            one.grams
            for one in layer.ingredients
            if one.ingredient_id in pantry
            and (pantry[one.ingredient_id].category in {"sugar", "biscuit-crumb", "flour-starch", "polyol", "rare-sugar"})
        )
        return 100 * dry / layer.finished_g
    what = {"fat": Property.FAT, "water": Property.WATER, "sugars": Property.SUGARS, "cocoa": Property.COCOA}[measure]
    return 100 * amount_of([layer], what, pantry) / layer.finished_g


def ganache_notes(layer: FormulaLayer, family: Family | None, pantry: Pantry) -> list[Note]:
    """Whether an emulsion lies where ganaches are stable."""
    if family is None:
        return []
    outside = []
    figures = []
    for row in rows("ganache_windows.csv"):
        if family.id not in row["families"].split("|"):
            continue
        got, low, high = _measure(layer, row["measure"], pantry), float(row["low_pct"]), float(row["high_pct"])
        figures.append(f"{row['measure']} {got:.1f} %")
        if not low <= got <= high:
            outside.append(
                f"{row['measure']} {got:.1f} %, where {low:g} to {high:g} % holds: "
                f"it {row['below'] if got < low else row['above']}"
            )
    if not figures:
        return []
    fat, water = (_measure(layer, what, pantry) for what in ("fat", "water"))
    most = 2.6 if family.id == "ganache-milk-white" else 2.2
    if water > 0 and fat / water > most:
        outside.append(f"{fat / water:.1f} parts of fat to one of water, where at most {most:g} hold: it splits")
    if outside:
        return [
            Note(
                topic="Emulsion",
                sentence=f"{layer.name} lies outside what a stable ganache has: {'; '.join(outside)}.",
                help="More cream where water is short, more chocolate where it is long; warm to 35 to 40 °C and blend to repair.",
                tone=Tone.FAILS if len(outside) > 1 else Tone.LOOK,
                layer_id=layer.layer_id,
            )
        ]
    return [Note(topic="Emulsion", sentence=f"{layer.name} is a stable ganache: {', '.join(figures)}.", layer_id=layer.layer_id)]


def shaping_of(version: Version, layer: FormulaLayer) -> Shaping | None:
    """How a layer is shaped: as the version says, else as its family usually is."""
    own = next((one.shaping for one in version.layers if one.id == layer.layer_id), None)
    return own or usual_shaping(layer.family)


def usual_shaping(family_id: str) -> Shaping | None:
    """How a family is usually shaped; None where nothing is shaped."""
    return _usual_shapings().get(family_id)


def shapings(family_id: str) -> tuple[Shaping, ...]:
    """The ways of shaping that a family's handling is known for."""
    return tuple(Shaping(row["shaping"]) for row in rows("handling.csv") if family_id in row["families"].split("|"))


def handling_notes(layer: FormulaLayer, shaping: Shaping | None, pantry: Pantry) -> list[Note]:
    """Whether a layer can be shaped as it is to be, at the temperature it is worked at."""
    for row in rows("handling.csv"):
        if shaping is None or layer.family not in row["families"].split("|") or row["shaping"] != shaping.value:
            continue
        got, low, high = _measure(layer, row["measure"], pantry), float(row["low_pct"]), float(row["high_pct"])
        said = f"{layer.name}, to {shaping.value} at {row['at']}: {row['measure']} {got:.0f} %, where {low:g} to {high:g} % works"
        if low <= got <= high:
            return [Note(topic="Handling", sentence=f"{said}.", layer_id=layer.layer_id)]
        how, change = (row["below"], "more") if got < low else (row["above"], "less")
        grams = abs((low if got < low else high) - got) / 100 * layer.finished_g
        return [
            Note(
                topic="Handling",
                sentence=f"{said}. As it is, it {how}.",
                help=f"About {grams:.2g} g {change} {row['measure']} a piece, or another way of shaping.",
                tone=Tone.LOOK,
                layer_id=layer.layer_id,
            )
        ]
    return []


@cache
def _usual_shapings() -> Mapping[str, Shaping]:
    return {row["family"]: Shaping(row["shaping"]) for row in rows("shaping_usual.csv")}
