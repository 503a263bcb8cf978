"""Whole recipes: parts, yields, and contradictions that are said and not settled."""

import pytest

from fern_match.core.food import Pantry
from fern_match.core.label.rows import Region
from fern_match.core.measures import Measures
from fern_match.core.recipe import pieces_of, read_asked, read_recipe, usual_measures

SLICE = """Ginger slice
Makes 24 pieces of 40 g
For the base:
250 g plain biscuits, crushed
125g butter, melted
Caramel
1 can condensed milk
2 tbsp golden syrup
Topping:
200g dark chocolate
Method
Melt 100 g butter and mix with the biscuits.
Press into the tin.
"""


def test_parts_and_yield(pantry: Pantry) -> None:
    """A line that names a part begins one; the yield is read; sentences of the method are no ingredients."""
    recipe = read_recipe(SLICE, pantry, measures=Measures.AU)
    assert recipe.title == "Ginger slice"
    assert [section.name for section in recipe.sections] == ["Base", "Caramel", "Topping"]
    assert (recipe.pieces, recipe.piece_g) == (24, 40)
    assert [line.ingredient_id for line in recipe.sections[0].lines] == ["plain-biscuit-crumbs", "butter-unsalted"]
    assert recipe.sections[0].grams == 375


def test_an_amount_announced_and_another_used(pantry: Pantry) -> None:
    """Both are shown and the gap is said."""
    doubts = " ".join(read_recipe(SLICE, pantry, measures=Measures.AU).doubts)
    assert "125 g are announced and 100 g used, 25 g left over" in doubts


def test_the_rest_of_an_ingredient_is_no_contradiction(pantry: Pantry) -> None:
    """Half now and the remaining later uses all of it."""
    text = "100 g butter\n200 g sugar\nMethod:\nMelt 50 g butter with the sugar.\nStir in the remaining butter."
    assert read_recipe(text, pantry, measures=Measures.METRIC).doubts == ()


def test_a_yield_that_cannot_be(pantry: Pantry) -> None:
    """More cannot come out than goes in."""
    text = "Makes 24 pieces of 30 g\n200 g sugar\n100 g butter\n"
    (doubt,) = read_recipe(text, pantry, measures=Measures.METRIC).doubts
    assert "720 g" in doubt
    assert "420 g too few" in doubt


def test_what_the_method_uses_and_no_line_announces(pantry: Pantry) -> None:
    """It is said."""
    text = "200 g sugar\nMethod:\nAdd 50 g butter and stir the sugar in."
    (doubt,) = read_recipe(text, pantry, measures=Measures.METRIC).doubts
    assert "no line announces" in doubt


def test_a_recipe_too_long_says_so(pantry: Pantry) -> None:
    """The first two hundred lines are read."""
    recipe = read_recipe("10 g sugar\n" * 230, pantry, measures=Measures.METRIC)
    assert len(recipe.lines) == 200
    assert "230 lines" in recipe.doubts[0]


def test_nothing_is_read_from_nothing(pantry: Pantry) -> None:
    """An empty text has no parts."""
    assert read_recipe(" \n\n", pantry, measures=Measures.US).sections == ()


@pytest.mark.parametrize("first", ["Butterscotch slab (makes 24, 20 x 30 cm pan)", "Butterscotch slab - makes about 24 squares"])
def test_a_title_that_says_how_many(first: str, pantry: Pantry) -> None:
    """The name, and the yield in it; steps with minutes or degrees are no ingredients."""
    found = read_recipe(f"{first}\nBase:\n200 g sugar\nBoil 8 minutes\nHeat to 116 °C", pantry, measures=Measures.METRIC)
    assert (found.title, found.pieces) == ("Butterscotch slab", 24)
    assert [line.line for line in found.lines] == ["200 g sugar"]


def test_an_amount_that_something_makes_is_no_title(pantry: Pantry) -> None:
    """“Makes 200 g” is no number of pieces."""
    assert read_recipe("Sugar, makes 200 g\n3 g salt", pantry, measures=Measures.METRIC).pieces is None


def test_whose_cups_a_recipe_means() -> None:
    """The label's country where its cups are its own, else the kitchen's."""
    assert usual_measures(Region.US, Measures.METRIC) is Measures.US
    assert usual_measures(Region.EU, Measures.AU) is Measures.AU
    assert usual_measures(None, Measures.UK) is Measures.UK


@pytest.mark.parametrize(("typed", "pieces", "said"), [("", 12, False), ("2 x 10", 20, False), ("a few", 12, True)])
def test_pieces_as_typed(typed: str, pieces: int, said: bool, pantry: Pantry) -> None:
    """What is typed stands before what the recipe says; what is not read is said."""
    found, read = pieces_of(read_recipe("Makes 12\n100 g sugar", pantry, measures=Measures.METRIC), typed)
    assert (found, read.problem is not None) == (pieces, said)


def test_an_extract_is_not_its_oil(pantry: Pantry) -> None:
    """A teaspoon of extract taken for its oil is a twenty-fifth of it, and says so; the oil by name is what it is."""
    text = "24 pieces\n1 tsp peppermint extract\n200 g icing sugar"
    found = read_asked(text, {0: "peppermint-oil"}, pantry, Measures.METRIC)
    mint = found.lines[0]
    assert found.pieces == 24
    assert mint.grams == pytest.approx(5 * 0.9 / 25, rel=0.05)
    assert "25 times as strong" in mint.assumed[-1]
    oil = read_asked("1 g peppermint oil", {0: "peppermint-oil"}, pantry, Measures.METRIC).lines[0]
    assert oil.grams == pytest.approx(1.0)
