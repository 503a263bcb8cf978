"""Night Crossing by Ferrywright: coffee wafer base, sesame cream, date caramel, dark coat; a 42 g bar with an EU label.

The formula below is hidden from the estimator. The label is computed from it and rounded as an EU label is; the readings
are its layer masses with a fixed scatter. A test holds the estimate against it.
"""

from dataclasses import dataclass

from fern_match.core.families import family
from fern_match.core.food import Pantry
from fern_match.core.label.printing import printed
from fern_match.core.label.rows import Basis, Region, RowId, panel_rows, row_per_100_g
from fern_match.core.physics.density import mixture_density_g_cm3
from fern_match.core.study.record import PIECE, LabelText, Layer, PieceSize, Place, Study

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


@dataclass(frozen=True, slots=True)
class HiddenLayer:
    """What really is in one layer of the mean piece [g]."""

    added_g: dict[str, float]
    water_lost_g: float

    @property
    def finished_g(self) -> float:
        """Mass as eaten [g]."""
        return sum(self.added_g.values()) - self.water_lost_g


def hidden_formula() -> dict[str, HiddenLayer]:
    """The true mean piece by layer id, scaled to the declared weight and its overfill."""
    raw = {
        "coat": HiddenLayer({"cocoa-mass": 6.35, "white-sugar": 5.05, "cocoa-butter": 1.62, "sunflower-lecithin": 0.06}, 0.0),
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
    scale = NET_WEIGHT_G * OVERFILL / sum(layer.finished_g for layer in raw.values())
    return {
        key: HiddenLayer({name: scale * grams for name, grams in layer.added_g.items()}, scale * layer.water_lost_g)
        for key, layer in raw.items()
    }


# Readings as a share of the true mass: a fixed scatter, as a scale and a knife would give.
_PIECES = (1.012, 0.991, 0.997, 1.008, 0.986)
_READINGS = {"coat": (1.02, 0.985), "cream": (0.985, 1.01, 1.012)}


def study(pantry: Pantry) -> Study:
    """The match as its owner typed it.

    Args:
        pantry: Compositions, for the label.
    """
    formula = hidden_formula()
    piece = sum(layer.finished_g for layer in formula.values())
    weighings = {PIECE: tuple(f"{piece * factor:.1f}" for factor in _PIECES)}
    for key, factors in _READINGS.items():
        weighings[key] = tuple(f"{formula[key].finished_g * factor:.1f}" for factor in factors)
    return Study(
        name="Night Crossing",
        maker="Ferrywright",
        region=Region.EU,
        label=LabelText(net_weight="42 g", pieces_per_pack="1", serving="", basis=Basis.PER_100_G, rows=_label(formula, pantry)),
        statement=STATEMENT,
        layers=LAYERS,
        weighings=weighings,
        size=_size(formula, pantry),
    )


def _size(formula: dict[str, HiddenLayer], pantry: Pantry) -> PieceSize:
    """Length and width of the bar, and the height that its true layers fill, as read off a ruler."""
    families = {layer.id: family(layer.family) for layer in LAYERS}
    volume_mm3 = sum(
        1000 * layer.finished_g / mixture_density_g_cm3(layer.added_g, layer.water_lost_g, families[key].porosity_typical, pantry)
        for key, layer in formula.items()
    )
    height = volume_mm3 / (LENGTH_MM * WIDTH_MM)
    return PieceSize(length=f"{LENGTH_MM}", width=f"{WIDTH_MM}", height=f"{height:.0f}")


def _label(formula: dict[str, HiddenLayer], pantry: Pantry) -> dict[RowId, str]:
    """The panel of the true mean piece per 100 g, rounded as printed; polyols and fibre are not declared."""
    piece = sum(layer.finished_g for layer in formula.values())
    rows: dict[RowId, str] = {}
    for spec in panel_rows(Region.EU):
        if spec.id in {RowId.POLYOLS, RowId.FIBRE}:
            continue
        total = sum(
            grams * (row_per_100_g(pantry[name], spec.id, Region.EU) or 0.0) / 100
            for layer in formula.values()
            for name, grams in layer.added_g.items()
        )
        rows[spec.id] = printed(Region.EU, spec.id, 100 * total / piece)
    return rows
