"""What changed between two states of a match, in words: "Caramel, reading 2: 8.1 g, was 8.7 g"."""

from collections.abc import Mapping
from typing import Any

from fern_match.core.families import families
from fern_match.core.food import Pantry
from fern_match.core.history.fields import Field, fields_of
from fern_match.core.label.rows import panel_rows
from fern_match.core.match import Match
from fern_match.core.study.record import PIECE

_TITLES = {
    "name": "Name",
    "maker": "Maker",
    "statement": "Ingredient statement",
    "net_weight": "Net weight",
    "pieces_per_pack": "Pieces in the pack",
    "serving": "Serving",
    "region": "Label from",
    "basis": "Figures are per",
}
_SIZES = {"length": "long", "width": "wide", "height": "high"}
_LONGEST = 60
_ABSENT = object()


def changes(before: Match, after: Match, pantry: Pantry) -> tuple[str, ...]:
    """One sentence for each field that differs, in the order of the study.

    Args:
        before: The earlier state.
        after: The later one.
        pantry: For names of ingredients.
    """
    old, new = fields_of(before), fields_of(after)
    names = _names(before) | _names(after)
    sentences = []
    for field in dict.fromkeys((*old, *new)):
        was, now = old.get(field, _ABSENT), new.get(field, _ABSENT)
        if was != now:
            sentence = _sentence(field, was, now, names, after, pantry)
            if sentence is not None:
                sentences.append(sentence)
    return tuple(dict.fromkeys(sentences))


def field_title(field: Field, match: Match, pantry: Pantry | None = None) -> str:
    """What a user calls a field.

    Args:
        field: Which one.
        match: For names of layers.
        pantry: For names of ingredients; without one their ids stand.
    """
    return _title(field, _names(match), match, pantry)


def _names(match: Match) -> dict[str, str]:
    return {layer.id: layer.name or "Unnamed layer" for layer in match.study.layers} | {PIECE: "Whole piece"}


def _title(field: Field, names: Mapping[str, str], match: Match, pantry: Pantry | None) -> str:
    kind = field[0]
    if kind in _TITLES:
        return _TITLES[kind]
    if kind == "row":
        titles = {spec.id.value: spec.title for spec in panel_rows(match.study.region)}
        return titles.get(field[1], field[1].replace("_", " ")).removeprefix("of which ").capitalize()
    if kind == "reading":
        return f"{names.get(field[1], field[1])}, reading {int(field[2]) + 1}"
    if kind == "layer":
        return f"{names.get(field[1], field[1])}, {field[2]}"
    if kind == "placement":
        return f"{field[1].rpartition(' > ')[2]} in {names.get(field[2], field[2])}"
    if kind == "correction":
        return f"“{field[1].rpartition(' > ')[2]}” taken for"
    if kind == "size":
        return f"Piece, {_SIZES[field[1]]}"
    if kind == "in house":
        return f"{pantry[field[2]].name if pantry and field[2] in pantry else field[2]}, in the house"
    if kind == "loss":
        return f"{names.get(field[2], field[2])}, stays on tools"
    return {"pieces": "Pieces wanted", "layer order": "Order of layers", "doubt": "Evidence"}.get(kind, kind)


def _sentence(field: Field, was: Any, now: Any, names: Mapping[str, str], after: Match, pantry: Pantry) -> str | None:
    kind, title = field[0], _title(field, names, after, pantry)
    if kind in {"version order", "batch order", "batch"}:
        return None
    if kind == "doubt":
        return f"Evidence switched {'on' if now is _ABSENT else 'off'}: {field[1].partition(':')[2] or field[1]}"
    if kind == "version":
        return "Version taken from the estimate" if now is not _ABSENT else "Version removed"
    if kind == "layer" and (was is _ABSENT or now is _ABSENT):
        return f"{names.get(field[1], field[1])}: layer {'added' if was is _ABSENT else 'removed'}"
    if kind == "layer order":
        return "Order of layers changed" if set(was) == set(now) else None
    empty = (_ABSENT, "")
    if was in empty and now in empty:
        return None  # a field that appeared with nothing in it
    if now is _ABSENT or now == "":
        return f"{title}: taken away, was {_value(field, was, names, pantry)}"
    if was is _ABSENT or was == "":
        return f"{title}: {_value(field, now, names, pantry)}"
    return f"{title}: {_value(field, now, names, pantry)}, was {_value(field, was, names, pantry)}"


def _value(field: Field, value: Any, names: Mapping[str, str], pantry: Pantry) -> str:
    if value is None:
        return "none"
    text = str(value)
    if field[0] == "layer" and field[2] == "family" and text in families():
        text = families()[text].name
    elif field[0] == "layer" and field[2] == "host":
        text = names.get(text, text)
    elif field[0] == "correction" and text in pantry:
        text = pantry[text].name
    elif field[0] == "reading" and text.strip().replace(".", "", 1).isdigit():
        text = f"{text.strip()} g"
    return text if len(text) <= _LONGEST else f"{text[: _LONGEST - 1]}…"
