"""Trials as CSV: one row for each thing that was read, of original and copy; formulas defused."""

import csv
import io
from collections.abc import Sequence

from fern_match.core.trials import Looked, clues
from fern_match.exchange.log_csv import defused

COLUMNS = ("trial", "tried_on", "version", "layer", "what", "unit", "original", "copy", "apart", "low", "high", "is_told")


def written_trials(trials: Sequence[Looked]) -> str:
    """The rows of trials: what was compared, what was reached and answered, what was wrong, tastings and days.

    Args:
        trials: In the order they were begun.
    """
    text = io.StringIO()
    rows = csv.writer(text, lineterminator="\n")
    rows.writerow(COLUMNS)
    for one in trials:
        for row in _rows(one):
            rows.writerow([defused(cell) for cell in row])
    return text.getvalue()


def _rows(looked: Looked) -> list[tuple[object, ...]]:
    trial, names = looked.trial, {one.layer_id: one.name for one in looked.layers}
    head = (trial.name, trial.tried_on, looked.seen.version.name)
    found: list[tuple[object, ...]] = []
    for one in looked.compared:
        apart = one.apart
        values = [None if known is None else round(known.value, 4) for known in (one.original, one.copy)]
        told = (
            ("", "", "", "") if apart is None else (*(round(v, 4) for v in (apart.value, apart.low, apart.high)), apart.is_told)
        )
        if one.original is not None or one.copy is not None:
            found.append(
                (*head, names.get(one.layer_id, ""), f"{one.group.value}: {one.title}", one.unit, *map(_cell, values), *told)
            )
    for layer in looked.layers:
        for reached in layer.reached:
            if reached.typed.typed or reached.logged is not None:
                value = reached.typed.typed or reached.logged
                what = f"reached: {clues()[reached.clue].words}"
                planned = "" if reached.planned is None else round(reached.planned, 3)
                found.append((*head, layer.name, what, "", planned, value, "", "", "", ""))
        found += [(*head, layer.name, f"wrong: {one.seen}", "", "", "", "", "", "", "") for one in layer.wrong]
    found += [
        (*head, "", f"tasting: {one.kind.value}", "", "", one.sentence, "", "", "", one.is_told)
        for one in looked.verdicts.values()
    ]
    found += [(*head, "", f"after {one.days} days", "", "", one.kept.value, "", "", "", "") for one in trial.days]
    return found


def _cell(value: float | None) -> object:
    return "" if value is None else value
