"""Fields with several readings, what was reached beside its plan, losses that are learnt, and how pieces keep."""

from functools import partial

import pytest
from tests.cooking import COAT, CORE, STACK, Part
from tests.trying import log_of, read_at, trial_of

from fern_match.core.cook import EntryKind
from fern_match.core.kitchen import Kitchen
from fern_match.core.measures import read_grams
from fern_match.core.trials import keeping, learnt
from fern_match.core.trials.finding import faults_of
from fern_match.core.trials.record import Day, Kept
from fern_match.core.trials.several import read_several

from tests.cooking import FAMILIES  # isort: skip

CARAMEL = {"coat": Part("dark-coat", COAT, 8.0), "caramel": Part("soft-caramel", STACK, 12.0)}


@pytest.mark.parametrize(
    ("typed", "values"),
    [
        ("", ()),
        ("41.8", (41.8,)),
        ("41.8 42.3 40.9", (41.8, 42.3, 40.9)),
        ("41.8, 42.3, 40.9", (41.8, 42.3, 40.9)),
        ("41.8 g 42.3 g", (41.8, 42.3)),
        ("41.8; 42.3", (41.8, 42.3)),
        ("1 oz; 2 oz", (28.35, 56.70)),
        ("1 1/2 oz; 1 oz", (42.52, 28.35)),
        ("84/2", (42.0,)),
    ],
)
def test_several_readings_in_one_field(typed: str, values: tuple[float, ...]) -> None:
    """Apart by spaces, commas with spaces or semicolons, each with its unit or without."""
    found = read_several(typed, partial(read_grams))

    assert found.problem is None
    assert found.values == pytest.approx(values, abs=0.01)


@pytest.mark.parametrize("typed", ["1 1/2 1 3/4 oz", "3 x 4 5 x 6 2"])
def test_what_could_be_parted_in_two_ways_is_asked(typed: str) -> None:
    """Fractions in a row are not guessed."""
    found = read_several(typed, partial(read_grams))

    assert found.values == ()
    assert found.problem is not None
    assert "semicolons" in found.problem


def test_more_readings_than_make_sense_are_refused() -> None:
    """A page of figures is no field."""
    assert "at most 60" in (read_several("1 " * 61, partial(read_grams)).problem or "")


def test_the_log_is_read_beside_the_plan() -> None:
    """A boil read at 115 and 121 °C ended at its hottest; 12 minutes opened to done stand beside the plan's."""
    cook = trial_of(CARAMEL).of.plan.step("caramel--cook")
    assert cook is not None
    assert cook.heat is not None
    log = log_of(
        (0, EntryKind.OPENED, {"step": "caramel--cook"}),
        read_at("caramel--cook", 115.0),
        read_at("caramel--cook", 121.0),
        (12, EntryKind.DONE, {"step": "caramel--cook"}),
    )
    read = trial_of(CARAMEL, {"caramel": "caramel-hard"}, log=log).layers[1].read

    assert read["end_heat"].value == pytest.approx(121.0 - cook.heat.aim_c)
    assert read["boil_minutes"].value == pytest.approx(100 * (12 / cook.takes_min - 1))


def test_what_is_typed_afterwards_wins_over_the_log() -> None:
    """Whoever types a heat knows better than a probe that lay beside the pan."""
    looked = trial_of(
        CARAMEL,
        {"caramel": "caramel-hard"},
        log=log_of(read_at("caramel--cook", 60.0)),
        reached={"caramel--end_heat": "250 F"},
    )
    shown = next(one for one in looked.layers[1].reached if one.clue == "end_heat")

    assert shown.logged == 60.0
    assert shown.typed.value == pytest.approx(121.1, abs=0.05)
    assert looked.layers[1].read["end_heat"].value > 0


def test_a_thermometer_that_was_checked_is_surer() -> None:
    """One that was held in boiling water errs by less."""
    errors = [
        trial_of(CARAMEL, {"caramel": "caramel-hard"}, kitchen=kitchen, reached={"caramel--end_heat": "121"})
        .layers[1]
        .read["end_heat"]
        .error
        for kitchen in (Kitchen(), Kitchen(boiling_reading="100"))
    ]

    assert errors == [1.3, 0.7]


def test_the_room_of_the_batch_counts_where_nobody_typed_another() -> None:
    """Room and damp are said once, with the batch; the trial may know better."""
    said = trial_of(CARAMEL, {"caramel": "caramel-runny"}, batch={"room": "27", "humidity": "68"})
    typed = trial_of(CARAMEL, {"caramel": "caramel-runny"}, batch={"room": "27"}, reached={"--room": "19"})

    assert (said.layers[1].read["room"].value, said.layers[1].read["humidity"].value) == (27.0, 68.0)
    assert typed.layers[1].read["room"].value == 19.0


def test_what_the_pantry_does_not_know_says_nothing() -> None:
    """A layer with an ingredient nobody knows has no clues of its composition."""
    lines = {"white-sugar": (6.0, "sweet-bulk"), "glucose-syrup-42de": (4.0, "doctor-sugar"), "butter-unsalted": (2.0, "fat")}
    known = trial_of({"caramel": Part("soft-caramel", STACK, lines=lines, lost="1 g")}, {"caramel": "caramel-grainy"})
    parts = {"caramel": Part("soft-caramel", STACK, lines=lines, lost="1 g")}
    from dataclasses import replace

    from tests.trying import version_of

    version = version_of(parts)
    layer = version.layers[0]
    strange = replace(layer.ingredients[0], ingredient="of-no-pantry")
    unknown = trial_of(
        parts,
        {"caramel": "caramel-grainy"},
        version=version.with_layer(replace(layer, ingredients=(strange, *layer.ingredients[1:]))),
    )

    assert {"doctor", "fat_off", "lactose"} <= set(known.layers[0].read)
    assert not {"doctor", "fat_off", "lactose", "milk_solids"} & set(unknown.layers[0].read)


@pytest.mark.parametrize(
    ("family", "has", "has_not"),
    [
        ("dark-coat", {"fat-bloom", "leaks", "coat-too-thick"}, {"nougat-soft", "caramel-runny"}),
        ("maltitol-caramel", {"caramel-runny", "cooling-effect", "too-sweet"}, {"fat-bloom", "jelly-soft"}),
        ("sugar-free-nougat", {"nougat-soft", "cooling-effect"}, {"caramel-runny"}),
        ("date-caramel", {"paste-soft", "too-sweet"}, {"caramel-runny", "caramel-grainy"}),
        ("brittle", {"brittle-sticky", "brittle-hard"}, {"honeycomb-flat"}),
        ("no-such-family", {"layer-heavy", "mould"}, {"fat-bloom"}),
    ],
)
def test_what_can_be_wrong_goes_by_family(family: str, has: set[str], has_not: set[str]) -> None:
    """Kinds of a kind have its faults, and no others."""
    found = {one.id for one in faults_of(family, FAMILIES)}

    assert has <= found
    assert not has_not & found


def test_losses_are_drawn_towards_the_usual_while_trials_are_few() -> None:
    """20 g of 250 left on tools are 8 %: with the usual 3.5 for three trials (3 x 3.5 + 8) / 4 = 4.6 %."""
    looked = trial_of(CARAMEL, came_out={"caramel": "250"}, left={"caramel": "20"}, made="24", whole="18")
    found = {one.layer_id: one for one in learnt([looked.of])}
    batch = looked.of.batch.batch
    assert batch is not None
    usual = 100 * next(one.left_on_tools for one in batch.layers if one.layer_id == "caramel")

    assert found["caramel"].proposed == pytest.approx((3 * usual + 8) / 4)
    assert found["breaks"].proposed == pytest.approx(25 / 4)
    assert "from 1 trial (8.0)" in found["caramel"].words


def test_losses_follow_from_what_the_pieces_hold_too() -> None:
    """300 g came out, 24 pieces hold 12 g: 12 g, 4 %, stayed somewhere."""
    looked = trial_of(CARAMEL, came_out={"caramel": "300"}, weighed={"caramel": "12.0 12.0"}, made="24")
    found = [one for one in learnt([looked.of, looked.of, looked.of]) if one.layer_id == "caramel"]

    assert all(one.seen == pytest.approx((4.0, 4.0, 4.0)) for one in found)


def test_how_pieces_keep_is_told_beside_what_their_water_says() -> None:
    """As made at 3 days, less good at 10: that is what was seen, with the caution."""
    days = (Day(id="b", days="10", kept=Kept.LESS_GOOD), Day(id="a", days="3"), Day(id="c", days="some"))
    looked = trial_of({"ganache": Part("ganache-dark", CORE, 12.0)}, days=days)
    found = keeping(looked.of.read, looked.of.made)

    assert found.seen == "As made after 3 days, less good after 10 days."
    assert found.advice
    assert "meter" in found.caution
