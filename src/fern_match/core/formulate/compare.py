"""Two versions line by line: what is more, what is less, what is only in one."""

from dataclasses import dataclass

from fern_match.core.formulate.formula import Formula

_SAME = 0.005  # relative


@dataclass(frozen=True, slots=True, kw_only=True)
class ComparedLine:
    """One ingredient of one layer in both versions [g a piece]; None where it is not in one."""

    layer_id: str
    layer: str
    ingredient_id: str
    name: str
    before_g: float | None
    after_g: float | None

    @property
    def same(self) -> bool:
        """Whether nobody would weigh a difference."""
        a, b = self.before_g or 0.0, self.after_g or 0.0
        return abs(a - b) <= _SAME * max(a, b)


def compared(before: Formula, after: Formula) -> tuple[ComparedLine, ...]:
    """Every line of both, in the order of the second version, then what only the first has."""
    was = {(layer.layer_id, one.ingredient_id): one.grams for layer in before.layers for one in layer.ingredients}
    now = {(layer.layer_id, one.ingredient_id) for layer in after.layers for one in layer.ingredients}
    found = [
        ComparedLine(
            layer_id=layer.layer_id,
            layer=layer.name,
            ingredient_id=one.ingredient_id,
            name=one.name,
            before_g=was.get((layer.layer_id, one.ingredient_id)),
            after_g=one.grams,
        )
        for layer in after.layers
        for one in layer.ingredients
    ]
    found += [
        ComparedLine(
            layer_id=layer.layer_id,
            layer=layer.name,
            ingredient_id=one.ingredient_id,
            name=one.name,
            before_g=one.grams,
            after_g=None,
        )
        for layer in before.layers
        for one in layer.ingredients
        if (layer.layer_id, one.ingredient_id) not in now
    ]
    return tuple(found)
