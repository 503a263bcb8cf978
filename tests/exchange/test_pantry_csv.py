"""The pantry as CSV: out and in again the same, formulas as text, and nothing by halves."""

from dataclasses import replace

import pytest

from fern_match.core.food import Pantry
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
        ("name,fat_g\nX,130\n", "fat_g of 130 is not between 0 and 100"),
        ("name,water_g,fat_g,carbohydrate_g\nX,40,40,40\n", "add up to 120 g"),
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
