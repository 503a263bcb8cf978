"""Ingredient statements as copied from packs, read into names, brackets, shares, and the sentences that stand beside them.

Belongs here: what the printed words say. Must never happen here: what a name is in the pantry, or which layer it is in.
Words and their classes stand in `words.py`; a new closing sentence goes into `sentences.py`.
"""

import re
from collections.abc import Callable, Sequence
from dataclasses import replace

from fern_match.core.food.allergen_names import allergens_named
from fern_match.core.food.names import known_name
from fern_match.core.label.statement.cleaning import cleaned
from fern_match.core.label.statement.items import items_of
from fern_match.core.label.statement.sentences import Sentences, told_apart
from fern_match.core.label.statement.tongues import ENGLISH, in_english, tongue_heard
from fern_match.core.label.statement.tree import Minimum, Statement, StatementItem
from fern_match.core.measures.pasted import tamed

__all__ = ["Minimum", "Statement", "StatementItem", "read_statement"]

_LONGEST = 20_000
# "raspberries in white chocolate", "almonds covered with dark chocolate"; other languages leave their word for "covered" out
_IN_CHOCOLATE = re.compile(r"(.+?)(?: (?:covered |coated |dipped |enrobed )?(?:in|with)|(?<=s)) ((?:\w+ )?chocolate)")
_COMPONENTS = re.compile(
    r"\b(?:fillings?|cream|creme|centres?|centers?|coatings?|layers?|bases?|core|bars?|sauce|mousse|toppings?)$"
)
_HALF = 50.0  # %


def read_statement(text: str, knows: Callable[[str], bool] = known_name) -> Statement:
    """A pasted ingredient statement as a tree, with the lists and notes beside it.

    Args:
        text: As pasted, in English or in two languages; may be empty; at most 20,000 signs are read.
        knows: Whether a word or name is one of the trade; where names end is decided by it.
    """
    text = tamed(text, _LONGEST)
    told = in_english(cleaned(text, knows), knows)
    found = told_apart(told.text, knows)
    foreign = [note for note in found.notes if tongue_heard(note, knows) != ENGLISH]
    _warned_elsewhere(found, [*told.others, *foreign], knows)
    items, problems = items_of(", ".join(found.lists), knows, second_first=found.second_first)
    if len(items) == 1 and not items[0].items:
        problems.append(f"Only one ingredient was read (“{items[0].name}”). Separate the names with commas.")
    return Statement(
        items=tuple(_keyed(_out_of_chocolate(items, told.text, knows), "", {})),
        problems=tuple(problems),
        contains=tuple(dict.fromkeys(found.contains)),
        may_contain=tuple(dict.fromkeys(found.may_contain)),
        minima=tuple(found.minima),
        says=told.beside.get(found.says.strip(" .,;!"), found.says),
        notes=(*(told.beside.get(note.strip(" .,;!"), note) for note in found.notes), *told.others),
        unread=tuple(told.beside.get(one.strip(" .,;!"), one) for one in found.unread),
        tongue=told.tongue,
        printed=told.printed,
    )


def _out_of_chocolate(items: Sequence[StatementItem], text: str, knows: Callable[[str], bool]) -> list[StatementItem]:
    """What lies in a chocolate that alone is taken apart stands beside it: "raspberries (12 %) in white chocolate (sugar, ...)".

    A share is of what it is printed after. The chocolate comes first, being more, unless more than half is said to be the other.
    """
    found: list[StatementItem] = []
    for item in items:
        told = _IN_CHOCOLATE.fullmatch(item.name)  # in English, as the text
        inside = {word for part in item.items for word in part.name.split()}
        if (
            told is None
            or _COMPONENTS.search(told[1])
            or knows(item.name)
            or not knows(told[1])
            or "cocoa" not in inside
            or told[1].split()[-1] in inside
        ):
            found.append(item)
            continue
        of_it = bool(re.search(rf"{re.escape(told[1].split()[-1])}\W{{0,2}}\d[\d.,]*\s?%", text, re.IGNORECASE))
        it = replace(item, name=told[1], items=(), contents=(), percent=item.percent if of_it else None)
        chocolate = replace(item, name=told[2], percent=None if of_it else item.percent)
        found += [it, chocolate] if (it.percent or 0.0) > _HALF else [chocolate, it]
    return found


def _warned_elsewhere(found: Sentences, others: Sequence[str], knows: Callable[[str], bool]) -> None:
    """Adds what only the same list in another language says of allergens and traces: no warning is lost with its language."""
    for other in others:
        warned = told_apart(in_english(other, knows).text, knows)
        for names, more in ((found.contains, warned.contains), (found.may_contain, warned.may_contain)):
            known = frozenset().union(*(allergens_named(name) for name in names))
            names += [name for name in more if allergens_named(name) - known]


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
