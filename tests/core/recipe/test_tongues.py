"""Recipes in five other languages: amounts and names as a cook there writes them; what is not known is asked about."""

from pathlib import Path

import pytest

from fern_match.core.food import Pantry
from fern_match.core.food.names import known_name
from fern_match.core.label.statement.tongues import ENGLISH, TONGUES
from fern_match.core.measures.volumes import Measures
from fern_match.core.recipe import LineKind, read_asked, read_recipe, tongue_of
from fern_match.core.recipe.tongue import in_our_words

LINES = Path(__file__).parent / "lines"


def written() -> list[tuple[str, list[str]]]:
    """Each recipe with its language; after " = " what a line is, and its grams."""
    found = []
    for block in (LINES / "tongues.txt").read_text(encoding="utf-8").strip().split("\n\n"):
        head, *lines = block.splitlines()
        found.append((head.strip("[]"), lines))
    return found


@pytest.mark.parametrize(("tongue", "lines"), written(), ids=lambda one: one if isinstance(one, str) else "")
def test_a_recipe_is_read_in_its_language(tongue: str, lines: list[str], pantry: Pantry) -> None:
    """Spoons, pinches, leaves and packets of that language; each line says what it was taken for; the method is no line."""
    pairs = [line.partition(" = ") for line in lines]
    recipe = read_recipe("\n".join(line for line, _, _ in pairs), pantry, measures=Measures.METRIC)
    assert recipe.tongue == tongue
    read = {line.line: line for line in recipe.lines}
    expected = {line: said.split() for line, equals, said in pairs if equals}
    assert set(read) == set(expected)
    for line, (key, grams) in expected.items():
        if key == "?":
            assert read[line].problem or not read[line].sure, line
            continue
        assert read[line].ingredient_id == key, line
        if grams != "-":
            assert read[line].grams == pytest.approx(float(grams), rel=0.02), line
            assert any(said.startswith(f"{tongue}: “") for said in read[line].assumed), line


def test_english_recipes_stay_english() -> None:
    """None of the English lines is heard as another language, alone or together."""
    lines = [
        line.partition(" = ")[0].partition("\t")[0]
        for path in sorted(LINES.glob("*.txt"))
        if path.name != "tongues.txt"
        for line in path.read_text(encoding="utf-8").splitlines()
    ]
    assert len(lines) > 100
    assert tongue_of("\n".join(lines), known_name) == ENGLISH
    assert in_our_words("2 cups sugar", ENGLISH) == "2 cups sugar"


def test_what_was_chosen_for_a_foreign_line_is_weighed(pantry: Pantry) -> None:
    """Its spoons are those of its language, too."""
    text = "200 g Zucker\n100 g Butter\n50 g Honig\n2 EL Schlehenmus"
    before = read_asked(text, {}, pantry, Measures.METRIC)
    assert before.lines[3].ingredient_id is None
    after = read_asked(text, {3: "raspberry-puree"}, pantry, Measures.METRIC)
    assert after.lines[3].ingredient_id == "raspberry-puree"
    assert after.lines[3].grams == pytest.approx(30 * (pantry["raspberry-puree"].density_g_ml or 0), rel=0.01)
    text = "200 g Zucker\n100 g Butter\n2 TL Vanillezucker"
    before = read_asked(text, {}, pantry, Measures.METRIC)
    assert "write the sugar and the vanilla apart" in (before.lines[2].problem or "")
    after = read_asked(text, {2: "white-sugar"}, pantry, Measures.METRIC)
    assert after.lines[2].grams == pytest.approx(10 * (pantry["white-sugar"].density_g_ml or 0), rel=0.01)


@pytest.mark.parametrize("tongue", TONGUES)
def test_to_taste_in_every_language(tongue: str, pantry: Pantry) -> None:
    """No amount, and none is missing."""
    salt = {"German": "Salz nach Geschmack", "French": "sel au goût", "Italian": "sale q.b.", "Spanish": "sal al gusto"}
    line = salt.get(tongue, "zout naar smaak")
    sugar = {"German": "Zucker", "French": "sucre", "Italian": "zucchero", "Spanish": "azúcar", "Dutch": "suiker"}[tongue]
    honey = {"German": "Honig", "French": "miel", "Italian": "miele", "Spanish": "miel", "Dutch": "honing"}[tongue]
    read = read_recipe(f"200 g {sugar}\n50 g {honey}\n{line}", pantry, measures=Measures.METRIC, tongue=tongue)
    assert read.lines[2].kind is LineKind.FREE
    assert read.lines[2].ingredient_id == "fine-salt"


@pytest.mark.parametrize(
    ("tongue", "line", "ingredient", "grams"),
    [
        ("German", "Abrieb von 2 Zitronen", "citrus-zest", 8),
        ("German", "abgeriebene Schale einer Orange", "citrus-zest", 7),
        ("German", "Saft von 2 Zitronen", "lemon-juice", 90),
        ("German", "Saft und Abrieb einer Zitrone", None, None),
        ("French", "le zeste d'un citron", "citrus-zest", 4),
        ("French", "le jus d'un citron", "lemon-juice", 45),
        ("French", "le jus et le zeste d'un citron", None, None),
        ("Italian", "la scorza grattugiata di un limone", "citrus-zest", 4),
        ("Italian", "200 g di formaggio spalmabile", "cream-cheese", 200),
        ("Spanish", "la ralladura de un limón", "citrus-zest", 4),
        ("Spanish", "2 cucharadas de agua de azahar", "rose-water", 30),
        ("Dutch", "geraspte schil van 1 citroen", "citrus-zest", 4),
        ("Dutch", "sap van een citroen", "lemon-juice", 45),
        ("Dutch", "rasp en sap van 1 citroen", None, None),
    ],
)
def test_zest_and_juice_in_every_language(
    tongue: str, line: str, ingredient: str | None, grams: float | None, pantry: Pantry
) -> None:
    """As many fruit as it says; both on one line are asked about."""
    read = read_recipe(f"200 g sugar\n50 g honey\n{line}", pantry, measures=Measures.METRIC, tongue=tongue).lines[2]
    assert read.ingredient_id == ingredient
    assert read.grams == (None if grams is None else pytest.approx(grams))
    assert (read.problem is None) == (ingredient is not None)
