"""How close a copy is to its original: what was read of both, what lies between, and what all of it comes to.

Worked example: two things of equal weight that are off by one tolerance and by half of one, read exactly:
100 exp(-(1 + 0.25) / 4) = 73.2. Readings that may be off by as much make it less sure, and no worse.
"""

import math
import zlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cache, cached_property

import numpy as np

from fern_match.core.data import rows
from fern_match.core.estimate import Estimate, Range
from fern_match.core.formulate import Overview
from fern_match.core.kitchen import KitchenReading
from fern_match.core.label.rows import RowId, row_per_100_g
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import PIECE, Place
from fern_match.core.trials.difference import Difference, Known, difference, mean_of
from fern_match.core.trials.reading import TrialReading
from fern_match.core.trials.record import Tasted

_NINETY = 1.6449  # a 90 % range is so many standard errors either way
_PIECE, _LAYER, _LEAST_LAYER_G = 0.025, 0.04, 0.1  # usual spread of pieces, and of a layer off the knife (approximate)
_THICK, _LONG_MM = 0.12, 0.7  # of a thickness, and of a ruler [mm]
_COMPOSITION = 0.03  # of a row worked out from tables (approximate)
_POINTS: Mapping[Tasted, float] = {Tasted.SIDE_BY_SIDE: 1.0, Tasted.IN_TURN: 1.6, Tasted.REMEMBERED: 2.5}  # (approximate)
_USUALLY = 2.0  # copies lie within so many tolerances before anything is read (approximate)
_DRAWS, _POOL = 4000, 1 << 20  # so many of a pool for each thing: drawing them anew would be most of the work
_LEAST_ROW = {"g": 0.5, "mg": 40.0, "kcal": 10.0, "kJ": 40.0}  # a tolerance of a row is no less, in 100 g (approximate)
_LEAST_SALT_G = 0.1


class Group(StrEnum):
    """What is compared."""

    WEIGHT = "weight"
    SIZE = "size"
    LABEL = "label"
    SENSES = "senses"


# How much each counts beside the others, and what is no difference to an eater (domain of matching; approximate).
_COUNTS = {Group.WEIGHT: 2.0, Group.SIZE: 1.0, Group.LABEL: 0.7, Group.SENSES: 0.7}
_WITHIN = {Group.WEIGHT: 0.03, Group.SIZE: 0.03, Group.LABEL: 0.05}
_WITHIN_POINTS = 1.0


@dataclass(frozen=True, kw_only=True)
class Compared:
    """One thing of original and copy."""

    id: str
    group: Group
    title: str
    unit: str
    layer_id: str  # empty of the whole piece
    original: Known | None
    copy: Known | None
    from_original: str  # weighed, estimated, declared, measured, tasted
    from_copy: str
    tolerance: float
    lacks: str = ""  # what is to be read for it; empty where both are there
    field: str = ""  # of the trial's record, and its key, where the copy's readings are typed; empty of what is worked out

    @cached_property
    def apart(self) -> Difference | None:
        """The copy less the original; None where one of the two is not known."""
        if self.original is None or self.copy is None:
            return None
        return difference(self.original, self.copy)


@dataclass(frozen=True, slots=True, kw_only=True)
class Closeness:
    """What all that was compared comes to, of 100, with its 90 % range."""

    best: float
    low: float
    high: float
    of: int  # things compared
    draws: np.ndarray  # for comparing two trials

    @property
    def words(self) -> str:
        """As in “about 84 of 100, 76 to 90”."""
        return f"about {self.best:.0f} of 100, {self.low:.0f} to {self.high:.0f}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Sense:
    """A line that tasters mark."""

    id: str
    title: str
    low: str
    high: str


def senses() -> tuple[Sense, ...]:
    """The lines that ship.

    Source: data/senses.csv.
    """
    return tuple(Sense(id=row["sense"], title=row["title"], low=row["low"], high=row["high"]) for row in rows("senses.csv"))


def comparison(
    read: TrialReading, made: Overview, reading: StudyReading, kitchen: KitchenReading, estimate: Estimate | None
) -> tuple[Compared, ...]:
    """Everything that was read of both, and what is still to read.

    Args:
        read: The trial.
        made: A piece as it was cooked, by what went in.
        reading: The study of the original.
        kitchen: For its scale.
        estimate: Of the original, for layers that nobody weighed; None where there is none yet.
    """
    weights = _weights(read, made, reading, kitchen, estimate)
    return (*weights, *_sizes(read, made, reading), *_label(made, weights, reading), *_senses(read, reading))


def closeness(compared: Sequence[Compared], trial_id: str) -> Closeness | None:
    """What the things compared come to; None where nothing was read of both.

    Args:
        compared: Of one trial.
        trial_id: Its id: what is drawn of its copy is its own, of the original the same for every trial.

    Source: score of sensory and instrumental matches, 100 exp(-1/2 sum w z^2 / sum w); tolerances (approximate).
    """
    known = [one for one in compared if one.apart is not None and one.tolerance > 0]
    if not known:
        return None
    weights = np.array([_COUNTS[one.group] for one in known])
    squares = np.stack([_squares(one, trial_id) for one in known])
    draws = 100 * np.exp(-0.5 * (weights @ squares) / weights.sum())
    low, best, high = np.quantile(draws, [0.05, 0.5, 0.95])
    return Closeness(best=float(best), low=float(low), high=float(high), of=len(known), draws=draws)


def closer(later: Sequence[Compared], later_id: str, earlier: Sequence[Compared], earlier_id: str) -> tuple[float, int] | None:
    """The chance that one trial is closer than another by what was read in both, and how many things that is.

    Args:
        later: Compared in the one.
        later_id: Its id.
        earlier: Compared in the other.
        earlier_id: Its id.
    """
    mine = {one.id for one in later if one.apart is not None}
    both = {one.id for one in earlier if one.apart is not None} & mine
    first = closeness([one for one in later if one.id in both], later_id)
    second = closeness([one for one in earlier if one.id in both], earlier_id)
    if first is None or second is None:
        return None
    return float(np.mean(first.draws > second.draws)), len(both)


def _squares(one: Compared, trial_id: str) -> np.ndarray:
    """Draws of how far it is off, in tolerances, squared: readings that say little leave it where copies usually are."""
    assert one.original is not None
    assert one.copy is not None
    assert one.apart is not None
    usual, error = (_USUALLY * one.tolerance) ** 2, one.apart.error**2
    kept = usual / (usual + error)
    drawn = one.copy.error * _normal(f"{one.id} {trial_id}") - one.original.error * _normal(one.id)
    found: np.ndarray = ((kept * one.apart.value + math.sqrt(kept) * drawn) / one.tolerance) ** 2
    return found


def _normal(key: str) -> np.ndarray:
    """Draws of a key: the same on every machine, and of other keys other ones."""
    at = zlib.crc32(key.encode()) % (_POOL - _DRAWS)
    return _pool()[at : at + _DRAWS]


@cache
def _pool() -> np.ndarray:
    found: np.ndarray = np.random.default_rng(20).standard_normal(_POOL)
    return found


def _weights(
    read: TrialReading, made: Overview, reading: StudyReading, kitchen: KitchenReading, estimate: Estimate | None
) -> list[Compared]:
    step = kitchen.scale_step_g
    theirs = {one.subject: one.grams for one in reading.weighings}
    piece_g = made.formula.piece_g
    guessed: dict[str, Range] = {one.layer_id: one.grams for one in estimate.layers} if estimate is not None else {}
    subjects = [(PIECE, "Piece", piece_g), *((one.layer_id, one.name, one.finished_g) for one in made.formula.layers)]
    found = []
    for subject, title, planned in subjects:
        usual = _PIECE * planned if subject == PIECE else _LAYER * planned + _LEAST_LAYER_G
        original, source = mean_of(theirs.get(subject, ()), max(usual, 1e-6), step), "weighed"
        if original is None:
            original, source = _elsewhere(subject, reading, guessed, estimate)
        copy = mean_of(read.grams(subject), max(usual, 1e-6), step)
        found.append(
            Compared(
                id=f"weight {subject}",
                group=Group.WEIGHT,
                title=title,
                unit="g",
                layer_id="" if subject == PIECE else subject,
                original=original,
                copy=copy,
                from_original=source if original is not None else "",
                from_copy="weighed" if copy is not None else "",
                tolerance=_WITHIN[Group.WEIGHT] * piece_g,
                lacks=_lacks(original, copy, "weigh some pieces one by one" if subject == PIECE else "weigh it"),
                field=f"weighed.{subject}",
            )
        )
    return found


def _elsewhere(
    subject: str, reading: StudyReading, guessed: Mapping[str, Range], estimate: Estimate | None
) -> tuple[Known | None, str]:
    """What is known of the original where nobody weighed it."""
    if subject == PIECE:
        if estimate is not None:
            return _of_range(estimate.piece_g), "estimated"
        prior = reading.piece_prior
        return (Known(prior.mean_g, max(prior.sd_g, 1e-6)), "declared") if prior is not None else (None, "")
    return (_of_range(guessed[subject]), "estimated") if subject in guessed else (None, "")


def _of_range(found: Range) -> Known:
    return Known(found.best, max((found.high - found.low) / (2 * _NINETY), 1e-6))


def _sizes(read: TrialReading, made: Overview, reading: StudyReading) -> list[Compared]:
    found = []
    theirs = {"length": reading.size.length, "width": reading.size.width, "height": reading.size.height}
    for key, title in (("length", "Length"), ("width", "Width"), ("height", "Height")):
        values = [one.value for one in (theirs[key], read.size[key])]
        original, copy = (None if one is None else Known(one, _LONG_MM) for one in values)
        scale = next((one for one in values if one is not None), 1.0)
        found.append(_measured(f"size {key}", title, "", original, copy, scale, f"size.{key}"))
    coats = {one.id for one in reading.study.layers if one.place is Place.COAT}
    by_layer: dict[str, list[float]] = {}
    for one in reading.thicknesses:
        by_layer.setdefault(one.layer, []).extend(one.millimetres)
    for layer in made.formula.layers:
        first, second = by_layer.get(layer.layer_id, []), read.millimetres(layer.layer_id)
        if not first and not second and layer.layer_id not in coats:
            continue
        scale = (first or list(second) or [1.0])[0]
        original, copy = (mean_of(one, _THICK * scale, 0.1) for one in (first, second))
        found.append(
            _measured(
                f"thick {layer.layer_id}",
                f"{layer.name}, thick",
                layer.layer_id,
                original,
                copy,
                3 * scale,
                f"thick.{layer.layer_id}",
            )
        )
    return found


def _measured(
    key: str, title: str, layer_id: str, original: Known | None, copy: Known | None, scale: float, field: str
) -> Compared:
    return Compared(
        id=key,
        group=Group.SIZE,
        title=title,
        unit="mm",
        layer_id=layer_id,
        original=original,
        copy=copy,
        from_original="measured" if original is not None else "",
        from_copy="measured" if copy is not None else "",
        tolerance=max(0.5, _WITHIN[Group.SIZE] * scale),
        lacks=_lacks(original, copy, "measure it"),
        field=field,
    )


def _lacks(original: Known | None, copy: Known | None, how: str) -> str:
    if original is not None and copy is not None:
        return ""
    of = "original and copy" if original is None and copy is None else "original" if original is None else "copy"
    return f"{of}: {how}"


def _label(made: Overview, weights: Sequence[Compared], reading: StudyReading) -> list[Compared]:
    """Rows of the label that the original declares, as the copy's own weights and amounts give them.

    Of a copy of which no layer was weighed they would be those of the plan, and say nothing of what came out.
    """
    weighed = {one.layer_id: one.copy for one in weights if one.layer_id and one.copy is not None}
    basis = reading.basis_g
    layers = made.formula.layers
    grams = {one.layer_id: weighed[one.layer_id].value if one.layer_id in weighed else one.finished_g for one in layers}
    errors = {
        one.layer_id: weighed[one.layer_id].error if one.layer_id in weighed else _LAYER * one.finished_g + _LEAST_LAYER_G
        for one in layers
    }
    total = sum(grams.values())
    if basis is None or total <= 0:
        return []
    found = []
    for row in made.rows:
        interval = reading.intervals.get(row.row)
        if interval is None or not row.in_sight:
            continue
        each = {} if row.unknown else {one.layer_id: _row_share(one.layer_id, row.row, made, reading) for one in layers}
        copy = None
        if weighed and not row.unknown and all(value is not None for value in each.values()):
            shares = {key: value for key, value in each.items() if value is not None}
            mixed = sum(grams[key] * value for key, value in shares.items()) / total
            error = math.sqrt(sum((errors[key] * (value - mixed) / total) ** 2 for key, value in shares.items()))
            copy = Known(basis * mixed, basis * math.hypot(error, _COMPOSITION * mixed) + 1e-9)
        middle, width = interval.middle, interval.high - interval.low
        original = Known(middle, max(width / math.sqrt(12), 1e-9))
        unknown = ", ".join(row.unknown)
        found.append(
            Compared(
                id=f"label {row.row}",
                group=Group.LABEL,
                title=row.short,
                unit=row.unit,
                layer_id="",
                original=original,
                copy=copy,
                from_original="declared",
                from_copy="worked out" if copy is not None else "",
                tolerance=max(_WITHIN[Group.LABEL] * middle, width / 2, _least(row.row, row.unit) * basis / 100),
                lacks=f"copy: {unknown} has no figure for it" if unknown else "copy: weigh its layers" if not weighed else "",
            )
        )
    return found


def _least(row: RowId, unit: str) -> float:
    return _LEAST_SALT_G if row is RowId.SALT else _LEAST_ROW.get(unit, 0.5)


def _row_share(layer_id: str, row: RowId, made: Overview, reading: StudyReading) -> float | None:
    """What a gram of a finished layer adds to a row of the label."""
    layer = next(one for one in made.formula.layers if one.layer_id == layer_id)
    if layer.finished_g <= 0:
        return 0.0
    total = 0.0
    for one in layer.ingredients:
        food = reading.pantry.by_id.get(one.ingredient_id)
        each = row_per_100_g(food, row, reading.study.region) if food is not None else None
        if each is None:
            return None
        total += one.grams * each / 100
    return total / layer.finished_g


def _senses(read: TrialReading, reading: StudyReading) -> list[Compared]:
    """Lines that were marked, each taster's copy beside their own original."""
    titles = {one.id: one.title for one in senses()} | {one.id: one.name for one in read.trial.senses}
    remembered = reading.senses
    found = []
    for sense, title in titles.items():
        marks, apart, errors = [], [], []
        for sheet in read.sheets:
            copy = sheet.copy[sense].value if sense in sheet.copy else None
            own = sheet.original[sense].value if sense in sheet.original else None
            original = own if own is not None else remembered.get(sense)
            if copy is None or original is None:
                continue
            marks.append(original)
            apart.append(copy - original)
            errors.append(_POINTS[sheet.sheet.tasted if own is not None else Tasted.REMEMBERED])
        if not marks:
            continue
        mean = mean_of(apart, math.sqrt(sum(one**2 for one in errors) / len(errors)), 0.0)
        assert mean is not None
        middle = sum(marks) / len(marks)
        found.append(
            Compared(
                id=f"sense {sense}",
                group=Group.SENSES,
                title=title,
                unit="",
                layer_id="",
                original=Known(middle, 1e-9),
                copy=Known(middle + mean.value, max(mean.error, 1e-9), mean.freedom),
                from_original="tasted",
                from_copy="tasted",
                tolerance=_WITHIN_POINTS,
            )
        )
    return found
