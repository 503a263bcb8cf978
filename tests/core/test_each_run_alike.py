"""One run of the program as the next: Python orders sets anew at each start, and nothing that is kept may rest on it."""

import os
import subprocess
import sys

_ASKED = """
from fern_match.core.estimate import estimate
from fern_match.core.estimate.inputs import input_key
from fern_match.core.food import standard_pantry
from fern_match.core.formulate import kitchen_version
from fern_match.core.record.digest import digest
from fern_match.core.study.reading import StudyReading
from fern_match.demo import night_crossing

pantry = standard_pantry()
reading = StudyReading(night_crossing.study(pantry), pantry)
found = estimate(reading)
print(reading.families.key, pantry.key, reading.fingerprint, input_key(reading), digest(found.layers))
print(digest(kitchen_version("faithful", found, reading)))
"""


def test_keys_and_results_are_those_of_the_run_before() -> None:
    """Otherwise each start would throw away every estimate and call every version outdated."""
    runs = [
        subprocess.Popen(
            [sys.executable, "-c", _ASKED], env={**os.environ, "PYTHONHASHSEED": seed}, stdout=subprocess.PIPE, text=True
        )
        for seed in ("1", "2", "3")
    ]
    first, *others = [run.communicate()[0].split() for run in runs]
    assert len(first) == 6
    assert others == [first, first]
