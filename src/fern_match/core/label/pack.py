"""Weights and counts as packs print them: "1.69 oz (48 g)", "NET WT 1.69 OZ", "39 g e", "2 pieces (28g)", "about 2.5 servings".

Worked example: "1.69 oz (48 g)" names one weight twice; 1.69 oz are 47.9 g, within half a step of 48 g, so 48 g is read.
"""

import re
from dataclasses import replace

from fern_match.core.measures import Comma, Typed, read_grams
from fern_match.core.measures.numbers import FIGURE, Unread, figure_value
from fern_match.core.measures.pasted import tamed

_LEAD = re.compile(
    r"^\s*(?:net\s*(?:wt|weight|contents?|quantity)?\.?|weight|poids net|nettogewicht|serving size|per serving"
    r"|per portion)\s*[:.]?\s*",
    re.I,
)
_MARK = re.compile(r"\s*(?:℮|\be)\s*$|\s*\be\b(?=\s*\()", re.I)
_INNER = re.compile(
    r"\(\s*((?:\d[\d.,]*)\s*(?:g|kg|grams?))\s*(?:e|℮)?\s*\)|(?<=\S)\s*[/|]\s*((?:\d[\d.,]*)\s*(?:g|kg))\s*$", re.I
)
_WEIGHT = re.compile(r"\d[\d.,]*\s*(?:x\s*\d[\d.,]*\s*)?(?:g|kg|oz|ounces?|lb)\b", re.I)
_SERVINGS = re.compile(
    r"^\s*(?:servings?\s*(?:per\s*(?:container|package|pack|bag|box))?\s*[:.]?\s*)?(?:about|approx\.?|ca\.?|~"
    rf"|usually)?\s*({FIGURE})\s*(?:servings?(?:\s*per\s*\w+)?|portions?)?\.?\s*$",
    re.I,
)
_SECOND = re.compile(r"(?<=g)\s*\(\s*\d[\d.,]*\s*(?:oz|ounces?|lb)\.?\s*\)\s*$|^(?:about|approx\.?|ca\.?|~)\s*(?=\d)", re.I)
_APART = 0.04  # two weights of one pack may differ by their rounding
_MOST_SERVINGS = 500.0
_LONGEST = 200  # signs of a field that are read


def read_pack_weight(typed: str, *, least_g: float, most_g: float, comma: Comma) -> Typed:
    """A weight as a pack prints it, in grams; one printed twice must agree with itself [g].

    Args:
        typed: What stands in the field.
        least_g: The least that makes sense here [g].
        most_g: The most that makes sense here [g].
        comma: What a comma means where the label is from.

    >>> read_pack_weight("NET WT 1.69 OZ (48g)", least_g=0.01, most_g=1000, comma=Comma.GROUPS).value
    48.0
    """
    text = _SECOND.sub("", _MARK.sub(" ", _LEAD.sub("", tamed(typed, _LONGEST)))).strip()
    inner = _INNER.search(text)
    if inner is None:
        return replace(read_grams(text, least_g=least_g, most_g=most_g, comma=comma), typed=typed)
    found = read_grams(inner[1] or inner[2], least_g=least_g, most_g=most_g, comma=comma)
    outer = _WEIGHT.search(text[: inner.start()])
    if outer is not None and found.value is not None:
        other = read_grams(outer[0], least_g=least_g, most_g=most_g, comma=comma)
        if other.value is not None and abs(other.value / found.value - 1) > _APART:
            return Typed(
                typed,
                None,
                "g",
                f"“{outer[0].strip()}” is {other.value:.3g} g, but the bracket says {found.value:g} g. Which is it?",
            )
    return replace(found, typed=typed)


def read_servings(typed: str, comma: Comma) -> Typed:
    """How many servings a pack holds: "3", "about 2.5 servings", "Servings per container: 8".

    Args:
        typed: What stands in the field.
        comma: What a comma means where the label is from.
    """
    if not typed.strip():
        return Typed(typed, None, "servings")
    match = _SERVINGS.match(tamed(typed, _LONGEST))
    try:
        value = figure_value(match[1], comma) if match else None
    except Unread as problem:
        return Typed(typed, None, "servings", str(problem))
    if value is None or not 0 < value <= _MOST_SERVINGS:
        return Typed(typed, None, "servings", f"“{typed.strip()[:40]}” was not read as servings. Write a number, such as 2.5.")
    return Typed(typed, value, "servings")
