"""The pantry as CSV: one row an ingredient, the columns of the table that ships with the product.

Cells that a spreadsheet could take for a formula are written as text and read back as they were.
"""

import csv
import io
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from fern_match.core.errors import CoreError
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.food.names import plain
from fern_match.core.record import NotFitting, check_limits

_TEXTS = ("id", "name", "category", "label_names")
_AFTER = ("polyol_kind", "sweetness", "density_g_ml", "piece_g", "piece_name", "vegan", "allergens", "functions")
_LAST = ("price_per_kg", "note")
COLUMNS = (*_TEXTS, *(nutrient.value for nutrient in Nutrient), *_AFTER, *_LAST)
MOST_ROWS = 2000
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
_ROOM_G = 105.0
_KNOWN_VEGAN = frozenset({"yes", "no", "check"})


@dataclass(eq=False)
class BadPantryFile(CoreError):
    """A pantry file with something that cannot be taken; nothing of it was."""

    sentences: tuple[str, ...]

    def __str__(self) -> str:
        return " ".join(self.sentences[:5])


def written_pantry(foods: Iterable[Ingredient]) -> str:
    """Ingredients as CSV."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for food in foods:
        cells: list[str] = [food.id, food.name, food.category, "|".join(food.label_names)]
        cells += [_figure(food.per_100_g.get(nutrient)) for nutrient in Nutrient]
        cells += [food.polyol_kind or "", _figure(food.sweetness), _figure(food.density_g_ml), _figure(food.piece_g)]
        cells += [food.piece_name or "", food.vegan, "|".join(food.allergens), "|".join(food.functions)]
        cells += [_figure(food.price_per_kg), food.note]
        writer.writerow([_as_text(cell) for cell in cells])
    return out.getvalue()


def read_pantry(text: str, pantry: Pantry) -> tuple[Ingredient, ...]:
    """Ingredients of a CSV file; all of them or none.

    Args:
        text: With a heading row; columns in any order, those that are missing count as unknown.
        pantry: What is there already, for ids of new names.

    Raises:
        BadPantryFile: with the line and why, for each thing that is wrong.
    """
    sample = text.lstrip("\ufeff")
    separator = ";" if sample.partition("\n")[0].count(";") > sample.partition("\n")[0].count(",") else ","
    try:
        rows = list(csv.reader(io.StringIO(sample, newline=""), delimiter=separator))
    except csv.Error as error:
        raise BadPantryFile((f"This is no CSV file: {error}.",)) from None
    if not rows or "name" not in [cell.strip().lower() for cell in rows[0]]:
        raise BadPantryFile(("Line 1 is to name the columns, and one of them is to be “name”.",))
    heading = [cell.strip().lower() for cell in rows[0]]
    heading = ["price_per_kg" if cell == "typical_price_per_kg" else cell for cell in heading]
    unknown = [cell for cell in heading if cell and cell not in COLUMNS and cell != "energy_kcal"]
    problems = [f"Line 1: “{cell}” is not a column known here." for cell in unknown]
    if len(rows) - 1 > MOST_ROWS:
        problems.append(f"{len(rows) - 1} rows; at most {MOST_ROWS} are taken at once.")
    found: dict[str, Ingredient] = {}
    for number, row in enumerate(rows[1:], 2):
        if not any(cell.strip() for cell in row):
            continue
        cells = dict(zip(heading, (_plain_cell(cell) for cell in row), strict=False))
        food, wrong = _food(cells, pantry, found)
        problems += [f"Line {number}: {sentence}" for sentence in wrong]
        if food is not None:
            found[food.id] = food
    if problems:
        raise BadPantryFile(tuple(problems))
    return tuple(found.values())


def _food(cells: Mapping[str, str], pantry: Pantry, found: Mapping[str, Ingredient]) -> tuple[Ingredient | None, Sequence[str]]:
    name = cells.get("name", "").strip()
    if not name:
        return None, ["it has no name."]
    wrong: list[str] = []

    def figure(column: str, most: float) -> float | None:
        typed = cells.get(column, "").strip()
        if not typed:
            return None
        try:
            value = float(typed.replace(",", ".") if typed.count(",") == 1 and "." not in typed else typed)
        except ValueError:
            wrong.append(f"“{typed}” under {column} is no figure.")
            return None
        if not 0 <= value <= most:
            wrong.append(f"{column} of {value:g} is not between 0 and {most:g}.")
            return None
        return value

    key = cells.get("id", "").strip() or _id(name, pantry, found)
    per_100_g = {nutrient: figure(nutrient.value, 100.0 if nutrient.value.endswith("_g") else 100_000.0) for nutrient in Nutrient}
    main = [
        per_100_g[part] or 0.0 for part in (Nutrient.WATER, Nutrient.PROTEIN, Nutrient.FAT, Nutrient.CARBOHYDRATE, Nutrient.ASH)
    ]
    if sum(main) > _ROOM_G:
        wrong.append(f"water, protein, fat, carbohydrate and ash add up to {sum(main):.0f} g in 100 g.")
    vegan = cells.get("vegan", "").strip().lower() or "check"
    if vegan not in _KNOWN_VEGAN:
        wrong.append(f"“{vegan}” under vegan is not yes, no or check.")
    if key in found:
        wrong.append(f"“{key}” stands in the file twice.")
    food = Ingredient(
        id=key,
        name=name,
        category=cells.get("category", "").strip() or "own",
        label_names=_listed(cells.get("label_names", "")),
        per_100_g=per_100_g,
        polyol_kind=cells.get("polyol_kind", "").strip() or None,
        sweetness=figure("sweetness", 20_000.0),
        density_g_ml=figure("density_g_ml", 3.0) or None,
        piece_g=figure("piece_g", 10_000.0) or None,
        piece_name=cells.get("piece_name", "").strip() or None,
        vegan=vegan,
        allergens=_listed(cells.get("allergens", "")),
        functions=_listed(cells.get("functions", "")),
        price_per_kg=figure("price_per_kg", 100_000.0),
        note=cells.get("note", "").strip(),
    )
    try:
        check_limits(food)
    except NotFitting as error:
        wrong.append(str(error))
    return (None if wrong else food), wrong


def _id(name: str, pantry: Pantry, found: Mapping[str, Ingredient]) -> str:
    known = next((food.id for food in pantry.all() if plain(food.name) == plain(name)), None)
    if known is not None:
        return known
    stem = "own-" + (
        "".join(sign if sign.isascii() and sign.isalnum() else "-" for sign in name.lower()).strip("-")[:50] or "ingredient"
    )
    number = 1
    while (key := stem if number == 1 else f"{stem}-{number}") in pantry or key in found:
        number += 1
    return key


def _figure(value: float | None) -> str:
    return "" if value is None else f"{value:g}"


def _listed(text: str) -> tuple[str, ...]:
    return tuple(entry.strip() for entry in text.split("|") if entry.strip())


def _as_text(cell: str) -> str:
    """A cell that begins as a formula does, marked as text."""
    return f"'{cell}" if cell.startswith(_FORMULA) or cell.startswith("'") else cell


def _plain_cell(cell: str) -> str:
    return cell[1:] if cell.startswith("'") else cell
