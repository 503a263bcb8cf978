"""Brackets and separators: a list as nested pieces of text. Brackets of any kind; missing ones are named and forgiven."""

import re
from dataclasses import dataclass, field

_PAIRS = {")": "(", "]": "[", "}": "{"}
_OPENING = frozenset(_PAIRS.values())
_DEEPEST = 12  # no label nests half as deep
_DECIMAL = re.compile(r"\d,\d{1,3}\s*(?:%|g\b)")
_JOINS = re.compile(r"\s*(?:&|and|plus)\s+(?=\w)", re.I)
_SHOWN = 25
_MOST_GROUPS = 12


@dataclass(slots=True)
class Group:
    """What stands between brackets."""

    pieces: list["Piece"]
    text: str = ""


@dataclass(slots=True)
class Piece:
    """What stands between two separators: words and brackets in turn."""

    parts: list[str | Group] = field(default_factory=list)
    separator: str = ""  # what ends it: , or ; or nothing

    @property
    def is_empty(self) -> bool:
        """Whether nothing stands in it."""
        return all(isinstance(part, str) and not part.strip(" .-•·") for part in self.parts)

    @property
    def words(self) -> str:
        """Its words outside brackets."""
        return " ".join(part.strip() for part in self.parts if isinstance(part, str)).strip()

    @property
    def groups(self) -> list[Group]:
        """Its first brackets; no name has a dozen."""
        return [part for part in self.parts if isinstance(part, Group)][:_MOST_GROUPS]


@dataclass(slots=True)
class _Level:
    sign: str
    begin: int
    pieces: list[Piece] = field(default_factory=lambda: [Piece()])


def scanned(text: str) -> tuple[list[Piece], list[str]]:
    """A list's pieces, and sentences about brackets that do not fit.

    Args:
        text: Names with commas or semicolons between them, brackets in brackets.
    """
    problems: list[str] = []
    levels = [_Level("", 0)]
    ignored = 0  # brackets open below the deepest level that is read
    start = position = 0

    def flush(end: int) -> None:
        if end > start:
            levels[-1].pieces[-1].parts.append(text[start:end])

    def close(end: int) -> None:
        level = levels.pop()
        pieces = [piece for piece in level.pieces if not piece.is_empty]
        levels[-1].pieces[-1].parts.append(Group(pieces, text[level.begin : end]))

    while position < len(text):
        sign = text[position]
        if sign in _OPENING:
            if ignored or len(levels) > _DEEPEST:
                if not ignored:
                    flush(position)
                ignored += 1
            else:
                flush(position)
                levels.append(_Level(sign, position + 1))
            start = position + 1
        elif sign in _PAIRS and ignored:
            ignored -= 1
            start = position + 1
        elif sign in _PAIRS:
            flush(position)
            start = position + 1
            if len(levels) == 1:
                problems.append(f"A bracket closes that was never opened, after “…{text[max(0, position - _SHOWN) : position]}”.")
            else:
                same = [at for at, level in enumerate(levels) if level.sign == _PAIRS[sign]]
                upto = same[-1] if same else len(levels) - 1
                while len(levels) - 1 > upto:
                    problems.append(_unclosed(text, levels[-1].begin))
                    close(position)
                close(position)
                joined = _JOINS.match(text, position + 1)
                if joined:  # "soya lecithin (emulsifier) and vanilla"
                    levels[-1].pieces[-1].separator = ","
                    levels[-1].pieces.append(Piece())
                    position = joined.end() - 1
                    start = joined.end()
        elif sign in ",;" and not ignored and not (sign == "," and _DECIMAL.match(text, position - 1)):
            flush(position)
            levels[-1].pieces[-1].separator = sign
            levels[-1].pieces.append(Piece())
            start = position + 1
        position += 1
    if not ignored:
        flush(len(text))
    if ignored or _too_deep(text):
        problems.append(f"Brackets stand in more than {_DEEPEST} brackets; what is deeper was left out. Check the statement.")
    while len(levels) > 1:
        problems.append(_unclosed(text, levels[-1].begin))
        close(len(text))
    return [piece for piece in levels[0].pieces if not piece.is_empty], problems[:_MOST_PROBLEMS]


_MOST_PROBLEMS = 6


def _too_deep(text: str) -> bool:
    depth = 0
    for sign in text:
        depth = max(0, depth + (sign in _OPENING) - (sign in _PAIRS))
        if depth > _DEEPEST:
            return True
    return False


def _unclosed(text: str, begin: int) -> str:
    return (
        f"The bracket after “{text[max(0, begin - 1 - _SHOWN) : begin - 1].strip()}” is opened and never closed; "
        "what follows was read as its contents."
    )
