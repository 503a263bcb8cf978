"""Pictures of a tree, by their hash: kept beside its parts, gone with it. Nothing in them is ever changed."""

import base64
from collections.abc import Iterable
from dataclasses import replace

from sqlalchemy import select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session

from fern_match.core.errors import NotKnown
from fern_match.core.match import Match
from fern_match.store.tables import ImageRow


def keep_images(session: Session, tree_id: str, images: Iterable[tuple[str, bytes]]) -> None:
    """Keeps pictures of a tree; one that is there already is left as it is.

    Args:
        images: Hash and bytes of each.
    """
    rows = [{"tree_id": tree_id, "hash": key, "body": body} for key, body in images]
    if rows:
        session.execute(insert(ImageRow).on_conflict_do_nothing(), rows)


def image_of(session: Session, tree_id: str, image_hash: str) -> bytes:
    """The bytes of a picture.

    Raises:
        NotKnown: the tree has no such picture.
    """
    body = session.scalar(select(ImageRow.body).where(ImageRow.tree_id == tree_id, ImageRow.hash == image_hash))
    if body is None:
        raise NotKnown("picture", image_hash)
    return body


def with_images(session: Session, tree_id: str, match: Match) -> Match:
    """A match with its pictures in it, to go out in a file."""
    if not match.photos:
        return match
    wanted = {photo.image for photo in match.photos}
    rows = session.execute(select(ImageRow.hash, ImageRow.body).where(ImageRow.tree_id == tree_id, ImageRow.hash.in_(wanted)))
    bodies = {key: base64.b64encode(body).decode() for key, body in rows}
    return replace(match, photos=tuple(replace(photo, data=bodies.get(photo.image, "")) for photo in match.photos))


def without_images(match: Match) -> tuple[Match, tuple[tuple[str, bytes], ...]]:
    """A match as it is kept, and the pictures that came in it.

    Args:
        match: Perhaps from a file.
    """
    found = tuple((photo.image, base64.b64decode(photo.data)) for photo in match.photos if photo.data)
    return replace(match, photos=tuple(replace(photo, data="") for photo in match.photos)), found
