"""The faithful version: the estimate's best values for a kitchen, and what taking it again does to an earlier one."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import partial

from fern_match.core.estimate.result import Estimate, IngredientAmount, LayerEstimate
from fern_match.core.food import Ingredient
from fern_match.core.formulate.beginning.kitchen_version import for_this_kitchen
from fern_match.core.formulate.record.formula import read_version, written_grams
from fern_match.core.formulate.record.version import Origin, OriginKind, Version, VersionIngredient, VersionLayer
from fern_match.core.formulate.record.writing import written_version
from fern_match.core.formulate.solving.pose import SMALL_ROLES, TASTED_ROLES
from fern_match.core.formulate.solving.posed import PieceLimit
from fern_match.core.formulate.solving.prices import price
from fern_match.core.formulate.solving.targets import read_targets, targets_of
from fern_match.core.study.reading import StudyReading

FAITHFUL = "faithful"  # the id of the version that is taken from the estimate
_LEAST_PRESENCE = 0.5  # an ingredient more likely absent than present is left to the others of its layer
_LEAST_G = 0.0005
_TOKEN = 0.02  # of a layer, below which a body that may as well be none there is left to the layer that has most of it [g/g]
_BESIDE_MOST = 0.3  # of what another layer has, below which fruit or nuts that may as well be none are that layer's alone [g/g]
_SURE_OF_IT = 0.2  # of its best value, from which the lower end of a range says that it is there [g/g]


@dataclass(frozen=True, slots=True)
class WouldReplace:
    """There is a faithful version already, and it is not what would be taken now."""

    sentence: str


def faithful_version(version_id: str, estimate: Estimate, key: str = "") -> Version:
    """The estimate's best values as a formula for one piece.

    Ingredients more likely absent than present are left out, and the rest of the layer makes up for them, so that each
    layer keeps its finished mass and its water lost.

    Args:
        key: Fingerprint of the study it was made from.
    """
    most: dict[str, float] = {}
    for one in (one for layer in estimate.layers for one in layer.ingredients):
        if one.item is not None and one.presence >= _LEAST_PRESENCE:  # what is left out there must not be left out here, too
            most[one.item] = max(most.get(one.item, 0.0), one.grams.best)
    layers = tuple(_layer(layer, most) for layer in estimate.layers)
    return Version(id=version_id, name="Faithful", origin=Origin(kind=OriginKind.ESTIMATE, key=key), layers=layers)


def kitchen_version(version_id: str, estimate: Estimate, reading: StudyReading, key: str = "") -> Version:
    """The faithful version as a kitchen makes it: with what it buys, held to what the estimate gives, amounts solved.

    Args:
        version_id: Of the version.
        estimate: Of the study.
        reading: The study.
        key: Its fingerprint.
    """
    plain = faithful_version(version_id, estimate, key)
    formula = read_version(plain, reading.pantry, comma=reading.comma)
    held = replace(plain, targets=targets_of(formula, reading.pantry))
    targets = read_targets(held, formula, reading)
    return written_version(held, formula, for_this_kitchen(formula, targets, reading, within_ranges(estimate)))


def within_ranges(estimate: Estimate) -> tuple[PieceLimit, ...]:
    """That each ingredient of a layer stays in the estimate's range, where anything lets it: declared shares among them.

    Args:
        estimate: Of the study.
    """
    found = []
    for layer in estimate.layers:
        sums: dict[str, tuple[float, float]] = {}
        for one in layer.ingredients:
            low, high = sums.get(one.ingredient_id, (0.0, 0.0))
            sums[one.ingredient_id] = low + one.grams.low, high + one.grams.high
        for key, (low, high) in sums.items():
            name = f"{layer.layer_id} {key} in the estimate's range"
            for sign, most in ((1.0, high), (-1.0, -low)):
                found.append(
                    PieceLimit(
                        id=f"{name}, {'above' if sign > 0 else 'below'}",
                        words=name,
                        weigh=partial(_is_it, key, sign),
                        most=most,
                        layer_id=layer.layer_id,
                        price=price("estimate's range left"),
                    )
                )
    return tuple(found)


def _is_it(key: str, sign: float, food: Ingredient) -> float:
    return sign if food.id == key else 0.0


def taken(
    versions: tuple[Version, ...],
    estimate: Estimate,
    reading: StudyReading,
    key: str,
    *,
    keep_both: bool = False,
    over: bool = False,
) -> Version | WouldReplace:
    """The version that taking the estimate gives: the faithful one, or a further one beside it.

    Args:
        reading: The study.
        key: Its fingerprint.
        keep_both: Whether an earlier faithful version stays and this one comes beside it.
        over: Whether it may take an earlier one's place, whatever that holds.
    """
    ids = {version.id for version in versions}
    earlier = next(
        (version for version in versions if version.parent is None and version.origin.kind is OriginKind.ESTIMATE), None
    )
    fresh = kitchen_version(earlier.id if earlier else FAITHFUL, estimate, reading, key)
    if earlier is None or earlier == fresh or over:
        return fresh
    if keep_both:
        number = next(number for number in range(2, len(ids) + 3) if f"{FAITHFUL}-{number}" not in ids)
        return replace(fresh, id=f"{FAITHFUL}-{number}", name=f"Faithful {number}")
    if not earlier.origin.key:
        why = "it is not known from which study"
    else:
        why = "the study has changed since it was taken" if earlier.origin.key != key else "it was changed by hand since"
    return WouldReplace(
        f"There is a faithful version already, and {why}. Taking the estimate again replaces its amounts; its batches stay. "
        "Replace it, or keep both?"
    )


def _layer(layer: LayerEstimate, most: Mapping[str, float]) -> VersionLayer:
    kept = [
        one
        for one in layer.ingredients
        if one.presence >= _LEAST_PRESENCE and one.grams.best >= _LEAST_G and not _is_token(one, layer, most)
    ]
    kept = kept or list(layer.ingredients)
    scale = (layer.grams.best + layer.water_lost_g.best) / sum(one.grams.best for one in kept)
    return VersionLayer(
        id=layer.layer_id,
        name=layer.name,
        family=layer.family,
        water_lost=written_grams(layer.water_lost_g.best),
        ingredients=tuple(
            VersionIngredient(
                id=f"line-{number}",
                ingredient=one.ingredient_id,
                name=one.name,
                role=one.role,
                amount=written_grams(one.grams.best * scale),
            )
            for number, one in enumerate(kept, 1)
        ),
    )


def _is_token(one: IngredientAmount, layer: LayerEstimate, most: Mapping[str, float]) -> bool:
    """Whether it is a trace of what another layer has most of.

    Nobody stirs 0.3 % of cocoa butter into a coconut filling, nor apple into the nougat beside an apple jelly.

    Args:
        most: Key of a name of the statement -> the most of it in any layer [g].
    """
    if one.item is None or one.role in SMALL_ROLES:
        return False
    little = one.share_of_layer < _TOKEN and one.grams.best < most.get(one.item, 0.0)
    tasted = one.role in TASTED_ROLES and one.grams.best < _BESIDE_MOST * most.get(one.item, 0.0)
    return (little or tasted) and one.grams.low < _SURE_OF_IT * one.grams.best
