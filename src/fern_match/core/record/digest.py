"""A fingerprint of records, for keeping results by their input."""

import hashlib
from collections.abc import Collection, Mapping
from typing import Any

from fern_match.core.record.shape import fields_of, plain


def digest(value: Any, *, without: Collection[str] = ()) -> str:
    """The same for equal records, another for any difference: 64 hexadecimal digits.

    Args:
        value: A record, a mapping, a list, a set or a single value.
        without: Fields of the record itself that do not count.
    """
    hashed = hashlib.sha256()
    _feed(hashed, value, without)
    return hashed.hexdigest()


def _feed(hashed: Any, value: Any, without: Collection[str]) -> None:
    if hasattr(value, "__dataclass_fields__"):
        for spec in fields_of(type(value)):
            if spec.name not in without:
                hashed.update(f"<{spec.name}".encode())
                _feed(hashed, getattr(value, spec.name), ())
    elif isinstance(value, Mapping):
        for key in sorted(value, key=str):
            hashed.update(f"<{str(key)!r}".encode())
            _feed(hashed, value[key], ())
    elif isinstance(value, tuple | list):
        hashed.update(f"<{len(value)}".encode())
        for entry in value:
            _feed(hashed, entry, ())
    elif isinstance(value, set | frozenset):
        _feed(hashed, sorted(value, key=str), ())  # a set's own order differs from one run of the program to the next
    else:
        hashed.update(f"={plain(value)!r}>".encode())
    hashed.update(b">")
