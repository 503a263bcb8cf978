"""The kitchen, kept and undone as a match is; and the backup of everything."""

from dataclasses import replace

from fastapi import APIRouter, Response
from pydantic import BaseModel

from fern_match.api.deps import JSON_BODY, ChangeIn, DeskDep, MadeOnIn, RawBody
from fern_match.api.typed import TypedOut, typed_out
from fern_match.core.batch import read_packs
from fern_match.core.house import House
from fern_match.core.kitchen import (
    Gear,
    GearKind,
    GearReading,
    GearShape,
    Kitchen,
    Tool,
    Wrap,
    read_gear,
    read_kitchen,
    usual_gear,
)
from fern_match.core.measures import Comma
from fern_match.core.measures.volumes import MeasuresChoice, measures_choices, spoon_error_words
from fern_match.exchange.backup import read_backup, written_backup
from fern_match.store import HOUSE, Kept, UndoState
from fern_match.store.backup import Restored, restore
from fern_match.store.moments import undo_state
from fern_match.store.trees import everything, house

router = APIRouter(prefix="/api", tags=["kitchen"])


class KitchenIn(ChangeIn):
    """The kitchen as typed."""

    kitchen: Kitchen


class WrapOut(BaseModel):
    """Wrapping as typed and as read."""

    wrap: Wrap
    cells: dict[str, TypedOut]  # of the fields that say something of it


class GearOut(BaseModel):
    """Gear as typed and as read."""

    gear: Gear
    cells: dict[str, TypedOut]  # of the fields that say something of it
    words: str  # its size
    problem: str  # what is wrong or still to say; empty where nothing is
    shapes: tuple[GearShape, ...]  # that gear of its kind comes in
    may_be_halves: bool


class UsualGearOut(BaseModel):
    """A usual size to begin with; its id is given where it is taken."""

    gear: Gear
    words: str
    note: str


class PackOut(BaseModel):
    """A pack as read."""

    size: TypedOut
    price: TypedOut


class KitchenOut(BaseModel):
    """The kitchen as typed and as read."""

    revision: int
    kitchen: Kitchen
    scale_step: TypedOut
    altitude: TypedOut
    boiling_reading: TypedOut
    at_once: dict[str, TypedOut]  # cooks, burners, ovens, fridges: how many there are
    boiling_words: str
    thermometer_is_suspect: bool
    measures: tuple[MeasuresChoice, ...]
    spoon_error: str
    gear: list[GearOut]
    tools: tuple[Tool, ...]  # that a kitchen may be without
    packs: dict[str, PackOut]  # by ingredient
    wraps: list[WrapOut]
    undo_state: UndoState


@router.get("/kitchen")
def read_own_kitchen(desk: DeskDep) -> KitchenOut:
    """The kitchen."""
    with desk.database.reading() as session:
        kept = house(session)
    return _kitchen_out(kept, desk)


@router.get("/kitchen/usual-gear")
def read_usual_gear(desk: DeskDep) -> list[UsualGearOut]:
    """Usual sizes of gear."""
    with desk.database.reading() as session:
        reading = read_kitchen(house(session).whole.kitchen)
    return [
        UsualGearOut(gear=one, words=read_gear(one, reading.kitchen.measures, Comma.DECIMAL).words, note=note)
        for one, note in usual_gear()
    ]


@router.put("/kitchen")
def write_kitchen(body: KitchenIn, desk: DeskDep) -> KitchenOut:
    """Keeps a changed kitchen; what another window changed meanwhile is merged, and the same setting asks."""
    kept = desk.house_keeper().save(body.revision, lambda own: replace(own, kitchen=body.kitchen), decided_on=body.decided_on)
    return _kitchen_out(kept, desk)


@router.post("/kitchen/undo")
def undo_kitchen(body: MadeOnIn, desk: DeskDep) -> KitchenOut:
    """Takes the last change of the kitchen back."""
    return _kitchen_out(desk.house_keeper().undo(body.revision), desk)


@router.post("/kitchen/redo")
def redo_kitchen(body: MadeOnIn, desk: DeskDep) -> KitchenOut:
    """Brings the last undone change of the kitchen again."""
    return _kitchen_out(desk.house_keeper().redo(body.revision), desk)


@router.get("/backup", response_class=Response, responses={200: {"content": {"application/json": {}}}})
def read_everything(desk: DeskDep) -> Response:
    """The house and every match in one file."""
    with desk.database.reading() as session:
        own, matches = everything(session, images=True)
    headers = {"Content-Disposition": 'attachment; filename="fern-match-backup.json"'}
    return Response(written_backup(own, matches), media_type="application/json", headers=headers)


@router.post("/restore", openapi_extra=JSON_BODY)
def restore_everything(body: RawBody, desk: DeskDep) -> Restored:
    """Adds what a backup holds to what is here; all of it or nothing."""
    own, matches = read_backup(body)
    return restore(desk.house_keeper(), own, matches, desk.line)


def _gear_out(one: GearReading, kitchen: Kitchen) -> GearOut:
    return GearOut(
        gear=one.gear,
        cells={key: typed_out(one.cells[key], kitchen.shown_in) for key in one.wanted},
        words=one.words,
        problem=one.problem or "",
        shapes=one.shapes,
        may_be_halves=one.gear.kind is GearKind.MOULD,
    )


def _kitchen_out(kept: Kept[House], desk: DeskDep) -> KitchenOut:
    kitchen = kept.whole.kitchen
    reading = read_kitchen(kitchen)
    with desk.database.reading() as session:
        undo = undo_state(session, HOUSE, kept.revision)
    return KitchenOut(
        revision=kept.revision,
        kitchen=kitchen,
        scale_step=typed_out(reading.scale_step, kitchen.shown_in),
        altitude=typed_out(reading.altitude, kitchen.shown_in),
        boiling_reading=typed_out(reading.boiling_reading, kitchen.shown_in),
        at_once={key: typed_out(typed, kitchen.shown_in) for key, typed in reading.at_once.items()},
        boiling_words=reading.boiling_words,
        thermometer_is_suspect=reading.thermometer_is_suspect,
        measures=measures_choices(),
        spoon_error=spoon_error_words(),
        gear=[_gear_out(one, kitchen) for one in reading.gear],
        tools=tuple(Tool),
        packs={
            key: PackOut(size=typed_out(one.size, kitchen.shown_in), price=typed_out(one.price, kitchen.shown_in))
            for key, one in read_packs(reading, desk.pantry.with_own(kept.whole.ingredients)).items()
        },
        wraps=[
            WrapOut(wrap=one.wrap, cells={key: typed_out(typed, kitchen.shown_in) for key, typed in one.cells.items()})
            for one in reading.wraps
        ],
        undo_state=undo,
    )
