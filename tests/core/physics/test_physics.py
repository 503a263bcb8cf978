"""Densities against table values, geometry against arithmetic."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fern_match.core.errors import OutOfRange
from fern_match.core.food import Pantry
from fern_match.core.physics import density
from fern_match.core.physics.cut_face import ASSUMED_HEIGHT, ASSUMED_LENGTH, Slab, coat_thickness_mm, cut_face
from fern_match.core.physics.density import mixture_density_g_cm3


@pytest.mark.parametrize(
    ("value", "by_formula"),
    [
        (density.WATER, 0.99718 + 3.1439e-6 * 20 - 3.7574e-6 * 400),
        (density.PROTEIN, 1.3299 - 5.1840e-4 * 20),
        (density.LIQUID_FAT, 0.92559 - 4.1757e-4 * 20),
        (density.CARBOHYDRATE, 1.5991 - 3.1046e-4 * 20),
        (density.FIBRE, 1.3115 - 3.6589e-4 * 20),
        (density.ASH, 2.4238 - 2.8063e-4 * 20),
    ],
)
def test_components_at_20_c(value: float, by_formula: float) -> None:
    """Choi and Okos's polynomials, worked out here."""
    assert value == pytest.approx(by_formula, abs=2e-5)


def test_water_has_the_density_of_water(pantry: Pantry) -> None:
    """Nothing but water."""
    assert mixture_density_g_cm3({"water": 5.0}, 0.0, 0.0, pantry) == pytest.approx(0.99574, abs=1e-3)


@pytest.mark.parametrize(
    ("grams", "lost", "low", "high"),
    [
        ({"dark-chocolate-55": 10.0}, 0.0, 1.20, 1.33),
        ({"white-sugar": 31, "glucose-syrup-42de": 31, "heavy-cream": 30, "butter-unsalted": 4, "water": 4}, 20.0, 1.25, 1.42),
        ({"peanut-roasted": 1.0}, 0.0, 0.98, 1.20),
    ],
)
def test_layers_are_as_heavy_as_tables_say(grams: dict[str, float], lost: float, low: float, high: float, pantry: Pantry) -> None:
    """Dark chocolate, soft caramel and nuts against tables of finished densities."""
    assert low <= mixture_density_g_cm3(grams, lost, 0.0, pantry) <= high


def test_air_makes_lighter(pantry: Pantry) -> None:
    """Half air, half the density."""
    solid = mixture_density_g_cm3({"white-sugar": 1.0}, 0.0, 0.0, pantry)
    assert mixture_density_g_cm3({"white-sugar": 1.0}, 0.0, 0.5, pantry) == pytest.approx(solid / 2)


@pytest.mark.parametrize(("lost", "porosity"), [(10.0, 0.0), (0.0, 1.0), (0.0, math.nan)])
def test_impossible_mixtures_are_refused(lost: float, porosity: float, pantry: Pantry) -> None:
    """Nothing left, or nothing but air."""
    with pytest.raises(OutOfRange):
        mixture_density_g_cm3({"water": 10.0}, lost, porosity, pantry)


def test_coat_inside_a_box() -> None:
    """50 x 20 x 15 mm with 1.2 mm all round: 15,000 - 47.6 x 17.6 x 12.6 = 4444.224 mm3."""
    assert coat_thickness_mm((50.0, 20.0, 15.0), 4444.224) == pytest.approx(1.2, abs=1e-6)


@given(st.floats(1, 60), st.floats(1, 60), st.floats(0.5, 20))
def test_the_cut_face_keeps_volumes(base: float, filling: float, coat: float) -> None:
    """Areas times length give back the volumes, and the stack fills the coat."""
    slabs = [
        Slab("coat", "coat", coat, coat, coat),
        Slab("base", "stack", base, base, base),
        Slab("top", "stack", filling, filling, filling),
    ]
    face = cut_face(slabs)
    assert face.length_mm == pytest.approx(ASSUMED_LENGTH * face.width_mm)
    assert face.height_mm == pytest.approx(ASSUMED_HEIGHT * face.width_mm)
    assert face.length_mm * face.width_mm * face.height_mm == pytest.approx(1000 * (base + filling + coat))
    by_id = {band.id: band for band in face.bands}
    inner_length = face.length_mm - 2 * by_id["coat"].thickness_mm
    for name, volume in (("base", base), ("top", filling)):
        assert by_id[name].width_mm * by_id[name].height_mm * inner_length == pytest.approx(1000 * volume, rel=1e-6)
    assert by_id["top"].y_mm + by_id["top"].height_mm == pytest.approx(face.height_mm - by_id["coat"].thickness_mm, rel=1e-6)


def test_a_layer_without_volume_is_refused() -> None:
    """The error says so."""
    with pytest.raises(OutOfRange):
        cut_face([Slab("ghost", "stack", 0.0, 0.0, 0.0)])


def test_a_measured_box_is_drawn_as_measured() -> None:
    """Coat and layers stretch alike until they fill it: shares of the volume stay, and the thickness is the box's own."""
    slabs = [Slab("coat", "coat", 4.0, 3.6, 4.4), Slab("base", "stack", 6.0, 6.0, 6.0), Slab("top", "stack", 2.0, 1.0, 3.0)]
    face = cut_face(slabs, (60.0, 25.0, 16.0))
    assert (face.length_mm, face.width_mm, face.height_mm, face.size_assumed) == (60.0, 25.0, 16.0, False)
    coat, base, top = face.bands
    assert coat.thickness_mm == pytest.approx(coat_thickness_mm((60.0, 25.0, 16.0), 24000 * 4 / 12))
    assert base.height_mm == pytest.approx(3 * top.height_mm)
    assert top.y_mm + top.height_mm + coat.thickness_mm == pytest.approx(16.0)
    assert (top.thickness_low_mm, top.thickness_high_mm) == (
        pytest.approx(top.height_mm / 2),
        pytest.approx(top.height_mm * 1.5),
    )


def test_a_box_without_a_side_is_refused() -> None:
    """The error says so."""
    with pytest.raises(OutOfRange):
        cut_face([Slab("base", "stack", 6.0, 6.0, 6.0)], (60.0, 0.0, 16.0))
