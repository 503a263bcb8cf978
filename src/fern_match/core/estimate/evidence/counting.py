"""Which parts of the problem count towards a name on the statement."""

from collections.abc import Sequence

import numpy as np

from fern_match.core.estimate.problem import WATER, Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.label.statement import StatementItem


def counting(problem: Problem, item: StatementItem) -> Floats:
    """1 for each part that counts towards a statement item."""
    keys = {leaf.key for leaf in item.leaves()}
    return np.array([float(part.item in keys) for part in problem.parts])


def is_water(problem: Problem, item: StatementItem) -> bool:
    """Whether a name is water."""
    return problem.reading.ingredient_of.get(item.key) == WATER


def water_counting(problem: Problem) -> tuple[Floats, Floats]:
    """Added water by difference: all added water less all water lost."""
    parts = np.array([float(part.ingredient_id == WATER) for part in problem.parts])
    return parts, np.ones(len(problem.layers))


def all_items(items: Sequence[StatementItem]) -> list[StatementItem]:
    """Every name, opened or not."""
    return [found for item in items for found in (item, *all_items(item.items))]
