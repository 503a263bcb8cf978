"""A version: one formula for one piece, layer by layer, as added and as finished."""

from dataclasses import dataclass

from fern_match.core.estimate.result import Estimate, LayerEstimate

_LEAST_PRESENCE = 0.5  # an ingredient more likely absent than present is left to the others of its layer
_LEAST_G = 0.0005


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionIngredient:
    """One ingredient of a layer, as added, for one piece."""

    ingredient_id: str
    name: str
    role: str
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class VersionLayer:
    """One layer of one piece: sum of ingredients - water lost = finished mass [g]."""

    layer_id: str
    name: str
    family: str
    finished_g: float
    water_lost_g: float
    ingredients: tuple[VersionIngredient, ...]

    @property
    def added_g(self) -> float:
        """All that goes into the bowl for one piece [g]."""
        return sum(ingredient.grams for ingredient in self.ingredients)


@dataclass(frozen=True, slots=True, kw_only=True)
class Version:
    """A formula to cook, for one piece."""

    id: str
    name: str
    parent: str | None
    layers: tuple[VersionLayer, ...]

    @property
    def piece_g(self) -> float:
        """Mass of one finished piece [g]."""
        return sum(layer.finished_g for layer in self.layers)


def faithful_version(version_id: str, estimate: Estimate) -> Version:
    """The estimate's best values as a formula for one piece.

    Ingredients more likely absent than present are left out, and the rest of the layer makes up for them, so that each
    layer keeps its finished mass and its water lost.

    Args:
        version_id: The id it gets.
        estimate: Whose means.
    """
    layers = tuple(_layer(layer) for layer in estimate.layers)
    return Version(id=version_id, name="Faithful", parent=None, layers=layers)


def _layer(layer: LayerEstimate) -> VersionLayer:
    kept = [one for one in layer.ingredients if one.presence >= _LEAST_PRESENCE and one.grams.best >= _LEAST_G]
    kept = kept or list(layer.ingredients)
    added = layer.grams.best + layer.water_lost_g.best
    scale = added / sum(one.grams.best for one in kept)
    return VersionLayer(
        layer_id=layer.layer_id,
        name=layer.name,
        family=layer.family,
        finished_g=layer.grams.best,
        water_lost_g=layer.water_lost_g.best,
        ingredients=tuple(
            VersionIngredient(ingredient_id=one.ingredient_id, name=one.name, role=one.role, grams=one.grams.best * scale)
            for one in kept
        ),
    )
