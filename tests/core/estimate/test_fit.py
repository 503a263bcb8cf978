"""Whether it fits, why not, what to weigh next, and layers told together."""

from collections.abc import Callable
from dataclasses import replace

import pytest

from fern_match.core.estimate import Estimate, estimate
from fern_match.core.estimate.causes import Cause, CauseKind, likely_causes
from fern_match.core.estimate.inputs import input_key
from fern_match.core.estimate.result import Fit
from fern_match.core.food import Pantry
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import LabelText, Layer, Meaning, Place, Study, Whereabouts, weighed

Read = Callable[..., StudyReading]
QUARRY = Study(
    name="Quarry Road",
    region=Region.US,
    label=LabelText(
        net_weight="48",
        serving="48",
        basis=Basis.SERVING,
        rows={
            RowId.ENERGY_KCAL: "240",
            RowId.FAT: "12",
            RowId.SATURATES: "5",
            RowId.SODIUM: "70",
            RowId.CARBOHYDRATE: "30",
            RowId.FIBRE: "1",
            RowId.SUGARS: "22",
            RowId.ADDED_SUGARS: "20",
            RowId.PROTEIN: "3",
        },
    ),
    statement=(
        "MILK CHOCOLATE (SUGAR, COCOA BUTTER, CHOCOLATE, SKIM MILK, LACTOSE, MILKFAT, SOY LECITHIN, ARTIFICIAL FLAVOR), "
        "CORN SYRUP, PEANUTS, SUGAR, SWEETENED CONDENSED MILK (MILK, SUGAR), PALM OIL, CONTAINS 2% OR LESS OF: "
        "SKIM MILK, SALT, EGG WHITES, ARTIFICIAL FLAVOR."
    ),
    layers=(
        Layer(id="coat", name="Milk coat", family="milk-coat", place=Place.COAT),
        Layer(id="nougat", name="Nougat", family="nougat-egg-white", place=Place.STACK),
        Layer(id="caramel", name="Caramel", family="soft-caramel", place=Place.STACK),
        Layer(id="nuts", name="Nuts", family="whole-nuts", place=Place.INCLUSION, host="caramel"),
    ),
    readings=weighed({"piece": ("48.3", "47.6", "48.5"), "nougat": ("12.2", "11.8"), "nuts": ("8.4",)}),
)
TRUE_G = {"coat": 16.3, "nougat": 12.1, "caramel": 11.4, "nuts": 8.2}


def found_of(study: Study, pantry: Pantry) -> Estimate:
    """The estimate of a study."""
    found = estimate(StudyReading(study, pantry))
    assert isinstance(found, Estimate)
    return found


def test_a_wrapper_pasted_as_it_stands_is_estimated_without_a_correction(pantry: Pantry) -> None:
    """Chocolate in milk chocolate, a bracket after condensed milk: every range holds, and nothing fights."""
    found = found_of(QUARRY, pantry)
    assert found.fit is Fit.FITS
    assert "nine in ten" in found.fit_words
    for layer in found.layers:
        assert layer.grams.low <= TRUE_G[layer.layer_id] <= layer.grams.high, layer
    assert [one.name for one in found.left_out] == ["artificial flavor"]
    assert found.left_out[0].is_trace
    assert not found.assumed


def test_a_misread_bracket_is_named_as_the_cause(pantry: Pantry) -> None:
    """Read as a layer's list it fights; the first cause turns it back, and its study is the one that fits."""
    wrong = replace(QUARRY, meanings={"sweetened condensed milk": Meaning.LAYER})
    found = found_of(wrong, pantry)
    assert found.fit is Fit.FIGHTS
    assert "not to be relied on" in found.fit_words
    heard: list[float] = []
    first = likely_causes(StudyReading(wrong, pantry), found, progress=heard.append)[0]
    assert (first.kind, first.subject) == (CauseKind.MEANING, "sweetened condensed milk")
    assert first.title == "Read the bracket after sweetened condensed milk as one ingredient"
    assert first.changed.meanings == {"sweetened condensed milk": Meaning.INGREDIENT}
    assert first.fit is Fit.FITS
    assert [one.name for one in first.layers] == ["Milk coat", "Nougat", "Caramel", "Nuts"]
    assert heard == sorted(heard)
    assert heard[-1] == 1.0


def test_a_reading_that_settles_all_decides(demo_study: Study, pantry: Pantry) -> None:
    """A date caramel as a marshmallow is read anew; not where two are near."""

    def first_of(study: Study) -> Cause:
        return likely_causes(StudyReading(study, pantry), found_of(study, pantry))[0]

    def told(layer_id: str, family: str) -> Study:
        layers = tuple(replace(one, family=family) if one.id == layer_id else one for one in demo_study.layers)
        return replace(demo_study, layers=layers)

    clear = first_of(told("caramel", "marshmallow"))
    assert clear.decides
    assert (clear.kind, clear.subject, clear.fit) == (CauseKind.FAMILY, "caramel", Fit.FITS)
    assert clear.key == input_key(StudyReading(clear.changed, pantry))
    assert {one.id: one.family for one in clear.changed.layers}["caramel"] == "date-caramel"
    near = first_of(told("cream", "fruit-jelly"))  # a sesame cream, or a peanut filling
    assert (near.fit, near.decides) == (Fit.FITS, False)


def test_two_schools_of_one_layer_are_no_rivals(small_study: Study, pantry: Pantry) -> None:
    """A caramel as a peanut filling: cream or milk powder makes little odds, and it is read as a caramel at once."""
    layers = tuple(replace(one, family="peanut-filling") if one.id == "caramel" else one for one in small_study.layers)
    study = replace(small_study, layers=layers)
    first, second, *_ = likely_causes(StudyReading(study, pantry), found_of(study, pantry))
    assert {first.subject, second.subject} == {"caramel"}
    assert first.gain - second.gain < 3
    assert first.decides


def test_a_wrong_weighing_and_a_wrong_answer_are_found(demo_study: Study, pantry: Pantry) -> None:
    """The coat weighed at half its mass; sugar taken for salt. Neither is read anew: one is a figure, the other an answer."""
    halved = replace(demo_study, readings=(*demo_study.readings[:0], *weighed({"coat": ("6.5", "6.6", "6.4")})))
    wrong = {"figure": halved, "match": replace(demo_study, corrections={"dark chocolate > sugar": "fine-salt"})}
    for kind, study in wrong.items():
        found = found_of(study, pantry)
        assert found.fit is not Fit.FITS, kind
        first = likely_causes(StudyReading(study, pantry), found)[0]
        assert (first.kind, first.decides) == (kind, False)


def test_a_name_that_no_layer_takes_is_told_beside_the_estimate(pantry: Pantry) -> None:
    """It is known, but counts as absent; the estimate says so."""
    layers = {one.id: Whereabouts.NO for one in QUARRY.layers}
    found = found_of(replace(QUARRY, placements={"palm oil": layers}), pantry)
    assert ("palm oil", "no layer takes it") in {(one.name, one.why) for one in found.left_out}


def test_what_to_weigh_next_is_what_is_least_known(pantry: Pantry) -> None:
    """Coat and caramel share what is left; neither weighed layer is asked for again."""
    found = found_of(QUARRY, pantry)
    assert {one.subject for one in found.to_weigh} == {"coat", "caramel"}
    best = found.to_weigh[0]
    assert best.narrowing / best.minutes >= found.to_weigh[1].narrowing / found.to_weigh[1].minutes
    assert best.width_after_g < 0.5 * best.width_before_g
    assert best.sentence.startswith("Milk coat, three pieces")


def test_layers_that_occur_twice_share_one_recipe(pantry: Pantry) -> None:
    """Two wafers and two creams: the same shares within each, and their masses told together."""
    layers = tuple(
        Layer(id=f"{kind}{number}", name=f"{kind} {number}", family=family, place=Place.STACK)
        for number in (1, 2)
        for kind, family in (("wafer", "wafer-sheet-bought"), ("cream", "wafer-cream"))
    )
    study = Study(
        name="Twice",
        region=Region.EU,
        label=LabelText(net_weight="40 g"),
        statement="Wafer (wheat flour, sunflower oil, salt), sugar, palm kernel fat, skimmed milk powder, hazelnut paste",
        layers=layers,
    )
    found = found_of(study, pantry)
    assert {one.layer_ids for one in found.together} == {("wafer1", "wafer2"), ("cream1", "cream2")}
    creams = [layer for layer in found.layers if "cream" in layer.layer_id]
    shares = [{one.ingredient_id: one.share_of_layer for one in layer.ingredients} for layer in creams]
    assert shares[0] == pytest.approx(shares[1], abs=0.02)
    together = next(one for one in found.together if one.layer_ids[0] == "cream1")
    alone = creams[0].grams
    assert together.grams.high - together.grams.low < 2 * (alone.high - alone.low)


def test_minima_on_the_label_are_evidence(demo_study: Study, read: Read) -> None:
    """Cocoa solids 60 % minimum: the coat holds at least so much, and can be doubted like the rest."""
    text = demo_study.statement.rstrip(". ") + ". Dark chocolate contains cocoa solids 60% minimum."
    found = estimate(read(demo_study, statement=text))
    assert isinstance(found, Estimate)
    declared = [piece for piece in found.evidence if piece.id == "minimum:coat:cocoa"]
    assert [piece.title for piece in declared] == ["Dark coat: cocoa at least 60 % of the chocolate"]


def test_an_unknown_name_of_weight_is_tried_as_what_it_resembles(pantry: Pantry) -> None:
    """The coat's fat under a name that nobody knows: the page does not fit, and asks whether it is one of the fats."""
    odd = replace(QUARRY, statement=QUARRY.statement.replace("COCOA BUTTER", "COCOAPOD BUTTERINE"))
    reading = StudyReading(odd, pantry)
    key = "milk chocolate > cocoapod butterine"
    assert key not in reading.ingredient_of
    found = found_of(odd, pantry)
    assert found.fit is not Fit.FITS
    first = likely_causes(reading, found)[0]
    assert (first.kind, first.subject) == (CauseKind.MATCH, key)
    assert pantry[first.changed.corrections[key]].category in {"cocoa", "fat", "dairy"}


def test_evidence_left_out_keeps_the_rest_from_being_said_to_fit(pantry: Pantry) -> None:
    """A figure switched off is told above the estimate, in words."""
    found = found_of(replace(QUARRY, doubted=("row:fat",)), pantry)
    assert found.fit is Fit.PULLS
    assert found.fit_words.startswith("1 figure is left out")


def test_a_name_of_weight_that_no_layer_is_made_with_is_told_first(pantry: Pantry) -> None:
    """Peanuts in the build of a biscuit with cream: the estimate holds them somewhere and asks about the families."""
    layers = tuple(one for one in QUARRY.layers if one.id != "nuts")
    found = found_of(replace(QUARRY, layers=layers, readings=weighed({"piece": ("48.3",)})), pantry)
    assert found.fit is not Fit.FITS
    assert "usually made with peanuts" in found.fit_words or found.fit is Fit.FIGHTS
    assert any("peanuts" in one for one in found.assumed)


def test_two_lists_that_changed_places_are_put_right(pantry: Pantry) -> None:
    """The lists of caramel and base, each given to the other layer by the user: the first cause takes that back."""
    study = Study(
        name="Two lists",
        region=Region.UK,
        label=LabelText(
            net_weight="40 g", rows={RowId.FAT: "18", RowId.CARBOHYDRATE: "66", RowId.SUGARS: "43", RowId.PROTEIN: "5"}
        ),
        statement=(
            "Upper layer (glucose syrup, sugar, condensed milk, butter, salt), "
            "lower layer (wheat flour, butter, sugar, salt, raising agent: sodium bicarbonate)."
        ),
        layers=(
            Layer(id="base", name="Base", family="short-base", place=Place.STACK),
            Layer(id="top", name="Top", family="soft-caramel", place=Place.STACK),
        ),
        readings=weighed({"piece": ("40",), "base": ("16",), "top": ("24",)}),
        placements={
            "upper layer": {"base": Whereabouts.YES, "top": Whereabouts.NO},
            "lower layer": {"top": Whereabouts.YES, "base": Whereabouts.NO},
        },
    )
    causes = likely_causes(StudyReading(study, pantry), found_of(study, pantry))
    assert causes[0].title.startswith("Let the lists after upper layer and lower layer change places")


def test_amounts_that_nothing_parts_are_told_together(pantry: Pantry) -> None:
    """One sugar in coat, nougat and caramel: each range is wide, their sum far surer, and it is named by its layers."""
    found = found_of(replace(QUARRY, statement=SCATTERED, readings=weighed({"piece": ("48.3",), "nuts": ("8.4",)})), pantry)
    assert found.sums
    amounts = {(layer.layer_id, one.ingredient_id): one.grams for layer in found.layers for one in layer.ingredients}
    for told in found.sums:
        parts = [amounts[part.layer_id, part.ingredient_id] for part in told.parts]
        assert len(parts) >= 2
        assert told.grams.best == pytest.approx(sum(part.best for part in parts), rel=1e-6)
        assert told.grams.high - told.grams.low < max(part.high - part.low for part in parts)
    assert any(" and " in told.name for told in found.sums)


SCATTERED = (
    "Sugar, corn syrup, peanuts, cocoa butter, whole milk powder, palm oil, chocolate, sweetened condensed milk, "
    "contains 2% or less of: salt, egg whites, soy lecithin."
)
