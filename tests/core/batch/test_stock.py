"""What is in the house against what a batch takes."""

import pytest
from tests.core.batch.test_batch import VERSION

from fern_match.core.batch import Batch, BatchPlan, ShoppingLine, read_batch, stock
from fern_match.core.food import Pantry
from fern_match.core.food.together import Allergens
from fern_match.core.formulate import overview
from fern_match.core.kitchen import Kitchen, read_kitchen
from fern_match.core.measures import Measures, Typed, read_ingredient
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study

DATES = ShoppingLine(
    ingredient_id="dates", name="Dates", grams=240.0, ounces=8.47, scooped=None, allergens=(), allergens_known=True
)
HONEY = ShoppingLine(
    ingredient_id="honey", name="Honey", grams=30.0, ounces=1.06, scooped=None, allergens=(), allergens_known=True
)
NONE = Allergens(holds=(), not_known=())
BATCH = Batch(pieces=24, piece_g=11.25, finished_g=270.0, layers=(), shopping=(DATES, HONEY), allergens=NONE, unknown=())


def house(pantry: Pantry, **typed: str) -> dict[str, Typed]:
    """Amounts as read."""
    return {key: read_ingredient(text, pantry[key], measures=Measures.METRIC, zero=True) for key, text in typed.items()}


def test_the_worked_example(pantry: Pantry) -> None:
    """1 1/2 cups of dates: 375 mL x 0.62 = 232.5 g; 7.5 g missing; 24 x 232.5 / 240 = 23.25."""
    found = stock(BATCH, house(pantry, dates="1 1/2 cups"))
    line = found.lines["dates"]
    assert (line.missing_g, line.pieces) == (pytest.approx(7.5), 23)
    assert line.unsure
    assert (found.pieces, found.scarce) == (23, "dates")


def test_enough_is_enough(pantry: Pantry) -> None:
    """Just as much as it takes is enough for all pieces, and nothing runs out."""
    found = stock(BATCH, house(pantry, dates="240 g", honey="1 kg"))
    assert (found.pieces, found.scarce) == (24, None)
    assert found.lines["honey"].missing_g == 0
    assert not found.lines["dates"].unsure  # it was weighed


def test_none_at_all_makes_no_pieces(pantry: Pantry) -> None:
    """Zero is an answer."""
    found = stock(BATCH, house(pantry, dates="0", honey="1 kg"))
    assert (found.pieces, found.scarce, found.lines["dates"].missing_g) == (0, "dates", 240.0)


def test_what_was_not_read_or_not_looked_for_says_nothing(pantry: Pantry) -> None:
    """Nor does an ingredient the batch does not take."""
    assert stock(BATCH, house(pantry, dates="lots")).pieces is None
    assert stock(BATCH, {}).lines == {}
    assert stock(BATCH, {"whole-egg": Typed("2", 100.0, "g")}).lines == {}


def test_a_plan_reads_the_house_in_the_kitchen_s_measures(pantry: Pantry) -> None:
    """A US cup of cream is 236.6 mL; what is not in the pantry is kept and said."""
    plan = BatchPlan(id="b", version="v", pieces="24", in_house={"heavy-cream": "1 cup", "no-such": "3"})
    kitchen = read_kitchen(Kitchen(measures=Measures.US))
    study = StudyReading(Study(name="x"), pantry)
    reading = read_batch(plan, overview(VERSION, study), study, kitchen)
    assert reading.in_house["heavy-cream"].value == pytest.approx(236.588 * (pantry["heavy-cream"].density_g_ml or 0), rel=1e-4)
    assert reading.in_house["no-such"].typed == "3"
    assert reading.in_house["no-such"].problem
    assert reading.stock is not None
    assert reading.stock.lines["heavy-cream"].pieces > 24
