"""The tables of cooking as typed values: ways of making, their steps, how layers are laid, set, cut, baked and tempered."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import TypeVar

from fern_match.core.data import rows
from fern_match.core.families import Families

SHELL, CHOCOLATE, CUP, CRUMB = "shell", "chocolate", "cup", "crumb"  # names in the tables that are no families
Found = TypeVar("Found")


@dataclass(frozen=True, slots=True, kw_only=True)
class StepRow:
    """One step of a way of making, as the table has it."""

    key: str
    needs: str  # "-": nothing; empty: the row above; "a+b": those of this way
    title: str
    takes: tuple[str, ...]
    when: tuple[str, ...]
    place: str
    heat: str
    hands_min: str
    hands_min_kg: float
    wait_min: str
    most_wait_min: float  # until the next step begins; 0: at once
    tools: tuple[str, ...]
    gate: str
    cue: str
    cautions: tuple[str, ...]
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Lay:
    """How a layer of a family comes on the one below, and is cut."""

    lay: str  # pour, press, spread, pipe, sheet, strew, roll (centres rolled in syrup), in place
    at_c: tuple[float, float] | None
    under_most_c: float | None  # of what it comes onto
    window_min: float | None  # how long it can be worked
    set_of: str
    cut_c: tuple[float, float] | None
    knife: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Spread:
    """Minutes: low, usual, high."""

    low: float
    usual: float
    high: float

    def times(self, factor: float) -> "Spread":
        """All of it longer or shorter.

        Args:
            factor: Above 0.
        """
        return Spread(low=self.low * factor, usual=self.usual * factor, high=self.high * factor)


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """How long something takes to set, by where it stands."""

    ref_mm: float
    room: Spread | None
    fridge: Spread | None
    freezer: Spread | None
    usual: str
    power: float  # minutes go by thickness to this power
    until: str

    def at(self, where: str) -> Spread | None:
        """Minutes in a place; None where it is no place for it.

        Args:
            where: room, fridge or freezer.
        """
        return {"room": self.room, "fridge": self.fridge, "freezer": self.freezer}.get(where)


@dataclass(frozen=True, slots=True, kw_only=True)
class Oven:
    """How something is baked or roasted."""

    oven_c: tuple[float, float]
    minutes: Spread
    ref_mm: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Windows:
    """The heats of a coat [degC]."""

    kind: str
    melt_c: tuple[float, float]
    cool_c: tuple[float, float] | None  # None of what is not tempered
    work_c: tuple[float, float]
    lost_above_c: float | None
    burns_above_c: float


def _number(text: str) -> float | None:
    return float(text) if text else None


def _pair(low: str, high: str) -> tuple[float, float] | None:
    return (float(low), float(high)) if low and high else None


def _parts(text: str) -> tuple[str, ...]:
    return tuple(part for part in text.split("|") if part)


@cache
def step_rows() -> Mapping[str, tuple[StepRow, ...]]:
    """The steps of each way of making, in their order."""
    found: dict[str, list[StepRow]] = {}
    for row in rows("cook_steps.csv"):
        when = row["when"]
        found.setdefault(row["method"], []).append(
            StepRow(
                key=row["step"],
                needs=row["needs"],
                title=row["title"],
                takes=_parts(row["takes"]),
                when=(when,) if when.startswith("lines") else tuple(part for part in when.split("&") if part),
                place=row["place"],
                heat=row["heat"],
                hands_min=row["hands_min"],
                hands_min_kg=float(row["hands_min_kg"]),
                wait_min=row["wait_min"],
                most_wait_min=float(row["most_wait_min"]),
                tools=_parts(row["tools"]),
                gate=row["gate"],
                cue=row["cue"],
                cautions=_parts(row["cautions"]),
                words=row["do"],
            )
        )
    return {key: tuple(steps) for key, steps in found.items()}


@cache
def _methods() -> Mapping[str, str]:
    return {row["family"]: row["method"] for row in rows("cook_methods.csv")}


@cache
def lays() -> Mapping[str, Lay]:
    """How layers are laid, by family or its root."""
    return {
        row["family"]: Lay(
            lay=row["lay"],
            at_c=_pair(row["at_low_c"], row["at_high_c"]),
            under_most_c=_number(row["under_most_c"]),
            window_min=_number(row["window_min"]),
            set_of=row["set_of"],
            cut_c=_pair(row["cut_low_c"], row["cut_high_c"]),
            knife=row["knife"],
        )
        for row in rows("lay.csv")
    }


@cache
def settings() -> Mapping[str, Setting]:
    """How things set, by the names that `lay.csv` gives."""

    def spread(row: Mapping[str, str], where: str) -> Spread | None:
        if not row[f"{where}_typ"]:
            return None
        return Spread(low=float(row[f"{where}_low"]), usual=float(row[f"{where}_typ"]), high=float(row[f"{where}_high"]))

    return {
        row["of"]: Setting(
            ref_mm=float(row["ref_mm"]),
            room=spread(row, "room"),
            fridge=spread(row, "fridge"),
            freezer=spread(row, "freezer"),
            usual=row["usual"],
            power=float(row["power"]),
            until=row["until"],
        )
        for row in rows("setting_times.csv")
    }


def _oven(row: Mapping[str, str]) -> Oven:
    return Oven(
        oven_c=(float(row["oven_low_c"]), float(row["oven_high_c"])),
        minutes=Spread(low=float(row["low_min"]), usual=float(row["typ_min"]), high=float(row["high_min"])),
        ref_mm=_number(row.get("ref_mm", "")),
    )


@cache
def bakes() -> Mapping[str, Oven]:
    """How bases are baked, by family or its root."""
    return {row["family"]: _oven(row) for row in rows("bake.csv")}


@cache
def roasts() -> Mapping[str, Oven]:
    """How nuts and seeds that come raw are roasted, by ingredient."""
    return {row["ingredient"]: _oven(row) for row in rows("roast.csv")}


@cache
def windows() -> Mapping[str, Windows]:
    """Heats of coats, by family or its root."""
    return {
        row["family"]: Windows(
            kind=row["kind"],
            melt_c=(float(row["melt_low_c"]), float(row["melt_high_c"])),
            cool_c=_pair(row["cool_low_c"], row["cool_high_c"]),
            work_c=(float(row["work_low_c"]), float(row["work_high_c"])),
            lost_above_c=_number(row["lost_above_c"]),
            burns_above_c=float(row["burns_above_c"]),
        )
        for row in rows("tempering.csv")
    }


@cache
def caution_sentences() -> Mapping[str, tuple[str, str]]:
    """Topic and sentence of each caution of a step."""
    return {row["key"]: (row["topic"], row["sentence"]) for row in rows("cook_cautions.csv")}


@cache
def ingredient_words() -> Mapping[tuple[str, str], str]:
    """What an ingredient asks for, by itself and where: boil, bake, whip, coat, or in, where it goes in."""
    return {(row["ingredient"], row["at"]): row["words"] for row in rows("ingredient_steps.csv")}


@cache
def hydrations() -> Mapping[str, tuple[float, float]]:
    """Ingredient -> times its weight of water, and at most which share of all the water."""
    return {row["ingredient"]: (float(row["water_times"]), float(row["most_of_water"])) for row in rows("hydration.csv")}


def by_family(table: Mapping[str, Found], family_id: str, families: Families) -> Found | None:
    """What a table has for a family: its own row, else that of what it is a variant of, up to its root; None where it has none.

    Args:
        table: By family.
        family_id: Of a layer.
        families: For what it is a variant of.
    """
    seen: str | None = family_id
    while seen is not None:
        if seen in table:
            return table[seen]
        seen = families[seen].variant_of if seen in families else None
    return None


def method_of(family_id: str, families: Families) -> str:
    """The way a layer of a family is made; kneaded where no table knows it.

    Args:
        family_id: Of a layer.
        families: For what it is a variant of.
    """
    return by_family(_methods(), family_id, families) or "kneaded"
