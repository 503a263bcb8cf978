"""Which ingredient a recipe's words mean, what one of it weighs, and what of it is ready to use."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from itertools import combinations

from fern_match.core.data import rows
from fern_match.core.food import Pantry
from fern_match.core.food.names import matched_name, plain
from fern_match.core.measures.pieces import CUT_ERROR, CUT_TO_SIZE, PIECE_ERROR
from fern_match.core.measures.volumes import Measures

_LEAST_CONFIDENCE, _SURE = 0.55, 0.95
_NEAR_PERCENT = 10.0
_MOST_TREATMENTS = 4
_AFTER = re.compile(
    r"(?:,|;| - | – | — |\bfor (?:the )?(?:\w+ing|garnish)\b|\bat room\b|\bplus (?:more|extra)\b|\bto (?:taste|serve|dust)\b"
    r"|\bor more\b"
    r"|\bcut (?:into|in)\b|\bbroken (?:into|in)\b|\bmelted (?:at|and)\b|\bsuch as\b|\buntil\b).*$",
    re.I,
)
_COUNTED = re.compile(
    r"^(?:sticks?|knobs?|sheets?|leaves|squares?|cubes?|rings?|sachets?|pieces?|slices?)\s+(?:of\s+)?(?=\w)", re.I
)
_STRENGTH = re.compile(
    r"\b\d{2,3} bloom\b|^enough\b"
    r"|\b\d{1,3}(?:[.,]\d)? ?%(?: (?:fat|cocoa|cacao|solids|min(?:imum)?|or (?:more|higher)))*|\((?:.*?)\)",
    re.I,
)
NOT_HELD = "The pantry holds no"


@dataclass(frozen=True, slots=True, kw_only=True)
class Named:
    """An ingredient as named."""

    name: str
    ingredient_id: str | None = None
    confidence: float = 0.0
    assumed: tuple[str, ...] = ()
    problem: str | None = None


@dataclass(frozen=True, slots=True)
class _Word:
    ingredient: str | None
    confidence: float
    could_be: str


def named(text: str, brackets: Sequence[str], percent: float | None, pantry: Pantry) -> Named:
    """The ingredient that a line's words mean; what could be two things is not guessed.

    Args:
        text: The words of the line that are no amount.
        brackets: What stood in brackets.
        percent: A percentage the line gives, as of cocoa or of fat [%].
        pantry: What names can mean.
    """
    asked = text.strip(" .,")
    whole = matched_name(asked, pantry, loosely=False).ingredient_id
    if whole is not None and plain(pantry[whole].name) == plain(asked):  # "crunch bits, market hall": its own name holds a comma
        return Named(name=asked, ingredient_id=whole, confidence=1.0)
    full = _STRENGTH.sub(" ", re.sub(r"^\s*(?:of|x)\s+", "", text.strip(" .,")))
    name = _COUNTED.sub("", re.sub(r"\s+", " ", _AFTER.sub("", full)).strip(" .,-"))
    if not name:
        return Named(name=full.strip(), problem="Of what? Name the ingredient.")
    if name and not _treatments().sub(" ", plain(name)).strip() and _AFTER.search(full):  # "roasted, salted peanuts"
        name = re.sub(r"\s+", " ", full.replace(",", " ")).strip()
    found = _alternatives(name, pantry) or _one_of(name, pantry) or _joined(name) or _nearly(name, pantry)
    extra = " ".join((full[full.find(name) + len(name) :], *brackets)).lower()
    if found is None:
        return Named(name=name, problem=f"{NOT_HELD} “{name}”. Choose an ingredient, or add it from its packet.")
    named_here = _with_more(found, name, extra, pantry)
    return _by_percent(named_here, percent, pantry) if percent is not None else named_here


def _one_of(name: str, pantry: Pantry) -> Named | None:
    """A recipe's word for an ingredient, whole, in the singular, or without how it was treated; then a label's name for one."""
    wanted = plain(name.replace("%", " "))
    for attempt in _attempts(wanted):
        word = _words().get(_singular(attempt))
        if word is not None:
            return _of_word(word, name, pantry)
        label = matched_name(attempt, pantry, loosely=False)
        if label.ingredient_id is not None and label.confidence >= _SURE:
            return Named(name=name, ingredient_id=label.ingredient_id, confidence=label.confidence)
    return None


def _nearly(name: str, pantry: Pantry) -> Named | None:
    """A name that is a slip of the pen of one, or one with other words about it."""
    wanted = plain(name.replace("%", " "))
    for attempt in _attempts(wanted):
        if len(attempt) < 3:
            continue
        match = matched_name(attempt, pantry)
        if match.ingredient_id is not None and match.confidence >= _LEAST_CONFIDENCE:
            return Named(name=name, ingredient_id=match.ingredient_id, confidence=match.confidence)
    return None


def _attempts(wanted: str) -> tuple[str, ...]:
    """A name whole, then without one word that says how it was treated, then without two, at last without any."""
    found = [wanted]
    spans = [match.span() for match in _treatments().finditer(wanted)][:_MOST_TREATMENTS]
    for count in range(1, len(spans) + 1):
        for chosen in combinations(spans, count):
            bare = wanted
            for low, high in reversed(chosen):
                bare = f"{bare[:low]} {bare[high:]}"
            found.append(re.sub(r"\s+", " ", bare).strip(" -"))
    found.append(_untreated(wanted))
    return tuple(dict.fromkeys(one for one in found if one))


def _of_word(word: _Word, name: str, pantry: Pantry) -> Named:
    if word.ingredient is None or word.ingredient not in pantry:
        return Named(name=name, problem=f"“{name}” could be more than one thing: {word.could_be}. Choose one.")
    problem = f"“{name}” could be {word.could_be}. Check which is meant." if word.could_be else None
    return Named(name=name, ingredient_id=word.ingredient, confidence=word.confidence, problem=problem)


def _alternatives(name: str, pantry: Pantry) -> Named | None:
    parts = re.split(r"\s+or\s+|(?<=[a-z])/(?=[a-z])", name, flags=re.I)
    if len(parts) < 2:
        return None
    found = [_one_of(part, pantry) or _nearly(part, pantry) for part in parts]
    ids = {one.ingredient_id for one in found if one is not None}
    if len(ids) == 1 and None not in found and None not in ids and found[0] is not None:
        return found[0]
    known = [pantry[one.ingredient_id].name for one in found if one is not None and one.ingredient_id is not None]
    return Named(name=name, problem=f"“{name}” leaves a choice{': ' + ' or '.join(known) if known else ''}. Choose one.")


def _joined(name: str) -> Named | None:
    if re.search(r"\s(?:and|&|with|\+)\s", name):
        return Named(name=name, problem=f"“{name}” is more than one ingredient. Give each a line of its own.")
    return None


def _with_more(found: Named, name: str, extra: str, pantry: Pantry) -> Named:
    """What stood behind the name or in brackets and makes another ingredient of it: smooth, natural, salted, powdered."""
    for word in ("natural", "unsalted", "salted", "powdered", "unsweetened"):
        if re.search(rf"\b{word}\b", extra) and word not in name.lower():
            better = _one_of(f"{word} {name}", pantry)
            if better is not None and better.ingredient_id is not None:
                return better
    return found


def _by_percent(found: Named, percent: float, pantry: Pantry) -> Named:
    """Of a name that comes in strengths, the nearest one."""
    plain_name = plain(found.name)
    stems = [(stem, pct, key) for stem, pct, key in _strengths() if re.search(rf"\b{stem}\b", plain_name)]
    if not stems and "chocolate" in plain_name and "white" not in plain_name and "milk" not in plain_name:
        stems = [one for one in _strengths() if one[0] == "dark chocolate"]
    if not stems:
        return found
    longest = max(len(stem) for stem, _, _ in stems)
    _, near, key = min((one for one in stems if len(one[0]) == longest), key=lambda one: abs(one[1] - percent))
    if abs(near - percent) > _NEAR_PERCENT or key not in pantry:
        return found
    assumed = (f"{pantry[key].name} is the nearest to {percent:g} %",) if abs(near - percent) > 2 else ()
    return Named(name=found.name, ingredient_id=key, confidence=0.93, assumed=assumed)


def piece_of(word: str, who: Named, measures: Measures, *, holds: bool = False) -> tuple[float, float, float, str] | None:
    """What one weighs [g]: best, low, high, and what was taken for one; None where nobody knows.

    Args:
        word: The container, or the words of the line.
        who: The ingredient.
        measures: The country.
        holds: Whether the word is a container, of which one is not one piece.
    """
    if who.ingredient_id is None:
        return None
    said = _singular(plain(word))
    best: tuple[int, tuple[float, float, float, str]] | None = None
    for words, key, country, piece in _pieces():
        if key != who.ingredient_id or country not in {"", measures.value}:
            continue
        for one in words:
            if re.search(rf"\b{re.escape(one)}\b", said):
                rank = len(one) * 2 + (1 if country else 0)
                if best is None or rank > best[0]:
                    best = (rank, piece)
    if best is not None:
        return best[1]
    food = who.ingredient_id and _standard_piece(who.ingredient_id)
    if not food or holds:
        return None
    grams, name = food
    if name.split()[-1] in said or name in {"chip", "date", "egg", "white", "yolk"} or _is_a_piece(name, said):
        error = CUT_ERROR if name in CUT_TO_SIZE else PIECE_ERROR
        return grams, grams * (1 - error), grams * (1 + error), f"one {name}"
    return None


def _is_a_piece(name: str, said: str) -> bool:
    """Whether a bare count of it counts pieces: nuts, fruits, biscuits, caramels; not sticks, pods or cubes."""
    return name not in {"stick", "pod", "cube", "half", "ring"} and not re.search(r"\b(?:stick|pod|cube)\b", said)


def bought_share(text: str, *, in_container: bool) -> tuple[float, str, bool] | None:
    """What share of what is bought is ready to use, in words, and whether the amount is of what is ready; None where all is.

    Args:
        text: The line.
        in_container: Whether the amount is of a container, as it is sold.

    Source: data/ready_shares.csv (approximate).
    """
    lower = text.lower()
    for words, what, share in _ready():
        found = next((word for word in words if re.search(rf"\b{word}\b", lower)), None)
        if found is None:
            continue
        comes_ready = not in_container and found not in {"unshelled"}
        side = f"{100 * share:.0f} % of what is bought is left, {what}"
        return share, side, comes_ready
    return None


@cache
def _words() -> Mapping[str, _Word]:
    found = {}
    for row in rows("recipe_words.csv"):
        entry = _Word(row["ingredient"] or None, float(row["confidence"]), row["could_be"])
        for word in row["words"].split("|"):
            found[_singular(plain(word))] = entry
    return found


@cache
def _strengths() -> tuple[tuple[str, float, str], ...]:
    return tuple((row["name"], float(row["percent"]), row["ingredient"]) for row in rows("recipe_strengths.csv"))


@cache
def _pieces() -> tuple[tuple[tuple[str, ...], str, str, tuple[float, float, float, str]], ...]:
    return tuple(
        (
            tuple(row["word"].split("|")),
            row["ingredient"],
            row["country"],
            (float(row["grams"]), float(row["low_g"]), float(row["high_g"]), row["what"]),
        )
        for row in rows("recipe_pieces.csv")
    )


@cache
def _ready() -> tuple[tuple[tuple[str, ...], str, float], ...]:
    return tuple((tuple(row["words"].split("|")), row["what"], float(row["ready_share"])) for row in rows("ready_shares.csv"))


@cache
def _standard_piece(ingredient_id: str) -> tuple[float, str] | None:
    row = next((row for row in rows("ingredients.csv") if row["id"] == ingredient_id), None)
    if row is None or not row["piece_g"]:
        return None
    return float(row["piece_g"]), row["piece_name"]


@cache
def _treatments() -> re.Pattern[str]:
    words = sorted((word for row in rows("recipe_treatments.csv") for word in row["words"].split("|")), key=len, reverse=True)
    return re.compile(rf"\b(?:{'|'.join(re.escape(word) for word in words)})\b(?!-)")


def _untreated(wanted: str) -> str:
    """Without words that say how it was treated, and without a join that is left over."""
    bare = re.sub(r"\b(?:and|very|well|then)\b(?=\s*$)|^(?:and|the|of)\b", " ", _treatments().sub(" ", wanted))
    return re.sub(r"\s+", " ", bare).strip(" -") or wanted


def _singular(text: str) -> str:
    """Each word in the singular, so that plurals compare."""
    return " ".join(_word(word) for word in text.split())


def _word(word: str) -> str:
    if len(word) <= 3 or word.endswith("ss") or word in {"molasses", "couscous"}:
        return word
    if word in {"leaves", "halves"}:
        return {"leaves": "leaf", "halves": "half"}[word]
    if word.endswith("ies"):
        return word[:-3] + "y"
    if word.endswith(("ches", "shes", "oes")):
        return word[:-2]
    return word.removesuffix("s")
