"""The demo bars under a rule each: whole proposals, one of them near the bar in sweetness and fat."""

from collections.abc import Callable, Mapping

import pytest

from fern_match.core.adapt import Adapted, adapted, rules_of
from fern_match.core.estimate import Estimate, estimate
from fern_match.core.food import Pantry
from fern_match.core.formulate import Formula, Property, kitchen_version, overview
from fern_match.core.formulate.record.properties import amount_of
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study
from fern_match.demo import lime_quay, night_crossing, orchard_signal

_STUDIES: Mapping[str, Callable[[Pantry], Study]] = {
    "Night Crossing": night_crossing.study,
    "Lime Quay": lime_quay.study,
    "Orchard Signal": orchard_signal.study_with_build,
}


@pytest.mark.parametrize(
    ("name", "asked", "sweetness_off"),
    [
        ("Night Crossing", ["vegan"], 0.05),
        ("Night Crossing", ["vegan", "sugar-free"], 0.05),
        ("Lime Quay", ["sugar-free"], 0.05),
        ("Orchard Signal", ["keto"], 0.25),  # fibre is hardly sweet, and no coat is made sweet for the others
    ],
)
def test_a_demo_bar_has_proposals_and_one_is_near(name: str, asked: list[str], sweetness_off: float, pantry: Pantry) -> None:
    """Two or more, each of another system; one near the faithful version's sweetness and within 2 g of its fat in 100 g.

    Near is within 5 %; one that misses that says what holds it back.
    """
    reading = StudyReading(_STUDIES[name](pantry), pantry)
    found = estimate(reading)
    assert isinstance(found, Estimate)
    seen = overview(kitchen_version("faithful", found, reading), reading)
    made = adapted(
        seen.formula,
        seen.targets,
        rules_of(asked, reading.study.region, pantry),
        reading,
        serving_g=reading.serving.value or seen.formula.piece_g,
        explain=sweetness_off > 0.05,
    )
    assert len(made.proposals) >= 2
    assert len({one.name for one in made.proposals}) == len(made.proposals)

    def per_100(formula: Formula, what: Property) -> float:
        return 100 * amount_of(formula.layers, what, pantry) / formula.piece_g

    assert any(
        abs(per_100(one.formula, Property.SWEETNESS) / per_100(seen.formula, Property.SWEETNESS) - 1) <= sweetness_off
        and abs(per_100(one.formula, Property.FAT) - per_100(seen.formula, Property.FAT)) <= 2
        for one in made.proposals
    )
    assert sweetness_off <= 0.05 or any("Sweetness, whole piece" in line for one in made.proposals for line in one.held_back)


def test_the_nearest_that_is_named_can_be_had(pantry: Pantry) -> None:
    """Asked for what is out of reach, and then for the limit that was named: there are proposals."""
    reading = StudyReading(night_crossing.study(pantry), pantry)
    found = estimate(reading)
    assert isinstance(found, Estimate)
    seen = overview(kitchen_version("faithful", found, reading), reading)

    def under(asked: str) -> Adapted:
        rules = rules_of([asked], reading.study.region, pantry)
        return adapted(seen.formula, seen.targets, rules, reading, serving_g=seen.formula.piece_g, explain=False)

    unmet = under("keto:0.2").unmet
    assert unmet is not None
    assert under(unmet.nearest).proposals
