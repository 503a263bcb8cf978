"""The amount at the head or tail of a recipe line: counts, ranges, sums, pairs and containers, before it is known of what.

Worked example: "1 1/2 cups (12 oz)" is a count of 1.5 with the unit cup, and beside it a second way to say the same, 12 oz.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cache

from fern_match.core.data import rows
from fern_match.core.measures.numbers import Comma, Unread, figure_value
from fern_match.core.measures.units import Quantity, Unit, unit_of
from fern_match.core.measures.volumes import Measures

_FIGURE = r"\d+(?:[.,]\d+)*|[.,]\d+"
_NUMBER = rf"(?:\d+[ -]\d+/\d+|\d+/\d+|{_FIGURE})"
_COUNT = re.compile(
    rf"(?:between )?(?P<low>{_NUMBER})(?:\s*(?:-|–|—|\bto\b|\bor\b|\band\b(?=.*\bbetween\b))\s*(?P<high>{_NUMBER})(?![\d/]))?"
    rf"(?:\s*[x*]\s*(?P<times>{_NUMBER}))?"
)
_ABOUT = re.compile(
    r"(?:approximately|approx\.?|about|around|roughly|ca\.?|circa|c\.(?= ?\d)|~|up to)\s*"
    r"(?=[\d.,])",
    re.I,
)
_UNIT_WORD = re.compile(r"(?:fl\.? ?oz\b|fluid ounces?\b|[A-Za-z]+|\"|'(?!s\b))\.?", re.I)
_COUNTRY = re.compile(r"(?:us|american|metric|uk|british|imperial|au|australian)\b ?", re.I)
_FILLED = re.compile(r"(?:a )?(firmly packed|tightly packed|well packed|lightly packed|loosely packed|[a-z]+)\b ?", re.I)
_CONTAINERS = re.compile(
    r"(cans?|tins?|jars?|bags?|packets?|packs?|packages?|pkts?\.?|pkgs?\.?|boxes|box|bars?|blocks?|tubs?|sachets?|envelopes?|tubes?"
    r"|cartons?|bottles?|pots?|punnets?|slabs?|sleeves?|tablets?)\b\.? ?(?:of )?",
    re.I,
)
_CUP_WORDS = {"c": "cup", "tbs": "tbsp", "tblsp": "tbsp", "tsps": "tsp", "tbsps": "tbsp", "tb": "tbsp", "ts": "tsp"}
_JOINED = re.compile(r"\s*(?:\+|plus|and)\s+(?=[\d.,])", re.I)
_OUNCES = re.compile(r"\s*(?=\d[\d./ ]* ?(?:oz|ounces?)\b)", re.I)
VAGUE = {
    "handful": "30 to 45 g of small things", "handfuls": "30 to 45 g of small things", "drizzle": "5 to 10 mL",
    "splash": "5 to 15 mL", "glug": "15 to 30 mL", "sprinkle": "1 to 2 g", "sprinkling": "1 to 2 g", "blob": "10 to 20 g",
    "dollop": "15 to 30 g", "few": "3 to 6", "some": "an amount of your choice", "several": "3 to 6", "couple": "2 or so",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Quantified:
    """One way to say how much: a count or range of something."""

    low: float
    high: float
    unit: Unit | None  # None of a count of pieces
    word: str = ""  # the unit as written, or the container
    assumed: tuple[str, ...] = ()
    spread: float = 0.0  # relative, beyond the unit's own
    two_ways: str = ""  # a sentence, where the unit could be two things
    plus: "Quantified | None" = None

    @property
    def middle(self) -> float:
        """The middle of its range."""
        return (self.low + self.high) / 2


@dataclass(slots=True)
class Scan:
    """A place in a text."""

    text: str
    measures: Measures
    comma: Comma
    at: int = 0
    assumed: list[str] = field(default_factory=list)

    def take(self, pattern: re.Pattern[str]) -> re.Match[str] | None:
        """What stands here, if it is of the pattern; the place moves behind it."""
        found = pattern.match(self.text, self.at)
        if found is not None:
            self.at = found.end()
        return found

    @property
    def rest(self) -> str:
        """What stands from here on."""
        return self.text[self.at :]


@cache
def fillings() -> Mapping[str, tuple[float, float, float, float]]:
    """Word -> how much a spoon, a cup so filled holds of a level one, and its range (approximate)."""
    return {
        row["word"]: (float(row["spoon"]), float(row["cup"]), float(row["low"]), float(row["high"]))
        for row in rows("fillings.csv")
    }


def quantified(text: str, measures: Measures, comma: Comma) -> tuple[Quantified, str] | None:
    """The amount at the head of a text, and what follows it; None where none stands there.

    Args:
        text: Its signs plain already (`plain_signs`), with no brackets.

    Raises:
        Unread: a figure could be two.
    """
    scan = Scan(text, measures, comma)
    found = _one(scan)
    if found is None:
        return None
    while (joined := _JOINED.match(scan.rest) or _pounds_and_ounces(found, scan.rest)) is not None:
        ahead = Scan(scan.rest[joined.end() :], measures, comma)
        more = _one(ahead)
        if more is None or more.unit is None or found.unit is None:
            break
        found = replace(found, plus=more if found.plus is None else replace(more, plus=found.plus))
        scan = ahead
    return found, scan.rest.strip()


def _pounds_and_ounces(found: Quantified, rest: str) -> re.Match[str] | None:
    """Where ounces follow pounds, "1 lb 2 oz", they are one amount."""
    return _OUNCES.match(rest) if found.unit is not None and found.unit.name == "lb" else None


def _one(scan: Scan) -> Quantified | None:
    scan.text = scan.rest
    scan.at = 0
    about = scan.take(_ABOUT)
    filled = _filled(scan)
    scan.take(re.compile(r"\s+"))
    count = scan.take(_COUNT)
    if count is None:
        return None
    low = _value(count["low"], scan.comma)
    high = _value(count["high"], scan.comma) if count["high"] else low
    times = _value(count["times"], scan.comma) if count["times"] else 1.0
    if high < low and "/" in count["high"] and high < 1:  # "2 or 1/2": not a range
        return None
    scan.text, scan.at = scan.rest.lstrip(), 0
    assumed = ["about"] if about else []
    unit, word, factors, two_ways = _unit(scan, filled)
    spread = 0.1 if about else 0.0
    if factors is not None:
        assumed.append(f"{factors[0]}, taken as {factors[1]:g} level ones" if factors[1] != 1 else "")
        low, high = low * factors[1], high * factors[1]
        spread = max(spread, factors[2])
    if unit is not None:  # "50 g to 60 g"
        further = re.match(rf"\s*(?:-|–|—|\bto\b)\s*({_NUMBER})\s*([A-Za-z]+)\b", scan.rest)
        if further is not None and unit_of(further[2], scan.measures) == unit:
            high = _value(further[1], scan.comma)
            scan.at += further.end()
    if high < low:
        low, high = high, low
    return Quantified(low * times, high * times, unit, word, tuple(filter(None, assumed)), spread, two_ways)


def _unit(scan: Scan, filled: str | None) -> tuple[Unit | None, str, tuple[str, float, float] | None, str]:
    """The unit here, the word for it, how it is filled, and a sentence where it could be two."""
    begin = scan.at
    filled = filled or _filled(scan)
    country = scan.take(_COUNTRY)
    scan.take(re.compile(r"-"))
    found = scan.take(_UNIT_WORD)
    if found is None:
        scan.at = begin
        return None, "", None, ""
    word = found[0].rstrip(".")
    if word in {"T", "t"}:
        return None, word, None, f"“{word}” could be a tablespoon or a teaspoon. Write tbsp or tsp."
    spelled = _CUP_WORDS.get(word.lower(), "floz" if word.lower().startswith("fl") and "o" in word.lower() else word)
    unit = unit_of(spelled.replace(".", "").replace(" ", ""), scan.measures, country[0].strip() if country else None)
    if unit is None or unit.quantity not in {Quantity.WEIGHT, Quantity.VOLUME}:
        scan.at = begin
        return None, "", None, ""
    after = _filled(scan) if filled is None else None
    scan.take(re.compile(r"\s*of\b(?: a\b)?\s*", re.I))
    filled = filled or after
    if filled is None:
        return unit, word, None, ""
    spoon, cup, low, high = fillings()[filled]
    factor = spoon if unit.name.split()[-1] in {"tsp", "tbsp"} else cup
    return unit, word, (filled, factor, (high - low) / 2 / max(factor, 0.1)), ""


def _filled(scan: Scan) -> str | None:
    at = scan.at
    while scan.at < len(scan.text) and scan.text[scan.at] == " ":
        scan.at += 1
    found = scan.take(_FILLED)
    if found is not None and found[1].lower() in fillings():
        return found[1].lower()
    scan.at = at
    return None


def _value(text: str, comma: Comma) -> float:
    text = text.strip()
    mixed = re.fullmatch(r"(\d+)[ -](\d+)/(\d+)", text)
    if mixed:
        return int(mixed[1]) + _part(mixed[2], mixed[3])
    fraction = re.fullmatch(r"(\d+)/(\d+)", text)
    if fraction:
        return _part(fraction[1], fraction[2])
    return figure_value(f"0{text}" if text[0] in ".," else text, comma)


def _part(over: str, under: str) -> float:
    if int(under) == 0:
        raise Unread(f"{over}/{under} is no figure.")
    return int(over) / int(under)


def container(text: str) -> tuple[str, str] | None:
    """The container at the head of a text, in the singular, and what follows; None where none stands there.

    Args:
        text: What follows a count or a size.
    """
    found = _CONTAINERS.match(text)
    if found is None:
        return None
    word = found[1].lower().rstrip(".")
    short = {"pkt": "packet", "pkts": "packet", "pkg": "package", "pkgs": "package", "boxes": "box"}
    return short.get(word, word.removesuffix("s")), text[found.end() :]
