"""Figures as people write them: fractions, grouped thousands, and the comma as the region has it."""

import re
import unicodedata
from dataclasses import dataclass
from enum import StrEnum

from fern_match.core.errors import CoreError


class Comma(StrEnum):
    """What a comma means between digits."""

    DECIMAL = "decimal"  # 12,5 is twelve and a half; 1 250 and 1.250,5 group thousands
    GROUPS = "groups"  # 1,250 is a thousand and more; 12,5 is no figure


@dataclass(eq=False)
class Unread(CoreError):
    """Something typed that cannot be read, or could be read in two ways; readers of fields turn it into their problem."""

    sentence: str

    def __str__(self) -> str:
        return self.sentence


FIGURE = r"\d[\d.,]*"
_PLAIN = re.compile(r"\d+(?:\.\d+)?\.?")
_GROUPED = re.compile(r"[1-9]\d{0,2}(?:,\d{3})+(?:\.\d+)?")
_GROUPED_BY_DOTS = re.compile(r"[1-9]\d{0,2}(?:\.\d{3})+,\d+|[1-9]\d{0,2}(?:\.\d{3}){2,}")
_DECIMAL_COMMA = re.compile(r"\d+,\d+")
_TWO_WAYS = re.compile(r"([1-9]\d{0,2})[.,](\d{3})")
_WORDS = {
    "a": "1", "an": "1", "one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6",
    "seven": "7", "eight": "8", "nine": "9", "ten": "10", "eleven": "11", "twelve": "12",
}  # fmt: skip
_ONE_SIGN = str.maketrans(
    {"\u2044": "/", "÷": "/", "×": "x", "\u2212": "-", "’": "'", "\u2032": "'", "”": '"', "\u2033": '"', "\xa0": " "}
)
_PARTS = {"h": 2, "t": 3, "q": 4}
# "half a cup", "three quarters of a cup", "1 and a half cups": only with a word after it, for a bare "half" says nothing.
_FRACTION_WORDS = re.compile(r"\b(?:([1-7]) )?(half|halves|thirds?|quarters?)\b (?:of )?(?:1 )?(?=[A-Za-z])", re.IGNORECASE)
_SPACE_GROUPS = re.compile(r"(?<![\d.,/])(?<!\d )[1-9]\d{0,2}(?: \d{3})+(?!\d| ?/)")


def figure_value(text: str, comma: Comma) -> float:
    """One unsigned figure: "12.5", "12,5" or "1,250" by region, "1.250,5".

    Raises:
        Unread: it is no figure, or could be two.

    >>> figure_value("1,250", Comma.GROUPS)
    1250.0
    """
    return float(plain_figure(text, comma))


def plain_figure(text: str, comma: Comma) -> str:
    """A figure without grouping and with a decimal point; its decimals are those that were written.

    Raises:
        Unread: it is no figure, or could be two.

    >>> plain_figure("1.250,50", Comma.DECIMAL)
    '1250.50'
    """
    if comma is Comma.DECIMAL and (found := _TWO_WAYS.fullmatch(text)):
        whole, rest = found.groups()
        raise Unread(
            f"“{text}” could be {whole}{rest}, or {whole} and a part. Write {whole}{rest}, or {whole}.{rest}0 for the small one."
        )
    if _PLAIN.fullmatch(text):
        return text
    if _GROUPED.fullmatch(text):
        return text.replace(",", "")
    if comma is Comma.DECIMAL and _DECIMAL_COMMA.fullmatch(text):
        return text.replace(",", ".")
    if comma is Comma.DECIMAL and _GROUPED_BY_DOTS.fullmatch(text):
        return text.replace(".", "").replace(",", ".")
    if _DECIMAL_COMMA.fullmatch(text):
        dotted = text.replace(",", ".")
        raise Unread(f"“{text}” has a comma where this label’s region groups thousands. Write {dotted} if that is meant.")
    raise Unread(f"“{text}” is no figure. Write it with one decimal point, such as 12.5.")


def plain_signs(text: str, comma: Comma) -> str:
    """The text with one sign for each thing: ½ as 1/2, × as x, “half a” as 1/2, spaces that group thousands gone.

    Args:
        comma: With a decimal comma, spaces may group thousands.
    """
    spaced = re.sub(r"[\u2009\u202f](?=\d{3})", "", text)
    spaced = "".join(f" {unicodedata.normalize('NFKC', char)} " if _is_vulgar(char) else char for char in spaced)
    same = spaced.translate(_ONE_SIGN).replace("''", '"')
    same = re.sub(rf"\b({'|'.join(_WORDS)})\b(?= [A-Za-z])", lambda found: _WORDS[found[1].lower()], same, flags=re.IGNORECASE)
    same = _FRACTION_WORDS.sub(lambda found: f"{found[1] or 1}/{_PARTS[found[2][0].lower()]} ", same)
    same = re.sub(r"(\d) and (?=\d+/\d)", r"\1 ", same)
    same = re.sub(r"(?<=\d) +dozen\b", " x 12", same, flags=re.IGNORECASE)
    if comma is Comma.DECIMAL:
        same = _SPACE_GROUPS.sub(lambda found: found[0].replace(" ", ""), same)
    return re.sub(r"\s+", " ", same).strip()


def _is_vulgar(char: str) -> bool:
    return unicodedata.category(char) == "No" and "\u2044" in unicodedata.normalize("NFKC", char)
