"""A slab: laid layer on layer in a pan, set in between, turned over where its firm sheet comes last, and cut.

Worked example: crumb base, caramel: the base lies where it was pressed; the caramel is poured over it at 70 to 100 °C once it is
cold, sets, and both are cut at 20 °C.
"""

from collections.abc import Sequence

from fern_match.core.batch import BatchLayer, pieces_words
from fern_match.core.cook.building import Building, baked_on, lower, per_piece, rescues_of, strewn, with_its_inclusions
from fern_match.core.cook.step import Heat, Place
from fern_match.core.cook.tables import Lay
from fern_match.core.food.together import listed
from fern_match.core.measures.shown import shown_length

_GLASS = "glass"
_ON_OVEN_C, _ON_MIN = (160.0, 170.0), 13.0  # of what is baked on with its base (approximate)
_LIES_MIN = 10.0  # until it stands where it is to set (approximate)
_SOFT = frozenset({"nougat", "ganache", "marshmallow", "filling", "fudge", "chocolate"})
_OVER_SOFT_C = 70.0  # hotter melts what is below (approximate)
_SETS_HOT_C = 80.0  # what is poured so hot sets before it has cooled
_WARM_C = 45.0
_CHOCOLATE, _SCORED = "chocolate", "Score the cuts with a warm knife as it dulls: hard, it cracks."
_SCORED_FROM_C = 40.0  # what is cut warm is scored before it sets
_VERBS = {"pour": "Pour", "press": "Press", "spread": "Spread", "pipe": "Pipe", "sheet": "Lay", "strew": "Strew", "roll": "Roll"}
_OVER = {"pour": "over", "press": "onto", "spread": "over", "pipe": "onto", "sheet": "onto", "strew": "over", "roll": "onto"}
_EVEN = {
    "pour": "Pour it in one go and tilt the pan until it is level.",
    "spread": "Spread it with a dry spatula, from the middle out.",
    "press": "Press it level under a sheet of paper.",
    "pipe": "Pipe it evenly, edge to edge.",
    "sheet": "Lay it flat, edge to edge.",
}
_STICKY = "Spread it with an oiled or wet spatula, from the middle out."


def in_slab(building: Building) -> None:
    """Adds the steps of a slab: laid, set, turned over where its firm sheet comes last, cut.

    Args:
        building: The steps so far.
    """
    stack = building.stack()
    turned = building.bench.school("way") == "turned"
    order = tuple(reversed(stack)) if turned else stack
    for number, layer in enumerate(order):
        below = order[number - 1] if number else None
        if below is not None and building.lay(layer).set_of == _GLASS:
            _cast_apart(building, layer, below)
            continue
        on = _laid(building, layer, below)
        if building.bench.school("bake") == "with" and layer is baked_on(building) and not turned:
            on = _baked_on(building, layer, on)
        if number == len(order) - 1 and not building.coats() and not turned:
            for one in building.toppings():
                on = strewn(building, one, on)
        building.last = _set(building, layer, on, uppermost=number == len(order) - 1)
    for one in building.inside(None):
        building.last = building.add(
            f"lay-{one.layer_id}",
            f"Press {lower(one.name)} in",
            [building.last, building.made[one.layer_id]],
            words=f"Spread them evenly over the slab, {per_piece(one)}, and press them in.",
            hands_on_min=4.0,
        )
    faces_down = turned and building.lay(order[-1]).set_of == _CHOCOLATE
    if turned and not faces_down:
        building.last = building.add(
            "turn",
            "Turn the slab over",
            [building.last],
            words="Board on top, both hands, over in one go; peel the paper off. What was made last is the base now.",
            hands_on_min=2.0,
        )
    if stack:
        _cut(building, stack, "The chocolate up; then turn each piece over." if faces_down else "")


def _baked_on(building: Building, layer: BatchLayer, on: str) -> str:
    low, high = _ON_OVEN_C
    return building.add(
        f"bake-{layer.layer_id}",
        f"Bake {lower(layer.name)} onto the base",
        [on],
        words="Until it bubbles slowly all over and its edge is golden; it sets as it cools.",
        hands_on_min=1.0,
        wait_min=_ON_MIN,
        place=Place.OVEN,
        heat=Heat(low_c=low, aim_c=(low + high) / 2, high_c=high, of="in the oven"),
        cautions=("oven", "hot-sugar"),
        rescues=rescues_of(building, layer),
    )


def _set(building: Building, layer: BatchLayer, on: str, *, uppermost: bool = False) -> str:
    """The step after which a layer that was laid is firm; scored before, where it cannot be cut cold."""
    lay = building.lay(layer)
    if layer.layer_id in building.in_place or lay.lay == "sheet":
        return on
    if lay.cut_c is not None and lay.cut_c[0] >= _SCORED_FROM_C:
        on = building.add(
            f"score-{layer.layer_id}",
            f"Score {lower(layer.name)} while it is warm",
            [on],
            words=f"With {lay.knife}; press the cuts right through.",
            hands_on_min=2.0 + 0.1 * building.pieces,
            most_wait_min=3.0,
            gate=f"{layer.name} at {building.t(*lay.cut_c)}.",
            heat=Heat(low_c=lay.cut_c[0], aim_c=sum(lay.cut_c) / 2, high_c=lay.cut_c[1], of="of the slab"),
            cautions=("hot-sugar",),
        )
    return building.set_down(
        f"set-{layer.layer_id}",
        lower(layer.name),
        lay.set_of,
        on,
        building.thick.get(layer.layer_id),
        hot=lay.at_c is not None and lay.at_c[1] > _WARM_C,
        meanwhile=_SCORED if uppermost and lay.set_of == _CHOCOLATE else "",
        rescues=rescues_of(building, layer),
    )


def _cast_apart(building: Building, layer: BatchLayer, below: BatchLayer) -> None:
    """A hot glass over a soft layer: cast in a tin of its own and laid on cold."""
    before, building.last = building.last, ""
    cast = _set(building, layer, _laid(building, layer, None))
    building.last = building.add(
        f"join-{layer.layer_id}",
        f"Lay {lower(layer.name)} onto {lower(below.name)}",
        [before, cast],
        words="Cast apart: hot sugar would melt what is below. Warm the face below a little, press it on.",
        hands_on_min=3.0,
    )


def _laid(building: Building, layer: BatchLayer, below: BatchLayer | None) -> str:
    """The step after which a layer lies where it belongs."""
    lay, ready = building.lay(layer), with_its_inclusions(building, layer)
    if layer.layer_id in building.in_place and below is None:
        return ready
    how = lay.lay if lay.lay != "in place" else "sheet"
    onto = (
        f"{_OVER[how]} {lower(below.name)}"
        if below is not None
        else ("in the lined pan" if how == "sheet" else "into the lined pan")
    )
    gates, at_c = [], _worked_at(building, lay, below)
    if at_c is not None and how in {"pour", "spread", "press"}:
        gates.append(f"{layer.name} at {building.t(*at_c)}")
    if lay.under_most_c is not None and below is not None:
        gates.append(f"{lower(below.name)} set and at {building.t(lay.under_most_c)} at most")
    thick = building.thick.get(layer.layer_id)
    high = f"It stands {shown_length(thick, building.bench.kitchen.kitchen.shown_in.length)} high." if thick else ""
    heat = (
        Heat(low_c=at_c[0], aim_c=sum(at_c) / 2, high_c=at_c[1], of="in the bowl")
        if at_c is not None and how in {"pour", "spread"}
        else None
    )
    return building.add(
        f"lay-{layer.layer_id}",
        f"{_VERBS[how]} {lower(layer.name)} {onto}",
        [building.last, ready],
        words=" ".join(one for one in (_evenly(building, layer, how), high, _bond(how, below)) if one),
        hands_on_min=2.0 + 4.0 * layer.made_g / 1000,
        most_wait_min=_LIES_MIN,
        gate=f"{'; '.join(gates)}." if gates else "",
        heat=heat,
        tools=("spatula",) if how != "sheet" else (),
        cautions=("hot-sugar",) if layer.boiled and how == "pour" else (),
        rescues=rescues_of(building, layer),
    )


def _worked_at(building: Building, lay: Lay, below: BatchLayer | None) -> tuple[float, float] | None:
    """At what heat a layer is laid [degC]: cooler over what a hot one would melt."""
    if lay.at_c is None or below is None or building.lay(below).set_of not in _SOFT or lay.at_c[0] >= _SETS_HOT_C:
        return lay.at_c
    low, high = lay.at_c
    return (min(low, _OVER_SOFT_C - 10), min(high, _OVER_SOFT_C))


def _evenly(building: Building, layer: BatchLayer, how: str) -> str:
    """How it is made level: water or oil on the spatula only for what would stick, never for chocolate."""
    kind = building.bench.families.by_id.get(layer.family)
    return _STICKY if how == "spread" and kind is not None and kind.traits.sticky else _EVEN.get(how, "")


def _bond(how: str, below: BatchLayer | None) -> str:
    if below is None or how == "strew":
        return ""
    return "Brush crumbs and fat off what is below first, or the layers part." if how in {"pour", "spread"} else ""


def _cut(building: Building, stack: Sequence[BatchLayer], which_way_up: str) -> None:
    laid = [(one, building.lay(one)) for one in stack]
    warm = [one for one, how in laid if how.cut_c is not None and how.cut_c[0] >= _SCORED_FROM_C]
    windows_c = [how.cut_c for one, how in laid if how.cut_c is not None and one not in warm]
    low, high = max((one[0] for one in windows_c), default=15.0), min((one[1] for one in windows_c), default=24.0)
    knives = [f"{lower(one.name)}: {how.knife}" for one, how in laid if how.knife and one not in warm]
    cut = building.bench.read.portions.cut if building.bench.read.portions is not None else None
    unit = building.bench.kitchen.kitchen.shown_in.length
    size = f" of {shown_length(cut.piece_length_mm, unit)} × {shown_length(cut.piece_width_mm, unit)}" if cut is not None else ""
    said = [f"{pieces_words(building.pieces)}{size}."]
    if warm:
        said.append(f"Break {listed([lower(one.name) for one in warm])} along the scores.")
    said.append(f"Knife: {'; '.join(knives)}." if knives else "")
    said.append(which_way_up)
    if len(stack) > 1 and building.lay(stack[0]).lay in {"in place", "sheet"}:
        said.append("Turned over, with the firm side up, it tears least.")
    gate = (
        f"The slab at {building.t(low, high)}."
        if low <= high
        else f"The slab at {building.t(min(high, low))}: what is softest decides."
    )
    building.last = building.add(
        "cut",
        "Cut the slab",
        [building.last],
        words=" ".join(one for one in said if one),
        hands_on_min=4.0 + 0.2 * building.pieces,
        most_wait_min=1440.0,
        gate=gate,
        tools=("knife", "ruler"),
    )
