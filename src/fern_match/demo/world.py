"""The demo matches, put into an empty database through core and store."""

from fern_match.core.estimate import Estimate, estimate
from fern_match.core.food import Pantry
from fern_match.core.formulate import faithful_version
from fern_match.core.match import BatchPlan, Match
from fern_match.core.study.reading import StudyReading
from fern_match.demo import lime_quay, night_crossing, orchard_signal
from fern_match.store import Database, matches

_PIECES = "24"
_IN_HOUSE = {"tahini": "2/3 cup", "dates": "22 dates", "cocoa-butter": "2 1/2 tbsp", "coconut-oil-refined": "1 oz"}


def night_crossing_match(pantry: Pantry) -> Match:
    """Night Crossing, studied, estimated and taken as a version with one batch.

    Args:
        pantry: Compositions.
    """
    study = night_crossing.study(pantry)
    found = estimate(StudyReading(study, pantry))
    if not isinstance(found, Estimate):
        raise TypeError(" ".join(found.sentences))
    version = faithful_version("faithful", found)
    plan = BatchPlan(id="first", version_id=version.id, pieces=_PIECES, in_house=_IN_HOUSE)
    return Match(study=study, versions=(version,), batches=(plan,))


def fill(database: Database, pantry: Pantry) -> None:
    """Puts the demo world into a database that holds no match; leaves any other as it is.

    Args:
        database: To fill.
        pantry: Compositions.
    """
    with database.transaction() as session:
        if not matches.summaries(session):
            matches.create(session, Match(study=orchard_signal.study(pantry)))
            matches.create(session, Match(study=lime_quay.study(pantry)))
            matches.create(session, night_crossing_match(pantry))
