"""The allergens that a name on a label says, whatever of the pantry stands in for it: "hazelnut oil" says hazelnut.

Worked example: "coconut milk powder" says coconut and no milk; "egg liqueur" says egg, though the pantry knows one liqueur only.
"""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache, lru_cache

from fern_match.core.data import rows

_FREE_OF = re.compile(r"\b(?:no|free (?:from|of)|without) [\w ]+|\b[\w]+[- ]free\b")
_ONLY_A_TASTE = re.compile(r"flavou?r|aroma")


@lru_cache(maxsize=4096)
def allergens_named(name: str) -> frozenset[str]:
    """The allergens, in the tables' words, that a name says.

    Args:
        name: Of an ingredient or an allergen as a label has it, in English; small or capital letters.

    Source: data/allergen_names.csv. Of glucose syrups and the like from wheat none is said: Regulation (EU) 1169/2011, Annex II,
    excepts them.
    """
    low = name.lower()
    if _ONLY_A_TASTE.search(low):
        return frozenset()
    low = _FREE_OF.sub(" ", low)
    return frozenset(
        one.allergen for one in _names() if one.words.search(one.but_for.sub(" ", low)) and not one.not_beside.search(low)
    )


def all_named(names: Iterable[str]) -> frozenset[str]:
    """The allergens that several names say together."""
    return frozenset(allergen for name in names for allergen in allergens_named(name))


@dataclass(frozen=True, slots=True)
class _Words:
    """By what words a name says an allergen."""

    allergen: str
    words: re.Pattern[str]
    but_for: re.Pattern[str]  # phrases in which the words say something else
    not_beside: re.Pattern[str]  # words beside which nothing is said


_NEVER = r"(?!)"


@cache
def _names() -> tuple[_Words, ...]:
    return tuple(
        _Words(
            row["allergen"],
            re.compile(rf"\b(?:{row['words']})\b"),
            re.compile(row["but_for"] or _NEVER),
            re.compile(row["not_beside"] or _NEVER),
        )
        for row in rows("allergen_names.csv")
    )
