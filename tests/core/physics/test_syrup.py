"""Where syrups boil and what is left of them, against worked values and invariants."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.errors import OutOfRange
from fern_match.core.physics.syrup import boils_c, mass_left_g, solids_at, sucrose_boils_c

SYRUP = "glucose syrup 42 DE"
MIXED = {"sucrose": 60.0, SYRUP: 40.0}


@pytest.mark.parametrize(
    ("dissolved", "solids", "temp_c"),
    [
        (MIXED, 0.80, 109.7),
        ({"glucose": 1.0}, 0.80, 115.1),
        ({"allulose": 1.0}, 0.88, 123.5),
        ({"erythritol": 1.0}, 0.70, 110.9),
        ({SYRUP: 1.0}, 0.80, 107.7),
        ({"sorbitol": 1.0}, 0.75, 110.2),
        ({"maltitol": 1.0}, 0.80, 109.4),
    ],
)
def test_boils_where_it_was_worked_out(dissolved: dict[str, float], solids: float, temp_c: float) -> None:
    """Mixtures beside sucrose, by the ratio of their water activities."""
    assert boils_c(dissolved, solids) == pytest.approx(temp_c, abs=0.1)


@pytest.mark.parametrize(
    ("dissolved", "temp_c", "solids"),
    [({"sucrose": 1.0}, 118, 0.8656), (MIXED, 120, 0.8926), ({"allulose": 1.0}, 118, 0.8316)],
)
def test_holds_so_many_solids_at_a_heat(dissolved: dict[str, float], temp_c: float, solids: float) -> None:
    """The other way round."""
    assert solids_at(dissolved, temp_c) == pytest.approx(solids, abs=0.0005)


def test_what_is_left_in_the_pan() -> None:
    """1000 g of sucrose to 118 °C; 600 and 400 of sugar and syrup solids to 120; a soft caramel's own water."""
    assert mass_left_g({"sucrose": 1000.0}, 0.0, 118.0) == pytest.approx(1155.2, abs=0.1)
    assert mass_left_g({"sucrose": 600.0, SYRUP: 400.0}, 0.0, 120.0) == pytest.approx(1120.3, abs=0.6)
    caramel = {"sucrose": 30.0, SYRUP: 24.0, "lactose": 1.226}
    assert solids_at(caramel, 118.0) == pytest.approx(0.8807, abs=0.0005)
    assert mass_left_g(caramel, 14.59, 118.0) == pytest.approx(77.3, abs=0.1)


@given(st.floats(101, 155), st.sampled_from([MIXED, {"sucrose": 1.0}, {"maltitol": 3.0, "allulose": 1.0}]))
def test_there_and_back_is_the_same_heat(temp_c: float, dissolved: dict[str, float]) -> None:
    """Solids at a heat boil at that heat."""
    assert boils_c(dissolved, solids_at(dissolved, temp_c)) == pytest.approx(temp_c, abs=0.01)


@given(st.floats(0.3, 0.98), st.floats(0.001, 0.01))
def test_thicker_boils_hotter(solids: float, more: float) -> None:
    """Everywhere."""
    assert boils_c(MIXED, solids + more) > boils_c(MIXED, solids)


@pytest.mark.parametrize("solids", [-0.1, 0.999, math.nan])
def test_refuses_what_is_no_syrup(solids: float) -> None:
    """Outside the table."""
    with pytest.raises(OutOfRange):
        sucrose_boils_c(solids)
