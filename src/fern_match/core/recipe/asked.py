"""A recipe as somebody looks it over: ingredients chosen for lines, whose cups its cups are, how many pieces it gives.

Worked example: "1 cup cream" under a US label is 236.6 mL; under an EU label in a kitchen of Australian cups 250 mL.
"""

import re
from collections.abc import Mapping
from dataclasses import replace

from fern_match.core.data import rows
from fern_match.core.food import Pantry
from fern_match.core.label.rows import Region
from fern_match.core.measures import Comma, Typed, read_count
from fern_match.core.measures.pieces import MOST_PIECES, USUAL_PIECES
from fern_match.core.measures.volumes import Measures
from fern_match.core.recipe.line import RecipeLine
from fern_match.core.recipe.tongue import in_our_words
from fern_match.core.recipe.whole import Recipe, read_recipe

_CUPS_OF = {Region.US: Measures.US, Region.AU: Measures.AU}  # elsewhere recipes come in grams, or in the cups of who cooks


def usual_measures(region: Region | None, kitchen: Measures) -> Measures:
    """Whose cups and spoons a recipe most likely means.

    Args:
        region: Whose rules its label follows, where that is known.
        kitchen: What this kitchen measures in.
    """
    return _CUPS_OF.get(region, kitchen) if region is not None else kitchen


def read_asked(text: str, taken: Mapping[int, str], pantry: Pantry, measures: Measures) -> Recipe:
    """A recipe with what the user chose for its lines.

    Args:
        text: As pasted or typed.
        taken: Number of a line, among all -> the ingredient it is; of ingredients the pantry lacks nothing is taken.
        measures: Whose cups and spoons, where a line does not say.
    """
    recipe = read_recipe(text, pantry, measures=measures)
    number, sections = 0, []
    for section in recipe.sections:
        lines = []
        for line in section.lines:
            chosen = taken.get(number)
            lines.append(
                _chosen(line, chosen, measures, pantry, recipe.tongue) if chosen is not None and chosen in pantry else line
            )
            number += 1
        sections.append(replace(section, lines=tuple(lines)))
    return replace(recipe, sections=tuple(sections))


def _chosen(line: RecipeLine, key: str, measures: Measures, pantry: Pantry, tongue: str) -> RecipeLine:
    """A line with the ingredient the user chose: its amount is read again as that one's."""
    food = pantry[key]
    text = line.line if line.name in line.line else in_our_words(line.line, tongue)
    bought = food.name.split(",")[0].split(" (")[0]
    again = read_recipe(text.replace(line.name, bought, 1), pantry, measures=measures, tongue=tongue)
    found = next((one for one in again.lines if one.ingredient_id == key), line)
    taken = replace(
        line, ingredient_id=key, confidence=1.0, problem=None, grams=found.grams, low_g=found.low_g, high_g=found.high_g
    )
    times = _times_as_strong(key, line.line)
    if times == 1.0 or taken.grams is None:
        return taken
    instead = f"{taken.grams / times:.2g} g in place of {taken.grams:.2g} g"
    said = f"{food.name} is about {times:g} times as strong: {instead}; go by taste"
    low, high = (None if one is None else one / times for one in (taken.low_g, taken.high_g))
    return replace(taken, grams=taken.grams / times, low_g=low, high_g=high, assumed=(*taken.assumed, said))


def _times_as_strong(key: str, line: str) -> float:
    """How many times as strong an oil is as what a line names; 1 where it names the oil.

    Source: data/extracts.csv (approximate).
    """
    words = set(re.findall(r"[a-z]+", line.lower()))
    weaker = (row for row in rows("extracts.csv") if row["oil"] == key and words & set(row["weaker"].split("|")))
    return next((float(row["times"]) for row in weaker), 1.0)


def pieces_of(recipe: Recipe, typed: str) -> tuple[int, Typed]:
    """How many pieces a recipe gives, and what was typed as read: as typed, as it says itself, or as many as usual."""
    read = read_count(typed, most=MOST_PIECES, what="number of pieces", comma=Comma.DECIMAL)
    return int(read.value or recipe.pieces or USUAL_PIECES), read
