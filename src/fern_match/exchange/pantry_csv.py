"""The pantry as CSV: one row an ingredient, the columns of the table that ships with the product.

A file lays over what is there: a known ingredient keeps whatever the file has no column or an empty cell for, so that a list of
names and prices changes prices and nothing else. `?` in a cell makes a figure unknown. Cells that a spreadsheet could take for a
formula are written as text and read back as they were.
"""

import csv
import io
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from fern_match.core.errors import CoreError
from fern_match.core.food import Ingredient, Nutrient, Pantry
from fern_match.core.food.names import plain
from fern_match.core.food.sound import NotSound, check_ingredient
from fern_match.core.record import NotFitting, check_limits, fresh_id

_TEXTS = ("id", "name", "category", "label_names")
_AFTER = ("polyol_kind", "sweetness", "density_g_ml", "piece_g", "piece_name", "vegan", "allergens", "functions")
_LAST = ("price_per_kg", "note")
COLUMNS = (*_TEXTS, *(nutrient.value for nutrient in Nutrient), *_AFTER, *_LAST)
MOST_ROWS = 2000
MOST_SIGNS = 2_000_000
FROM_FILE = "your file"
UNKNOWN, NONE = "?", "none"  # a figure that is not known; that there are no allergens
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
_OLDER = {"typical_price_per_kg": "price_per_kg"}  # as the shipped table calls it
_PASSED_OVER = frozenset({"", "energy_kcal"})
_GROUP = 3


@dataclass(eq=False)
class BadPantryFile(CoreError):
    """A pantry file with something that cannot be taken; nothing of it was."""

    sentences: tuple[str, ...]

    def __str__(self) -> str:
        more = len(self.sentences) - 5
        return " ".join([*self.sentences[:5], *([f"And {more} more."] if more > 0 else [])])


def written_pantry(foods: Iterable[Ingredient]) -> str:
    """Ingredients as CSV."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for food in foods:
        cells: list[str] = [food.id, food.name, food.category, "|".join(food.label_names)]
        cells += [_figure(food.per_100_g.get(nutrient)) for nutrient in Nutrient]
        cells += [food.polyol_kind or "", _figure(food.sweetness), _figure(food.density_g_ml), _figure(food.piece_g)]
        cells += [food.piece_name or "", food.vegan, _allergens(food), "|".join(food.functions)]
        cells += [_figure(food.price_per_kg), food.note]
        writer.writerow([_as_text(cell) for cell in cells])
    return out.getvalue()


def read_pantry(text: str, pantry: Pantry) -> tuple[Ingredient, ...]:
    """Ingredients of a CSV file as they are once it is taken in; all of them or none.

    Args:
        text: With a heading row; columns in any order. Of a known ingredient what the file leaves out stays as it is.
        pantry: What is there already.

    Raises:
        BadPantryFile: with the line and why, for each thing that is wrong.
    """
    rows = _rows(text)
    heading = _heading(rows[0])
    taking = _Taking(pantry)
    for number, row in enumerate(rows[1:], 2):
        if any(cell.strip() for cell in row):
            taking.take(number, _cells(heading, row, number, taking.problems))
    if taking.problems:
        raise BadPantryFile(tuple(taking.problems))
    return tuple(taking.found.values())


def _rows(text: str) -> list[list[str]]:
    """The rows of a file that is one, and not too large.

    Raises:
        BadPantryFile: it is not.
    """
    sample = text.lstrip("\ufeff")
    if len(sample) > MOST_SIGNS:
        raise BadPantryFile((f"The file holds more than {MOST_SIGNS // 1_000_000} million signs; that is no pantry.",))
    if "\ufffd" in sample:
        line = sample[: sample.index("\ufffd")].count("\n") + 1
        raise BadPantryFile((f"Line {line}: a sign could not be read. Save the file as “CSV UTF-8” and try again.",))
    first = sample.partition("\n")[0]
    separator = ";" if first.count(";") > first.count(",") else ","
    rows: list[list[str]] = []
    try:
        for row in csv.reader(io.StringIO(sample, newline=""), delimiter=separator, strict=True):
            rows.append(row)
            if len(rows) > MOST_ROWS + 1:
                raise BadPantryFile((f"More than {MOST_ROWS} rows; at most {MOST_ROWS} are taken at once.",))
    except csv.Error as error:
        raise BadPantryFile(
            (f"Near line {len(rows) + 1}: a quotation mark does not end, or is out of place ({error}).",)
        ) from None
    if not rows or "name" not in [cell.strip().lower() for cell in rows[0]]:
        raise BadPantryFile(("Line 1 is to name the columns, and one of them is to be “name”.",))
    return rows


def _heading(row: Sequence[str]) -> list[str]:
    """The columns of a file.

    Raises:
        BadPantryFile: one is not known, or stands there twice.
    """
    heading = [_OLDER.get(cell.strip().lower(), cell.strip().lower()) for cell in row]
    problems = [f"Line 1: “{one[:40]}” is not a column known here." for one in heading if one not in {*COLUMNS, *_PASSED_OVER}]
    problems += [f"Line 1: the column “{one}” stands there twice." for one in COLUMNS if heading.count(one) > 1]
    if problems:
        raise BadPantryFile(tuple(problems))
    return heading


def _cells(heading: Sequence[str], row: Sequence[str], number: int, problems: list[str]) -> dict[str, str]:
    """A row's cells by their columns; too many or too few would put figures under the wrong ones."""
    if any(cell.strip() for cell in row[len(heading) :]):
        problems.append(
            f"Line {number}: {len(row)} cells under {len(heading)} columns. Is a comma inside a figure? Then part cells by "
            "semicolons."
        )
    elif len(row) < len(heading):
        problems.append(f"Line {number}: {len(row)} cells under {len(heading)} columns; the others are missing.")
    return dict(zip(heading, (_plain_cell(cell).strip() for cell in row), strict=False))


class _Taking:
    """One file being taken in."""

    def __init__(self, pantry: Pantry) -> None:
        self.pantry = pantry
        self.found: dict[str, Ingredient] = {}
        self.problems: list[str] = []
        self._by_name = {plain(food.name): food.id for food in reversed([*pantry.all()])}
        self._taken = set(pantry.by_id)
        self._wrong: list[str] = []

    def take(self, number: int, cells: Mapping[str, str]) -> None:
        """A row, laid over what is there; what is wrong with it is noted with its line."""
        self._wrong = []
        food = self._food(cells)
        if food is not None and food.id in self.found:
            self._wrong.append(f"“{food.id}” stands in the file twice.")
        if food is not None and not self._wrong:
            try:
                check_limits(food)
                check_ingredient(food)
            except (NotFitting, NotSound) as error:
                self._wrong.append(str(error))
        self.problems += [f"Line {number}: {sentence}" for sentence in self._wrong]
        if food is not None:
            self.found[food.id] = food
            self._taken.add(food.id)
            self._by_name.setdefault(plain(food.name), food.id)

    def _food(self, cells: Mapping[str, str]) -> Ingredient | None:
        name = cells.get("name", "")
        if not name:
            self._wrong.append("it has no name.")
            return None
        key = cells.get("id", "") or self._by_name.get(plain(name)) or fresh_id(f"own {name}", self._taken)
        base = self.pantry.by_id.get(key) or Ingredient(id=key, name=name, category="own")
        figures = {nutrient: self._read(cells, nutrient.value, base.per_100_g.get(nutrient)) for nutrient in Nutrient}
        changed = {one for one in Nutrient if figures[one] != base.per_100_g.get(one)}
        vegan = cells.get("vegan", "").lower()
        allergens, known = self._allergens(cells.get("allergens", ""), base)
        return replace(
            base,
            name=name,
            category=cells.get("category") or base.category,
            label_names=_listed(cells.get("label_names", "")) or base.label_names,
            per_100_g={**base.per_100_g, **{one: figures[one] for one in changed}} if key in self.pantry else figures,
            origins={**base.origins, **dict.fromkeys(changed, FROM_FILE)} if key in self.pantry else base.origins,
            polyol_kind=cells.get("polyol_kind") or base.polyol_kind,
            piece_name=cells.get("piece_name") or base.piece_name,
            vegan=vegan or base.vegan,
            allergens=allergens,
            allergens_known=known,
            functions=_listed(cells.get("functions", "")) or base.functions,
            note=cells.get("note") or base.note,
            sweetness=self._read(cells, "sweetness", base.sweetness),
            density_g_ml=self._read(cells, "density_g_ml", base.density_g_ml),
            piece_g=self._read(cells, "piece_g", base.piece_g),
            price_per_kg=self._read(cells, "price_per_kg", base.price_per_kg),
        )

    def _read(self, cells: Mapping[str, str], column: str, before: float | None) -> float | None:
        """A figure: as it was where the cell is empty, unknown where it says so."""
        typed = cells.get(column, "")
        if not typed:
            return before
        if typed == UNKNOWN:
            return None
        whole, comma, part = typed.partition(",")
        if comma and ("," in part or "." in typed or (len(part) == _GROUP and whole.strip("0") != "")):
            self._wrong.append(
                f"“{typed[:40]}” under {column} could be two figures. Write it with a point: {whole}.{part} or {whole}{part}."
            )
            return before
        try:
            return float(f"{whole}.{part}" if comma else typed)
        except ValueError:
            self._wrong.append(f"“{typed[:40]}” under {column} is no figure.")
            return before

    def _allergens(self, typed: str, base: Ingredient) -> tuple[tuple[str, ...], bool]:
        """Names, and whether they are all there are: "none", "milk|soy", "milk|?" where there may be more."""
        if not typed:
            return base.allergens, base.allergens_known
        names = _listed(typed.lower())
        return tuple(one for one in names if one not in {UNKNOWN, NONE}), UNKNOWN not in names


def _allergens(food: Ingredient) -> str:
    if food.allergens_known:
        return "|".join(food.allergens) or NONE
    return "|".join((*food.allergens, UNKNOWN))


def _figure(value: float | None) -> str:
    return "" if value is None else repr(value).removesuffix(".0")


def _listed(text: str) -> tuple[str, ...]:
    return tuple(entry.strip() for entry in text.split("|") if entry.strip())


def _as_text(cell: str) -> str:
    """A cell that begins as a formula does, marked as text."""
    return f"'{cell}" if cell.startswith(_FORMULA) or cell.startswith("'") else cell


def _plain_cell(cell: str) -> str:
    return cell[1:] if cell.startswith("'") else cell
