"""What there is to choose in a cook: which schools are open to it, and what speaks for each here.

Worked example: Night Crossing in a frame asks how its chocolate is melted and tempered, where things set, how pieces are dipped
and which way up the slab is built; nothing of it is boiled, so nobody asks how the end of a boil is known.
"""

from collections.abc import Sequence
from itertools import pairwise

from fern_match.core.batch import BatchLayer, HeatHere, Tempering, WeightHere, tempering
from fern_match.core.cook.build_steps import Way, way_of
from fern_match.core.cook.building import Building, baked_on
from fern_match.core.cook.schools import Asking
from fern_match.core.cook.step import Bench
from fern_match.core.cook.tables import Lay, by_family, method_of, step_rows, windows
from fern_match.core.kitchen import Tool

_SUGAR_FROM = 0.25  # of a layer, from which its sugar can be melted dry (approximate)
_CLEAR = frozenset(
    {"brittle", "coconut-boiled", "fondant", "gelatine-jelly", "halva", "hard-sugar", "honeycomb", "liqueur-centre",
     "marshmallow", "nougat"}
)  # fmt: skip
_DRY = frozenset({"caramel"})
_DOUGH = frozenset({"baked-base", "biscuit"})
_MELTED = frozenset({"chocolate", "coating", "chocolate-from-parts", "coating-from-parts", "crisp-in-chocolate", "brownie"})
_FIRM, _CHOCOLATE = frozenset({"sheet", "in place"}), "chocolate"
_WARM_ROOM_C = 22.0
_HIGH_KITCHEN_C = 3.0  # water boils so much lower, from which the weight says more than the heat
_KEPT_ALONE = frozenset({"coat", "end", "melt", "sugar"})  # said though there is one way only: steps hang on it


def asked_of(building: Building) -> tuple[Asking, ...]:
    """What there is to choose in a cook, each with what speaks for which way.

    Args:
        building: The layers on the bench.
    """
    bench, there, way = building.bench, building.layers(), way_of(building)
    kitchen = bench.kitchen
    methods = {one.layer_id: method_of(one.family, bench.families) for one in there}
    blind = kitchen.lacks(Tool.THERMOMETER)
    asked: list[Asking] = []
    for one in there:
        if one.boiled and any(row.heat == "end" for row in step_rows()[methods[one.layer_id]]):
            asked.append(_end(one, blind=blind, bench=bench))
    if any(method in _DRY and _sugar(one) >= _SUGAR_FROM for one in there for method in [methods[one.layer_id]]):
        asked.append(Asking("sugar", ()))
    elif any(method in _DRY for method in methods.values()):
        asked.append(Asking("sugar", (), only=("wet",)))
    if any(method in _CLEAR for method in methods.values()):
        asked.append(Asking("stir", ()))
    asked += [asking for one in there if (asking := _coat(one, bench, blind=blind)) is not None]
    if any(method in _MELTED for method in methods.values()):
        asked.append(Asking("melt", ("no-microwave",) if bench.lacks("microwave") else ("microwave",),
                            only=("bath",) if bench.lacks("microwave") else ()))  # fmt: skip
    if any(method in _DOUGH for method in methods.values()):
        asked.append(Asking("butter", ()))
    if way is Way.SLAB and baked_on(building) is not None:
        asked.append(Asking("bake", ()))
    asked.append(Asking("set", ("warm-room",) if bench.room_c > _WARM_ROOM_C else ("cool-room",),
                        only=("usual", "room", "fridge") if bench.lacks("freezer") else ()))  # fmt: skip
    stack = building.stack()
    if building.coats() and way in {Way.SLAB, Way.CUT, Way.SHAPED} and stack:
        asked.append(Asking("dip", ()))
    if way is Way.SLAB and len(stack) > 1:
        asked.append(Asking("way", (_way(building, stack),)))
    return tuple(one for one in asked if len(one.only) != 1 or one.school in _KEPT_ALONE)


def _way(building: Building, stack: Sequence[BatchLayer]) -> str:
    """What speaks for a slab that is built upside down; plain slab where nothing does."""
    laid = [building.lay(one) for one in stack]
    if laid[-1].lay in _FIRM and laid[0].lay not in _FIRM:
        return "soft-below"
    return "hot-on-chocolate" if _melted(laid) > _melted(laid[::-1]) else "slab"


def _melted(order: Sequence[Lay]) -> int:
    """How often something comes onto chocolate that melts it."""
    return sum(
        below.set_of == _CHOCOLATE and below.at_c is not None and one.at_c is not None and one.at_c[0] > below.at_c[1]
        for below, one in pairwise(order)
    )


def _end(layer: BatchLayer, *, blind: bool, bench: Bench) -> Asking:
    by_weight = isinstance(layer.cook_end, WeightHere)
    high = isinstance(layer.cook_end, HeatHere) and layer.cook_end.sea_level_c - layer.cook_end.aim_c >= _HIGH_KITCHEN_C
    weighs = not bench.kitchen.lacks(Tool.SCALE)
    signs = "weight" if weighs and (by_weight or high) else "no-thermometer" if blind else "thermometer"
    only = [
        option
        for option, can in (("heat", not blind and not by_weight), ("cue", not by_weight or not weighs), ("weight", weighs))
        if can
    ]
    return Asking("end", (signs,), layer.layer_id, layer.name, only)


def _coat(layer: BatchLayer, bench: Bench, *, blind: bool) -> Asking | None:
    window = by_family(windows(), layer.family, bench.families)
    formula = next((one for one in bench.read.seen.formula.layers if one.layer_id == layer.layer_id), None)
    if window is None or formula is None:
        return None
    needed, _ = tempering(formula, bench.pantry)
    if needed is Tempering.NEEDLESS or window.cool_c is None:
        return Asking("coat", ("needless",), layer.layer_id, layer.name, ("plain",))
    sign = "needed" if needed is Tempering.NEEDED and not blind else "vain"
    return Asking("coat", (sign,), layer.layer_id, layer.name, ("temper", "cold"))


def _sugar(layer: BatchLayer) -> float:
    total = sum(line.grams for line in layer.ingredients)
    return sum(line.grams for line in layer.ingredients if line.ingredient_id in _PLAIN_SUGARS) / total if total > 0 else 0.0


_PLAIN_SUGARS = frozenset({"white-sugar", "caster-sugar", "beet-sugar", "demerara-sugar"})
