"""The pantry and the families, to choose from."""

from fastapi import APIRouter
from pydantic import BaseModel

from fern_match.api.deps import DeskDep
from fern_match.core.study.record import Layer
from fern_match.core.study.starters import FURTHER_LAYER, STARTER_BUILDS, StarterBuild

router = APIRouter(prefix="/api", tags=["pantry"])


class FoodOut(BaseModel):
    """An ingredient to choose."""

    id: str
    name: str
    category: str


class FamilyOut(BaseModel):
    """A family to choose."""

    id: str
    name: str
    place: str
    diet: str
    note: str


class StartersOut(BaseModel):
    """Usual builds to start from, and what a further layer begins as."""

    builds: tuple[StarterBuild, ...]
    further: Layer


@router.get("/starter-builds")
def read_starter_builds() -> StartersOut:
    """Usual builds to start from."""
    return StartersOut(builds=STARTER_BUILDS, further=FURTHER_LAYER)


@router.get("/pantry")
def read_pantry(desk: DeskDep) -> list[FoodOut]:
    """Every ingredient, by name."""
    foods = sorted(desk.pantry.all(), key=lambda food: food.name)
    return [FoodOut(id=food.id, name=food.name, category=food.category) for food in foods]


@router.get("/families")
def read_families(desk: DeskDep) -> list[FamilyOut]:
    """Every family, in the table's order."""
    return [
        FamilyOut(id=family.id, name=family.name, place=family.place, diet=family.diet, note=family.note)
        for family in desk.families.all()
    ]
