"""Recipe lines in German, French, Italian, Spanish and Dutch, put into English words: measures first, then names.

Worked example: "2 EL Zucker" is "2 tbsp sugar", "1 c. à soupe de miel" is "1 tbsp honey". What no table holds stays as it is
written, and is asked about.
"""

import re
from collections.abc import Callable
from functools import cache

from fern_match.core.data import rows
from fern_match.core.label.statement.tongues import TONGUES, tongue_heard, turned_over

_OF = re.compile(r"(?<=\w) (?:de la |de l['’] ?|du |des |de |d['’] ?|di |del |della |dell['’] ?|van )(?=\w)|\bof (?=\w)", re.I)
_COUNTS = frozenset(
    {"tbsp", "tsp", "heaped tbsp", "heaped tsp", "pinch", "packet", "cup", "drops", "can", "leaves", "x", "pods"}
) | {"egg whites", "egg yolks"}
_BEHIND_A_NUMBER, _APART = r"(?<=[\d½¼¾⅓⅔⅛] )", r"(?<![\w.])"
_AFTER_AMOUNT = re.compile(r"^([\d.,/½¼¾⅓⅔ -]+ ?(?:\w+\.? )?)of ", re.I)
_A_NUMBER = re.compile(r"^(?:une?|eine?|ein|una?|uno|een) (?=\w)", re.I)


def tongue_of(text: str, knows: Callable[[str], bool]) -> str:
    """The language a recipe is in; English where nothing else is heard better.

    Args:
        text: Of all its lines.
        knows: Whether an English name is one of the trade.
    """
    return tongue_heard(text, knows)


def in_our_words(line: str, tongue: str) -> str:
    """A line in English words.

    Args:
        line: As written.
        tongue: One of `TONGUES`; a line in any other is left as it is.

    Source: data/recipe_tongues.csv (measures), data/tongues.csv (names).
    """
    if tongue not in TONGUES:
        return line
    text = _A_NUMBER.sub("1 ", line.strip())
    text = re.sub(r"^(\d[\d.,/]*)(?=[^\W\d_])", r"\1 ", text)
    for pattern, english in _measures(tongue):
        text = pattern.sub(english, text)
    text = turned_over(text, tongue)
    text = _AFTER_AMOUNT.sub(r"\1", text)
    return re.sub(r" {2,}", " ", text).replace(" ,", ",").strip(" ,")


@cache
def _measures(tongue: str) -> tuple[tuple[re.Pattern[str], str], ...]:
    """Measures and turns of a language, the longest first, with what they are in English.

    What counts or measures is one only behind a number: the white of "chocolat blanc" is no egg's.
    """
    found = [
        (word, row["english"])
        for row in rows("recipe_tongues.csv")
        if row["tongue"] == tongue
        for word in row["words"].split("|")
    ]
    return tuple(
        (re.compile(rf"{_BEHIND_A_NUMBER if english in _COUNTS else _APART}{re.escape(word)}(?!\w)", re.I), english)
        for word, english in sorted(found, key=lambda pair: -len(pair[0]))
    )
