"""An ingredient statement read into a tree: nested brackets, percentages, the "2 % or less" group, class names."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from fern_match.core.food.names import plain

_CLASS_WORDS = frozenset(
    {
        *(
            "emulsifier",
            "emulsifiers",
            "sweetener",
            "sweeteners",
            "acid",
            "acids",
            "acidity regulator",
            "acidity regulators",
        ),
        *(
            "colour",
            "colours",
            "color",
            "colors",
            "colouring",
            "raising agent",
            "raising agents",
            "leavening",
            "leavening agent",
        ),
        *(
            "gelling agent",
            "gelling agents",
            "bulking agent",
            "bulking agents",
            "stabiliser",
            "stabilisers",
            "stabilizer",
        ),
        *(
            "stabilizers",
            "humectant",
            "humectants",
            "thickener",
            "thickeners",
            "preservative",
            "preservatives",
            "antioxidant",
        ),
        *("antioxidants", "glazing agent", "glazing agents", "flavouring", "flavourings", "flavoring", "flavorings"),
    }
)
_PERCENT = re.compile(r"(?:\(\s*|\b)(?:min(?:imum)?\.?\s*)?(\d+(?:[.,]\d+)?)\s*%\s*\)?")
_SMALL_GROUP = re.compile(
    r"(?:contains?\s+)?(?:less than\s+|<\s*)?(\d+(?:[.,]\d+)?)\s*%(?:\s+or less)?\s+of(?:\s+(?:each of )?the following)?\s*:?\s*",
    re.IGNORECASE,
)
_LEAD = re.compile(r"^\s*(?:ingredients?|made with|ingrédients)\s*[:.]\s*", re.IGNORECASE)
_TAIL = re.compile(
    r"(?:^|[.;\n])\s*(?:contains|may contain|allergy advice|allergens?|for allergens)\b(?!\s+(?:less|\d)).*$",
    re.I | re.S,
)
_OPENING, _CLOSING = "([{", ")]}"
_DEEPEST = 12  # no label nests half as deep


@dataclass(frozen=True, slots=True, kw_only=True)
class StatementItem:
    """One name on the statement, with what stands in its brackets."""

    key: str  # its names from the top down, "dark chocolate > sugar"; a number follows where a name stands twice
    name: str
    percent: float | None = None  # declared, of the finished piece as used
    percent_decimals: int = 0
    class_name: str | None = None  # emulsifier, acid ...: what it is there for
    at_most_percent: float | None = None  # it stands in a "2 % or less" group
    items: tuple["StatementItem", ...] = ()

    @property
    def is_compound(self) -> bool:
        """Whether brackets open what it is made of."""
        return bool(self.items)

    def leaves(self) -> tuple["StatementItem", ...]:
        """Every name below that is not opened further; itself when it is one."""
        return tuple(leaf for part in self.items for leaf in part.leaves()) if self.items else (self,)


@dataclass(frozen=True, slots=True)
class Statement:
    """An ingredient statement, in its printed order."""

    items: tuple[StatementItem, ...]
    problems: tuple[str, ...]

    def leaves(self) -> tuple[StatementItem, ...]:
        """Every name that is not opened further, from first to last."""
        return tuple(leaf for item in self.items for leaf in item.leaves())


def read_statement(text: str) -> Statement:
    """A pasted ingredient statement as a tree.

    Understood: commas and semicolons, brackets in brackets, "(16 %)", "17%", "emulsifier (soya lecithin)", "emulsifier: soya
    lecithin", "contains 2 % or less of: ...", capitals, a leading "Ingredients:", a trailing "Contains: ...".

    Args:
        text: As pasted; may be empty.
    """
    problems: list[str] = []
    body = _TAIL.sub("", _LEAD.sub("", " ".join(text.split()))).strip(" .;,")
    if not body:
        return Statement((), ())
    depth = _bracket_problem(body)
    if depth:
        problems.append(depth)
    deepest = _depth(body)
    if deepest > _DEEPEST:
        problems.append(
            f"Brackets stand in brackets {deepest} deep; what is deeper than {_DEEPEST} was left out. Check the statement."
        )
        body = _flattened(body)
    main, small, limit = _split_small_group(body)
    items = _items(main)
    if small is not None:
        items += [_limited(item, limit) for item in _items(small)]
    if len(items) == 1 and not items[0].items:
        problems.append(f"Only one ingredient was read (“{items[0].name}”). Separate the names with commas.")
    return Statement(tuple(_keyed(items, "", {})), tuple(problems))


def _bracket_problem(body: str) -> str | None:
    depth = 0
    for position, sign in enumerate(body):
        depth += (sign in _OPENING) - (sign in _CLOSING)
        if depth < 0:
            return f"A bracket closes that was never opened, after “…{body[max(0, position - 25) : position]}”."
    return "A bracket is opened and never closed; everything after it was read as its contents." if depth else None


def _split_small_group(body: str) -> tuple[str, str | None, float]:
    for match in _SMALL_GROUP.finditer(body):
        before = body[: match.start()]
        if before.count("(") == before.count(")"):
            return before.strip(" ,;."), body[match.end() :], float(match[1].replace(",", "."))
    return body, None, 0.0


def _split(text: str) -> list[str]:
    parts, depth, start = [], 0, 0
    for position, sign in enumerate(text):
        depth = max(0, depth + (sign in _OPENING) - (sign in _CLOSING))
        decimal_comma = sign == "," and text[position - 1 : position].isdigit() and text[position + 1 : position + 2].isdigit()
        if depth == 0 and sign in ",;" and not decimal_comma:
            parts.append(text[start:position])
            start = position + 1
    return [part.strip(" .") for part in (*parts, text[start:]) if part.strip(" .")]


def _items(text: str) -> list[StatementItem]:
    return [item for part in _split(text) for item in _item(part)]


def _item(part: str) -> list[StatementItem]:
    """One piece between commas; a class name in front of a bracket gives way to what stands in it."""
    head, inside = _brackets(part)
    percent, decimals, head = _percent(head)
    class_name, colon, after = head.partition(":")
    if colon and plain(class_name) in _CLASS_WORDS:
        return [replace(item, class_name=plain(class_name)) for item in _item(after.strip() + (f" ({inside})" if inside else ""))]
    if inside is not None and plain(head) in _CLASS_WORDS:
        return [replace(item, class_name=plain(head)) for item in _items(inside)]
    name = plain(head)
    if not name:
        return _items(inside) if inside else []
    children = _items(inside) if inside else []
    if len(children) == 1 and not children[0].items and percent is None and _is_remark(children[0].name):
        children = []
    return [StatementItem(key="", name=name, percent=percent, percent_decimals=decimals, items=tuple(children))]


def _is_remark(text: str) -> bool:
    """Words in brackets that describe a food instead of opening it: "(from milk)", "(organic)", "(a preservative)"."""
    return text.startswith(("from ", "a ", "an ", "to ", "for ")) or text in {"organic", "milk", "soya", "soy", "wheat"}


def _brackets(part: str) -> tuple[str, str | None]:
    """The head of a piece, percentages in brackets kept with it, and the text of its opening bracket."""
    head, inside, depth, current = "", [], 0, ""
    for sign in part:
        if sign in _OPENING and depth == 0:
            depth, current = 1, ""
        elif depth:
            depth += (sign in _OPENING) - (sign in _CLOSING)
            if depth == 0:
                if _PERCENT.fullmatch(current.strip()):
                    head += f" {current} "
                else:
                    inside.append(current)
            else:
                current += sign
        else:
            head += sign
    if depth:
        inside.append(current)
    return head.strip(), ", ".join(inside) if inside else None


def _percent(head: str) -> tuple[float | None, int, str]:
    match = _PERCENT.search(head)
    if match is None:
        return None, 0, head
    number = match[1].replace(",", ".")
    return float(number), len(number.partition(".")[2]), (head[: match.start()] + head[match.end() :]).strip()


def _limited(item: StatementItem, limit: float) -> StatementItem:
    return replace(item, at_most_percent=limit)


def _depth(body: str) -> int:
    """How deep brackets stand in brackets."""
    depth = deepest = 0
    for sign in body:
        depth = max(0, depth + (sign in _OPENING) - (sign in _CLOSING))
        deepest = max(deepest, depth)
    return deepest


def _flattened(body: str) -> str:
    """Without what stands deeper than any label nests."""
    depth, kept = 0, []
    for sign in body:
        opens, closes = sign in _OPENING, sign in _CLOSING
        depth += opens
        if depth <= _DEEPEST:
            kept.append(sign)
        depth = max(0, depth - closes)
    return "".join(kept)


def _keyed(items: Sequence[StatementItem], above: str, taken: dict[str, int]) -> list[StatementItem]:
    """Each item with its key; a number follows where a name stands again. `taken` counts how often each name stood."""
    keyed = []
    for item in items:
        stem = f"{above} > {item.name}" if above else item.name
        copy = taken.get(stem, 0) + 1
        key = stem if copy == 1 else f"{stem} {copy}"
        while key in taken:
            copy += 1
            key = f"{stem} {copy}"
        taken[stem] = copy
        taken.setdefault(key, 1)
        keyed.append(replace(item, key=key, items=tuple(_keyed(item.items, key, taken))))
    return keyed
