"""What is done with the layers once they are made: in which way the gear asks for.

Worked example: two layers and a coat in a pan are a slab that is cut and dipped; in a mould they are cast the other way up.
"""

from enum import StrEnum

from fern_match.core.batch import PlanBy
from fern_match.core.cook.building import Building
from fern_match.core.cook.mould_steps import in_cups, in_mould
from fern_match.core.cook.piece_steps import coated, kept, on_cut_pieces, rolled, shaped
from fern_match.core.cook.slab_steps import in_slab
from fern_match.core.cook.step import Step
from fern_match.core.cook.tables import method_of
from fern_match.core.kitchen import GearKind, GearReading
from fern_match.core.study.record import Place as LayerPlace

_BY_HAND_C = 45.0  # what is laid hotter is not shaped by hand
_CUT_OUT = "biscuit"  # the way of making of what is rolled and cut out one by one


class Way(StrEnum):
    """How the layers come together."""

    SLAB = "slab"
    MOULD = "mould"
    CUPS = "cups"
    CUT = "cut"  # pieces cut out one by one
    SHAPED = "shaped"  # one core, portioned


def way_of(building: Building) -> Way:
    """How the layers come together: as the batch's gear says, else as they ask for themselves.

    What stays liquid goes into a shell, whether a mould is chosen or not.

    Args:
        building: With its layers.
    """
    plan, stack = building.bench.read.plan, building.stack()
    gear = _gear(building)
    if gear is not None:
        return Way.CUPS if gear.gear.kind is GearKind.CUP else Way.MOULD
    if plan.by in {PlanBy.CUTTER, PlanBy.SCOOP}:
        return Way.CUT if plan.by is PlanBy.CUTTER else Way.SHAPED
    lays = [building.lay(one) for one in stack]
    if building.coats() and any(one.lay == "pipe" and one.set_of == "none" for one in lays):
        return Way.MOULD
    if stack and method_of(stack[0].family, building.bench.families) == _CUT_OUT:
        return Way.CUT
    core = len(stack) == 1 and lays[0].lay not in {"sheet", "in place"} and (lays[0].at_c or (0.0, 0.0))[1] <= _BY_HAND_C
    round_one = core and (building.placed(stack[0]) is LayerPlace.CORE or any(map(building.whole, building.inclusions())))
    return Way.SHAPED if not stack or round_one else Way.SLAB


def built(building: Building) -> tuple[Step, ...]:
    """The steps that bring the layers together.

    Args:
        building: With its layers made.
    """
    way, gear = way_of(building), _gear(building)
    building.sets_in = way in {Way.MOULD, Way.CUPS}
    if way is Way.CUPS:
        in_cups(building)
    elif way is Way.MOULD:
        in_mould(building, gear.pieces if gear is not None else building.pieces, halves=gear is not None and gear.gear.halves)
        rolled(building)
    else:
        {Way.CUT: on_cut_pieces, Way.SHAPED: shaped, Way.SLAB: in_slab}[way](building)
        coated(building)
    kept(building)
    return tuple(building.steps)


def _gear(building: Building) -> GearReading | None:
    """The mould or the cups that the batch is made in; None where it is made in none."""
    plan = building.bench.read.plan
    if plan.by is not PlanBy.MOULD:
        return None
    return next((one for one in building.bench.kitchen.gear if one.gear.id == plan.gear), None)
