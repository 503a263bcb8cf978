"""Schools: where there are several good ways, which is taken, which is recommended in this kitchen, and why."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass

from fern_match.core.data import rows

JOIN = "--"  # between a layer and what is said of it


@dataclass(frozen=True, slots=True, kw_only=True)
class Option:
    """One way."""

    id: str
    title: str
    reason: str
    recommended: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class School:
    """One choice between ways."""

    id: str  # what is asked, and the layer where it is asked of one
    asks: str
    layer: str  # name of the layer; empty where it is asked of the whole cook
    options: tuple[Option, ...]
    chosen: str


@dataclass(frozen=True, slots=True)
class Asking:
    """One thing to be asked: of what, and what speaks for which way."""

    school: str
    signs: Collection[str]  # what is true of it here
    layer_id: str = ""
    layer: str = ""
    only: Collection[str] = ()  # options there are; all where empty

    @property
    def id(self) -> str:
        """As it is kept."""
        return f"{self.layer_id}{JOIN}{self.school}" if self.layer_id else self.school


def schools_of(asked: Sequence[Asking], chosen: Mapping[str, str]) -> tuple[School, ...]:
    """The choices there are, each with what is taken: as chosen where that is one of them, else as recommended.

    Args:
        asked: What is to be asked in this cook.
        chosen: Option by the id of its choice.
    """
    return tuple(school for one in asked if (school := _school(one, chosen.get(one.id, ""))) is not None)


def _school(one: Asking, chosen: str) -> School | None:
    table = [row for row in rows("schools.csv") if row["school"] == one.school]
    here = [row for row in table if not one.only or row["option"] in one.only]
    if not here:
        return None
    best = next((row for row in here if set(row["recommend"].split("|")) & set(one.signs)), None)
    best = best or next((row for row in here if row["recommend"] == "always"), here[0])
    options = tuple(Option(id=row["option"], title=row["title"], reason=row["reason"], recommended=row is best) for row in here)
    taken = chosen if any(option.id == chosen for option in options) else best["option"]
    asks = next(row["asks"] for row in table if row["asks"])
    return School(id=one.id, asks=asks, layer=one.layer, options=options, chosen=taken)
