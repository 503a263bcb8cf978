"""Recipes read line by line, and versions and matches made from them."""

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from fern_match.api.deps import DeskDep, MadeOnIn, Opened, kinds, touching
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
    read_version,
    targets_of,
    version_of_recipe,
)
from fern_match.core.label.rows import Region
from fern_match.core.match import check_match, first_plan, ingredients_of, match_of_recipe, with_version
from fern_match.core.measures import Measures
from fern_match.core.measures.pieces import MOST_PIECES, USUAL_PIECES
from fern_match.core.recipe import LineKind, Recipe, RecipeLine, read_recipe
from fern_match.core.record import fresh_id
from fern_match.core.record.parts import PartKey
from fern_match.store.trees import NewTree, create

router = APIRouter(prefix="/api", tags=["recipes"])

Pieces = Annotated[int, Field(ge=1, le=MOST_PIECES)]


class RecipeIn(BaseModel):
    """A recipe as pasted or typed, and what the user chose for its lines and parts."""

    model_config = ConfigDict(extra="forbid")

    text: Annotated[str, Field(max_length=20_000)]
    measures: Measures = Measures.METRIC
    taken: dict[int, str] = {}  # line -> ingredient, where the user chose one
    families: dict[int, str] = {}  # part -> family
    pieces: Pieces | None = None


class RecipeLineOut(BaseModel):
    """One line as read."""

    number: int  # among all lines, for choosing
    line: str
    grams: float | None
    low_g: float | None
    high_g: float | None
    ingredient_id: str | None
    ingredient: str | None
    confidence: float
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
    pantry = desk.pantry_now()
    recipe = _read(body, pantry)
    pieces = body.pieces or recipe.pieces or USUAL_PIECES
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
        parts=parts,
        doubts=recipe.doubts,
        piece_g=sum(section.grams for section in recipe.sections) / pieces,
    )


@router.post("/matches/{match_id}/versions/recipe", status_code=201)
def version_from_recipe(match_id: str, body: RecipeVersionIn, desk: DeskDep) -> TakenOut:
    """A version from a recipe, beside those that are there; its parts take the layers of the build they fit."""
    opened = desk.open(match_id, kinds("versions", "batches"))
    pantry = opened.reading.pantry
    recipe = _read(body.recipe, pantry)
    ids = {version.id for version in opened.match.versions}
    name = body.name.strip() or recipe.title or "From a recipe"
    layer_ids = _layer_ids(recipe, body.recipe, opened, desk.families)
    version = _version(recipe, body.recipe, fresh_id(name, ids), name, layer_ids, pantry, desk.families)
    plan = first_plan(version, str(body.recipe.pieces or recipe.pieces or USUAL_PIECES))
    keys = [PartKey("versions", version.id), PartKey("batches", plan.id)]
    keys += [PartKey("pinned", ingredient) for ingredient in ingredients_of(version)]
    kept = desk.keeper(match_id).save(body.revision, lambda match: with_version(match, version, [plan], pantry), touching(*keys))
    return TakenOut(revision=kept.revision, version=version)


@router.post("/matches/from-recipe", status_code=201)
def match_from_recipe(body: RecipeMatchIn, desk: DeskDep) -> MatchKeyOut:
    """A new match with no wrapper at hand: the recipe stands in for the estimate."""
    pantry = desk.pantry_now()
    recipe = _read(body.recipe, pantry)
    name = body.name.strip() or recipe.title or "From a recipe"
    taken: list[str] = []
    for number, section in enumerate(recipe.sections, 1):
        taken.append(fresh_id(section.name or f"part {number}", taken))
    version = _version(recipe, body.recipe, "recipe", "The recipe", taken, pantry, desk.families)
    pieces = body.recipe.pieces or recipe.pieces or USUAL_PIECES
    match = match_of_recipe(name, body.region, version, pieces, desk.families, pantry)
    check_match(match)
    new = NewTree.of(match, desk.line(match))
    with desk.database.writing() as session:
        return MatchKeyOut(id=create(session, new), revision=1)


def _read(body: RecipeIn, pantry: Pantry) -> Recipe:
    """The recipe, with what the user chose for its lines."""
    recipe = read_recipe(body.text, pantry, measures=body.measures)
    number, sections = 0, []
    for section in recipe.sections:
        lines = []
        for line in section.lines:
            chosen = body.taken.get(number)
            lines.append(_chosen(line, chosen, body.measures, pantry) if chosen is not None and chosen in pantry else line)
            number += 1
        sections.append(replace(section, lines=tuple(lines)))
    return replace(recipe, sections=tuple(sections))


def _chosen(line: RecipeLine, key: str, measures: Measures, pantry: Pantry) -> RecipeLine:
    """A line with the ingredient the user chose: its amount is read again as that one's."""
    food = pantry[key]
    again = read_recipe(line.line.replace(line.name, food.name.split(",")[0].split(" (")[0], 1), pantry, measures=measures)
    grams = next((one.grams for one in again.lines if one.ingredient_id == key), line.grams)
    return replace(line, ingredient_id=key, confidence=1.0, problem=None, grams=grams)


def _version(
    recipe: Recipe, body: RecipeIn, version_id: str, name: str, layer_ids: list[str], pantry: Pantry, families: Families
) -> Version:
    if not any(line.ingredient_id for line in recipe.lines):
        raise NotReady("No line of the recipe names an ingredient of the pantry. Write one a line: “200 g sugar”.")
    empty = Version(id=version_id, name=name[:120], origin=Origin(kind=OriginKind.RECIPE))
    pieces = body.pieces or recipe.pieces or USUAL_PIECES
    version = version_of_recipe(
        recipe, empty, pieces=pieces, chosen=body.families, layer_ids=layer_ids, pantry=pantry, families=families
    )
    return replace(version, targets=targets_of(read_version(version, pantry), pantry))


def _layer_ids(recipe: Recipe, body: RecipeIn, opened: Opened, families: Families) -> list[str]:
    """For each part the layer of the build whose kind it is, else an id of its own."""
    free = {layer.id: family for layer, family in opened.reading.build}
    found: list[str] = []
    for number, section in enumerate(recipe.sections):
        guesses = fitting_families(section, families)
        wanted = [body.families[number]] if number in body.families else [one.family_id for one in guesses[:2]]
        roots = {families.root_of(one) for one in wanted}
        same = next((key for key, family in free.items() if families.root_of(family.id) in roots), None)
        if same is not None:
            free.pop(same)
        found.append(same or fresh_id(section.name or f"part {number + 1}", [*free, *found]))
    return found


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
        confidence=line.confidence,
        assumed=line.assumed,
        problem=line.problem,
        free=line.free if line.kind is LineKind.FREE else "",
        bought_g=line.bought.bought_g if line.bought is not None else None,
        ready_g=line.bought.ready_g if line.bought is not None else None,
    )
