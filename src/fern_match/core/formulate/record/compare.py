"""Two versions line by line: what is more, what is less, what is only in one."""

from dataclasses import dataclass

from fern_match.core.formulate.record.formula import Formula, FormulaIngredient, FormulaLayer

_SAME = 0.005  # relative


@dataclass(frozen=True, slots=True, kw_only=True)
class ComparedLine:
    """One ingredient of one layer in both versions [g a piece]; None where it is not in one."""

    layer_id: str
    layer: str
    line_id: str
    ingredient_id: str
    name: str
    before_g: float | None
    after_g: float | None
    same: bool  # whether nobody would weigh a difference


def compared(before: Formula, after: Formula) -> tuple[ComparedLine, ...]:
    """Every line of both, in the order of the second version, then what only the first has.

    A line stands beside the one of its own id where that is of the same ingredient, else beside the first of its ingredient that
    is not taken: the same ingredient on two lines is two lines.
    """
    left = {layer.layer_id: list(layer.ingredients) for layer in before.layers}
    found = []
    for layer in after.layers:
        rest = left.setdefault(layer.layer_id, [])
        for one in layer.ingredients:
            same = [was for was in rest if was.ingredient_id == one.ingredient_id]
            was = next((was for was in same if was.line_id == one.line_id), same[0] if same else None)
            if was is not None:
                rest.remove(was)
            found.append(_line(layer, one, was.grams if was is not None else None, one.grams))
    return (*found, *(_line(layer, one, one.grams, None) for layer in before.layers for one in left[layer.layer_id]))


def _line(layer: FormulaLayer, one: FormulaIngredient, before_g: float | None, after_g: float | None) -> ComparedLine:
    return ComparedLine(
        layer_id=layer.layer_id,
        layer=layer.name,
        line_id=one.line_id,
        ingredient_id=one.ingredient_id,
        name=one.name,
        before_g=before_g,
        after_g=after_g,
        same=_is_same(before_g or 0.0, after_g or 0.0),
    )


def _is_same(a: float, b: float) -> bool:
    return abs(a - b) <= _SAME * max(a, b)
