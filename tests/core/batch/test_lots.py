"""Lots of one bowl and what a batch is wrapped in: worked by hand, and never losing a gram."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.bench import PANTRY
from tests.cooking import CORE, INSIDE, STACK, Part, cooked

from fern_match.core.batch import LEFT_OUT, BatchPlan, BatchReading, Lot, PlanBy, cards_of, cautions, read_batch
from fern_match.core.batch.lots import lot_parts, traces_in_words
from fern_match.core.batch.told import batch_told
from fern_match.core.batch.wrapping import sheet_for
from fern_match.core.formulate import OriginKind, Version, VersionIngredient, VersionLayer, overview
from fern_match.core.kitchen import Gear, GearKind, Kitchen, Wrap, WrapKind, read_kitchen, sheets_of
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, PieceSize, Place, Study

STUDY = Study(
    name="Bench bar",
    size=PieceSize(length="60 mm", width="25 mm", height="18 mm"),
    layers=(
        Layer(id="caramel", name="Caramel", family="soft-caramel", place=Place.STACK),
        Layer(id="nuts", name="Hazelnuts", family="whole-nuts", place=Place.INCLUSION, host="caramel"),
    ),
)
READING = StudyReading(STUDY, PANTRY)


def amount(key: str, food: str, grams: str, role: str) -> VersionIngredient:
    """A line of a version."""
    return VersionIngredient(id=key, ingredient=food, name=PANTRY[food].name, amount=grams, role=role)


VERSION = Version(
    id="v",
    name="Faithful",
    layers=(
        VersionLayer(
            id="caramel",
            name="Caramel",
            family="soft-caramel",
            water_lost="2 g",
            ingredients=(
                amount("sugar", "white-sugar", "8 g", "sweet-bulk"),
                amount("cream", "heavy-cream", "10 g", "dairy-liquid"),
            ),
        ),
        VersionLayer(
            id="nuts",
            name="Hazelnuts",
            family="whole-nuts",
            ingredients=(amount("nut", "hazelnut-roasted", "4 g", "nut-solids"),),
        ),
    ),
)
WITHOUT = Lot(id="a", name="Without nuts", pieces="8", mark="a line across", instead={"nuts": LEFT_OUT})
ALMOND = Lot(id="b", name="Almond", pieces="6", instead={"nuts--nut": "almond-roasted"})


def read(*lots: Lot, pieces: str = "24", wraps: tuple[Wrap, ...] = (), version: Version = VERSION) -> BatchReading:
    """A batch with these lots, wrapped in all of that; nothing stays on tools."""
    plan = BatchPlan(
        id="p", version="v", pieces=pieces, left_on_tools={"caramel": "0", "nuts": "0"}, lots=lots,
        wrapped_in=tuple(one.id for one in wraps),
    )  # fmt: skip
    return read_batch(plan, overview(version, READING), READING, read_kitchen(Kitchen(wraps=wraps)))


def grams(found: BatchReading, food: str) -> float:
    """Of an ingredient, in all."""
    assert found.batch is not None
    return sum(line.grams for layer in found.batch.layers for line in layer.ingredients if line.ingredient_id == food)


def test_pieces_without_nuts_take_none_of_the_bowl() -> None:
    """24 pieces, 8 without their 4 g of hazelnuts: 64 g of nuts; those weigh 16 g beside 20, 448 g in all."""
    found = read(WITHOUT)
    assert found.batch is not None
    assert found.lots is not None
    assert grams(found, "hazelnut-roasted") == pytest.approx(64.0)
    assert grams(found, "white-sugar") == pytest.approx(192.0)
    assert [(one.name, one.pieces, one.piece_g) for one in found.lots.made] == [
        ("Without nuts", 8, pytest.approx(16.0)),
        ("The others", 16, pytest.approx(20.0)),
    ]
    assert found.batch.finished_g == pytest.approx(8 * 16 + 16 * 20)
    nut = next(line for layer in found.batch.layers for line in layer.ingredients if line.line_id == "nut")
    assert nut.each.endswith("for 16 of 24 pieces")
    assert "Without hazelnuts: 16.0 g a piece in place of 20.0." in [one.words for one in found.lots.made]


def test_a_lot_says_what_it_holds_and_what_it_may_hold_traces_of() -> None:
    """Without nuts it holds milk, and from the same bowl traces of hazelnut; the batch as a whole holds both."""
    found = read(WITHOUT)
    assert found.lots is not None
    without, others = found.lots.made
    assert (without.own.holds, [one.allergen for one in without.traces]) == (("milk",), ["hazelnut"])
    assert (others.own.holds, others.traces) == (("hazelnut", "milk"), ())
    assert found.allergens.holds == ("hazelnut", "milk")
    assert found.batch is not None
    cards = cards_of(found, cautions(found.batch, PANTRY, allergens=found.allergens), READING)
    assert [(one.lot, one.mark) for one in cards] == [("Without nuts", "a line across"), ("The others", "")]
    assert "hazelnut" not in cards[0].ingredients
    assert "it may hold traces. Not for those who must avoid hazelnut." in cards[0].allergens
    assert "traces" not in cards[1].allergens
    assert "8 of “Without nuts” (a line across), then 16 of “The others”" in found.lots_words


def test_doubts_of_the_others_and_of_the_label_stay() -> None:
    """Biscuit crumbs of another lot may hold egg: told as a trace; a label's doubt of an adapted version stays with every lot."""
    crumbs = Lot(id="m", name="Crumbly", pieces="4", instead={"nuts": "plain-biscuit-crumbs"})
    both = read(WITHOUT, crumbs).lots
    assert both is not None
    plain = both.made[0]
    assert "egg" in [one.allergen for one in both.made[1].own.may]
    assert {"egg", "gluten"} <= {one.allergen for one in plain.traces}
    strange = replace(plain, traces_not_known=("Crunch bits",))
    assert traces_in_words(strange).endswith("Beside Crunch bits, whose allergens are not all known.")
    study = replace(STUDY, statement="Sugar, cream, hazelnuts, sesame paste. Contains: sesame.")
    reading = StudyReading(study, PANTRY)
    adapted = replace(VERSION, origin=replace(VERSION.origin, kind=OriginKind.ADAPTED))
    seen = overview(adapted, reading)
    assert "sesame" in [one.allergen for one in seen.allergens.may]
    found = read_batch(BatchPlan(id="p", version="v", pieces="24", lots=(WITHOUT,)), seen, reading, read_kitchen(Kitchen()))
    assert found.lots is not None
    assert all("sesame" in [doubt.allergen for doubt in one.own.may] for one in found.lots.made)


def test_another_crust_takes_the_place_of_its_weight() -> None:
    """6 pieces with almonds, 8 without, 10 as ever: 24 g of almonds, 40 g of hazelnuts."""
    found = read(WITHOUT, ALMOND)
    assert found.lots is not None
    assert (grams(found, "almond-roasted"), grams(found, "hazelnut-roasted")) == (pytest.approx(24.0), pytest.approx(40.0))
    almond = found.lots.made[1]
    assert (almond.piece_g, almond.own.holds) == (pytest.approx(20.0), ("almond", "milk"))
    assert [one.allergen for one in almond.traces] == ["hazelnut"]


@pytest.mark.parametrize(
    ("lots", "words"),
    [
        ((replace(WITHOUT, pieces="30"),), "The lots come to 30 pieces, and 24 are made: the lots wait."),
        ((replace(WITHOUT, pieces=""),), ""),
        ((replace(WITHOUT, instead={}),), ""),
    ],
)
def test_lots_that_cannot_be_change_nothing(lots: tuple[Lot, ...], words: str) -> None:
    """More than there are, none said, nothing otherwise: all pieces are alike."""
    found = read(*lots)
    assert found.lots is not None
    assert (found.lots.made, found.lots_words) == ((), words)
    assert grams(found, "hazelnut-roasted") == pytest.approx(96.0)


def test_a_food_that_the_pantry_lacks_is_said() -> None:
    """And the lot waits."""
    found = read(replace(ALMOND, instead={"nuts": "no-such-nut"}))
    assert found.lot_cells["b"].problem.startswith("The pantry holds no “no-such-nut”")
    assert found.lots is not None
    assert found.lots.made == ()


def test_a_lot_is_held_to_the_rules_of_its_version() -> None:
    """A version without almond: the almond lot breaks it, by name, and the others do not."""
    held = replace(VERSION, origin=replace(VERSION.origin, rules=("without-almond-roasted",)))
    found = read(ALMOND, version=held)
    assert found.lots is not None
    assert [bool(one.broken) for one in found.lots.made] == [True, False]
    assert any(words.startswith("Almond: ") for words in found.broken)


@given(st.integers(2, 400), st.integers(0, 400), st.integers(0, 400), st.floats(0, 20))
def test_nothing_of_the_bowl_is_lost_between_lots(pieces: int, first: int, second: int, stays: float) -> None:
    """What goes in is what all pieces of all lots weigh, what boils off, and what stays on tools."""
    lots = (replace(WITHOUT, pieces=str(first)), replace(ALMOND, pieces=str(second)))
    plan = BatchPlan(id="p", version="v", pieces=str(pieces), left_on_tools={"caramel": f"{stays:.3f}"}, lots=lots)
    found = read_batch(plan, overview(VERSION, READING), READING, read_kitchen(Kitchen()))
    assert found.batch is not None
    assert found.lots is not None
    added = sum(line.grams for layer in found.batch.layers for line in layer.ingredients)
    left = sum(layer.left_on_tools_g + layer.water_lost_g for layer in found.batch.layers)
    made = found.lots.made or ()
    weighs = sum(one.pieces * one.piece_g for one in made) if made else pieces * 20.0
    assert sum(one.pieces for one in made) in {0, pieces}
    assert added == pytest.approx(weighs + left, rel=1e-9)


def test_parts_are_layers_and_lines_of_mixtures() -> None:
    """The one line of the nuts is the layer itself."""
    parts = {one.id: one.name for one in lot_parts(overview(VERSION, READING).formula)}
    assert parts == {
        "caramel": "Caramel",
        "nuts": "Hazelnuts",
        "caramel--sugar": f"{PANTRY['white-sugar'].name} in caramel",
        "caramel--cream": f"{PANTRY['heavy-cream'].name} in caramel",
    }


def test_a_plan_folds_a_lot_s_nuts_into_its_share_and_boxes_lots_apart() -> None:
    """At the fold how much for how many; at the end each lot with its weight and mark."""
    parts = {"caramel": Part("soft-caramel", STACK), "nuts": Part("whole-nuts", INSIDE, 4, "caramel")}
    plan = cooked(parts, lots=(Lot(id="a", name="Plain", pieces="8", mark="no dot", instead={"nuts": LEFT_OUT}),))
    assert "for 16 of 24 pieces" in plan.step("Fold nuts").words
    last = plan.step("Count").words
    assert "of “Plain”" in last
    assert "8 of “Plain” (no dot)" in last


def test_a_bowl_is_divided_before_what_not_all_pieces_have() -> None:
    """Tahini for almond butter in a third of a date caramel: said where they go in, and nowhere else."""
    lines = {"dates": (6.0, "fruit-solids"), "almond-butter": (2.0, "nut-solids"), "coconut-cream": (1.0, "dairy-liquid")}
    parts = {"caramel": Part("date-caramel", STACK, lines=lines)}
    line = next(one.id for one in cooked(parts).read.seen.version.layers[0].ingredients if one.ingredient == "almond-butter")
    plan = cooked(parts, lots=(Lot(id="a", name="Sesame", pieces="8", instead={f"caramel--{line}": "tahini"}),)).plan
    told = [step for step in plan.steps if "divide it by weight first, 8 of “Sesame”, then 16 of “The others”" in step.words]
    assert [
        sorted(use.ingredient_id for use in step.uses if use.ingredient_id in {"almond-butter", "tahini"}) for step in told
    ] == [["almond-butter", "tahini"]]
    alike = cooked(parts).plan
    assert not [step for step in alike.steps if "divide it by weight" in step.words]


FOIL = Wrap(id="foil", name="Foil", kind=WrapKind.SHEET, length="10 m", width="300 mm", price="4.50", for_food=True)
BOX = Wrap(id="box", name="Box", kind=WrapKind.BOX, holds="6", pack="4", price="3.20", for_food=True)


def test_a_sheet_goes_round_a_piece() -> None:
    """60 x 25 x 18 mm: 98 x 101 mm; a roll of 300 mm x 10 m gives 3 x 99; turned it would be 2 x 102."""
    assert sheet_for((60.0, 25.0, 18.0)) == (98.0, 101.0)
    assert sheets_of(10_000, 300, (98.0, 101.0)) == 297
    assert sheets_of(90, 300, (98.0, 101.0)) == 0


def test_wrapping_is_counted_and_costed() -> None:
    """24 sheets from one roll, 4.50; boxes of six: 4, or 2 + 3 where 8 of the pieces are a lot of their own: two packs, 6.40."""
    alike, apart = read(wraps=(FOIL, BOX)).wrapping, read(WITHOUT, wraps=(FOIL, BOX)).wrapping
    assert alike is not None
    assert apart is not None
    assert [(one.count, one.packs) for one in alike.lines] == [(24, 1), (4, 1)]
    assert [(one.count, one.packs) for one in apart.lines] == [(24, 1), (5, 2)]
    assert (alike.cost, apart.cost) == (pytest.approx(7.7), pytest.approx(10.9))
    assert apart.words == "Wrapping comes to 10.90."
    assert "3 stay in" in apart.lines[1].words


@pytest.mark.parametrize(
    ("wrap", "words"),
    [
        (replace(BOX, for_food=False), "Nobody said that it is meant for food"),
        (replace(BOX, holds=""), "how many pieces go into one"),
        (replace(FOIL, width="50 mm"), "this one is too small"),
    ],
)
def test_what_cannot_be_counted_says_why(wrap: Wrap, words: str) -> None:
    """And is left out of the cost, by name."""
    found = read(wraps=(wrap, replace(BOX, id="other", name="Other box"))).wrapping
    assert found is not None
    assert words in found.lines[0].words
    assert (found.lines[0].count, found.lines[0].cost) == (None, None)
    assert f"not counted: {wrap.name.lower()}" in found.words


def test_a_piece_that_nobody_measured_takes_a_sheet_of_no_known_size() -> None:
    """It is counted, and its size is not guessed."""
    reading = StudyReading(replace(STUDY, size=PieceSize()), PANTRY)
    plan = BatchPlan(id="p", version="v", pieces="24", wrapped_in=("foil",))
    found = read_batch(plan, overview(VERSION, reading), reading, read_kitchen(Kitchen(wraps=(FOIL,)))).wrapping
    assert found is not None
    assert (found.lines[0].count, found.lines[0].packs) == (24, None)
    assert "where a piece was measured" in found.lines[0].words


def test_a_piece_that_is_cut_otherwise_takes_a_sheet_of_no_known_size() -> None:
    """In a pan, cut as long as was typed: the measured piece says nothing of its sheet."""
    pan = Gear(id="pan", name="Pan", kind=GearKind.PAN, length="200", width="200", depth="50")
    kitchen = read_kitchen(Kitchen(wraps=(FOIL,), gear=(pan,)))
    plan = BatchPlan(id="p", version="v", by=PlanBy.PAN, gear="pan", cut_length="30 mm", cut_width="20 mm", wrapped_in=("foil",))
    found = read_batch(plan, overview(VERSION, READING), READING, kitchen).wrapping
    assert found is not None
    assert (found.lines[0].count or 0) > 0
    assert (found.lines[0].packs, "where a piece was measured" in found.lines[0].words) == (None, True)


def test_a_batch_is_told_by_machine() -> None:
    """With its lots, its wrapping and each line's error."""
    told = batch_told(
        VERSION, BatchPlan(id="p", version="v", pieces="24", lots=(WITHOUT,), wrapped_in=("box",)), READING,
        read_kitchen(Kitchen(wraps=(BOX,), scale_step="1 g")),
    )  # fmt: skip
    assert (told["pieces"], [one["pieces"] for one in told["lots"]]) == (24, [8, 16])
    assert told["lots"][0]["traces"] == ["hazelnut"]
    assert told["wrapping"][0]["count"] == 5
    for layer in told["layers"]:
        added = sum(one["grams"] for one in layer["lines"])
        assert added == pytest.approx(layer["made_g"] + layer["water_lost_g"], rel=1e-9)
        assert all(abs(one["error_pct"]) < 5 for one in layer["lines"])
    waits = batch_told(VERSION, BatchPlan(id="p", version="v"), READING, read_kitchen(Kitchen()))
    assert (waits["layers"], bool(waits["waits"])) == ([], True)


def test_more_crust_is_put_out_than_sticks() -> None:
    """36 g stick to 24 balls of 1.5 g crust each: 72 g are put out; 30 g are left, so 42 went on, a sixth more than planned."""
    parts = {"core": Part("peanut-filling", CORE, 10), "crust": Part("whole-nuts", Place.TOPPING, 1.5)}
    found = cooked(parts, left_on_tools={"crust": "0"}).read.set_out["crust"]
    assert (found.planned_g, found.out_g, found.used_g) == (pytest.approx(36.0, rel=0.01), pytest.approx(72.0, rel=0.01), None)
    assert found.words.startswith("Put 72 g out to roll in: 36 g stick.")
    after = cooked(parts, left_on_tools={"crust": "0"}, left_over={"crust": "30 g"}).read.set_out["crust"]
    assert after.used_g == pytest.approx(42.0, abs=0.5)
    assert after.words.startswith("42 g went in, 16")
    slab = cooked({"base": Part("soft-caramel", STACK, 10), "crust": Part("whole-nuts", Place.TOPPING, 1.5)})
    assert "crust" not in slab.read.set_out
