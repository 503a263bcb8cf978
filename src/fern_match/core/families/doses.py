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
    found = [(own.index(where), share, why) for where, share, why in _shares().get(ingredient_id, ()) if where in own]
    return min(found)[1:] if found else None


@cache
def _shares() -> dict[str, list[tuple[str, float, str]]]:
    """Ingredient -> in which family, how much, and what more of it does."""
    found: dict[str, list[tuple[str, float, str]]] = {}
    for row in rows("largest_shares.csv"):
        found.setdefault(row["ingredient"], []).append((row["family"], float(row["most_pct"]) / 100, row["why"]))
    return found


@cache
def swelling() -> dict[str, float]:
    """What binds in an egg's place once it has swollen, and how many times its weight of water that takes.

    Source: data/hydration.csv (approximate).
    """
    return {row["ingredient"]: float(row["water_times"]) for row in rows("hydration.csv") if row["binds"] == "yes"}
