"""The steps that make one layer, from its family's way of making and this kitchen's schools and tools.

Worked example: a soft caramel with cream, sugar dissolved wet: warm the cream (nothing before it), boil sugar and syrup clear
(nothing before it), add cream and fat (after both), cook to 118 °C, salt and vanilla in.
"""

import math
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.batch import BatchIngredient, BatchLayer, HeatHere, WeightHere, cue_for, in_turn, own_end_words
from fern_match.core.cook.boils import boil_of, minutes_of
from fern_match.core.cook.cues import boil_cues, stage_cues
from fern_match.core.cook.lines import Taken, matches, shared_out
from fern_match.core.cook.minutes import baking_min, setting_min, tray_cooling_min
from fern_match.core.cook.schools import JOIN
from fern_match.core.cook.step import Bench, Boil, Cue, Heat, Place, Stage, Step, Use
from fern_match.core.cook.tables import (
    CHOCOLATE,
    SHELL,
    Spread,
    StepRow,
    bakes,
    by_family,
    ingredient_words,
    method_of,
    roasts,
    settings,
    step_rows,
    windows,
)
from fern_match.core.cook.tempering import seed_words
from fern_match.core.cook.tools import without_tools
from fern_match.core.families import Families
from fern_match.core.food.together import listed
from fern_match.core.measures.shown import shown_temperature
from fern_match.core.physics.heat import HOB_KW

_SHEET_G = 28.0  # of batter in one wafer sheet of a home iron (approximate)
_MOST_HANDS = 90.0


def names_of(family_id: str, families: Families) -> tuple[str, ...]:
    """A family and all that it is a variant of, itself first.

    Args:
        family_id: Of a layer.
        families: For what it is a variant of.
    """
    names, seen = [family_id], families[family_id].variant_of if family_id in families else None
    while seen is not None:
        names.append(seen)
        seen = families[seen].variant_of if seen in families else None
    return tuple(names)


def step_id(layer_id: str, key: str) -> str:
    """A step's id.

    Args:
        layer_id: Of its layer; "build" of what is done with the pieces.
        key: Of the step in its way of making.
    """
    return f"{layer_id}{JOIN}{key}"


@dataclass(frozen=True, slots=True)
class LayerAt:
    """A layer to be made, and what is known of where it will lie."""

    layer: BatchLayer
    thickness_mm: float | None
    where: str  # room, fridge, freezer, or usual: where things set


def rows_for(layer: BatchLayer, bench: Bench) -> tuple[StepRow, ...]:
    """The steps of a layer's way of making that are taken here.

    Args:
        layer: Of the batch.
        bench: The kitchen and its schools.
    """
    rows = step_rows()[method_of(layer.family, bench.families)]
    kept = [row for row in rows if _applies(row, layer, bench)]
    taken = shared_out(kept, layer.ingredients, bench.pantry)
    return tuple(row for row in kept if row.when != ("lines",) or taken[row.key])


def _applies(row: StepRow, layer: BatchLayer, bench: Bench) -> bool:
    for one in row.when:
        if one == "lines":
            continue
        if one == "in=pan":
            if not bench.in_pan:
                return False
        elif one.startswith("lines="):
            tokens = one.removeprefix("lines=").split("|")
            there = (line for line in layer.ingredients if line.grams > 0 or line.unread)
            if not any(matches(token, line, bench.pantry) for line in there for token in tokens):
                return False
        else:
            asked, _, option = one.partition("=")
            if bench.school(asked, layer.layer_id) != option:
                return False
    return True


def steps_of(at: LayerAt, bench: Bench) -> tuple[Step, ...]:
    """The steps that make a layer, in their order.

    Args:
        at: The layer and where it will lie.
        bench: The kitchen and its schools.
    """
    rows = rows_for(at.layer, bench)
    taken = shared_out(rows, at.layer.ingredients, bench.pantry)
    made: list[Step] = []
    for number, row in enumerate(rows):
        step = _Making(at, bench, row, taken, rows[:number]).step()
        made.append(replace(step, needs=_needs(row, rows[:number], at.layer.layer_id)))
    return tuple(without_tools(step, row.key, bench) for step, row in zip(made, rows, strict=True))


def _needs(row: StepRow, before: Sequence[StepRow], layer_id: str) -> tuple[str, ...]:
    """What a step waits for in its own layer: of what the table names what is there; where it names nothing, the one before."""
    there = {one.key for one in before}
    if not row.needs:
        found = [before[-1].key] if before else []
    elif "|" in row.needs:  # the first of them that is there
        found = [one for one in row.needs.split("|") if one in there][:1]
    else:
        found = [one for one in row.needs.split("+") if one in there]
    return tuple(step_id(layer_id, one) for one in found)


@dataclass(frozen=True, slots=True)
class _Making:
    """One step in the making."""

    at: LayerAt
    bench: Bench
    row: StepRow
    taken: Mapping[str, tuple[Taken, ...]]
    before: Sequence[StepRow]

    def step(self) -> Step:
        """As it is planned."""
        row, layer, bench = self.row, self.at.layer, self.bench
        boil = self._boil() if row.heat == "end" and layer.boiled else None
        end_by = bench.school("end", layer.layer_id) if boil is not None else ""
        heat = self._heat()
        wait = self._wait(boil, heat)
        return Step(
            id=step_id(layer.layer_id, row.key),
            layer_id=layer.layer_id,
            layer=layer.name,
            title=self._title(),
            words=bench.say(self._words(end_by)),
            uses=tuple(use_of(one) for one in self.taken[row.key]),
            hands_on_min=self._hands(boil, heat),
            wait_min=wait.usual,
            most_wait_min=row.most_wait_min,
            place=self._place(),
            heat=heat,
            end_weight_g=self._end_weight(boil),
            end_by=end_by,
            cues=self._cues(boil),
            gate=bench.say(row.gate),
            tools=tuple(one for one in row.tools if one != "thermometer" or not bench.lacks("thermometer")),
            cautions=self._cautions(),
            reason=own_end_words(layer.cook_end, bench.unit) if boil is not None else "",
            rounds=self._rounds(),
            round_words="one sheet at a time" if row.place == Place.IRON else "",
            rescues=(*self._rescues(), *((_BOIL,) if boil is not None else ())),
            no_return=row.most_wait_min <= 2 and row.heat == "end" and layer.boiled,
            boil=boil,
        )

    def _title(self) -> str:
        taken = [one.line for one in self.taken[self.row.key]]
        named = [one for one in taken if one.ingredient_id != _WATER] or taken
        names = list(dict.fromkeys(_short(one.name) for one in named)) or ["what is warm"]
        what = listed(names) if len(names) <= _MOST_NAMED else f"{names[0]} and the rest"
        return self.row.title.replace("{in}", what).replace("{end}", self._end_words())

    def _end_words(self) -> str:
        end = self.at.layer.cook_end
        if isinstance(end, HeatHere) and self.bench.school("end", self.at.layer.layer_id) == "cue":
            cues = boil_cues(self.at.layer.family, end.sea_level_c, self.bench.families)
            return next((one.short for one in cues if one.stage is Stage.RIGHT), "its end")
        if isinstance(end, HeatHere):
            return shown_temperature(end.aim_c, self.bench.unit)
        return f"{end.pan_g:.0f} g in the pan" if isinstance(end, WeightHere) else "the end"

    def _place(self) -> Place:
        if self.row.place == "set":
            where = self._where()
            return Place(where)
        return Place(self.row.place)

    def _where(self) -> str:
        setting = settings()[self.row.heat.removeprefix("set:")]
        return setting.usual if self.at.where == "usual" or setting.at(self.at.where) is None else self.at.where

    def _mass_g(self) -> float:
        return sum(one.line.grams * one.share for one in self.taken[self.row.key]) or self.at.layer.added_g

    def _hands(self, boil: Boil | None, heat: Heat | None) -> float:
        if self.row.hands_min == "boil":
            return self._boiling_min(boil, heat)
        return min(_MOST_HANDS, float(self.row.hands_min) + self.row.hands_min_kg * self._mass_g() / 1000)

    def _boiling_min(self, boil: Boil | None, heat: Heat | None) -> float:
        if boil is None:
            return 10.0
        end = heat.aim_c if heat is not None else 115.0
        return min(_MOST_HANDS, max(4.0, minutes_of(boil, end, HOB_KW)))

    def _wait(self, boil: Boil | None, heat: Heat | None) -> Spread:
        row, bench = self.row, self.bench
        if row.wait_min == "boil":
            usual = max(2.0, self._boiling_min(boil, heat) - float(row.hands_min))
            return Spread(low=0.7 * usual, usual=usual, high=1.5 * usual)
        if row.wait_min == "bake":
            oven = by_family(bakes(), self.at.layer.family, bench.families)
            if oven is not None:
                bakes_for = baking_min(oven, self.at.thickness_mm)
                return bakes_for if bench.school("bake") != "with" else bakes_for.times(_HALF_BAKED)
        if row.wait_min == "roast":
            found = [oven for one in self.taken[row.key] if (oven := roasts().get(one.line.ingredient_id)) is not None]
            return max((one.minutes for one in found), key=lambda one: one.usual, default=Spread(low=8, usual=12, high=18))
        if row.wait_min == "cool":
            usual = tray_cooling_min(self.at.thickness_mm, 100.0, 35.0, bench.room_c)
            return Spread(low=usual * 0.7, usual=usual, high=usual * 1.5)
        if row.wait_min == "set":
            setting = settings()[row.heat.removeprefix("set:")]
            found_min = setting_min(setting, self._where(), self.at.thickness_mm, bench.room_c)
            assert found_min is not None
            return found_min
        usual = float(row.wait_min)
        return Spread(low=usual, usual=usual, high=usual)

    def _heat(self) -> Heat | None:
        row, layer, bench = self.row, self.at.layer, self.bench
        if row.heat == "end":
            end = layer.cook_end
            if isinstance(end, HeatHere):
                return Heat(low_c=end.low_c, aim_c=end.aim_c, high_c=end.high_c, of="in the pan", sea_level_c=end.sea_level_c)
            kind = bench.families.by_id.get(layer.family)
            if isinstance(end, WeightHere) or kind is None or kind.end_c is None:
                return None
            low, aim, high = kind.end_c
            return Heat(low_c=low, aim_c=aim, high_c=high, of="in the bowl")
        if row.heat in {"melt", "work"}:
            coat = by_family(windows(), layer.family, bench.families)
            if coat is None:
                return None
            low, high = coat.melt_c if row.heat == "melt" else coat.work_c
            return Heat(low_c=low, aim_c=(low + high) / 2, high_c=high, of="in the bowl")
        if row.heat in {"bake", "roast"}:
            table = by_family(bakes(), layer.family, bench.families) if row.heat == "bake" else None
            low, high = table.oven_c if table is not None else (150.0, 160.0)
            return Heat(low_c=low, aim_c=(low + high) / 2, high_c=high, of="in the oven")
        if not row.heat or row.heat.startswith("set:"):
            return None
        low, _, high_text = row.heat.partition("-")  # type: ignore[assignment]
        ends = float(low), float(high_text or low)
        where = {Place.OVEN: "in the oven", Place.IRON: "on the iron"}.get(self._place(), "in the bowl")
        return Heat(low_c=ends[0], aim_c=sum(ends) / 2, high_c=ends[1], of=where)

    def _boil(self) -> Boil:
        """All that went into the pan up to here, as far as this step hangs on it."""
        keys = {self.row.key, *self._chain()}
        there = [one for key in keys for one in self.taken[key]]
        end = self.at.layer.cook_end
        rise = end.rise if isinstance(end, HeatHere) else 1.0
        return boil_of(there, self.at.layer.water_lost_g, self.bench.pantry, rise)

    def _chain(self) -> set[str]:
        """Keys of the steps before that lead into this one."""
        rows = {row.key: (row, self.before[:number]) for number, row in enumerate(self.before)}
        found: set[str] = set()
        waiting = [one.rpartition(JOIN)[2] for one in _needs(self.row, self.before, "x")]
        while waiting:
            key = waiting.pop()
            if key in rows and key not in found:
                found.add(key)
                row, before = rows[key]
                waiting += [one.rpartition(JOIN)[2] for one in _needs(row, before, "x")]
        return found

    def _end_weight(self, boil: Boil | None) -> float | None:
        end = self.at.layer.cook_end
        if boil is None:
            return None
        return end.pan_g if isinstance(end, WeightHere) else boil.left_g

    def _cues(self, boil: Boil | None) -> tuple[Cue, ...]:
        layer, end = self.at.layer, self.at.layer.cook_end
        if boil is not None:
            aim = end.sea_level_c if isinstance(end, HeatHere) else None
            return boil_cues(layer.family, aim, self.bench.families)
        heat = self._heat()
        return stage_cues(self.row.cue, heat.aim_c if heat is not None else None) if self.row.cue not in {"", "end"} else ()

    def _cautions(self) -> tuple[str, ...]:
        names = [
            one
            for one in self.row.cautions
            if not one.startswith("egg") or _has(self.taken, "egg-white-fresh", "whole-egg", "egg-yolk")
        ]
        if any(one.line.ingredient_id in _SPIRITS for one in self.taken[self.row.key]):
            names.append("alcohol")
        return tuple(dict.fromkeys(one for one in names if one != "stones" or self._has_stones()))

    def _has_stones(self) -> bool:
        foods = (self.bench.pantry.by_id.get(one.line.ingredient_id) for one in self.taken[self.row.key])
        return any(food is not None and any(word in food.name.lower() for word in _STONES) for food in foods)

    def _rounds(self) -> int:
        return max(1, math.ceil(self.at.layer.added_g / _SHEET_G)) if self.row.place == Place.IRON else 1

    def _words(self, end_by: str) -> str:
        row, layer, bench = self.row, self.at.layer, self.bench
        said = row.words
        if row.heat == "work" or (row.key == "melt" and row.heat == "melt"):
            said = f"{said} {seed_words(layer, row.key, bench)}".strip()
        if row.key == "melt" and bench.school("melt"):
            said = f"{_MELTED[bench.school('melt')]} {said}"
        if bench.school("stir") == "always":
            said = said.replace(_LEFT_ALONE, _STIRRED)
        if end_by == "weight":
            said = f"{said} It is done by its weight: pan and all on the scale, the empty pan taken off."
        elif end_by == "cue":
            cue = self._right_cue()
            said = f"{said} It is done when {cue}." if cue else said
        return " ".join(one for one in (self._divided(), said, *self._of_ingredients()) if one)

    def _divided(self) -> str:
        """Where lots of one bowl part: before what not all of them have."""
        lots, layer_id = self.bench.read.lots, self.at.layer.layer_id
        if lots is None or not lots.made:
            return ""
        shares = lots.shares
        apart = [one for one in self.taken[self.row.key] if (layer_id, one.line.line_id) in shares]
        whole = all((layer_id, one.line_id) in shares for one in self.at.layer.ingredients)
        if not apart or whole:
            return ""
        return f"Not all pieces have all of this: divide it by weight first, {in_turn(lots)}, tools washed in between."

    def _of_ingredients(self) -> tuple[str, ...]:
        """What single ingredients ask for at this step: those that go in, and those in the pan, the oven or the bowl."""
        row, known = self.row, ingredient_words()
        here = [one.line.ingredient_id for one in self.taken[row.key]]
        so_far = [*here, *(one.line.ingredient_id for key in self._chain() for one in self.taken[key])]
        asked = [(one, "in") for one in here]
        if row.heat == "end" and self.at.layer.boiled:
            asked += [(one, "boil") for one in so_far]
        if row.key == "whip":
            asked += [(one, "whip") for one in so_far]
        if row.heat == "bake":
            asked += [(one, "bake") for one in so_far]
        if row.heat == "melt":
            asked += [(one, "coat") for one in here]
        return tuple(dict.fromkeys(known[one] for one in asked if one in known))

    def _right_cue(self) -> str:
        end = self.at.layer.cook_end
        return cue_for(self.at.layer.family, end.sea_level_c, self.bench.families) if isinstance(end, HeatHere) else ""

    def _rescues(self) -> tuple[str, ...]:
        names = names_of(self.at.layer.family, self.bench.families)
        coat = by_family(windows(), self.at.layer.family, self.bench.families) is not None
        return (*names, CHOCOLATE, SHELL) if coat else names


_LEFT_ALONE, _STIRRED = "without stirring", "stirring gently all along, so that the syrup in it keeps it from graining"
_HALF_BAKED = 0.6  # of its minutes, of a base that is baked on with its filling (approximate)
_MOST_NAMED = 3
_WATER = "water"
_BOIL = "boil"  # by which the table of rescues knows whatever is boiled


def _short(name: str) -> str:
    """An ingredient's name within a title."""
    bare = re.split(r"[,(]", name)[0].strip()
    return bare[:1].lower() + bare[1:]


_SPIRITS = frozenset({"ethanol-96", "liqueur", "rum", "spirit-40"})
_STONES = ("cherry", "cherries", "date", "apricot", "prune", "plum", "peach", "mango", "olive")
_MELTED = {
    "bath": "Over a water bath that hardly simmers, the bowl wider than the pan:",
    "microwave": "In the microwave at half power, 15–30 seconds at a time, stirred between:",
}


def _has(taken: Mapping[str, Sequence[Taken]], *ids: str) -> bool:
    return any(one.line.ingredient_id in ids for several in taken.values() for one in several)


def use_of(taken: Taken) -> Use:
    """What goes in, as it is weighed out or measured here.

    Args:
        taken: Of a line.
    """
    line: BatchIngredient = taken.line
    return Use(
        line_id=line.line_id,
        ingredient_id=line.ingredient_id,
        name=line.name,
        grams=taken.grams,
        words=_measured(line, taken.share),
        share=taken.share,
        each=line.each,
        how=line.dilution,
    )


def _measured(line: BatchIngredient, share: float) -> str:
    if line.unread:
        return "as much as it takes"
    part = "" if share > 0.995 else f"{100 * share:.0f}\u00a0% of "
    return f"{part}{line.measured}" if line.measured else ""
