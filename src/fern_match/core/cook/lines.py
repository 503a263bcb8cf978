"""Which line of a layer goes in at which step: each in exactly one, but for what a step takes a part of.

Worked example: a marshmallow of 60 g water and 8 g gelatine: the gelatine blooms in four times its weight, 32 g, though never
in more than half of the water: 30 g; the other 30 g go into the syrup.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fern_match.core.batch import BatchIngredient
from fern_match.core.cook.tables import StepRow, hydrations, roasts
from fern_match.core.food import Ingredient, Nutrient, Pantry

_REST, _HYDRATE = "*", "hydrate"
_WET = 35.0  # g of water in 100 g, from which a fruit drips
_NOTHING = 1e-9


@dataclass(frozen=True, slots=True)
class Taken:
    """What of a line goes in at a step."""

    line: BatchIngredient
    share: float  # of the line [g/g]

    @property
    def grams(self) -> float:
        """So much of it [g], as weighed out."""
        return self.line.weigh_out_g * self.share


def matches(token: str, line: BatchIngredient, pantry: Pantry) -> int:
    """How closely a token of the table speaks of a line: 0 not at all, 1 the rest, 2 its role, 3 its kind, 4 itself.

    Args:
        token: `role=`, `kind=`, `food=` or `state=` with a value, or `*`.
        line: Of a layer.
        pantry: For what kind of food it is.
    """
    if token == _REST:
        return 1
    what, _, value = token.partition("=")
    food = pantry.by_id.get(line.ingredient_id)
    said = {
        "role": (2, line.role == value),
        "kind": (3, food is not None and food.category == value),
        "state": (3, _is(value, line.ingredient_id, food)),
        "food": (4, line.ingredient_id == value),
    }
    close, fits = said.get(what, (0, False))
    return close if fits else 0


def _is(state: str, ingredient_id: str, food: Ingredient | None) -> bool:
    """Whether a nut is raw, or a fruit wet."""
    if state == "raw":
        return ingredient_id in roasts()
    water = food.per_100_g.get(Nutrient.WATER) if food is not None else None
    return water is not None and water >= _WET


def shared_out(steps: Sequence[StepRow], lines: Sequence[BatchIngredient], pantry: Pantry) -> Mapping[str, tuple[Taken, ...]]:
    """What goes in at each step, by its key; every line that is there is wholly given out.

    Args:
        steps: Of the layer's way of making, those that are taken.
        lines: Of the layer.
        pantry: For kinds of food.
    """
    found: dict[str, list[Taken]] = {step.key: [] for step in steps}
    left = {line.line_id: 1.0 for line in lines}
    for step in steps:
        for token in step.takes:
            if token.startswith("some="):
                _take_some(token, step, lines, left, found)
    for line in lines:
        if (line.grams <= 0 and not line.unread) or left[line.line_id] <= _NOTHING:
            continue
        best = max(steps, key=lambda step: max((matches(one, line, pantry) for one in step.takes), default=0), default=None)
        if best is None:
            continue
        if not any(matches(one, line, pantry) for one in best.takes):
            best = next((step for step in reversed(steps) if step.takes), steps[-1])
        found[best.key].append(Taken(line, left[line.line_id]))
    return {key: tuple(taken) for key, taken in found.items()}


def _take_some(
    token: str,
    step: StepRow,
    lines: Sequence[BatchIngredient],
    left: dict[str, float],
    found: dict[str, list[Taken]],
) -> None:
    role, _, amount = token.removeprefix("some=").partition(":")
    source = max((line for line in lines if line.role == role and line.grams > 0), key=lambda one: one.grams, default=None)
    if source is None:
        return
    wanted = _for_hydrating(step, lines, source) if amount == _HYDRATE else float(amount)
    share = min(left[source.line_id], wanted)
    if share > _NOTHING:
        found[step.key].append(Taken(source, share))
        left[source.line_id] -= share


def _for_hydrating(step: StepRow, lines: Sequence[BatchIngredient], water: BatchIngredient) -> float:
    """The share of the water that the step's powders swell in."""
    known = hydrations()
    own = {token.removeprefix("food=") for token in step.takes if token.startswith("food=")}
    dry = [line for line in lines if line.ingredient_id in own and line.ingredient_id in known and line.grams > 0]
    if not dry:
        return 0.0
    grams = sum(line.grams * known[line.ingredient_id][0] for line in dry)
    return min(grams / water.grams, *(known[line.ingredient_id][1] for line in dry))
