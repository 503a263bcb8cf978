"""Photos of the original and of copies: taken in, shown, laid side by side at one scale."""

import secrets
from dataclasses import replace
from functools import partial
from typing import Annotated, Any

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fern_match.api.deps import ChangeIn, DeskDep, MadeOnIn, RawBody, Revision, Short, kinds, touching
from fern_match.api.typed import TypedOut, typed_out
from fern_match.core.errors import NotKnown
from fern_match.core.match import Match, with_photo, without_photo
from fern_match.core.measures import read_millimetres
from fern_match.core.record.parts import PartKey
from fern_match.core.record.texts import Key
from fern_match.core.trials import Photo, Whose
from fern_match.exchange.images import cleaned
from fern_match.store.images import image_of, keep_images

router = APIRouter(prefix="/api/matches/{match_id}/photos", tags=["photos"])
_IMAGE: dict[str, Any] = {"requestBody": {"content": {"image/*": {"schema": {"type": "string", "format": "binary"}}}}}
_A_YEAR = "private, max-age=31536000, immutable"  # a picture never changes under its hash


class PhotoOut(BaseModel):
    """A photo, and how wide what it shows is."""

    photo: Photo
    image: str  # where it is served
    wide: TypedOut
    mm_per_px: float | None  # None where nobody said how wide it is


class PhotosOut(BaseModel):
    """All photos of a match."""

    revision: int
    photos: list[PhotoOut]


class PhotoIn(ChangeIn):
    """What was written to a photo."""

    wide: Short = ""
    words: Annotated[str, Field(max_length=2000)] = ""


@router.get("")
def read_photos(match_id: str, desk: DeskDep) -> PhotosOut:
    """All photos, in the order they were taken in."""
    opened = desk.open(match_id, kinds("photos"))
    kitchen = opened.kitchen

    def out(photo: Photo) -> PhotoOut:
        wide = read_millimetres(photo.wide, comma=kitchen.comma)
        return PhotoOut(
            photo=photo,
            image=f"/api/matches/{match_id}/photos/{photo.id}/image?of={photo.image[:16]}",
            wide=typed_out(wide, kitchen.kitchen.shown_in),
            mm_per_px=wide.value / photo.width_px if wide.value is not None and photo.width_px > 0 else None,
        )

    return PhotosOut(revision=opened.revision, photos=[out(one) for one in opened.match.photos])


@router.post("", status_code=201, openapi_extra=_IMAGE)
def add_photo(match_id: str, body: RawBody, desk: DeskDep, revision: Revision, of: Whose, trial: Key | None = None) -> PhotosOut:
    """Takes in a picture: turned upright, made small, stripped of all but its pixels."""
    picture = cleaned(body)
    photo = Photo(
        id=f"photo-{secrets.token_hex(4)}",
        of=of,
        trial=trial if of is Whose.COPY else None,
        image=picture.hash,
        width_px=picture.width,
        height_px=picture.height,
    )
    desk.open(match_id)  # before anything is kept: it is there
    with desk.database.writing() as session:
        keep_images(session, match_id, [(picture.hash, picture.body)])
    around = [PartKey("photos", photo.id), *([PartKey("trials", trial)] if trial is not None else [])]
    desk.keeper(match_id).save(revision, partial(with_photo, photo=photo), touching(*around))
    return read_photos(match_id, desk)


@router.put("/{photo_id}")
def write_photo(match_id: str, photo_id: str, body: PhotoIn, desk: DeskDep) -> PhotosOut:
    """Keeps how wide what it shows is, and words to it."""

    def change(match: Match) -> Match:
        known = next((one for one in match.photos if one.id == photo_id), None)
        if known is None:
            raise NotKnown("photo", photo_id)
        photos = tuple(replace(one, wide=body.wide, words=body.words) if one is known else one for one in match.photos)
        return replace(match, photos=photos)

    key = PartKey("photos", photo_id)
    desk.keeper(match_id).save(body.revision, change, touching(key), decided_on=body.decided_on)
    return read_photos(match_id, desk)


@router.delete("/{photo_id}")
def delete_photo(match_id: str, photo_id: str, body: MadeOnIn, desk: DeskDep) -> PhotosOut:
    """Takes a photo out; undo brings it back."""
    desk.keeper(match_id).save(body.revision, partial(without_photo, photo_id=photo_id), touching(PartKey("photos", photo_id)))
    return read_photos(match_id, desk)


@router.get("/{photo_id}/image", response_class=Response, responses={200: {"content": {"image/jpeg": {}}}})
def read_image(match_id: str, photo_id: str, desk: DeskDep) -> Response:
    """The picture itself."""
    opened = desk.open(match_id, lambda key: key == PartKey("photos", photo_id))
    photo = next((one for one in opened.match.photos if one.id == photo_id), None)
    if photo is None:
        raise NotKnown("photo", photo_id)
    with desk.database.reading() as session:
        body = image_of(session, match_id, photo.image)
    return Response(body, media_type="image/jpeg", headers={"Cache-Control": _A_YEAR})
