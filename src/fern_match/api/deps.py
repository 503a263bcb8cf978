"""What routes ask for: the database, what the core knows, the runner; and how a match is read and its changes kept."""

from collections import OrderedDict
from collections.abc import Callable, Collection, Sequence
from dataclasses import asdict, dataclass, field
from functools import partial
from typing import Annotated, Any

from fastapi import Depends, Request
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from fern_match.api.runner import Runner
from fern_match.core.families import Families
from fern_match.core.food import Ingredient, Pantry
from fern_match.core.house import House, on_shipped_rows, unsound_ingredients
from fern_match.core.kitchen import KitchenReading, read_kitchen
from fern_match.core.match import Match
from fern_match.core.record.parts import PartKey
from fern_match.core.study.reading import StudyReading
from fern_match.core.summary import match_line
from fern_match.store import HOUSE, Database, Keeper, Kept
from fern_match.store.cook_log import with_logs
from fern_match.store.images import with_images
from fern_match.store.trees import house, house_revision, load, load_where

STUDY = PartKey("study", "study")
_READINGS_KEPT = 64
_TRIED_KEPT = 500


@dataclass(frozen=True, slots=True)
class Opened:
    """A match as much of it as a route needs, with its study as read and the kitchen."""

    id: str
    revision: int
    match: Match
    reading: StudyReading
    kitchen: KitchenReading


@dataclass(frozen=True, slots=True)
class HouseNow:
    """The house as it is, with what every request asks of it worked out once."""

    revision: int
    house: House
    pantry: Pantry  # the shipped one with the house's own rows
    kitchen: KitchenReading


class Remembered:
    """What was worked out, by a fingerprint of all it rests on; the oldest goes first."""

    def __init__(self, most: int) -> None:
        """Nothing yet.

        Args:
            most: How many are kept.
        """
        self._most = most
        self._known: OrderedDict[str, Any] = OrderedDict()

    def get(self, key: str, make: Callable[[], Any]) -> Any:
        """What is known by a key, or made now.

        Args:
            key: A fingerprint.
            make: Works it out.
        """
        found = self._known.get(key)
        if found is None:
            found = self._known[key] = make()
            while len(self._known) > self._most:
                self._known.popitem(last=False)
        return found


@dataclass(frozen=True)
class Desk:
    """Where routes find everything: built once, passed to all."""

    database: Database
    pantry: Pantry
    families: Families
    runner: Runner
    _readings: "OrderedDict[tuple[str, int, int], StudyReading]" = field(default_factory=OrderedDict)
    planned: "OrderedDict[tuple[str, str, int, int], Any]" = field(
        default_factory=OrderedDict
    )  # plans of cooks: a run asks often
    tried: "Remembered" = field(default_factory=lambda: Remembered(_TRIED_KEPT))  # trials from all sides
    _houses: dict[int, HouseNow] = field(default_factory=dict)  # the newest alone, by its revision

    def open(self, match_id: str, wanted: Callable[[PartKey], bool] = lambda _: False) -> Opened:
        """A match with its study, and further parts where they are wanted.

        Args:
            wanted: Says of a part's key whether to load it.

        Raises:
            NotKnown: there is no such match.
        """
        with self.database.reading() as session:
            kept = load_where(session, match_id, Match, lambda key: key.kind == "pinned" or wanted(key))
            now = self._house(session)
        return self._opened(kept, kept.whole.pinned, now)

    def opened(self, kept: Kept[Match]) -> Opened:
        """A match as it was just kept, read; a change holds only what it touches, so compositions are looked up."""
        with self.database.reading() as session:
            pinned = load_where(session, kept.id, Match, kinds("pinned")).whole.pinned
            now = self._house(session)
        return self._opened(kept, pinned, now)

    def house_now(self) -> HouseNow:
        """The house as it is."""
        with self.database.reading() as session:
            return self._house(session)

    def pantry_now(self) -> Pantry:
        """The pantry with the house's own and changed ingredients."""
        return self.house_now().pantry

    def _house(self, session: Session) -> HouseNow:
        revision = house_revision(session)
        known = self._houses.get(revision)
        if known is None:
            own = house(session).whole
            known = HouseNow(revision, own, self.pantry.with_own(own.ingredients), read_kitchen(own.kitchen))
            self._houses.clear()
            self._houses[revision] = known
        return known

    def _opened(self, kept: Kept[Match], pinned: Sequence[Ingredient], now: HouseNow) -> Opened:
        return Opened(kept.id, kept.revision, kept.whole, self._reading(kept, now, pinned), now.kitchen)

    def keeper(self, match_id: str) -> Keeper[Match]:
        """Keeps the changes of one match."""
        return Keeper(
            database=self.database,
            tree_id=match_id,
            whole=Match,
            pantry=self.pantry_now(),
            families=self.families,
            line=self.line,
        )

    def house_keeper(self) -> Keeper[House]:
        """Keeps the changes of the house."""
        return Keeper(
            database=self.database,
            tree_id=HOUSE,
            whole=House,
            pantry=self.pantry,
            families=self.families,
            line=lambda _: {},
            grounded=partial(on_shipped_rows, pantry=self.pantry),
            unsound=unsound_ingredients,
        )

    def line(self, match: Match) -> dict[str, Any]:
        """What the list shows of a match, as JSON values."""
        return asdict(match_line(StudyReading(match.study, self.pantry, self.families)))

    def _reading(self, kept: Kept[Match], now: HouseNow, pinned: Sequence[Ingredient]) -> StudyReading:
        """The study as read, remembered: several routes ask for the same one."""
        key = (kept.id, kept.revision, now.revision)
        known = self._readings.get(key)
        if known is None:
            pantry = now.pantry.with_pinned(pinned)
            known = self._readings[key] = StudyReading(kept.whole.study, pantry, self.families)
            while len(self._readings) > _READINGS_KEPT:
                self._readings.popitem(last=False)
        return known


def _desk(request: Request) -> Desk:
    desk: Desk = request.app.state.desk
    return desk


async def _raw_body(request: Request) -> bytes:
    """The body as it came; waiting for it takes no thread."""
    return await request.body()


DeskDep = Annotated[Desk, Depends(_desk)]
RawBody = Annotated[bytes, Depends(_raw_body)]
JSON_BODY: dict[str, Any] = {"requestBody": {"content": {"application/json": {"schema": {"type": "object"}}}}}

Revision = Annotated[int, Field(ge=0, le=1_000_000_000)]  # more than anything will ever have


Short = Annotated[str, Field(max_length=200)]  # what one field takes


class MadeOnIn(BaseModel):
    """The revision a request is made on."""

    model_config = ConfigDict(extra="forbid")

    revision: Revision


class ChangeIn(MadeOnIn):
    """A change, and up to which revision the user has decided for it where others changed the same."""

    decided_on: Revision | None = None


def kinds(*wanted: str) -> Callable[[PartKey], bool]:
    """Says of a part whether it is of one of these kinds."""
    return lambda key: key.kind in wanted


def touching(*keys: PartKey) -> Collection[PartKey]:
    """The parts a change touches.

    Args:
        keys: Besides what is always there.
    """
    return (STUDY, *keys)


def loaded(desk: Desk, match_id: str) -> Match:
    """All of a match, with the logs of its cooks and its pictures.

    Raises:
        NotKnown: there is no such match.
    """
    with desk.database.reading() as session:
        match = with_logs(session, match_id, load(session, match_id, Match).whole)
        return with_images(session, match_id, match)
