"""Ids that people never see: made from a name, and taken by nobody yet."""

import re
from collections.abc import Collection

_LONGEST = 50


def fresh_id(wanted: str, taken: Collection[str]) -> str:
    """An id that is not taken yet.

    Args:
        wanted: A name; of one that holds no letter or digit of ASCII “part”.
        taken: Ids that are there.

    >>> fresh_id("Crème, vegan", {"cr-me-vegan"})
    'cr-me-vegan-2'
    """
    stem = re.sub(r"[^a-z0-9]+", "-", wanted.lower()[: 2 * _LONGEST]).strip("-")[:_LONGEST].strip("-") or "part"
    number = 1
    while (found := stem if number == 1 else f"{stem}-{number}") in taken:
        number += 1
    return found
