"""Swaps: what stands in for what, in which system, what it keeps and changes, and what to mind."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import Enum
from functools import cache

from fern_match.core.data import rows
from fern_match.core.families import Family
from fern_match.core.food import Ingredient, Nutrient

_COCOA_OF_MILK, _COCOA_OF_DARK = 1.0, 12.0  # fat-free cocoa solids in 100 g; milk ones of the pantry hold 5 to 8, dark ones 15 up


@dataclass(frozen=True, slots=True, kw_only=True)
class Swap:
    """One swap."""

    id: str
    of: tuple[str, ...]  # ingredients that give way
    to: tuple[str, ...]  # what takes their place
    ratio: Mapping[str, float]  # starting grams for 100 g
    system: str  # empty where it goes with any
    only: frozenset[str]  # families; all where empty
    never: frozenset[str]
    keeps: str
    changes: str
    process: str
    process_in: str  # where that is done: in what is heated, baked, dry, of fat, or chocolate; anywhere where empty
    warns: str
    certainty: str

    @property
    def kind(self) -> str:
        """What it is for: "v" plants for animals, "s" sugar, "k" starch and fruit sugar, "g" gluten, "l" lactose,
        "n" other allergens, "p" for more protein."""
        return self.id.partition("-")[0]

    def process_for(self, family: Family | None) -> str:
        """What to mind in the cook of a family; empty where nothing is."""
        if not self.process_in or family is None:
            return self.process
        here = {
            "heated": family.heated,
            "baked": "baked" in family.sorts,
            "dry": not family.heated and not family.wet,
            "fat": family.place == "coat" or not family.heated,
            "chocolate": family.place == "coat",
        }
        return self.process if here[self.process_in] else ""


@dataclass(frozen=True, slots=True, kw_only=True)
class System:
    """A set of stand-ins that go together, by which proposals differ in kind."""

    id: str
    of: str  # vegan, sugar or protein
    name: str
    why: str
    members: frozenset[str]  # bulk sweeteners and what holds them; all where empty
    families: frozenset[str]  # made for it: no other system uses them


@cache
def swaps() -> tuple[Swap, ...]:
    """Every swap of `data/swaps.csv`.

    Source: starting ratios of cooks (approximate), each a first trial; amounts are solved, not taken from here.
    """
    return tuple(
        Swap(
            id=row["id"],
            of=tuple(row["from"].split("|")),
            to=tuple(row["to"].split("|")),
            ratio={part.partition(":")[0]: float(part.partition(":")[2]) for part in row["ratio"].split("|")},
            system=row["system"],
            only=_set(row["only_families"]),
            never=_set(row["not_families"]),
            keeps=row["keeps"],
            changes=row["changes"],
            process=row["process"],
            process_in=row["process_in"],
            warns=row["warns"],
            certainty=row["certainty"],
        )
        for row in rows("swaps.csv")
    )


@cache
def systems() -> tuple[System, ...]:
    """Every system of `data/systems.csv`."""
    return tuple(
        System(
            id=row["id"],
            of=row["for"],
            name=row["name"],
            why=row["why"],
            members=_set(row["members"]),
            families=_set(row["families"]),
        )
        for row in rows("systems.csv")
    )


@cache
def becomes(family: str) -> Mapping[str, str]:
    """Families of another kind that a layer may become where it is to hold more protein, and how it eats then.

    Args:
        family: Id of the layer's family.

    Source: data/becomes.csv (working practice).
    """
    return {row["becomes"]: row["changes"] for row in rows("becomes.csv") if family in row["families"].split("|")}


def swaps_for(ingredient_id: str, family: str) -> tuple[Swap, ...]:
    """The swaps that take an ingredient's place in a family."""
    return tuple(
        swap
        for swap in swaps()
        if ingredient_id in swap.of and (not swap.only or family in swap.only) and family not in swap.never
    )


def _set(text: str) -> frozenset[str]:
    return frozenset(entry for entry in text.split("|") if entry)


@cache
def own_stand_ins(system: System) -> frozenset[str]:
    """What comes in by a system's swaps and by those of no rival: by these it is known.

    Args:
        system: One of `systems()`.
    """
    rivals = {one.id for one in systems() if one.of == system.of} - {system.id}
    others = {key for swap in swaps() if swap.system in rivals for key in swap.to}
    return frozenset(key for swap in swaps() if swap.system == system.id for key in swap.to if key not in others)


class Shade(Enum):
    """What one sees of a chocolate."""

    WHITE = "white"
    MILK = "milk"
    DARK = "dark"


def shade(food: Ingredient | None) -> Shade | None:
    """Whether a chocolate or coating is white, milk or dark; None for what is neither, or where its cocoa is not known.

    By fat-free cocoa solids in 100 g: none in white, about 5 in milk, 15 and more in dark ones.
    """
    solids = food.per_100_g.get(Nutrient.COCOA_SOLIDS_NONFAT) if food is not None and food.category == "chocolate" else None
    if solids is None:
        return None
    return Shade.WHITE if solids < _COCOA_OF_MILK else Shade.MILK if solids < _COCOA_OF_DARK else Shade.DARK
