"""Imported once, before processes for long work are forked: everything they need is read and built by then."""

from fern_match.api import estimate, long_work
from fern_match.core.estimate.inputs import input_key
from fern_match.core.food import standard_pantry
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

READY = (estimate, long_work, input_key(StudyReading(Study(name=""), standard_pantry())))
