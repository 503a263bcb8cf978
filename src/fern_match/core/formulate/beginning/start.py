"""Versions to begin with: a family's working ratio, or a recipe of one's own.

Worked example: "Makes 24", 250 g biscuits and 125 g butter under "Base": 375 / 24 = 15.6 g of crumb base a piece, two parts of
biscuits to one of butter.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.families import Families, Family
from fern_match.core.families.admission import Grade, misfit, role_of
from fern_match.core.food import Nutrient, Pantry
from fern_match.core.formulate.record.formula import read_version, written_grams
from fern_match.core.formulate.record.version import Version, VersionIngredient, VersionLayer
from fern_match.core.formulate.solving.targets import targets_of
from fern_match.core.recipe import LineKind, Recipe, RecipeLine, RecipeSection
from fern_match.core.record import fresh_id
from fern_match.core.record.texts import LONGEST_NAME
from fern_match.core.study.record import Layer

_COAT_WORDS = ("coat", "topping", "glaze", "cover", "shell", "dip", "drizzle")
_OUTSIDE = 0.4  # in misfit: for each role whose window the shares break
_RARE, _SELDOM = frozenset({"aerated-chocolate", "marbled-chocolate", "home-milk-chocolate", "chocolate-slab"}), 1.2


@dataclass(frozen=True, slots=True, kw_only=True)
class FamilyGuess:
    """A family that a section's ingredients fit, and how badly."""

    family_id: str
    misfit: float


def layer_of_family(family: Family, finished_g: float, layer_id: str, name: str, pantry: Pantry) -> VersionLayer:
    """A layer by its family's working ratio: each usual role with its usual ingredient.

    Args:
        family: The kind.
        finished_g: What the layer weighs when finished [g], 0 or more.
        layer_id: Of the layer.
        name: Of the layer.
        pantry: For the names.
    """
    added = finished_g / max(1e-9, 1 - family.water_lost_typical)
    roles = [role for role in family.roles if role.typical > 0 and role.default_id in pantry]
    total = sum(role.typical for role in roles) or 1.0
    lines = tuple(
        VersionIngredient(
            id=f"line-{number}",
            ingredient=role.default_id,
            name=pantry[role.default_id].name,
            role=role.name,
            amount=written_grams(added * role.typical / total),
        )
        for number, role in enumerate(roles, 1)
    )
    return VersionLayer(
        id=layer_id,
        name=name,
        family=family.id,
        water_lost=written_grams(added * family.water_lost_typical),
        ingredients=lines,
    )


def fitting_families(section: RecipeSection, families: Families, most: int = 3) -> tuple[FamilyGuess, ...]:
    """The families that a section's ingredients and shares fit best, the best first.

    Args:
        section: A part of a recipe.
        families: To choose from.
        most: How many at most.
    """
    grams: dict[str, float] = {}
    for line in section.lines:
        if line.ingredient_id is not None:
            grams[line.ingredient_id] = grams.get(line.ingredient_id, 0.0) + (line.grams or 0.0)
    if not grams:
        return ()
    named = section.name.lower()
    guesses = []
    for family in families.all():
        cost = misfit(families, family, tuple(grams), complete=True) + _shares_off(families, family, grams)
        words = {family.name.lower().split(",")[0], *family.traits.words}
        if any(word and word in named for word in words):
            cost -= 1.0
        if family.diet != "plain":
            cost += 0.6
        if family.id in _RARE:
            cost += _SELDOM
        guesses.append(FamilyGuess(family_id=family.id, misfit=cost))
    return tuple(sorted(guesses, key=lambda guess: guess.misfit)[:most])


def _shares_off(families: Families, family: Family, grams: Mapping[str, float]) -> float:
    total = sum(grams.values())
    if total <= 0:
        return 0.0
    shares: dict[str, float] = {}
    for key, amount in grams.items():
        best = role_of(families, family, key)
        if best is not None and best[1] is Grade.LISTED:
            shares[best[0].name] = shares.get(best[0].name, 0.0) + amount / total
    return sum(
        _OUTSIDE * min(3.0, abs(shares.get(role.name, 0.0) - min(max(shares.get(role.name, 0.0), role.least), role.most)) * 10)
        for role in family.roles
    )


def version_of_recipe(
    recipe: Recipe,
    version: Version,
    *,
    pieces: int,
    chosen: Mapping[int, str],
    layer_ids: Sequence[str],
    pantry: Pantry,
    families: Families,
) -> Version:
    """A version from a recipe: its sections as layers, its amounts for one piece; what is open stays empty and free.

    Args:
        recipe: As read; lines that were not read in grams come with an empty amount.
        version: Its id, name and origin.
        pieces: How many pieces the recipe makes, 1 or more.
        chosen: Section -> family, where the user chose one; the best fitting elsewhere.
        layer_ids: A layer id for each section.
        pantry: For water that is driven off.
        families: For the kinds.
    """
    layers = tuple(
        _layer(section, number, layer_id, pieces, chosen, pantry, families)
        for number, (section, layer_id) in enumerate(zip(recipe.sections, layer_ids, strict=True))
    )
    taken = replace(version, layers=layers)
    return replace(taken, targets=targets_of(read_version(taken, pantry), pantry))


def layers_for(
    recipe: Recipe, chosen: Mapping[int, str], build: Sequence[tuple[Layer, Family]], families: Families
) -> tuple[str, ...]:
    """An id for each section of a recipe: of the layer of the build whose kind it is, else one of its own.

    Args:
        chosen: Section -> family, where the user chose one.
        build: The original's layers and their families; empty where there is no original.
    """
    free = {layer.id: family for layer, family in build}
    found: list[str] = []
    for number, section in enumerate(recipe.sections):
        wanted = [chosen[number]] if number in chosen else [one.family_id for one in fitting_families(section, families)[:2]]
        roots = {families.root_of(one) for one in wanted}
        same = next((key for key, family in free.items() if families.root_of(family.id) in roots), None)
        if same is not None:
            free.pop(same)
        found.append(same or fresh_id(section.name or f"part {number + 1}", [*free, *found]))
    return tuple(found)


def _layer(
    section: RecipeSection,
    number: int,
    layer_id: str,
    pieces: int,
    chosen: Mapping[int, str],
    pantry: Pantry,
    families: Families,
) -> VersionLayer:
    guesses = fitting_families(section, families, 1)
    family_id = chosen.get(number) or (guesses[0].family_id if guesses else "soft-caramel")
    family = families.by_id.get(family_id)
    asked = [line for line in section.lines if line.kind is not LineKind.HEADING]
    lines = tuple(_line(line, f"line-{at}", pieces, family, families, pantry) for at, line in enumerate(asked, 1))
    return VersionLayer(
        id=layer_id,
        name=section.name or (family.name if family is not None else f"Part {number + 1}"),
        family=family_id,
        water_lost=written_grams(_driven_off(asked, pieces, family, pantry)),
        ingredients=lines,
    )


def _line(
    line: RecipeLine, line_id: str, pieces: int, family: Family | None, families: Families, pantry: Pantry
) -> VersionIngredient:
    """A line as it was asked for; one of which nobody knows what it is stays, under an id that no pantry holds, and is said."""
    amount = "" if line.grams is None else written_grams(line.grams / pieces)
    if line.ingredient_id is None:
        name = (line.name.strip() or line.line.strip())[:LONGEST_NAME]
        key = fresh_id(f"unknown {name}", pantry.by_id)
        return VersionIngredient(id=line_id, ingredient=key, name=name, amount=amount)
    return VersionIngredient(
        id=line_id,
        ingredient=line.ingredient_id,
        name=pantry[line.ingredient_id].name,
        role=_role(line.ingredient_id, family, families),
        amount=amount,
    )


def _role(key: str, family: Family | None, families: Families) -> str:
    best = role_of(families, family, key) if family is not None else None
    return best[0].name if best is not None else ""


def _driven_off(lines: Sequence[RecipeLine], pieces: int, family: Family | None, pantry: Pantry) -> float:
    """Water that leaves for the family's usual moisture, at most what its process loses; recipes do not say it [g a piece]."""
    added = sum(line.grams or 0.0 for line in lines) / pieces
    if family is None or added <= 0 or family.water_lost_most <= 0:
        return 0.0
    known = [(pantry[line.ingredient_id], line.grams or 0.0) for line in lines if line.ingredient_id is not None]
    water = sum(grams / pieces * (food.per_100_g.get(Nutrient.WATER) or 0.0) / 100 for food, grams in known)
    wanted = family.moisture_typical
    lost = (water - wanted * added) / (1 - wanted)
    return min(max(0.0, lost), family.water_lost_most * added)


def is_coat_name(name: str) -> bool:
    """Whether a section's name says that it goes round or on top."""
    return any(word in name.lower() for word in _COAT_WORDS)
