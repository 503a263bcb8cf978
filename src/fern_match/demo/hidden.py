"""What is really in a demo bar, and the label, readings and size that follow from it, rounded as label, scale and ruler are."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fern_match.core.families import standard_families
from fern_match.core.food import Pantry
from fern_match.core.label.printing import printed
from fern_match.core.label.rows import Region, RowId, panel_rows, row_per_100_g
from fern_match.core.physics.density import mixture_density_g_cm3
from fern_match.core.study.record import Layer, PieceSize


@dataclass(frozen=True, slots=True)
class HiddenLayer:
    """What really is in one layer of the mean piece [g]."""

    added_g: dict[str, float]
    water_lost_g: float = 0.0

    @property
    def finished_g(self) -> float:
        """Mass as eaten [g]."""
        return sum(self.added_g.values()) - self.water_lost_g


Formula = Mapping[str, HiddenLayer]  # by layer id


def piece_g(formula: Formula) -> float:
    """Mass of the mean piece [g]."""
    return sum(layer.finished_g for layer in formula.values())


def scaled_to(raw: Formula, grams: float) -> dict[str, HiddenLayer]:
    """The same proportions at another mass of the piece.

    Args:
        grams: Mass of the mean piece [g].
    """
    scale = grams / piece_g(raw)
    return {
        key: HiddenLayer({name: scale * amount for name, amount in layer.added_g.items()}, scale * layer.water_lost_g)
        for key, layer in raw.items()
    }


def panel(formula: Formula, region: Region, basis_g: float, undeclared: frozenset[RowId], pantry: Pantry) -> dict[RowId, str]:
    """The panel of the true mean piece, rounded as printed.

    Args:
        basis_g: Grams the figures are for.
        undeclared: Rows the maker leaves out.
    """
    rows: dict[RowId, str] = {}
    for spec in panel_rows(region):
        if spec.id in undeclared:
            continue
        total = sum(
            grams * (row_per_100_g(pantry[name], spec.id, region) or 0.0) / 100
            for layer in formula.values()
            for name, grams in layer.added_g.items()
        )
        rows[spec.id] = printed(region, spec.id, basis_g * total / piece_g(formula))
    return rows


def readings(true_g: float, factors: Sequence[float]) -> tuple[str, ...]:
    """Readings of a scale that shows a tenth of a gram.

    Args:
        true_g: Of the mean piece or layer [g].
        factors: Each reading as a share of it: a fixed scatter, as pieces, a scale and a knife would give.
    """
    return tuple(f"{true_g * factor:.1f}" for factor in factors)


def box(formula: Formula, build: Sequence[Layer], length_mm: float, width_mm: float, pantry: Pantry) -> PieceSize:
    """Length and width of a bar, and the height that its true layers fill, as read off a ruler.

    Args:
        length_mm: Of the bar [mm].
        width_mm: Of the bar [mm].
    """
    porosity = {layer.id: standard_families()[layer.family].porosity_typical for layer in build}
    volume_mm3 = sum(
        1000 * layer.finished_g / mixture_density_g_cm3(layer.added_g, layer.water_lost_g, porosity[key], pantry)
        for key, layer in formula.items()
    )
    height = volume_mm3 / (length_mm * width_mm)
    return PieceSize(length=f"{length_mm:.0f}", width=f"{width_mm:.0f}", height=f"{height:.0f}")
