"""What the estimate waits for, or how it stands, in words."""

from fern_match.core.estimate.result import Estimate
from fern_match.core.study.reading import StudyReading


def estimate_words(reading: StudyReading) -> str:
    """The words under Estimate on the path, before there is one."""
    if not reading.build:
        return "needs layers"
    if reading.net_weight.value is None and not any(weighing.grams for weighing in reading.weighings):
        return "needs weight"
    return "follows study"


def settle_words(estimate: Estimate) -> str:
    """The words under Estimate on the path, once there is one."""
    count = estimate.to_settle
    return "nothing fights" if count == 0 else f"{count} to settle"
