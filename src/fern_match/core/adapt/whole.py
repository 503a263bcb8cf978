"""A whole piece under rules: which family each layer takes, all layers weighed together for the limits that they share.

Worked example: a coat that may hold 2 g of the 5 g net carbohydrate by its weight takes 3 where the caramel needs only 1. Each
layer begins with its nearest option; one at a time is changed for another as long as the piece comes nearer, by linear programs
in which a limit may be passed at a high price. What is passed at the end is how far the limit cannot be met.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.adapt.bench import Bench
from fern_match.core.adapt.limits import piece_limits, taste_limits
from fern_match.core.adapt.options import Option, options
from fern_match.core.adapt.swaps import System
from fern_match.core.formulate import Formula, LeastCost, Room, Solved, Target, least_cost, short_of, solve

_MOST_OPTIONS, _MOST_TURNS = 4, 2
NEAR = 2.0  # of a cost, below which nothing else is tried
_BETTER = 0.05
_PASSED = 1e-6  # g


@dataclass(frozen=True, slots=True, kw_only=True)
class Whole:
    """What a system makes of a piece."""

    system: System | None
    solved: Solved | None  # None where nothing fits
    stuck: tuple[str, ...] = ()  # layers that no family takes, by id
    passed: Mapping[str, float] | None = None  # by limit: how far it cannot be met [g of a piece]
    begun: Formula | None = None  # with all that was on offer, in the families that were taken
    before: Formula | None = None  # the version
    fixed: frozenset[str] = frozenset()  # layers that stay exactly as they are
    straight: bool = False  # whether what the rules allow was held near its amount
    with_plants: bool = False  # whether plants stand in for milk, whose sugar was too much
    targets: tuple[Target, ...] = ()

    @property
    def passed_g(self) -> float:
        """How far limits cannot be met, together; 0 where it is solved."""
        return sum((self.passed or {}).values())


def whole(formula: Formula, targets: Sequence[Target], system: System | None, bench: Bench, *, thorough: bool = True) -> Whole:
    """A piece worked out under rules with a system's stand-ins.

    Args:
        formula: The version.
        targets: What it is held to.
        system: Whose stand-ins are used.
        bench: The rules.
        thorough: Whether other families are tried where the nearest for each layer do not come near together.
    """
    choices = [options(formula, layer, targets, system, bench) for layer in formula.layers]
    stuck = tuple(layer.layer_id for layer, found in zip(formula.layers, choices, strict=True) if not found)
    if stuck:
        return Whole(system=system, solved=None, stuck=stuck)
    taken, least = _searched(formula, [one[: _MOST_OPTIONS if thorough else 1] for one in choices], targets, bench)
    begun = replace(formula, layers=tuple(one.layer for one in taken))
    fixed = frozenset(one.layer.layer_id for one in taken if one.fixed)
    if least is None:
        return Whole(system=system, solved=None, begun=begun, targets=tuple(targets))
    if least.over and max(least.over.values()) > _PASSED and not thorough:
        return whole(formula, targets, system, bench)
    passed = {key: grams for key, grams in least.over.items() if grams > _PASSED}
    if passed:
        return Whole(system=system, solved=None, passed=passed, begun=begun, targets=tuple(targets))
    room = _room(formula, begun, fixed, targets, bench, may_give=False)
    solved = solve(begun, targets, room, bench.reading)
    return Whole(
        system=system,
        solved=solved if isinstance(solved, Solved) else None,
        begun=begun,
        fixed=fixed,
        before=formula,
        targets=tuple(targets),
    )


def what_stops(made: Whole, bench: Bench) -> tuple[str, ...]:
    """What keeps a piece from the sweetness and fat it is to have, by solving again with one limit moved at a time.

    Args:
        made: A piece that was solved.
        bench: The rules it was solved under.
    """
    if made.solved is None or made.begun is None or made.before is None:
        return ()
    about = {one.id for one in made.solved.targets if one.layer_id is None and not one.reached}
    if not about:
        return ()
    room = replace(
        _room(made.before, made.begun, made.fixed, made.targets, bench, may_give=False),
        choose=False,
        swift=False,
        explain=True,
        about=about,
    )
    again = solve(made.begun, made.targets, room, bench.reading)
    if not isinstance(again, Solved):
        return ()
    reached = {one.id for one in again.targets if one.reached}
    by_lines = tuple(
        f"{one.name}: {short_of(one)}. More lines at once would bring it there: as few as do the work are taken."
        for one in made.solved.targets
        if one.id in about & reached
    )
    return (*again.held_back, *by_lines)


def _searched(
    formula: Formula, choices: Sequence[Sequence[Option]], targets: Sequence[Target], bench: Bench
) -> tuple[list[Option], LeastCost | None]:
    """One option for each layer, and what they cost together.

    What the layers cost together above what each costs alone is all that another option could win back: one that is dearer
    alone by more than that is not tried.
    """
    seen: dict[tuple[str, ...], tuple[float, LeastCost | None]] = {}

    def cost(taken: Sequence[Option]) -> tuple[float, LeastCost | None]:
        key = tuple(one.layer.family for one in taken)
        if key not in seen:
            begun = replace(formula, layers=tuple(one.layer for one in taken))
            fixed = frozenset(one.layer.layer_id for one in taken if one.fixed)
            least = _least(formula, begun, fixed, targets, bench)
            seen[key] = (least.cost + sum(one.extra for one in taken) if least is not None else float("inf"), least)
        return seen[key]

    taken = [found[0] for found in choices]
    best = cost(taken)
    for _ in range(_MOST_TURNS):
        before = best[0]
        for at, found in enumerate(choices):
            for option in found:
                if best[0] < NEAR:
                    return taken, best[1]
                to_win = best[0] - sum(one.cost for one in taken)
                if option.cost - taken[at].cost > to_win:
                    continue
                other = [*taken[:at], option, *taken[at + 1 :]]
                if cost(other)[0] < best[0] - _BETTER:
                    taken, best = other, cost(other)
        if best[0] >= before - _BETTER:
            break
    return taken, best[1]


def _least(formula: Formula, begun: Formula, fixed: frozenset[str], targets: Sequence[Target], bench: Bench) -> LeastCost | None:
    room = _room(formula, begun, fixed, targets, bench, may_give=True)
    return least_cost(begun, targets, room, bench.reading)


def _room(
    formula: Formula, begun: Formula, fixed: frozenset[str], targets: Sequence[Target], bench: Bench, *, may_give: bool
) -> Room:
    return Room(
        free=[layer.layer_id for layer in begun.layers if layer.layer_id not in fixed],
        choose=True,
        keep=False,
        allergens=bench.allergens,
        swift=True,
        explain=False,
        limits=(
            *piece_limits(begun, targets, bench, may_give=may_give),
            *(one for layer in formula.layers for one in taste_limits(layer, layer.finished_g, bench)),
        ),
        before={layer.layer_id: layer for layer in formula.layers},
        hold=bench.hold,
        should_stop=bench.should_stop,
    )
