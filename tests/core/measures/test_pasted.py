"""No text keeps a reader busy: of 20,000 signs, whatever they repeat, less work than a hundred ordinary texts of theirs."""

import re
import time
from collections.abc import Callable

import pytest

from fern_match.core.food import standard_pantry
from fern_match.core.food.names import matched_name
from fern_match.core.food.search import found_in
from fern_match.core.label.pack import read_pack_weight, read_servings
from fern_match.core.label.panel import read_panel
from fern_match.core.label.statement import read_statement
from fern_match.core.measures import Comma, Measures, read_grams
from fern_match.core.measures.pasted import tamed
from fern_match.core.recipe import read_line, read_recipe
from fern_match.core.study.record import Region

PANTRY = standard_pantry()
SIGNS = 20_000
READERS: dict[str, Callable[[str], object]] = {
    "panel": lambda text: read_panel(text, Region.US),
    "statement": read_statement,
    "recipe": lambda text: read_recipe(text, PANTRY, measures=Measures.US),
    "recipe line": lambda text: read_line(text, PANTRY, measures=Measures.US),
    "weight of a pack": lambda text: read_pack_weight(text, least_g=0.01, most_g=1000, comma=Comma.GROUPS),
    "servings": lambda text: read_servings(text, Comma.GROUPS),
    "grams": lambda text: read_grams(text, comma=Comma.GROUPS),
    "name": lambda text: matched_name(text, PANTRY),
    "search": lambda text: found_in(PANTRY, text),
}
REPEATED = [
    *(" ", "\t", "\n", "1", "1,", "1.", "or ", "and/or ", "(", "a ", "- ", "–", "%", "1% ", ", ", "g", "1g ", "℮", "e ", "* "),
    *(
        "about ",
        "per 100 g ",
        "5 servings per ",
        "sugar, ",
        "((a), ",
        "contains ",
        "may contain ",
        "1/2 ",
        "1 x ",
        "milk (",
        "a:b ",
    ),
]
# What the machine does in about the time that is allowed, whatever machine it is: many times what is seen.
_ORDINARY = (
    "Sugar, glucose syrup, cocoa butter, whole milk powder, emulsifier (soya lecithin), salt, natural vanilla flavouring. "
)
_TIMES = 150


@pytest.fixture(scope="module")
def allowed_s() -> float:
    """Processor time of so many ordinary statements [s]."""
    read_statement(_ORDINARY)
    start = time.process_time()
    for at in range(_TIMES):
        read_statement(f"{_ORDINARY}{at}")
    return time.process_time() - start


@pytest.mark.parametrize("reader", READERS)
@pytest.mark.parametrize("end", ["", "x"])
def test_no_text_keeps_a_reader_busy(reader: str, end: str, allowed_s: float) -> None:
    """Of each repeated sign: a hang takes hundreds of times what is allowed."""
    for repeated in REPEATED:
        text = (repeated * SIGNS)[: SIGNS - len(end)] + end
        start = time.process_time()
        READERS[reader](text)
        assert time.process_time() - start < 10 * allowed_s, repeated


def test_what_is_said_stays() -> None:
    """Runs become one; a tab that makes columns, one empty line and three dots stay; a figure that is none is cut."""
    assert tamed("Sugar,     milk\n\n\n\nWhey\t\t3 g ...", 100) == "Sugar, milk\n\nWhey\t3 g ..."
    assert tamed("9" * 50, 100) == "9" * 30
    assert tamed("abc", 2) == "ab"
    assert re.fullmatch("-{8}", tamed("-" * 5000, 5000))
