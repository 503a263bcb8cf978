"""What is pasted, without what no reader needs: so that no text, however odd, keeps a reader busy.

Worked example: "Sugar,      milk" becomes "Sugar, milk"; a figure of forty digits, which is none, keeps its first thirty.
"""

import re

_BLANKS = re.compile(r"[^\S\n]{2,}")
_EMPTY_LINES = re.compile(r"\n(?:[^\S\n]?\n)+")
_DIGITS = re.compile(r"([\d.,]{30})[\d.,]+")
_MARKS = re.compile(r"([^\w\s])\1{8,}")


def tamed(text: str, longest: int) -> str:
    """Runs of blanks become one, of empty lines one; no figure is longer than 30 signs, no mark stands more than eight times.

    Args:
        text: As pasted.
        longest: How many signs are read.
    """
    text = _BLANKS.sub(lambda run: "\t" if "\t" in run[0] else " ", text[:longest])
    text = _EMPTY_LINES.sub("\n\n", text)
    text = _DIGITS.sub(r"\1", text)
    return _MARKS.sub(lambda run: run[1] * 8, text)


def plain_text(text: str) -> str:
    """A text as it can be kept: line ends alike, without signs that are no letters and no blanks, such as page breaks.

    Args:
        text: As pasted.
    """
    alike = text.replace("\r\n", "\n").replace("\r", "\n").replace("\f", "\n").replace("\v", "\n")
    spaced = (" " if one.isspace() and one not in "\n\t" else one for one in alike)
    return "".join(one for one in spaced if one in "\n\t" or one.isprintable()).strip()
