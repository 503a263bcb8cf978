"""Claims, as far as figures decide them."""

import pytest

from fern_match.core.food.together import Allergens
from fern_match.core.label.claims import Claim, claims
from fern_match.core.label.rows import Region, RowId


def found(region: Region, rows: dict[RowId, float | None], **more: object) -> dict[str, Claim]:
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
    none = Allergens(holds=(), not_known=())
    assert not found(Region.EU, {}, allergens=none)["Gluten-free"].allowed
    unsure = found(Region.EU, {}, allergens=Allergens(holds=(), not_known=("Crunch bits",)))["Gluten-free"]
    assert "Of Crunch bits it is not known" in unsure.sentence
    assert "Gluten-free" not in found(Region.EU, {}, allergens=Allergens(holds=("wheat",), not_known=()))


@pytest.mark.parametrize(
    ("region", "polyols", "warned"),
    [
        (Region.EU, {"maltitol": 8.0, "erythritol": 3.0}, True),  # together above 10 g in 100 g
        (Region.EU, {"maltitol": 10.0}, False),  # above, not from
        (Region.UK, {"": 10.1}, True),
        (Region.AU, {"erythritol": 24.0}, False),  # of these from 25 g
        (Region.AU, {"maltitol": 10.0}, True),
        (Region.US, {"maltitol": 60.0}, False),  # no words for it in the law
        (Region.US, {"sorbitol": 125.0}, True),  # 50 g in a serving of 40 g
        (Region.CA, {"sorbitol": 90.0}, False),
    ],
)
def test_polyols_bring_a_warning_only_where_the_law_has_one(region: Region, polyols: dict[str, float], *, warned: bool) -> None:
    """By kind, and by region."""
    assert any("laxative" in name.lower() for name in found(region, {}, polyols=polyols)) is warned


@pytest.mark.parametrize(
    ("region", "rows", "claim", "allowed"),
    [
        (Region.US, {RowId.FAT: 5.0}, "Low fat", True),  # 2.5 g in the reference amount of 50 g; 2 g in the serving
        (Region.US, {RowId.FAT: 7.0}, "Low fat", False),  # 3.5 g in 50 g, though 2.8 g in the serving of 40 g
        (Region.CA, {RowId.FAT: 7.0}, "Low fat", False),
        (Region.CA, {RowId.SUGARS: 0.5, RowId.ENERGY_KCAL: 300.0}, "Sugar-free", False),  # not free of energy
        (Region.CA, {RowId.SUGARS: 0.5, RowId.ENERGY_KCAL: 10.0}, "Sugar-free", True),
        (Region.CA, {RowId.SUGARS: 0.5}, "Sugar-free", None),
        (Region.EU, {RowId.SUGARS: None}, "Sugar-free", None),
    ],
)
def test_claims_by_region_and_serving(
    region: Region, rows: dict[RowId, float | None], claim: str, *, allowed: bool | None
) -> None:
    """A small serving counts as the law's amount; what is not known decides nothing."""
    assert found(region, rows)[claim].allowed is allowed


def test_reduced_sugar_by_region() -> None:
    """25 % in Australia without a word on energy; in Canada 5 g a serving less as well."""
    rows, original = {RowId.SUGARS: 15.0, RowId.ENERGY_KCAL: 500.0}, {RowId.SUGARS: 20.0, RowId.ENERGY_KCAL: 480.0}
    assert found(Region.AU, rows, original=original)["Reduced sugar"].allowed
    assert not found(Region.CA, rows, original=original)["Reduced sugar"].allowed  # 2 g less in 40 g
    assert found(Region.CA, {RowId.SUGARS: 30.0}, original={RowId.SUGARS: 50.0})["Reduced sugar"].allowed  # 8 g less
    unsure = found(Region.EU, {RowId.SUGARS: 10.0}, original=original)["Reduced sugar"]
    assert unsure.allowed is None
    assert "not known" in unsure.sentence


def test_fibre_and_protein() -> None:
    """3 and 6 g of fibre in 100 g; protein by its share of energy."""
    rows = {RowId.FIBRE: 6.2, RowId.PROTEIN: 8.0, RowId.ENERGY_KCAL: 490.0}
    named = found(Region.EU, rows)
    assert named["High fibre"].allowed
    assert not named["Source of protein"].allowed
    assert "Protein 6.5 % of energy" in named["Source of protein"].sentence
