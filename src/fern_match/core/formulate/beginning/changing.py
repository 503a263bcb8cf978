"""What may be done to a version, each as one change: begun, copied, a layer added or begun again, a line given way, amounts
fixed.

Worked example: a line of 3 g sugar that is typed anew as "3.2" is fixed at 3.2 g: what a user types is meant. The same line held
as "at least", or in a ratio, keeps its hold: there the amount is what it has just now.
"""

from collections.abc import Collection
from dataclasses import replace

from fern_match.core.errors import NotKnown
from fern_match.core.formulate.beginning.kitchen_version import fitting_role
from fern_match.core.formulate.beginning.start import layer_of_family
from fern_match.core.formulate.record.formula import Formula, read_version
from fern_match.core.formulate.record.version import (
    Origin,
    OriginKind,
    Property,
    Version,
    VersionIngredient,
)
from fern_match.core.formulate.solving.targets import Target, targets_of
from fern_match.core.record import fresh_id
from fern_match.core.record.texts import LONGEST_NAME
from fern_match.core.study.reading import StudyReading

_USUAL_PIECE_G = 40.0  # of a match that says no weight anywhere (approximate)
BY_RATIOS = "By working ratios"


def copied(parent: Version, name: str, taken: Collection[str]) -> Version:
    """A copy that knows its parent, and the rules that hold for it.

    Args:
        parent: Of which it is a copy.
        name: As typed; empty for one after its parent's.
        taken: Ids of the versions there are.
    """
    named = (name.strip() or f"{parent.name}, changed")[:LONGEST_NAME]
    kind = OriginKind.ADAPTED if parent.origin.kind is OriginKind.ADAPTED else OriginKind.HAND
    origin = Origin(kind=kind, rules=parent.origin.rules)
    return replace(parent, id=fresh_id(named, taken), name=named, parent=parent.id, origin=origin)


def by_working_ratios(reading: StudyReading, name: str, taken: Collection[str]) -> Version | None:
    """Each layer of the build by its family's working ratio, held to what that gives; None without a build.

    Args:
        reading: The study.
        name: As typed; empty for the usual one.
        taken: Ids of the versions there are.
    """
    if not reading.build:
        return None
    named = (name.strip() or BY_RATIOS)[:LONGEST_NAME]
    total = reading.piece_prior.mean_g if reading.piece_prior else _USUAL_PIECE_G
    weights = sum(family.traits.usual_weight for _, family in reading.build)
    layers = tuple(
        layer_of_family(family, total * family.traits.usual_weight / weights, layer.id, layer.name, reading.pantry)
        for layer, family in reading.build
    )
    version = Version(id=fresh_id(named, taken), name=named, origin=Origin(kind=OriginKind.HAND), layers=layers)
    formula = read_version(version, reading.pantry, comma=reading.comma)
    return replace(version, targets=targets_of(formula, reading.pantry))


def with_further_layer(version: Version, formula: Formula, family_id: str, name: str, reading: StudyReading) -> Version:
    """A version with one more layer, by its family's working ratio and of its usual weight beside the others.

    Args:
        version: As kept.
        formula: The same as read.
        family_id: Of the new layer.
        name: Of the new layer; empty for its family's.
        reading: The study, with compositions and families.

    Raises:
        NotKnown: there is no such family.
    """
    family = reading.families[family_id]
    known = [(one, reading.families.by_id.get(one.family)) for one in formula.layers]
    weights = sum(kind.traits.usual_weight for _, kind in known if kind is not None)
    weighed = sum(one.finished_g for one, kind in known if kind is not None)
    finished = weighed / weights * family.traits.usual_weight if weights > 0 and weighed > 0 else _USUAL_PIECE_G / 4
    named = name.strip() or family.name
    taken = {layer.id for layer in version.layers} | {layer.id for layer in reading.study.layers}
    layer = layer_of_family(family, finished, fresh_id(named, taken), named[:LONGEST_NAME], reading.pantry)
    return replace(version, layers=(*version.layers, layer))


def begun_again(
    version: Version, formula: Formula, targets: Collection[Target], layer_id: str, family_id: str, reading: StudyReading
) -> Version:
    """A version with one layer begun again by a family's working ratio, of the weight it is to have.

    Args:
        version: As kept.
        formula: The same as read.
        targets: What it is held to.
        layer_id: Of the layer.
        family_id: Its family from now on.
        reading: The study, with compositions and families.

    Raises:
        NotKnown: there is no such layer or family.
    """
    layer = next((one for one in formula.layers if one.layer_id == layer_id), None)
    if layer is None:
        raise NotKnown("layer", layer_id)
    family = reading.families[family_id]
    wanted = next(
        (one.wanted for one in targets if one.layer_id == layer_id and one.what is Property.MASS and one.counts), layer.finished_g
    )
    fresh = layer_of_family(family, wanted, layer_id, layer.name, reading.pantry)
    return version.with_layer(fresh)


def with_another(version: Version, layer_id: str, line_id: str, ingredient_id: str, reading: StudyReading) -> Version:
    """A version with one ingredient in another's place, its amount free.

    Args:
        version: As kept.
        layer_id: Of the layer.
        line_id: Of the line in it.
        ingredient_id: That comes in.
        reading: The study, with compositions and families.

    Raises:
        NotKnown: there is no such layer, line or ingredient.
    """
    food = reading.pantry[ingredient_id]
    layer = next((one for one in version.layers if one.id == layer_id), None)
    if layer is None:
        raise NotKnown("layer", layer_id)
    if all(line.id != line_id for line in layer.ingredients):
        raise NotKnown("line", line_id)
    lines = tuple(
        replace(line, ingredient=food.id, name=food.name, locked=False, least="", part="", role="")
        if line.id == line_id
        else line
        for line in layer.ingredients
    )
    changed = version.with_layer(replace(layer, ingredients=lines))
    family = reading.families.by_id.get(layer.family)
    if family is None:
        return changed
    formula = read_version(changed, reading.pantry, comma=reading.comma)
    read = next(one for one in formula.layers if one.layer_id == layer_id)
    role = next(fitting_role(one, family, reading.families) for one in read.ingredients if one.line_id == line_id)
    settled_lines = tuple(replace(line, role=role) if line.id == line_id else line for line in lines)
    return version.with_layer(replace(layer, ingredients=settled_lines))


def settled(before: Version, after: Version) -> Version:
    """A version as a user wrote it, with what follows: an amount that was typed is fixed; targets of layers that are gone go too.

    Args:
        before: What the change was made on.
        after: As it was written.
    """
    was = {(layer.id, line.id): line for layer in before.layers for line in layer.ingredients}
    layers = tuple(
        replace(layer, ingredients=tuple(_fixed(was.get((layer.id, line.id)), line) for line in layer.ingredients))
        for layer in after.layers
    )
    there = {layer.id for layer in after.layers}
    return replace(after, layers=layers, targets=tuple(one for one in after.targets if one.layer is None or one.layer in there))


def _fixed(was: VersionIngredient | None, line: VersionIngredient) -> VersionIngredient:
    typed = line.amount.strip() != (was.amount.strip() if was is not None else "")
    otherwise = was is not None and was.locked != line.locked  # the lock itself was pressed
    if not typed or otherwise or line.part or line.least:
        return line
    return replace(line, locked=line.amount.strip() != "")
