"""Solved amounts written back into a version: what did not change keeps what was typed."""

from dataclasses import replace

from fern_match.core.formulate.record.formula import Formula, FormulaLayer, written_grams
from fern_match.core.formulate.record.version import Version, VersionIngredient, VersionLayer

_UNCHANGED = 1e-9  # relative


def written_version(version: Version, before: Formula, after: Formula) -> Version:
    """A version with the amounts of a formula.

    Args:
        version: As kept; its locks, parts and typed amounts stay where nothing changed.
        before: The same version as read.
        after: What its amounts become; layers and lines may have come and gone.
    """
    kept = {layer.id: layer for layer in version.layers}
    was = {layer.layer_id: layer for layer in before.layers}
    return replace(
        version, layers=tuple(_layer(kept.get(layer.layer_id), was.get(layer.layer_id), layer) for layer in after.layers)
    )


def written_layer(version: Version, formula: Formula, layer: FormulaLayer) -> VersionLayer:
    """One layer of a version with the amounts, and the family, of another.

    Args:
        version: As kept.
        formula: The same as read.
        layer: What it becomes.
    """
    kept = next((one for one in version.layers if one.id == layer.layer_id), None)
    was = next((one for one in formula.layers if one.layer_id == layer.layer_id), None)
    return _layer(kept, was, layer)


def _layer(kept: VersionLayer | None, was: FormulaLayer | None, layer: FormulaLayer) -> VersionLayer:
    known = list(zip(kept.ingredients, was.ingredients, strict=True)) if kept is not None and was is not None else []
    lines: list[VersionIngredient] = []
    taken = {line.id for line, _ in known}
    for one in layer.ingredients:
        found = next((pair for pair in known if one.line_id and pair[0].id == one.line_id), None) or next(
            (pair for pair in known if not one.line_id and pair[1].ingredient_id == one.ingredient_id), None
        )
        if found is not None:
            known.remove(found)
            line, read = found
            same = abs(read.grams - one.grams) <= _UNCHANGED * max(1.0, read.grams) and line.amount.strip() != ""
            amount = line.amount if same or one.unread else written_grams(one.grams)  # what is open stays open
            lines.append(replace(line, ingredient=one.ingredient_id, name=one.name, role=one.role, amount=amount))
            continue
        number = next(number for number in range(1, 1000) if f"line-{number}" not in taken)
        taken.add(f"line-{number}")
        lines.append(
            VersionIngredient(
                id=f"line-{number}",
                ingredient=one.ingredient_id,
                name=one.name,
                role=one.role,
                amount=written_grams(one.grams),
                locked=one.locked,
            )
        )
    lost = (
        kept.water_lost
        if kept is not None and was is not None and abs(was.water_lost_g - layer.water_lost_g) <= _UNCHANGED
        else ""
    )
    return VersionLayer(
        id=layer.layer_id,
        name=layer.name,
        family=layer.family,
        water_lost=lost or written_grams(layer.water_lost_g),
        shaping=kept.shaping if kept is not None and kept.family == layer.family else None,
        ingredients=tuple(lines),
    )
