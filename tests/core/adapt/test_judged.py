"""What is told of a proposal before it is kept: only what is worse than in the version, and how long it keeps."""

from dataclasses import replace

import pytest
from tests.bench import FAMILIES, PANTRY, READING, caramel, formula, held_to, layer, line

from fern_match.core.adapt import adapted, rules_of
from fern_match.core.adapt.judged import judged
from fern_match.core.adapt.propose import Proposal
from fern_match.core.formulate import KEEPING, Formula, Tone, balance
from fern_match.core.formulate.judging.balance import natures
from fern_match.core.formulate.record.version import Version
from fern_match.core.label.rows import Region

VERSION = Version(id="v", name="V", layers=())
BASE = layer(
    "base",
    "short-base",
    line("plain-wheat-flour", 10, "flour"),
    line("butter-unsalted", 5, "fat"),
    line("white-sugar", 4, "sweet-bulk"),
    lost=0.6,
)


def told(before: Formula, after: Formula) -> tuple[str, ...]:
    """Of a proposal that is this formula."""
    rules = rules_of(["vegan"], Region.EU, PANTRY)
    some: Proposal = adapted(before, held_to(before, READING), rules, READING, serving_g=40, explain=False).proposals[0]
    return judged(replace(some, formula=after), VERSION, balance(VERSION, before, PANTRY, FAMILIES), READING)


def test_what_is_as_in_the_version_is_not_told() -> None:
    """The same piece: only how long it keeps."""
    piece = formula(caramel(), BASE)
    said = told(piece, piece)
    assert len(said) == 1
    assert "water activity" in said[0]


def test_what_gets_worse_is_told_with_what_helps() -> None:
    """Milk chocolate thinned with coconut oil softens; the version's coat was sound."""
    coat = layer("coat", "milk-coat", line("milk-chocolate-33", 10, "chocolate"))
    soft = layer("coat", "milk-coat", line("milk-chocolate-33", 8, "chocolate"), line("coconut-oil-refined", 2, "fat"))
    before, after = formula(caramel(), coat), formula(caramel(), soft)
    (said, keeping) = told(before, after)
    assert "in cocoa butter, which takes 5 %. It fails" in said
    assert "Use one kind of coat" in said
    assert "water activity" in keeping
    assert told(after, before)[:-1] == ()


@pytest.mark.parametrize(
    ("one", "low", "high"),
    [
        (layer("seeds", "seeds", line("sesame-seeds", 5, "seed-solids")), 0.1, 0.6),
        (BASE, 0.05, 0.45),
        (caramel(), 0.4, 0.66),
    ],
)
def test_water_that_flour_or_seeds_hold_is_not_that_of_a_syrup(one: object, low: float, high: float) -> None:
    """Dry seeds and a baked base keep, whatever little sugar is dissolved in their water; a caramel is as caramels are."""
    (nature,) = natures(formula(one), PANTRY, FAMILIES)  # type: ignore[arg-type]
    assert nature.water_activity_low is not None
    assert nature.water_activity_high is not None
    assert low <= nature.water_activity_low < nature.water_activity_high <= high
    notes = balance(VERSION, formula(one), PANTRY, FAMILIES)  # type: ignore[arg-type]
    assert [note.tone for note in notes if note.topic == KEEPING] == [Tone.FINE]
