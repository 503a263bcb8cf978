"""A cook as it runs: the log and what it says, windows, timers, the simulated pan, rescues."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.cooking import COAT, PANTRY, STACK, Part, cooked

from fern_match.core.cook import (
    Boil,
    Entry,
    EntryKind,
    Logged,
    Pan,
    Step,
    altered_words,
    as_cooked,
    entry_words,
    now_of,
    read_entry,
    rescues_for,
    run_of,
    tasks_of,
    warning_of,
    way_back,
)
from fern_match.core.cook.moments import clock, read_moment
from fern_match.core.cook.tables import step_rows
from fern_match.core.cook.tempering import seed_ratio
from fern_match.core.data import rows
from fern_match.core.food import Nutrient
from fern_match.core.formulate import Origin, OriginKind
from fern_match.core.kitchen import Kitchen, read_kitchen
from fern_match.core.measures.shown import TemperatureUnit
from fern_match.core.physics.heat import EVAPORATION_J_G
from fern_match.core.physics.syrup import mass_left_g

HERE = read_kitchen(Kitchen())
NOUGAT = {"coat": Part("milk-coat", COAT), "nougat": Part("nougat-egg-white", STACK)}
MIN = 60_000


def log(*entries: tuple[int, EntryKind, dict[str, object]]) -> list[Logged]:
    """Entries at so many minutes."""
    return [
        Logged(id=f"e{n}", number=n, at_ms=minute * MIN, entry=Entry(key=f"k{n}", kind=kind, **more))  # type: ignore[arg-type]
        for n, (minute, kind, more) in enumerate(entries, 1)
    ]


def test_a_log_says_how_far_it_is() -> None:
    """Begun, one step done, one under way, one undone again; ended, and gone on with."""
    run = run_of(
        log(
            (0, EntryKind.BEGUN, {}),
            (1, EntryKind.OPENED, {"step": "a"}),
            (5, EntryKind.DONE, {"step": "a"}),
            (6, EntryKind.DONE, {"step": "b"}),
            (7, EntryKind.UNDONE, {"step": "b"}),
            (8, EntryKind.OPENED, {"step": "b"}),
            (9, EntryKind.ENDED, {}),
            (10, EntryKind.BEGUN, {}),
        ),
        12 * MIN,
    )
    assert (run.begun_ms, run.is_on, run.last) == (0, True, 8)
    assert (dict(run.done), dict(run.opened)) == ({("a", 1): 5 * MIN}, {("a", 1): MIN, ("b", 1): 8 * MIN})


@given(st.integers(0, 10_000_000), st.floats(0.1, 600), st.sampled_from([1, 10, 60]))
def test_a_timer_runs_by_the_log_s_clock(later_ms: int, minutes: float, speed: int) -> None:
    """Whoever asks, however often the program was started anew; as fast as the practice."""
    entries = log(
        (0, EntryKind.PRACTICE, {"value": float(speed)}), (0, EntryKind.TIMER, {"step": "a", "value": minutes, "text": "A"})
    )
    (timer,) = run_of(entries, later_ms).timers
    assert timer.left_s == pytest.approx(60 * minutes - later_ms / 1000 * speed)
    assert run_of([*entries, *log((1, EntryKind.TIMER_OFF, {"step": "a"}))], later_ms).timers == ()


def test_a_window_closes_and_names_the_way_back() -> None:
    """Whites stand four minutes."""
    steps = cooked(NOUGAT).plan.steps
    whip = next(one for one in steps if one.title.startswith("Whip the white"))
    before = [one.step.id for one in tasks_of(steps) if one.step.id in {"nougat--fat", "nougat--syrup"}]
    entries = log((0, EntryKind.BEGUN, {}), *((0, EntryKind.DONE, {"step": one}) for one in (*before, whip.id)))

    def stream(minute: int) -> list[tuple[str, float, str]]:
        now = now_of(steps, (), run_of(entries, minute * MIN), minute * MIN)
        doing = next(one for one in now.doing if one.step == "nougat--stream")
        assert doing.state == "ready"
        return [(one.made, one.left_min, one.back) for one in doing.closing if one.made == whip.title]

    assert stream(3) == [(whip.title, 1.0, "")]
    ((_, left, back),) = stream(6)
    assert left == -2
    assert "wept" in back


def test_the_step_at_hand_is_what_is_under_way_else_what_can_begin() -> None:
    """In the schedule's order."""
    steps = cooked(NOUGAT).plan.steps
    order = [(one.step.id, 1) for one in reversed(tasks_of(steps)) if not one.step.needs]
    fresh = now_of(steps, order, run_of((), 0), 0)
    assert fresh.doing[0].step == order[0][0]
    assert fresh.at_hand == 0
    other = fresh.doing[1].step
    begun = now_of(steps, order, run_of(log((0, EntryKind.OPENED, {"step": other})), 0), 0)
    assert begun.doing[begun.at_hand or 0].step == other
    done = [(0, EntryKind.DONE, {"step": one.step.id}) for one in tasks_of(steps)]
    assert now_of(steps, order, run_of(log(*done), 0), 0).at_hand is None  # type: ignore[arg-type]


SYRUP = Boil(dissolved={"sucrose": 1000.0}, water_g=300.0, others_g=0.0, left_g=1155.2)


def test_the_pan_boils_by_its_energy() -> None:
    """Time to boil, and on to 118 °C, within 5 % of a balance that is written out here."""
    pan, watts = Pan(SYRUP), 1000.0
    capacity = (300 * 4.18 + 1000 * 1.7) / 1300
    to_boil = 1300 * capacity * (108.5 - 20) / watts
    assert pan.until_c(108.5) == pytest.approx(to_boil, rel=0.05)
    steam = 300 - (1155.2 - 1000)
    warmed = (1155.2 * 2.0) * (118 - 108.5)
    assert pan.until_c(118) - pan.until_c(108.5) == pytest.approx((steam * EVAPORATION_J_G + warmed) / watts, rel=0.05)
    end = pan.at(pan.until_c(118))
    assert (end.temp_c, end.mass_g) == (pytest.approx(118, abs=0.1), pytest.approx(1155.2, abs=0.5))


@given(st.floats(0, 3000), st.floats(1, 300), st.floats(0.3, 3))
def test_a_pan_warms_and_loses_water_until_it_is_off_the_heat(at_s: float, more_s: float, kw: float) -> None:
    """Never colder, never heavier; off the heat it cools and keeps its water."""
    pan = Pan(SYRUP, net_kw=kw)
    now, later, off = pan.at(at_s), pan.at(at_s + more_s), pan.at(at_s, more_s)
    assert later.temp_c >= now.temp_c - 1e-9
    assert later.mass_g <= now.mass_g + 1e-9
    assert off.temp_c <= now.temp_c + 1e-9
    assert off.mass_g == now.mass_g


def test_a_pan_high_up_boils_lower() -> None:
    """By what water boils lower."""
    assert Pan(SYRUP).at(600).temp_c - Pan(SYRUP, boils_at_c=94.7).at(600).temp_c == pytest.approx(
        5.3, abs=0.8
    )  # having lost a little more by then


def test_a_warning_comes_before_the_end_and_an_alarm_past_it() -> None:
    """118 °C aimed at, 121 the most."""
    cook = cooked({"caramel": Part("soft-caramel", STACK)}).step("Cook to")
    assert cook.boil is not None
    pan = Pan(cook.boil)

    def at(temp_c: float, rising: float | None) -> tuple[str, str]:
        return warning_of(cook, temp_c, 300, rising, pan, HERE)

    assert at(104, 2.0) == ("7 min to 118 °C", "")
    assert at(116.5, 1.5) == ("1 min to 118 °C", "near")
    assert at(118.2, 1.5)[1] == "past"
    assert "what saves it" in at(122, 1.0)[0]


def test_a_boil_by_weight_is_warned_by_weight() -> None:
    """Grams of steam to go at this burner's power."""
    cook = cooked({"caramel": Part("maltitol-caramel", STACK)}).step("Cook to")
    assert cook.boil is not None
    assert cook.end_weight_g is not None
    pan = Pan(cook.boil)
    assert warning_of(cook, 110, cook.end_weight_g + 20, None, pan, HERE)[1] == "near"
    assert warning_of(cook, 110, cook.end_weight_g * 0.95, None, pan, HERE)[1] == "past"


@pytest.mark.parametrize("number", range(len(rows("rescues.csv"))))
def test_every_rescue_is_found_at_some_step(number: int) -> None:
    """No row of the table is out of reach."""
    row = rows("rescues.csv")[number]
    names = row["families"].split("|")
    probe = Step(id="x--y", layer_id="x", layer="X", title="X", hands_on_min=1, rescues=(names[0],))
    assert row["now"] in [one.now for one in rescues_for(probe)]
    families = {"boil": "soft-caramel", "chocolate": "dark-coat", "shell": "dark-coat"}
    found = cooked({"one": Part(families.get(names[0], names[0]), STACK), "coat": Part("dark-coat", COAT)})
    assert any(set(names) & set(step.rescues) for step in found.plan.steps)


def test_every_way_back_has_a_step() -> None:
    """Of the table of ways of making, or of what is done with the pieces."""
    keys = {row.key for several in step_rows().values() for row in several} | {"dip", "shell", "score", "cut"}
    assert {row["step"] for row in rows("ways_back.csv")} <= keys
    cold = Step(id="coat--temper", layer_id="coat", layer="Coat", title="T", hands_on_min=1, rescues=("dark-coat",))
    assert "half a degree" in way_back(cold)


@pytest.mark.parametrize(("fat", "melted", "work", "ratio"), [(0.35, 45, 32, 0.3145), (0.32, 45, 30, 0.407)])
def test_how_much_seed(fat: float, melted: float, work: float, ratio: float) -> None:
    """By the worked balance; of 750 g of the first 236 g by its share of the melted part."""
    assert seed_ratio(fat, melted, work, 20) == pytest.approx(ratio, abs=0.001)


def test_entries_are_read_and_told_in_the_kitchen_s_unit() -> None:
    """A thermometer's Fahrenheit, spoons of an ingredient, minutes; what is no figure says so."""
    made = cooked({"caramel": Part("soft-caramel", STACK)})
    step = made.step("Boil sugar")
    sugar = next(use for use in step.uses if use.ingredient_id == "white-sugar")

    def read(kind: EntryKind, text: str, of: str = "") -> tuple[float | None, str | None]:
        found = read_entry(Entry(key="k", kind=kind, step=step.id, of=of, text=text), step, made.reading, HERE)
        assert found is not None
        return found.value, found.problem

    assert read(EntryKind.READING, "245 F", "thermometer")[0] == pytest.approx(118.3, abs=0.1)
    assert read(EntryKind.READING, "1 lb", "scale")[0] == pytest.approx(453.6, abs=0.1)
    assert read(EntryKind.AMOUNT, "1 cup", sugar.line_id)[0] == pytest.approx(200, rel=0.1)
    assert read(EntryKind.TIMER, "1 h 30 min")[0] == 90
    assert "was not read" in str(read(EntryKind.READING, "hot", "thermometer")[1])
    fahrenheit = read_kitchen(Kitchen(temperature_unit=TemperatureUnit.FAHRENHEIT))
    entry = Entry(key="k", kind=EntryKind.READING, step=step.id, of="thermometer", value=118.0)
    assert entry_words(entry, {step.id: step}, fahrenheit) == "244 °F at “Boil sugar and syrup clear”"


def test_a_heat_says_the_weight_and_a_weight_the_heat() -> None:
    """Both ways of one thing, for what is in this pan."""
    cook = cooked({"caramel": Part("soft-caramel", STACK)}).step("Cook to")
    assert cook.boil is not None
    left = mass_left_g(cook.boil.dissolved, cook.boil.others_g, 116)
    hot = Entry(key="k", kind=EntryKind.READING, step=cook.id, of="thermometer", value=116.0)
    heavy = Entry(key="k", kind=EntryKind.READING, step=cook.id, of="scale", value=left)
    steps = {cook.id: cook}
    assert f"about {left:.0f} g in the pan" in entry_words(hot, steps, HERE)
    assert "about 116 °C" in entry_words(heavy, steps, HERE)
    cold = Entry(key="k", kind=EntryKind.READING, step=cook.id, of="thermometer", value=40.0)
    assert "in the pan" not in entry_words(cold, steps, HERE)


@pytest.mark.parametrize("kind", list(EntryKind))
def test_every_kind_of_entry_has_words(kind: EntryKind) -> None:
    """Also of a step that the plan no longer has."""
    assert entry_words(Entry(key="k", kind=kind, step="gone--x", text="said", value=1.0), {}, HERE)


def test_more_sugar_than_planned_weighs_more() -> None:
    """A tenth more of the largest line, for 24 pieces; as planned, nothing is said."""
    made = cooked({"caramel": Part("soft-caramel", STACK)})
    step = made.step("Boil sugar")
    use = max(step.uses, key=lambda one: one.grams)
    assert as_cooked({(step.id, use.line_id): use.grams}, made.plan.steps, made.read, made.reading) is None
    found = as_cooked({(step.id, use.line_id): 1.1 * use.grams}, made.plan.steps, made.read, made.reading)
    assert found is not None
    line = next(one for layer in made.read.seen.formula.layers for one in layer.ingredients if one.line_id == use.line_id)
    assert found.piece_g - found.planned_piece_g == pytest.approx(0.1 * line.grams)
    said = altered_words(found, made.read, made.reading, HERE)
    assert "was planned" in said
    assert "no longer holds" not in said
    assert altered_words(None, made.read, made.reading, HERE) == ""


def test_an_amount_that_breaks_the_versions_rule_says_so() -> None:
    """A version held to 1 g of sugars more than it has; three times the sugar, and the rule it was made for is gone."""
    made = cooked({"caramel": Part("soft-caramel", STACK)})
    seen = made.read.seen
    sugars = sum(
        one.grams * (PANTRY[one.ingredient_id].per_100_g[Nutrient.SUGARS] or 0) / 100
        for layer in seen.formula.layers
        for one in layer.ingredients
    )
    origin = Origin(kind=OriginKind.ADAPTED, rules=(f"at-most-sugars:{sugars + 1:.1f}",))
    held = replace(made.read, seen=replace(seen, version=replace(seen.version, origin=origin)))
    step = made.step("Boil sugar")
    use = max(step.uses, key=lambda one: one.grams)
    for times, broken in ((1.02, False), (3.0, True)):
        found = as_cooked({(step.id, use.line_id): times * use.grams}, made.plan.steps, held, made.reading)
        assert ("no longer holds: Sugars" in altered_words(found, held, made.reading, HERE)) is broken


@pytest.mark.parametrize(
    ("typed", "minute", "day"),
    [
        ("18:00", 1080, None),
        ("6 pm", 1080, None),
        ("12 am", 0, None),
        ("2026-12-01 7:30", 450, "2026-12-01"),
        ("2026-12-01T07:30", 450, "2026-12-01"),
    ],
)
def test_times_as_people_write_them(typed: str, minute: int, day: str | None) -> None:
    """With a date where one stands."""
    read, moment = read_moment(typed)
    assert moment is not None
    assert (moment.minute, moment.day, read.problem) == (minute, day, None)


@pytest.mark.parametrize("typed", ["soon", "25:00", "13 pm", "2026-02-30 10:00", "9:75"])
def test_what_is_no_time_says_so(typed: str) -> None:
    """With what is accepted; nothing is guessed."""
    read, moment = read_moment(typed)
    assert moment is None
    assert "18:00 or 6 pm" in str(read.problem)


def test_minutes_on_a_clock() -> None:
    """Over midnight."""
    assert [clock(minute) for minute in (0, 545, 1500)] == ["00:00", "09:05", "01:00"]
