"""The evidence of a study as terms: label rows, order, percentages, weighings, net weight."""

import itertools
from collections.abc import Sequence

import numpy as np

from fern_match.core.estimate.problem import WATER, Part, Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.terms import (
    FREE_ORDER_BELOW,
    ORDER_FIXED,
    ORDER_RELATIVE,
    AmountsTerm,
    Evidence,
    Kind,
    LimitsTerm,
    OrderTerm,
    RowsTerm,
    Term,
    WeighingsTerm,
)
from fern_match.core.families import ChocolateRule, chocolate_rules
from fern_match.core.food import Nutrient
from fern_match.core.food.spreads import lot_spread
from fern_match.core.label.rows import ROW_NUTRIENT, Region, RowId, panel_rows, row_per_100_g
from fern_match.core.label.statement import StatementItem
from fern_match.core.study.reading import RowReading, StudyReading, WeighingReading
from fern_match.core.study.record import PIECE

_ENERGY_ROWS = frozenset({RowId.ENERGY_KCAL, RowId.ENERGY_KJ})
_ENERGY_MADE_OF = frozenset({RowId.FAT, RowId.CARBOHYDRATE, RowId.PROTEIN})
_ENERGY_RELATIVE_SD = 0.03
_MODEL_RELATIVE_SD = 0.01
_NOTHING_LESS = 1e3  # stands for no lower end, where a declared 0 begins
_FLOOR_PER_100_G = {"g": 0.01, "mg": 0.5, "kcal": 2.0, "kJ": 8.0}
BETWEEN_PIECES = 0.03  # pieces of one maker differ by about 3 %
_PRIOR_READINGS = 3.0  # how many readings that judgement is worth against the user's own scatter
SCALE_SD_G = 0.06  # half of a 0.1 g step each way, two readings
_PERCENT_HALF, _PERCENT_HALF_SMALL = 0.5, 0.25
_PERCENT_RELATIVE_SD, _PERCENT_FIXED_SD = 0.02, 0.05
_WATER_LISTED_SD = 0.5
_RULE_SD = 0.15  # g per 100 g of piece
_WATER_LISTED_FROM = 5.0  # EU and UK: added water up to 5 % of the finished piece need not be listed


def evidence_terms(problem: Problem) -> tuple[Term, ...]:
    """All evidence of a study that is not switched off.

    Args:
        problem: As built; its reading says what is doubted.
    """
    reading = problem.reading
    terms: list[Term | None] = [
        _rows_term(problem),
        _order_term(problem),
        _percents_term(problem),
        _limits_term(problem),
        _rules_term(problem),
        _weighings_term(problem, reading.weighings),
    ]
    return tuple(term for term in terms if term is not None)


def unused_evidence(reading: StudyReading) -> tuple[Evidence, ...]:
    """Evidence the user has switched off or that cannot be used, as it would be listed.

    Args:
        reading: The study as read.
    """
    rows = [
        _row_evidence(row, reading.study.region)
        for row in reading.rows
        if row.interval is not None and f"row:{row.row}" in reading.study.doubted
    ]
    weighed = [
        _weighing_evidence(w, reading) for w in reading.weighings if w.grams and f"weighing:{w.subject}" in reading.study.doubted
    ]
    return (*rows, *weighed)


# --- label rows ---------------------------------------------------------------------------------------------------------


def _rows_term(problem: Problem) -> RowsTerm | None:
    reading = problem.reading
    if reading.basis_g is None:
        return None
    rows = [row for row in reading.rows if _row_counts(row, problem)]
    if not rows:
        return None
    region, scale = reading.study.region, reading.basis_g / 100.0
    ingredients = sorted({part.ingredient_id for part in problem.parts})
    same_lot = np.array([[float(part.ingredient_id == name) for part in problem.parts] for name in ingredients])
    table = np.array([[row_per_100_g(problem.pantry[name], row.row, region) or 0.0 for name in ingredients] for row in rows])
    lots = np.array([[_lot_sd(problem, name, row.row) for name in ingredients] for row in rows])
    per_gram = table / 100.0 * scale
    low = np.array([[row.interval.low] for row in rows if row.interval is not None])
    high = np.array([[row.interval.high] for row in rows if row.interval is not None])
    return RowsTerm(
        evidence=tuple(_row_evidence(row, region) for row in rows),
        low=np.where(low <= 0, -_NOTHING_LESS * (high + 1), low),
        high=high,
        per_gram=per_gram @ same_lot,
        same_lot=same_lot,
        lot_variance=(lots * per_gram) ** 2,
        relative_sd=np.array([[np.hypot(_relative_sd(row.row), reading.basis_relative_sd)] for row in rows]),
        floor=np.array([[_FLOOR_PER_100_G[_unit(row.row, region)] * scale] for row in rows]),
    )


def _row_counts(row: RowReading, problem: Problem) -> bool:
    """Whether a row is evidence: energy only where a row it is made of is missing; no row the table cannot compute."""
    if row.interval is None or f"row:{row.row}" in problem.reading.study.doubted:
        return False
    region = problem.reading.study.region
    declared = set(problem.reading.intervals)
    if row.row in _ENERGY_ROWS and (
        declared >= _ENERGY_MADE_OF or (row.row is RowId.ENERGY_KJ and RowId.ENERGY_KCAL in declared)
    ):
        return False
    return all(row_per_100_g(problem.pantry[part.ingredient_id], row.row, region) is not None for part in problem.parts)


def _lot_sd(problem: Problem, ingredient_id: str, row: RowId) -> float:
    return 0.03 if row in _ENERGY_ROWS else lot_spread(problem.pantry[ingredient_id], ROW_NUTRIENT[row])


def _relative_sd(row: RowId) -> float:
    return _ENERGY_RELATIVE_SD if row in _ENERGY_ROWS else _MODEL_RELATIVE_SD


def _unit(row: RowId, region: Region) -> str:
    return next(spec.unit for spec in panel_rows(region) if spec.id is row)


def _row_evidence(row: RowReading, region: Region) -> Evidence:
    spec = next(spec for spec in panel_rows(region) if spec.id is row.row)
    interval = row.interval
    return Evidence(
        id=f"row:{row.row}",
        kind=Kind.LABEL_ROW,
        title=spec.title,
        seen=row.typed.strip(),
        unit=spec.unit,
        seen_low=interval.low if interval else None,
        seen_high=interval.high if interval else None,
    )


# --- statement ----------------------------------------------------------------------------------------------------------


def _counting(problem: Problem, item: StatementItem) -> Floats:
    """1 for each part that counts towards a statement item."""
    keys = {leaf.key for leaf in item.leaves()}
    return np.array([float(part.item in keys) for part in problem.parts])


def _is_water(problem: Problem, item: StatementItem) -> bool:
    return problem.reading.ingredient_of.get(item.key) == WATER


def _water_counting(problem: Problem) -> tuple[Floats, Floats]:
    """Added water by difference: all added water less all water lost."""
    parts = np.array([float(part.ingredient_id == WATER) for part in problem.parts])
    return parts, np.ones(len(problem.layers))


def _order_term(problem: Problem) -> OrderTerm | None:
    reading = problem.reading
    region = reading.study.region
    pairs: list[tuple[StatementItem, StatementItem]] = []
    for siblings in _sibling_lists(reading.statement.items):
        ordered = [item for item in siblings if item.at_most_percent is None and _counting(problem, item).any()]
        if region.is_us:
            ordered = [item for item in ordered if not _is_water(problem, item)]
        pairs += [(a, b) for a, b in itertools.pairwise(ordered) if _pair_id(a, b) not in reading.study.doubted]
    if not pairs:
        return None
    layers = len(problem.layers)
    columns = [(_side(problem, a, layers), _side(problem, b, layers)) for a, b in pairs]
    return OrderTerm(
        evidence=tuple(_order_evidence(a, b) for a, b in pairs),
        first=np.stack([first[0] for first, _ in columns], axis=0),
        second=np.stack([second[0] for _, second in columns], axis=0),
        first_lost=np.stack([first[1] for first, _ in columns], axis=0),
        second_lost=np.stack([second[1] for _, second in columns], axis=0),
        free_below=0.0 if region.is_us else FREE_ORDER_BELOW,
    )


def _side(problem: Problem, item: StatementItem, layers: int) -> tuple[Floats, Floats]:
    if not problem.reading.study.region.is_us and _is_water(problem, item):
        return _water_counting(problem)
    return _counting(problem, item), np.zeros(layers)


def _sibling_lists(items: Sequence[StatementItem]) -> list[Sequence[StatementItem]]:
    lists = [items]
    for item in items:
        if item.items:
            lists += _sibling_lists(item.items)
    return lists


def _pair_id(a: StatementItem, b: StatementItem) -> str:
    return f"order:{a.key}|{b.key}"


def _order_evidence(a: StatementItem, b: StatementItem) -> Evidence:
    return Evidence(
        id=_pair_id(a, b),
        kind=Kind.ORDER,
        title=f"{a.name} before {b.name}",
        seen="at least as much",
        unit="g per 100 g",
        seen_low=0.0,
    )


def _percents_term(problem: Problem) -> AmountsTerm | None:
    reading = problem.reading
    items = [
        item
        for item in _all_items(reading.statement.items)
        if item.percent is not None and _counting(problem, item).any() and f"percent:{item.key}" not in reading.study.doubted
    ]
    if not items:
        return None
    halves = [
        _PERCENT_HALF if item.percent_decimals == 0 else max(_PERCENT_HALF_SMALL, 0.5 * 10.0**-item.percent_decimals)
        for item in items
    ]
    percents = np.array([[item.percent or 0.0] for item in items])
    half = np.array(halves)[:, None]
    low, high = np.maximum(percents - half, 0.0), percents + half
    return AmountsTerm(
        evidence=tuple(
            _percent_evidence(item, float(lo), float(hi)) for item, lo, hi in zip(items, low[:, 0], high[:, 0], strict=True)
        ),
        low=low,
        high=high,
        sd=_PERCENT_RELATIVE_SD * percents + _PERCENT_FIXED_SD,
        counts=np.stack([_counting(problem, item) for item in items]),
    )


def _limits_term(problem: Problem) -> LimitsTerm | None:
    reading = problem.reading
    none_lost = np.zeros(len(problem.layers))
    entries: list[tuple[Evidence, float, float, Floats, Floats]] = []
    for item in _all_items(reading.statement.items):
        limit, counts = item.at_most_percent, _counting(problem, item)
        if limit is not None and counts.any() and f"small:{item.key}" not in reading.study.doubted:
            entries.append((_small_evidence(item, limit), limit, ORDER_RELATIVE * limit + ORDER_FIXED, counts, none_lost))
    entries += _unlisted_water(problem)
    if not entries:
        return None
    return LimitsTerm(
        evidence=tuple(entry[0] for entry in entries),
        most=np.array([[entry[1]] for entry in entries]),
        sd=np.array([[entry[2]] for entry in entries]),
        counts=np.stack([entry[3] for entry in entries]),
        counts_lost=np.stack([entry[4] for entry in entries]),
    )


def _all_items(items: Sequence[StatementItem]) -> list[StatementItem]:
    return [found for item in items for found in (item, *_all_items(item.items))]


def _percent_evidence(item: StatementItem, low: float, high: float) -> Evidence:
    return Evidence(
        id=f"percent:{item.key}",
        kind=Kind.PERCENT,
        title=f"{item.name}, declared",
        seen=f"{item.percent:g}",
        unit="%",
        seen_low=low,
        seen_high=high,
    )


def _small_evidence(item: StatementItem, limit: float) -> Evidence:
    return Evidence(
        id=f"small:{item.key}",
        kind=Kind.SMALL,
        title=f"{item.name}, in the small group",
        seen=f"at most {limit:g}",
        unit="%",
        seen_low=0.0,
        seen_high=limit,
    )


def _unlisted_water(problem: Problem) -> list[tuple[Evidence, float, float, Floats, Floats]]:
    """EU and UK: water that is not on the statement makes at most 5 % of the finished piece, by difference."""
    reading = problem.reading
    listed = WATER in reading.ingredient_of.values()
    counts, lost = _water_counting(problem)
    if reading.study.region.is_us or listed or not reading.statement.items or not counts.any():
        return []
    if "small:unlisted water" in reading.study.doubted:
        return []
    evidence = Evidence(
        id="small:unlisted water",
        kind=Kind.SMALL,
        title="Water is not listed",
        seen=f"at most {_WATER_LISTED_FROM:g}",
        unit="%",
        seen_low=0.0,
        seen_high=_WATER_LISTED_FROM,
    )
    return [(evidence, _WATER_LISTED_FROM, _WATER_LISTED_SD, counts, lost)]


# --- chocolate rules ------------------------------------------------------------------------------------------------------

_CONTENT = {
    "cocoa": (Nutrient.COCOA_BUTTER, Nutrient.COCOA_SOLIDS_NONFAT),
    "cocoa butter": (Nutrient.COCOA_BUTTER,),
    "milk": (Nutrient.MILK_FAT, Nutrient.MILK_SOLIDS_NONFAT),
    "milk fat": (Nutrient.MILK_FAT,),
    "fat": (Nutrient.FAT,),
}


def _rules_term(problem: Problem) -> LimitsTerm | None:
    """Least contents of a chocolate that the statement opens: what it lacks, per 100 g of piece, is at most nothing."""
    reading = problem.reading
    region = "US" if reading.study.region.is_us else "EU"
    entries: list[tuple[Evidence, Floats]] = []
    bracketed = {layer_id for given in reading.placing.compounds.values() for layer_id in given}
    for index, (layer, family) in enumerate(problem.layers):
        if len(family.roles) > 1 and layer.id not in bracketed:
            continue  # which chocolate a filling holds is a guess until brackets say it
        opened = reading.placing.opened.get(layer.id)
        for rule in chocolate_rules():
            if opened is None or rule.family != opened.id or rule.region != region:
                continue
            evidence = _rule_evidence(rule, layer.id, layer.name)
            lacking = np.array([_lacking(problem, part, index, rule) for part in problem.parts])
            if evidence.id not in reading.study.doubted and lacking.any():
                entries.append((evidence, lacking))
    if not entries:
        return None
    return LimitsTerm(
        evidence=tuple(evidence for evidence, _ in entries),
        most=np.zeros((len(entries), 1)),
        sd=np.full((len(entries), 1), _RULE_SD),
        counts=np.stack([lacking for _, lacking in entries]),
        counts_lost=np.zeros((len(entries), len(problem.layers))),
    )


def _lacking(problem: Problem, part: Part, layer: int, rule: ChocolateRule) -> float:
    """By how much a gram of a part falls short of a rule [g/g]; 0 outside the chocolate."""
    if part.layer != layer or part.opened != rule.family:
        return 0.0
    food = problem.pantry[part.ingredient_id]
    return rule.minimum - sum(food.amount(nutrient) for nutrient in _CONTENT[rule.what]) / 100


def _rule_evidence(rule: ChocolateRule, layer_id: str, name: str) -> Evidence:
    return Evidence(
        id=f"rule:{layer_id}:{rule.what}",
        kind=Kind.RULE,
        title=f"{name}: {rule.what} at least {100 * rule.minimum:g} % of the chocolate",
        seen="by law",
        unit="g per 100 g",
        seen_high=0.0,
    )


# --- weighings ----------------------------------------------------------------------------------------------------------


def mean_reading_sd_g(grams: Sequence[float]) -> float:
    """Standard error of the mean of readings of pieces [g].

    The scatter between pieces is 3 % until the user's own readings say otherwise; the scale adds half its step.

    Args:
        grams: One reading or more [g].

    Source: docs/method/estimate.md ("Weighings").
    """
    mean = float(np.mean(grams))
    n = len(grams)
    own = float(np.var(grams, ddof=1)) if n > 1 else 0.0
    between = (_PRIOR_READINGS * (BETWEEN_PIECES * mean) ** 2 + (n - 1) * own) / (_PRIOR_READINGS + n - 1)
    return float(np.sqrt(SCALE_SD_G**2 + between / n))


def _weighings_term(problem: Problem, weighings: Sequence[WeighingReading]) -> WeighingsTerm | None:
    reading = problem.reading
    index = {layer.id: number for number, (layer, _) in enumerate(problem.layers)}
    entries: list[tuple[Evidence, float, float, int, float]] = []
    for weighing in weighings:
        known = weighing.subject == PIECE or weighing.subject in index
        if not weighing.grams or not known or f"weighing:{weighing.subject}" in reading.study.doubted:
            continue
        layer = index.get(weighing.subject, len(index))
        sticky = float(layer < len(index) and problem.layers[layer][1].traits.sticky)
        mean = float(np.mean(weighing.grams))
        entries.append((_weighing_evidence(weighing, reading), mean, mean_reading_sd_g(weighing.grams), layer, sticky))
    prior = reading.piece_prior
    if prior is not None and "net_weight" not in reading.study.doubted:
        evidence = Evidence(
            id="net_weight",
            kind=Kind.NET_WEIGHT,
            title="Net weight, per piece",
            seen=f"{prior.mean_g / 1.02:.1f} declared",
            unit="g",
            seen_low=prior.low_g,
            seen_high=prior.high_g,
            centre=prior.mean_g,
        )
        entries.append((evidence, prior.mean_g, prior.sd_g, len(index), 0.0))
    if not entries:
        return None
    return WeighingsTerm(
        evidence=tuple(entry[0] for entry in entries),
        grams=np.array([[entry[1]] for entry in entries]),
        sd=np.array([[entry[2]] for entry in entries]),
        layer=np.array([entry[3] for entry in entries], dtype=np.intp),
        sticky=np.array([[entry[4]] for entry in entries]),
    )


def _weighing_evidence(weighing: WeighingReading, reading: StudyReading) -> Evidence:
    names = {layer.id: layer.name for layer in reading.study.layers}
    count = len(weighing.grams)
    title = "Whole piece" if weighing.subject == PIECE else names[weighing.subject]
    readings = "one reading" if count == 1 else f"{count} readings"
    mean = float(np.mean(weighing.grams))
    return Evidence(
        id=f"weighing:{weighing.subject}",
        kind=Kind.WEIGHING,
        title=f"{title}, weighed",
        seen=f"{mean:.2f}" + (f" ({readings})" if count > 1 else ""),
        unit="g",
        seen_low=min(weighing.grams),
        seen_high=max(weighing.grams),
        centre=mean,
    )
