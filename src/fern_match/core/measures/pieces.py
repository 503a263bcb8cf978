"""Amounts counted out: eggs, dates, sticks of butter."""

from fractions import Fraction

from fern_match.core.errors import check_range
from fern_match.core.measures.volumes import Scooped, mixed_words

USUAL_PIECES = 24  # of a recipe or a version that does not say
MOST_PIECES = 10_000  # of a batch
PIECE_ERROR = 0.15  # relative: one egg or date is like another within this (approximate)
CUT_ERROR = 0.01  # of what a factory cuts to size
CUT_TO_SIZE = frozenset({"stick"})  # marked in eighths; everything else is counted whole
_ANOTHER_FORM = frozenset({"cube", "pod"})  # sugar and vanilla also come so: read where typed, never proposed
_MOST = 60  # nobody counts further
_FARTHEST = 0.15  # relative: a whole number further off than this says nothing
_PLURALS = {"berry": "berries", "cherry": "cherries", "cranberry": "cranberries", "half": "halves"}


def counted(grams: float, piece_g: float, piece_name: str) -> Scooped | None:
    """An amount as pieces: "12 dates", "1 1/2 sticks"; None where no whole number comes near, or nobody would count it so.

    Args:
        grams: The amount [g], 0 or more.
        piece_g: What one weighs [g], above 0.
        piece_name: What one is called, such as "date" or "mini twist".

    Raises:
        OutOfRange: piece_g is not above 0.

    Source: data/ingredients.csv for weights of pieces (typical values); errors approximate.

    >>> counted(84.0, 7.0, "date").words
    '12 dates'
    """
    check_range("piece", piece_g, 1e-6, 1e6, unit="g")
    exact = piece_name in CUT_TO_SIZE
    parts = 8 if exact else 1
    count = Fraction(round(parts * grams / piece_g), parts)
    if piece_name in _ANOTHER_FORM or not 0 < count <= _MOST or abs(float(count) * piece_g / grams - 1) > _FARTHEST:
        return None
    held, error = float(count) * piece_g, CUT_ERROR if exact else PIECE_ERROR
    name = plural(piece_name) if count > 1 else piece_name
    return Scooped(f"{mixed_words(count)} {name}", held, held * (1 - error), held * (1 + error))


def plural(piece_name: str) -> str:
    """More than one of a piece.

    Args:
        piece_name: Its name; the last word takes the plural.

    >>> plural("mini twist")
    'mini twists'
    """
    *first, last = piece_name.split()
    return " ".join((*first, _PLURALS.get(last, f"{last}s")))
