"""Which ingredient a name on a label means, and how sure that is; what names outside the pantry may hold.

A name is compared whole, then without words that say only how it was grown or cut, then by its words in any order and
number, then for a slip of the pen. What the pantry does not hold stays unknown rather than becoming a stranger.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import Literal

from rapidfuzz import fuzz, process

from fern_match.core.data import rows
from fern_match.core.food.ingredients import Pantry, standard_pantry

Within = Literal["", "chocolate", "fat"]

_MOST_PANTRIES = 16
_SAME_WORDS, _WITHOUT_TREATMENT, _SLIP = 0.97, 0.95, 0.6  # confidence by how a name was found
_LEAST_LIKENESS, _LEAST_WORD_LIKENESS = 86.0, 78.0  # of two names and of two words, 0 to 100, for one to be a slip of the other
_LEAST_SIGNS = 5  # of a word that may be misspelt
_REMOVED = re.compile(  # words that say how a food was grown, bought or cut, not what it is
    r"\b(?:organic|natural|pure|fine|finely|coarse|coarsely|chopped|diced|sliced|crushed|sustainable|certified|rspo"
    r"|free[- ]range|free from"
    r"|reconstituted|refined|fresh|whole|skinless|blanched|real|premium|california|californian|sicilian|belgian|swiss"
    r"|italian|non-?gmo"
    r"|fair ?trade|pasteuri[sz]ed|pieces|halves|bits|kernels|selected|quality|grade a|deodori[sz]ed|dry|ground|milled"
    r"|unsulphured|select|local)\b"
)
_SAME = (  # spellings of one thing
    (re.compile(r"\b(?:toasted|dry roasted|oven roasted|freshly roasted)\b"), "roasted"),
    (re.compile(r"\bskim\b"), "skimmed"),
    (re.compile(r"\bnon-?fat\b|\bfat[- ]free\b"), "nonfat"),
    (re.compile(r"\bsoja\b|\bsoya ?bean\b|\bsoybean lecithin\b"), "soya"),
    (re.compile(r"\byoghurt\b"), "yogurt"),
    (re.compile(r"\bfiber\b"), "fibre"),
    (re.compile(r"\bdehydrated\b"), "dried"),
    (re.compile(r"\bcaramelized\b"), "caramelised"),
    (re.compile(r"\bcrystallized\b"), "crystallised"),
    (re.compile(r"\balkalized\b|\b(?:processed|treated) with alkali\b|\bdutched\b"), "alkalised"),
    (re.compile(r"\bcacao\b"), "cocoa"),
    (re.compile(r"é|è|ê"), "e"),
)
_UNTOUCHED = frozenset({"cheese", "cross", "glass", "hibiscus", "couscous", "molasses", "swiss", "bis", "gluten"})


@dataclass(frozen=True, slots=True, kw_only=True)
class NameMatch:
    """What a name on a label was taken for."""

    ingredient_id: str | None
    confidence: float  # 0 (no idea) to 1 (the pantry has this very name); of an unlisted name, that it is none of the pantry's


@dataclass(frozen=True, slots=True, kw_only=True)
class Unlisted:
    """A kind of name that no pantry row stands for."""

    may_hold: str
    is_trace: bool  # too little to count by weight


def matched_name(name: str, pantry: Pantry, *, within: Within = "", loosely: bool = True) -> NameMatch:
    """The pantry's ingredient that a label's name most likely means.

    Args:
        name: As printed, without percentages and brackets.
        within: What brackets it stands in: "chocolate" there means cocoa mass, "palm" in a fat's brackets palm oil.
        loosely: Whether a name that is a slip of the pantry's counts; finding those takes about a millisecond.
    """
    known = _REMEMBERED.get((pantry.key, name, within, loosely))
    if known is None:
        if len(_REMEMBERED) > _MOST_REMEMBERED:
            _REMEMBERED.clear()
        known = _REMEMBERED[pantry.key, name, within, loosely] = _found(name, pantry, within, loosely=loosely)
    return known


_REMEMBERED: dict[tuple[str, str, str, bool], NameMatch] = {}
_MOST_REMEMBERED = 20_000


def unlisted(name: str) -> Unlisted | None:
    """What a name outside the pantry may hold; None where nothing is known of it."""
    wanted = plain(name)
    return next((found for pattern, found in _unlisted() if pattern.fullmatch(wanted)), None)


@lru_cache(maxsize=4096)
def known_name(name: str) -> bool:
    """Whether a name is one of the trade: in the standard pantry, a loose word for one of its rows, or known to be none."""
    wanted = plain(name)
    if not wanted:
        return False
    names = _names(standard_pantry())
    if wanted in names.exact or any((within, wanted) in _aliases() for within in ("", "chocolate", "fat")):
        return True
    return _stems(_same(wanted)) in names.by_stems or unlisted(wanted) is not None


@cache
def known_words() -> frozenset[str]:
    """Every word of every name of the trade."""
    names = [*_names(standard_pantry()).exact, *(name for _, name in _aliases())]
    return frozenset(word for name in names for word in name.split())


def _found(name: str, pantry: Pantry, within: Within, *, loosely: bool) -> NameMatch:
    names = _names(pantry)
    wanted = plain(name)
    alias = _aliases().get((within, wanted))
    if within and alias is not None and alias[0] in pantry:
        return NameMatch(ingredient_id=alias[0], confidence=alias[1])
    bare = re.sub(r"^(?:and|&) |^(?:and )?(?=roasted|salted)", "", plain(_REMOVED.sub(" ", wanted)))
    for attempt, confidence in ((wanted, 1.0), (bare, _WITHOUT_TREATMENT)):
        for spelling in (attempt, _same(attempt)):
            if spelling in names.exact and (within, spelling) not in _aliases():
                sure = _aliases().get(("", spelling), ("", 1.0))[1] if confidence < 1.0 or spelling != wanted else 1.0
                return NameMatch(ingredient_id=names.exact[spelling], confidence=min(confidence, max(sure, 0.85)))
            for inside in (within, ""):
                loose = _aliases().get((inside, spelling))
                if loose is not None and loose[0] in pantry:
                    return NameMatch(ingredient_id=loose[0], confidence=min(loose[1], confidence))
    if unlisted(wanted) is not None:
        return NameMatch(ingredient_id=None, confidence=0.9)
    for attempt, confidence in ((wanted, _SAME_WORDS), (bare, _WITHOUT_TREATMENT)):
        stems = _stems(_same(attempt))
        if stems and stems in names.by_stems:
            return NameMatch(ingredient_id=names.by_stems[stems], confidence=confidence)
    slip = _slip(bare, names) if loosely else None
    return NameMatch(ingredient_id=slip, confidence=_SLIP if slip else 0.0)


def _slip(wanted: str, names: "_Names") -> str | None:
    """The name of which this is a slip of the pen: as many words, each the same or nearly."""
    if not wanted or len(wanted) > 60:
        return None
    for best, _, _ in process.extract(wanted, names.list, scorer=fuzz.ratio, score_cutoff=_LEAST_LIKENESS, limit=3):
        ours, theirs = wanted.split(), best.split()
        if len(ours) == len(theirs) and all(_is_slip(a, b) for a, b in zip(ours, theirs, strict=True)):
            return names.exact[best]
    return None


def _is_slip(a: str, b: str) -> bool:
    if a == b:
        return True
    known = known_words()
    return min(len(a), len(b)) >= _LEAST_SIGNS and a not in known and a[0] == b[0] and fuzz.ratio(a, b) >= _LEAST_WORD_LIKENESS


def plain(text: str) -> str:
    """A name as it is compared: lower case, one space, no apostrophes, dots or stars."""
    text = text.lower().replace("’", "").replace("'", "").replace("`", "")
    text = re.sub(r"\be (\d{3,4})", r"e\1", re.sub(r"[^\w%&/+\- ]", " ", text))
    return re.sub(r"\s+", " ", text).strip(" -")


def _same(text: str) -> str:
    for pattern, spelling in _SAME:
        text = pattern.sub(spelling, text)
    return text


def _stems(text: str) -> frozenset[str]:
    """The words of a name in the singular, in any order."""
    return frozenset(_singular(word) for word in re.split(r"[\s-]+", text) if word not in {"of", "from", "with", "in", "the"})


def _singular(word: str) -> str:
    if len(word) <= 3 or word in _UNTOUCHED or word.endswith("ss"):
        return word
    if word.endswith("ies"):
        return word[:-3] + "y"
    if word.endswith(("oes", "shes", "ches")):
        return word[:-2]
    return word.removesuffix("s")


@cache
def _aliases() -> Mapping[tuple[str, str], tuple[str, float]]:
    return {(row["within"], plain(row["name"])): (row["ingredient"], float(row["confidence"])) for row in rows("aliases.csv")}


@cache
def _unlisted() -> tuple[tuple[re.Pattern[str], Unlisted], ...]:
    return tuple(
        (re.compile(row["pattern"]), Unlisted(may_hold=row["may_hold"], is_trace=row["trace"] == "yes"))
        for row in rows("unlisted.csv")
    )


@dataclass(frozen=True, slots=True)
class _Names:
    """All names of a pantry, and the ingredient each is the name of."""

    list: list[str]
    exact: dict[str, str]
    by_stems: dict[frozenset[str], str]


_NAMES: dict[str, _Names] = {}  # by the pantry's key


def _names(pantry: Pantry) -> _Names:
    if pantry.key not in _NAMES:
        exact: dict[str, str] = {}
        for food in pantry.all():
            for name in (*food.label_names, food.name, food.id.replace("-", " ")):
                exact.setdefault(plain(name), food.id)
        by_stems: dict[frozenset[str], str] = {}
        for name, food_id in exact.items():
            by_stems.setdefault(_stems(_same(name)), food_id)
        for (within, name), (food_id, _) in _aliases().items():
            if not within and food_id in pantry:
                by_stems.setdefault(_stems(_same(name)), food_id)
        while len(_NAMES) > _MOST_PANTRIES:
            _NAMES.pop(next(iter(_NAMES)))
        _NAMES[pantry.key] = _Names(list(exact), exact, by_stems)
    return _NAMES[pantry.key]
