"""Lime Quay by Ferrywright: ginger crumb base, coconut-lime fondant, white coat; two 18 g pieces with a US label.

The formula below is hidden from the estimator; label, readings and size follow from it. A test holds the estimate against it.
"""

from fern_match.core.food import Pantry
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.study.record import PIECE, LabelText, Layer, Place, Study, weighed
from fern_match.demo.hidden import HiddenLayer, box, panel, piece_g, readings, scaled_to

PIECE_G, PIECES = 18.0, 2
OVERFILL = 1.02
LENGTH_MM, WIDTH_MM = 44, 26
LAYERS = (
    Layer(id="coat", name="White coat", family="white-coat", place=Place.COAT),
    Layer(id="base", name="Ginger crumb base", family="crumb-base", place=Place.STACK),
    Layer(id="fondant", name="Coconut-lime fondant", family="coconut-fondant", place=Place.STACK),
)
STATEMENT = (
    "Ingredients: Coconut lime fondant (sugar, coconut, corn syrup, sweetened condensed milk, lime juice, butter, salt), "
    "ginger crumb base (sweet biscuit crumbs, butter, golden syrup, brown sugar, ground ginger, salt), "
    "white chocolate (sugar, cocoa butter, whole milk powder, soy lecithin, vanilla extract)."
)
_UNDECLARED = frozenset({RowId.FIBRE, RowId.POLYOLS, RowId.CALCIUM, RowId.IRON, RowId.POTASSIUM, RowId.CHOLESTEROL})
_PIECE_FACTORS = (0.985, 1.013, 1.004, 0.992)
_FACTORS = {"coat": (1.01, 0.98), "base": (0.99, 1.015)}


def hidden_formula() -> dict[str, HiddenLayer]:
    """The true mean piece by layer id."""
    raw = {
        "coat": HiddenLayer(
            {"white-sugar": 2.42, "cocoa-butter": 1.58, "whole-milk-powder": 1.36, "soy-lecithin": 0.03, "vanilla-extract": 0.02}
        ),
        "base": HiddenLayer(
            {
                "plain-biscuit-crumbs": 3.95,
                "butter-unsalted": 1.55,
                "golden-syrup": 0.3,
                "light-brown-sugar": 0.22,
                "ground-ginger": 0.04,
                "fine-salt": 0.018,
            }
        ),
        "fondant": HiddenLayer(
            {
                "white-sugar": 3.3,
                "desiccated-coconut": 1.72,
                "light-corn-syrup": 0.68,
                "water": 0.75,
                "sweetened-condensed-milk": 0.48,
                "lime-juice": 0.22,
                "butter-unsalted": 0.14,
                "fine-salt": 0.016,
            },
            0.72,
        ),
    }
    return scaled_to(raw, PIECE_G * OVERFILL)


def study(pantry: Pantry) -> Study:
    """The match as its owner typed it."""
    formula = hidden_formula()
    weighings = {key: readings(formula[key].finished_g, factors) for key, factors in _FACTORS.items()}
    return Study(
        name="Lime Quay",
        maker="Ferrywright",
        region=Region.US,
        label=LabelText(
            net_weight="1.27 oz",
            pieces_per_pack=f"{PIECES}",
            serving=f"{PIECES * PIECE_G:.0f} g",
            basis=Basis.SERVING,
            rows=panel(formula, Region.US, PIECES * PIECE_G, _UNDECLARED, pantry),
        ),
        statement=STATEMENT,
        corrections={"ginger crumb base > sweet biscuit crumbs": "plain-biscuit-crumbs"},
        layers=LAYERS,
        readings=weighed({PIECE: readings(piece_g(formula), _PIECE_FACTORS), **weighings}),
        size=box(formula, LAYERS, LENGTH_MM, WIDTH_MM, pantry),
    )
