"""Cavities and lined cups: shell, filling, cap, in rounds where cavities are few; what is cast first is the top.

Worked example: 24 bars in a mould of 8 cavities are three rounds of shell, filling, cap and turning out.
"""

import math
from collections.abc import Sequence
from typing import Any

from fern_match.core.batch import BatchLayer, CavityPart
from fern_match.core.cook.building import Building, lower, per_piece, rescues_of, strewn, with_its_inclusions, working
from fern_match.core.cook.cues import stage_cues
from fern_match.core.cook.minutes import tray_cooling_min
from fern_match.core.cook.step import Place
from fern_match.core.cook.tables import CHOCOLATE, CUP, SHELL

_CAN_WAIT_MIN = 60.0  # a filling that waits so long is made before the chocolate is melted
_FILL_MOST_C, _FILL_MOST_MILK_C = 30.0, 28.0
_TRAY_MM = 12.0  # how thick a filling is spread to cool (approximate)


def in_mould(building: Building, each: int, *, halves: bool) -> None:
    """Adds the steps of moulded pieces, the other way up than they are eaten.

    Args:
        building: The steps so far.
        each: Pieces that come out of the mould at once, 1 or more.
        halves: Whether two of what comes out are joined.
    """
    rounds = max(1, math.ceil(building.pieces / max(1, each)))
    block: dict[str, Any] = {"rounds": rounds, "block": "mould", "round_words": f"{each} at a time" if rounds > 1 else ""}
    shell = _outer(building)
    ready = {one.layer_id: _cooled(building, one, shell) for one in building.stack()}
    if shell is not None:
        _shell(building, shell, each, _made_before(building, ready), block)
    for layer in reversed(building.stack()):
        _fill(building, layer, ready[layer.layer_id], shell, each, block)
    for one in _set_in(building):
        _one_each(building, one, each, block)
    if shell is not None and not halves:
        _cap(building, shell, each, block)
    _turn_out(building, each, block, halves=halves, with_shell=shell is not None)
    for one in building.toppings():
        building.last = strewn(building, one, building.last)


def _outer(building: Building) -> BatchLayer | None:
    coats = building.coats()
    return coats[-1] if coats else None


def _fill_c(building: Building, shell: BatchLayer) -> float:
    family = building.bench.families.by_id.get(shell.family)
    return _FILL_MOST_C if family is not None and family.chocolate == "dark" else _FILL_MOST_MILK_C


def _cooled(building: Building, layer: BatchLayer, shell: BatchLayer | None) -> str:
    """The step after which a filling can go in: one that is made hot cools first, or it melts the shell."""
    ready = with_its_inclusions(building, layer)
    at_c = building.lay(layer).at_c
    if shell is None or at_c is None or at_c[1] <= _fill_c(building, shell) + 6:
        return ready
    to_c = _fill_c(building, shell)
    return building.add(
        f"cool-{layer.layer_id}",
        f"Let {lower(layer.name)} cool to {building.t(to_c)}",
        [ready],
        words="Spread it thin on a tray, covered, so that no skin forms.",
        hands_on_min=1.0,
        wait_min=tray_cooling_min(_TRAY_MM, sum(at_c) / 2, to_c, building.bench.room_c),
        place=Place.ROOM,
        most_wait_min=1440.0,
    )


def _shell(building: Building, shell: BatchLayer, each: int, before: Sequence[str], block: dict[str, Any]) -> None:
    part = _part(building, shell.layer_id)
    stays = "" if part is None else f"{part.grams:.1f} g stay in each, cap included: weigh the mould empty and lined to see it."
    on = building.add(
        f"shell-{shell.layer_id}",
        f"Cast the shells in {lower(shell.name)}",
        [*before, with_its_inclusions(building, shell)],
        words=f"Fill every cavity, tap the air out, pour it back, scrape the rims clean. {stays}".strip(),
        hands_on_min=2.0 + 0.2 * each,
        gate="Mould polished with cotton, dry and at room heat; the coat at its working heat, tested on foil.",
        heat=working(building, shell),
        cues=stage_cues("work", heat.aim_c if (heat := working(building, shell)) is not None else None),
        cautions=("steam", "moulds"),
        rescues=(CHOCOLATE, SHELL),
        most_wait_min=2.0,
        **block,
    )
    building.last = building.set_down("set-shell", "the shells", SHELL, on, rescues=(CHOCOLATE, SHELL), **block)


def _fill(building: Building, layer: BatchLayer, ready: str, shell: BatchLayer | None, each: int, block: dict[str, Any]) -> None:
    gate = f"At {building.t(_fill_c(building, shell))} at most, or it melts the shell." if shell is not None else ""
    building.last = building.add(
        f"lay-{layer.layer_id}",
        f"Fill in {lower(layer.name)}",
        [building.last, ready],
        words=f"{_cavity_words(building, layer)} Not up to the rim: the cap needs its room.",
        hands_on_min=1.0 + 0.2 * each,
        gate=gate,
        rescues=rescues_of(building, layer),
        **block,
    )
    if building.lay(layer).set_of != "none":
        building.last = building.set_down(f"set-{layer.layer_id}", lower(layer.name), CUP, building.last, **block)


def _one_each(building: Building, one: BatchLayer, each: int, block: dict[str, Any]) -> None:
    building.last = building.add(
        f"lay-{one.layer_id}",
        f"Set {lower(one.name)} in",
        [building.last, building.made[one.layer_id]],
        words=f"{per_piece(one).capitalize()}, dry on the outside, pressed in below the rim.",
        hands_on_min=1.0 + 0.1 * each,
        cautions=("choke",),
        **block,
    )


def _cap(building: Building, shell: BatchLayer, each: int, block: dict[str, Any]) -> None:
    on = building.add(
        "cap",
        f"Cap with {lower(shell.name)}",
        [building.last],
        words="Warm the rims with a breath of warm air, pour the cap on, scrape it off in one stroke.",
        hands_on_min=1.0 + 0.1 * each,
        gate="Filling skinned over and cold; the coat at its working heat again.",
        heat=working(building, shell),
        rescues=(CHOCOLATE, SHELL),
        **block,
    )
    building.last = building.set_down("set-cap", "the caps", SHELL, on, rescues=(CHOCOLATE, SHELL), **block)


def _turn_out(building: Building, each: int, block: dict[str, Any], *, halves: bool, with_shell: bool) -> None:
    building.last = building.add(
        "unmould",
        "Turn them out",
        [building.last],
        words="Turn the mould over onto a cloth and tap it once: what was cast first is the top now.",
        hands_on_min=1.0 + 0.05 * each,
        gate="They have come away from the mould: it looks frosted from below." if with_shell else "",
        rescues=(SHELL,),
        **block,
    )
    if halves:
        building.last = building.add(
            "join",
            "Join the halves",
            [building.last],
            words="Warm the rims on a warm plate for a second, press two together, smooth the seam with a warm finger.",
            hands_on_min=2.0 + 0.3 * building.pieces,
        )


def _part(building: Building, layer_id: str) -> CavityPart | None:
    portions = building.bench.read.portions
    cavity = portions.cavity if portions is not None else None
    return next((one for one in cavity.parts if one.layer_id == layer_id), None) if cavity is not None else None


def _cavity_words(building: Building, layer: BatchLayer) -> str:
    part = _part(building, layer.layer_id)
    if part is None:
        return f"{layer.per_piece_g:.1f} g each."
    return f"{part.grams:.1f} g each{f', {part.spoons}' if part.spoons else ''}."


def _set_in(building: Building) -> list[BatchLayer]:
    """What goes into each cavity by itself: what lies in no layer that is there, and whole fruits and nuts."""
    loose = building.inside(None)
    return [one for one in building.inclusions() if one in loose or building.whole(one)]


def _made_before(building: Building, ready: dict[str, str]) -> list[str]:
    """Steps that are done before chocolate is melted: fillings that can wait, and what is set in."""
    ends = {step.id: step for step in (*building.ready, *building.steps)}
    waits = [*ready.values(), *(building.made[one.layer_id] for one in _set_in(building))]
    return [one for one in waits if one in ends and _waits(ends[one].most_wait_min)]


def _waits(most_min: float | None) -> bool:
    return most_min is None or most_min >= _CAN_WAIT_MIN


def in_cups(building: Building) -> None:
    """Adds the steps of lined cups, from below.

    Args:
        building: The steps so far.
    """
    shell = _outer(building)
    ready = {one.layer_id: _cooled(building, one, shell) for one in building.stack()}
    if shell is not None:
        _floor(building, shell, _made_before(building, ready))
    for layer in building.stack():
        on = building.add(
            f"lay-{layer.layer_id}",
            f"Fill in {lower(layer.name)}",
            [building.last, ready[layer.layer_id]],
            words=f"{_cavity_words(building, layer)} Flatten it with a wet finger or tap the tray; it must not reach the rim.",
            hands_on_min=1.0 + 0.25 * building.pieces,
            gate=f"At {building.t(_fill_c(building, shell))} at most, or it melts the floor." if shell is not None else "",
            rescues=rescues_of(building, layer),
        )
        building.last = building.set_down(f"set-{layer.layer_id}", lower(layer.name), CUP, on)
    for one in _set_in(building):
        _one_each(building, one, building.pieces, {})
    if shell is not None:
        _lid(building, shell)
    else:
        for one in building.toppings():
            building.last = strewn(building, one, building.last)


def _floor(building: Building, shell: BatchLayer, before: Sequence[str]) -> None:
    on = building.add(
        f"floor-{shell.layer_id}",
        f"Line the cups with {lower(shell.name)}",
        [*before, with_its_inclusions(building, shell)],
        words=f"Half of the coat: a spoonful in each, drawn up the side with a brush. In all {_cavity_words(building, shell)}",
        hands_on_min=2.0 + 0.3 * building.pieces,
        heat=working(building, shell),
        cues=stage_cues("work", heat.aim_c if (heat := working(building, shell)) is not None else None),
        cautions=("steam",),
        rescues=(CHOCOLATE,),
        most_wait_min=5.0,
    )
    building.last = building.set_down("set-floor", "the floor", CUP, on, rescues=(CHOCOLATE,))


def _lid(building: Building, shell: BatchLayer) -> None:
    toppings = building.toppings()
    on = building.add(
        "lid",
        f"Cover with {lower(shell.name)}",
        [*(building.made[one.layer_id] for one in toppings), building.last],
        words="The other half of the coat, warmed again: from the rim inwards, tap it level."
        + "".join(f" {one.name} on while it is wet: {per_piece(one)}." for one in toppings),
        hands_on_min=1.0 + 0.2 * building.pieces,
        gate="Filling firm and cold; the coat at its working heat again.",
        heat=working(building, shell),
        rescues=(CHOCOLATE,),
    )
    building.last = building.set_down("set-lid", "the cups", CUP, on, rescues=(CHOCOLATE,))
