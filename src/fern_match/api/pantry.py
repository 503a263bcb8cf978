"""The pantry and the families, to choose from."""

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict

from fern_match.api.deps import PantryDep
from fern_match.core.families import families

router = APIRouter(prefix="/api", tags=["pantry"])


class FoodOut(BaseModel):
    """An ingredient to choose."""

    model_config = ConfigDict(from_attributes=True)

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


@router.get("/pantry")
def read_pantry(pantry: PantryDep) -> list[FoodOut]:
    """Every ingredient, by name."""
    return sorted((FoodOut.model_validate(food) for food in pantry.all()), key=lambda food: food.name)


@router.get("/families")
def read_families() -> list[FamilyOut]:
    """Every family, in the table's order."""
    return [
        FamilyOut(id=family.id, name=family.name, place=family.place, diet=family.diet, note=family.note)
        for family in families().values()
    ]
