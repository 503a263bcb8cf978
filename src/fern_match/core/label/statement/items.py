"""Pieces of a list as items: shares, classes, sources, "2 % or less", "and/or", and what a bracket says of its name."""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from fern_match.core.label.statement.scanning import Group, Piece, scanned
from fern_match.core.label.statement.sentences import contents_in
from fern_match.core.label.statement.tree import StatementItem
from fern_match.core.label.statement.words import (
    COMPLETED,
    FAT,
    FOR_WHAT,
    GROUND,
    KINDS_OF,
    LEADING_TREATMENT,
    ONE_OF,
    PURPOSE,
    REMARK,
    SOURCE,
    TREATED,
    TREATMENTS_ONLY,
    VARYING,
    WHOLE,
    class_after,
    class_before,
    class_of,
    is_member,
    small_limit,
)

_NUMBER = r"\d{1,3}(?:[.,]\d{1,3})?"
_SHARE = re.compile(
    rf"(?<![\w.,-])(?:min(?:imum|\.)?\s*|at least\s*|approx\.?\s*)?({_NUMBER})\s*%"
    r"(?!\s*(?:min|(?:cocoa|cacao)(?! (?:nibs|mass|butter|powder|paste|liquor|cream|filling|beans))|milk (?:solids"
    r"|fat\b)|fat\b|alc|vol|abv|pure))(?!\s*-)",
    re.I,
)
# "7 % milk fat" alone is a name with its share; elsewhere it says how fat a milk is.
_MILK_FAT = re.compile(rf"\s*({_NUMBER})\s*%(?= (?:anhydrous )?milk fat\s*$)", re.I)
_BARE_SHARE = re.compile(
    r"\s*(?:(?:together|in total|total|in all)\s*)?(?:min(?:imum|\.)?\s*|approx\.?\s*)?"
    rf"({_NUMBER})\s*%\s*(?:min(?:imum|\.)?)?[*†‡\s]*",
    re.I,
)
# "70 % dark chocolate 62 %": of two shares the first is the cocoa.
_COCOA_FIRST = re.compile(rf"^\s*({_NUMBER})\s*%\s+((?:\w+ )?chocolate\b(?=.*\d\s*%))", re.I)
_RANGE = re.compile(r"(?<!\d)\d{1,3} ?[-–] ?\d{1,3} ?%(?: fat)?")
_CONTENT = re.compile(
    rf"(?:min(?:imum|\.)?\s*)?{_NUMBER} ?%\s*(?:min(?:imum|\.)?\s*)?(?:(?:cocoa|cacao)(?! (?:nibs|mass|butter|powder"
    r"|paste|liquor|cream|filling|beans))"
    rf"|milk (?=solids|fat\b)|fat\b(?!-)|alc|vol|abv)(?:[ -]?(?:solids?|content|min\w*|fat|by vol))*\.?",
    re.I,
)
_CODE = re.compile(r"(?:e ?|ins ?)?\d{3,4}[a-z]{0,2}(?:\([ivx]+\))?", re.I)
_SHARE_AND = re.compile(r"(%\)?)\s+(?:and|&)\s+(?=[A-Za-z])")  # "hazelnuts 8 % and almonds 8 %"
_CONTENT_INSIDE = re.compile(  # within a bracket: "... lecithins. Cocoa solids 30 % minimum)"
    rf"\.\s+(?=(?:dry )?(?:cocoa|cacao|milk)(?: solids)?:? (?:min\w*\.? )?{_NUMBER} ?%)", re.I
)
_OF_BRACKET = re.compile(
    rf"\s*(?:({_NUMBER})\s*%\s*)?(?:of|in) (?:the )?(?:filling|cent(?:re|er)|coating|layer|cream|base|caramel|chocolate|marzipan"
    r"|nougat|praline|ganache|fondant|wafer|biscuit|jam|jelly|paste|fudge|toffee|crumb|mallow|truffle)\s*",
    re.I,
)
_SHARE_FIRST = re.compile(rf"\s*({_NUMBER})\s*%\s*[,;]\s*([^%]+)")  # "(1.5 %, freeze-dried)"
_CODE_FROM = re.compile(r"((?:e ?)?\d{3,4}[a-z]?|lecithins?) \(?from (soya?|sunflower|rapeseed|milk|egg)\)?", re.I)
_MARKS = re.compile(r"[*†‡§¹²³^°◊•]+")
_ARTICLE = re.compile(r"(?:as )?(?:an?|the) +(?P<what>.+)", re.I)
_JOINS = re.compile(r"\s+(?:and/or|and|or|&|and then|plus)\s+", re.I)
_MOST_CHOICES = 24
_CHOICE = re.compile(r"\s+(?:and/or|or)\s+", re.I)
_INCLUDING = re.compile(
    r"^(?:includ(?:ing|es)|incl\.?|contain(?:ing|s)|consisting of|made (?:from|of)|composed of)\s*:?\s+(?!\d|less|one)", re.I
)
_CLASS_DASH = re.compile(r"^([\w ]{3,24}?)\s[-–]\s")
# What a bracket adds that is no part of the list: which vitamin it is, what it was kept with.
_ADDED = re.compile(r"vitamin [a-z]\d{0,2}(?: \w+)?|(?:contains? |preserved with )?(?:sul(?:ph|f)ites?|sul(?:ph|f)ur dioxide)")
_DASH_BETWEEN = re.compile(r"\s[-–]\s")
_LEADING_JOIN = re.compile(r"^(?:and/or|and|or|&|plus)\s+", re.I)


_MILK = frozenset({"milk", "cow milk", "cows milk"})
_MILKY = re.compile(r"milk|whey|lactose|cream|butterfat|curd")
_STRENGTH = re.compile(r"reb \w+|rebaudioside \w+|\d+x")
_MOST_COLONS = 3  # one heading, one class, one to spare


@dataclass(slots=True)
class _Run:
    """What an earlier piece says of those that follow at its level."""

    limit: float | None = None
    class_name: str | None = None  # a class in the plural with a colon goes on while members follow
    one_of: bool = False
    heading: str | None = None  # "coating (30 %):" goes on until a semicolon


@dataclass(frozen=True, slots=True)
class _Remark:
    """What a bracket says of the name before it."""

    name: str | None = None  # the name with the bracket's words in it
    class_name: str | None = None
    source: str | None = None


class Reader:
    """Reads the pieces of one statement."""

    def __init__(self, knows: Callable[[str], bool], *, second_first: bool = False) -> None:
        """A reader.

        Args:
            knows: Whether a name is one of the trade.
            second_first: Of "sucre / sugar", whether the second is ours.
        """
        self.knows = knows
        self.second_first = second_first
        self.groups = 0  # classes with several members so far

    def items(self, pieces: Sequence[Piece]) -> list[StatementItem]:
        """The items of one level, in order."""
        run = _Run()
        found: list[StatementItem] = []
        choice_from: int | None = None  # where names begin of which one or more are in it
        for piece in _with_their_adjectives(pieces):
            if self._belongs_to_last(piece, found):
                continue
            begun = self._begin(piece, run)
            if begun is None:
                continue
            if run.heading is not None:
                inside = self._read(begun, _Run())
                found[-1] = replace(found[-1], items=(*found[-1].items, *inside))
            else:
                read = self._read(begun, run)
                if run.limit is not None:
                    read = [_limited(item, run.limit) for item in read]
                if run.one_of and choice_from is None:
                    choice_from = len(found)
                found += read
            if piece.separator == ";":
                run.heading = None
                # "colours: E162; E160a": codes go on with their class
                run.class_name = run.class_name if found and _CODE.fullmatch(found[-1].name) else None
                found = _choices(found, choice_from)
                run.one_of, choice_from = False, None
        return _choices(found, choice_from)

    # --- beginnings ---------------------------------------------------------------------------------------------------

    def _begin(self, piece: Piece, run: _Run) -> Piece | None:
        """A piece without the words that open a group; None when nothing is left."""
        first = next((part for part in piece.parts if isinstance(part, str) and part.strip()), None)
        if first is None:
            return piece
        text = _LEADING_JOIN.sub("", first.strip())
        text = _CLASS_DASH.sub(_with_colon, _INCLUDING.sub("", text))
        small = small_limit(text)
        if small is not None:
            run.limit, text = small[0], small[1]
            run.class_name = None
        one = ONE_OF.match(text)
        if one:
            run.one_of, text = True, text[one.end() :]
        text = VARYING.sub(" ", text)
        at = piece.parts.index(first)
        parts: list[str | Group] = [*piece.parts[:at], text, *piece.parts[at + 1 :]]
        begun = Piece(parts, piece.separator)
        if begun.words.count(":") > _MOST_COLONS:
            begun = Piece([part.replace(":", " ") if isinstance(part, str) else part for part in parts], piece.separator)
        return None if begun.is_empty else begun

    def _belongs_to_last(self, piece: Piece, found: list[StatementItem]) -> bool:
        """Commas within a name: "PGPR, an emulsifier", "hazelnuts, whole and chopped"."""
        text = _plain_name(piece.words)
        if not found or piece.groups or not text:
            return False
        last = found[-1]
        if PURPOSE.match(text):
            return True
        article = _ARTICLE.fullmatch(text)
        if article and class_of(article["what"]):
            found[-1] = replace(last, class_name=last.class_name or _singular(article["what"]))
            return True
        if (TREATMENTS_ONLY.fullmatch(text) or TREATED.fullmatch(text)) and not self.knows(text):
            joined = f"{last.name} {text}" if TREATED.fullmatch(text) else f"{last.name}, {text}"
            found[-1] = replace(last, name=joined)
            return True
        return False

    # --- one piece ----------------------------------------------------------------------------------------------------

    def _read(self, piece: Piece, run: _Run) -> list[StatementItem]:
        words = piece.words
        head, colon, after = words.partition(":")
        named = class_of(_without_share(head)) if colon else None
        if colon and named:
            run.class_name = named[0] if named[1] else None
            rest = _after_colon(piece)
            if rest.is_empty:
                return []
            read = self._in_class(named[0], [item for member in _dashed(rest) for item in self._read(member, _Run())])
            if run.class_name and len(read) == 1:
                self.groups += 1
                read = [replace(read[0], class_group=self.groups)]
            return read
        if colon and after.strip() and piece.parts[0] != "" and len(head.split()) <= 4 and not _CONTENT.search(words):
            return self._headed(piece, head, run)
        items = self._one(piece)
        if run.class_name is not None:
            if all(not item.items and is_member(run.class_name, item.name) and item.class_name is None for item in items):
                return [replace(_classed(item, run.class_name), class_group=self.groups) for item in items]
            run.class_name = None
        return items

    def _headed(self, piece: Piece, head: str, run: _Run) -> list[StatementItem]:
        """A heading within a list: what follows up to the next semicolon is in it."""
        inside = self._read(_after_colon(piece), _Run())
        shares = [bare for group in piece.groups if (bare := _BARE_SHARE.fullmatch(group.text.strip()))]
        share, decimals, words = _share(head)
        if share is None and shares:
            share, decimals = _number(shares[0][1])
        name = _plain_name(words)
        if not name:
            return inside
        if piece.separator == ",":
            run.heading = name
        return [StatementItem(key="", name=name, percent=share, percent_decimals=decimals, items=tuple(inside))]

    def _one(self, piece: Piece) -> list[StatementItem]:
        """A name with its brackets."""
        text = _COCOA_FIRST.sub(r"\1% cocoa \2", self._our_tongue(piece.words))
        share, decimals, text = _share(text)
        contents = list(contents_in(" ".join(_CONTENT.findall(text)), "")) if _CONTENT.search(text) else []
        text = _RANGE.sub(" ", _CONTENT.sub(" ", text))
        free = bool(VARYING.search(piece.words))
        class_name, name = _class_beside(_plain_name(FOR_WHAT.sub("", VARYING.sub(" ", text))))
        source: str | None = None
        coded = _CODE_FROM.fullmatch(name)
        if coded:
            name, source = coded[1], coded[2]
        opened: list[StatementItem] = []
        of_bracket = False
        head_class = class_of(name)
        for number, group in enumerate(piece.groups):
            inside = group.text.strip()
            bare = _BARE_SHARE.fullmatch(inside)
            if bare and share is None:
                share, decimals = _number(bare[1])
                continue
            first = _SHARE_FIRST.fullmatch(inside)
            if first and share is None and self._remark(first[2], name, opened_later=False) is not None:
                (share, decimals), inside = _number(first[1]), first[2]
            of = _OF_BRACKET.fullmatch(inside)
            if of:
                of_bracket = True
                share, decimals = _number(of[1]) if of[1] else (share, decimals)
                continue
            said = self._remark(inside, name, opened_later=number + 1 < len(piece.groups))
            if said is not None:
                contents += contents_in(inside, "")
                name = said.name or name
                class_name = class_name or said.class_name
                source = source or said.source
                continue
            if VARYING.fullmatch(inside) or VARYING.fullmatch(f"({inside})"):
                free = True
                continue
            free = free or bool(VARYING.search(inside))
            told = [one for one in group.pieces if _is_content(_plain_name(one.words)) and not _is_name_too(one, group.pieces)]
            contents += [one for piece in told for one in contents_in(piece.words, "")]
            opened += self.items([piece for piece in group.pieces if piece not in told])
        if head_class and opened:
            return self._in_class(head_class[0], opened)
        if not name:
            return opened
        names = self._names(name) if not opened else [(name, False)]
        items = [
            StatementItem(
                key="",
                name=one,
                percent=share if len(names) == 1 else None,
                percent_decimals=decimals if len(names) == 1 else 0,
                of_bracket=of_bracket,
                class_name=class_name,
                source=source,
                contents=tuple(contents) if len(names) == 1 else (),
                free_order=free and bool(opened),
                items=tuple(opened),
            )
            for one, _ in names
        ]
        return _as_choice(items) if len(names) > 1 and names[0][1] else items

    def _in_class(self, class_name: str, items: Sequence[StatementItem]) -> list[StatementItem]:
        """Members of one class, ranked on the label by what they weigh together."""
        self.groups += len(items) > 1
        group = self.groups if len(items) > 1 else 0
        return [replace(_classed(item, class_name), class_group=item.class_group or group) for item in items]

    def _remark(self, inside: str, name: str, *, opened_later: bool) -> _Remark | None:
        """What a bracket says of its name without opening it; None where it lists what is in it."""
        low = re.sub(r"\s+", " ", inside).strip(" .*†").lower()
        if not low or _is_content(low) or (low.startswith("with ") and name):
            return _Remark()
        is_class = bool(class_of(name))
        if name and not is_class and (_ADDED.fullmatch(low) or TREATMENTS_ONLY.fullmatch(low)):
            return _Remark()
        several = _asides(low) if name and not is_class else None
        if several is not None:
            return several
        for says in (_class_in, _treatment_in, _source_in):
            said = says(low, name, is_class=is_class)
            if said is not None:
                return said
        if SOURCE.fullmatch(low):
            return None
        if KINDS_OF.search(name) and low.startswith("contains "):
            return None
        if name and not is_class and (_CODE.fullmatch(low) or self._is_aside(low)):
            return _Remark(source=_source(re.sub(r"^contains? ", "", low)))
        if opened_later and not re.search(r"[,;]", low):
            if _foreign(name, self.knows) and any(self.knows(word) for word in low.split()):
                return _Remark(name=_plain_name(low))
            return None if self.knows(low) else _Remark()
        return _Remark() if _STRENGTH.fullmatch(low) else None

    def _is_aside(self, low: str) -> bool:
        """Words of origin, purpose or kind: "from milk", "to preserve freshness", "organic"."""
        if not REMARK.match(low) or small_limit(low) or ONE_OF.match(low):
            return False
        return bool(_source(re.sub(r"^contains? ", "", low))) or not (re.search(r"[,;].+[,;]", low) or self.knows(low))

    def _names(self, name: str) -> list[tuple[str, bool]]:
        """A name that joins several with "and", split where each is a name; each with whether one may stand for the rest."""
        if not _JOINS.search(f" {name} "):
            return [(name, False)]
        choice = bool(_CHOICE.search(name))
        if WHOLE.search(name):
            return [(name, False)]
        parts = [part.strip(" ,") for part in _JOINS.split(name) if part.strip(" ,")]
        if len(parts) < 2:
            return [(name, False)]
        if choice or all(self._is_name(part) for part in parts):
            return [(part, choice) for part in parts]
        return [(name, False)]

    def _is_name(self, text: str) -> bool:
        return (
            self.knows(text)
            or bool(_CODE.fullmatch(text))
            or bool(FAT.search(text))
            or bool(re.search(r"\b(?:proteins?|oils?|fats?|syrups?|powder|flour|extract|seeds?)$", text))
        )

    def _our_tongue(self, text: str) -> str:
        """Of "sugar / sucre" the half that is ours."""
        if " / " not in text and not re.search(r"[a-z]/ ", text):
            return text
        halves = [half.strip() for half in re.split(r"\s+/\s*|/\s+", text) if half.strip()]
        if len(halves) < 2:
            return text
        order = list(reversed(halves)) if self.second_first else halves
        bare = [_SHARE.sub("", half) for half in order]
        known = next((half for half, plain in zip(order, bare, strict=True) if self.knows(_plain_name(plain))), None)
        shares = [found[0] for half in halves for found in [_SHARE.search(half)] if found]
        best = known or order[0]
        return best if _SHARE.search(best) or not shares else f"{best} {shares[0]}"


def _with_their_adjectives(pieces: Sequence[Piece]) -> list[Piece]:
    """Pieces with a comma within their name mended: "roasted, salted almonds" are one."""
    mended: list[Piece] = []
    held = ""
    for at, piece in enumerate(pieces):
        words = _plain_name(piece.words)
        after = _plain_name(pieces[at + 1].words) if at + 1 < len(pieces) else ""
        alone = not piece.groups and piece.separator == "," and TREATMENTS_ONLY.fullmatch(words) and " and " not in words
        if alone and LEADING_TREATMENT.match(after) and not TREATMENTS_ONLY.fullmatch(after):
            held += f"{words}, "
            continue
        mended.append(Piece([held, *piece.parts], piece.separator) if held else piece)
        held = ""
    return mended


def _is_content(low: str) -> bool:
    """Whether words tell only a share, a range or a content."""
    if contents_in(low, "") and not re.search(r"[,;].*[,;]", low):
        return True
    return any(pattern.fullmatch(low) for pattern in (_CONTENT, _RANGE, _BARE_SHARE))


def _is_name_too(piece: Piece, beside: Sequence[Piece]) -> bool:
    """Whether what looks like a content is an ingredient: it has a list, or is the only milk ("sugar, milk solids 23 %, ...")."""
    low = piece.words.lower()
    if any("," in group.text for group in piece.groups):
        return True
    milky = any(_MILKY.search(other.words.lower()) for other in beside if other is not piece)
    return "milk solids" in low and "min" not in low and not milky


def _asides(low: str) -> _Remark | None:
    """Several remarks in one bracket: "emulsifier, from soy"."""
    parts = [part.strip() for part in low.split(",")]
    if len(parts) < 2 or not all(class_of(part) or (REMARK.match(part) and _source(part)) for part in parts):
        return None
    named = next((class_of(part) for part in parts if class_of(part)), None)
    source = next((_source(part) for part in parts if _source(part)), None)
    return _Remark(class_name=named[0] if named else None, source=source)


def _class_in(low: str, name: str, *, is_class: bool) -> _Remark | None:
    article = _ARTICLE.fullmatch(low)
    named = class_of(article["what"] if article else low)
    if named and name and (not is_class or name.endswith("starch")):
        return _Remark(class_name=named[0])
    return _Remark() if article and ":" not in low and "," not in low else None


def _treatment_in(low: str, name: str, *, is_class: bool) -> _Remark | None:
    return _Remark(name=f"{name} {low}") if TREATED.fullmatch(low) and not is_class else None


def _source_in(low: str, name: str, *, is_class: bool) -> _Remark | None:
    """ "butter (milk)" has a source, "lecithins (soya)" are soya lecithins; "almond butter (almonds)" is opened: None."""
    source = _source(low)
    if source and re.search(r" (?:and/or|or|and|&) ", source) and not low.startswith(("from ", "derived from ")):
        return None
    if source and ((GROUND.search(name) and source not in _MILK) or KINDS_OF.search(name) or (is_class and "flavo" not in name)):
        return None
    if COMPLETED.search(name):  # "lecithins (sunflower oil)" are of its seeds
        low = re.sub(r" (?:oil|seeds?)$", "", low)
        source = source or _source(low)
    if COMPLETED.search(name) and (source or re.fullmatch(r"[a-z]+", low)):
        return _Remark(name=f"{source or low} {name}") if "lecithin" in name else _Remark(source=source or low)
    return _Remark(source=source) if source else None


def _source(low: str) -> str | None:
    found = SOURCE.fullmatch(low)
    return found[1] if found else None


def _foreign(name: str, knows: Callable[[str], bool]) -> bool:
    return bool(name) and not any(knows(word) for word in name.split())


def _after_colon(piece: Piece) -> Piece:
    """A piece without what stands before its first colon."""
    parts: list[str | Group] = []
    seen = False
    for part in piece.parts:
        if not seen and isinstance(part, str) and ":" in part:
            parts.append(part.partition(":")[2])
            seen = True
        elif seen:
            parts.append(part)
    return Piece(parts, piece.separator)


def _without_share(text: str) -> str:
    return _SHARE.sub("", text).strip(" ()")


def _number(text: str) -> tuple[float, int]:
    number = text.replace(",", ".")
    return float(number), len(number.partition(".")[2])


def _share(text: str) -> tuple[float | None, int, str]:
    match = _MILK_FAT.match(text) or _SHARE.search(text)
    if match is None or _number(match[1])[0] > 100:
        return None, 0, text
    value, decimals = _number(match[1])
    return value, decimals, f"{text[: match.start()]} {text[match.end() :]}".strip()


_E_NUMBER = re.compile(r"\be (\d{3,4}[a-z]*)\b")
_EMPTY_BRACKET = re.compile(r"\s*\(\s*\)")


def _with_colon(found: re.Match[str]) -> str:
    """ "Emulsifier - soya lecithin" with its colon."""
    return f"{found[1]}: " if class_of(found[1]) else found[0]


@lru_cache(maxsize=2000)
def _plain_name(text: str) -> str:
    """The words of a name: small letters, one space, no marks; "E 322" is e322."""
    name = " ".join(_MARKS.sub("", text.lower()).split()).strip(" .:;,-–•·\"'_#")
    name = _E_NUMBER.sub(r"e\1", name)
    return _EMPTY_BRACKET.sub("", name).strip()


def _singular(text: str) -> str:
    named = class_of(text)
    return named[0] if named else text


def _class_beside(name: str) -> tuple[str | None, str]:
    """A class that stands beside a substance, and the substance: "emulsifier lecithins", "lecithins as emulsifier"."""
    split = class_after(name) or class_before(name)
    return (split[0], split[1]) if split is not None and class_of(split[0]) else (None, name)


def _dashed(piece: Piece) -> list[Piece]:
    """Members of a class that dashes part: "emulsifiers: lecithins - E476"."""
    if len(piece.parts) != 1 or not isinstance(piece.parts[0], str):
        return [piece]
    members = [part for part in _DASH_BETWEEN.split(piece.parts[0]) if part.strip()]
    return [Piece([part], piece.separator) for part in members] or [piece]


def _classed(item: StatementItem, class_name: str) -> StatementItem:
    return item if item.class_name else replace(item, class_name=class_name)


def _limited(item: StatementItem, limit: float) -> StatementItem:
    return item if item.at_most_percent is not None else replace(item, at_most_percent=limit)


def _as_choice(items: Sequence[StatementItem]) -> list[StatementItem]:
    """Names of which one may stand for the others; of more than so many it is a list."""
    if len(items) > _MOST_CHOICES:
        return list(items)
    return [
        item if item.alternatives else replace(item, alternatives=tuple(other.name for other in items if other is not item))
        for item in items
    ]


def _choices(items: list[StatementItem], begin: int | None) -> list[StatementItem]:
    """Items, of which those from one on stand for each other."""
    return items if begin is None else [*items[:begin], *_as_choice(items[begin:])]


def items_of(text: str, knows: Callable[[str], bool], *, second_first: bool = False) -> tuple[list[StatementItem], list[str]]:
    """The items of a list, and sentences on brackets that do not fit.

    Args:
        text: The list alone, without closing sentences.
        knows: Whether a name is one of the trade.
        second_first: Of "sucre / sugar", whether the second is ours.
    """
    pieces, problems = scanned(_CONTENT_INSIDE.sub(", ", _SHARE_AND.sub(r"\1, ", text)))
    return Reader(knows, second_first=second_first).items(pieces), problems
