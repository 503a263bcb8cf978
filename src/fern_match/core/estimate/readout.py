"""From particles to an estimate: means, 90 % ranges, the recomputed label."""

from collections.abc import Mapping, Sequence

import numpy as np

from fern_match.core.estimate.problem import Part, Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.result import IngredientAmount, LabelRowEstimate, LayerEstimate, Range, SumPart, SumTold, Together
from fern_match.core.estimate.state import State
from fern_match.core.estimate.tension import PULLS_FROM
from fern_match.core.food.together import listed
from fern_match.core.label.printing import printed
from fern_match.core.label.rows import IN_SIGHT, PanelRow, RowId, panel_rows, row_per_100_g

RANGE_LOW, RANGE_HIGH = 0.05, 0.95
# Ends are means of nearby quantiles: steadier, and an ingredient present in just 95 % of particles does not make them jump.
_NEARBY = np.linspace(-0.025, 0.025, 11)
_DEFAULT_SERVING_G = 100.0
_PRESENT_FROM = 0.002  # share of its layer from which an ingredient counts as there [g/g]
_WIDE_G, _FAR_SURER = 0.4, 0.75  # g per 100 g from which a range is wide; width of a sum beside its widest part's
_SURELY_PRESENT, _MAIN_SHARE, _LEAST_LOST_G = 0.95, 0.02, 0.005  # what is worth a word
_ENERGY_ROWS = frozenset({RowId.ENERGY_KCAL, RowId.ENERGY_KJ})
_ENERGY_ROOM = 0.015  # energy may have been computed from rounded rows


def range_of(values: Floats) -> Range:
    """Mean and 90 % range of one quantity."""
    ends = np.quantile(values, np.concatenate([RANGE_LOW + _NEARBY, RANGE_HIGH + _NEARBY])).reshape(2, -1).mean(axis=1)
    return Range(float(values.mean()), float(ends[0]), float(ends[1]))


def layer_estimates(problem: Problem, state: State) -> tuple[LayerEstimate, ...]:
    """Every layer of the mean piece."""
    per_piece = state.mass_g / 100.0
    grams = state.layer_share * state.mass_g
    presence = (state.shares.of_layer > _PRESENT_FROM).mean(axis=1)
    estimates = []
    for index, (layer, family) in enumerate(problem.layers):
        parts = [number for number, part in enumerate(problem.parts) if part.layer == index]
        added = state.amount[parts] * per_piece
        total = float(added.mean(axis=1).sum())
        ingredients = [
            _ingredient(problem, problem.parts[number], row, _presence(problem, number, presence), total)
            for number, row in zip(parts, added, strict=True)
        ]
        ingredients.sort(key=lambda amount: -amount.grams.best)
        lost = range_of(state.lost_g[index] * per_piece)
        estimates.append(
            LayerEstimate(
                layer_id=layer.id,
                name=layer.name,
                family=family.id,
                grams=range_of(grams[index]),
                share=range_of(state.layer_share[index]),
                water_lost_g=lost,
                moisture=float(state.moisture[index].mean()),
                mainly=_mainly(ingredients),
                loses_water=lost.high >= _LEAST_LOST_G,
                ingredients=tuple(ingredients),
            )
        )
    return tuple(estimates)


def together(problem: Problem, state: State) -> tuple[Together, ...]:
    """The mass of layers that share one recipe, where there are several of a kind."""
    kinds: dict[str, list[int]] = {}
    for index, (_, family) in enumerate(problem.layers):
        kinds.setdefault(family.id, []).append(index)
    grams = state.layer_share * state.mass_g
    return tuple(
        Together(
            layer_ids=tuple(problem.layers[index][0].id for index in alike),
            name=" and ".join(problem.layers[index][0].name or problem.layers[index][1].name for index in alike),
            grams=range_of(grams[alike].sum(axis=0)),
        )
        for alike in kinds.values()
        if len(alike) > 1
    )


def sums_told(problem: Problem, state: State) -> tuple[SumTold, ...]:
    """Amounts that are told together: of one name over layers, or of one role in a layer, where the sum is far surer.

    Worked example: 3 g (1 to 5) of palm oil and 4 g (2 to 6) of coconut oil in one cream make 7 g (6.7 to 7.3) together.
    """
    amount = state.amount * (state.mass_g / 100.0)
    groups: dict[tuple[str, str], list[int]] = {}
    for number, part in enumerate(problem.parts):
        if part.item is not None:
            groups.setdefault(("name", part.item), []).append(number)
        groups.setdefault((problem.layers[part.layer][0].id, part.role), []).append(number)
    found: list[tuple[float, SumTold]] = []
    told: set[int] = set()
    for (kind, key), rows in groups.items():
        if len(rows) < 2 or told & set(rows):
            continue
        widths = [_width(amount[row]) for row in rows]
        parts = [row for row, width in zip(rows, widths, strict=True) if width >= _WIDE_G * float(state.mass_g.mean()) / 100]
        if len(parts) < 2 or _width(amount[parts].sum(axis=0)) > _FAR_SURER * max(widths):
            continue
        told |= set(parts)
        name = _sum_name(problem, parts, over_layers=kind == "name", item=key)
        ids = tuple(SumPart(problem.layers[problem.parts[row].layer][0].id, problem.parts[row].ingredient_id) for row in parts)
        found.append((max(widths), SumTold(parts=ids, name=name, grams=range_of(amount[parts].sum(axis=0)))))
    return tuple(one for _, one in sorted(found, key=lambda entry: -entry[0]))


def _width(values: Floats) -> float:
    low, high = np.quantile(values, [RANGE_LOW, RANGE_HIGH])
    return float(high - low)


def _sum_name(problem: Problem, rows: Sequence[int], *, over_layers: bool, item: str) -> str:
    """What is told together, in words: a name in its layers, or the ingredients of a layer."""
    if over_layers:
        layers = dict.fromkeys(_layer_name(problem, problem.parts[row].layer) for row in rows)
        return f"{item.rpartition(' > ')[2].capitalize()} in {listed(list(layers))}"
    foods = dict.fromkeys(problem.pantry[problem.parts[row].ingredient_id].name.partition(" (")[0] for row in rows)
    return f"{listed(list(foods))} in {_layer_name(problem, problem.parts[rows[0]].layer)}"


def _layer_name(problem: Problem, index: int) -> str:
    layer, family = problem.layers[index]
    return layer.name or family.name


def _presence(problem: Problem, number: int, presence: Floats) -> float:
    """How probable an ingredient is in a layer; one that has nowhere else to be is there."""
    part = problem.parts[number]
    homes = sum(other.item == part.item for other in problem.parts)
    return 1.0 if part.item is None or homes == 1 else float(presence[number])


def _ingredient(problem: Problem, part: Part, grams: Floats, presence: float, total: float) -> IngredientAmount:
    amount = range_of(grams)
    return IngredientAmount(
        ingredient_id=part.ingredient_id,
        name=problem.pantry[part.ingredient_id].name,
        role=part.role,
        item=part.item,
        grams=amount,
        share_of_layer=amount.best / total if total > 0 else 0.0,
        presence=presence,
        remark=_remark(part, presence),
    )


def _remark(part: Part, presence: float) -> str:
    """Whether it is there at all, and whether the label names it."""
    doubt = f"in it: {100 * presence:.0f}\u00a0%" if presence < _SURELY_PRESENT else ""
    unnamed = "not on the label" if part.item is None else ""
    return ", ".join(words for words in (doubt, unnamed) if words)


def _mainly(ingredients: Sequence[IngredientAmount]) -> str:
    """The names of the main ingredients, the most first."""
    return ", ".join(one.name.partition(" (")[0].lower() for one in ingredients if one.share_of_layer >= _MAIN_SHARE)


def label_estimates(problem: Problem, state: State, tension: Mapping[str, float]) -> tuple[tuple[LabelRowEstimate, ...], float]:
    """The panel recomputed, beside the declared one, and the grams it is for.

    Args:
        tension: Of each piece of evidence in use, by id.
    """
    reading = problem.reading
    basis_g = reading.basis_g if reading.basis_g is not None else _DEFAULT_SERVING_G
    by_row = {row.row: row for row in reading.rows}
    rows = []
    for spec in panel_rows(reading.study.region):
        computed = _computed(problem, state, spec, basis_g)
        if computed is None:
            continue
        declared = by_row[spec.id]
        room = _ENERGY_ROOM if spec.id in _ENERGY_ROWS else 0.0
        rows.append(
            LabelRowEstimate(
                row=spec.id,
                title=spec.title,
                short=spec.short,
                in_sight=spec.id in IN_SIGHT,
                unit=spec.unit,
                declared=declared.figure.words if declared.figure is not None and declared.interval is not None else None,
                declared_low=declared.interval.low * (1 - room) if declared.interval is not None else None,
                declared_high=declared.interval.high * (1 + room) if declared.interval is not None else None,
                computed=range_of(computed),
                printed=printed(reading.study.region, spec.id, max(0.0, float(computed.mean()))),
                is_evidence=f"row:{spec.id}" in tension,
                tension=tension.get(f"row:{spec.id}"),
                pulls=tension.get(f"row:{spec.id}", 0.0) >= PULLS_FROM,
            )
        )
    return tuple(rows), basis_g


def _computed(problem: Problem, state: State, spec: PanelRow, basis_g: float) -> Floats | None:
    """A row per basis for every particle; None where the table lacks a figure of an ingredient in use."""
    values = [
        row_per_100_g(problem.pantry[part.ingredient_id], RowId(spec.id), problem.reading.study.region) for part in problem.parts
    ]
    if any(value is None for value in values):
        return None
    per_gram = np.array([value or 0.0 for value in values]) / 100.0
    return np.asarray(per_gram @ state.amount * (basis_g / 100.0))
