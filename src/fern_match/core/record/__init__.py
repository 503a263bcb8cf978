"""What a record is: frozen dataclasses that say of each field what it is called, what it may hold and what it points at.

Belongs here: how records are declared, walked, held to their limits, and rid of what hangs on something gone. Must never happen
here: a particular record, or a file or table that keeps one. Imitate `limits.py`.
"""

from fern_match.core.record.declare import STRICT, Count, Id, Signs, told
from fern_match.core.record.digest import digest
from fern_match.core.record.ids import fresh_id
from fern_match.core.record.limits import NotFitting, check_limits
from fern_match.core.record.links import Link, links, refers_to, targets, without
from fern_match.core.record.shape import FieldSpec, Shape, fields_of, shape_of

__all__ = [
    "STRICT",
    "Count",
    "FieldSpec",
    "Id",
    "Link",
    "NotFitting",
    "Shape",
    "Signs",
    "check_limits",
    "digest",
    "fields_of",
    "fresh_id",
    "links",
    "refers_to",
    "shape_of",
    "targets",
    "told",
    "without",
]
