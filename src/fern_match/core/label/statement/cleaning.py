"""A pasted statement without what copying added: markup, emphasis, broken lines, odd spaces and quotes."""

import re
import unicodedata
from collections.abc import Callable

_TAG = re.compile(r"</?[a-z][a-z0-9]{0,9}(?:\s[^<>]{0,80})?/?>", re.I)
_STARS = re.compile(r"(\*\*|__)(?=\S)(.{1,200}?)(?<=\S)\1", re.S)
_ONE_STAR = re.compile(r"(?<![\w)\]*%])\*(?=\w)([\w ’'-]{1,40}?)(?<=\w)\*(?!\w)")
_SUB_NUMBER = re.compile(r"\b(\d{3,4}[a-e]?) ?\((?:i{1,3}|iv|vi{0,3})\)", re.I)  # "500(ii)": which of the carbonates
_HYPHENED_NUMBER = re.compile(r"\b(E)[-\u2010\u2011](\d{3,4}[a-z]{0,3})\b", re.I)
_MONO_AND = re.compile(r"\b(mono) [-\u2010-\u2013] ?(?=(?:and|&) ?di)", re.I)
_UNDERSCORED = re.compile(r"(?<![^\W_])_(?=[^\W_])([^_\n]{1,60}?)(?<=[^\W_])_(?![^\W_])")
_BROKEN = re.compile(r"(?<!\w)(\w{1,40})[-\u00ad\u2010] ?\n ?(\w{1,40})")
_QUOTES = str.maketrans(
    {
        "’": "'",
        "‘": "'",
        "`": "'",
        "´": "'",
        "“": '"',
        "”": '"',
        "\u00a0": " ",
        "\u202f": " ",
        "\u2009": " ",
        "\u00ad": "",
        "（": "(",
        "）": ")",
        "，": ",",
        "：": ":",
        "℮": " ",
        "\r": "\n",
        "\t": " ",
    }
)
# Between names instead of commas, where there are so many of them.
_DOTS = (" • ", " · ", " | ", " ● ", " ∙ ")
_LEAST_DOTS = 3
# Words that keep their hyphen, though a line ends at it.
_HYPHENED = re.compile(
    r"\w+-(?:reduced|free|fat|roasted|dried|based|like|flavou?red|cooked|pressed|range|grown)|(?:fat|semi|non|low|sugar|freeze|free"
    r"|vacuum|cold|stone|half|self|part|pre|sun|kiln|spray|dry|full|reduced|glucose|mono|di)-\w+",
    re.I,
)
_DASHES = re.compile(r"\s*-{2,3}\s*")
# "milk chocolate (milk chocolate contains sugar, ...)"
_SAID_AGAIN = re.compile(r"\b((\w[\w ]{2,40}?))\s*([(\[{])\s*\2 contains?:?\s+(?!less|\d)", re.I)
# "wheat flour with added calcium, iron, niacin and thiamin": what the law adds to flour is no name of the list.
_FORTIFIED = re.compile(
    r"(\bflour)\s*(?:,|\()?\s*(?:with|fortified with|enriched with)\s+(?:added\s+)?"
    r"(?:(?:calcium(?: carbonate)?|iron|niacin|thiamine?|riboflavin|folic acid|folate|vitamins?(?: b\d)?)\b(?: ?\(b\d\))?"
    r"(?:\s*,\s*(?:and\s+)?|\s+and\s+|\s*&\s*)?)+(?P<end>\))?",
    re.I,
)
_MARKS = str.maketrans(dict.fromkeys("®™©", ""))


def cleaned(text: str, knows: Callable[[str], bool]) -> str:
    """The words of a statement; ends of lines are kept as such.

    Args:
        text: As pasted.
        knows: Whether a word is one of the trade; decides where a hyphen at a line's end belongs to the word.
    """
    text = unicodedata.normalize("NFC", text).replace("\r\n", "\n").translate(_MARKS)
    text = _TAG.sub(lambda tag: "\n" if tag[0].lower().startswith(("<br", "</p", "</li", "</div")) else "", text)
    text = _STARS.sub(r"\2", text)
    text = _ONE_STAR.sub(r"\1", text)
    text = _UNDERSCORED.sub(r"\1", text)
    text = _SUB_NUMBER.sub(r"\1", text)
    text = _MONO_AND.sub(r"\1- ", text)
    text = _HYPHENED_NUMBER.sub(r"\1\2", text)
    text = _BROKEN.sub(lambda found: _joined(found[1], found[2], knows), text)
    text = text.translate(_QUOTES)
    text = _DASHES.sub(" – ", text)
    text = _FORTIFIED.sub(_plain_flour, text)
    text = _SAID_AGAIN.sub(r"\1 \3", text)
    text = _with_commas(text)
    lines = (re.sub(r"[ \f\v]+", " ", line).strip() for line in text.split("\n"))
    return "\n".join(line for line in lines if line)


def _plain_flour(fortified: re.Match[str]) -> str:
    """Its flour alone, with the comma that stood after it."""
    whole = fortified[0]
    ends_in_bracket = "(" in whole and not fortified["end"]
    if ends_in_bracket:  # more than what the law adds is in it
        return whole
    return fortified[1] + ("," + " " if whole.rstrip().endswith(",") else " " if whole.endswith(" ") else "")


def _with_commas(text: str) -> str:
    """A list whose names are parted by dots or bars, with commas."""
    for sign in _DOTS:
        if text.count(sign) >= _LEAST_DOTS and text.count(sign) > text.count(", "):
            text = text.replace(sign, ", ")
    return text


def _joined(before: str, after: str, knows: Callable[[str], bool]) -> str:
    whole = before + after
    keeps = not knows(whole) and ((knows(before) and knows(after)) or bool(_HYPHENED.fullmatch(f"{before}-{after}")))
    return f"{before}-{after}" if keeps else whole
