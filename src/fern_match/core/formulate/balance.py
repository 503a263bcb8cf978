"""What a piece is like as a whole: sweetness, fats, water, grain, keeping and handling, each a sentence with what would help.

Worked example: a coat of half real milk chocolate (33 % fat) and half lauric coating (31 % fat) has half of its fat from palm
kernel; cocoa butter takes 5 %, so at most about 5 % of that coat may be lauric coating, or 10 % where it may stay soft.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from itertools import pairwise

from fern_match.core.data import rows
from fern_match.core.families import Families, Family
from fern_match.core.food import Pantry
from fern_match.core.formulate.formula import Formula, FormulaLayer
from fern_match.core.formulate.properties import amount_of, fat_by_kind
from fern_match.core.formulate.version import Property, Shaping, Version
from fern_match.core.physics.fats import COCOA_BUTTER, LAURIC, FatLimit, adds_up, fat_limits, solid_fat_g
from fern_match.core.physics.grain import GrainRisk, doctor_share, grain_risk, sucrose_in_solution_g
from fern_match.core.physics.water_activity import solutes_per_100_g, water_activity

_DRY = 0.04  # g water per g, below which no syrup phase rules the water activity
_MOVES_SLOWLY, _NEEDS_A_BARRIER = 0.05, 0.15
_SWEETER, _MUCH_LACTOSE = 1.35, 0.12
_SNAP, _SOFT, _WAXY = 0.65, 0.35, 0.05
_CRISP_TO: Mapping[str, float] = {
    "wafer-sheet": 0.40, "wafer-sheet-bought": 0.40, "short-base": 0.45, "baked-biscuit": 0.45, "crisp-pieces": 0.45,
    "crisp-in-chocolate": 0.45, "brittle": 0.35, "honeycomb": 0.35, "toffee": 0.40, "keto-short-base": 0.45,
}  # fmt: skip
_BANDS = (
    (0.60, "nothing grows; home-made, airtight and cool, best within 4 to 8 weeks"),
    (0.70, "some yeasts and moulds can grow; airtight and cool, best within 2 to 4 weeks"),
    (0.85, "moulds and yeasts can grow; keep it cool, best within 1 to 2 weeks"),
    (1.01, "perishable: keep at 5 °C or below, 3 to 5 days, or freeze"),
)


class Tone(StrEnum):
    """How much a sentence asks for attention."""

    FINE = "fine"
    LOOK = "look"  # look here
    FAILS = "fails"  # this will fail


@dataclass(frozen=True, slots=True, kw_only=True)
class Note:
    """One thing that is so with this piece."""

    topic: str
    sentence: str
    help: str = ""
    tone: Tone = Tone.FINE
    layer_id: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class LayerNature:
    """What a layer is like."""

    layer_id: str
    name: str
    water: float  # of the finished layer [g/g]
    sweetness: float  # sucrose equivalents [g/g]
    solid_20: float | None  # solid share of its fat at 20 C [g/g]; None where it has little, or no figure is right
    solid_30: float | None
    water_activity: float | None
    water_activity_low: float | None
    water_activity_high: float | None
    doctor: float | None  # share of doctor sugars [g/g], of what is boiled


def natures(formula: Formula, pantry: Pantry, families: Families) -> tuple[LayerNature, ...]:
    """What each layer is like."""
    return tuple(_nature(layer, pantry, families) for layer in formula.layers if layer.finished_g > 0)


def balance(version: Version, formula: Formula, pantry: Pantry, families: Families) -> tuple[Note, ...]:
    """What there is to say of a piece as a whole, what will fail first.

    Source: limits and windows from data/fat_limits.csv, ganache_windows.csv, handling.csv (approximate).
    """
    found = natures(formula, pantry, families)
    by_id = {one.layer_id: one for one in found}
    notes: list[Note] = []
    notes += _sweetness(formula, found, pantry, families)
    for layer in formula.layers:
        if layer.finished_g <= 0:
            continue
        family = families.by_id.get(layer.family)
        notes += _fats(layer, family, pantry)
        notes += _grain(layer, by_id[layer.layer_id], family, pantry)
        notes += _ganache(layer, family, pantry)
        notes += _handling(layer, _shaping(version, layer), pantry)
    notes += _moisture(formula, by_id, families)
    notes += _keeping(found, formula)
    order = {Tone.FAILS: 0, Tone.LOOK: 1, Tone.FINE: 2}
    return tuple(sorted(notes, key=lambda note: order[note.tone]))


def _nature(layer: FormulaLayer, pantry: Pantry, families: Families) -> LayerNature:
    finished, family = layer.finished_g, families.by_id.get(layer.family)
    water = amount_of([layer], Property.WATER, pantry) / finished
    fats = fat_by_kind([layer], pantry)
    fat = sum(fats.values())
    shares = [solid_fat_g(fats, temp) for temp in (20, 30)]
    solids = [share / fat if share is not None and fat > 0.05 * finished else None for share in shares]
    activity, low, high = _activity(layer, water, family, pantry)
    boiled = family is not None and family.heated and family.traits.boiled
    return LayerNature(
        layer_id=layer.layer_id,
        name=layer.name,
        water=water,
        sweetness=amount_of([layer], Property.SWEETNESS, pantry) / finished,
        solid_20=solids[0],
        solid_30=solids[1],
        water_activity=activity,
        water_activity_low=low,
        water_activity_high=high,
        doctor=doctor_share(_solutes(layer, pantry)) if boiled else None,
    )


def _solutes(layer: FormulaLayer, pantry: Pantry) -> dict[str, float]:
    found: dict[str, float] = {}
    for one in layer.ingredients:
        if one.ingredient_id in pantry:
            for name, grams in solutes_per_100_g(pantry[one.ingredient_id]).items():
                found[name] = found.get(name, 0.0) + grams * one.grams / 100
    return found


def _activity(
    layer: FormulaLayer, water: float, family: Family | None, pantry: Pantry
) -> tuple[float | None, float | None, float | None]:
    """Water activity with its range: by the models where there is a syrup, else what its kind usually has."""
    usual = family.water_activity if family is not None else None
    solutes, water_g = _solutes(layer, pantry), water * layer.finished_g
    found = None
    if water > _DRY and water_g > 0:
        share = doctor_share(solutes)
        grained = family is not None and "fondant" in family.id
        sucrose = solutes.get("sucrose", 0.0)
        if grained or share < 0.3:
            sucrose = sucrose_in_solution_g(sucrose, water_g, share)
        found = water_activity({**solutes, "sucrose": sucrose}, water_g)
    if found is not None:
        return found, max(0.0, found - 0.06), min(1.0, found + 0.06)
    if usual is not None:
        return sum(usual) / 2, usual[0], usual[1]
    return None, None, None


def _sweetness(formula: Formula, found: Sequence[LayerNature], pantry: Pantry, families: Families) -> list[Note]:
    coats = {layer.layer_id for layer in formula.layers if _is_coat(layer, families)}
    weights = {layer.layer_id: layer.finished_g for layer in formula.layers}
    total = sum(weights.values())
    if total <= 0:
        return []
    whole = amount_of(formula.layers, Property.SWEETNESS, pantry)
    inner = [one for one in found if one.layer_id not in coats]
    outer = [one for one in found if one.layer_id in coats]
    piece = f"The piece is as sweet as {whole:.1f} g of sugar, {100 * whole / total:.0f} g in 100 g"
    if not inner or not outer:
        return [Note(topic="Sweetness", sentence=f"{piece}.")]
    coat, filling = (
        sum(one.sweetness * weights[one.layer_id] for one in side) / sum(weights[one.layer_id] for one in side)
        for side in (outer, inner)
    )
    words = f"{piece}; the coat {100 * coat:.0f}, what is inside {100 * filling:.0f}."
    if coat > _SWEETER * filling:
        return [
            Note(
                topic="Sweetness",
                sentence=words,
                help="A sweet coat carries a less sweet filling: that is what keeps it in balance.",
            )
        ]
    if filling > _SWEETER * coat:
        return [
            Note(
                topic="Sweetness",
                sentence=words,
                help="The darker coat answers the sweet filling; with milk chocolate it would need less sugar inside.",
            )
        ]
    return [Note(topic="Sweetness", sentence=words, help="Coat and filling are about as sweet as each other.")]


def _is_coat(layer: FormulaLayer, families: Families) -> bool:
    return layer.family in families and families[layer.family].place == "coat"


def _fats(layer: FormulaLayer, family: Family | None, pantry: Pantry) -> list[Note]:
    if family is None or not (family.place == "coat" or "chocolate" in family.id):
        return _filling_fat(layer, pantry)
    kinds = fat_by_kind([layer], pantry)
    fat = sum(kinds.values())
    if fat <= 0.05 * layer.finished_g:
        return []
    notes = []
    worst = _worst_fat(kinds)
    if worst is not None:
        limit, share = worst
        tone = Tone.FAILS if share > limit.soft_to else Tone.LOOK
        told = "fails: it " + limit.fails if tone is Tone.FAILS else "stays softer and sets more slowly"
        largest = largest_safe(layer, limit, pantry)
        more = f" Of {largest[0]}, {100 * largest[1]:.0f} % of the coat is the largest safe share" if largest else ""
        other_way = next((one for one in fat_limits() if (one.in_fat, one.other) == (limit.other, limit.in_fat)), None)
        turned = largest_safe(layer, other_way, pantry) if other_way is not None and largest else None
        if turned is not None and largest is not None and turned[0] != largest[0]:
            more += f"; the other way round, {100 * turned[1]:.0f} % of {turned[0]}"
        more += "." if more else ""
        notes.append(
            Note(
                topic="Fats",
                sentence=f"{100 * share:.0f} % of the fat of {layer.name} is {limit.what} in {limit.in_fat}, which takes "
                f"{100 * limit.fine_to:.0f} %. It {told}.",
                help=f"Use one kind of coat, real or coating.{more} Kept and eaten cold, a soft coat is a choice: then say so.",
                tone=tone,
                layer_id=layer.layer_id,
            )
        )
    solid = solid_fat_g(kinds, 20)
    if solid is not None and worst is None:
        share = solid / fat
        feel = "snaps" if share >= _SNAP else "bites soft" if share >= _SOFT else "stays soft"
        melted = (solid_fat_g(kinds, 35) or 0.0) / fat
        waxy = "" if melted <= _WAXY else "; a little stays waxy in the mouth"
        notes.append(
            Note(
                topic="Fats",
                sentence=f"{layer.name}: {100 * share:.0f} % of its fat is solid at 20 °C, so it {feel}; "
                f"{100 * melted:.0f} % at mouth warmth{waxy}.",
                layer_id=layer.layer_id,
            )
        )
    thin = fat / layer.finished_g
    if family.place == "coat" and thin < 0.28:
        notes.append(
            Note(
                topic="Fats",
                sentence=f"{layer.name} holds {100 * thin:.0f} % fat: below 28 % it is too thick to coat with.",
                help="Thin it with cocoa butter, about 1 part to 20; a coat wants 34 to 40 % fat.",
                tone=Tone.LOOK,
                layer_id=layer.layer_id,
            )
        )
    return notes


def _filling_fat(layer: FormulaLayer, pantry: Pantry) -> list[Note]:
    kinds = fat_by_kind([layer], pantry)
    fat = sum(kinds.values())
    if fat < 0.12 * layer.finished_g:
        return []
    if not adds_up(kinds):
        return [
            Note(
                topic="Fats",
                sentence=f"{layer.name} mixes lauric fat with cocoa butter; together they are softer than either, so no figure "
                "for its firmness is given.",
                help="Take one or the other, or judge it in a small trial.",
                tone=Tone.LOOK,
                layer_id=layer.layer_id,
            )
        ]
    share = (solid_fat_g(kinds, 20) or 0.0) / fat
    oil = kinds.get("liquid oil", 0.0) / fat
    note = f"{layer.name}: {100 * share:.0f} % of its fat is solid at 20 °C"
    if oil > 0.6 and share < 0.2:
        return [
            Note(
                topic="Fats",
                sentence=f"{note}; {100 * oil:.0f} % of it is liquid oil that moves into a chocolate coat within weeks.",
                help="1 to 2 % of a hard fat in it, a thin cocoa butter film, or a cool place slow that down.",
                tone=Tone.LOOK,
                layer_id=layer.layer_id,
            )
        ]
    return [Note(topic="Fats", sentence=f"{note}.", layer_id=layer.layer_id)]


def _worst_fat(kinds: Mapping[str, float]) -> tuple[FatLimit, float] | None:
    """The limit that a blend breaks by most; None where all is fine. Its main fat is what counts as taking the others."""
    total = sum(kinds.values())
    main = max((COCOA_BUTTER, LAURIC, "hardened fat", "palm fat"), key=lambda kind: kinds.get(kind, 0.0))
    broken = [
        (limit, kinds.get(limit.other, 0.0) / total)
        for limit in fat_limits()
        if limit.in_fat == main and kinds.get(limit.other, 0.0) / total > limit.fine_to + 1e-9
    ]
    return max(broken, key=lambda pair: pair[1] / pair[0].soft_to, default=None)


def largest_safe(layer: FormulaLayer, limit: FatLimit, pantry: Pantry, step: int = 200) -> tuple[str, float] | None:
    """The ingredient that brings most of a foreign fat, and the largest share of the layer it may be for the limit to hold.

    Args:
        layer: Its other ingredients keep their proportions.
        limit: What its main fat takes.
        pantry: Compositions.
        step: How finely to look, 10 to 1000.
    """
    bringing = [
        (fat_by_kind([_alone(layer, one.ingredient_id)], pantry).get(limit.other, 0.0), one.ingredient_id, one.name)
        for one in layer.ingredients
    ]
    brought, key, name = max(bringing)
    rest = [one for one in layer.ingredients if one.ingredient_id != key]
    rest_g = sum(one.grams for one in rest)
    if brought <= 0 or rest_g <= 0:
        return None
    own = fat_by_kind([_alone(layer, key)], pantry)
    own_g = sum(one.grams for one in layer.ingredients if one.ingredient_id == key)
    others: dict[str, float] = {}
    for one in rest:
        for kind, grams in fat_by_kind([_alone(layer, one.ingredient_id)], pantry).items():
            others[kind] = others.get(kind, 0.0) + grams
    best = 0.0
    for number in range(step + 1):
        share = number / step
        mixed = {
            kind: share * own.get(kind, 0.0) / own_g + (1 - share) * others.get(kind, 0.0) / rest_g for kind in {*own, *others}
        }
        total = sum(mixed.values())
        if total > 0 and mixed.get(limit.other, 0.0) / total <= limit.fine_to:
            best = share
        elif share > 0:
            break
    return name, best


def _alone(layer: FormulaLayer, key: str) -> FormulaLayer:
    return FormulaLayer(
        layer_id=layer.layer_id,
        name=layer.name,
        family=layer.family,
        water_lost_g=0.0,
        ingredients=tuple(one for one in layer.ingredients if one.ingredient_id == key),
    )


def _grain(layer: FormulaLayer, nature: LayerNature, family: Family | None, pantry: Pantry) -> list[Note]:
    if family is None or nature.doctor is None:
        return []
    risk = grain_risk(min(1.0, nature.doctor))
    solutes = _solutes(layer, pantry)
    sugars = sum(grams for name, grams in solutes.items() if name != "salt")
    wanted = "fondant" in family.id
    share = f"{100 * nature.doctor:.0f} % of the sugars of {layer.name} are not sucrose"
    notes = []
    if wanted and risk in {GrainRisk.STABLE, GrainRisk.STICKY}:
        notes.append(
            Note(
                topic="Grain",
                sentence=f"{share}: it {risk.value}, and a fondant is to grain.",
                help="Less syrup, or more sugar: 8 to 20 % gives a fine grain when beaten.",
                tone=Tone.LOOK,
                layer_id=layer.layer_id,
            )
        )
    elif (
        not wanted
        and risk in {GrainRisk.GRAINS, GrainRisk.WHEN_BEATEN, GrainRisk.RISKY}
        and family.id not in {"toffee", "brittle", "honeycomb"}
    ):
        notes.append(
            Note(
                topic="Grain",
                sentence=f"{share}: it {risk.value}.",
                help="Take 30 to 45 % of the sugars as glucose syrup, honey or invert sugar.",
                tone=Tone.LOOK if risk is GrainRisk.RISKY else Tone.FAILS,
                layer_id=layer.layer_id,
            )
        )
    else:
        notes.append(Note(topic="Grain", sentence=f"{share}: it {risk.value}.", layer_id=layer.layer_id))
    if sugars > 0 and solutes.get("lactose", 0.0) / sugars > _MUCH_LACTOSE and nature.water > 0.08:
        notes.append(
            Note(
                topic="Grain",
                sentence=f"Lactose is {100 * solutes['lactose'] / sugars:.0f} % of the sugars of {layer.name}: above 12 % it "
                "can turn sandy on keeping.",
                help="Less milk powder or condensed milk, or eat it fresh.",
                tone=Tone.LOOK,
                layer_id=layer.layer_id,
            )
        )
    return notes


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


def _ganache(layer: FormulaLayer, family: Family | None, pantry: Pantry) -> list[Note]:
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


def _shaping(version: Version, layer: FormulaLayer) -> Shaping | None:
    own = next((one.shaping for one in version.layers if one.id == layer.layer_id), None)
    return own or usual_shaping(layer.family)


def usual_shaping(family_id: str) -> Shaping | None:
    """How a family is usually shaped; None where nothing is shaped."""
    return _usual_shapings().get(family_id)


def shapings(family_id: str) -> tuple[Shaping, ...]:
    """The ways of shaping that a family's handling is known for."""
    return tuple(Shaping(row["shaping"]) for row in rows("handling.csv") if family_id in row["families"].split("|"))


def _handling(layer: FormulaLayer, shaping: Shaping | None, pantry: Pantry) -> list[Note]:
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


def _moisture(formula: Formula, by_id: Mapping[str, LayerNature], families: Families) -> list[Note]:
    notes = []
    inner = [layer for layer in formula.layers if layer.finished_g > 0 and not _is_coat(layer, families)]
    for first, second in pairwise(inner):
        a, b = by_id[first.layer_id], by_id[second.layer_id]
        if a.water_activity is None or b.water_activity is None:
            continue
        wet, dry = (a, b) if a.water_activity > b.water_activity else (b, a)
        assert wet.water_activity is not None
        assert dry.water_activity is not None
        apart = wet.water_activity - dry.water_activity
        layer = next(one for one in inner if one.layer_id == dry.layer_id)
        crisp = _CRISP_TO.get(layer.family)
        said = f"Water moves from {wet.name} (about {wet.water_activity:.2f}) to {dry.name} (about {dry.water_activity:.2f})"
        if apart < _MOVES_SLOWLY:
            continue
        if crisp is not None and wet.water_activity > crisp and apart >= _NEEDS_A_BARRIER:
            notes.append(
                Note(
                    topic="Moisture",
                    sentence=f"{said}: {dry.name} loses its crispness above {crisp:g}, within days to weeks.",
                    help="A film of cocoa butter or tempered chocolate, 0.3 to 0.5 mm without holes, keeps them apart.",
                    tone=Tone.LOOK,
                    layer_id=dry.layer_id,
                )
            )
        else:
            slow = "slowly" if apart < _NEEDS_A_BARRIER else "over weeks"
            notes.append(Note(topic="Moisture", sentence=f"{said}, {slow}.", layer_id=dry.layer_id))
    return notes


def _keeping(found: Iterable[LayerNature], formula: Formula) -> list[Note]:
    known = [one for one in found if one.water_activity is not None]
    if not known:
        return []
    wettest = max(known, key=lambda one: one.water_activity or 0.0)
    activity = wettest.water_activity or 0.0
    band = next(words for limit, words in _BANDS if (wettest.water_activity_high or activity) - 0.03 < limit or limit > 1)
    del formula
    return [
        Note(
            topic="Keeping",
            sentence=f"{wettest.name} has the highest water activity, about {wettest.water_activity_low:.2f} to "
            f"{wettest.water_activity_high:.2f}: {band}.",
            help="Estimated. Measure with a meter, and ask a qualified person, before selling it or keeping it long.",
            tone=Tone.LOOK if activity > 0.85 else Tone.FINE,
            layer_id=wettest.layer_id,
        )
    ]


@cache
def _usual_shapings() -> Mapping[str, Shaping]:
    return {row["family"]: Shaping(row["shaping"]) for row in rows("shaping_usual.csv")}
