"""What the statement on a packet adds to its panel."""

import pytest

from fern_match.core.food import Nutrient, Pantry
from fern_match.core.label.rows import Region, RowId
from fern_match.core.study.from_statement import STATEMENT, with_statement
from fern_match.core.study.own import own_ingredient


def test_a_spread_from_its_packet(pantry: Pantry) -> None:
    """Kinds of fat and sugar in the statement's proportions; the panel's own figures stay; allergens and origins are there."""
    rows = {RowId.FAT: "30", RowId.CARBOHYDRATE: "57", RowId.SUGARS: "55", RowId.PROTEIN: "6", RowId.SALT: "0.1"}
    plain = own_ingredient("Hazel spread", Region.EU, rows, "", ())
    food = with_statement(plain, "Sugar, palm oil, hazelnuts 13 %, skimmed milk powder, soya lecithin", Region.EU, pantry)
    assert food.per_100_g[Nutrient.FAT] == plain.per_100_g[Nutrient.FAT] == 30
    assert 10 < (food.per_100_g[Nutrient.PALM_FAT] or 0.0) < 28
    assert food.per_100_g[Nutrient.LAURIC_FAT] == pytest.approx(0)
    sugars = [food.per_100_g[one] or 0.0 for one in (Nutrient.SUCROSE, Nutrient.LACTOSE, Nutrient.GLUCOSE)]
    assert sum(sugars) == pytest.approx(55, abs=0.5)
    assert sugars[0] > 5 * sugars[1] > 0
    assert set(food.allergens) >= {"hazelnut", "milk", "soy"}
    assert food.vegan == "no"
    assert food.origins[Nutrient.PALM_FAT] == STATEMENT
    assert food.origins[Nutrient.FAT] == "its packet"
    assert "not a full analysis" in food.note
    assert food.allergens_known
    assert food.per_100_g[Nutrient.POLYOLS] == 0  # no name on the statement brings any
    assert 0 < (food.per_100_g[Nutrient.FIBRE] or 0.0) < 5
    assert food.knows(Nutrient.WATER)


def test_a_name_that_nobody_knows_leaves_allergens_open(pantry: Pantry) -> None:
    """And what the panel is silent on stays unknown."""
    plain = own_ingredient("Bits", Region.EU, {RowId.FAT: "10", RowId.CARBOHYDRATE: "60"}, "", ())
    food = with_statement(plain, "Sugar, skimmed milk powder, zzyzx", Region.EU, pantry)
    assert "milk" in food.allergens
    assert not food.allergens_known
    assert food.per_100_g[Nutrient.POLYOLS] is None


def test_without_a_statement_nothing_changes(pantry: Pantry) -> None:
    """Nor with one of which nothing is understood."""
    plain = own_ingredient("Thing", Region.EU, {RowId.FAT: "10"}, "", ())
    assert with_statement(plain, " ", Region.EU, pantry) == plain
    assert with_statement(plain, "zzyzx", Region.EU, pantry) == plain
