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
from fern_match.exchange.upgrade import part_upgraded
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


def records(session: Session, wanted: Mapping[str, tuple[str, type]]) -> dict[str, Any]:
    """Records by their hashes; what an older version wrote is brought up to date.

    Args:
        wanted: Hash -> kind of part, and class of the record.
    """
    found = {}
    unread = []
    for content_hash, (_, record) in wanted.items():
        known = _remembered(content_hash, record).value
        if known is None:
            unread.append(content_hash)
        else:
            found[content_hash] = known
    for start in range(0, len(unread), 500):
        rows = session.execute(
            select(ContentRow.hash, ContentRow.format, ContentRow.body).where(ContentRow.hash.in_(unread[start : start + 500]))
        )
        for content_hash, written_by, body in rows:
            kind, record = wanted[content_hash]
            plain = part_upgraded(kind, json.loads(zlib.decompress(body)), written_by)
            found[content_hash] = _remembered(content_hash, record).value = record_of(record, plain)
    return found


class _Memory:
    """A place for a record that was read."""

    __slots__ = ("value",)

    def __init__(self) -> None:
        self.value: Any = None


@lru_cache(maxsize=_REMEMBERED)
def _remembered(_content_hash: str, _record: type) -> _Memory:
    return _Memory()
