"""Contents by their hash: kept once, read back as records, remembered while they are in use."""

import json
import zlib
from collections.abc import Iterable, Mapping
from functools import lru_cache
from typing import Any

from sqlalchemy import select
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session

from fern_match.exchange.content import FORMAT_VERSION, canonical, hash_of, plain_of, record_of
from fern_match.store.tables import ContentRow

_REMEMBERED = 4000  # records; a content never changes, so neither does what was read from it


class Packed:
    """A record ready to be kept."""

    __slots__ = ("body", "hash", "size")

    def __init__(self, record: Any) -> None:
        """Written, hashed and compressed; nothing of it is in a database yet."""
        content = canonical(plain_of(record))
        self.hash = hash_of(content)
        self.size = len(content)
        self.body = zlib.compress(content, 6)


def keep(session: Session, packed: Iterable[Packed]) -> None:
    """Keeps contents; one that is there already is left as it is."""
    rows = {one.hash: {"hash": one.hash, "format": FORMAT_VERSION, "size": one.size, "body": one.body} for one in packed}
    if rows:
        session.execute(insert(ContentRow).on_conflict_do_nothing(), list(rows.values()))


def records(session: Session, wanted: Mapping[str, type]) -> dict[str, Any]:
    """Records by their hashes.

    Args:
        wanted: Hash -> class of the record.
    """
    found = {}
    unread = []
    for content_hash, record in wanted.items():
        known = _remembered(content_hash, record).value
        if known is None:
            unread.append(content_hash)
        else:
            found[content_hash] = known
    for start in range(0, len(unread), 500):
        rows = session.execute(select(ContentRow.hash, ContentRow.body).where(ContentRow.hash.in_(unread[start : start + 500])))
        for content_hash, body in rows:
            record = record_of(wanted[content_hash], json.loads(zlib.decompress(body)))
            _remembered(content_hash, wanted[content_hash]).value = record
            found[content_hash] = record
    return found


class _Memory:
    """A place for a record that was read."""

    __slots__ = ("value",)

    def __init__(self) -> None:
        self.value: Any = None


@lru_cache(maxsize=_REMEMBERED)
def _remembered(_content_hash: str, _record: type) -> _Memory:
    return _Memory()
