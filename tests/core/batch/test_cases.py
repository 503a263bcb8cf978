"""Kinds of work that people bring, from a version to a batch; every figure worked by hand beside it."""

import math

import pytest
from tests.bench import FAMILIES, PANTRY, formula, layer, line

from fern_match.core.batch import BatchPlan, Keeps, PlanBy, scaled
from fern_match.core.batch.ball import ball_of
from fern_match.core.batch.cavity import in_mould
from fern_match.core.batch.portion import Piece, portioned
from fern_match.core.batch.portions import by_amount, by_cutter, by_scoop, by_whole
from fern_match.core.batch.slab import in_pan
from fern_match.core.batch.words import batch_line_words
from fern_match.core.formulate import FormulaLayer, layer_cm3
from fern_match.core.kitchen import Gear, GearKind, GearReading, GearShape, read_gear
from fern_match.core.measures import Comma, Measures
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, Place, Study

STACK, COAT, CORE = Place.STACK, Place.COAT, Place.CORE


def piece(*layers: tuple[FormulaLayer, Place]) -> Piece:
    """A piece with its places."""
    build = {one.layer_id: Layer(id=one.layer_id, name=one.name, family=one.family, place=place) for one, place in layers}
    return Piece(formula(*(one for one, _ in layers)), build, PANTRY, FAMILIES)


def gear(kind: GearKind, shape: GearShape = GearShape.RECTANGLE, *, halves: bool = False, **cells: str) -> GearReading:
    """Gear as typed, read in a US kitchen."""
    return read_gear(Gear(id="g", name="Mine", kind=kind, shape=shape, halves=halves, **cells), Measures.US, Comma.GROUPS)


def chocolate(key: str, grams: float) -> FormulaLayer:
    """A bought coat."""
    return layer(key, "dark-coat", line("dark-chocolate-55", grams, "chocolate"))


def peanut(grams: float) -> FormulaLayer:
    """A filling of peanuts alone."""
    return layer("filling", "peanut-filling", line("peanut-butter-natural", grams, "nut-solids"))


def test_c1_shells_in_an_egg_tray_with_a_whole_cherry() -> None:
    """A hollow holds 32 g of water, 32.06 mL. No shape, so shell and liquid share what the cherry leaves as in the version."""
    cherry = layer("cherry", "whole-fruit", line("maraschino-cherry", 5, "fruit-solids"))
    liquid = layer("liquid", "liquid-fruit-centre", line("fruit-in-spirit", 6, "fruit-solids"))
    one = piece((chocolate("shell", 9), COAT), (liquid, CORE), (cherry, CORE))
    made = in_mould(one, gear(GearKind.MOULD, GearShape.OTHER, volume="32 g", cavities="6"), None, None)
    holds = 32 / 0.998
    volumes = {each.layer_id: layer_cm3(each, PANTRY, FAMILIES) for each in one.formula.layers}
    shell = holds * volumes["shell"] / sum(volumes.values())
    assert made.pieces == 6
    assert made.factors["cherry"] == 1
    assert made.factors["shell"] == pytest.approx(shell / volumes["shell"])
    assert made.factors["liquid"] == pytest.approx((holds - shell - volumes["cherry"]) / volumes["liquid"])
    assert any("by the piece" in words for words in made.words)


def test_c2_a_bake_in_a_pan_larger_than_meant() -> None:
    """Amounts for an 8 x 8 in pan in one of 9 x 13 in: 64 / 117 = 0.547 as high, and cools in 0.30 to 0.55 of the time."""
    base = layer("base", "short-base", line("plain-wheat-flour", 12, "flour"), line("butter-unsalted", 8, "fat"))
    wide = gear(GearKind.PAN, length="13 in", width="9 in", depth="2 in")
    two_inches = (50.8, 50.8)  # 16 of them fill 8 x 8 in
    made = in_pan(piece((base, STACK)), wide, two_inches, 0, wanted=16, keeps=Keeps.AMOUNTS)
    assert made.factors["base"] == pytest.approx(64 / 117)
    assert made.pieces == 24  # 6 x 4 of 2 x 2 in
    assert any("0.3 to 0.55 of the time" in words for words in made.words)


def test_c3_lined_cups_by_spoon() -> None:
    """A mini cup of 45 / 30 mm, 20 mm deep; shell of 2 and cap of 2 leave 39.5 to 27.5 mm across, 16 mm high: 14.2 mL."""
    one = piece((chocolate("coat", 9), COAT), (peanut(14), CORE))
    cups = gear(GearKind.CUP, GearShape.TAPERED, length="45", width="30", depth="20", cavities="24")
    made = in_mould(one, cups, 2, 2, Measures.US)
    top, bottom, high = 39.5 / 2, 27.5 / 2, 16  # narrower by 0.75 mm for each mm down: 45 - 1.5 - 4 and 30 + 1.5 - 4
    fills = math.pi * high * (top**2 + top * bottom + bottom**2) / 3 / 1000
    assert made.cavity is not None
    assert made.cavity.filling_ml == pytest.approx(fills)
    assert fills == pytest.approx(14.2, abs=0.1)
    part = next(each for each in made.cavity.parts if each.layer_id == "filling")
    assert part.ml == pytest.approx(fills)
    assert "tbsp" in part.spoons or "tsp" in part.spoons  # a tablespoon is 14.8 mL


def test_c5_a_pressed_slab_in_inches_and_centimetres() -> None:
    """8 in by 20 cm, half an inch off each side, cut 1 1/2 in by 3 cm: 177.8 / 38.1 = 4.67 and 174.6 / 30 = 5.82, 4 x 5."""
    one = piece((peanut(15), STACK))
    made = in_pan(one, gear(GearKind.PAN, length="8 in", width="20 cm", depth="4 cm"), (38.1, 30), 12.7)
    assert made.pieces == 20
    assert made.trimmed["filling"] == pytest.approx(1 - 20 * 38.1 * 30 / (203.2 * 200))


def test_c6_biscuits_rolled_and_cut() -> None:
    """Rounds of 5 cm, 5 mm thick, are 9.82 cm3 each; 0.9 of a sheet, rounds 0.907 of that: 81.6 % at once, 96.6 % with scraps."""
    base = layer("base", "short-base", line("plain-wheat-flour", 8, "flour"), line("butter-unsalted", 5, "fat"))
    one = piece((base, STACK))
    made = by_cutter(one, gear(GearKind.CUTTER, GearShape.ROUND, length="5 cm"), "base", 24, 5)
    assert made.factors["base"] == pytest.approx(math.pi * 2.5**2 * 0.5 / layer_cm3(base, PANTRY, FAMILIES))
    first = 0.9 * math.pi / (2 * math.sqrt(3))
    assert first == pytest.approx(0.816, abs=5e-4)
    assert made.trimmed["base"] == pytest.approx((1 - first) ** 2)
    batch = scaled(portioned(one.formula, made.factors), 24, {"base": 0.0}, PANTRY, FAMILIES, trimmed=made.trimmed)
    assert batch.layers[0].made_g * (1 - made.trimmed["base"]) == pytest.approx(24 * made.factors["base"] * base.finished_g)


def test_c9_truffles_from_a_bowl() -> None:
    """500 g of ganache at 12 g, nothing left on tools: 41 truffles, and 8 g over."""
    ganache = layer("ganache", "ganache-dark", line("dark-chocolate-70", 8, "chocolate"), line("heavy-cream", 4, "dairy-liquid"))
    made = by_amount(piece((ganache, CORE)), "ganache", 500, 0.0)
    assert made.pieces == 41
    assert "8 g of it are left over" in made.words[0]


def test_c10_balls_of_core_paste_coat_and_crust() -> None:
    """A hazelnut, 9 g of paste, 5 g of coat, 1.5 g of chopped nuts: 20 balls take 180 g of paste and 20 nuts, one each."""
    nut = PANTRY["hazelnut-roasted"].piece_g or 1.2
    one = formula(
        layer("core", "whole-nuts", line("hazelnut-roasted", nut, "nut-solids")),
        layer("paste", "nut-paste-praline", line("hazelnut-paste", 9, "nut-solids")),
        chocolate("coat", 5),
        layer("crust", "crisp-pieces", line("hazelnut-roasted", 1.5, "nut-solids")),
    )
    batch = scaled(one, 20, dict.fromkeys(("core", "paste", "coat", "crust"), 0.0), PANTRY, FAMILIES)
    needed = {each.layer_id: each.needed_g for each in batch.layers}
    assert needed == pytest.approx({"core": 20 * nut, "paste": 180, "coat": 100, "crust": 30})
    assert batch.layers[0].ingredients[0].each == "1 each"
    assert batch.layers[3].ingredients[0].each == ""
    nuts = next(each for each in batch.shopping if each.ingredient_id == "hazelnut-roasted")
    assert nuts.grams == pytest.approx(20 * nut + 30)
    assert nuts.uses == ("Core", "Crust")


def test_c11_cups_by_a_numbered_scoop() -> None:
    """A #60 holds 946.353 / 60 = 15.77 mL; 8 % less or more from one filling to the next."""
    filling = peanut(12)
    made = by_scoop(piece((filling, CORE)), gear(GearKind.SCOOP, GearShape.OTHER, volume="scoop #60"), "filling", 12)
    grams = 12 * 15.77255 / layer_cm3(filling, PANTRY, FAMILIES)
    assert made.factors["filling"] * 12 == pytest.approx(grams, rel=1e-4)
    assert f"{0.92 * grams:.3g} to {1.08 * grams:.3g} g" in made.words[0]


def test_c12_one_bowl_over_six_cavities() -> None:
    """A cavity of a US tablespoon, no coat: six of them take 88.7 mL, and the layers share it as in the version."""
    one = piece(
        (layer("a", "vegan-ganache", line("dark-chocolate-55", 6, "chocolate")), CORE),
        (layer("b", "coconut-filling", line("coconut-cream", 3, "plant-liquid")), CORE),
    )
    made = in_mould(one, gear(GearKind.MOULD, GearShape.OTHER, volume="1 US tbsp", cavities="6"), None, None)
    assert made.cavity is not None
    assert sum(each.ml for each in made.cavity.parts) * made.pieces == pytest.approx(88.72, abs=0.05)
    assert made.factors["a"] == pytest.approx(made.factors["b"])


def test_c16_portions_by_spoon() -> None:
    """A tablespoon as a scoop: 14.787 mL of a hand-shaped filling."""
    filling = layer(
        "filling",
        "uncooked-fondant",
        line("icing-sugar", 10, "sweet-bulk"),
        line("sweetened-condensed-milk", 4, "dairy-liquid"),
    )
    made = by_scoop(piece((filling, CORE)), gear(GearKind.SCOOP, GearShape.OTHER, volume="1 tbsp"), "filling", 20)
    assert made.factors["filling"] == pytest.approx(14.787 / layer_cm3(filling, PANTRY, FAMILIES), rel=1e-3)


def test_c17_balls_from_what_one_can_gives() -> None:
    """A can of condensed milk of 397 g at 7 g a ball, nothing on tools: 56 balls and 5 g over."""
    made = by_whole("Sweetened condensed milk", 397, 7)
    assert made.pieces == 56
    assert "5 g of it are left over" in made.words[0]


def test_c19_two_half_shells_round_a_nut() -> None:
    """24 half spheres of 28 mm give 12; a shell of 1.5 mm is 4/3 pi (14^3 - 12.5^3) = 3.31 mL, both halves of it."""
    nut = layer("nut", "whole-nuts", line("hazelnut-roasted", 1.2, "nut-solids"))
    filling = layer("filling", "nut-paste-praline", line("hazelnut-paste", 8, "nut-solids"))
    one = piece((chocolate("shell", 5), COAT), (filling, CORE), (nut, CORE))
    made = in_mould(one, gear(GearKind.MOULD, GearShape.HALF_SPHERE, halves=True, length="28", cavities="24"), 1.5, None)
    assert made.pieces == 12
    assert made.cavity is not None
    parts = {each.layer_id: each.ml for each in made.cavity.parts}
    assert parts["shell"] == pytest.approx(4 / 3 * math.pi * (14**3 - 12.5**3) / 1000)
    assert parts["filling"] == pytest.approx(4 / 3 * math.pi * 12.5**3 / 1000 - layer_cm3(nut, PANTRY, FAMILIES))


def test_c21_chocolate_in_two_uses_is_bought_once() -> None:
    """12 g in the cluster and 3 g on its back, 16 pieces, nothing on tools: 240 g, said at each and once in the shopping."""
    almonds = layer("nuts", "whole-nuts", line("almond-roasted", 6, "nut-solids"))
    one = formula(chocolate("cluster", 12), almonds, chocolate("back", 3))
    batch = scaled(one, 16, dict.fromkeys(("cluster", "nuts", "back"), 0.0), PANTRY, FAMILIES)
    assert [each.needed_g for each in batch.layers] == [192, 96, 48]
    bought = next(each for each in batch.shopping if each.ingredient_id == "dark-chocolate-55")
    assert bought.grams == pytest.approx(240)
    assert bought.uses == ("Cluster", "Back")


def test_a_batch_by_an_amount_says_of_what() -> None:
    """Of a layer, or of whole units of an ingredient; nothing while the amount is to say."""
    study = Study(name="Bench", layers=(Layer(id="c", name="Caramel", family="soft-caramel", place=STACK),))
    reading = StudyReading(study, PANTRY, FAMILIES)

    def said(**more: object) -> str:
        return batch_line_words(BatchPlan(id="b", version="v", **more), reading, {})  # type: ignore[arg-type]

    assert said(by=PlanBy.AMOUNT, portioned="c", amount="500 g") == "by 500 g of caramel"
    assert said(by=PlanBy.WHOLE, whole="egg-white-fresh", amount="1") == f"by 1 of {PANTRY['egg-white-fresh'].name.lower()}"
    assert said(by=PlanBy.AMOUNT, portioned="c") == ""
    assert said(by=PlanBy.HOUSE) == "by what is in the house"


def test_a_rolled_sheet_is_drawn_with_what_its_scraps_still_give() -> None:
    """24 rounds of 5 cm: 0.9 x 0.907 of a sheet at once, 0.966 with the scraps: 21 at once, 3 more; none lies on another."""
    base = layer("base", "baked-biscuit", line("plain-wheat-flour", 8, "flour"), line("butter-unsalted", 4, "fat"))
    made = by_cutter(piece((base, STACK)), gear(GearKind.CUTTER, GearShape.ROUND, length="5 cm"), "base", 24, 4.0)
    sheet = made.sheet
    assert sheet is not None
    first = 0.9 * math.pi / (2 * math.sqrt(3))
    assert sheet.at_once == math.ceil(24 * first / (first + (1 - first) * first)) == len(sheet.corners)
    assert sheet.at_once + sheet.from_scraps == 24
    centres = [(one.x_mm + 25, one.y_mm + 25) for one in sheet.corners]
    apart = [math.dist(one, other) for number, one in enumerate(centres) for other in centres[:number]]
    assert min(apart) >= 50 - 1e-6
    assert all(25 <= x <= sheet.length_mm - 25 and 25 <= y <= sheet.width_mm - 25 for x, y in centres)


def test_c10_a_ball_from_the_inside_out() -> None:
    """A nut, its paste, a coat, a crust: each ring by all the volume inside it, and the grams of the portion."""
    nut = layer("nut", "whole-nuts", line("hazelnut-roasted", 1, "nut-solids"))
    crust = layer("crust", "seeds", line("sesame-seeds", 1, "seed-solids"))
    one = piece((chocolate("coat", 4), COAT), (peanut(10), CORE), (nut, Place.INCLUSION), (crust, Place.TOPPING))
    ball = ball_of(one, {"filling": 1.2})
    assert ball is not None
    assert [ring.layer_id for ring in ball.rings] == ["nut", "filling", "coat", "crust"]
    assert ball.rings[1].grams == pytest.approx(12)
    volumes = {each.layer_id: layer_cm3(each, PANTRY, FAMILIES) for each in one.formula.layers}
    inside = volumes["nut"] + 1.2 * volumes["filling"]
    assert ball.rings[1].outer_mm == pytest.approx(20 * (3 * inside / (4 * math.pi)) ** (1 / 3))
    sizes = [ring.outer_mm for ring in ball.rings]
    assert sizes == sorted(sizes)
    assert ball_of(piece((chocolate("coat", 4), COAT), (peanut(10), STACK)), {}) is None
