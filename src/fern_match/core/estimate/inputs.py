"""What an estimate depends on, as a fingerprint: results are kept by it, and a version knows by it that its study moved on."""

import hashlib
import json
from dataclasses import replace
from functools import lru_cache

from fern_match.core.families import Families
from fern_match.core.food import Ingredient, Pantry
from fern_match.core.record import digest
from fern_match.core.study.reading import StudyReading

_BESIDE = ("name", "maker")  # of the study: what says nothing of what is in the original


def input_key(reading: StudyReading) -> str:
    """The same for the same evidence, build, families and compositions that matter to it.

    Names of match and maker do not count, nor do prices, nor ingredients of one's own that the statement does not name.
    """
    parts = (
        digest(replace(reading.study, label=replace(reading.study.label, price="")), without=_BESIDE),
        _compositions(reading.pantry, reading.families, frozenset(reading.ingredient_of.values())),
        reading.families.key,
    )
    return hashlib.sha256("|".join(parts).encode()).hexdigest()


class _ByKey:
    """A pantry or families, compared by their fingerprint."""

    def __init__(self, whole: Pantry | Families) -> None:
        self.whole = whole

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _ByKey) and self.whole.key == other.whole.key

    def __hash__(self) -> int:
        return hash(self.whole.key)


def _compositions(pantry: Pantry, families: Families, named: frozenset[str]) -> str:
    return _digest_of(_ByKey(pantry), _ByKey(families), named)


@lru_cache(maxsize=256)
def _digest_of(pantry: _ByKey, families: _ByKey, named: frozenset[str]) -> str:
    known, kinds = pantry.whole, families.whole
    assert isinstance(known, Pantry)
    assert isinstance(kinds, Families)
    matter = named.union(*(role.admits for family in kinds.all() for role in family.roles))
    figures = [_figures(known[key]) for key in sorted(matter) if key in known]
    return hashlib.sha256(json.dumps(figures).encode()).hexdigest()


def _figures(food: Ingredient) -> list[object]:
    amounts = sorted((nutrient.value, value) for nutrient, value in food.per_100_g.items())
    return [food.id, food.category, food.polyol_kind, food.sweetness, amounts]
