"""What the balance of a piece says of a proposal that it does not say of the version: what may fail, and how it keeps.

Worked example: a ganache whose cream became coconut cream is at the edge of its fat, which the version was not: that is told with
the proposal, before it is kept, and not only on the version's page after it.
"""

from collections.abc import Sequence

from fern_match.core.adapt.propose import Proposal
from fern_match.core.formulate import KEEPING, Note, Tone, Version, balance
from fern_match.core.study.reading import StudyReading

_WORSE = {Tone.FINE: 0, Tone.LOOK: 1, Tone.FAILS: 2}


def judged(proposal: Proposal, version: Version, was: Sequence[Note], reading: StudyReading) -> tuple[str, ...]:
    """Sentences on what a proposal brings that is worse than in the version, with what helps; last how long it keeps.

    Args:
        proposal: Worked out.
        version: That it was made from, for how its layers are shaped.
        was: What the balance says of the version.
        reading: The study, with compositions and families.
    """
    now = balance(version, proposal.formula, reading.pantry, reading.families)
    known = {(one.topic, one.layer_id): _WORSE[one.tone] for one in was}
    worse = [_said(one) for one in now if one.topic != KEEPING and _WORSE[one.tone] > known.get((one.topic, one.layer_id), 0)]
    return (*dict.fromkeys(worse), *(one.sentence for one in now if one.topic == KEEPING))


def _said(one: Note) -> str:
    return f"{one.sentence} {one.help}".strip()
