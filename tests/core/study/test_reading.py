"""A study is read without changing what was typed, and what does not fit is flagged."""

from collections.abc import Callable
from dataclasses import replace

import pytest

from fern_match.core.batch import BatchPlan
from fern_match.core.batch.words import batch_line_words
from fern_match.core.label.intervals import DeclaredFigure
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.steps import Situation, step_words
from fern_match.core.study.flags import flags_of
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import PIECE, LabelText, Layer, PieceSize, Place, Study, Whereabouts
from fern_match.core.study.starters import STARTER_BUILDS

Read = Callable[..., StudyReading]


def sentences(reading: StudyReading) -> str:
    """All flags in one text."""
    return "\n".join(flag.sentence for flag in flags_of(reading))


def test_a_sound_study_has_no_flags(small_study: Study, read: Read) -> None:
    """Nothing to look at where nothing is odd."""
    assert flags_of(read(small_study)) == ()


def test_ounces_on_the_pack_are_read(small_study: Study, read: Read) -> None:
    """1.5 oz is 42.5 g."""
    assert read(small_study).net_weight.value == pytest.approx(42.524, abs=0.001)


def test_the_serving_stands_for_whole_pieces(small_study: Study, read: Read) -> None:
    """A declared 43 g of a 42.5 g piece is that piece, known better than the rounding."""
    reading = read(small_study)
    assert reading.basis_g == pytest.approx(42.524, abs=0.001)
    assert reading.basis_relative_sd < 0.005


def test_a_serving_that_is_no_whole_piece_keeps_its_rounding(small_study: Study, read: Read) -> None:
    """30 g of a 42.5 g piece is 29.5 to 30.5."""
    reading = read(small_study, label=replace(small_study.label, serving="30"))
    assert reading.basis_g == 30
    assert reading.basis_relative_sd == pytest.approx(0.5 / 3**0.5 / 30)


def test_a_per_serving_label_without_serving_takes_the_pack(small_study: Study, read: Read) -> None:
    """One piece in the pack is the serving."""
    reading = read(small_study, label=replace(small_study.label, serving=""))
    assert reading.basis_g == pytest.approx(42.524, abs=0.001)


def test_a_label_with_no_weight_at_all_says_so(small_study: Study, read: Read) -> None:
    """Figures per an unknown serving are kept and not used."""
    reading = read(small_study, label=replace(small_study.label, serving="", net_weight=""))
    assert reading.basis_g is None
    assert "not used yet" in sentences(reading)


@pytest.mark.parametrize(
    ("row", "typed", "words"),
    [
        (RowId.FAT, "ten", "not read as a label figure"),
        (RowId.FAT, "-4", "below zero"),
        (RowId.SODIUM, "9999999", "more than any label says"),
    ],
)
def test_rows_that_are_no_figures_keep_what_was_typed(small_study: Study, read: Read, row: RowId, typed: str, words: str) -> None:
    """A sentence beside the field; the others count as before."""
    label = replace(small_study.label, rows={**small_study.label.rows, row: typed})
    reading = read(small_study, label=label)
    found = next(one for one in reading.rows if one.row is row)
    assert found.typed == typed
    assert found.problem is not None
    assert words in found.problem
    assert RowId.SUGARS in reading.intervals


@pytest.mark.parametrize(
    ("rows", "words"),
    [
        ({RowId.SUGARS: "40"}, "Total sugars (39.5 g or more) cannot exceed"),
        ({RowId.ENERGY_KCAL: "90"}, "but the label says 90"),
        ({RowId.CARBOHYDRATE: "60", RowId.FAT: "20"}, "add up to"),
    ],
)
def test_rows_that_fight_are_flagged(small_study: Study, read: Read, rows: dict[RowId, str], words: str) -> None:
    """Kept, and said."""
    reading = read(small_study, label=replace(small_study.label, rows={**small_study.label.rows, **rows}))
    assert words in sentences(reading)


def test_a_serving_larger_than_the_pack_is_flagged(small_study: Study, read: Read) -> None:
    """Serving against net weight."""
    assert "more than the whole pack" in sentences(read(small_study, label=replace(small_study.label, serving="90")))


def test_weighings_are_read_with_mean_and_scatter(small_study: Study, read: Read) -> None:
    """16.2 and 15.8: mean 16.0, scatter 0.283."""
    reading = read(small_study, weighings={"coat": ("16.2", "15.8", "oops")})
    coat = next(one for one in reading.weighings if one.subject == "coat")
    assert coat.mean_g == pytest.approx(16.0)
    assert coat.sd_g == pytest.approx(0.2828, abs=1e-4)
    assert coat.readings[2].problem


@pytest.mark.parametrize(
    ("weighings", "words"),
    [
        ({PIECE: ("80",)}, "Check the net weight"),
        ({"coat": ("30",), "caramel": ("30",)}, "more than the whole piece"),
    ],
)
def test_weighings_that_cannot_be_are_flagged(
    small_study: Study, read: Read, weighings: dict[str, tuple[str, ...]], words: str
) -> None:
    """Against the net weight, and against each other."""
    assert words in sentences(read(small_study, weighings=weighings))


def test_an_unknown_name_asks(small_study: Study, read: Read) -> None:
    """What is not in the pantry is said, and the rest is read."""
    reading = read(small_study, statement=small_study.statement.rstrip(".") + ", moon dust.")
    assert "“moon dust” is not in the pantry" in sentences(reading)
    assert "white-sugar" in reading.ingredient_of.values()


def test_flour_with_its_vitamins_is_flour(small_study: Study, read: Read) -> None:
    """Brackets that list what nobody weighs do not open a food; a chocolate's do."""
    statement = "Enriched flour (wheat flour, niacin, reduced iron, thiamin), dark chocolate (cocoa mass, sugar, cocoa butter)"
    keys = [leaf.key for leaf in read(small_study, statement=statement).statement.leaves()]
    assert keys[0] == "enriched flour"
    assert keys[1] == "dark chocolate > cocoa mass"


def test_a_correction_wins(small_study: Study, read: Read) -> None:
    """The user's ingredient replaces the match; "none" leaves the name out without asking again."""
    reading = read(small_study, corrections={"sugar": "icing-sugar", "soy lecithin": "none"})
    assert reading.ingredient_of["sugar"] == "icing-sugar"
    assert "soy lecithin" not in reading.ingredient_of
    assert "soy lecithin" not in sentences(reading)


def test_a_correction_to_nothing_known_is_ignored(small_study: Study, read: Read) -> None:
    """An id the pantry does not hold falls back to the match."""
    assert read(small_study, corrections={"sugar": "stardust"}).ingredient_of["sugar"] == "white-sugar"


def test_a_name_that_no_layer_takes_is_flagged(small_study: Study, read: Read) -> None:
    """Flour in neither a coat nor a caramel may be in the caramel, and is asked about; an answer of no everywhere holds."""
    statement = small_study.statement.rstrip(".") + ", wheat flour."
    reading = read(small_study, statement=statement)
    assert list(reading.anywhere) == ["wheat flour"]
    assert "No layer here is usually made with “wheat flour”. It is looked for in " in sentences(reading)
    nowhere = {"wheat flour": dict.fromkeys((layer.id for layer in small_study.layers), Whereabouts.NO)}
    assert "No layer takes “wheat flour”" in sentences(read(small_study, statement=statement, placements=nowhere))


def test_an_unknown_family_is_flagged_and_left_out(small_study: Study, read: Read) -> None:
    """The other layers are still read."""
    odd = Layer(id="x", name="Mystery", family="moon-cheese", place=Place.STACK)
    reading = read(small_study, layers=(*small_study.layers, odd))
    assert "there is no family “moon-cheese”" in sentences(reading)
    assert len(reading.build) == 2


def test_a_lost_host_is_flagged(small_study: Study, read: Read) -> None:
    """Nuts whose layer was removed."""
    nuts = Layer(id="nuts", name="Nuts", family="whole-nuts", place=Place.INCLUSION, host="gone")
    assert "the layer it lies in is gone" in sentences(read(small_study, layers=(*small_study.layers, nuts)))


def test_a_better_variant_is_named(small_study: Study, read: Read) -> None:
    """A caramel of palm oil and milk powder is a powder caramel."""
    coat = "Milk chocolate (sugar, cocoa butter, whole milk powder, cocoa mass)"
    statement = f"{coat}, caramel (glucose syrup, sugar, palm oil, skimmed milk powder, salt)."
    reading = read(small_study, region=Region.EU, statement=statement)
    assert reading.better_families["caramel"].id == "powder-caramel"


@pytest.mark.parametrize("build", STARTER_BUILDS, ids=lambda build: build.id)
def test_starter_builds_can_be_read(small_study: Study, read: Read, build: object) -> None:
    """Every usual build is made of families we have, without a flag of its own."""
    reading = read(small_study, layers=build.layers, weighings={}, statement="")  # type: ignore[attr-defined]
    assert len(reading.build) == len(reading.study.layers)
    assert not [flag for flag in flags_of(reading) if flag.where == "layers"]


@pytest.mark.parametrize(
    ("changes", "study_words", "estimate_words"),
    [
        ({"label": LabelText()}, "no label yet", "follows study"),
        ({"statement": ""}, "no statement", "follows study"),
        ({"layers": (), "weighings": {}}, "no layers yet", "needs layers"),
        ({}, "1/2 weighed", "follows study"),
        ({"weighings": {"coat": ("16",), "caramel": ("26",)}}, "all weighed", "follows study"),
        ({"label": LabelText(), "weighings": {}}, "no label yet", "needs weight"),
    ],
)
def test_the_path_says_what_is_missing(
    small_study: Study, read: Read, changes: dict[str, object], study_words: str, estimate_words: str
) -> None:
    """In words, step by step."""
    words = {step.step: step.words for step in step_words(Situation(reading=read(small_study, **changes)))}
    assert words["study"] == study_words
    assert words["estimate"] == estimate_words
    assert words["batch"] == "no version"


@pytest.mark.parametrize(
    ("pieces", "words"),
    [
        ("", "pieces to say"),
        ("lots", "pieces to say"),
        ("24", "24 pieces"),
        ("2 x 15", "30 pieces"),
        ("1", "1 piece"),
    ],
)
def test_the_path_says_what_the_batch_is(small_study: Study, read: Read, pieces: str, words: str) -> None:
    """Once there is a version."""
    plan = BatchPlan(id="b", version="v", pieces=pieces)
    now = Situation(
        reading=read(small_study), counts={"versions": 1, "batches": 1}, batch=batch_line_words(plan, read(small_study), {})
    )
    assert step_words(now)[4].words == words
    assert step_words(now)[2].words == "1 version"
    assert step_words(replace(now, counts={"versions": 1, "batches": 2}))[4].words == "2 batches"


def test_per_100_g_is_100_g(small_study: Study, read: Read) -> None:
    """The other basis needs no serving."""
    reading = read(small_study, label=replace(small_study.label, basis=Basis.PER_100_G, serving=""))
    assert (reading.basis_g, reading.basis_relative_sd) == (100.0, 0.0)


@pytest.mark.parametrize(
    ("sides", "words"),
    [
        (("60", "25", "20"), None),  # 43.4 g in 30 cm3: 1.45
        (("2 1/2 in", "1 in", "3/4 in"), None),
        (("6", "2.5", "1.6"), "denser than sugar and dates"),  # centimetres without their unit
        (("200", "100", "40"), "lighter than puffed rice"),
        (("60", "25", ""), None),
    ],
)
def test_a_size_that_cannot_hold_the_piece_is_said(
    small_study: Study, read: Read, sides: tuple[str, str, str], words: str | None
) -> None:
    """The piece's weight over its box."""
    size = PieceSize(**dict(zip(("length", "width", "height"), sides, strict=True)))
    found = [flag.sentence for flag in flags_of(read(small_study, size=size)) if flag.keys == ("size",)]
    assert len(found) == (0 if words is None else 1)
    assert all(words in sentence for sentence in found if words)


def test_figures_are_read_as_the_label_s_region_writes_them(small_study: Study, read: Read) -> None:
    """1,200 mg of sodium on a US label; 8,4 g on an EU one."""
    us = read(small_study, label=replace(small_study.label, rows={RowId.SODIUM: "1,200"}))
    assert next(row for row in us.rows if row.row is RowId.SODIUM).figure == DeclaredFigure(1200.0, 0)
    eu = read(small_study, region=Region.EU, weighings={"coat": ("8,4",)})
    assert eu.weighings[1].grams == (8.4,)
    assert read(small_study, weighings={"coat": ("8,4",)}).weighings[1].readings[0].problem


@pytest.mark.parametrize(
    ("statement", "holds", "holds_not"),
    [
        ("Sugar, hazelnut oil, cocoa mass, cocoa butter", {"hazelnut"}, {"milk"}),
        ("Sugar, almond protein, lupin flour, cocoa butter", {"almond", "lupin"}, {"egg"}),
        (
            "Zutaten: Zucker, Kakaobutter, Fischgelatine, Eierlikör, Sahnelikör, Sesamöl",
            {"fish", "egg", "milk", "sesame"},
            {"soy"},
        ),
        (
            "Ingrédients : sucre, beurre de cacao, gélatine de poisson, crème de whisky, farine de lupin",
            {"fish", "milk", "lupin"},
            set(),
        ),
        ("Ingrediënten: suiker, cacaoboter, visgelatine, advocaat", {"fish", "egg"}, {"milk"}),
        (
            "Ingredients: sugar, coconut milk powder, oat milk, butter beans, glucose syrup (wheat)",
            {"coconut", "gluten"},
            {"milk", "wheat"},
        ),
        ("Ingredients: sugar, almond flavouring, dairy free spread, cocoa butter", set(), {"almond", "milk"}),
        ("Ingredients: sugar, emulsifier (lecithins (soya)), spelt flakes", {"soy", "wheat", "gluten"}, {"milk"}),
        ("Ingredients: sugar, cocoa butter. Contains eggs, walnuts and oats.", {"egg", "walnut", "gluten"}, {"milk"}),
        ("Peanut and caramel bar with chocolate. Sugar, glucose syrup, rapeseed oil, salt.", {"peanut"}, {"milk"}),
        ("Riegel mit Haselnüssen und Karamell. Zutaten: Zucker, Glukosesirup, Rapsöl, Salz.", {"hazelnut"}, set()),
        ("Peanut free bar with caramel and fruit. Sugar, glucose syrup, rapeseed oil, salt.", set(), {"peanut"}),
    ],
)
def test_a_name_says_its_allergens(read: Read, statement: str, holds: set[str], holds_not: set[str]) -> None:
    """Whatever of the pantry stands in for it, and where none does; a taste of almond, and milk of coconuts, say none. What a
    pack says it is says them, too."""
    found = set(read(Study(name="wrapper", region=Region.EU, statement=statement)).declared_allergens)
    assert holds <= found
    assert not holds_not & found
