"""The demo world: labels follow from hidden formulas, and the estimate finds them again."""

from collections.abc import Callable
from pathlib import Path

import pytest

from fern_match.core.batch import batch_of
from fern_match.core.batch.reading import MOST_OFF_RATIO
from fern_match.core.estimate import Estimate, estimate
from fern_match.core.families import standard_families
from fern_match.core.food import Pantry
from fern_match.core.formulate import kitchen_version, overview
from fern_match.core.kitchen import Kitchen, Tool, read_kitchen
from fern_match.core.measures import Measures
from fern_match.core.study.flags import flags_of
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study
from fern_match.demo import lime_quay, night_crossing, orchard_signal
from fern_match.demo.hidden import Formula, piece_g
from fern_match.demo.world import fill
from fern_match.store import Database
from fern_match.store.trees import listed


@pytest.mark.parametrize("name", ["Night Crossing", "Lime Quay", "Orchard Signal"])
def test_the_truth_lies_in_the_ranges(name: str, pantry: Pantry) -> None:
    """Every layer of every demo bar, and nothing on its label fights the rest."""
    worlds: dict[str, tuple[Study, Formula]] = {
        "Night Crossing": (night_crossing.study(pantry), night_crossing.hidden_formula()),
        "Lime Quay": (lime_quay.study(pantry), lime_quay.hidden_formula()),
        "Orchard Signal": (orchard_signal.study_with_build(pantry), orchard_signal.hidden_formula()),
    }
    study, formula = worlds[name]
    reading = StudyReading(study, pantry)
    assert flags_of(reading) == ()
    found = estimate(reading)
    assert isinstance(found, Estimate)
    for layer in found.layers:
        assert layer.grams.low <= formula[layer.layer_id].finished_g <= layer.grams.high, layer.name
    assert all(piece.tension is None or piece.tension < 2 for piece in found.evidence)


def test_the_labels_follow_from_the_formulas(pantry: Pantry) -> None:
    """Worked for the coat of Orchard Signal: its share of the piece is the declared per cent."""
    formula = orchard_signal.hidden_formula()
    share = 100 * formula["coat"].finished_g / piece_g(formula)
    assert f"milk chocolate {share:.0f}%" in orchard_signal.study(pantry).statement
    assert piece_g(formula) == pytest.approx(48 * 1.015)
    assert piece_g(lime_quay.hidden_formula()) == pytest.approx(18 * 1.02)


def test_the_world_is_put_into_an_empty_database_only(tmp_path: Path, pantry: Pantry) -> None:
    """Three matches in different states; a second time changes nothing."""
    database = Database(tmp_path / "demo.db")
    for _ in range(2):
        fill(database, pantry, standard_families(), lambda match: {"name": match.study.name})
    with database.reading() as session:
        found = {one.line["name"]: (one.counts.get("versions", 0), one.picture is not None) for one in listed(session)}
    assert found == {"Night Crossing": (3, True), "Lime Quay": (1, True), "Orchard Signal": (0, False)}
    database.close()


@pytest.mark.parametrize("measures", [Measures.METRIC, Measures.US])
@pytest.mark.parametrize("own", [night_crossing.study, lime_quay.study, orchard_signal.study_with_build])
def test_every_amount_in_spoons_and_cups(own: Callable[[Pantry], Study], measures: Measures, pantry: Pantry) -> None:
    """Without a scale: layers within 8 %, the ratio of their two main lines within a tenth, or a line says it needs a scale."""
    reading = StudyReading(own(pantry), pantry)
    found = estimate(reading)
    assert isinstance(found, Estimate)
    seen = overview(kitchen_version("faithful", found, reading), reading)
    kitchen = read_kitchen(Kitchen(lacks=(Tool.SCALE,), measures=measures))
    batch, _ = batch_of(seen, 24, {}, reading, kitchen)
    for layer in batch.layers:
        # the finished layer is held within 8 %: of one that dries, what stays of it, with a point for the water in it
        dries = layer.water_lost_g > 0
        stays = [one for one in layer.ingredients if not dries or one.ingredient_id != "water"]
        exact, measured = (sum(getattr(one, what) for one in stays) for what in ("grams", "weigh_out_g"))
        assert measured == pytest.approx(exact, rel=0.09 if dries else 0.08), layer.name
        first, *rest = sorted(layer.ingredients, key=lambda one: -one.grams)
        for second in rest[:1]:
            was, now = first.grams / second.grams, first.weigh_out_g / second.weigh_out_g
            told = [one.name for one in layer.ingredients if "needs a scale" in one.note]
            assert bool(told) == (max(was / now, now / was) > 1 + MOST_OFF_RATIO), layer.name
