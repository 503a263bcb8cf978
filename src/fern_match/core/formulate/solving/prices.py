"""What each thing is worth beside a target that is missed by its tolerance: `data/prices.csv`, each with its reason.

Worked example: a target of fat missed by one tolerance costs 3, a further line 0.2: fifteen lines more would be as bad.
"""

from functools import cache

from fern_match.core.data import rows


def price(of: str) -> float:
    """The price of something, beside one tolerance missed at 1.

    Args:
        of: A name of the table.

    Raises:
        KeyError: the table has no such row; a mistake of ours.

    Source: set by hand on the made-up bars and on working recipes (approximate); the reason stands in each row.
    """
    return _prices()[of]


def weight_of_target(what: str) -> float:
    """What a target of a property weighs; 1 where the table says nothing of it."""
    return _prices().get(f"target {what}", price("target"))


@cache
def _prices() -> dict[str, float]:
    return {row["name"]: float(row["price"]) for row in rows("prices.csv")}
