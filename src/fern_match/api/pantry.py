"""The pantry: to choose from, to add to, to change, as CSV; and the families."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from fern_match.api.deps import ChangeIn, Desk, DeskDep, MadeOnIn, Short, kinds
from fern_match.core.errors import NotKnown
from fern_match.core.estimate.picture import SmallSlice, slice_of_build
from fern_match.core.families import search_words
from fern_match.core.food import Ingredient, Nutrient
from fern_match.core.food.nutrients import NUTRIENT_TITLES
from fern_match.core.food.search import found_in
from fern_match.core.food.sound import YOURS
from fern_match.core.food.spreads import second_figure
from fern_match.core.formulate import read_version
from fern_match.core.formulate.beginning.component import component_of
from fern_match.core.history import changes
from fern_match.core.house import House, with_ingredients
from fern_match.core.label.rows import Region, RowId, panel_rows
from fern_match.core.names import Names
from fern_match.core.study.from_statement import with_statement
from fern_match.core.study.own import own_ingredient, packet_rows
from fern_match.core.study.record import Layer
from fern_match.core.study.starters import FURTHER_LAYER, STARTER_BUILDS
from fern_match.exchange.pantry_csv import MOST_SIGNS, written_pantry
from fern_match.exchange.pantry_csv import read_pantry as read_csv

router = APIRouter(prefix="/api", tags=["pantry"])


class FoodOut(BaseModel):
    """An ingredient to choose."""

    id: str
    name: str
    category: str
    also: list[str]  # what else it is called
    origin: str  # shipped, changed, or own
    estimated: bool  # from a packet, not a full composition
    price_per_kg: float | None
    vegan: str
    allergens: list[str]
    allergens_known: bool  # whether there are no others


class FigureOut(BaseModel):
    """A figure that an ingredient has, and what it is called."""

    nutrient: Nutrient
    title: str
    unit: str
    second: float | None = None  # what another source says, where it disagrees


class IngredientOut(BaseModel):
    """An ingredient with every figure."""

    revision: int
    ingredient: Ingredient
    origin: str
    shipped: Ingredient | None
    figures: list[FigureOut]


class IngredientIn(ChangeIn):
    """A changed ingredient."""

    ingredient: Ingredient


class PacketIn(MadeOnIn):
    """What a packet says; figures as typed."""

    name: Short
    region: Region = Region.EU
    serving: Short = ""
    rows: dict[RowId, Short]
    statement: Annotated[str, Field(max_length=20_000)] = ""


class ComponentIn(MadeOnIn):
    """A layer to keep as an ingredient."""

    match_id: str
    version_id: str
    layer_id: str
    name: Annotated[str, Field(max_length=120)] = ""


class PantryFileIn(MadeOnIn):
    """A pantry file."""

    text: Annotated[str, Field(max_length=MOST_SIGNS)]


class PantryKeptOut(BaseModel):
    """What was kept."""

    revision: int
    ids: list[str]


class FileChangeOut(BaseModel):
    """One ingredient that a file would add or change."""

    id: str
    name: str
    is_new: bool
    words: tuple[str, ...]  # what would change, a sentence each


class FilePreviewOut(BaseModel):
    """What a pantry file would do; nothing is kept yet."""

    revision: int
    changes: list[FileChangeOut]
    unchanged: int  # rows that say what is there already


class PacketRowOut(BaseModel):
    """A row of a packet's panel."""

    row: RowId
    title: str
    unit: str


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
    own = _own(desk)
    foods = sorted(desk.pantry_now().all(), key=lambda food: food.name)
    return [_food_out(food, own, desk) for food in foods]


@router.get("/pantry/search")
def search_pantry(desk: DeskDep, q: Annotated[str, Query(max_length=200)] = "") -> list[FoodOut]:
    """The ingredients a text most likely means; spelling is forgiven."""
    own = _own(desk)
    return [_food_out(food, own, desk) for food in found_in(desk.pantry_now(), q)]


@router.get("/pantry/export", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def export_pantry(desk: DeskDep, *, own_only: bool = False) -> Response:
    """The pantry as CSV: all of it, or what was added and changed."""
    foods = _own(desk).values() if own_only else desk.pantry_now().all()
    headers = {"Content-Disposition": 'attachment; filename="fern-match-pantry.csv"'}
    return Response(written_pantry(foods), media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/pantry/import/preview")
def preview_pantry_file(body: PantryFileIn, desk: DeskDep) -> FilePreviewOut:
    """What a CSV file would add and change, before it does."""
    now = desk.house_now()
    foods = read_csv(body.text, now.pantry)
    names = Names.of(now.pantry, desk.families, House(ingredients=foods))
    found = []
    for food in foods:
        before = now.pantry.by_id.get(food.id)
        if food != before:
            words = changes(before, food, names) if before is not None else ()
            found.append(FileChangeOut(id=food.id, name=food.name, is_new=before is None, words=words))
    return FilePreviewOut(revision=now.revision, changes=found, unchanged=len(foods) - len(found))


@router.post("/pantry/import")
def import_pantry(body: PantryFileIn, desk: DeskDep) -> PantryKeptOut:
    """Takes ingredients from a CSV file, laid over what is there; all of them or none."""
    now = desk.pantry_now()
    return _keep(desk, body.revision, [food for food in read_csv(body.text, now) if now.by_id.get(food.id) != food])


@router.post("/pantry/packet", status_code=201)
def add_from_packet(body: PacketIn, desk: DeskDep) -> PantryKeptOut:
    """Adds an ingredient from the panel, and the statement where there is one, on its packet."""
    pantry = desk.pantry_now()
    food = own_ingredient(body.name, body.region, body.rows, body.serving, pantry.by_id)
    food = with_statement(food, body.statement, body.region, pantry)
    return _keep(desk, body.revision, [food])


@router.post("/pantry/component", status_code=201)
def add_component(body: ComponentIn, desk: DeskDep) -> PantryKeptOut:
    """Keeps a layer of a version as an ingredient of one's own."""
    opened = desk.open(body.match_id, kinds("versions"))
    version = opened.match.version(body.version_id)
    formula = read_version(version, opened.reading.pantry, measures=opened.kitchen.kitchen.measures, comma=opened.reading.comma)
    layer = next((one for one in formula.layers if one.layer_id == body.layer_id), None)
    if layer is None:
        raise NotKnown("layer", body.layer_id)
    food = component_of(layer, body.name or layer.name, opened.reading.pantry, desk.pantry_now().by_id)
    return _keep(desk, body.revision, [food])


@router.get("/pantry/packet-rows")
def read_packet_rows(region: Region) -> list[PacketRowOut]:
    """The rows of a packet's panel in a region, to fill in."""
    wanted = packet_rows(region)
    return [PacketRowOut(row=spec.id, title=spec.title, unit=spec.unit) for spec in panel_rows(region) if spec.id in wanted]


@router.get("/pantry/{ingredient_id}")
def read_ingredient(ingredient_id: str, desk: DeskDep) -> IngredientOut:
    """One ingredient with every figure, and the shipped one beside it where it was changed."""
    now = desk.house_now()
    food = now.pantry[ingredient_id]
    shipped = desk.pantry.by_id.get(ingredient_id)
    return IngredientOut(
        revision=now.revision,
        ingredient=food,
        origin=_origin(food, _own(desk), desk),
        shipped=shipped if shipped != food else None,
        figures=[
            FigureOut(nutrient=nutrient, title=title, unit=unit, second=second_figure(food, nutrient))
            for nutrient, title, unit in NUTRIENT_TITLES
        ],
    )


@router.put("/pantry/{ingredient_id}")
def write_ingredient(ingredient_id: str, body: IngredientIn, desk: DeskDep) -> IngredientOut:
    """Keeps a changed ingredient beside the shipped one; a figure that changed says that it is yours."""
    changed = replace(body.ingredient, id=ingredient_id)
    before = desk.pantry_now().by_id.get(ingredient_id, changed)  # what another window took out asks when it is kept
    mine = {key for key in Nutrient if changed.per_100_g.get(key) != before.per_100_g.get(key)}
    changed = replace(changed, origins={**before.origins, **dict.fromkeys(mine, YOURS)})
    _keep(desk, body.revision, [changed], body.decided_on)
    return read_ingredient(ingredient_id, desk)


@router.delete("/pantry/{ingredient_id}")
def drop_ingredient(ingredient_id: str, body: MadeOnIn, desk: DeskDep) -> PantryKeptOut:
    """Takes one’s own ingredient out, or brings the shipped figures back; matches keep what they have pinned."""

    def change(own: House) -> House:
        return replace(own, ingredients=tuple(food for food in own.ingredients if food.id != ingredient_id))

    kept = desk.house_keeper().save(body.revision, change)
    return PantryKeptOut(revision=kept.revision, ids=[ingredient_id])


def _keep(desk: Desk, revision: int, foods: Sequence[Ingredient], decided_on: int | None = None) -> PantryKeptOut:
    change = partial(with_ingredients, foods=foods, pantry=desk.pantry)
    kept = desk.house_keeper().save(revision, change, decided_on=decided_on)
    return PantryKeptOut(revision=kept.revision, ids=[food.id for food in foods])


def _own(desk: Desk) -> dict[str, Ingredient]:
    return {food.id: food for food in desk.house_now().house.ingredients}


def _origin(food: Ingredient, own: Mapping[str, Ingredient], desk: Desk) -> str:
    if food.id not in own:
        return "shipped"
    return "changed" if food.id in desk.pantry else "own"


def _food_out(food: Ingredient, own: Mapping[str, Ingredient], desk: Desk) -> FoodOut:
    return FoodOut(
        id=food.id,
        name=food.name,
        category=food.category,
        also=list(food.label_names),
        origin=_origin(food, own, desk),
        estimated=any(origin != YOURS for origin in food.origins.values()),
        price_per_kg=food.price_per_kg,
        vegan=food.vegan,
        allergens=list(food.allergens),
        allergens_known=food.allergens_known,
    )


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
