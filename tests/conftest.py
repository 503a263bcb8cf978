"""What many tests share: the pantry, small studies, the demo match with its estimate."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest

from fern_match.core.estimate import Estimate, estimate
from fern_match.core.food import Pantry, standard_pantry
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import LabelText, Layer, Place, Study
from fern_match.demo import night_crossing


@pytest.fixture(scope="session")
def pantry() -> Pantry:
    """The standard pantry."""
    return standard_pantry()


@pytest.fixture(scope="session")
def demo_study(pantry: Pantry) -> Study:
    """Night Crossing as its owner typed it."""
    return night_crossing.study(pantry)


@pytest.fixture(scope="session")
def demo_estimate(demo_study: Study, pantry: Pantry) -> Estimate:
    """Its estimate."""
    found = estimate(StudyReading(demo_study, pantry))
    assert isinstance(found, Estimate)
    return found


@pytest.fixture
def small_study() -> Study:
    """A coated caramel of our own with a US label: dispersed statement, one weighing."""
    return Study(
        name="Harbour Light",
        maker="Ferrywright",
        region=Region.US,
        label=LabelText(
            net_weight="1.5 oz",
            pieces_per_pack="1",
            serving="43",
            basis=Basis.SERVING,
            rows={
                RowId.FAT: "10",
                RowId.SATURATES: "6",
                RowId.CARBOHYDRATE: "28",
                RowId.SUGARS: "23",
                RowId.PROTEIN: "2",
                RowId.SODIUM: "80",
            },
        ),
        statement="Sugar, corn syrup, cocoa butter, cream, whole milk powder, chocolate liquor, butter, salt, soy lecithin.",
        layers=(
            Layer(id="coat", name="Milk coat", family="milk-coat", place=Place.COAT),
            Layer(id="caramel", name="Caramel", family="soft-caramel", place=Place.CORE),
        ),
        weighings={"coat": ("16.2",)},
    )


@pytest.fixture
def read(pantry: Pantry) -> Callable[..., StudyReading]:
    """Reads a study, with changes to it by name."""

    def reading(study: Study, **changes: Any) -> StudyReading:
        return StudyReading(replace(study, **changes), pantry)

    return reading
