"""A trial as read: each figure with what it stands for; what was not read is said and counts for nothing."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import partial

from fern_match.core.batch import BatchReading
from fern_match.core.kitchen import KitchenReading
from fern_match.core.measures import Typed, read_count, read_grams, read_ingredient, read_millimetres, read_percent
from fern_match.core.study.reading import StudyReading
from fern_match.core.trials.cook_clues import JOIN
from fern_match.core.trials.record import Sheet, Trial
from fern_match.core.trials.several import Several, read_several

_MOST_DAYS = 400
MOST_MARK = 10.0


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetReading:
    """A score sheet as read: marks from 0 to 10 by sense."""

    sheet: Sheet
    original: Mapping[str, Typed]
    copy: Mapping[str, Typed]


@dataclass(frozen=True, slots=True, kw_only=True)
class TrialReading:
    """A trial's figures as read."""

    trial: Trial
    made: Typed
    whole: Typed
    weighed: Mapping[str, Several]  # by layer; of whole pieces by "piece" [g]
    thick: Mapping[str, Several]  # by layer [mm]
    size: Mapping[str, Typed]  # length, width, height [mm]
    came_out: Mapping[str, Typed]  # by layer [g]
    left: Mapping[str, Typed]  # by layer [g]
    went_in: Mapping[tuple[str, str], Typed]  # by layer and line [g]
    sheets: tuple[SheetReading, ...]
    days: Mapping[str, Typed]  # by entry

    def grams(self, subject: str) -> tuple[float, ...]:
        """Readings of a layer or of whole pieces [g]; none where nothing was read."""
        found = self.weighed.get(subject)
        return found.values if found is not None else ()

    def millimetres(self, layer_id: str) -> tuple[float, ...]:
        """Thicknesses of a layer [mm]."""
        found = self.thick.get(layer_id)
        return found.values if found is not None else ()


def read_trial(trial: Trial, read: BatchReading, reading: StudyReading, kitchen: KitchenReading) -> TrialReading:
    """A trial's figures as read.

    Args:
        trial: As typed.
        read: Its batch, for what its lines are.
        reading: The study, for compositions.
        kitchen: For spoons, and what a comma means.
    """
    comma = kitchen.comma
    grams = partial(read_grams, comma=comma)
    return TrialReading(
        trial=trial,
        made=read_count(trial.made, what="number of pieces", comma=comma),
        whole=read_count(trial.whole, what="number of whole pieces", comma=comma),
        weighed={key: read_several(typed, grams) for key, typed in trial.weighed.items()},
        thick={key: read_several(typed, partial(read_millimetres, comma=comma)) for key, typed in trial.thick.items()},
        size={key: read_millimetres(getattr(trial.size, key), comma=comma) for key in ("length", "width", "height")},
        came_out={key: read_grams(typed, most_g=100_000.0, comma=comma) for key, typed in trial.came_out.items()},
        left={key: read_grams(typed, most_g=100_000.0, comma=comma, zero=True) for key, typed in trial.left.items()},
        went_in=dict(_went_in(trial, read, reading, kitchen)),
        sheets=tuple(
            SheetReading(
                sheet=sheet,
                original={key: read_mark(typed, kitchen) for key, typed in sheet.original.items()},
                copy={key: read_mark(typed, kitchen) for key, typed in sheet.copy.items()},
            )
            for sheet in trial.sheets
        ),
        days={one.id: read_count(one.days, most=_MOST_DAYS, what="number of days", comma=comma) for one in trial.days},
    )


def read_mark(typed: str, kitchen: KitchenReading) -> Typed:
    """A mark on a line from 0 to 10.

    Args:
        typed: What stands in the field.
        kitchen: For what a comma means.
    """
    found = read_percent(typed, most=MOST_MARK, comma=kitchen.comma)
    problem = f"Write a mark from 0 to {MOST_MARK:.0f}." if found.problem else None
    return Typed(typed, None if problem else found.value, "", problem)


def _went_in(
    trial: Trial, read: BatchReading, reading: StudyReading, kitchen: KitchenReading
) -> Sequence[tuple[tuple[str, str], Typed]]:
    layers = read.batch.layers if read.batch is not None else ()
    names = {(layer.layer_id, line.line_id): line.ingredient_id for layer in layers for line in layer.ingredients}
    found = []
    for key, typed in trial.went_in.items():
        layer_id, _, line_id = key.partition(JOIN)
        food = reading.pantry.by_id.get(names.get((layer_id, line_id), ""))
        if food is None:
            one = read_grams(typed, most_g=100_000.0, comma=kitchen.comma, zero=True)
        else:
            one = read_ingredient(typed, food, measures=kitchen.kitchen.measures, comma=kitchen.comma, zero=True)
        found.append(((layer_id, line_id), one))
    return found
