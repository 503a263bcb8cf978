"""The kitchen, and the backup of everything."""

from dataclasses import replace

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, ConfigDict

from fern_match.api.deps import SessionDep
from fern_match.api.typed import TypedOut, typed_out
from fern_match.core.kitchen import Kitchen, read_kitchen
from fern_match.core.measures import Measures
from fern_match.core.measures.shown import LengthUnit, MassUnit, TemperatureUnit
from fern_match.exchange.backup import KitchenFile, kitchen_file, read_backup, written_backup
from fern_match.exchange.shapes import Cell
from fern_match.store.backup import everything, restore
from fern_match.store.kitchen import load_kitchen, save_kitchen

router = APIRouter(prefix="/api", tags=["kitchen"])


class KitchenChangeIn(BaseModel):
    """What changes in the kitchen, as typed."""

    model_config = ConfigDict(extra="forbid")

    scale_step: Cell | None = None
    measures: Measures | None = None
    mass_unit: MassUnit | None = None
    temperature_unit: TemperatureUnit | None = None
    length_unit: LengthUnit | None = None
    altitude: Cell | None = None
    boiling_reading: Cell | None = None


class KitchenOut(BaseModel):
    """The kitchen as typed and as read."""

    kitchen: KitchenFile
    before: dict[str, str]  # what the fields just changed held; sending it takes the change back
    scale_step: TypedOut
    altitude: TypedOut
    boiling_reading: TypedOut
    boiling_words: str
    thermometer_is_suspect: bool


class RestoredOut(BaseModel):
    """What a restore did."""

    added: int
    already_here: int


@router.get("/kitchen")
def read_own_kitchen(session: SessionDep) -> KitchenOut:
    """The kitchen."""
    return _kitchen_out(load_kitchen(session))


@router.patch("/kitchen")
def change_kitchen(body: KitchenChangeIn, session: SessionDep) -> KitchenOut:
    """Keeps changed fields; those that are left out stay, so that two windows never undo each other."""
    was = load_kitchen(session)
    changed = replace(was, **body.model_dump(exclude_none=True))
    save_kitchen(session, changed)
    before = {name: getattr(was, name) for name in body.model_fields_set if getattr(was, name) != getattr(changed, name)}
    return _kitchen_out(changed, before)


@router.get("/backup", response_class=Response, responses={200: {"content": {"application/json": {}}}})
def read_everything(session: SessionDep) -> Response:
    """Every match and the kitchen in one file."""
    headers = {"Content-Disposition": 'attachment; filename="fern-match-backup.json"'}
    return Response(written_backup(*everything(session)), media_type="application/json", headers=headers)


@router.post("/restore", openapi_extra={"requestBody": {"content": {"application/json": {"schema": {"type": "object"}}}}})
async def restore_everything(request: Request) -> RestoredOut:
    """Adds what a backup holds to what is here; all of it or nothing."""
    found, kitchen = read_backup(await request.body())
    with request.app.state.database.transaction() as session:
        added, here = restore(session, found, kitchen)
    return RestoredOut(added=added, already_here=here)


def _kitchen_out(kitchen: Kitchen, before: dict[str, str] | None = None) -> KitchenOut:
    reading = read_kitchen(kitchen)
    return KitchenOut(
        kitchen=kitchen_file(kitchen),
        before=before or {},
        scale_step=typed_out(reading.scale_step, kitchen.shown_in),
        altitude=typed_out(reading.altitude, kitchen.shown_in),
        boiling_reading=typed_out(reading.boiling_reading, kitchen.shown_in),
        boiling_words=reading.boiling_words,
        thermometer_is_suspect=reading.thermometer_is_suspect,
    )
