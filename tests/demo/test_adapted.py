"""The demo bars under a rule each: whole proposals, one of them near the bar in sweetness and fat."""

from collections.abc import Callable, Mapping

import pytest

from fern_match.core.adapt import adapted, rules_of
from fern_match.core.estimate import Estimate, estimate
from fern_match.core.food import Pantry
from fern_match.core.formulate import Formula, Property, kitchen_version, overview
from fern_match.core.formulate.properties import amount_of
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study
from fern_match.demo import lime_quay, night_crossing, orchard_signal

_STUDIES: Mapping[str, Callable[[Pantry], Study]] = {
    "Night Crossing": night_crossing.study,
    "Lime Quay": lime_quay.study,
    "Orchard Signal": orchard_signal.study_with_build,
}


@pytest.mark.parametrize(
    ("name", "asked"),
    [
        ("Night Crossing", ["vegan"]),
        ("Night Crossing", ["vegan", "sugar-free"]),
        ("Lime Quay", ["sugar-free"]),
        ("Orchard Signal", ["keto"]),
    ],
)
def test_a_demo_bar_has_proposals_and_one_is_near(name: str, asked: list[str], pantry: Pantry) -> None:
    """Two or more, each of another system; one within 5 % of the faithful version's sweetness and 2 g of its fat in 100 g."""
    reading = StudyReading(_STUDIES[name](pantry), pantry)
    found = estimate(reading)
    assert isinstance(found, Estimate)
    seen = overview(kitchen_version("faithful", found, reading), reading, pantry, reading.families)
    made = adapted(
        seen.formula,
        seen.targets,
        rules_of(asked, reading.study.region, pantry),
        reading=reading,
        pantry=pantry,
        families=reading.families,
        serving_g=reading.serving.value or seen.formula.piece_g,
        explain=False,
    )
    assert len(made.proposals) >= 2
    assert len({one.name for one in made.proposals}) == len(made.proposals)

    def per_100(formula: Formula, what: Property) -> float:
        return 100 * amount_of(formula.layers, what, pantry) / formula.piece_g

    assert any(
        abs(per_100(one.formula, Property.SWEETNESS) / per_100(seen.formula, Property.SWEETNESS) - 1) <= 0.05
        and abs(per_100(one.formula, Property.FAT) - per_100(seen.formula, Property.FAT)) <= 2
        for one in made.proposals
    )
