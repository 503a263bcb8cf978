"""Clues of a version: what its own figures say of a layer, as far as all of its ingredients are known.

Worked example: a caramel of 40 g sucrose and 25 g syrup solids has 25 / 65 = 0.38 of other sugars to hold its grain back; one of
58 and 7 has 0.11, which speaks for “too little syrup” where it came out grainy.
"""

from collections.abc import Callable, Mapping, Sequence

from fern_match.core.families import Family, strength
from fern_match.core.food import Ingredient, Pantry
from fern_match.core.food.tolerance import load_of
from fern_match.core.formulate import (
    Formula,
    FormulaLayer,
    LayerNature,
    Overview,
    Property,
    Version,
    layer_of_family,
    natures,
    read_version,
)
from fern_match.core.formulate.record.properties import amount_of, fat_by_kind, not_known
from fern_match.core.physics.grain import crystals, grained_g
from fern_match.core.physics.water_activity import solutes_per_100_g
from fern_match.core.study.reading import StudyReading
from fern_match.core.trials.ranking import Read
from fern_match.core.trials.tables import ClueRow, clues

_OF_CHOCOLATE = frozenset({"cocoa butter", "milk fat"})  # kinds of fat
_POWDERS = frozenset({"flour-starch", "biscuit-crumb", "protein", "cocoa", "fibre"})
_DRY_SUGAR = ("icing", "powder")
_ERROR = 0.05  # of a figure that is worked out from tables, relative (approximate)
_REFERENCE_G = 100.0
_GANACHE, _SOME_WATER = "ganache", 0.02
_OF_ITS_KIND = frozenset({"solid_fat", "milk_solids", "lactose", "dry_share", "doctor", "salt"})  # what is usual goes by family
_ALL_ALIKE = frozenset({"coat_fat", "foreign_fat", "fat_water", "gel"})


def recipe_clues(
    seen: Overview, layer: FormulaLayer, neighbours: Sequence[FormulaLayer], reading: StudyReading
) -> Mapping[str, Read]:
    """What a version's figures say of one of its layers; a figure that rests on something unknown is not there.

    Args:
        seen: The version from all sides, as it was made.
        layer: Of its formula.
        neighbours: That lie on it or under it.
        reading: The study, with compositions and families.
    """
    if layer.finished_g <= 0:
        return {}
    family, known = reading.families.by_id.get(layer.family), {one.layer_id: one for one in seen.natures}
    found = _figures(layer, family, reading.pantry)
    nature = known.get(layer.layer_id)
    if nature is not None:
        found |= _of_nature(nature, [known[one.layer_id] for one in neighbours if one.layer_id in known])
    kind = _of_kind(family, reading) if _OF_ITS_KIND & set(found) else {}
    return {key: _read(key, value, kind.get(key)) for key, value in found.items()}


def inside_clues(seen: Overview, inner: Sequence[FormulaLayer], reading: StudyReading) -> Mapping[str, Read]:
    """What a coat meets from inside: the dampest centre, and the one with the softest fat.

    Args:
        seen: The version from all sides, as it was made.
        inner: The layers inside the coat.
        reading: The study, with compositions and families.
    """
    several = [recipe_clues(seen, layer, (), reading) for layer in inner]
    damp = [one["aw"] for one in several if "aw" in one]
    soft = [one["solid_fat"] for one in several if "solid_fat" in one]
    found = {"aw": max(damp, key=lambda one: one.value)} if damp else {}
    return found | ({"solid_fat": min(soft, key=lambda one: one.value)} if soft else {})


def _figures(layer: FormulaLayer, family: Family | None, pantry: Pantry) -> dict[str, float]:
    found: dict[str, float] = {}
    for make in (_of_sugars, _of_fats, _of_the_rest):
        found |= make(layer, family, pantry)
    return found


def _of_kind(family: Family | None, reading: StudyReading) -> dict[str, float]:
    """What a layer of a family has by its working ratio, of what differs from kind to kind."""
    usual = _usual(family, reading.pantry)
    if usual is None:
        return {}
    nature = natures(Formula(name="usual", layers=(usual,)), reading.pantry, reading.families)
    found = _figures(usual, family, reading.pantry) | _of_nature(nature[0], ())
    return {key: value for key, value in found.items() if key in _OF_ITS_KIND}


def _read(clue: str, value: float, of_kind: float | None) -> Read:
    """A figure as causes read it: where it differs from kind to kind, as far from the clue's usual as from that of its kind."""
    row = clues()[clue]
    usual = of_kind if of_kind is not None else row.usual
    told = of_kind if of_kind is not None else row.usual if clue in _ALL_ALIKE else None
    words = f"{row.words}: {_shown(value, row)}" + (f", usual {_shown(told, row)}" if told else "")
    return Read(clue=clue, value=value - usual + row.usual, error=abs(value) * _ERROR, words=words)


def _shown(value: float, row: ClueRow) -> str:
    if row.unit == "g/g" and row.usual < 1:
        return f"{100 * value:.0f} %"
    unit = f" {row.unit}" if row.unit not in {"g/g", "a_w", "doses"} else ""
    return f"{value:.2g}{unit}" if abs(value) < 10 else f"{value:.0f}{unit}"


def _of_sugars(layer: FormulaLayer, _: Family | None, pantry: Pantry) -> dict[str, float]:
    if not_known([layer], Property.SUGARS, pantry) or not_known([layer], Property.WATER, pantry):
        return {}
    dissolved = _sum(layer, pantry, solutes_per_100_g)
    water = amount_of([layer], Property.WATER, pantry)
    sugars = amount_of([layer], Property.SUGARS, pantry)
    found = {}
    if sugars > 0:
        found["lactose"] = dissolved.get("lactose", 0.0) / sugars
    grained = grained_g(dissolved, water)
    polyols = crystals()
    if any(name in polyols for name in dissolved):
        found["crystal_polyol"] = sum(grained.values()) / layer.finished_g
        found["cooling"] = -sum(grams * abs(polyols[name].cools_kj_kg) for name, grams in grained.items()) / layer.finished_g
    return found


def _of_fats(layer: FormulaLayer, family: Family | None, pantry: Pantry) -> dict[str, float]:
    if not_known([layer], Property.FAT, pantry):
        return {}
    fat = amount_of([layer], Property.FAT, pantry)
    found = {}
    if family is not None and family.place == "coat":
        kinds = fat_by_kind([layer], pantry)
        found["coat_fat"] = 100 * fat / layer.finished_g
        if fat > 0:
            own = sum(grams for kind, grams in kinds.items() if kind in _OF_CHOCOLATE)
            found["foreign_fat"] = 100 * max(0.0, 1 - own / fat)
    usual = _usual(family, pantry)
    if usual is not None and not not_known([usual], Property.FAT, pantry):
        share = amount_of([usual], Property.FAT, pantry) / usual.finished_g
        found["fat_off"] = 100 * (fat / layer.finished_g - share)
    if family is not None and _GANACHE in family.sorts and not not_known([layer], Property.WATER, pantry):
        water = amount_of([layer], Property.WATER, pantry)
        if water > _SOME_WATER * layer.finished_g:
            found["fat_water"] = fat / water
    return found


def _of_the_rest(layer: FormulaLayer, family: Family | None, pantry: Pantry) -> dict[str, float]:
    found = {}
    for clue, what in (("milk_solids", Property.MILK_SOLIDS), ("salt", Property.SALT)):
        if not not_known([layer], what, pantry):
            found[clue] = 100 * amount_of([layer], what, pantry) / layer.finished_g
    usual = _usual(family, pantry)
    if usual is not None and not not_known([layer, usual], Property.WATER, pantry):
        shares = [amount_of([one], Property.WATER, pantry) / one.finished_g for one in (layer, usual)]
        found["water_off"] = 100 * (shares[0] - shares[1])
    gels = _gel(layer, family)
    if gels is not None:
        found["gel"] = gels
    foods = [(one, pantry.by_id.get(one.ingredient_id)) for one in layer.ingredients]
    if all(food is not None for _, food in foods):
        found["dry_share"] = sum(one.grams for one, food in foods if food is not None and _is_dry(food)) / max(
            1e-9, layer.added_g
        )
        found["laxative"] = load_of(((one.ingredient_id, one.grams) for one in layer.ingredients), pantry)
    return found


def _gel(layer: FormulaLayer, family: Family | None) -> float | None:
    """Gelling agent beside what is usual [%]; None where it needs none."""
    role = next((one for one in family.roles if one.name == "gelling" and one.typical > 0), None) if family is not None else None
    if role is None or layer.added_g <= 0:
        return None
    works = sum(one.grams / strength(role, one.ingredient_id) for one in layer.ingredients if one.role == "gelling")
    return 100 * works / layer.added_g / role.typical


def _is_dry(food: Ingredient) -> bool:
    name = food.id
    return food.category in _POWDERS or (food.category in {"sugar", "dairy"} and any(word in name for word in _DRY_SUGAR))


def _usual(family: Family | None, pantry: Pantry) -> FormulaLayer | None:
    """100 g of a family by its working ratio."""
    if family is None or not family.roles:
        return None
    layer = layer_of_family(family, _REFERENCE_G, "usual", family.name, pantry)
    formula: Formula = read_version(Version(id="usual", name="usual", layers=(layer,)), pantry)
    return formula.layers[0] if formula.layers[0].finished_g > 0 else None


def _of_nature(nature: LayerNature, neighbours: Sequence[LayerNature]) -> dict[str, float]:
    found = {}
    if nature.doctor is not None:
        found["doctor"] = nature.doctor
    if nature.solid_20 is not None:
        found["solid_fat"] = 100 * nature.solid_20
    if nature.water_activity is not None:
        found["aw"] = nature.water_activity
        gaps = [one.water_activity - nature.water_activity for one in neighbours if one.water_activity is not None]
        if gaps:
            found["aw_gap"] = max(gaps)
    return found


def _sum(layer: FormulaLayer, pantry: Pantry, per_100_g: Callable[[Ingredient], Mapping[str, float]]) -> dict[str, float]:
    found: dict[str, float] = {}
    for one in layer.ingredients:
        if one.ingredient_id in pantry:
            for name, grams in per_100_g(pantry[one.ingredient_id]).items():
                found[name] = found.get(name, 0.0) + grams * one.grams / 100
    return found
