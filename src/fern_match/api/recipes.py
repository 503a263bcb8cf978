"""Recipes read line by line, and versions and matches made from them."""

from collections.abc import Sequence
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from fern_match.api.deps import DeskDep, MadeOnIn, kinds, touching
from fern_match.api.errors import NotReady
from fern_match.api.formulate import TakenOut
from fern_match.api.matches import MatchKeyOut
from fern_match.core.families import Families
from fern_match.core.food import Pantry
from fern_match.core.formulate import (
    Origin,
    OriginKind,
    Version,
    fitting_families,
    layers_for,
    version_of_recipe,
)
from fern_match.core.kitchen import KitchenReading
from fern_match.core.label.rows import Region
from fern_match.core.match import check_match, first_plan, ingredients_of, match_of_recipe, with_version
from fern_match.core.measures import Measures
from fern_match.core.measures.pasted import plain_text
from fern_match.core.recipe import LineKind, Recipe, RecipeLine, pieces_of, read_asked, usual_measures
from fern_match.core.record import fresh_id
from fern_match.core.record.parts import PartKey
from fern_match.core.record.texts import LONGEST_NAME
from fern_match.store.trees import NewTree, create

router = APIRouter(prefix="/api", tags=["recipes"])


class RecipeIn(BaseModel):
    """A recipe as pasted or typed, and what the user chose for its lines and parts."""

    model_config = ConfigDict(extra="forbid")

    text: Annotated[str, Field(max_length=20_000)]
    measures: Measures | None = None  # whose cups and spoons; by region and kitchen where nothing is said
    region: Region | None = None  # of the label
    taken: dict[int, str] = {}  # line -> ingredient, where the user chose one
    families: dict[int, str] = {}  # part -> family
    pieces: Annotated[str, Field(max_length=100)] = ""  # as typed; what the recipe says where it is empty


class RecipeLineOut(BaseModel):
    """One line as read."""

    number: int  # among all lines, for choosing
    line: str
    grams: float | None
    low_g: float | None
    high_g: float | None
    ingredient_id: str | None
    ingredient: str | None
    sure: bool  # else the ingredient is asked for
    wide: bool  # whether low and high are far enough apart to be said
    assumed: tuple[str, ...]
    problem: str | None
    free: str
    bought_g: float | None
    ready_g: float | None


class GuessOut(BaseModel):
    """A family that a part's ingredients fit."""

    family_id: str
    name: str


class RecipePartOut(BaseModel):
    """One part as read."""

    name: str
    grams: float
    family_id: str | None
    guesses: list[GuessOut]
    lines: list[RecipeLineOut]


class RecipeOut(BaseModel):
    """A recipe as read."""

    title: str
    pieces: int
    pieces_said: bool
    pieces_problem: str | None  # of what was typed
    measures: Measures
    parts: list[RecipePartOut]
    doubts: tuple[str, ...]
    piece_g: float  # as added


class RecipeVersionIn(MadeOnIn):
    """A version from a recipe."""

    recipe: RecipeIn
    name: Annotated[str, Field(max_length=120)] = ""


class RecipeMatchIn(BaseModel):
    """A match from a recipe alone."""

    model_config = ConfigDict(extra="forbid")

    recipe: RecipeIn
    name: Annotated[str, Field(max_length=120)] = ""
    region: Region = Region.EU


@router.post("/recipe")
def read_pasted_recipe(body: RecipeIn, desk: DeskDep) -> RecipeOut:
    """A recipe as read, to be looked over; nothing is kept."""
    now = desk.house_now()
    pantry, measures = now.pantry, _measures(body, now.kitchen)
    recipe = read_asked(body.text, body.taken, pantry, measures)
    pieces, typed = pieces_of(recipe, body.pieces)
    number, parts = 0, []
    for at, section in enumerate(recipe.sections):
        lines = []
        for line in section.lines:
            lines.append(_line_out(number, line, pantry))
            number += 1
        guesses = fitting_families(section, desk.families)
        parts.append(
            RecipePartOut(
                name=section.name,
                grams=section.grams,
                family_id=body.families.get(at) or (guesses[0].family_id if guesses else None),
                guesses=[GuessOut(family_id=one.family_id, name=desk.families[one.family_id].name) for one in guesses],
                lines=lines,
            )
        )
    return RecipeOut(
        title=recipe.title,
        pieces=pieces,
        pieces_said=recipe.pieces is not None,
        pieces_problem=typed.problem,
        measures=measures,
        parts=parts,
        doubts=recipe.doubts,
        piece_g=sum(section.grams for section in recipe.sections) / pieces,
    )


@router.post("/matches/{match_id}/versions/recipe", status_code=201)
def version_from_recipe(match_id: str, body: RecipeVersionIn, desk: DeskDep) -> TakenOut:
    """A version from a recipe, beside those that are there; its parts take the layers of the build they fit."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    pantry = opened.reading.pantry
    recipe, pieces = _taken(body.recipe, pantry, opened.kitchen)
    name = (body.name.strip() or recipe.title or "From a recipe")[:LONGEST_NAME]
    key = fresh_id(name, {version.id for version in opened.match.versions})
    layer_ids = layers_for(recipe, body.recipe.families, opened.reading.build, desk.families)
    version = _version(recipe, body.recipe, key, name, pieces, layer_ids, pantry, desk.families)
    plan = first_plan(version, str(pieces))
    keys = [PartKey("versions", version.id), PartKey("batches", plan.id)]
    keys += [PartKey("pinned", ingredient) for ingredient in ingredients_of(version)]
    kept = desk.keeper(match_id).save(body.revision, lambda match: with_version(match, version, [plan], pantry), touching(*keys))
    return TakenOut(revision=kept.revision, version=version)


@router.post("/matches/from-recipe", status_code=201)
def match_from_recipe(body: RecipeMatchIn, desk: DeskDep) -> MatchKeyOut:
    """A new match with no wrapper at hand: the recipe stands in for the estimate."""
    now = desk.house_now()
    recipe, pieces = _taken(body.recipe, now.pantry, now.kitchen)
    name = body.name.strip() or recipe.title or "From a recipe"
    layer_ids = layers_for(recipe, body.recipe.families, (), desk.families)
    version = _version(recipe, body.recipe, "recipe", "The recipe", pieces, layer_ids, now.pantry, desk.families)
    match = match_of_recipe(name, body.region, version, pieces, desk.families, now.pantry)
    check_match(match)
    new = NewTree.of(match, desk.line(match))
    with desk.database.writing() as session:
        return MatchKeyOut(id=create(session, new), revision=1)


def _version(
    recipe: Recipe,
    body: RecipeIn,
    key: str,
    name: str,
    pieces: int,
    layer_ids: Sequence[str],
    pantry: Pantry,
    families: Families,
) -> Version:
    empty = Version(id=key, name=name, origin=Origin(kind=OriginKind.RECIPE), recipe=plain_text(body.text))
    return version_of_recipe(
        recipe, empty, pieces=pieces, chosen=body.families, layer_ids=layer_ids, pantry=pantry, families=families
    )


def _measures(body: RecipeIn, kitchen: KitchenReading) -> Measures:
    return body.measures or usual_measures(body.region, kitchen.kitchen.measures)


def _taken(body: RecipeIn, pantry: Pantry, kitchen: KitchenReading) -> tuple[Recipe, int]:
    """A recipe that can be taken as a version, and how many pieces it gives.

    Raises:
        NotReady: nothing in it is an ingredient, or the pieces were not read.
    """
    recipe = read_asked(body.text, body.taken, pantry, _measures(body, kitchen))
    pieces, typed = pieces_of(recipe, body.pieces)
    if typed.problem:
        raise NotReady(typed.problem)
    if not any(line.ingredient_id for line in recipe.lines):
        raise NotReady("No line of the recipe names an ingredient of the pantry. Write one a line: “200 g sugar”.")
    return recipe, pieces


def _line_out(number: int, line: RecipeLine, pantry: Pantry) -> RecipeLineOut:
    known = line.ingredient_id is not None and line.ingredient_id in pantry
    return RecipeLineOut(
        number=number,
        line=line.line,
        grams=line.grams,
        low_g=line.low_g,
        high_g=line.high_g,
        ingredient_id=line.ingredient_id,
        ingredient=pantry[str(line.ingredient_id)].name if known else None,
        sure=line.sure,
        wide=line.wide,
        assumed=line.assumed,
        problem=line.problem,
        free=line.free if line.kind is LineKind.FREE else "",
        bought_g=line.bought.bought_g if line.bought is not None else None,
        ready_g=line.bought.ready_g if line.bought is not None else None,
    )
