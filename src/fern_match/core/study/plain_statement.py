"""A statement as read, as plain values for other programs."""

from typing import Any

from fern_match.core.label.statement import StatementItem
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Meaning


def statement_read(reading: StudyReading) -> dict[str, Any]:
    """Names with their shares, classes and matches, what each bracket means, and the lists and notes beside.

    Percentages are of the finished piece as declared; confidences run from 0 to 1.
    """
    printed = reading.printed
    return {
        "items": [_item(reading, item) for item in printed.items],
        "contains": list(printed.contains),
        "may_contain": list(printed.may_contain),
        "minima": [{"of": one.of, "what": one.what, "percent": one.percent} for one in printed.minima],
        "says": printed.says,
        "notes": list(printed.notes),
        "problems": list(printed.problems),
        "unread": list(printed.unread),
    }


def _item(reading: StudyReading, item: StatementItem) -> dict[str, Any]:
    match = reading.matches[item.key]
    meaning = reading.meanings.get(item.key)
    ingredient_id = None if meaning is Meaning.PARTS else match.ingredient_id
    return {
        "name": item.name,
        "percent": item.percent,
        "class": item.class_name,
        "at_most": item.at_most_percent,
        "alternatives": list(item.alternatives),
        "source": item.source,
        "reads_as": meaning.value if meaning else "ingredient",
        "pantry": {"id": ingredient_id, "confidence": round(match.confidence, 2)},
        "contents": [{"what": one.what, "percent": one.percent} for one in item.contents],
        "items": [_item(reading, part) for part in item.items],
    }
