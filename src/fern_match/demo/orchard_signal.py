"""Orchard Signal by Hollin & Rook: apple jelly, pecan nougat, milk coat; a 48 g bar with a UK label, just begun.

The formula below is hidden; the label follows from it. Its owner has copied the label and weighed three bars, no more.
"""

from dataclasses import replace

from fern_match.core.food import Pantry
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.study.record import PIECE, LabelText, Layer, Place, Study, Whereabouts, weighed
from fern_match.demo.hidden import HiddenLayer, panel, piece_g, readings, scaled_to

NET_WEIGHT_G = 48.0
OVERFILL = 1.015
STATEMENT = (
    "Ingredients: Pecan nougat (glucose syrup, sugar, PECAN NUTS {pecans}%, EGG white, skimmed MILK powder, salt), "
    "milk chocolate {coat}% (sugar, cocoa butter, whole MILK powder, cocoa mass, emulsifier (SOYA lecithin)), "
    "apple jelly (sugar, glucose syrup, apple puree, gelling agent (pectin), acid (citric acid))."
)
_PIECE_FACTORS = (1.009, 0.994, 1.003)
# The build its owner will come to, and where the nuts go; not shown in the demo, which is just begun.
BUILD = (
    Layer(id="coat", name="Milk coat", family="milk-coat", place=Place.COAT),
    Layer(id="nougat", name="Pecan nougat", family="nougat-egg-white", place=Place.STACK),
    Layer(id="pecans", name="Pecans", family="whole-nuts", place=Place.INCLUSION, host="nougat"),
    Layer(id="jelly", name="Apple jelly", family="fruit-jelly", place=Place.STACK),
)
NUTS = {"pecan nougat > pecan nuts": {"pecans": Whereabouts.YES, "nougat": Whereabouts.NO}}


def hidden_formula() -> dict[str, HiddenLayer]:
    """The true mean piece by layer id."""
    raw = {
        "coat": HiddenLayer(
            {"white-sugar": 6.9, "cocoa-butter": 3.25, "whole-milk-powder": 3.1, "cocoa-mass": 1.75, "soy-lecithin": 0.07}
        ),
        "nougat": HiddenLayer(
            {
                "glucose-syrup-42de": 7.6,
                "white-sugar": 7.3,
                "water": 1.9,
                "egg-white-fresh": 1.15,
                "skimmed-milk-powder": 0.55,
                "fine-salt": 0.06,
            },
            2.5,
        ),
        "pecans": HiddenLayer({"pecan": 3.3}),
        "jelly": HiddenLayer(
            {
                "white-sugar": 6.0,
                "glucose-syrup-42de": 4.3,
                "apple-puree": 3.4,
                "water": 0.9,
                "pectin-hm": 0.24,
                "citric-acid": 0.1,
            },
            2.1,
        ),
    }
    return scaled_to(raw, NET_WEIGHT_G * OVERFILL)


def study(pantry: Pantry) -> Study:
    """The match as its owner typed it."""
    formula = hidden_formula()
    return Study(
        name="Orchard Signal",
        maker="Hollin & Rook",
        region=Region.UK,
        label=LabelText(
            net_weight="48 g",
            pieces_per_pack="1",
            basis=Basis.PER_100_G,
            rows=panel(formula, Region.UK, 100.0, frozenset({RowId.POLYOLS}), pantry),
        ),
        statement=STATEMENT.format(
            **{key: f"{100 * formula[key].finished_g / piece_g(formula):.0f}" for key in ("pecans", "coat")}
        ),
        readings=weighed({PIECE: readings(piece_g(formula), _PIECE_FACTORS)}),
    )


def study_with_build(pantry: Pantry) -> Study:
    """The match as its owner will have it once the build stands."""
    return replace(study(pantry), layers=BUILD, placements=NUTS)
