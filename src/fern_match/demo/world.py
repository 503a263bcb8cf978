"""The demo matches, put into an empty database through core and store."""

from collections.abc import Callable
from dataclasses import asdict
from typing import Any

from fern_match.core.batch import BatchPlan, Lot, PlanBy
from fern_match.core.batch.lots import JOIN
from fern_match.core.estimate import Estimate, estimate
from fern_match.core.estimate.inputs import input_key
from fern_match.core.estimate.picture import small_slice
from fern_match.core.estimate.piece_slice import slice_of
from fern_match.core.families import Families
from fern_match.core.food import Pantry
from fern_match.core.formulate import FAITHFUL, Version, kitchen_version
from fern_match.core.house import House
from fern_match.core.kitchen import Gear, GearKind, GearShape, Kitchen, Pack, Wrap, WrapKind, read_kitchen
from fern_match.core.match import Match, with_another_cook, with_version
from fern_match.core.study.reading import StudyReading
from fern_match.demo import lime_quay, night_crossing, orchard_signal
from fern_match.demo.night_crossing_trials import with_trials
from fern_match.store import Database
from fern_match.store.trees import HOUSE, NewTree, create, house, keep_picture, listed

_PIECES = "24"
GEAR = (
    Gear(id="frame", name="Square frame", kind=GearKind.PAN, length="20 cm", width="20 cm", depth="30"),
    Gear(id="tray", name="Pan 23 × 33 cm", kind=GearKind.PAN, length="33 cm", width="23 cm", depth="50"),
    Gear(id="bars", name="Bar mould", kind=GearKind.MOULD, length="48", width="30", depth="14", cavities="8"),
    Gear(id="domes", name="Domes, 35 mm", kind=GearKind.MOULD, shape=GearShape.HALF_SPHERE, length="35", cavities="15"),
    Gear(id="scoop", name="Scoop #60", kind=GearKind.SCOOP, shape=GearShape.OTHER, volume="#60"),
    Gear(id="dish", name="Narrow dish", kind=GearKind.BOWL, length="12 cm", width="5 cm", depth="60"),
)
_PACKS = (Pack(id="dark-chocolate-70", size="200 g", price="4.20"), Pack(id="tahini", size="300 g", price="3.90"))
_WRAPS = (
    Wrap(id="foil", name="Silver foil", kind=WrapKind.SHEET, length="10 m", width="300 mm", price="4.50", for_food=True),
    Wrap(id="boxes", name="Boxes of six", kind=WrapKind.BOX, holds="6", pack="4", price="3.20", for_food=True),
)
KITCHEN = Kitchen(gear=GEAR, packs=_PACKS, wraps=_WRAPS)
_ALMOND, _IN_ITS_PLACE = "almond-butter", "tahini"
_IN_HOUSE = {"tahini": "2/3 cup", "dates": "22 dates", "cocoa-butter": "2 1/2 tbsp", "coconut-oil-refined": "1 oz"}


def night_crossing_match(pantry: Pantry, families: Families) -> Match:
    """Night Crossing, studied, estimated, taken as a version, cooked and tried twice; a vegan version under way."""
    reading = StudyReading(night_crossing.study(pantry), pantry, families)
    version = kitchen_version(FAITHFUL, _estimated(reading), reading, input_key(reading))
    plans = [
        BatchPlan(
            id="first",
            version=version.id,
            pieces=_PIECES,
            in_house=_IN_HOUSE,
            lots=(
                Lot(
                    id="plain", name="Without almond", pieces="8", mark="a line across the top", instead=_without_almond(version)
                ),
            ),
            wrapped_in=("foil", "boxes"),
        ),
        BatchPlan(id="framed", version=version.id, by=PlanBy.PAN, gear="frame", trim="4", dip_bowl="dish"),
    ]
    match = with_another_cook(with_version(Match(study=reading.study), version, plans, pantry), "framed", "first-cook")
    return with_trials(match, reading, read_kitchen(KITCHEN), _estimated(reading))


def _without_almond(version: Version) -> dict[str, str]:
    """Tahini in place of almond butter, wherever the version has it."""
    return {
        f"{layer.id}{JOIN}{line.id}": _IN_ITS_PLACE
        for layer in version.layers
        for line in layer.ingredients
        if line.ingredient == _ALMOND
    }


def lime_quay_match(pantry: Pantry, families: Families) -> Match:
    """Lime Quay, taken as a version that is made in a bar mould."""
    reading = StudyReading(lime_quay.study(pantry), pantry, families)
    version = kitchen_version(FAITHFUL, _estimated(reading), reading, input_key(reading))
    plan = BatchPlan(id="moulded", version=version.id, by=PlanBy.MOULD, gear="bars", gear_count="3")
    return with_another_cook(with_version(Match(study=reading.study), version, [plan], pantry), "moulded", "first-cook")


def fill(database: Database, pantry: Pantry, families: Families, line: Callable[[Match], Any]) -> None:
    """Puts the demo world into a database that holds no match; leaves any other as it is.

    Args:
        line: What the list shows of a match.
    """
    with database.reading() as session:
        if listed(session) or listed(session, deleted=True):
            return
    matches = [
        Match(study=orchard_signal.study(pantry)),
        lime_quay_match(pantry, families),
        night_crossing_match(pantry, families),
    ]
    packed = [(NewTree.of(match, line(match)), _picture(match, pantry, families)) for match in matches]
    with database.writing() as session:
        if house(session).revision == 0:
            create(session, NewTree.of(House(kitchen=KITCHEN), {}), HOUSE, revision=0)
        for new, picture in packed:
            match_id = create(session, new)
            if picture is not None:
                keep_picture(session, match_id, picture)


def _estimated(reading: StudyReading) -> Estimate:
    key = input_key(reading)
    if key not in _FOUND:
        found = estimate(reading)
        if not isinstance(found, Estimate):
            raise TypeError(" ".join(found.sentences))
        _FOUND[key] = found
    return _FOUND[key]


_FOUND: dict[str, Estimate] = {}  # each study of the demo is estimated once


def _picture(match: Match, pantry: Pantry, families: Families) -> dict[str, Any] | None:
    """The small slice of what is estimated; the one that is just begun has none."""
    reading = StudyReading(match.study, pantry, families)
    if not reading.build:
        return None
    face = slice_of(_estimated(reading), match.study.layers, pantry, families, reading.size.box_mm)
    return asdict(small_slice(face, reading))
