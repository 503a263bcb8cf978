"""Which ingredient a name on a label means, and how sure that is."""

import re
from dataclasses import dataclass
from functools import cache

from rapidfuzz import fuzz, process

from fern_match.core.data import rows
from fern_match.core.food.ingredients import Pantry

# Below this likeness (0 to 100) a name is left for the user: nearer names differ by a word that matters ("corn", "syrup").
_LEAST_LIKENESS = 80.0
_MOST_PANTRIES = 16
_ALIAS_CONFIDENCE = 0.8  # a loose word ("flavouring") is taken with doubt
# Words that say how a food was treated, not what it is; dropped when the full name is not in the pantry.
_TREATMENT = re.compile(
    r"\b(organic|natural|pure|fine|finely|ground|chopped|roasted|toasted|dried|pasteurised|pasteurized|sustainable|certified"
    r"|free range|reconstituted|concentrated|refined|fresh|whole|skinless|blanched)\b"
)


@dataclass(frozen=True, slots=True, kw_only=True)
class NameMatch:
    """What a name on a label was taken for."""

    ingredient_id: str | None
    confidence: float  # 0 (no idea) to 1 (the pantry has this very name)


def matched_name(name: str, pantry: Pantry, *, loosely: bool = True) -> NameMatch:
    """The pantry's ingredient that a label's name most likely means.

    Args:
        name: As printed, without percentages and brackets.
        loosely: Whether a name that is only like the pantry's counts; finding those takes about a millisecond.
    """
    known = _REMEMBERED.get((pantry.key, name, loosely))
    if known is None:
        if len(_REMEMBERED) > _MOST_REMEMBERED:
            _REMEMBERED.clear()
        known = _REMEMBERED[pantry.key, name, loosely] = _found(name, pantry, loosely=loosely)
    return known


_REMEMBERED: dict[tuple[str, str, bool], NameMatch] = {}
_MOST_REMEMBERED = 20_000


def _found(name: str, pantry: Pantry, *, loosely: bool) -> NameMatch:
    names, ids = _names(pantry)
    wanted = plain(name)
    for attempt in (wanted, plain(_TREATMENT.sub(" ", wanted)), wanted.removesuffix("s")):
        if attempt in ids:
            return NameMatch(ingredient_id=ids[attempt], confidence=1.0 if attempt == wanted else 0.95)
    alias = _aliases().get(wanted)
    if alias is not None and alias in pantry:
        return NameMatch(ingredient_id=alias, confidence=_ALIAS_CONFIDENCE)
    if not loosely:
        return NameMatch(ingredient_id=None, confidence=0.0)
    best = process.extractOne(wanted, names, scorer=fuzz.token_sort_ratio, score_cutoff=_LEAST_LIKENESS)
    if best is None:
        return NameMatch(ingredient_id=None, confidence=0.0)
    return NameMatch(ingredient_id=ids[best[0]], confidence=round(best[1] / 100, 2) - 0.1)


def plain(text: str) -> str:
    """A name as it is compared: lower case, one space, no apostrophes, dots or stars."""
    text = text.lower().replace("’", "").replace("'", "").replace("`", "")
    return re.sub(r"\s+", " ", re.sub(r"[^\w%&/+\- ]", " ", text)).strip(" -")


@cache
def _aliases() -> dict[str, str]:
    return {plain(row["name"]): row["ingredient"] for row in rows("aliases.csv")}


_NAMES: dict[str, tuple[list[str], dict[str, str]]] = {}  # by the pantry's key


def _names(pantry: Pantry) -> tuple[list[str], dict[str, str]]:
    """All names of a pantry, and the ingredient each is the name of."""
    if pantry.key not in _NAMES:
        ids: dict[str, str] = {}
        for food in pantry.all():
            for name in (*food.label_names, food.name, food.id.replace("-", " ")):
                ids.setdefault(plain(name), food.id)
        while len(_NAMES) > _MOST_PANTRIES:
            _NAMES.pop(next(iter(_NAMES)))
        _NAMES[pantry.key] = (list(ids), ids)
    return _NAMES[pantry.key]
