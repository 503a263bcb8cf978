"""Which ingredient a name on a label means, and how sure that is; what names outside the pantry may hold.

A name is compared whole, then without words that say only how it was grown or cut, then by its words in any order and
number, then for a slip of the pen, and at last by the longest known name that it ends with: "Vermont maple syrup" is asked
about as maple syrup, unless a word left over names a food ("hazelnut sugar"). What the pantry does not hold stays unknown
rather than becoming a stranger.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import Literal

from rapidfuzz import fuzz, process

from fern_match.core.data import rows
from fern_match.core.food.ingredients import Ingredient, Pantry, standard_pantry

Within = Literal["", "chocolate", "fat"]

_MOST_PANTRIES = 16
_SAME_WORDS, _WITHOUT_TREATMENT, _ENDING, _SLIP = 0.97, 0.95, 0.7, 0.6  # confidence by how a name was found
_MOST_LIKE = 30  # names looked at that resemble an unknown one
_MOST_WORDS = 8  # of a name of which an ending is looked for
_SAYS_LITTLE = re.compile(  # alone at the end of a longer name, each may end the name of another food
    r"water|cream|milk|butter|oil|fat|powder|paste|flour|juice|syrup|extract|spirit|fibre|sugar|chocolate|starch|protein|puree"
)
_OF_A_PLACE = re.compile(r"^(.{3,40}?) (?:from|of|grown|sourced|product of|by) .+$")
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
    (re.compile(r"^(?:pieces|chunks|bits|slices|shards) of "), ""),
    (re.compile(r"\b(?:toasted|dry roasted|oven roasted|freshly roasted)\b"), "roasted"),
    (re.compile(r"\bskim\b"), "skimmed"),
    (re.compile(r"\bnon-?fat\b|\bfat[- ]free\b"), "nonfat"),
    (re.compile(r"\bsoja\b|\bsoy\b(?! ?beans?\b)|\bsoya ?bean\b|\bsoybean lecithin\b"), "soya"),
    (re.compile(r"\byoghurt\b"), "yogurt"),
    (re.compile(r"\bfiber\b"), "fibre"),
    (re.compile(r"\bdehydrated\b"), "dried"),
    (re.compile(r"\bcaramelized\b"), "caramelised"),
    (re.compile(r"\bcrystallized\b"), "crystallised"),
    (re.compile(r"\balkalized\b|\b(?:processed|treated) with alkali\b|\bdutched\b"), "alkalised"),
    (re.compile(r"\bcacao\b"), "cocoa"),
    (re.compile(r"é|è|ê"), "e"),
)
_FAT_OF = re.compile(
    r"((?:(?:fully|partially) )?hydrogenated )?"
    r"(?:vegetable |plant )?(?:fats?|oils?)(?: (?:and|&) (?:fats?|oils?))? (?:of|from) (.+)"
)
_OF = re.compile(r"(\w+) of ([\w -]+)")
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


def matched_name(name: str, pantry: Pantry, *, within: Within = "", loosely: bool = True, by_ending: bool = False) -> NameMatch:
    """The pantry's ingredient that a label's name most likely means.

    Args:
        name: As printed, without percentages and brackets.
        within: What brackets it stands in: "chocolate" there means cocoa mass, "palm" in a fat's brackets palm oil.
        loosely: Whether a name that is a slip of the pantry's counts; finding those takes about a millisecond.
        by_ending: Whether a longer name counts as the known name it ends with, where nothing else is found.
    """
    known = _whole_name(name, pantry, within, loosely=loosely)
    if known.ingredient_id is None and known.confidence <= 0 and by_ending:
        wanted = plain(name)
        found = _ending(wanted, pantry, within) or _without_strange_words(wanted, pantry, within)
        return NameMatch(ingredient_id=found, confidence=_ENDING if found else 0.0)
    return known


def _whole_name(name: str, pantry: Pantry, within: Within, *, loosely: bool) -> NameMatch:
    known = _REMEMBERED.get((pantry.key, name, within, loosely))
    if known is None:
        if len(_REMEMBERED) > _MOST_REMEMBERED:
            _REMEMBERED.clear()
        known = _REMEMBERED[pantry.key, name, within, loosely] = _found(name, pantry, within, loosely=loosely)
    return known


_REMEMBERED: dict[tuple[str, str, str, bool], NameMatch] = {}
_MOST_REMEMBERED = 20_000


def resembling(name: str, pantry: Pantry, *, least: float) -> tuple[Ingredient, ...]:
    """Ingredients whose names share words with an unknown one, the likest first.

    Args:
        name: As printed.
        least: Likeness from which one counts, 0 to 100.
    """
    names = _names(pantry)
    found = process.extract(plain(name), names.list, scorer=fuzz.token_set_ratio, score_cutoff=least, limit=_MOST_LIKE)
    ranked = sorted(found, key=lambda one: -fuzz.token_sort_ratio(plain(name), one[0]))
    return tuple(pantry[key] for key in dict.fromkeys(names.exact[one[0]] for one in ranked))


def unlisted(name: str) -> Unlisted | None:
    """What a name outside the pantry may hold; None where nothing is known of it."""
    wanted = plain(name)
    of = _OF.fullmatch(wanted)
    spellings = (wanted, f"{of[2]} {of[1]}") if of else (wanted,)  # "extract of rosemary" is rosemary extract
    return next((found for pattern, found in _unlisted() for spelling in spellings if pattern.fullmatch(spelling)), None)


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
    if of_fat := _FAT_OF.fullmatch(wanted):  # "vegetable fats of palm kernel": what stands behind says which
        whole = (f"{of_fat[1] or ''}{of_fat[2]}", of_fat[2])
        found = [_found(one, pantry, "fat", loosely=False) for one in whole]
        return next((one for one in found if one.ingredient_id is not None), NameMatch(ingredient_id=None, confidence=0.3))
    if unlisted(wanted) is not None:
        return NameMatch(ingredient_id=None, confidence=0.9)
    for attempt, confidence in ((wanted, _SAME_WORDS), (bare, _WITHOUT_TREATMENT)):
        stems = _stems(_same(attempt))
        if stems and stems in names.by_stems:
            return NameMatch(ingredient_id=names.by_stems[stems], confidence=confidence)
    slip = _slip(bare, names) if loosely else None
    return NameMatch(ingredient_id=slip, confidence=_SLIP if slip else 0.0)


def _ending(wanted: str, pantry: Pantry, within: Within) -> str | None:
    """The ingredient whose name is the longest that a name ends with, if the words before it name no food of their own."""
    of_a_place = _OF_A_PLACE.match(wanted)
    if of_a_place and _SAYS_LITTLE.fullmatch(of_a_place[1]):  # "butter of cocoa"
        return None
    words = (of_a_place[1] if of_a_place else wanted).split()
    if len(words) > _MOST_WORDS:
        return None
    for at in range(0 if of_a_place else 1, len(words)):
        before, rest = words[:at], " ".join(words[at:])
        if any(_is_food(word) for word in before) or (before and _SAYS_LITTLE.fullmatch(rest)):
            return None
        found = _whole_name(rest, pantry, within, loosely=False)
        if found.ingredient_id is not None:
            return found.ingredient_id
    return None


def _without_strange_words(wanted: str, pantry: Pantry, within: Within) -> str | None:
    """The ingredient that a name is without the words within it that no name of the trade has: "almonds marcona roasted".

    The last word stays: it says what a thing is ("cream crackers").
    """
    words = wanted.split()
    kept = [word for word in words if word in known_words() or _singular(word) in known_words() or _is_food(word)]
    if not kept or len(kept) == len(words) or len(words) > _MOST_WORDS or kept[0] != words[0] or kept[-1] != words[-1]:
        return None
    return _whole_name(" ".join(kept), pantry, within, loosely=False).ingredient_id


def _is_food(word: str) -> bool:
    """Whether a word alone is a name of the trade, or the name of something that has one: "hazelnut", "lemon", "cheese"."""
    return known_name(word) or _singular(word) in _named_after() or bool(_OTHER_FOODS.fullmatch(word))


_OTHER_FOODS = re.compile(
    r"cheese|rose|orange|flower|tea|soda|ice|lemon|lime|mint|garlic|onion|chilli|pepper|fruit|vegetable|berry|nut|seed|bean|corn"
    r"|rice|oat|potato|coffee|wine|beer|palm|cane|beet|grape|apple|pear|peach|plum|banana|pineapple|mango|soya?|pea|egg|fish"
)


@cache
def _named_after() -> frozenset[str]:
    """First words of two-word names that end in what says little: "hazelnut" of "hazelnut paste"."""
    names = [name.split() for name in _names(standard_pantry()).exact]
    return frozenset(_singular(one[0]) for one in names if len(one) == 2 and _SAYS_LITTLE.fullmatch(one[1]))


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
