"""Which ingredient a name on a label means, and how sure that is."""

import re
from dataclasses import dataclass
from functools import cache, lru_cache

from rapidfuzz import fuzz, process

from fern_match.core.data import rows
from fern_match.core.food.ingredients import Pantry

# Below this likeness (0 to 100) a name is left for the user: nearer names differ by a word that matters ("corn", "syrup").
_LEAST_LIKENESS = 80.0
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


def matched_name(name: str, pantry: Pantry) -> NameMatch:
    """The pantry's ingredient that a label's name most likely means.

    Args:
        name: As printed, without percentages and brackets.
        pantry: Where to look.
    """
    names, ids = _names(pantry)
    wanted = plain(name)
    for attempt in (wanted, plain(_TREATMENT.sub(" ", wanted)), wanted.removesuffix("s")):
        if attempt in ids:
            return NameMatch(ingredient_id=ids[attempt], confidence=1.0 if attempt == wanted else 0.95)
    loosely = _aliases().get(wanted)
    if loosely is not None and loosely in pantry:
        return NameMatch(ingredient_id=loosely, confidence=_ALIAS_CONFIDENCE)
    best = process.extractOne(wanted, names, scorer=fuzz.token_sort_ratio, score_cutoff=_LEAST_LIKENESS)
    if best is None:
        return NameMatch(ingredient_id=None, confidence=0.0)
    return NameMatch(ingredient_id=ids[best[0]], confidence=round(best[1] / 100, 2) - 0.1)


def plain(text: str) -> str:
    """A name as it is compared: lower case, one space, no apostrophes, dots or stars.

    Args:
        text: Any label text.
    """
    text = text.lower().replace("’", "").replace("'", "").replace("`", "")
    return re.sub(r"\s+", " ", re.sub(r"[^\w%&/+\- ]", " ", text)).strip(" -")


@cache
def _aliases() -> dict[str, str]:
    return {plain(row["name"]): row["ingredient"] for row in rows("aliases.csv")}


@lru_cache(maxsize=8)
def _names_of(entries: tuple[tuple[str, tuple[str, ...]], ...]) -> tuple[list[str], dict[str, str]]:
    ids: dict[str, str] = {}
    for ingredient_id, names in entries:
        for name in names:
            ids.setdefault(plain(name), ingredient_id)
    return list(ids), ids


def _names(pantry: Pantry) -> tuple[list[str], dict[str, str]]:
    return _names_of(tuple((food.id, (*food.label_names, food.name, food.id.replace("-", " "))) for food in pantry.all()))
