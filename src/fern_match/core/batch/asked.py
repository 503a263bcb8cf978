"""How much a plan asks for, and in what gear: its cells as read, and the portions that follow."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from fern_match.core.batch.cavity import in_mould
from fern_match.core.batch.day import COLDEST_C, WARMEST_C
from fern_match.core.batch.dipping import depth_for, spare_g
from fern_match.core.batch.plan import BatchPlan, Keeps, PlanBy
from fern_match.core.batch.portion import NoPortion, Piece, Portions
from fern_match.core.batch.portions import by_amount, by_cutter, by_scoop, by_whole
from fern_match.core.batch.scale import scaled
from fern_match.core.batch.slab import in_pan
from fern_match.core.batch.stock import stock
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

MOST_GEAR = 200
_DRIEST_PCT = 5.0
_MOST_BREAKS = 0.5
_MOST_CUT_MM, _MOST_SHELL_MM = 600.0, 20.0
_KINDS = {
    PlanBy.PAN: (GearKind.PAN,),
    PlanBy.MOULD: (GearKind.MOULD, GearKind.CUP),
    PlanBy.SCOOP: (GearKind.SCOOP,),
    PlanBy.CUTTER: (GearKind.CUTTER,),
}


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


@dataclass(frozen=True, slots=True)
class Asked:
    """A plan with all that it needs to be answered."""

    plan: BatchPlan
    cells: Mapping[str, Typed]
    formula: Formula
    reading: StudyReading
    kitchen: KitchenReading

    @property
    def piece(self) -> Piece:
        """A piece of the version."""
        build = {one.id: one for one in self.reading.study.layers}
        return Piece(self.formula, build, self.reading.pantry, self.reading.families)

    def portions(self, left_on_tools: Mapping[str, float], in_house: Mapping[str, Typed]) -> Portions | None:
        """How many pieces and how large; None while something is to say.

        Args:
            left_on_tools: Layer id -> share that stays on tools [g/g]; the usual one elsewhere.
            in_house: Ingredient id -> amount in the house as read [g].

        Raises:
            NoPortion: the gear cannot give a piece, or is not in the kitchen any more.
        """
        plan, pieces = self.plan, self._with_spare(self._whole("pieces"))
        match plan.by:
            case PlanBy.PIECES:
                return Portions(pieces=pieces, words=self._spare_words(pieces)) if pieces is not None else None
            case PlanBy.PAN:
                return self._pan(pieces)
            case PlanBy.MOULD:
                mould = self._gear()
                if mould is None:
                    return None
                spoons = self.kitchen.kitchen.measures
                rounds = self._count(mould.pieces, pieces)
                made = in_mould(self.piece, mould, rounds, self._mm("shell"), self._mm("cap"), spoons)
                return self._as_many(made, pieces, mould.pieces, rounds)
            case PlanBy.SCOOP:
                scoop = self._gear()
                if scoop is None or pieces is None or not plan.portioned:
                    return None
                return by_scoop(self.piece, scoop, plan.portioned, pieces)
            case PlanBy.CUTTER:
                cutter = self._gear()
                if cutter is None or pieces is None or not plan.portioned:
                    return None
                return by_cutter(self.piece, cutter, plan.portioned, pieces, self._mm("rolled"))
            case PlanBy.AMOUNT:
                grams = self.cells["amount"].value
                if grams is None or not plan.portioned:
                    return None
                one = scaled(self.formula, 1, left_on_tools, self.reading.pantry, self.reading.families)
                share = next((layer.left_on_tools for layer in one.layers if layer.layer_id == plan.portioned), 0.0)
                return by_amount(self.piece, plan.portioned, grams, share)
            case PlanBy.WHOLE:
                return self._whole_units(left_on_tools)
            case PlanBy.HOUSE:
                return self._house(left_on_tools, in_house)

    def dipped(self, portions: Portions) -> tuple[dict[str, float], str]:
        """What must be left of each coat in its bowl after the last piece [g], and what that means, in words.

        Args:
            portions: What is made.

        Raises:
            NoPortion: the bowl's size is not known, or it is not in the kitchen any more.
        """
        plan = self.plan
        coats = [one for one in self.formula.layers if self.piece.is_coat(one) and one.finished_g > 0]
        if not plan.dip_bowl or not coats or portions.cavity is not None:
            return {}, ""
        bowl = self._named(plan.dip_bowl)
        area = bowl.area_cm2
        if area is None:
            raise NoPortion(f"{bowl.gear.name}: {bowl.problem or 'its size is to say.'}")
        box = self.reading.size.box_mm
        typed = self._mm("dip_depth")
        depth = depth_for(box[2] if box is not None else None) if typed is None else typed
        if bowl.depth.value is not None and depth > bowl.depth.value:
            raise NoPortion(f"{depth:g} mm of coat do not stand in {bowl.gear.name}, {bowl.depth.value:g} mm deep.")
        left = spare_g(area, depth)
        how = "as said" if typed is not None else "its height and 5 mm" if box else "a usual piece and 5 mm"
        words = (
            f"{bowl.gear.name}: {depth:.0f} mm must stand in it for the last piece to go under ({how}), {left:.0f} g more than "
            "the pieces take. Spooned over the last ones, half of that does. What is left is good for bark or the next batch, "
            "sieved and tempered again; not where an allergen of this batch must not come."
        )
        return {one.layer_id: left for one in coats[:1]}, words

    def _pan(self, pieces: int | None) -> Portions | None:
        pan, box = self._gear(), self.reading.size.box_mm
        long, wide = self._mm("cut_length"), self._mm("cut_width")
        if long is None and wide is None and box is not None:
            long, wide = box[0], box[1]
        if pan is None or long is None or wide is None:
            return None
        amounts = self.plan.keeps is Keeps.AMOUNTS
        if amounts and pieces is None:
            return None
        trim = self._mm("trim") or 0.0
        if amounts:
            return in_pan(self.piece, pan, self._count(), (long, wide), trim, pieces)
        each = in_pan(self.piece, pan, 1, (long, wide), trim, None).pieces
        return in_pan(self.piece, pan, self._count(each, pieces), (long, wide), trim, None)

    def _whole_units(self, left_on_tools: Mapping[str, float]) -> Portions | None:
        grams, key = self.cells["amount"].value, self.plan.whole
        if grams is None or not key:
            return None
        one = scaled(self.formula, 1, left_on_tools, self.reading.pantry, self.reading.families)
        takes = sum(line.grams for line in one.shopping if line.ingredient_id == key)
        name = next((line.name for line in one.shopping if line.ingredient_id == key), key)
        return by_whole(name, grams, takes)

    def _house(self, left_on_tools: Mapping[str, float], in_house: Mapping[str, Typed]) -> Portions | None:
        many = scaled(self.formula, MOST_PIECES, left_on_tools, self.reading.pantry, self.reading.families)
        found = stock(many, in_house)
        if found.pieces is None:
            return None
        if found.pieces < 1:
            name = next((one.name.lower() for one in many.shopping if one.ingredient_id == found.scarce), "it")
            raise NoPortion(f"There is not enough {name} in the house for one piece.")
        words = "By what is in the house; what nobody looked for counts as there."
        return Portions(pieces=min(found.pieces, MOST_PIECES), words=(words,))

    def _gear(self) -> GearReading | None:
        """What the plan is made in; None while it is to choose.

        Raises:
            NoPortion: the kitchen does not have it any more, or it is of another kind.
        """
        if not self.plan.gear:
            return None
        found = self._named(self.plan.gear)
        if found.gear.kind not in _KINDS[self.plan.by]:
            return None  # chosen for another way, before
        return found

    def _named(self, gear_id: str) -> GearReading:
        found = next((one for one in self.kitchen.gear if one.gear.id == gear_id), None)
        if found is None:
            raise NoPortion("What this batch was made in is not in the kitchen any more. Choose again.")
        return found

    def _count(self, each: int = 1, pieces: int | None = None) -> int:
        """How many of the gear are filled: as said, else as many as the pieces that are wanted take, else one."""
        said = self._whole("gear_count")
        return said if said is not None else 1 if pieces is None else max(1, math.ceil(pieces / each))

    def _as_many(self, made: Portions, pieces: int | None, each: int, rounds: int) -> Portions:
        """As many pieces as are wanted, where rounds followed from them; the last round may stay part empty."""
        if pieces is None or self._whole("gear_count") is not None or pieces >= made.pieces:
            return made
        last = pieces - each * (rounds - 1)
        filled = f"Filled {rounds} times, the last time {last} of {each}." if rounds > 1 else f"{last} of {each} are filled."
        return replace(made, pieces=pieces, words=(*made.words, filled))

    def _with_spare(self, pieces: int | None) -> int | None:
        """So many made that the wanted ones are left once some broke."""
        lost = (self.cells["breaks"].value or 0.0) / 100
        if pieces is None or self.plan.by is not PlanBy.PIECES:
            return pieces
        return min(MOST_PIECES, math.ceil(pieces / (1 - lost) - 1e-9))

    def _spare_words(self, made: int) -> tuple[str, ...]:
        wanted = self._whole("pieces")
        return (f"{made} are made, so that {wanted} are left.",) if wanted is not None and made > wanted else ()

    def _whole(self, field: str) -> int | None:
        value = self.cells[field].value
        return int(value) if value is not None else None

    def _mm(self, field: str) -> float | None:
        return self.cells[field].value
