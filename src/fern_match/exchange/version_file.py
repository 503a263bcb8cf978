"""Versions and batches in a file."""

from typing import Self

from pydantic import Field

from fern_match.core.formulate import Version, VersionIngredient, VersionLayer
from fern_match.core.match import BatchPlan
from fern_match.exchange.shapes import Cell, Grams, Key, Name, Shape


class VersionIngredientFile(Shape):
    """An ingredient as added, for one piece."""

    ingredient: Key
    name: Name
    role: Name
    grams: Grams


class VersionLayerFile(Shape):
    """A layer of a version, for one piece: sum of ingredients - water lost = finished."""

    layer: Key
    name: Name
    family: Key
    finished_g: Grams
    water_lost_g: Grams
    ingredients: list[VersionIngredientFile] = Field(max_length=200)


class VersionFile(Shape):
    """A formula to cook."""

    id: Key
    name: Name
    parent: Key | None = None
    layers: list[VersionLayerFile] = Field(max_length=20)

    def to_core(self) -> Version:
        """The version as the core has it."""
        return Version(
            id=self.id,
            name=self.name,
            parent=self.parent,
            layers=tuple(
                VersionLayer(
                    layer_id=layer.layer,
                    name=layer.name,
                    family=layer.family,
                    finished_g=layer.finished_g,
                    water_lost_g=layer.water_lost_g,
                    ingredients=tuple(
                        VersionIngredient(ingredient_id=one.ingredient, name=one.name, role=one.role, grams=one.grams)
                        for one in layer.ingredients
                    ),
                )
                for layer in self.layers
            ),
        )

    @classmethod
    def of(cls, version: Version) -> Self:
        """The file's shape of a version."""
        return cls(
            id=version.id,
            name=version.name,
            parent=version.parent,
            layers=[
                VersionLayerFile(
                    layer=layer.layer_id,
                    name=layer.name,
                    family=layer.family,
                    finished_g=layer.finished_g,
                    water_lost_g=layer.water_lost_g,
                    ingredients=[
                        VersionIngredientFile(ingredient=one.ingredient_id, name=one.name, role=one.role, grams=one.grams)
                        for one in layer.ingredients
                    ],
                )
                for layer in version.layers
            ],
        )


class BatchFile(Shape):
    """What was asked of a batch, as typed."""

    id: Key
    version: Key
    pieces: Cell = ""
    left_on_tools: dict[Key, Cell] = Field(default_factory=dict, description="Layer id -> per cent as typed.")
    in_house: dict[Key, Cell] = Field(default_factory=dict, description="Ingredient id -> amount in the house as typed.")

    def to_core(self) -> BatchPlan:
        """The plan as the core has it."""
        return BatchPlan(
            id=self.id,
            version_id=self.version,
            pieces=self.pieces,
            left_on_tools=dict(self.left_on_tools),
            in_house=dict(self.in_house),
        )

    @classmethod
    def of(cls, plan: BatchPlan) -> Self:
        """The file's shape of a plan."""
        return cls(
            id=plan.id,
            version=plan.version_id,
            pieces=plan.pieces,
            left_on_tools=dict(plan.left_on_tools),
            in_house=dict(plan.in_house),
        )
