"""The most of one ingredient that makes sense in a family: what burns, grains, turns slimy or breaks a foam above it."""

from functools import cache

from fern_match.core.data import rows
from fern_match.core.families.tables import Family


def largest_share(ingredient_id: str, family: Family | None) -> float | None:
    """The largest sensible share of one ingredient, of what goes into the bowl [g/g]; None where none is known."""
    found = too_much(ingredient_id, family)
    return found[0] if found is not None else None


def too_much(ingredient_id: str, family: Family | None) -> tuple[float, str] | None:
    """The largest sensible share, and what more of it does; None where none is known.

    Args:
        ingredient_id: Of the pantry.
        family: In which; what is said of it stands before what is said of its root, and of all.

    Source: data/largest_shares.csv (approximate).
    """
    own = [family.id, family.variant_of or "", ""] if family is not None else [""]
    found = [(own.index(where), share, why) for key, where, share, why in _shares() if key == ingredient_id and where in own]
    return min(found)[1:] if found else None


@cache
def _shares() -> tuple[tuple[str, str, float, str], ...]:
    return tuple(
        (row["ingredient"], row["family"], float(row["most_pct"]) / 100, row["why"]) for row in rows("largest_shares.csv")
    )
