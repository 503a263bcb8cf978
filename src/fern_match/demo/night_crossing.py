"""Night Crossing by Ferrywright: coffee wafer base, sesame cream, date caramel, dark coat; a 42 g bar with an EU label.

The formula below is hidden from the estimator. The label is computed from it and rounded as an EU label is; the readings
are its layer masses with a fixed scatter. A test holds the estimate against it.
"""

from fern_match.core.food import Pantry
from fern_match.core.label.rows import Basis, Region, RowId
from fern_match.core.study.record import PIECE, LabelText, Layer, Place, Study, weighed
from fern_match.demo.hidden import HiddenLayer, box, panel, piece_g, readings, scaled_to

NET_WEIGHT_G = 42.0
OVERFILL = 1.018
LENGTH_MM, WIDTH_MM = 96, 36
LAYERS = (
    Layer(id="coat", name="Dark coat", family="dark-coat", place=Place.COAT),
    Layer(id="wafer", name="Coffee wafer", family="wafer-sheet", place=Place.STACK),
    Layer(id="cream", name="Sesame cream", family="sesame-cream", place=Place.STACK),
    Layer(id="caramel", name="Date caramel", family="date-caramel", place=Place.STACK),
)
STATEMENT = (
    "Ingredients: Sesame cream (SESAME paste, icing sugar, coconut oil, skimmed MILK powder, salt, vanilla extract), "
    "dark chocolate 31% (cocoa mass, sugar, cocoa butter, emulsifier (sunflower lecithin)), "
    "date caramel (dates, ALMOND butter, coconut cream, maple syrup, salt), "
    "coffee wafer (WHEAT flour, sugar, sunflower oil, instant coffee, salt, raising agent (sodium bicarbonate))."
)


def hidden_formula() -> dict[str, HiddenLayer]:
    """The true mean piece by layer id, scaled to the declared weight and its overfill."""
    raw = {
        "coat": HiddenLayer({"cocoa-mass": 6.35, "white-sugar": 5.05, "cocoa-butter": 1.62, "sunflower-lecithin": 0.06}),
        "cream": HiddenLayer(
            {
                "tahini": 6.95,
                "icing-sugar": 4.75,
                "coconut-oil-refined": 1.25,
                "skimmed-milk-powder": 0.92,
                "fine-salt": 0.04,
                "vanilla-extract": 0.04,
            },
            0.0,
        ),
        "caramel": HiddenLayer(
            {"dates": 6.05, "almond-butter": 1.22, "coconut-cream": 0.72, "maple-syrup": 0.45, "fine-salt": 0.035}, 0.0
        ),
        "wafer": HiddenLayer(
            {
                "water": 9.2,
                "plain-wheat-flour": 6.2,
                "white-sugar": 0.34,
                "sunflower-oil": 0.15,
                "instant-coffee-powder": 0.09,
                "fine-salt": 0.045,
                "baking-soda": 0.03,
            },
            9.85,
        ),
    }
    return scaled_to(raw, NET_WEIGHT_G * OVERFILL)


# Readings as a share of the true mass: a fixed scatter, as a scale and a knife would give.
_PIECES = (1.012, 0.991, 0.997, 1.008, 0.986)
_READINGS = {"coat": (1.02, 0.985), "cream": (0.985, 1.01, 1.012)}


def study(pantry: Pantry) -> Study:
    """The match as its owner typed it."""
    formula = hidden_formula()
    weighings = {key: readings(formula[key].finished_g, factors) for key, factors in _READINGS.items()}
    rows = panel(formula, Region.EU, 100.0, frozenset({RowId.POLYOLS, RowId.FIBRE}), pantry)
    return Study(
        name="Night Crossing",
        maker="Ferrywright",
        region=Region.EU,
        label=LabelText(net_weight="42 g", pieces_per_pack="1", basis=Basis.PER_100_G, rows=rows),
        statement=STATEMENT,
        layers=LAYERS,
        readings=weighed({PIECE: readings(piece_g(formula), _PIECES), **weighings}),
        size=box(formula, LAYERS, LENGTH_MM, WIDTH_MM, pantry),
    )
