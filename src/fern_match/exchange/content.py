"""Records as JSON and back, by their own declaration: what files hold and what the store keeps under its hash."""

import hashlib
import json
from typing import Any, TypeVar

from pydantic import TypeAdapter

FORMAT_VERSION = 7  # of records as JSON, in files and in the store alike; `upgrade.py` reads the older ones
Record = TypeVar("Record")


_ADAPTERS: dict[type, TypeAdapter[Any]] = {}  # one for each class, made when first used


def adapter_of(record: type[Record]) -> TypeAdapter[Record]:
    """What reads and writes one class of record."""
    if record not in _ADAPTERS:
        _ADAPTERS[record] = TypeAdapter(record)
    return _ADAPTERS[record]


def plain_of(record: Any, *, whole: bool = False) -> dict[str, Any]:
    """A record as plain JSON values; what is as usual is left out.

    Args:
        whole: Whether what is as usual is written, too.
    """
    plain: dict[str, Any] = adapter_of(type(record)).dump_python(record, mode="json", exclude_defaults=not whole)
    return plain


def record_of(record: type[Record], plain: Any) -> Record:
    """A record from plain JSON values.

    Args:
        plain: As `plain_of` gives them, of today's version.

    Raises:
        pydantic.ValidationError: they do not fit its declaration.
    """
    return adapter_of(record).validate_python(plain)


def canonical(plain: Any) -> bytes:
    """Plain values as JSON that is the same for equal values: keys in order, no spaces."""
    return json.dumps(plain, ensure_ascii=False, sort_keys=True, separators=(",", ":"), allow_nan=False).encode()


def hash_of(content: bytes) -> str:
    """What a content is kept under: another in each format, since the same signs may mean another thing in it.

    Args:
        content: As `canonical` gives it, or the bytes of a picture.
    """
    return hashlib.sha256(f"{FORMAT_VERSION}:".encode() + content).hexdigest()
