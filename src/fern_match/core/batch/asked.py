"""How much a plan asks for, and in what gear: its cells as read, and the portions that follow."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from fern_match.core.batch.ball import ball_of
from fern_match.core.batch.cavity import in_mould
from fern_match.core.batch.day import COLDEST_C, WARMEST_C
from fern_match.core.batch.dipping import depth_for, spare_g
from fern_match.core.batch.plan import BatchPlan, Keeps, PlanBy
from fern_match.core.batch.portion import NoPortion, Piece, Portions, checked_pieces
from fern_match.core.batch.portions import by_amount, by_cutter, by_scoop, by_whole
from fern_match.core.batch.scale import Batch, scaled
from fern_match.core.batch.slab import cut_for, in_pan
from fern_match.core.batch.stock import stock
from fern_match.core.food.together import listed
from fern_match.core.formulate import Formula
from fern_match.core.kitchen import GearKind, GearReading, KitchenReading
from fern_match.core.measures import (
    Comma,
    Typed,
    read_celsius,
    read_count,
    read_grams,
    read_ingredient,
    read_millimetres,
    read_percent,
)
from fern_match.core.measures.pieces import MOST_PIECES
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Place

MOST_GEAR = 200
_TOLD_MM = 0.2
_DRIEST_PCT = 5.0
_MOST_BREAKS = 0.5
_MOST_CUT_MM, _MOST_SHELL_MM = 600.0, 20.0
_BY_GEAR = {  # what each way is made in, and what it is called
    PlanBy.PAN: ((GearKind.PAN,), "which pan"),
    PlanBy.MOULD: ((GearKind.MOULD, GearKind.CUP), "which mould or cups"),
    PlanBy.SCOOP: ((GearKind.SCOOP,), "which scoop"),
    PlanBy.CUTTER: ((GearKind.CUTTER,), "which cutter"),
}
_OF_A_LAYER = {PlanBy.SCOOP: "which layer it portions", PlanBy.CUTTER: "which layer is rolled out", PlanBy.AMOUNT: "which layer"}
_OF_PIECES = {PlanBy.PIECES, PlanBy.SCOOP, PlanBy.CUTTER}


def read_pieces(typed: str, comma: Comma) -> Typed:
    """How many pieces a batch is to give, 1 to 10,000: "24", "2 x 12"."""
    return read_count(typed, most=MOST_PIECES, what="number of pieces", comma=comma)


def read_cells(plan: BatchPlan, reading: StudyReading, kitchen: KitchenReading) -> dict[str, Typed]:
    """What was typed for how much and in what, by field of the plan.

    Args:
        plan: As typed.
        reading: For what a comma means, and what an ingredient weighs.
        kitchen: For its spoons.
    """
    comma, measures = reading.comma, kitchen.kitchen.measures
    food = reading.pantry.by_id.get(plan.whole)
    amount = (
        read_ingredient(plan.amount, food, measures=measures, comma=comma)
        if plan.by is PlanBy.WHOLE and food is not None
        else read_grams(plan.amount, comma=comma)
    )
    return {
        "pieces": read_pieces(plan.pieces, comma),
        "breaks": read_percent(plan.breaks, most=100 * _MOST_BREAKS, comma=comma),
        "room": read_celsius(plan.room, low_c=COLDEST_C, high_c=WARMEST_C, comma=comma),
        "humidity": _humidity(read_percent(plan.humidity, most=100.0, comma=comma)),
        "gear_count": read_count(plan.gear_count, most=MOST_GEAR, what="number of them", comma=comma),
        "cut_length": read_millimetres(plan.cut_length, most_mm=_MOST_CUT_MM, comma=comma),
        "cut_width": read_millimetres(plan.cut_width, most_mm=_MOST_CUT_MM, comma=comma),
        "trim": read_millimetres(plan.trim, most_mm=_MOST_CUT_MM / 4, comma=comma),
        "rolled": read_millimetres(plan.rolled, most_mm=_MOST_CUT_MM / 10, comma=comma),
        "amount": amount,
        "shell": read_millimetres(plan.shell, most_mm=_MOST_SHELL_MM, comma=comma),
        "cap": read_millimetres(plan.cap, most_mm=_MOST_SHELL_MM, comma=comma),
        "dip_depth": read_millimetres(plan.dip_depth, most_mm=_MOST_CUT_MM / 2, comma=comma),
    }


def _humidity(read: Typed) -> Typed:
    """Air is never quite dry."""
    if read.value is None or read.value >= _DRIEST_PCT:
        return read
    return replace(read, value=None, problem=f"{read.value:g} % was read; the air of a room has {_DRIEST_PCT:g} to 100 %.")


def fitting_gear(plan: BatchPlan, kitchen: KitchenReading) -> tuple[GearReading, ...]:
    """The kitchen's gear that a plan can be made in, the way it goes by."""
    kinds = _BY_GEAR[plan.by][0] if plan.by in _BY_GEAR else ()
    return tuple(one for one in kitchen.gear if one.gear.kind in kinds)


def bowls(kitchen: KitchenReading) -> tuple[GearReading, ...]:
    """The kitchen's bowls."""
    return tuple(one for one in kitchen.gear if one.gear.kind is GearKind.BOWL)


@dataclass(frozen=True, slots=True)
class Dip:
    """What is left of a coat in its bowl."""

    spare_g: Mapping[str, float]  # by layer
    words: str  # empty where nothing is dipped


@dataclass(frozen=True, slots=True)
class Asked:
    """A plan with all that it needs to be answered."""

    plan: BatchPlan
    cells: Mapping[str, Typed]
    formula: Formula
    reading: StudyReading
    kitchen: KitchenReading
    left_on_tools: Mapping[str, float]  # layer -> share that stays on tools [g/g]; the usual one elsewhere
    in_house: Mapping[str, Typed]  # ingredient -> as read [g]

    @property
    def piece(self) -> Piece:
        """A piece of the version."""
        build = {one.id: one for one in self.reading.study.layers}
        return Piece(self.formula, build, self.reading.pantry, self.reading.families)

    @property
    def rolled(self) -> frozenset[str]:
        """Ids of layers that a ball is rolled in: what lies on it."""
        placed = self.piece.build
        return frozenset(key for key, one in placed.items() if one.place is Place.TOPPING)

    @property
    def usual_cut(self) -> tuple[float, float, float] | None:
        """Length and width that make a coated piece as large as was measured, and its coat [mm]; None where nobody measured."""
        box = self.reading.size.box_mm
        return cut_for(self.piece, box) if box is not None else None

    @property
    def cut(self) -> tuple[float, float] | None:
        """How long and wide a piece is cut [mm]: as typed, else as usual; None where neither says."""
        usual = self.usual_cut
        sides = (self._value("cut_length"), self._value("cut_width"))
        long, wide = (own or (usual[at] if usual is not None else None) for at, own in enumerate(sides))
        return (long, wide) if long is not None and wide is not None else None

    def waits(self) -> str:
        """What is still to say before there is a batch; empty where nothing is.

        Raises:
            NoPortion: its gear is not in the kitchen any more.
        """
        by, said = self.plan.by, {key: one.value is not None for key, one in self.cells.items()}
        asked = [
            (by in _BY_GEAR and self._gear() is None, _BY_GEAR.get(by, ((), ""))[1]),
            (by is PlanBy.PAN and self.cut is None, "how long and wide a piece is cut"),
            (by in _OF_A_LAYER and not self.plan.portioned, _OF_A_LAYER.get(by, "")),
            (by is PlanBy.WHOLE and not self.plan.whole, "which ingredient"),
            (by in {PlanBy.AMOUNT, PlanBy.WHOLE} and not said["amount"], "how much of it"),
            (by in _OF_PIECES and not said["pieces"], "how many pieces"),
            (by is PlanBy.PAN and self.plan.keeps is Keeps.AMOUNTS and not said["pieces"], "for how many pieces the amounts are"),
            (
                by is PlanBy.HOUSE and all(one.value is None for one in self.in_house.values()),
                "what is in the house, in the list to have ready",
            ),
        ]
        missing = [words for lacks, words in asked if lacks]
        return f"Say {listed(missing)}, and the grams follow." if missing else ""

    def portions(self, dip: Dip) -> Portions | None:
        """How many pieces and how large; None while something is to say.

        Args:
            dip: What is left of a coat, for what the house is enough for.

        Raises:
            NoPortion: the gear cannot give a piece, or is not in the kitchen any more.
        """
        found = None if self.waits() else self._portioned(dip)
        if found is None or found.cut is not None or found.cavity is not None or found.sheet is not None:
            return found
        return replace(found, ball=ball_of(self.piece, found.factors))

    def _portioned(self, dip: Dip) -> Portions:
        plan, piece, gear, wanted = self.plan, self.piece, self._gear(), self._whole("pieces")
        filled, amount = self._whole("gear_count"), self._value("amount") or 0.0
        match plan.by:
            case PlanBy.PAN if gear is not None and self.cut is not None:
                trim = self._value("trim") or 0.0
                made = in_pan(piece, gear, self.cut, trim, pans=filled, wanted=wanted, keeps=plan.keeps)
                return replace(made, words=(*made.words, *self._cut_words()))
            case PlanBy.MOULD if gear is not None:
                measures = self.kitchen.kitchen.measures
                return in_mould(piece, gear, self._value("shell"), self._value("cap"), measures, moulds=filled, wanted=wanted)
            case PlanBy.SCOOP if gear is not None and wanted is not None:
                return by_scoop(piece, gear, plan.portioned, wanted)
            case PlanBy.CUTTER if gear is not None and wanted is not None:
                return by_cutter(piece, gear, plan.portioned, wanted, self._value("rolled"))
            case PlanBy.AMOUNT:
                layer = next((one for one in self._scaled(1).layers if one.layer_id == plan.portioned), None)
                return by_amount(piece, plan.portioned, amount, layer.left_on_tools if layer is not None else 0.0)
            case PlanBy.WHOLE:
                line = next((one for one in self._scaled(1).shopping if one.ingredient_id == plan.whole), None)
                return by_whole(line.name, amount, line.grams) if line is not None else by_whole(plan.whole, amount, 0.0)
            case PlanBy.HOUSE:
                return self._house(dip)
        return self._pieces(wanted or 1)

    def dip(self) -> Dip:
        """What must be left of the outermost coat in its bowl after the last piece.

        Raises:
            NoPortion: the bowl's size is not known, or it is not in the kitchen any more.
        """
        coats = [one for one in self.formula.layers if self.piece.is_coat(one) and one.finished_g > 0]
        if not self.plan.dip_bowl or not coats or self.plan.by is PlanBy.MOULD:
            return Dip({}, "")
        bowl = self._named(self.plan.dip_bowl)
        name, area, box, typed = bowl.gear.name, bowl.area_cm2, self.reading.size.box_mm, self._value("dip_depth")
        if area is None:
            raise NoPortion(f"{name}: {bowl.problem or 'its size is to say.'}")
        if box is not None and not bowl.takes(box[0], box[1]):
            return Dip({}, f"A piece of {box[0]:.0f} × {box[1]:.0f} mm does not lie in {name}: choose a wider one to dip from.")
        depth = depth_for(box[2] if box is not None else None) if typed is None else typed
        if bowl.depth.value is not None and depth > bowl.depth.value:
            raise NoPortion(f"{depth:g} mm of coat do not stand in {name}, {bowl.depth.value:g} mm deep.")
        left = spare_g(area, depth)
        how = "as said" if typed is not None else "its height and 5 mm" if box else "a usual piece and 5 mm"
        return Dip(
            {coats[0].layer_id: left},
            f"{name}: {depth:.0f} mm must stand in it for the last piece to go under ({how}), {left:.0f} g more than "
            "the pieces take. Spooned over the last ones, half of that does. What is left is good for bark or the next batch, "
            "sieved and tempered again; not where an allergen of this batch must not come.",
        )

    def _pieces(self, wanted: int) -> Portions:
        """The wanted pieces, and as many more as break."""
        made = checked_pieces(math.ceil(wanted / (1 - (self._value("breaks") or 0.0) / 100) - 1e-9))
        return Portions(pieces=made, words=(f"{made} are made, so that {wanted} are left.",) if made > wanted else ())

    def _cut_words(self) -> tuple[str, ...]:
        box, usual = self.reading.size.box_mm, self.usual_cut
        if box is None or usual is None or self.cut != usual[:2] or usual[2] < _TOLD_MM:
            return ()
        return (f"A coat of {usual[2]:.1f} mm all round brings that to the original’s {box[0]:.0f} × {box[1]:.0f} mm.",)

    def _house(self, dip: Dip) -> Portions:
        many = self._scaled(MOST_PIECES, dip)
        found = stock(many, self.in_house)
        if found.pieces is None:
            raise NoPortion("No piece takes anything of what is in the house.")
        if found.pieces < 1:
            name = next((one.name.lower() for one in many.shopping if one.ingredient_id == found.scarce), "of it")
            raise NoPortion(f"There is not enough {name} in the house for one piece.")
        words = "By what is in the house; what nobody looked for counts as there."
        return Portions(pieces=min(found.pieces, MOST_PIECES), words=(words,))

    def _scaled(self, pieces: int, dip: Dip | None = None) -> Batch:
        spare = dip.spare_g if dip is not None else None
        return scaled(self.formula, pieces, self.left_on_tools, self.reading.pantry, self.reading.families, spare_g=spare)

    def _gear(self) -> GearReading | None:
        """What the plan is made in; None while it is to choose, or where it was chosen for another way.

        Raises:
            NoPortion: the kitchen does not have it any more.
        """
        if not self.plan.gear or self.plan.by not in _BY_GEAR:
            return None
        found = self._named(self.plan.gear)
        return found if found in fitting_gear(self.plan, self.kitchen) else None

    def _named(self, gear_id: str) -> GearReading:
        found = next((one for one in self.kitchen.gear if one.gear.id == gear_id), None)
        if found is None:
            raise NoPortion("What this batch was made in is not in the kitchen any more. Choose again.")
        return found

    def _value(self, field: str) -> float | None:
        return self.cells[field].value

    def _whole(self, field: str) -> int | None:
        value = self._value(field)
        return int(value) if value is not None else None
