"""The worked examples of formulating, with their figures."""

from dataclasses import replace

import pytest
from tests.bench import (
    FAMILIES,
    PANTRY,
    READING,
    breaks,
    caramel,
    coat,
    filling,
    formula,
    held_to,
    layer,
    line,
    recomputed,
    wanted,
)

from fern_match.core.food import Nutrient
from fern_match.core.formulate import Property, Room, Tone, Version, solve, ways
from fern_match.core.formulate.judging.balance import balance
from fern_match.core.formulate.judging.fat_notes import largest_safe
from fern_match.core.physics.fats import fat_limits


def solved(what, targets, free, **more):  # type: ignore[no-untyped-def]
    """Solves some layers."""
    return solve(what, targets, Room(free=free, **more), READING)


def test_short_base_by_ratio() -> None:
    """Butter, sugar and flour at 2 : 1 : 3, 10 g finished with 3.0 % water: the loss closes the balance, the ratio is exact."""
    base = layer(
        "base",
        "short-base",
        line("butter-unsalted", 0, "fat", part=2.0),
        line("white-sugar", 0, "sweet-bulk", part=1.0),
        line("plain-wheat-flour", 0, "flour", part=3.0),
    )
    targets = [wanted("weight", "base", Property.MASS, 10, 10), wanted("water", "base", Property.WATER, 0.3, 0.3)]
    found = solved(formula(base), targets, ["base"]).formula.layers[0]
    butter, sugar, flour = (one.grams for one in found.ingredients)
    assert butter / sugar == pytest.approx(2, abs=1e-6)
    assert flour / sugar == pytest.approx(3, abs=1e-6)
    assert butter + sugar + flour - found.water_lost_g == pytest.approx(10, abs=1e-6)
    assert recomputed(found, Nutrient.WATER) == pytest.approx(0.3, abs=1e-6)
    assert found.water_lost_g / found.added_g == pytest.approx(0.088, abs=0.001)


@pytest.mark.parametrize(
    ("chocolate", "cream", "water", "fat", "sugars", "stable"),
    [(2, 1, 19.7, 36.0, 30.9, True), (1, 1, 29.3, 36.0, 23.9, False), (1, 2, 38.8, 36.0, 16.9, False)],
)
def test_ganache_by_ratio(chocolate: int, cream: int, water: float, fat: float, sugars: float, *, stable: bool) -> None:
    """Chocolate 55 % to cream 36 %: water, fat and sugars from the table; 2 : 1 is stable, 1 : 2 is not, and it is said."""
    share = 100 / (chocolate + cream)
    ganache = layer(
        "ganache",
        "ganache-dark",
        line("dark-chocolate-55", chocolate * share, "chocolate"),
        line("heavy-cream", cream * share, "dairy-liquid"),
    )
    for column, figure in ((Nutrient.WATER, water), (Nutrient.FAT, fat), (Nutrient.SUGARS, sugars)):
        assert recomputed(ganache, column) == pytest.approx(figure, abs=0.1)
    notes = balance(Version(id="v", name="V"), formula(ganache), PANTRY, FAMILIES)
    (note,) = [one for one in notes if one.topic == "Emulsion"]
    assert (note.tone is Tone.FINE) == stable
    assert ("stable ganache" in note.sentence) == (stable or "outside" in note.sentence)


def test_a_ganache_of_plant_milk_chocolate_is_not_held_to_dark_cocoa() -> None:
    """2 : 1 with cream of oats; of dark chocolate with too little cocoa it is said that it has little body."""
    notes = {}
    for kind, chocolate in (("vegan-ganache", "vegan-oat-milk-chocolate"), ("ganache-dark", "white-chocolate")):
        ganache = layer("ganache", kind, line(chocolate, 67, "chocolate"), line("double-cream", 33, "dairy-liquid"))
        found = balance(Version(id="v", name="V"), formula(ganache), PANTRY, FAMILIES)
        notes[kind] = " ".join(one.sentence for one in found if one.topic == "Emulsion")
    assert "holds: it has little body" in notes["ganache-dark"]
    assert "18 % holds" not in notes["vegan-ganache"]


def test_a_milk_coat_wants_a_less_sweet_filling() -> None:
    """Dark changed for milk on the same filling: the piece stays as sweet within 2 %, so the filling's sweetness falls."""
    before = formula(coat(), filling())
    after = formula(coat("milk-chocolate-33", "milk-coat"), filling())
    found = solved(after, held_to(before), ["filling"])
    targets = {one.id: one for one in found.targets}
    assert targets["piece-sweetness"].reached
    assert targets["piece-sweetness"].got == pytest.approx(targets["piece-sweetness"].wanted, rel=0.0201)
    assert targets["filling-sweetness"].got < 0.85 * targets["filling-sweetness"].wanted


def test_with_its_sugar_locked_it_cannot_and_says_by_how_much() -> None:
    """The lock is named, and what the piece is too sweet by."""
    locked = replace(
        filling(),
        ingredients=tuple(replace(one, locked=one.ingredient_id == "icing-sugar") for one in filling().ingredients),
    )
    found = solved(formula(coat("milk-chocolate-33", "milk-coat"), locked), held_to(formula(coat(), filling())), ["filling"])
    piece = next(one for one in found.targets if one.id == "piece-sweetness")
    assert piece.gap == pytest.approx(0.8, abs=0.1)
    assert any("Sweetness, whole piece: 0.8 g of sugar too much" in sentence for sentence in found.held_back)
    assert any("Icing sugar (3 % starch) in Filling unlocked it would be reached" in sentence for sentence in found.held_back)


def test_soft_caramel_made_or_bought() -> None:
    """From sugar, syrup, cream and butter every target is reached; from squares what is missed is named."""
    own = formula(caramel())
    targets = held_to(own)
    made = solved(own, targets, ["caramel"])
    assert all(one.reached for one in made.targets)
    assert not breaks(made.formula.layers[0], 8.0)
    found = ways(own, "caramel", targets, READING)
    bought = next(one for one in found if one.bought)
    assert any(one.ingredient_id == "soft-caramel-squares" for one in bought.layer.ingredients)
    assert bought.layer.finished_g == pytest.approx(8, abs=1e-6)
    assert bought.missed
    assert "Misses" in bought.words


def test_half_chocolate_half_coating() -> None:
    """Allowed, with a warning that names the foreign fat; the largest safe share is computed and offered."""
    mixed = layer("coat", "milk-coat", line("milk-chocolate-33", 5, "chocolate"), line("compound-coating-milk", 5, "chocolate"))
    notes = balance(Version(id="v", name="V"), formula(mixed), PANTRY, FAMILIES)
    (note,) = [one for one in notes if one.topic == "Fats"]
    assert note.tone is Tone.FAILS
    assert "43 % of the fat" in note.sentence
    assert "is the largest safe share" in note.help
    limit = next(one for one in fat_limits() if one.in_fat == "cocoa butter" and one.other == "lauric fat")
    safe = largest_safe(mixed, limit, PANTRY)
    assert safe is not None
    name, share = safe
    assert name == PANTRY["compound-coating-milk"].name
    assert share == pytest.approx(0.05, abs=0.01)
    at_limit = layer(
        "coat",
        "milk-coat",
        line("milk-chocolate-33", 10 * (1 - share), "chocolate"),
        line("compound-coating-milk", 10 * share, "chocolate"),
    )
    assert recomputed(at_limit, Nutrient.LAURIC_FAT) / recomputed(at_limit, Nutrient.FAT) <= limit.fine_to + 1e-9
