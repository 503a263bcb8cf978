"""Pieces: portioned or cut out, coated in rounds, strewn, set, counted and boxed.

Worked example: 24 pieces at 1.5 a minute want 16 minutes, and a bowl holds its heat for 14: two rounds of 12, warmed in between.
"""

import math
from collections.abc import Sequence

from fern_match.core.batch import BatchLayer, PlanBy, pieces_words
from fern_match.core.cook.building import (
    BUILD,
    Building,
    cold_coat,
    lower,
    per_piece,
    rescues_of,
    strewn,
    with_its_inclusions,
    working,
)
from fern_match.core.cook.cues import stage_cues
from fern_match.core.cook.layer_steps import names_of, step_id
from fern_match.core.cook.tables import CHOCOLATE
from fern_match.core.food.together import listed

_CHOKED_ON = frozenset(  # with their variants
    {"brittle", "chewy-sweet", "hard-sugar", "isomalt-hard-sugar", "marshmallow", "sugar-panned-shell", "toffee"}
)
_WHOLE = "nut"  # category of nuts in one piece, wherever they are
DIPPED_A_MIN = 1.5  # pieces by one pair of hands (approximate)
_BOWL_MIN = 14.0  # before the bowl is to be warmed again (approximate)
_LOOSE = "pieces"  # texture of what is counted and not rolled: nuts, fruit
_ROLLING_MIN, _ROLLING_MIN_A_PIECE = 45.0, 0.5  # a dozen coats of syrup by hand in a bowl (approximate)
_DIP_WORDS = {
    "fork": "Drop it in, lift it on a fork, tap it off on the rim, wipe the tines, set it down.",
    "fingers": "In clean gloves: roll it through, shake it off, set it down.",
    "skewer": "On a skewer: dip, turn it while it drips, push it off and close the hole with a drop.",
    "spoon": "On a rack over a tray: spoon the coat over until it runs off all round; scrape up what dripped.",
}


def _can_choke(building: Building) -> bool:
    """Whether small children choke on it: hard and chewy sweets, and whole nuts in any layer."""
    pantry, families = building.bench.pantry, building.bench.families
    return any(
        not _CHOKED_ON.isdisjoint(names_of(layer.family, families))
        or any(
            food.category == _WHOLE for line in layer.ingredients if (food := pantry.by_id.get(line.ingredient_id)) is not None
        )
        for layer in building.layers()
    )


def shaped(building: Building) -> None:
    """Adds the steps that portion one core, with what lies in it, and chill the pieces.

    Args:
        building: The steps so far.
    """
    stack, held = building.stack(), building.inclusions()
    if not stack:
        building.last = next((building.made[one.layer_id] for one in held), "")
        return
    core, others = stack[0], stack[1:]
    whole = [one for one in held if building.whole(one)]
    folded = [one for one in held if one not in whole]
    family = building.bench.families.by_id.get(core.family)
    loose = family is not None and family.traits.texture == _LOOSE
    many = "as many as weigh that" if loose else "weigh every fifth"
    said = [f"{pieces_words(building.pieces)} of {core.per_piece_g:.1f} g; {many}."]
    if folded:
        said.append(f"Work {listed([lower(one.name) for one in folded])} in first.")
    if whole:
        said.append(f"Close it round {listed([lower(one.name) for one in whole])}, {per_piece(whole[0])}.")
    scooped = building.bench.read.plan.by is PlanBy.SCOOP
    building.last = building.add(
        "shape",
        f"{'Scoop' if scooped else 'Count out' if loose else 'Portion and roll'} {lower(core.name)}",
        [building.made[one.layer_id] for one in (core, *held)],
        words=" ".join(said),
        hands_on_min=3.0 + 0.4 * building.pieces,
        tools=("scoop",) if scooped else ("scale",),
        rescues=rescues_of(building, core),
    )
    for one in others:
        building.last = building.add(
            f"lay-{one.layer_id}",
            f"Wrap {lower(one.name)} round it",
            [building.made[one.layer_id], building.last],
            words=f"{one.per_piece_g:.3g} g a piece, pressed on evenly.",
            hands_on_min=2.0 + 0.3 * building.pieces,
            rescues=rescues_of(building, one),
        )
    building.last = building.set_down("chill", "the pieces", building.lay(core).set_of, building.last)


def on_cut_pieces(building: Building) -> None:
    """Adds the steps that bring layers onto pieces that are cut out one by one.

    Args:
        building: The steps so far.
    """
    for number, layer in enumerate(building.stack()):
        ready = with_its_inclusions(building, layer)
        if number == 0:
            building.last = ready
            continue
        lay = building.lay(layer)
        soft = lay.lay in {"pipe", "pour", "spread"}
        on = building.add(
            f"lay-{layer.layer_id}",
            f"{'Pipe' if soft else 'Lay'} {lower(layer.name)} onto each piece",
            [building.last, ready],
            words=f"{layer.per_piece_g:.3g} g a piece.",
            hands_on_min=2.0 + 0.25 * building.pieces,
            gate=f"{layer.name} at {building.t(*lay.at_c)}." if lay.at_c is not None else "",
            rescues=rescues_of(building, layer),
        )
        building.last = building.set_down(f"set-{layer.layer_id}", lower(layer.name), lay.set_of, on)


def coated(building: Building) -> None:
    """Adds the steps that coat the pieces, from the inner coat to the outer, with what is strewn on.

    Args:
        building: The steps so far.
    """
    coats, shells = building.coats(), building.shells()
    for number, coat in enumerate(coats):
        _coat(building, coat, building.toppings() if number == len(coats) - 1 and not shells else ())
    rolled(building, building.toppings())
    if not coats and not shells and not any(one.id.startswith(step_id(BUILD, "strew")) for one in building.steps):
        for one in building.toppings():
            building.last = strewn(building, one, building.last)


def rolled(building: Building, toppings: Sequence[BatchLayer] = ()) -> None:
    """Adds the steps of shells of sugar, from the inner to the outer.

    Args:
        building: The steps so far.
        toppings: What comes into the outermost.
    """
    shells = building.shells()
    for number, shell in enumerate(shells):
        _rolled(building, shell, toppings if number == len(shells) - 1 else ())


def _rolled(building: Building, shell: BatchLayer, toppings: Sequence[BatchLayer]) -> None:
    """Thin coats of syrup on pieces that are rolled, each dry before the next."""
    on = building.add(
        f"roll-{shell.layer_id}",
        f"Roll the pieces in {lower(shell.name)}, coat by coat",
        [building.last, with_its_inclusions(building, shell), *(building.made[one.layer_id] for one in toppings)],
        words=" ".join(
            [
                "In a wide bowl, never more than half full: a spoonful of the warm syrup at a time, rolled until every piece is "
                "wet, then until they are loose and dull again; a pinch of starch where they stick. Ten to thirty coats, sieved "
                "free of crumbs between; colour in the last few, glaze when all is dry.",
                f"{shell.per_piece_g:.1f} g of dry shell a piece: weigh ten now and then.",
                *(f"{one.name} into the last coat: {per_piece(one)}." for one in toppings),
            ]
        ),
        hands_on_min=_ROLLING_MIN + _ROLLING_MIN_A_PIECE * building.pieces,
        gate=f"Pieces smooth, firm and dry; chocolate centres below {building.t(20)} and sealed with gum or starch.",
        tools=("bowl", "tray"),
        most_wait_min=60.0,
        rescues=rescues_of(building, shell),
    )
    building.last = building.set_down(f"set-{shell.layer_id}", lower(shell.name), building.lay(shell).set_of, on)


def _coat(building: Building, coat: BatchLayer, toppings: Sequence[BatchLayer]) -> None:
    rounds = max(1, math.ceil(building.pieces / (_BOWL_MIN * DIPPED_A_MIN)))
    each = math.ceil(building.pieces / rounds)
    school, heat = building.bench.school("dip") or "fork", working(building, coat)
    dipped = bool(building.stack())
    said = [
        _DIP_WORDS[school] if dipped else "Pour it into lined forms or drop it by the spoonful, tap it level.",
        f"{coat.per_piece_g:.1f} g of coat a piece.",
        *(f"{one.name} on at once, before the coat dulls: {per_piece(one)}." for one in toppings),
    ]
    if rounds > 1:
        said.append(f"{rounds} rounds of {each}: warm the bowl by a degree or two between them, what waits stays cold.")
    on = building.add(
        f"dip-{coat.layer_id}",
        f"Coat the pieces in {lower(coat.name)}" if dipped else f"Pour {lower(coat.name)} into its forms",
        [building.last, with_its_inclusions(building, coat), *(building.made[one.layer_id] for one in toppings)],
        words=" ".join(said),
        hands_on_min=each / DIPPED_A_MIN,
        rounds=rounds,
        round_words=f"{each} pieces a round" if rounds > 1 else "",
        gate=_gate(building, coat) if dipped else "Forms dry and at room heat.",
        heat=heat,
        cues=stage_cues("work", heat.aim_c if heat is not None else None),
        tools=("bowl", school, "tray") if dipped else ("bowl", "tray"),
        cautions=("steam",),
        most_wait_min=5.0,
        rescues=(CHOCOLATE,),
    )
    building.last = building.set_down(f"set-{coat.layer_id}", lower(coat.name), CHOCOLATE, on, rescues=(CHOCOLATE,))


def _gate(building: Building, coat: BatchLayer) -> str:
    if cold_coat(building, coat):
        return "Pieces cold from the fridge, dry on the outside."
    return f"Pieces at {building.t(20, 24)}, dry on the outside; the coat at its working heat, tested on foil."


def _counted(building: Building, piece_g: float) -> str:
    lots = building.bench.read.lots
    if lots is None or not lots.made:
        return f"Count them and weigh ten: {piece_g:.1f} g each is meant."
    meant = listed([f"{one.piece_g:.1f} g of “{one.name}”" for one in lots.made])
    return f"Count them and weigh some of each lot: {meant} are meant."


def kept(building: Building) -> None:
    """Adds the last step: count, weigh, rest, box.

    Args:
        building: The steps so far.
    """
    batch, coats = building.bench.read.batch, building.coats()
    cold = any(cold_coat(building, one) for one in coats)
    tempered = any(building.bench.school("coat", one.layer_id) == "temper" for one in coats)
    said = [_counted(building, batch.piece_g) if batch is not None else "", building.bench.read.lots_words]
    if tempered:
        said.append(f"Let them rest at {building.t(16, 18)} for a day: the coat gains its snap.")
    if cold:
        said.append(
            f"Box them, keep them at {building.t(5, 16)}, serve them cold; they warm up in the closed box, or they sweat."
        )
    elif not tempered:
        said.append("Box them airtight once they are cold.")
    wrapping = building.bench.read.wrapping
    said += [f"{one.name}: {one.words}" for one in (wrapping.lines if wrapping is not None else ()) if one.count is not None]
    said.append("The card says what is in them and when they were made.")
    building.add(
        "keep",
        "Count, weigh and box them",
        [building.last],
        words=" ".join(one for one in said if one),
        hands_on_min=3.0 + 0.1 * building.pieces,
        tools=("scale", "box"),
        cautions=("choke",) if _can_choke(building) else (),
    )
