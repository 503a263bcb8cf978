"""The pantry as CSV: out and in again the same, formulas as text, and nothing by halves."""

from dataclasses import replace

import pytest

from fern_match.core.food import Nutrient, Pantry
from fern_match.exchange.pantry_csv import COLUMNS, BadPantryFile, read_pantry, written_pantry


def test_out_and_in_again_is_the_same(pantry: Pantry) -> None:
    """Every shipped ingredient."""
    foods = tuple(pantry.all())
    assert read_pantry(written_pantry(foods), Pantry({})) == foods


def test_cells_that_look_like_formulas_are_text(pantry: Pantry) -> None:
    """They leave marked, and come back as they were."""
    food = replace(pantry["tahini"], name="=SUM(A1)", note="-1+2", label_names=("@home", "'quoted"))
    text = written_pantry([food])
    assert ",=SUM" not in text
    assert "'=SUM(A1)" in text
    assert read_pantry(text, Pantry({})) == (food,)


def test_a_short_file_is_enough() -> None:
    """A name and what is known; what is missing is unknown, never zero."""
    (food,) = read_pantry("name;fat_g;price_per_kg\nOur spread;31,5;8\n", Pantry({}))
    assert food.id == "own-our-spread"
    assert food.per_100_g["fat_g"] == 31.5  # type: ignore[index]
    assert food.per_100_g["protein_g"] is None  # type: ignore[index]
    assert food.price_per_kg == 8


def test_a_known_name_changes_its_row(pantry: Pantry) -> None:
    """By name where no id stands there."""
    (food,) = read_pantry("name,price_per_kg\nHoney,7.5\n", pantry)
    assert food.id == "honey"


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("fat_g\n1\n", "one of them is to be “name”"),
        ("name,colour\nX,red\n", "“colour” is not a column"),
        ("name,fat_g\nX,much\n", "Line 2: “much” under fat_g is no figure"),
        ("name,fat_g\nX,130\n", "Fat of 130 in 100 g is not between 0 and 100"),
        ("name,water_g,fat_g,carbohydrate_g\nX,40,40,40\n", "add up to 120 g"),
        ("name,sugars_g,carbohydrate_g\nX,50,10\n", "cannot exceed carbohydrate"),
        ("name,water_g,fat_g\nAA,10,5,1,5\n", "5 cells under 3 columns"),
        ("name,water_g,fat_g\nAA,10\n", "the others are missing"),
        ('name,sodium_mg\nAA,"1,234"\n', "could be two figures"),
        ("name;sodium_mg\nAA;1,234\n", "could be two figures"),
        ('name,fat_g\n"AA,10\nBB,5\n', "quotation mark does not end"),
        ("name,fat_g,fat_g\nAA,10,20\n", "stands there twice"),
        ("name,fat_g\nCr\ufffdme,10\n", "CSV UTF-8"),
        ("name,fat_g\nX,nan\n", "nan is no figure"),
        ("name,sweetness\nX,inf\n", "inf is no figure"),
        ("name,vegan\nX,yes\nX,no\n", "stands in the file twice"),
        ("name,vegan\nX,maybe\n", "not yes, no or check"),
        ("name\nX\nX\n", "twice"),
        ("name,id\nX,not an id\n", "cannot be an id"),
        ("name,fat_g\n,3\n", "no name"),
        ("", "Line 1"),
    ],
)
def test_what_is_wrong_is_said_with_its_line(text: str, said: str) -> None:
    """And nothing is taken."""
    rows = "id" in text and "X\nX" not in text
    with pytest.raises(BadPantryFile) as refused:
        read_pantry(text if "X\nX" not in text else "id,name\na,X\na,Y\n", Pantry({}))
    assert said in str(refused.value)
    del rows


def test_a_list_of_prices_changes_prices_and_nothing_else(pantry: Pantry) -> None:
    """Figures, allergens, diet, density and names of a known ingredient stay; an empty cell says nothing, a mark unknown."""
    names = [pantry[key].name for key in ("whole-milk-powder", "tahini")]
    foods = read_pantry(f'name,price_per_kg,fat_g\n"{names[0]}",6,\n"{names[1]}",9,?\n', pantry)
    powder, tahini = foods
    assert powder == replace(pantry[powder.id], price_per_kg=6.0)
    assert "milk" in powder.allergens
    assert "sesame" in tahini.allergens
    assert tahini.allergens_known
    assert tahini.per_100_g[Nutrient.FAT] is None
    assert tahini.per_100_g[Nutrient.PROTEIN] == pantry["tahini"].per_100_g[Nutrient.PROTEIN]
    assert tahini.origins[Nutrient.FAT] == "your file"


def test_out_and_in_again_changes_nothing(pantry: Pantry) -> None:
    """All rows as they are, origins and all."""
    own = replace(pantry["honey"], id="own-honey", origins={Nutrient.FAT: "its packet"}, allergens=("x",), allergens_known=False)
    whole = pantry.with_own([own])
    assert all(food == whole[food.id] for food in read_pantry(written_pantry(whole.all()), whole))


def test_a_file_cut_in_half_wipes_nothing(pantry: Pantry) -> None:
    """The last line has too few cells, which is said."""
    lines = written_pantry(pantry.all()).splitlines(keepends=True)
    half = len(lines) // 2
    with pytest.raises(BadPantryFile, match=r"missing|quotation"):
        read_pantry("".join(lines[:half]) + lines[half][: len(lines[half]) // 3], pantry)


def test_allergens_of_a_new_name_are_known_only_where_it_says_so() -> None:
    """An empty cell is no “none”."""
    rows = "name,allergens\nA,\nB,none\nC,milk|soy\nD,milk|?\n"
    found = [(food.allergens, food.allergens_known) for food in read_pantry(rows, Pantry({}))]
    assert found == [((), False), ((), True), (("milk", "soy"), True), (("milk",), False)]


@pytest.mark.parametrize("rows", [["X"] * 5_000, [f"N{number}" for number in range(20_000)]])
def test_a_file_of_too_many_rows_is_refused_at_once(rows: list[str]) -> None:
    """Without reading on."""
    with pytest.raises(BadPantryFile, match="at most 2000"):
        read_pantry("name\n" + "\n".join(rows), Pantry({}))


def test_every_problem_is_said_at_once() -> None:
    """So that a file is mended in one go."""
    with pytest.raises(BadPantryFile) as refused:
        read_pantry("name,fat_g\nA,x\nB,y\n", Pantry({}))
    assert "Line 2" in str(refused.value)
    assert "Line 3" in str(refused.value)


def test_columns_are_the_shipped_table_s() -> None:
    """Every nutrient has one."""
    assert "sugars_g" in COLUMNS
    assert len(COLUMNS) == len(set(COLUMNS))
