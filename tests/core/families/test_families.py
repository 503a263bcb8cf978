"""Families are whole, and ingredients find their roles."""

import pytest

from fern_match.core.errors import NotKnown
from fern_match.core.families import chocolate_rules, standard_families, strength
from fern_match.core.families.admission import Grade, best_role, grade, misfit, opened_families
from fern_match.core.food import Pantry

KNOWN = standard_families()


def test_windows_are_in_order() -> None:
    """Least, typical and most of each role, moisture and water lost."""
    for kind in KNOWN.all():
        for role in kind.roles:
            assert 0 <= role.least <= role.typical <= role.most <= 1, (kind.id, role.name)
        assert kind.moisture_low <= kind.moisture_typical <= kind.moisture_high, kind.id
        assert kind.water_lost_typical <= kind.water_lost_most < 1, kind.id
        assert kind.traits.usual_weight > 0
        assert 0 <= kind.traits.left_on_tools < 0.2


def test_typical_shares_of_a_family_make_about_one() -> None:
    """The usual recipe adds up."""
    for kind in KNOWN.all():
        assert sum(role.typical for role in kind.roles) == pytest.approx(1.0, abs=0.03), kind.id


def test_every_ingredient_of_a_role_is_in_the_pantry(pantry: Pantry) -> None:
    """No role admits what nobody can buy."""
    for kind in KNOWN.all():
        for role in kind.roles:
            assert role.default_id in role.admits
            assert all(name in pantry for name in role.admits), (kind.id, role.name)


def test_unheated_families_lose_no_water() -> None:
    """Only what is cooked boils off."""
    assert all(kind.water_lost_most == 0 for kind in KNOWN.all() if not kind.heated)


def test_variants_share_a_root() -> None:
    """A variant of a variant descends from the first."""
    assert KNOWN.root_of("sugar-free-dark-coat-open") == "dark-coat"
    assert "maltitol-caramel" in {kind.id for kind in KNOWN.variants_of("soft-caramel")}
    assert KNOWN.variants_of("powder-caramel")[0].id == "powder-caramel"


def test_an_unknown_family_is_named() -> None:
    """The error says which."""
    with pytest.raises(NotKnown) as caught:
        KNOWN["moon-cheese"]
    assert caught.value.key == "moon-cheese"


@pytest.mark.parametrize(
    ("family_id", "ingredient", "role", "how"),
    [
        ("soft-caramel", "heavy-cream", "dairy-liquid", Grade.LISTED),
        ("soft-caramel", "icing-sugar", "sweet-bulk", Grade.LISTED),  # labels do not tell sugars apart
        ("marshmallow", "maltitol-syrup", "doctor-sugar", Grade.KIN),
        ("dark-coat-open", "cocoa-mass", "cocoa-solids", Grade.LISTED),
    ],
)
def test_roles_take_ingredients(family_id: str, ingredient: str, role: str, how: Grade) -> None:
    """Listed ones, ones that labels do not tell apart, and kin."""
    found = best_role(KNOWN, KNOWN[family_id].roles, ingredient)
    assert found is not None
    assert (found[0].name, found[1]) == (role, how)


def test_nothing_takes_a_stranger() -> None:
    """Peanuts have no place in a fruit jelly."""
    assert best_role(KNOWN, KNOWN["fruit-jelly"].roles, "peanut-roasted") is None
    assert grade(KNOWN, KNOWN["fruit-jelly"].roles[0], "peanut-roasted") is Grade.NONE


def test_a_caramel_is_told_from_its_variants() -> None:
    """Cream and butter fit soft caramel; palm oil and milk powder fit the powder one."""
    dairy = ["white-sugar", "glucose-syrup-42de", "heavy-cream", "butter-unsalted", "fine-salt"]
    powder = ["white-sugar", "glucose-syrup-42de", "palm-oil", "skimmed-milk-powder", "fine-salt"]
    assert misfit(KNOWN, KNOWN["soft-caramel"], dairy, complete=True) < misfit(
        KNOWN, KNOWN["powder-caramel"], dairy, complete=True
    )
    assert misfit(KNOWN, KNOWN["powder-caramel"], powder, complete=True) < misfit(
        KNOWN, KNOWN["soft-caramel"], powder, complete=True
    )


def test_chocolate_opens_into_its_kinds() -> None:
    """A dark coat opens into dark ones, a caramel's sugar into none."""
    opened = {kind.id for kind in opened_families(KNOWN, KNOWN["dark-coat"].roles[0])}
    assert opened == {"dark-coat-open", "sugar-free-dark-coat-open"}
    assert opened_families(KNOWN, KNOWN["soft-caramel"].roles[0]) == ()


def test_dried_egg_white_is_strong() -> None:
    """A seventh of the fresh does the work, and where the window is written for dried white it is the other way round."""
    fresh = next(role for role in KNOWN["nougat-egg-white"].roles if role.name == "aerator")
    dried = next(role for role in KNOWN["nougat-chewy-milk"].roles if role.name == "aerator")
    assert strength(fresh, "egg-white-powder") == pytest.approx(1 / 7.5)
    assert strength(fresh, "egg-white-fresh") == 1.0
    assert (strength(dried, "egg-white-powder"), strength(dried, "egg-white-fresh")) == (1.0, pytest.approx(7.5))


def test_a_gel_is_measured_in_the_unit_of_its_kind() -> None:
    """Where the window is written for gelatine, a fifth of it as agar does; anything else counts as it is."""
    gelatine = next(role for role in KNOWN["gelatine-jelly"].roles if role.name == "gelling")
    pectin = next(role for role in KNOWN["fruit-jelly"].roles if role.name == "gelling")
    assert strength(gelatine, "agar") == pytest.approx(0.2)
    assert strength(pectin, "agar") == pytest.approx(0.7)
    assert strength(pectin, "white-sugar") == 1.0


def test_chocolate_rules_are_known_families() -> None:
    """Each rule is about an opened chocolate."""
    assert {rule.family for rule in chocolate_rules()} <= set(KNOWN.by_id)
    assert all(0 < rule.minimum < 0.6 for rule in chocolate_rules())
