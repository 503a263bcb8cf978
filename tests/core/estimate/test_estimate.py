"""The estimate as a whole: the demo's truth, its steadiness, and whatever people type."""

import math
from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from fern_match.core.estimate import Estimate, NotYet, Range, estimate
from fern_match.core.estimate.estimator import Stopped
from fern_match.core.estimate.piece_slice import slice_of
from fern_match.core.estimate.sampler import Effort
from fern_match.core.families import standard_families
from fern_match.core.food import Pantry
from fern_match.core.label.rows import RowId
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import PIECE, LabelText, Layer, Place, Study, Whereabouts
from fern_match.demo.night_crossing import hidden_formula

Read = Callable[..., StudyReading]
QUICK = Effort(particles=200, transitions=2, steps=6)


def quick(reading: StudyReading) -> Estimate:
    """A rough estimate."""
    found = estimate(reading, effort=QUICK)
    assert isinstance(found, Estimate), found
    return found


def by_subject(study: Study) -> dict[str, tuple[str, ...]]:
    """Readings as typed, by what was weighed."""
    subjects = dict.fromkeys(reading.subject for reading in study.readings)
    return {subject: tuple(one.typed for one in study.readings if one.subject == subject) for subject in subjects}


def ranges(found: Estimate) -> Iterator[Range]:
    """Every range of an estimate."""
    yield found.piece_g
    for layer in found.layers:
        yield from (layer.grams, layer.share, layer.water_lost_g)
        yield from (one.grams for one in layer.ingredients)
    yield from (row.computed for row in found.label)


def test_demo_layers_hold_the_hidden_truth(demo_estimate: Estimate) -> None:
    """True masses inside the 90 % ranges, best values within 2 g per 100 g."""
    truth = hidden_formula()
    piece = sum(layer.finished_g for layer in truth.values())
    for layer in demo_estimate.layers:
        true_g = truth[layer.layer_id].finished_g
        assert layer.grams.low <= true_g <= layer.grams.high, layer
        assert 100 * layer.share.best == pytest.approx(100 * true_g / piece, abs=2.0)


def test_demo_ingredients_mostly_hold_the_truth(demo_estimate: Estimate) -> None:
    """At least 80 % of the ranges hold what is really in it."""
    truth = hidden_formula()
    hits = [
        one.grams.low <= truth[layer.layer_id].added_g[one.ingredient_id] <= one.grams.high
        for layer in demo_estimate.layers
        for one in layer.ingredients
    ]
    assert np.mean(hits) >= 0.8


def test_demo_has_nothing_to_settle(demo_estimate: Estimate) -> None:
    """True evidence does not fight."""
    assert not [piece for piece in demo_estimate.evidence if piece.tension is not None and piece.tension >= 2]


def test_same_study_same_estimate(demo_study: Study, read: Read) -> None:
    """One seed for everything."""
    assert quick(read(demo_study)) == quick(read(demo_study))


def test_a_name_changes_nothing(demo_study: Study, read: Read) -> None:
    """What the match is called is not evidence."""
    assert quick(read(demo_study, name="Other")) == quick(read(demo_study))


@pytest.mark.slow
def test_range_ends_hold_still_over_seeds(demo_study: Study, read: Read) -> None:
    """Over 20 seeds ends of layers' ranges move by 5 % (sd) of their width at most, of ingredients' by 8 %."""
    reading = read(demo_study)
    runs = []
    for seed in range(20):
        found = estimate(reading, seed=seed)
        assert isinstance(found, Estimate)
        layers = [(layer.grams.low, layer.grams.high) for layer in found.layers]
        parts = [
            (one.grams.low, one.grams.high)
            for layer in found.layers
            for one in sorted(layer.ingredients, key=lambda one: one.ingredient_id)
        ]
        runs.append(layers + parts)
    ends = np.array(runs)
    width = (ends[:, :, 1] - ends[:, :, 0]).mean(axis=0)
    moved = ends.std(axis=0).max(axis=1)
    shown = width > 0.005  # finer than any screen shows
    by_layer = len(found.layers)
    assert (moved / width)[:by_layer].max() <= 0.05
    assert (moved[shown] / width[shown]).max() <= 0.08


def test_best_values_add_up(demo_estimate: Estimate) -> None:
    """Layers make the piece, ingredients less water make the layer, shares make one."""
    assert sum(layer.grams.best for layer in demo_estimate.layers) == pytest.approx(demo_estimate.piece_g.best)
    assert sum(layer.share.best for layer in demo_estimate.layers) == pytest.approx(1.0)
    for layer in demo_estimate.layers:
        added = sum(one.grams.best for one in layer.ingredients)
        assert added - layer.water_lost_g.best == pytest.approx(layer.grams.best, rel=1e-6)
        assert sum(one.share_of_layer for one in layer.ingredients) == pytest.approx(1.0)


def test_weighing_another_layer_narrows_the_answer(demo_study: Study, read: Read) -> None:
    """The wafer weighed: its range shrinks, and so does the caramel's."""
    before = {layer.layer_id: layer.grams for layer in quick(read(demo_study)).layers}
    wafer_g = f"{hidden_formula()['wafer'].finished_g:.2f}"
    weighed = {**by_subject(demo_study), "wafer": (wafer_g, wafer_g, wafer_g)}
    after = {layer.layer_id: layer.grams for layer in quick(read(demo_study, weighings=weighed)).layers}
    for layer in ("wafer", "caramel"):
        assert after[layer].high - after[layer].low < 0.8 * (before[layer].high - before[layer].low)


def test_label_only_is_wide_and_honest(demo_study: Study, read: Read) -> None:
    """Without weighings the ranges are wider and still hold the truth."""
    found = quick(read(demo_study, weighings={}))
    truth = hidden_formula()
    for layer in found.layers:
        assert layer.grams.low <= truth[layer.layer_id].finished_g <= layer.grams.high
    assert max(layer.grams.high - layer.grams.low for layer in found.layers) > 3.0


def test_a_wrong_weighing_is_called_out(demo_study: Study, read: Read) -> None:
    """A coat weighed at half its mass fights the declared 31 %, and a sentence says so."""
    found = quick(read(demo_study, weighings={**by_subject(demo_study), "coat": ("6.5", "6.6", "6.4")}))
    fighting = [piece for piece in found.evidence if piece.tension is not None and piece.tension >= 2]
    assert "weighing:coat" in {piece.id for piece in fighting}
    assert all(piece.sentence for piece in fighting)


def test_doubted_evidence_is_listed_and_not_used(demo_study: Study, read: Read) -> None:
    """Switched off: it stays in the list and moves nothing."""
    wrong = {**by_subject(demo_study), "coat": ("6.5", "6.6", "6.4")}
    found = quick(read(demo_study, weighings=wrong, doubted=("weighing:coat",)))
    piece = next(one for one in found.evidence if one.id == "weighing:coat")
    assert (piece.used, piece.tension) == (False, None)
    coat = next(layer for layer in found.layers if layer.layer_id == "coat")
    assert coat.grams.low <= hidden_formula()["coat"].finished_g <= coat.grams.high


def test_the_user_can_say_where_an_ingredient_is_not(small_study: Study, read: Read) -> None:
    """Salt kept out of the coat: it is all in the caramel."""
    found = quick(read(small_study, placements={"salt": {"coat": Whereabouts.NO}}))
    assert "fine-salt" not in {one.ingredient_id for one in found.layers[0].ingredients}
    assert "fine-salt" in {one.ingredient_id for one in found.layers[1].ingredients}


def test_the_slice_is_drawn_from_the_estimate(demo_estimate: Estimate, demo_study: Study, pantry: Pantry) -> None:
    """Every layer has a band inside the outline; its size is said to be assumed."""
    face = slice_of(demo_estimate, demo_study.layers, pantry, standard_families())
    assert {band.id for band in face.bands} == {layer.id for layer in demo_study.layers}
    assert face.size_assumed
    for band in face.bands:
        assert band.x_mm >= 0
        assert band.y_mm + band.height_mm <= face.height_mm + 1e-6
        assert band.thickness_low_mm <= band.thickness_mm <= band.thickness_high_mm


def test_an_inclusion_takes_up_room_in_its_host(demo_estimate: Estimate, demo_study: Study, pantry: Pantry) -> None:
    """The same layers, the wafer once stacked and once lying in the cream: the cream's band then has the room of both."""
    families = standard_families()
    stacked = slice_of(demo_estimate, demo_study.layers, pantry, families)
    inside = tuple(
        replace(layer, place=Place.INCLUSION, host="cream") if layer.id == "wafer" else layer for layer in demo_study.layers
    )
    lying = slice_of(demo_estimate, inside, pantry, families)
    heights = {band.id: band.height_mm for band in stacked.bands}
    cream = next(band for band in lying.bands if band.id == "cream")
    assert "wafer" not in {band.id for band in lying.bands}
    assert cream.height_mm == pytest.approx(heights["cream"] + heights["wafer"], rel=1e-3)


def test_every_kind_of_evidence_can_be_switched_off_and_stays_in_the_list(demo_study: Study, read: Read) -> None:
    """One of each kind: listed as off, without a tension, and back again once it is switched on."""
    all_on = quick(read(demo_study)).evidence
    first = {piece.kind: piece.id for piece in reversed(all_on)}
    assert set(first) == {
        "label row",
        "order",
        "percent",
        "2 % or less",
        "weighing",
        "net weight",
        "chocolate rule",
    }
    found = quick(read(demo_study, doubted=tuple(first.values()))).evidence
    assert {piece.id for piece in found} == {piece.id for piece in all_on}
    assert {piece.id for piece in found if not piece.used} == set(first.values())
    assert all(piece.tension is None and piece.expected.endswith("not used") for piece in found if not piece.used)


def test_all_evidence_switched_off_leaves_the_list_whole(demo_study: Study, read: Read) -> None:
    """Nothing is known then but the build, and everything can be switched on again."""
    everything = [piece.id for piece in quick(read(demo_study)).evidence]
    found = quick(read(demo_study, doubted=tuple(everything)))
    assert sorted(piece.id for piece in found.evidence) == sorted(everything)
    assert not any(piece.used for piece in found.evidence)


def test_an_order_that_fights_names_the_right_ingredients(small_study: Study, read: Read) -> None:
    """Salt before sugar cannot be: the sentence says that sugar is the heavier."""
    statement = "Salt, sugar, corn syrup, cocoa butter, cream, whole milk powder, chocolate liquor, butter, soy lecithin."
    found = quick(read(small_study, statement=statement))
    sentences = [piece.sentence for piece in found.evidence if piece.title == "salt before sugar"]
    assert sentences == ["The order of salt and sugar fights the rest: everything else makes sugar the heavier."]


# --- what people type ---------------------------------------------------------------------------------------------------

NUTS = Layer(id="nuts", name="Nuts", family="whole-nuts", place=Place.INCLUSION, host="caramel")
ODD: dict[str, dict[str, Any]] = {
    "one word": {"statement": "chocolate"},
    "no statement": {"statement": ""},
    "nothing known": {"statement": "moon dust, stardust"},
    "only a weight": {"statement": "", "label": LabelText(net_weight="42")},
    "contradictory rows": {
        "label": LabelText(net_weight="42", rows={RowId.SUGARS: "90", RowId.CARBOHYDRATE: "10", RowId.FAT: "95"})
    },
    "all zero": {"label": LabelText(net_weight="42", rows=dict.fromkeys((RowId.FAT, RowId.SUGARS, RowId.PROTEIN), "0"))},
    "a crumb": {"label": LabelText(net_weight="0.01 g"), "weighings": {"piece": ("0.0100",), "coat": ("0.01",)}},
    "absurd rows": {"label": LabelText(net_weight="42", rows={RowId.FAT: "99999", RowId.SODIUM: "99999"})},
    "one layer": {"layers": (Layer(id="coat", name="Coat", family="dark-coat", place=Place.CORE),)},
    "only inclusions": {"layers": (NUTS,)},
    "a lone wafer": {"layers": (Layer(id="w", name="W", family="wafer-sheet", place=Place.STACK),)},
    "layers out of weight": {"weighings": {"coat": ("400",), "caramel": ("0.1",)}},
    "a tiny piece": {"label": LabelText(net_weight="1"), "weighings": {}},
    "a huge piece": {"label": LabelText(net_weight="9999"), "weighings": {}},
    "everything doubted": {
        "doubted": tuple(
            {"net_weight", "weighing:coat", "row:fat", "row:sugars", "row:protein", "row:sodium", "row:carbohydrate"}
        )
    },
    "an impossible percentage": {"statement": "Sugar 400 %, cream, cocoa mass 90 %"},
    "one name in a hundred copies": {"statement": ", ".join(["sugar"] * 60)},
}


@pytest.mark.parametrize("case", sorted(ODD))
def test_odd_input_gives_an_answer_without_a_crash(case: str, small_study: Study, read: Read, pantry: Pantry) -> None:
    """Finite ranges in order, and a slice, whatever was typed."""
    found = quick(read(small_study, **ODD[case]))
    for one in ranges(found):
        assert all(math.isfinite(value) for value in (one.best, one.low, one.high)), case
        assert one.low <= one.high, case
    assert all(piece.tension is None or math.isfinite(piece.tension) for piece in found.evidence)
    assert slice_of(found, read(small_study, **ODD[case]).study.layers, pantry, standard_families()).width_mm > 0


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"layers": ()}, "at least one layer"),
        ({"label": LabelText(), "weighings": {}}, "how heavy a piece is"),
        ({"label": LabelText(net_weight="0.001"), "weighings": {"piece": ("0.0000001 g",)}}, "how heavy a piece is"),
        ({"statement": ", ".join(["sugar"] * 150)}, "up to 100 ingredient names"),
    ],
)
def test_too_little_or_too_much_is_a_sentence(small_study: Study, read: Read, changes: dict[str, Any], words: str) -> None:
    """An expected outcome, not an error."""
    found = estimate(read(small_study, **changes))
    assert isinstance(found, NotYet)
    assert words in " ".join(found.sentences)


def test_layers_alone_give_the_piece(small_study: Study, read: Read) -> None:
    """No net weight, but every layer weighed."""
    found = quick(read(small_study, label=LabelText(), weighings={"coat": ("16",), "caramel": ("26",)}))
    assert found.piece_g.best == pytest.approx(42, abs=2)


def test_a_weighed_piece_beats_the_net_weight(small_study: Study, read: Read) -> None:
    """Five readings of 45 g against a declared 42.5: nearer the scale."""
    found = quick(read(small_study, weighings={PIECE: ("45", "45.2", "44.8", "45.1", "44.9")}))
    assert found.piece_g.best > 44


def test_it_stops_when_asked(small_study: Study, read: Read) -> None:
    """The sampler asks all the time."""
    with pytest.raises(Stopped):
        estimate(read(small_study), should_stop=lambda: True)


def test_it_says_how_far_it_is(small_study: Study, read: Read) -> None:
    """Progress rises to one."""
    heard: list[float] = []
    estimate(read(small_study), effort=QUICK, progress=heard.append)
    assert heard == sorted(heard)
    assert heard[-1] == 1.0
