"""The pantry and the families, to choose from."""

from fastapi import APIRouter
from pydantic import BaseModel

from fern_match.api.deps import DeskDep
from fern_match.core.estimate.picture import SmallSlice, slice_of_build
from fern_match.core.families import search_words
from fern_match.core.study.record import Layer
from fern_match.core.study.starters import FURTHER_LAYER, STARTER_BUILDS

router = APIRouter(prefix="/api", tags=["pantry"])


class FoodOut(BaseModel):
    """An ingredient to choose."""

    id: str
    name: str
    category: str
    also: list[str]  # what else it is called


class FamilyOut(BaseModel):
    """A family to choose."""

    id: str
    name: str
    place: str
    diet: str
    note: str
    also: list[str]  # what labels and people call it


class DrawnBuild(BaseModel):
    """A usual build with its slice."""

    id: str
    name: str
    layers: tuple[Layer, ...]
    slice: SmallSlice | None


class StartersOut(BaseModel):
    """Usual builds to start from, and what a further layer begins as."""

    builds: list[DrawnBuild]
    further: Layer


@router.get("/starter-builds")
def read_starter_builds(desk: DeskDep) -> StartersOut:
    """Usual builds to start from."""
    builds = [
        DrawnBuild(
            id=build.id, name=build.name, layers=build.layers, slice=slice_of_build(build.layers, desk.pantry, desk.families)
        )
        for build in STARTER_BUILDS
    ]
    return StartersOut(builds=builds, further=FURTHER_LAYER)


@router.get("/pantry")
def read_pantry(desk: DeskDep) -> list[FoodOut]:
    """Every ingredient, by name."""
    foods = sorted(desk.pantry.all(), key=lambda food: food.name)
    return [FoodOut(id=food.id, name=food.name, category=food.category, also=list(food.label_names)) for food in foods]


@router.get("/families")
def read_families(desk: DeskDep) -> list[FamilyOut]:
    """Every family, in the table's order."""
    return [
        FamilyOut(
            id=family.id,
            name=family.name,
            place=family.place,
            diet=family.diet,
            note=family.note,
            also=[*family.traits.words, *search_words(family.id)],
        )
        for family in desk.families.all()
    ]
