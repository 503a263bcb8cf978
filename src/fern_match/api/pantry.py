"""The pantry and the families, to choose from."""

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict

from fern_match.api.deps import PantryDep
from fern_match.core.families import families
from fern_match.core.study.starters import STARTER_BUILDS
from fern_match.exchange.study_file import LayerFile

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


class StarterBuildOut(BaseModel):
    """A usual build to start from."""

    id: str
    name: str
    layers: list[LayerFile]


@router.get("/starter-builds")
def read_starter_builds() -> list[StarterBuildOut]:
    """Usual builds to start from."""
    return [
        StarterBuildOut(
            id=build.id,
            name=build.name,
            layers=[LayerFile(id=la.id, name=la.name, family=la.family, place=la.place, host=la.host) for la in build.layers],
        )
        for build in STARTER_BUILDS
    ]


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
