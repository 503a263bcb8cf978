"""Finding an ingredient by any name: its own, a label's, an everyday one of either side of the ocean, or one misspelt."""

from collections.abc import Mapping

from rapidfuzz import fuzz, process

from fern_match.core.data import rows
from fern_match.core.food.ingredients import Ingredient, Pantry
from fern_match.core.food.names import plain

_LEAST_LIKENESS = 68.0
_LONGEST = 120  # signs of a name that are looked for
_BEGINS, _HOLDS, _WORDS_BEGIN = 97.0, 88.0, 92.0


def found_in(pantry: Pantry, text: str, most: int = 40) -> tuple[Ingredient, ...]:
    """The ingredients that a text most likely means, the likeliest first; all of them where it is empty.

    Args:
        text: As typed; spelling is forgiven.
        most: How many at most.
    """
    wanted = plain(text[:_LONGEST])
    if not wanted:
        return tuple(sorted(pantry.all(), key=lambda food: food.name.lower()))
    names = _names(pantry)
    scores: dict[str, float] = {}
    for name, keys in names.items():
        score = _score(name, wanted)
        if score > 0:
            for key in keys:
                scores[key] = max(scores.get(key, 0.0), score)
    for name, likeness, _ in process.extract(wanted, list(names), scorer=fuzz.WRatio, score_cutoff=_LEAST_LIKENESS, limit=30):
        if min(len(name), len(wanted)) >= 4:
            for key in names[name]:
                scores[key] = max(scores.get(key, 0.0), likeness * 0.8)
    ranked = sorted(scores, key=lambda key: (-scores[key], pantry[key].name.lower()))
    return tuple(pantry[key] for key in ranked[:most])


def _score(name: str, wanted: str) -> float:
    if name == wanted:
        return 100.0
    if name.startswith(wanted):
        return _BEGINS - 0.05 * len(name)
    words = name.split()
    if all(any(word.startswith(part) for word in words) for part in wanted.split()):
        return _WORDS_BEGIN - 0.05 * len(name)
    return _HOLDS - 0.05 * len(name) if wanted in name else 0.0


def _names(pantry: Pantry) -> Mapping[str, frozenset[str]]:
    found: dict[str, set[str]] = {}
    for food in pantry.all():
        for name in (food.name, food.id.replace("-", " "), food.category, *food.label_names):
            found.setdefault(plain(name), set()).add(food.id)
    for row in rows("aliases.csv"):
        if row["ingredient"] in pantry and not row["within"]:
            found.setdefault(plain(row["name"]), set()).add(row["ingredient"])
    for row in rows("recipe_words.csv"):
        if row["ingredient"] in pantry:
            for word in row["words"].split("|"):
                found.setdefault(plain(word), set()).add(row["ingredient"])
    return {name: frozenset(keys) for name, keys in found.items()}
