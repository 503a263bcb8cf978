"""How long things cool and boil, against worked values."""

import pytest

from fern_match.core.errors import OutOfRange
from fern_match.core.physics.heat import boiling_min, cooling_min, first_eigenvalue, mixed_c


def test_the_first_root() -> None:
    """Bi of a third."""
    assert first_eigenvalue(1 / 3) ** 2 == pytest.approx(0.2994, abs=0.0005)


@pytest.mark.parametrize(("thick_mm", "minutes"), [(5, 43.6), (10, 93.1), (20, 209.9)])
def test_a_tray_of_caramel_cools(thick_mm: float, minutes: float) -> None:
    """From 110 to 35 °C in a room of 20, from its face alone."""
    assert cooling_min(thick_mm, 110, 35, 20) == pytest.approx(minutes, abs=0.5)


def test_in_ice_it_cools_as_fast_as_its_inside_lets_it() -> None:
    """With no resistance at its faces 10 mm take 12.5 minutes."""
    assert cooling_min(10, 110, 35, 20, transfer=1000) == pytest.approx(12.5, rel=0.08)


def test_a_boil_by_its_energy() -> None:
    """1250 g by 100 degrees at 2.4 J/(g K), 130 g of steam, 1 kW."""
    assert boiling_min(1250, 100, 2.4, 130) == pytest.approx(9.89, abs=0.01)


def test_whites_and_syrup_mixed() -> None:
    """60 g of white at 25 °C and 500 g of syrup at 120."""
    assert mixed_c(((60, 3.9, 25), (500, 2.0, 120))) == pytest.approx(102.0, abs=0.1)


def test_nothing_cools_below_its_room() -> None:
    """An error that names it, and no figure."""
    with pytest.raises(OutOfRange, match="end of cooling"):
        cooling_min(10, 110, 15, 20)
