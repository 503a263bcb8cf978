"""What is said of a piece: sweetness, fats, water, grain and handling."""

from dataclasses import replace

import pytest
from tests.bench import FAMILIES, PANTRY, caramel, coat, filling, formula, layer, line

from fern_match.core.formulate import FormulaLayer, Note, Shaping, Tone, Version, VersionLayer
from fern_match.core.formulate.judging.balance import balance, natures
from fern_match.core.physics.grain import doctor_share


def said(*layers: FormulaLayer, shaping: Shaping | None = None) -> list[Note]:
    """All notes on layers."""
    kept = tuple(VersionLayer(id=one.layer_id, name=one.name, family=one.family, shaping=shaping) for one in layers)
    return list(balance(Version(id="v", name="V", layers=kept), formula(*layers), PANTRY, FAMILIES))


def on(notes: list[Note], topic: str) -> list[Note]:
    """The notes on a topic."""
    return [one for one in notes if one.topic == topic]


def test_what_fails_comes_first() -> None:
    """Then what to look at, then what is fine."""
    mixed = layer("coat", "milk-coat", line("milk-chocolate-33", 5, "chocolate"), line("compound-coating-milk", 5, "chocolate"))
    tones = [one.tone for one in said(mixed, filling())]
    assert tones == sorted(tones, key=[Tone.FAILS, Tone.LOOK, Tone.FINE].index)
    assert tones[0] is Tone.FAILS


def test_a_coat_that_snaps_and_one_too_thick() -> None:
    """By its solid fat; below 28 % fat it does not coat."""
    (snap,) = on(said(coat()), "Fats")
    assert "so it snaps" in snap.sentence
    thick = layer("coat", "milk-coat", line("milk-chocolate-33", 7, "chocolate"), line("icing-sugar", 3, ""))
    assert any("too thick to coat with" in one.sentence for one in on(said(thick), "Fats"))


def test_sweet_filling_under_a_dark_coat() -> None:
    """The piece, the coat and the filling, in grams of sugar."""
    (note,) = on(said(coat(), caramel()), "Sweetness")
    assert "g of sugar" in note.sentence
    assert "darker coat answers" in note.help


def test_sugar_alone_grains_and_with_syrup_it_does_not() -> None:
    """The share of doctor sugars decides; a fondant or a fudge is to grain."""
    bare = layer(
        "caramel", "soft-caramel", line("white-sugar", 5, "sweet-bulk"), line("heavy-cream", 3, "dairy-liquid"), lost=1.5
    )
    (grains,) = on(said(bare), "Grain")
    assert grains.tone is Tone.FAILS
    assert "30 to 45 %" in grains.help
    (smooth,) = on(said(caramel()), "Grain")
    assert smooth.tone is Tone.FINE
    wet = layer("centre", "plain-fondant", line("white-sugar", 4, "sweet-bulk"), line("glucose-syrup-42de", 5, "doctor-sugar"))
    (note,) = on(said(wet), "Grain")
    assert "a fondant or a fudge is to grain" in note.sentence


def test_a_wafer_under_a_wet_layer_goes_soft() -> None:
    """Water goes from wet to dry, and a barrier helps."""
    wafer = layer("wafer", "wafer-sheet-bought", line("wafer", 5, "crisp"))
    dates = layer("dates", "date-caramel", line("dates", 7, "fruit-solids"), line("almond-butter", 1.5, "nut-solids"))
    (note,) = on(said(wafer, dates), "Moisture")
    assert note.tone is Tone.LOOK
    assert "loses its crispness above 0.4" in note.sentence
    assert "cocoa butter" in note.help


def test_keeping_is_said_with_its_caution() -> None:
    """The wettest layer rules, and nobody is told that it is safe."""
    ganache = layer("ganache", "ganache-dark", line("dark-chocolate-55", 5, "chocolate"), line("heavy-cream", 5, "dairy-liquid"))
    (note,) = on(said(coat(), ganache), "Keeping")
    assert "Ganache" in note.sentence
    assert "perishable" in note.sentence
    assert "Measure with a meter" in note.help


@pytest.mark.parametrize(
    ("shaping", "sugar", "fine"),
    [(Shaping.ROLL, 5.0, True), (Shaping.ROLL, 2.0, False), (Shaping.PIPE, 4.0, True), (Shaping.PIPE, 8.0, False)],
)
def test_the_way_of_shaping_decides(shaping: Shaping, sugar: float, *, fine: bool) -> None:
    """How much sugar and crumb a filling takes to be rolled or piped."""
    amounts = {"icing-sugar": sugar, "plain-biscuit-crumbs": 0.5}
    part = replace(
        filling(),
        ingredients=tuple(replace(one, grams=amounts.get(one.ingredient_id, one.grams)) for one in filling().ingredients),
    )
    (note,) = on(said(part, shaping=shaping), "Handling")
    assert (note.tone is Tone.FINE) == fine
    assert fine or "About" in note.help


def test_fat_that_wanders_and_fats_that_do_not_mix() -> None:
    """Nut oil under chocolate; coconut with cocoa butter."""
    (oil,) = on(said(filling()), "Fats")
    assert "moves into a chocolate coat" in oil.sentence
    mixed = layer(
        "part",
        "nut-paste-praline",
        line("cocoa-butter", 3, "fat"),
        line("coconut-oil-refined", 3, "fat"),
        line("icing-sugar", 4, "sweet-bulk"),
    )
    (note,) = on(said(mixed), "Fats")
    assert "no figure" in note.sentence


def test_dry_layers_have_their_family_s_water_activity() -> None:
    """No syrup model is asked about a wafer."""
    (wafer,) = natures(formula(layer("wafer", "wafer-sheet-bought", line("wafer", 5, "crisp"))), PANTRY, FAMILIES)
    assert (wafer.water_activity_low, wafer.water_activity_high) == (0.05, 0.30)
    assert wafer.doctor is None


def test_erythritol_grains_whatever_else_keeps_sugar_smooth() -> None:
    """3 g to about 1.6 g of water: 0.59 g a gram stay dissolved, so it grains; half a gram does not; maltitol keeps smooth."""
    lines = (line("maltitol-syrup", 4.0, "doctor-sugar"), line("heavy-cream", 2.0, "dairy-liquid"))
    made = (
        layer("caramel", "maltitol-caramel", line("erythritol", grams, "sweet-bulk"), *lines, lost=0.6) for grams in (3.0, 0.3)
    )
    much, little = ([one for one in on(said(caramel), "Grain") if "Erythritol" in one.sentence] for caramel in made)
    (note,) = much
    assert "Erythritol: 3 g to" in note.sentence
    assert "grains on keeping" in note.sentence
    assert note.tone is Tone.FAILS
    assert little == []
    assert doctor_share({"sucrose": 5.0, "erythritol": 5.0}) == 0.0
    assert doctor_share({"sucrose": 5.0, "maltitol": 5.0}) == 0.5
