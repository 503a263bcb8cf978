"""Brackets and separators: a list as nested pieces of text. Brackets of any kind; missing ones are named and forgiven."""

import re
from dataclasses import dataclass, field

_PAIRS = {")": "(", "]": "[", "}": "{"}
_OPENING = frozenset(_PAIRS.values())
_STOP = re.compile(r"[()\[\]{},;]")
_DEEPEST = 12  # no label nests half as deep
_DECIMAL = re.compile(r"\d,\d{1,3}\s*(?:%|g\b)")
_JOINS = re.compile(r"\s*(?:&|and|plus)\s+(?=\w)", re.I)
_SHOWN = 25
_MOST_GROUPS = 12
_MOST_PROBLEMS = 6


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
    scanner = _Scanner(text)
    pieces = scanner.run()
    return pieces, scanner.problems[:_MOST_PROBLEMS]


class _Scanner:
    """Goes through a text once, from stop to stop."""

    def __init__(self, text: str) -> None:
        self.text = text
        self.problems: list[str] = []
        self.levels = [_Level("", 0)]
        self.ignored = 0  # brackets open below the deepest level that is read
        self.start = self.at = 0  # of the words not yet taken; of the sign looked at
        self.too_deep = False

    def run(self) -> list[Piece]:
        """The pieces of the whole text."""
        for found in _STOP.finditer(self.text):
            self.at, sign = found.start(), found[0]
            if sign in _OPENING:
                self._open(sign)
            elif sign in _PAIRS:
                self._close_at(sign)
            elif not self.ignored and not (sign == "," and _DECIMAL.match(self.text, self.at - 1)):
                self._take_words()
                self._separate(sign)
        self.at = len(self.text)
        if not self.ignored:
            self._take_words()
        if self.too_deep:
            self.problems.append(
                f"Brackets stand in more than {_DEEPEST} brackets; what is deeper was left out. Check the statement."
            )
        while len(self.levels) > 1:
            self._miss_close()
        return _whole(self.levels[0])

    def _take_words(self) -> None:
        if self.at > self.start:
            self.levels[-1].pieces[-1].parts.append(self.text[self.start : self.at])
        self.start = self.at + 1

    def _separate(self, sign: str) -> None:
        self.levels[-1].pieces[-1].separator = sign
        self.levels[-1].pieces.append(Piece())

    def _open(self, sign: str) -> None:
        if self.ignored or len(self.levels) > _DEEPEST:
            if not self.ignored:
                self._take_words()
            self.ignored += 1
            self.too_deep = True
        else:
            self._take_words()
            self.levels.append(_Level(sign, self.at + 1))
        self.start = self.at + 1

    def _close_at(self, sign: str) -> None:
        if self.ignored:
            self.ignored -= 1
            self.start = self.at + 1
            return
        self._take_words()
        if len(self.levels) == 1:
            before = self.text[max(0, self.at - _SHOWN) : self.at]
            self.problems.append(f"A bracket closes that was never opened, after “…{before}”.")
            return
        same = [at for at, level in enumerate(self.levels) if level.sign == _PAIRS[sign]]
        upto = same[-1] if same else len(self.levels) - 1
        while len(self.levels) - 1 > upto:
            self._miss_close()
        self._close()
        joined = _JOINS.match(self.text, self.at + 1)
        if joined:  # "soya lecithin (emulsifier) and vanilla"
            self._separate(",")
            self.at = joined.end() - 1
            self.start = joined.end()

    def _close(self) -> None:
        level = self.levels.pop()
        self.levels[-1].pieces[-1].parts.append(Group(_whole(level), self.text[level.begin : self.at]))

    def _miss_close(self) -> None:
        """Closes a bracket that the text does not, and says so."""
        begin = self.levels[-1].begin
        name = self.text[max(0, begin - 1 - _SHOWN) : begin - 1].strip()
        self.problems.append(f"The bracket after “{name}” is opened and never closed; what follows was read as its contents.")
        self._close()


def _whole(level: _Level) -> list[Piece]:
    return [piece for piece in level.pieces if not piece.is_empty]
