"""A declared net weight and what it says about the mean piece."""

import pytest

from fern_match.core.errors import OutOfRange
from fern_match.core.label.net_weight import mean_piece_from_label, tolerable_shortfall_g
from fern_match.core.label.rows import Region


@pytest.mark.parametrize(
    ("nominal", "shortfall"),
    [(45, 4.1), (50, 4.5), (100, 4.5), (150, 6.8), (250, 9.0), (400, 12.0), (800, 15.0), (2000, 30.0)],
)
def test_eu_shortfall(nominal: float, shortfall: float) -> None:
    """Directive 76/211/EEC, rounded up to 0.1 g."""
    assert tolerable_shortfall_g(Region.EU, nominal) == pytest.approx(shortfall)


@pytest.mark.parametrize(("nominal", "shortfall"), [(30, 3.0), (42, 3.6), (60, 5.4), (100, 7.2), (900, 18.1)])
def test_us_shortfall(nominal: float, shortfall: float) -> None:
    """NIST Handbook 133."""
    assert tolerable_shortfall_g(Region.US, nominal) == pytest.approx(shortfall)


def test_mean_piece_of_a_pack_of_two() -> None:
    """36 g in two pieces: 18 g each, 2 % over in the mean, never under 36 - 3.3 g for the pack."""
    piece = mean_piece_from_label(Region.EU, 36.0, 2)
    assert piece.mean_g == pytest.approx(18.36)
    assert piece.sd_g == pytest.approx(0.36)
    assert piece.low_g == pytest.approx((36 - 3.3) / 2)
    assert piece.high_g == pytest.approx(19.8)


@pytest.mark.parametrize(
    ("grams", "pieces", "field"), [(0.5, 1, "net weight"), (42, 0, "pieces per pack"), (42, 500, "pieces per pack")]
)
def test_absurd_packs_are_refused(grams: float, pieces: int, field: str) -> None:
    """The error names the field."""
    with pytest.raises(OutOfRange) as caught:
        mean_piece_from_label(Region.EU, grams, pieces)
    assert caught.value.field == field
