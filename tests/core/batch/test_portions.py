"""How much is made in a pan, a mould, by a scoop, from whole units: worked by hand, and never losing a gram."""

import math
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.bench import FAMILIES, PANTRY, formula, layer, line

from fern_match.core.batch import (
    BatchPlan,
    BatchReading,
    Keeps,
    NoPortion,
    PlanBy,
    Portions,
    cards_of,
    cautions,
    coat_words,
    cue_for,
    read_batch,
    scaled,
)
from fern_match.core.batch.cavity import in_mould
from fern_match.core.batch.coats import Tempering, tempering
from fern_match.core.batch.day import of_the_day
from fern_match.core.batch.dipping import depth_for, spare_g, to_melt_g
from fern_match.core.batch.portion import Piece, portioned
from fern_match.core.batch.portions import by_amount, by_scoop, by_whole
from fern_match.core.batch.slab import in_pan
from fern_match.core.batch.until import set_out
from fern_match.core.formulate import Formula, Version, VersionIngredient, VersionLayer, layer_cm3, overview
from fern_match.core.kitchen import (
    Gear,
    GearKind,
    GearReading,
    GearShape,
    Kitchen,
    Pack,
    Tool,
    read_gear,
    read_kitchen,
    usual_gear,
)
from fern_match.core.measures import Comma, Measures, Typed
from fern_match.core.physics.density import mixture_density_g_cm3
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, PieceSize, Place, Study

CARAMEL = layer("caramel", "soft-caramel", line("white-sugar", 6, "sweet-bulk"), line("heavy-cream", 6, "dairy-liquid"), lost=2.0)
NUTS = layer("nuts", "whole-nuts", line("hazelnut-roasted", 1.3, "nut-solids"))
COAT = layer("coat", "milk-coat", line("milk-chocolate-33", 5, "chocolate"))
BUILD = {
    "coat": Layer(id="coat", name="Coat", family="milk-coat", place=Place.COAT),
    "caramel": Layer(id="caramel", name="Caramel", family="soft-caramel", place=Place.STACK),
    "nuts": Layer(id="nuts", name="Nuts", family="whole-nuts", place=Place.INCLUSION, host="caramel"),
}


def piece(*layers: object) -> Piece:
    """A piece of these layers."""
    return Piece(formula(*layers), BUILD, PANTRY, FAMILIES)  # type: ignore[arg-type]


def gear(kind: GearKind, shape: GearShape, **cells: str) -> GearReading:
    """Gear as typed, read."""
    halves = cells.pop("halves", "") == "yes"
    return read_gear(Gear(id="g", name="Mine", kind=kind, shape=shape, halves=halves, **cells), Measures.METRIC, Comma.DECIMAL)


def pan(length: str = "200", width: str = "200", depth: str = "50") -> GearReading:
    """A pan with straight sides."""
    return gear(GearKind.PAN, GearShape.RECTANGLE, length=length, width=width, depth=depth)


def test_a_pan_is_cut() -> None:
    """200 x 200 mm less 5 mm a side: 4 x 7 of 40 x 25 mm, as high as the version's pieces, 30 % of the slab over."""
    one = piece(CARAMEL)
    made = in_pan(one, pan(), (40, 25), 5)
    assert made.pieces == 28
    assert made.cut is not None
    assert len(set(made.cut.corners)) == 28
    assert made.trimmed["caramel"] == pytest.approx(0.30)
    density = mixture_density_g_cm3({"white-sugar": 6, "heavy-cream": 6}, 2.0, FAMILIES["soft-caramel"].porosity_typical, PANTRY)
    assert made.cut.heights[0].stands_mm == pytest.approx(10 * 10 / density / 10)
    batch = scaled(one.formula, made.pieces, {"caramel": 0.0}, PANTRY, FAMILIES, trimmed=made.trimmed)
    assert batch.layers[0].made_g == pytest.approx(400)
    assert batch.layers[0].trimmed_g == pytest.approx(120)
    assert batch.layers[0].needed_g == pytest.approx(280)


def test_a_larger_pan_makes_a_thinner_slab() -> None:
    """24 pieces' worth, 240 g, in a pan for 40 pieces' area: 6 g a piece instead of 10, six tenths as high, sooner cool."""
    one = piece(CARAMEL)
    made = in_pan(one, pan(), (40, 25), 0, wanted=24, keeps=Keeps.AMOUNTS, pans=1)
    assert made.factors["caramel"] == pytest.approx(24 * 10 / 400)
    assert made.pieces == 40
    batch = scaled(portioned(one.formula, made.factors), 40, {"caramel": 0.0}, PANTRY, FAMILIES, trimmed=made.trimmed)
    assert batch.layers[0].made_g == pytest.approx(240)
    assert any("40\u00a0% lighter" in words for words in made.words)
    assert any("sooner" in words for words in made.words)


def test_what_lies_in_a_layer_makes_it_higher() -> None:
    """Nuts in the caramel add their volume to it, and no layer of their own; the coat is no part of the slab."""
    made = in_pan(piece(COAT, CARAMEL, NUTS), pan(), (40, 25), 0, pans=2)
    assert made.cut is not None
    assert [one.layer_id for one in made.cut.heights] == ["caramel"]
    inside = layer_cm3(CARAMEL, PANTRY, FAMILIES) + layer_cm3(NUTS, PANTRY, FAMILIES)
    assert made.cut.heights[0].stands_mm == pytest.approx(inside)
    assert "coat" not in made.trimmed
    assert made.pieces == 80


@given(st.floats(60, 400), st.floats(60, 400), st.floats(0, 10), st.floats(12, 60), st.floats(12, 60), st.booleans())
def test_pieces_lie_in_the_pan_and_beside_each_other(
    length: float, width: float, trim: float, long: float, wide: float, is_round: bool
) -> None:
    """No piece reaches over the trim or into another, round pans too."""
    shape = GearShape.ROUND if is_round else GearShape.RECTANGLE
    own = gear(GearKind.PAN, shape, length=f"{length:.3f}", width=f"{width:.3f}", depth="100")
    try:
        made = in_pan(piece(CARAMEL), own, (long, wide), trim)
    except NoPortion:
        return
    assert made.cut is not None
    cut, slack = made.cut, 1e-2
    corners = [(one.x_mm, one.y_mm) for one in made.cut.corners]
    for x, y in corners:
        if is_round:
            far = max(
                math.hypot(a - length / 2, b - length / 2)
                for a in (x, x + cut.piece_length_mm)
                for b in (y, y + cut.piece_width_mm)
            )
            assert far <= length / 2 - trim + slack
        else:
            assert trim - slack <= x <= length - trim - cut.piece_length_mm + slack
            assert trim - slack <= y <= width - trim - cut.piece_width_mm + slack
    for number, (x, y) in enumerate(corners):
        for other_x, other_y in corners[number + 1 :]:
            assert abs(x - other_x) >= cut.piece_length_mm - slack or abs(y - other_y) >= cut.piece_width_mm - slack
    assert 0 < cut.used <= 1 + 1e-9


def test_a_half_sphere_is_filled() -> None:
    """28 mm across holds 5.747 mL; a shell of 2 mm leaves 3.619, a cap of 2 mm of those all but 2.723: that is the filling."""
    mould = gear(GearKind.MOULD, GearShape.HALF_SPHERE, length="28", cavities="15")
    made = in_mould(piece(COAT, CARAMEL), mould, 2, 2, moulds=2)
    assert made.pieces == 30
    assert made.cavity is not None
    assert made.cavity.filling_ml == pytest.approx(math.pi * 100 * (36 - 10) / 3 / 1000, abs=1e-6)
    parts = {one.layer_id: one for one in made.cavity.parts}
    assert parts["caramel"].ml == pytest.approx(made.cavity.filling_ml)
    assert parts["coat"].ml + parts["caramel"].ml == pytest.approx(made.cavity.holds_ml)
    out = portioned(piece(COAT, CARAMEL).formula, made.factors)
    assert out.layers[1].finished_g == pytest.approx(parts["caramel"].grams)


def test_a_bar_mould_and_a_tapered_cup() -> None:
    """A bar of 100 x 25 x 15 with 2 mm all round: 96 x 21 x 11 = 22.18 mL inside; a cup by its slope."""
    bar = gear(GearKind.MOULD, GearShape.RECTANGLE, length="100", width="25", depth="15", cavities="1")
    made = in_mould(piece(COAT, CARAMEL), bar, 2, 2)
    assert made.cavity is not None
    assert made.cavity.filling_ml == pytest.approx(96 * 21 * 11 / 1000)
    cup = gear(GearKind.CUP, GearShape.TAPERED, length="40", width="30", depth="15", cavities="12")
    made = in_mould(piece(COAT, CARAMEL), cup, 1.5, 1.5)
    assert made.cavity is not None
    top, bottom, high = 20 - 0.5 - 1.5, 15 + 0.5 - 1.5, 12.0  # radii slope by a third of a mm for each mm down
    assert made.cavity.filling_ml == pytest.approx(math.pi * high * (top**2 + top * bottom + bottom**2) / 3 / 1000)


def test_what_goes_in_by_the_piece_keeps_its_weight() -> None:
    """A cherry or a nut in a moulded shell: the rest of the filling makes room for it."""
    mould = gear(GearKind.MOULD, GearShape.OTHER, volume="20 g", cavities="6")
    made = in_mould(piece(COAT, CARAMEL, NUTS), mould, None, None)
    assert made.factors["nuts"] == 1
    assert made.cavity is not None
    assert sum(one.ml for one in made.cavity.parts) == pytest.approx(20 / 0.998)
    assert made.cavity.shell_mm is None  # no shape, no thickness


def test_two_halves_make_a_piece() -> None:
    """15 pairs of a mould of 30: each half a shell, no cap between them."""
    mould = gear(GearKind.MOULD, GearShape.HALF_SPHERE, length="28", cavities="30", halves="yes")
    made = in_mould(piece(COAT, CARAMEL), mould, 2, None)
    assert made.pieces == 15
    assert made.cavity is not None
    parts = {one.layer_id: one for one in made.cavity.parts}
    assert parts["coat"].ml == pytest.approx(4 / 3 * math.pi * (14**3 - 12**3) / 1000)


def test_a_scoop_a_bowl_and_whole_eggs() -> None:
    """#60 holds 15.8 mL; 100 g of caramel at 10 g give 10 pieces; an egg white of 33 g at 1.5 g a piece gives 22."""
    scoop = gear(GearKind.SCOOP, GearShape.OTHER, volume="#60")
    one = piece(CARAMEL)
    made = by_scoop(one, scoop, "caramel", 12)
    assert made.factors["caramel"] == pytest.approx(946.353 / 60 / layer_cm3(CARAMEL, PANTRY, FAMILIES))
    assert "15.8 mL" in made.words[0]
    assert by_amount(one, "caramel", 105, 0.0).pieces == 10
    assert by_amount(one, "caramel", 105, 0.10).pieces == 9
    assert by_whole("Egg white, fresh", 33, 1.5).pieces == 22
    assert "nothing of it left over" in by_whole("Egg white, fresh", 33, 1.5).words[0]
    with pytest.raises(NoPortion, match="not enough for one piece"):
        by_amount(one, "caramel", 9, 0.0)
    with pytest.raises(NoPortion, match="No piece takes any"):
        by_whole("Egg white, fresh", 33, 0.0)


def test_dipping() -> None:
    """A bowl of 16 cm, 35 mm deep, holds 844.5 g; 24 pieces at 6.9 g, 5 % lost and 20 mm for the last: 656.4 g."""
    area = math.pi * 8**2
    assert spare_g(area, 35) == pytest.approx(844.5, abs=0.2)
    assert to_melt_g(24, 6.9, 0.05, area, 20) == pytest.approx(656.4, abs=0.5)
    assert depth_for(15) == 20


@pytest.mark.parametrize(
    ("made", "words"),
    [
        (
            lambda: in_pan(piece(CARAMEL), pan("30", "20"), (40, 25), 0),
            "No piece of 40 × 25 mm fits in Mine, 30 × 20 mm",
        ),
        (lambda: in_pan(piece(CARAMEL), pan("1500", "1500"), (1e-3, 1e-3), 0), "are planned at once"),
        (lambda: in_pan(piece(CARAMEL), pan(depth="4"), (40, 25), 0), "The slab would stand"),
        (lambda: in_pan(piece(CARAMEL), pan(width=""), (40, 25), 0), "Still to say: length and width"),
        (
            lambda: in_mould(piece(COAT, CARAMEL), gear(GearKind.MOULD, GearShape.HALF_SPHERE, length="12", cavities="2"), 6, 0),
            "fills the cavity",
        ),
        (
            lambda: in_mould(piece(COAT, CARAMEL, NUTS), gear(GearKind.MOULD, GearShape.OTHER, volume="1.2"), None, None),
            "nothing else fits",
        ),
        (lambda: in_mould(piece(CARAMEL), gear(GearKind.MOULD, GearShape.OTHER), None, None), "what it holds"),
        (lambda: by_scoop(piece(CARAMEL), gear(GearKind.SCOOP, GearShape.OTHER, volume="#60"), "cellar", 3), "which layer"),
    ],
)
def test_gear_that_cannot_give_a_piece_says_so(made: object, words: str) -> None:
    """In the maker's terms."""
    with pytest.raises(NoPortion, match=words):
        made()  # type: ignore[operator]


@pytest.mark.parametrize(
    ("cells", "words"),
    [
        ({"volume": "0 mL"}, "more than 0"),
        ({"volume": "heavy"}, "was not read"),
        ({"length": "28", "volume": "9 mL"}, "what was measured counts"),
        ({"length": "28", "cavities": "3", "halves": "yes"}, "odd"),
        ({}, "Still to say"),
    ],
)
def test_gear_says_what_is_wrong_with_it(cells: dict[str, str], words: str) -> None:
    """Beside it, in the kitchen."""
    assert words in (gear(GearKind.MOULD, GearShape.HALF_SPHERE, **cells).problem or "")


def test_usual_gear_is_whole() -> None:
    """Every usual size can be used, but for a tray that is to be weighed with water."""
    read = [(one.name, note, read_gear(one, Measures.METRIC, Comma.DECIMAL).problem) for one, note in usual_gear()]
    to_say = {name for name, note, problem in read if problem and "my own size" not in note}
    assert to_say == {"Egg tray"}
    assert all((problem or "").startswith("Still to say") for _, note, problem in read if "my own size" in note)


# --- whole plans ---


def version() -> Version:
    """A coated caramel with a whole nut."""
    return Version(
        id="v",
        name="V",
        layers=(
            VersionLayer(
                id="coat",
                name="Coat",
                family="milk-coat",
                ingredients=(
                    VersionIngredient(
                        id="c", ingredient="milk-chocolate-33", name="milk-chocolate-33", amount="5", role="chocolate"
                    ),
                ),
            ),
            VersionLayer(
                id="caramel",
                name="Caramel",
                family="soft-caramel",
                water_lost="2",
                ingredients=(
                    VersionIngredient(id="s", ingredient="white-sugar", name="white-sugar", amount="6", role="sweet-bulk"),
                    VersionIngredient(id="h", ingredient="heavy-cream", name="heavy-cream", amount="6", role="dairy-liquid"),
                ),
            ),
            VersionLayer(
                id="nuts",
                name="Nuts",
                family="whole-nuts",
                ingredients=(
                    VersionIngredient(
                        id="n", ingredient="hazelnut-roasted", name="hazelnut-roasted", amount="1.3", role="nut-solids"
                    ),
                ),
            ),
        ),
    )


OWN = (
    Gear(id="pan", name="Square pan", kind=GearKind.PAN, length="20 cm", width="8 in", depth="50"),
    Gear(id="mould", name="Mould", kind=GearKind.MOULD, shape=GearShape.HALF_SPHERE, length="35", cavities="15"),
    Gear(id="scoop", name="Scoop #60", kind=GearKind.SCOOP, shape=GearShape.OTHER, volume="#60"),
    Gear(id="bowl", name="Mug", kind=GearKind.BOWL, shape=GearShape.ROUND, length="80", depth="95"),
)


def read(kitchen: Kitchen | None = None, **asked: object) -> BatchReading:
    """A plan of the coated caramel."""
    study = Study(name="bench", layers=tuple(BUILD.values()), size=PieceSize(length="40", width="25", height="15"))
    reading = StudyReading(study, PANTRY)
    own = read_kitchen(kitchen or Kitchen(gear=OWN))
    return read_batch(BatchPlan(id="b", version="v", **asked), overview(version(), reading), reading, own)  # type: ignore[arg-type]


PLANS: list[dict[str, object]] = [
    {"pieces": "24"},
    {"by": PlanBy.PAN, "gear": "pan"},
    {"by": PlanBy.PAN, "gear": "pan", "gear_count": "2", "cut_length": "3 cm", "cut_width": "1 in", "trim": "5"},
    {"by": PlanBy.PAN, "gear": "pan", "keeps": Keeps.AMOUNTS, "pieces": "12"},
    {"by": PlanBy.MOULD, "gear": "mould", "gear_count": "2", "shell": "1.5", "cap": "2"},
    {"by": PlanBy.SCOOP, "gear": "scoop", "portioned": "caramel", "pieces": "12"},
    {"by": PlanBy.AMOUNT, "portioned": "caramel", "amount": "500"},
    {"by": PlanBy.WHOLE, "whole": "heavy-cream", "amount": "1 cup"},
    {"by": PlanBy.HOUSE, "in_house": {"hazelnut-roasted": "30", "white-sugar": "1 cup"}},
    {"pieces": "24", "dip_bowl": "bowl"},
]


@pytest.mark.parametrize("asked", PLANS)
def test_no_gram_is_lost_in_any_gear(asked: dict[str, object]) -> None:
    """In the bowl = steam, tools, trimmings, what is left of a dip, and pieces, to a billionth."""
    found = read(**asked)
    assert found.problem == ""
    assert found.batch is not None
    assert found.portions is not None
    for one in found.batch.layers:
        out = one.water_lost_g + one.left_on_tools_g + one.trimmed_g + one.spare_g + one.needed_g
        assert one.added_g == pytest.approx(out, rel=1e-9)
        assert sum(each.grams for each in one.ingredients) == pytest.approx(one.added_g, rel=1e-9)
        assert one.needed_g == pytest.approx(one.per_piece_g * found.batch.pieces, rel=1e-9)
    assert found.seen.formula.piece_g * found.batch.pieces == pytest.approx(found.batch.finished_g, rel=1e-9)


def test_a_plan_waits_for_what_is_still_to_say() -> None:
    """Neither a batch nor a complaint."""
    waiting: list[dict[str, object]] = [
        {},
        {"by": PlanBy.PAN},
        {"by": PlanBy.PAN, "gear": "scoop"},
        {"by": PlanBy.SCOOP, "gear": "scoop", "pieces": "3"},
        {"by": PlanBy.AMOUNT, "amount": "500"},
        {"by": PlanBy.WHOLE, "amount": "1 cup"},
        {"by": PlanBy.HOUSE},
    ]
    for asked in waiting:
        found = read(**asked)
        assert found.batch is None, asked
        assert found.problem == "", asked


def test_gear_that_is_gone_is_asked_for_again() -> None:
    """The plan stays; nothing breaks."""
    assert "not in the kitchen any more" in read(by=PlanBy.MOULD, gear="gone").problem
    assert "not in the kitchen any more" in read(pieces="3", dip_bowl="gone").problem
    assert "do not stand in" in read(pieces="3", dip_bowl="bowl", dip_depth="96").problem


def test_a_dip_leaves_coat_in_the_bowl() -> None:
    """A mug of 8 cm: 20 mm stand in it for pieces of 15 mm, 1.2 x 50.27 x 2 = 120.6 g, and it is bought with the rest."""
    found = read(pieces="24", dip_bowl="bowl", left_on_tools={"coat": "0"})
    assert found.batch is not None
    coat = found.batch.layers[0]
    assert coat.spare_g == pytest.approx(120.6, abs=0.1)
    assert coat.added_g == pytest.approx(24 * 5 + 120.6, abs=0.1)
    assert "121 g more" in found.dip


def test_packs_are_bought_whole() -> None:
    """120 g of chocolate and what stays on tools, in packs of 100 g at 2.50; the sugar has a pack and no price."""
    packs = (Pack(id="milk-chocolate-33", size="100 g", price="2.50"), Pack(id="white-sugar", size="1 kg"))
    found = read(Kitchen(packs=packs), pieces="24", left_on_tools={"coat": "0"}, in_house={"milk-chocolate-33": "30"})
    assert found.packs is not None
    line = found.packs.lines["milk-chocolate-33"]
    assert (line.packs, line.cost) == (1, 2.5)
    assert line.left_g == pytest.approx(10)
    assert found.packs.cost == 2.5
    assert any("sugar" in name.lower() for name in found.packs.not_counted)
    assert found.packs.words.startswith("Packs to buy come to 2.50; not counted: ")


def test_a_kitchen_without_a_scale_measures_by_spoon() -> None:
    """Every line has its spoons, cups or pieces, or says that it needs a scale; layers within 8 %."""
    found = read(Kitchen(lacks=(Tool.SCALE,)), pieces="24")
    assert found.batch is not None
    for one in found.batch.layers:
        for each in one.ingredients:
            assert each.measured
            assert each.measured.endswith(" g") == ("needs a scale" in each.note)
        measured, exact = (sum(getattr(each, field) for each in one.ingredients) for field in ("weigh_out_g", "grams"))
        assert measured == pytest.approx(exact, rel=0.08)


def test_what_is_counted_is_counted() -> None:
    """A hazelnut of 1.3 g in each piece is one each; sugar is not counted."""
    found = read(pieces="24")
    assert found.batch is not None
    each = {one.ingredient_id: one.each for layer_ in found.batch.layers for one in layer_.ingredients}
    expected = PANTRY["hazelnut-roasted"].piece_g
    assert each["hazelnut-roasted"] == (f"{round(1.3 / expected)} each" if expected else "")
    assert each["white-sugar"] == ""


def test_one_ingredient_over_two_layers_is_bought_once() -> None:
    """And the list says in which."""
    twice = Formula(name="t", layers=(COAT, replace(COAT, layer_id="top", name="Top")))
    line_ = scaled(twice, 10, {}, PANTRY, FAMILIES).shopping[0]
    assert line_.uses == ("Coat", "Top")


def test_portions_of_nothing_are_as_the_version() -> None:
    """No factor, no change."""
    assert portioned(piece(CARAMEL).formula, Portions(pieces=3).factors) == piece(CARAMEL).formula


@pytest.mark.parametrize(
    ("shares", "words"),
    [
        ({"dark-chocolate-55": 10}, "To be tempered: 99"),
        ({"compound-coating-dark": 10}, "No tempering"),
        ({"dark-chocolate-55": 5, "compound-coating-dark": 5}, "53\u00a0% cocoa butter and 46\u00a0% coating fat"),
    ],
)
def test_a_coat_says_whether_it_is_tempered(shares: dict[str, float], words: str) -> None:
    """A chocolate, a coating, and half of each: (35.5 + 2) of 70.3 g fat, and 32."""
    blend = layer("coat", "dark-coat", *(line(key, grams, "chocolate") for key, grams in shares.items()))
    study = StudyReading(Study(name="bench"), PANTRY)
    said = coat_words(blend, overview(version(), study), PANTRY)
    assert words in said[0]


def test_what_is_worked_in_until_it_holds() -> None:
    """10 g of icing sugar a ball, 20 balls, nothing on tools: 200 g planned, 220 set out; 26 left, 194 went in, 3 % less."""
    ball = layer("ball", "uncooked-fondant", line("icing-sugar", 10, "sweet-bulk"), line("butter-unsalted", 3, "fat"))
    batch = scaled(formula(ball), 20, {"ball": 0.0}, PANTRY, FAMILIES)
    found = set_out(batch, (), {})["ball"]
    assert (found.planned_g, found.out_g, found.used_g) == (pytest.approx(200), pytest.approx(220), None)
    assert "Set out 220 g" in found.words
    after = set_out(batch, (), {"ball": Typed("26", 26.0, "g")})["ball"]
    assert after.used_g == pytest.approx(194)
    assert "3\u00a0% less than planned" in after.words
    more = set_out(batch, (), {"ball": Typed("300", 300.0, "g")})["ball"]
    assert more.used_g is None
    assert "More is left" in more.words
    assert set_out(scaled(formula(CARAMEL), 20, {}, PANTRY, FAMILIES), (), {}) == {}


def test_moulds_follow_the_pieces() -> None:
    """40 pieces of a mould of 15: filled three times, the last time 10 of 15; said how often, as many as that gives."""
    found = read(by=PlanBy.MOULD, gear="mould", pieces="40")
    assert found.portions is not None
    assert found.portions.pieces == 40
    assert any("last time 10 of 15" in words for words in found.portions.words)
    again = read(by=PlanBy.MOULD, gear="mould", pieces="40", gear_count="2")
    assert again.portions is not None
    assert again.portions.pieces == 30


def test_pans_follow_the_pieces() -> None:
    """40 x 25 mm from 200 x 203 mm: 40 a pan; for 50 pieces two pans."""
    found = read(by=PlanBy.PAN, gear="pan", pieces="50")
    assert found.portions is not None
    assert found.portions.cut is not None
    assert (found.portions.cut.pans, found.portions.pieces) == (2, 80)


def test_some_break() -> None:
    """24 wanted, a tenth breaks: 24 / 0.9 = 26.7, so 27 are made."""
    found = read(pieces="24", breaks="10")
    assert found.batch is not None
    assert found.batch.pieces == 27
    assert found.portions is not None
    assert found.portions.words == ("27 are made, so that 24 are left.",)


@pytest.mark.parametrize(
    ("room", "humidity", "words"),
    [
        ("24", "", ["sets slowly"]),
        ("30 C", "", ["does not set on the table"]),
        ("24", "65", ["sets slowly", "sweats", "colder than 17"]),
        ("20", "45", ["sweats"]),
        ("18", "25", ["dries Caramel"]),
        ("", "", []),
        ("18", "", []),
    ],
)
def test_the_room_of_the_day(room: str, humidity: str, words: list[str]) -> None:
    """A coat in the warm, a fridge in the damp, a caramel of 0.45 and more in the dry; nothing of what nobody said."""
    found = read(pieces="24", room=room, humidity=humidity)
    said = " ".join(one.sentence for one in found.today)
    assert all(one in said for one in words), said
    assert bool(said) == bool(words)


def test_hard_sugar_in_damp_air() -> None:
    """A honeycomb takes up water from air of 65 %."""
    comb = scaled(formula(layer("comb", "honeycomb", line("white-sugar", 10, "sweet-bulk"))), 5, {}, PANTRY, FAMILIES)
    assert "soft or sticky" in of_the_day(comb.layers, [], FAMILIES, None, 0.65)[0].sentence
    assert of_the_day([], [], FAMILIES, None, 0.65) == ()


@pytest.mark.parametrize(
    ("family", "at_c", "words"),
    [
        ("nougat-egg-white", 121, "ball that holds"),
        ("plain-fondant", 115, "flattens"),
        ("brittle", 150, "snaps clean"),
        ("soft-caramel", 118, "away from the side"),
        ("condensed-milk-caramel", 112, "colour of a biscuit"),
        ("fruit-jelly", 106, "wrinkles"),
        ("nobody-knows", 121, "ball that holds"),
        ("soft-caramel", 90, ""),
        ("gelatine-jelly", 115, "flattens"),
        ("starch-jelly", 106, ""),
        ("plant-caramel", 118, "away from the side"),
    ],
)
def test_a_boil_ends_by_eye(family: str, at_c: float, words: str) -> None:
    """By the kind of what is boiled; no cue where none is near."""
    cue = cue_for(family, at_c, FAMILIES)
    assert words in cue
    assert bool(cue) == bool(words)


def test_a_coated_piece_is_cut_smaller() -> None:
    """40 x 25 x 15 mm outside; what is cut is as much smaller as the coat's 5 g lie thick all round, and the volumes add up."""
    found = read(by=PlanBy.PAN, gear="pan")
    assert found.portions is not None
    assert found.portions.cut is not None
    long, wide = found.usual_cut or (0, 0)
    coat_mm = (40 - long) / 2
    assert (25 - wide) / 2 == pytest.approx(coat_mm)
    assert 40 * 25 * 15 / 1000 - long * wide * (15 - 2 * coat_mm) / 1000 == pytest.approx(
        layer_cm3(COAT, PANTRY, FAMILIES), rel=1e-6
    )
    assert {round(found.portions.cut.piece_length_mm, 6), round(found.portions.cut.piece_width_mm, 6)} == {
        round(long, 6),
        round(wide, 6),
    }
    assert any("brings that to the original" in words for words in found.portions.words)
    typed = read(by=PlanBy.PAN, gear="pan", cut_length="40", cut_width="25")
    assert typed.portions is not None
    assert not any("brings that" in words for words in typed.portions.words)


def test_a_bowl_too_narrow_for_the_piece_says_so() -> None:
    """A bar of 40 x 25 mm does not lie in a cup of 40 mm across; nothing is left in a bowl that is not dipped from."""
    cup = Gear(id="bowl", name="Egg cup", kind=GearKind.BOWL, shape=GearShape.ROUND, length="40", depth="95")
    found = read(Kitchen(gear=(cup,)), pieces="24", dip_bowl="bowl")
    assert "does not lie in Egg cup" in found.dip
    assert found.batch is not None
    assert found.batch.layers[0].spare_g == 0


@pytest.mark.parametrize(
    ("shape", "sides", "fits"), [("round", ("48", ""), True), ("round", ("47", ""), False), ("rectangle", ("30", "41"), True)]
)
def test_what_lies_in_a_bowl(shape: str, sides: tuple[str, str], fits: bool) -> None:
    """40 x 25 mm: 47.2 mm corner to corner in a round one, either way round in a straight one."""
    assert gear(GearKind.BOWL, GearShape(shape), length=sides[0], width=sides[1]).takes(40, 25) is fits


def test_what_is_left_of_a_dip_is_taken_off_the_house_first() -> None:
    """121 g of the chocolate stay in the mug: 300 g give (300 - 120.6) / 5 = 35 pieces, not 300 / (24 x 5 + 120.6) x 24 = 29."""
    house = {"milk-chocolate-33": "300"}
    found = read(pieces="24", dip_bowl="bowl", left_on_tools={"coat": "0"}, in_house=house)
    assert found.stock is not None
    assert found.stock.pieces == 35
    by_house = read(by=PlanBy.HOUSE, dip_bowl="bowl", left_on_tools={"coat": "0"}, in_house=house)
    assert by_house.batch is not None
    assert by_house.stock is not None
    assert by_house.batch.pieces == by_house.stock.pieces == 35


def test_a_piece_that_outgrows_its_rule_says_so() -> None:
    """Keto at 10 g a piece holds in the version, and not in domes of 48 mm: it is said, on the card too."""
    held = replace(version(), origin=replace(version().origin, rules=("keto:10",)))
    study = Study(name="bench", layers=tuple(BUILD.values()))
    reading = StudyReading(study, PANTRY)
    own = read_kitchen(Kitchen(gear=(replace(OWN[1], length="48"),)))
    plan = BatchPlan(id="b", version="v", by=PlanBy.MOULD, gear="mould", shell="1.5")
    assert read_batch(replace(plan, by=PlanBy.PIECES, pieces="9"), overview(held, reading), reading, own).broken == ()
    found = read_batch(plan, overview(held, reading), reading, own)
    assert found.batch is not None
    assert found.batch.piece_g > overview(held, reading).formula.piece_g
    assert any("10 g" in words for words in found.broken)
    minded = cautions(found.batch, PANTRY, broken=found.broken)
    assert next(one for one in minded if one.topic == "No longer holds").sentence
    assert "10 g" in cards_of(found, minded, reading)[0].mind


def test_what_must_be_said_is_of_the_piece_as_it_comes_out() -> None:
    """8 % of polyols in the version, four fifths of a piece with a scoop of it: the warning of the law comes with that."""
    sweet = VersionLayer(
        id="caramel",
        name="Caramel",
        family="maltitol-caramel",
        ingredients=(VersionIngredient(id="m", ingredient="maltitol-powder", name="m", amount="0.5", role="sweet-bulk"),),
    )
    made = replace(version(), layers=(version().layers[0], sweet))
    study = Study(name="bench", layers=tuple(BUILD.values()))
    reading = StudyReading(study, PANTRY)
    seen = overview(made, reading)
    plan = BatchPlan(id="b", version="v", by=PlanBy.SCOOP, gear="scoop", portioned="caramel", pieces="12")
    found = read_batch(plan, seen, reading, read_kitchen(Kitchen(gear=OWN)))
    assert not any("laxative" in words for words in seen.to_say)
    assert any("laxative" in words for words in found.seen.to_say)


def test_a_coat_of_which_nobody_knows_the_fat() -> None:
    """Neither tempered nor not: it is not known."""
    stranger = replace(line("dark-chocolate-55", 4, "chocolate"), ingredient_id="unknown-crumbs", name="Moon crumbs")
    blend = layer("coat", "dark-coat", line("dark-chocolate-55", 5, "chocolate"), stranger)
    assert tempering(blend, PANTRY)[0] is Tempering.NOT_KNOWN
    assert "Moon crumbs" in tempering(blend, PANTRY)[1]


def test_a_card_warns_those_who_eat() -> None:
    """Xylitol and egg that may be raw stand on it; what a dip leaves in the bowl is not eaten, and not in the load."""
    sweets = layer("x", "plain-fondant", line("xylitol", 60, "sweet-bulk"), line("egg-white-fresh", 6, "water"))
    batch = scaled(formula(sweets), 10, {"x": 0.0}, PANTRY, FAMILIES)
    told = {one.topic: one.for_eaters for one in cautions(batch, PANTRY)}
    assert "dog" in told["Dogs"]
    assert "pregnant" in told["Raw egg"]
    dipped = scaled(formula(sweets), 10, {"x": 0.0}, PANTRY, FAMILIES, spare_g={"x": 500.0})
    loads = [next(one.sentence for one in cautions(each, PANTRY) if one.topic == "Polyols") for each in (batch, dipped)]
    assert loads[0] == loads[1]
