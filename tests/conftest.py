"""What many tests share: the pantry, small studies, the demo match with its estimate."""

import os
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest
from hypothesis import settings
from tests import remembered

from fern_match.core.estimate import Estimate, estimate
from fern_match.core.food import Pantry, standard_pantry
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import LabelText, Layer, Place, Study, weighed
from fern_match.demo import night_crossing

# The same draws on every machine; `make campaign` looks further, at random.
settings.register_profile("same", max_examples=50, derandomize=True, database=None, deadline=None)
settings.register_profile("campaign", max_examples=1500, deadline=None)
settings.load_profile("campaign" if os.environ.get("FERN_MATCH_CAMPAIGN") else "same")


def pytest_configure(config: pytest.Config) -> None:
    """One folder for all workers, made before they begin."""
    if not hasattr(config, "workerinput"):
        remembered.begin_run()


def pytest_unconfigure(config: pytest.Config) -> None:
    """It goes with the last of them."""
    if not hasattr(config, "workerinput"):
        remembered.end_run()


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
        readings=weighed({"coat": ("16.2",)}),
    )


@pytest.fixture
def read(pantry: Pantry) -> Callable[..., StudyReading]:
    """Reads a study, with changes to it by name; weighings by subject."""

    def reading(study: Study, **changes: Any) -> StudyReading:
        if "weighings" in changes:
            changes["readings"] = weighed(changes.pop("weighings"))
        return StudyReading(replace(study, **changes), pantry)

    return reading
