"""Claims, as far as figures decide them."""

import pytest

from fern_match.core.label.claims import Claim, claims
from fern_match.core.label.rows import Region, RowId


def found(region: Region, rows: dict[RowId, float], **more: object) -> dict[str, Claim]:
    """Claims by name."""
    return {one.claim: one for one in claims(region, rows, 40.0, **more)}  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("region", "sugars", "allowed"),
    [(Region.EU, 0.5, True), (Region.EU, 0.6, False), (Region.UK, 0.6, False), (Region.US, 0.6, True), (Region.US, 1.25, False)],
)
def test_sugar_free_by_region(region: Region, sugars: float, *, allowed: bool) -> None:
    """At most 0.5 g in 100 g in the EU and UK; under 0.5 g in a serving of 40 g in the US, so 1.25 g in 100 g is too much."""
    assert found(region, {RowId.SUGARS: sugars})["Sugar-free"].allowed is allowed


def test_a_small_serving_counts_as_the_reference_amount_in_the_us() -> None:
    """2 g sugars in 100 g are 0.3 g in a serving of 15 g and 0.6 g in the reference amount of 30 g: not sugar-free."""
    (claim,) = [one for one in claims(Region.US, {RowId.SUGARS: 2.0}, 15.0) if one.claim == "Sugar-free"]
    assert not claim.allowed
    assert claim.sentence.startswith("Sugars 0.6 g in the reference amount of 30 g")


def test_reduced_sugar_is_against_the_original() -> None:
    """30 % less in the EU and no more energy; 25 % in the US."""
    rows, original = {RowId.SUGARS: 36.0, RowId.ENERGY_KCAL: 500.0}, {RowId.SUGARS: 50.0, RowId.ENERGY_KCAL: 480.0}
    assert not found(Region.EU, rows, original=original)["Reduced sugar"].allowed
    assert found(Region.US, rows, original=original)["Reduced sugar"].allowed
    lighter = found(Region.EU, {RowId.SUGARS: 34.0, RowId.ENERGY_KCAL: 470.0}, original=original)["Reduced sugar"]
    assert lighter.allowed
    assert "32 % less" in lighter.sentence


def test_no_sugar_added_and_vegan_follow_the_lines() -> None:
    """Figures do not decide them."""
    some = found(Region.EU, {RowId.SUGARS: 30.0}, added_sugar=True, vegan="check")
    assert not some["No added sugar"].allowed
    assert not some["Vegan"].allowed
    assert "ask" in some["Vegan"].sentence
    none = found(Region.EU, {RowId.SUGARS: 30.0}, added_sugar=False, vegan="yes")
    assert none["No added sugar"].allowed
    assert none["Vegan"].allowed
    assert "traces" in none["Vegan"].sentence


def test_gluten_free_is_never_allowed_by_figures() -> None:
    """It wants a measurement; where there is wheat it is not even mentioned."""
    assert not found(Region.EU, {})["Gluten-free"].allowed
    assert "Gluten-free" not in found(Region.EU, {}, allergens=("wheat",))


def test_polyols_bring_a_warning() -> None:
    """Above 10 g in 100 g."""
    assert any("laxative" in name for name in found(Region.EU, {RowId.POLYOLS: 22.0}))
    assert not any("laxative" in name for name in found(Region.EU, {RowId.POLYOLS: 8.0}))


def test_fibre_and_protein() -> None:
    """3 and 6 g of fibre in 100 g; protein by its share of energy."""
    rows = {RowId.FIBRE: 6.2, RowId.PROTEIN: 8.0, RowId.ENERGY_KCAL: 490.0}
    named = found(Region.EU, rows)
    assert named["High fibre"].allowed
    assert not named["Source of protein"].allowed
    assert "Protein 6.5 % of energy" in named["Source of protein"].sentence
