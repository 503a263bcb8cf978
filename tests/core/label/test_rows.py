"""Rows are made of nutrients by each region's meaning."""

import pytest

from fern_match.core.food import Nutrient, Pantry
from fern_match.core.label.rows import Region, RowId, panel_rows, polyol_energy, row_per_100_g


def test_carbohydrate_holds_fibre_only_in_the_us(pantry: Pantry) -> None:
    """US total by difference; EU without fibre."""
    oats = pantry["rolled-oats"]
    us = row_per_100_g(oats, RowId.CARBOHYDRATE, Region.US)
    eu = row_per_100_g(oats, RowId.CARBOHYDRATE, Region.EU)
    assert us is not None
    assert eu is not None
    assert us - eu == pytest.approx(oats.amount(Nutrient.FIBRE))


def test_salt_is_two_and_a_half_times_sodium(pantry: Pantry) -> None:
    """All sodium counts, from soda too."""
    soda = pantry["baking-soda"]
    assert row_per_100_g(soda, RowId.SALT, Region.EU) == pytest.approx(2.5 * soda.amount(Nutrient.SODIUM) / 1000)


def test_sugar_has_four_kcal_a_gram(pantry: Pantry) -> None:
    """17 kJ and 4 kcal a gram of sugar."""
    sugar = pantry["white-sugar"]
    carbohydrate = sugar.amount(Nutrient.CARBOHYDRATE)
    assert row_per_100_g(sugar, RowId.ENERGY_KCAL, Region.EU) == pytest.approx(4 * carbohydrate, rel=1e-3)
    assert row_per_100_g(sugar, RowId.ENERGY_KJ, Region.EU) == pytest.approx(17 * carbohydrate, rel=1e-3)


def test_erythritol_has_no_energy(pantry: Pantry) -> None:
    """Polyols count 2.4, erythritol 0."""
    erythritol = row_per_100_g(pantry["erythritol"], RowId.ENERGY_KCAL, Region.EU)
    maltitol = row_per_100_g(pantry["maltitol-powder"], RowId.ENERGY_KCAL, Region.EU)
    assert erythritol is not None
    assert maltitol is not None
    assert erythritol < 5
    assert maltitol == pytest.approx(2.4 * 99.2, abs=5)


def test_unknown_is_none_and_never_zero(pantry: Pantry) -> None:
    """An ingredient without a figure gives none."""
    unknown = next(food for food in pantry.all() if not food.knows(Nutrient.CALCIUM))
    assert row_per_100_g(unknown, RowId.CALCIUM, Region.US) is None


@pytest.mark.parametrize("region", list(Region))
def test_panels_have_no_row_twice(region: Region) -> None:
    """Every row once, and parts after their whole."""
    ids = [row.id for row in panel_rows(region)]
    assert len(set(ids)) == len(ids)
    for row in panel_rows(region):
        if row.part_of is not None:
            assert ids.index(row.part_of) < ids.index(row.id)


@pytest.mark.parametrize(
    ("region", "kind", "kcal", "kj"),
    [
        (Region.EU, "maltitol", 2.4, 10),
        (Region.EU, "erythritol", 0.0, 0),
        (Region.US, "maltitol", 2.1, None),
        (Region.US, "sorbitol", 2.6, None),
        (Region.US, "mannitol", 1.6, None),
        (Region.CA, "xylitol", 3.0, None),
        (Region.AU, "maltitol", None, 13),
        (Region.AU, "mannitol", None, 9),
        (Region.UK, "one that is not named", 2.4, 10),
    ],
)
def test_a_polyol_has_its_region_s_energy(region: Region, kind: str, kcal: float | None, kj: float | None) -> None:
    """Regulation (EU) 1169/2011, Annex XIV; 21 CFR 101.9(c)(1)(i)(F); Food Standards Code, schedule 11."""
    if kcal is not None:
        assert polyol_energy(kind, region) == kcal
    if kj is not None:
        assert polyol_energy(kind, region, "kj_per_g") == kj
