"""What an estimate depends on, as a fingerprint: results are kept by it, and a version knows by it that its study moved on."""

import hashlib

from fern_match.core.record import digest
from fern_match.core.study.reading import StudyReading


def input_key(reading: StudyReading) -> str:
    """The same for the same evidence, build, pantry and families; names of match and maker do not count."""
    parts = (digest(reading.study, without=("name", "maker")), reading.pantry.key, reading.families.key)
    return hashlib.sha256("|".join(parts).encode()).hexdigest()
