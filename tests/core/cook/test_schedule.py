"""Schedules, judged by a checker that knows nothing of the solver."""

from collections import Counter

import pytest
from tests.cooking import COAT, STACK, Cooked, Part, cooked

from fern_match.core.batch import PlanBy
from fern_match.core.cook import Hands, Place, Schedule, Step, schedule, tasks_of
from fern_match.core.kitchen import Gear, GearKind, Kitchen

NOUGAT = {
    "coat": Part("milk-coat", COAT),
    "nougat": Part("nougat-egg-white", STACK),
    "caramel": Part("soft-caramel", STACK),
}
MOULD = Gear(id="m", name="Mould", kind=GearKind.MOULD, length="48", width="30", depth="14", cavities="8")
NINE = 540


def judged(found: Schedule, steps: tuple[Step, ...], hands: Hands) -> None:
    """Every task once, after what it needs, by a cook who is there and awake, in a place that is free."""
    tasks = {task.key: task for task in tasks_of(steps)}
    lines = {(one.step, one.round): one for one in found.lines}
    assert lines.keys() == tasks.keys()
    for key, line in lines.items():
        task = tasks[key]
        assert line.hands_end_min - line.start_min == task.hands
        assert line.end_min - line.hands_end_min == task.wait
        for need in task.step.needs:
            ends = [
                one.end_min
                for (step, number), one in lines.items()
                if step == need and (number == line.round or not task.step.block)
            ]
            assert not ends or line.start_min >= max(ends)
        if task.hands:
            assert hands.day[0] <= line.start_min % 1440
            assert (line.hands_end_min - 1) % 1440 < hands.day[1]
    for minute in range(found.start_min, found.end_min):
        busy = Counter(one.cook for one in found.lines if one.start_min <= minute < one.hands_end_min)
        assert len(busy) <= hands.cooks
        assert max(busy.values(), default=0) <= 1
        for place in (Place.BURNER, Place.OVEN, Place.FRIDGE, Place.MIXER):
            there = sum(one.place is place and one.start_min <= minute < one.end_min for one in found.lines)
            assert there <= hands.of(place)


def windows_kept(found: Schedule, steps: tuple[Step, ...]) -> bool:
    """Whether nothing waits longer than it should."""
    lines = {(one.step, one.round): one for one in found.lines}
    by_id = {one.id: one for one in steps}
    for one in found.lines:
        for need in by_id[one.step].needs:
            before = by_id.get(need)
            made = lines.get((need, one.round)) or lines.get((need, 1))
            if before is None or made is None or before.most_wait_min is None or (one.round > 1 and made.round == 1):
                continue
            if one.start_min - made.end_min > before.most_wait_min:
                return False
    return True


@pytest.mark.parametrize("cooks", [1, 2])
def test_a_day_s_work(cooks: int) -> None:
    """Nougat, caramel and coat: possible for one pair of hands, and every window is kept."""
    made, hands = cooked(NOUGAT), Hands(cooks=cooks)
    found = schedule(made.plan.steps, hands, begins_min=NINE)
    judged(found, made.plan.steps, hands)
    assert windows_kept(found, made.plan.steps)
    assert (found.start_min, found.clashes) == (NINE, ())


def test_back_from_a_time_over_nights() -> None:
    """Ready on the eighth day at six in the evening: as late as it can be, and nobody works at night."""
    made, hands = cooked(NOUGAT), Hands()
    ready = 7 * 1440 + 18 * 60
    found = schedule(made.plan.steps, hands, ready_min=ready)
    judged(found, made.plan.steps, hands)
    assert found.end_min == ready
    early = schedule(made.plan.steps, hands, begins_min=NINE)
    assert found.end_min - found.start_min <= early.end_min - early.start_min + 1440


def test_rounds_follow_one_another() -> None:
    """A mould of eight for 24: no round begins before the one before is turned out, and boxing comes after the last."""
    made = cooked(NOUGAT, kitchen=Kitchen(gear=(MOULD,)), by=PlanBy.MOULD, gear="m", gear_count="3", pieces="")
    hands = Hands()
    found = schedule(made.plan.steps, hands, begins_min=NINE)
    judged(found, made.plan.steps, hands)
    rounds = [[one for one in found.lines if one.round == number and made.plan.step(one.step).block] for number in (1, 2, 3)]  # type: ignore[union-attr]
    assert max(one.end_min for one in rounds[0]) <= min(one.start_min for one in rounds[1])
    assert max(one.end_min for one in rounds[1]) <= min(one.start_min for one in rounds[2])
    keep = next(one for one in found.lines if one.step == "build--keep")
    assert keep.start_min >= max(one.end_min for one in rounds[2])


def plain(key: str, *needs: str, **more: object) -> Step:
    """A step of a test."""
    return Step(id=key, layer_id="", layer="", title=key, needs=needs, **{"hands_on_min": 10.0, **more})  # type: ignore[arg-type]


def test_what_cannot_be_kept_is_named() -> None:
    """Two things that both wait for nobody, and one pair of hands: by how much, and what would help."""
    steps = (plain("a", most_wait_min=0.0), plain("b", most_wait_min=0.0), plain("c", "a", "b"))
    alone = schedule(steps, Hands(), begins_min=NINE)
    assert len(alone.clashes) == 1
    assert "stands 10 min longer than it should before “c”" in alone.clashes[0]
    assert schedule(steps, Hands(cooks=2), begins_min=NINE).clashes == ()


def test_a_time_that_is_too_near_is_refused_with_a_sentence() -> None:
    """Nothing is squeezed in."""
    found = schedule((plain("a", wait_min=3000.0),), Hands(), ready_min=60)
    assert found.lines == ()
    assert "cannot be ready by then" in found.clashes[0]


def test_chocolate_and_steam_do_not_meet() -> None:
    """A boil and a tempering never go on at once, even with two cooks."""
    made = cooked(NOUGAT)
    found = schedule(made.plan.steps, Hands(cooks=2), begins_min=NINE)
    steps = {one.id: one for one in made.plan.steps}
    boils = [one for one in found.lines if steps[one.step].boil is not None]
    dry = [one for one in found.lines if "steam" in steps[one.step].cautions and one.hands_end_min > one.start_min]
    assert boils
    assert dry
    assert not any(one.start_min < other.end_min and other.start_min < one.end_min for one in boils for other in dry)


def test_forty_steps_two_cooks_three_places_and_the_same_twice() -> None:
    """Closing windows throughout; solved to the end, or with its gap said, and the same on every machine."""
    places = (Place.BURNER, Place.OVEN, Place.FRIDGE)
    steps = tuple(
        plain(
            f"s{n}",
            *([f"s{n - 4}"] if n >= 4 else []),
            hands_on_min=float(3 + n % 7),
            wait_min=float(5 * (n % 5)),
            most_wait_min=float(30 + 10 * (n % 3)) if n % 2 else None,
            place=places[n % 3],
        )
        for n in range(40)
    )
    hands = Hands(cooks=2)
    found = schedule(steps, hands, begins_min=NINE)
    judged(found, steps, hands)
    assert found.gap < 0.5
    assert found == schedule(steps, hands, begins_min=NINE)


def test_nothing_to_do_takes_no_time() -> None:
    """An empty plan."""
    assert schedule((), Hands(), begins_min=NINE) == Schedule(lines=(), gap=0.0, clashes=())


def test_tasks_of_a_plan_without_blocks_are_its_steps() -> None:
    """Rounds outside a block are one task of their whole length."""
    made: Cooked = cooked(NOUGAT, pieces="60")
    dip = next(task for task in tasks_of(made.plan.steps) if task.step.title.startswith("Coat"))
    assert dip.hands >= dip.step.rounds * dip.step.hands_on_min
