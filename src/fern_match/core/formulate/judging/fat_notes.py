"""What is said of a layer's fats, and the largest share of one chocolate that another takes.

Worked example: a coat of half real milk chocolate (33 % fat) and half lauric coating (31 % fat) has half of its fat from palm
kernel; cocoa butter takes 5 %, so at most about 5 % of that coat may be lauric coating, or 10 % where it may stay soft.
"""

from collections.abc import Mapping

from fern_match.core.families import Family
from fern_match.core.food import Pantry
from fern_match.core.formulate.judging.notes import Note, Tone
from fern_match.core.formulate.record.formula import FormulaLayer
from fern_match.core.formulate.record.properties import fat_by_kind
from fern_match.core.physics.fats import COCOA_BUTTER, LAURIC, FatLimit, adds_up, fat_limits, solid_fat_g

_SNAP, _SOFT, _WAXY = 0.65, 0.35, 0.05


def fat_notes(layer: FormulaLayer, family: Family | None, pantry: Pantry) -> list[Note]:
    """What there is to say of a layer's fats: whether they go together, how firm they are, whether a coat is thin enough."""
    if family is None or not (family.place == "coat" or "chocolate" in family.sorts):
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
    if solid is not None and worst is None and not _is_bought_coating(layer, pantry):
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


def _is_bought_coating(layer: FormulaLayer, pantry: Pantry) -> bool:
    """Whether a coat is mostly a coating as it is sold: its fractionated or hardened fat snaps, which no table of oils says."""
    bought = sum(line.grams for line in layer.ingredients if line.ingredient_id in pantry and "coating" in line.ingredient_id)
    return bought > layer.added_g / 2


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
