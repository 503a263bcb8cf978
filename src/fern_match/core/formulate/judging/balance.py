"""What a piece is like as a whole: sweetness, fats, water, grain, keeping and handling, each a sentence with what would help."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

from fern_match.core.families import Families, Family
from fern_match.core.families.doses import too_much
from fern_match.core.food import Pantry
from fern_match.core.formulate.judging.fat_notes import fat_notes
from fern_match.core.formulate.judging.handling import ganache_notes, handling_notes, shaping_of
from fern_match.core.formulate.judging.notes import Note, Tone
from fern_match.core.formulate.record.formula import Formula, FormulaLayer
from fern_match.core.formulate.record.properties import amount_of, fat_by_kind, not_known
from fern_match.core.formulate.record.version import Property, Version
from fern_match.core.physics.fats import solid_fat_g
from fern_match.core.physics.grain import GrainRisk, doctor_share, grain_risk, grained_g, sucrose_in_solution_g
from fern_match.core.physics.water_activity import solutes_per_100_g, water_activity

_OVER = 1.1  # of a largest share: nearer it is the same
_DRY = 0.04  # g water per g, below which no syrup phase rules the water activity
_MOVES_SLOWLY, _NEEDS_A_BARRIER = 0.05, 0.15
_SWEETER, _MUCH_LACTOSE = 1.35, 0.12
_SOME_POLYOL, _MUCH_POLYOL = 0.02, 0.1  # of a layer [g/g]: below the one no grain is felt, from the other little else is
KEEPING = "Keeping"  # topic of the note on water activity
_BANDS = (
    (0.60, "nothing grows; home-made, airtight and cool, best within 4 to 8 weeks"),
    (0.70, "some yeasts and moulds can grow; airtight and cool, best within 2 to 4 weeks"),
    (0.85, "moulds and yeasts can grow; keep it cool, best within 1 to 2 weeks"),
    (1.01, "perishable: keep at 5 °C or below, 3 to 5 days, or freeze"),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class LayerNature:
    """What a layer is like."""

    layer_id: str
    name: str
    water: float | None  # of the finished layer [g/g]; None where a line's is not known
    sweetness: float | None  # sucrose equivalents [g/g]; the same
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
        unknown = _unknown(layer, pantry)
        if unknown is not None:  # nothing else that would be said of it rests on firm ground
            notes.append(unknown)
            continue
        notes += _doses(layer, family)
        notes += fat_notes(layer, family, pantry)
        notes += _grain(layer, by_id[layer.layer_id], family, pantry)
        notes += ganache_notes(layer, family, pantry)
        notes += handling_notes(layer, shaping_of(version, layer), pantry)
    notes += _moisture(formula, by_id, families)
    notes += _keeping(found)
    order = {Tone.FAILS: 0, Tone.LOOK: 1, Tone.FINE: 2}
    return tuple(sorted(notes, key=lambda note: order[note.tone]))


def _doses(layer: FormulaLayer, family: Family | None) -> list[Note]:
    """What there is more of than makes sense: what burns, turns slimy, grains or is past a legal limit."""
    found = []
    for key in dict.fromkeys(line.ingredient_id for line in layer.ingredients):
        limit = too_much(key, family)
        lines = [line for line in layer.ingredients if line.ingredient_id == key]
        share = sum(line.grams for line in lines) / layer.added_g if layer.added_g > 0 else 0.0
        if limit is not None and share > _OVER * limit[0]:
            found.append(
                Note(
                    topic="Dose",
                    sentence=f"{lines[0].name} is {100 * share:.2g} % of {layer.name}, where {100 * limit[0]:.2g} % is the most: "
                    f"{limit[1]}.",
                    help=f"At most {limit[0] * layer.added_g:.2g} g a piece.",
                    tone=Tone.FAILS if share > 2 * limit[0] else Tone.LOOK,
                    layer_id=layer.layer_id,
                )
            )
    return found


def _unknown(layer: FormulaLayer, pantry: Pantry) -> Note | None:
    """What is not known of a layer, where its balance rests on that; None where all is known."""
    lacks = {what: not_known([layer], what, pantry) for what in (Property.WATER, Property.FAT, Property.SUGARS)}
    names = tuple(dict.fromkeys(name for found in lacks.values() for name in found))
    if not names:
        return None
    figures = ", ".join(what.value for what, found in lacks.items() if found)
    return Note(
        topic="Not known",
        sentence=f"{layer.name}: {figures} of {', '.join(names)} not known, so firmness, grain, water activity and handling of "
        "this layer are not told.",
        help="Open the ingredient in the pantry and enter what its packet says; type 0 where it says none.",
        tone=Tone.LOOK,
        layer_id=layer.layer_id,
    )


def _nature(layer: FormulaLayer, pantry: Pantry, families: Families) -> LayerNature:
    finished, family = layer.finished_g, families.by_id.get(layer.family)
    if _unknown(layer, pantry) is not None:
        return LayerNature(
            layer_id=layer.layer_id,
            name=layer.name,
            water=_share(layer, Property.WATER, pantry),
            sweetness=_share(layer, Property.SWEETNESS, pantry),
            solid_20=None,
            solid_30=None,
            water_activity=None,
            water_activity_low=None,
            water_activity_high=None,
            doctor=None,
        )
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
        sweetness=_share(layer, Property.SWEETNESS, pantry),
        solid_20=solids[0],
        solid_30=solids[1],
        water_activity=activity,
        water_activity_low=low,
        water_activity_high=high,
        doctor=doctor_share(_solutes(layer, pantry)) if boiled else None,
    )


def _share(layer: FormulaLayer, what: Property, pantry: Pantry) -> float | None:
    """A property of a finished layer [g/g]; None where a line's is not known."""
    return None if not_known([layer], what, pantry) else amount_of([layer], what, pantry) / layer.finished_g


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
    """Water activity with its range: by the models where there is a syrup, else what its kind usually has.

    Where flour, nuts or fibre are more than what is dissolved, they hold the water too, of which the models know nothing. With
    water in its kind's window it is what its kind has at least, and at most: known sweets say more than the model of a syrup.
    """
    usual = family.water_activity if family is not None else None
    solutes, water_g = _solutes(layer, pantry), water * layer.finished_g
    fat = amount_of([layer], Property.FAT, pantry)
    held = layer.finished_g - water_g - fat - sum(solutes.values())
    found = None
    if water > _DRY and water_g > 0 and (usual is None or held <= sum(solutes.values())):
        share = doctor_share(solutes)
        grained = family is not None and family.grained
        sucrose = solutes.get("sucrose", 0.0)
        if grained or share < 0.3:
            sucrose = sucrose_in_solution_g(sucrose, water_g, share)
        found = water_activity({**solutes, "sucrose": sucrose}, water_g)
    if found is not None and family is not None and usual is not None and family.moisture_low <= water <= family.moisture_high:
        found = min(max(found, usual[0]), usual[1])
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
    unknown = not_known(formula.layers, Property.SWEETNESS, pantry)
    if unknown:
        said = f"How sweet the piece is is not known: {', '.join(unknown)} has no figure for it."
        return [Note(topic="Sweetness", sentence=said, help="Enter how sweet it is beside sugar, in the pantry.", tone=Tone.LOOK)]
    whole = amount_of(formula.layers, Property.SWEETNESS, pantry)
    inner = [one for one in found if one.layer_id not in coats]
    outer = [one for one in found if one.layer_id in coats]
    piece = f"The piece is as sweet as {whole:.1f} g of sugar, {100 * whole / total:.0f} g in 100 g"
    if not inner or not outer:
        return [Note(topic="Sweetness", sentence=f"{piece}.")]
    coat, filling = (
        sum((one.sweetness or 0.0) * weights[one.layer_id] for one in side) / sum(weights[one.layer_id] for one in side)
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


def _grain(layer: FormulaLayer, nature: LayerNature, family: Family | None, pantry: Pantry) -> list[Note]:
    if family is None or nature.doctor is None:
        return []
    solutes = _solutes(layer, pantry)
    notes = _grain_of_polyols(layer, nature, family, solutes)
    if not solutes.get("sucrose"):
        return notes
    risk = grain_risk(min(1.0, nature.doctor))
    sugars = sum(grams for name, grams in solutes.items() if name != "salt")
    wanted = family.grained
    share = f"{100 * nature.doctor:.0f} % of the sugars of {layer.name} are not sucrose"
    if wanted and risk in {GrainRisk.STABLE, GrainRisk.STICKY}:
        notes.append(
            Note(
                topic="Grain",
                sentence=f"{share}: it {risk.value}, and a fondant or a fudge is to grain.",
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
    if sugars > 0 and solutes.get("lactose", 0.0) / sugars > _MUCH_LACTOSE and (nature.water or 0.0) > 0.08:
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


def _grain_of_polyols(layer: FormulaLayer, nature: LayerNature, family: Family, solutes: Mapping[str, float]) -> list[Note]:
    """Of each polyol more than the water holds crystallises, whatever else keeps sugar smooth."""
    if nature.water is None or family.traits.glass or family.grained:
        return []
    water_g = nature.water * layer.finished_g
    return [
        Note(
            topic="Grain",
            sentence=f"{name.capitalize()}: {solutes[name]:.2g} g to {water_g:.2g} g of water in {layer.name}; about "
            f"{solutes[name] - grams:.2g} g stays dissolved, so it grains on keeping.",
            help="Less of it, and more of maltitol syrup, sorbitol, allulose or a fibre syrup.",
            tone=Tone.FAILS if grams > solutes[name] / 2 and solutes[name] > _MUCH_POLYOL * layer.finished_g else Tone.LOOK,
            layer_id=layer.layer_id,
        )
        for name, grams in grained_g(solutes, water_g).items()
        if solutes[name] > _SOME_POLYOL * layer.finished_g
    ]


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
        family = families.by_id.get(layer.family)
        crisp = family.traits.crisp_to if family is not None else None
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


def _keeping(found: Iterable[LayerNature]) -> list[Note]:
    found = tuple(found)
    known = [one for one in found if one.water_activity is not None]
    unknown = [one.name for one in found if one.water is None]
    if unknown:
        said = f"How long it keeps is not told: water of {', '.join(unknown)} is not known."
        return [
            Note(topic=KEEPING, sentence=said, help="Keep it as cold and as short as its wettest part wants.", tone=Tone.LOOK)
        ]
    if not known:
        return []
    wettest = max(known, key=lambda one: one.water_activity or 0.0)
    activity = wettest.water_activity or 0.0
    band = next(words for limit, words in _BANDS if (wettest.water_activity_high or activity) - 0.03 < limit or limit > 1)
    return [
        Note(
            topic=KEEPING,
            sentence=f"{wettest.name} has the highest water activity, about {wettest.water_activity_low:.2f} to "
            f"{wettest.water_activity_high:.2f}: {band}.",
            help="Estimated. Measure with a meter, and ask a qualified person, before selling it or keeping it long.",
            tone=Tone.LOOK if activity > 0.85 else Tone.FINE,
            layer_id=wettest.layer_id,
        )
    ]
