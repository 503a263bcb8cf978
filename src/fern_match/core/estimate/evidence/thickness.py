"""Thicknesses of layers on the cut face, through density, air and the piece's size.

A layer of the stack is as thick as its volume, with what lies in it, over the footprint that all layers share; a coat as its
volume over the surface of the piece. Worked example: 12 g of caramel of 1.3 g/cm3 on a footprint of 16 cm2 are 12 / 1.3 / 16 =
0.577 cm or 5.8 mm thick. The air that a layer holds is an unknown within the window of its family, and so is the footprint.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fern_match.core.estimate.problem import Problem
from fern_match.core.estimate.recipe_tree import Floats
from fern_match.core.estimate.state import Pull, State
from fern_match.core.estimate.terms import Evidence, Foreseen, Kind, figure_expected, figure_sentence, only, point_tail
from fern_match.core.physics.density import WATER as WATER_G_CM3
from fern_match.core.physics.density import airless_volume_cm3_g
from fern_match.core.study.reading import ThicknessReading
from fern_match.core.study.record import Place, Spot

_RULER_MM = 0.25  # how well a thickness is read off a cut face
_BETWEEN = 0.08  # thicknesses differ along a layer by so much of themselves
_MODEL, _MODEL_OF_AIR = 0.03, 0.10  # of density for dense layers, and for porous ones [share]
_POROUS_FROM = 0.15
_ONE_SPOT = 0.15  # a coat's top, side and bottom differ from its mean by so much
_MM_PER_CM = 10.0
_LEAST_VOLUME = 1e-9  # cm3 per 100 g
THICKNESS = Kind(
    id="thickness", group="Size", is_figure=True, tail=point_tail, expected=figure_expected, sentence=figure_sentence
)


@dataclass(frozen=True, slots=True, kw_only=True)
class ThicknessTerm:
    """Means of thicknesses; a layer's volume over the footprint or the surface."""

    evidence: tuple[Evidence, ...]
    millimetres: Floats  # [thicknesses, 1]
    relative_sd: Floats  # [thicknesses, 1], of what is foreseen
    fixed_sd: Floats  # [thicknesses, 1], of the mean reading [mm]
    parts: Floats  # [thicknesses, parts], airless volume of a gram of each part that counts [cm3/g]
    lost: Floats  # [thicknesses, layers], volume of a gram of water lost [cm3/g]
    layer: NDArray[np.intp]  # [thicknesses], whose air counts
    surface: Floats  # [thicknesses, 1], of a coat [cm2]; 0 where the footprint counts

    def _mean(self, state: State) -> tuple[Floats, Floats]:
        airless = np.maximum(self.parts @ state.amount - self.lost @ state.lost_g, _LEAST_VOLUME)
        volume = state.mass_g / 100.0 * airless / (1 - state.porosity[self.layer])
        area = np.where(self.surface > 0, self.surface, np.exp(state.log_area))
        return _MM_PER_CM * volume / area, airless

    def log_likelihood(self, state: State, pull: Pull | None) -> Floats:
        """Log density of the mean reading."""
        mean, airless = self._mean(state)
        sd = np.hypot(self.fixed_sd, self.relative_sd * self.millimetres)
        off = (self.millimetres - mean) / sd
        if pull is not None:
            by_log_mean = off / sd * mean
            pull.log_mass += by_log_mean.sum(axis=0)
            per_volume = by_log_mean / airless
            pull.amount += self.parts.T @ per_volume
            pull.lost_g -= self.lost.T @ per_volume
            np.add.at(pull.porosity, self.layer, by_log_mean / (1 - state.porosity[self.layer]))
            pull.log_area -= (by_log_mean * (self.surface <= 0)).sum(axis=0)
        value: Floats = -0.5 * off * off - np.log(sd)
        return value

    def expected(self, state: State) -> Foreseen:
        """The mean thickness [mm]."""
        mean, _ = self._mean(state)
        return Foreseen(mean, np.broadcast_to(np.hypot(self.fixed_sd, self.relative_sd * self.millimetres), mean.shape))

    def only(self, rows: NDArray[np.intp]) -> "ThicknessTerm":
        """With only some of its rows."""
        return only(self, rows, "millimetres", "relative_sd", "fixed_sd", "parts", "lost", "layer", "surface")


def thickness_term(problem: Problem) -> ThicknessTerm | None:
    """Thicknesses that say something: of coats where the piece's size is known, of other layers always; None without any."""
    index = {layer.id: number for number, (layer, _) in enumerate(problem.layers)}
    used = [one for one in problem.reading.thicknesses if one.millimetres and _says(problem, one, index)]
    if not used:
        return None
    volumes = np.array([airless_volume_cm3_g(part.ingredient_id, problem.pantry) for part in problem.parts])
    parts, lost = [], []
    for one in used:
        inside = [
            index[one.layer],
            *(index[layer.id] for layer, _ in problem.layers if _lies_in(layer.host, layer.place, one.layer)),
        ]
        parts.append(problem.in_layer[inside].sum(axis=0) * volumes)
        lost.append(np.isin(np.arange(len(index)), inside) / WATER_G_CM3)
    readings = [np.array(one.millimetres) for one in used]
    return ThicknessTerm(
        evidence=tuple(_evidence(problem, one, index) for one in used),
        millimetres=np.array([[values.mean()] for values in readings]),
        relative_sd=np.array(
            [[_relative_sd(problem, one, index, len(values))] for one, values in zip(used, readings, strict=True)]
        ),
        fixed_sd=np.array([[_RULER_MM / np.sqrt(len(values))] for values in readings]),
        parts=np.stack(parts),
        lost=np.stack(lost).astype(float),
        layer=np.array([index[one.layer] for one in used], dtype=np.intp),
        surface=np.array([[problem.surface_cm2 if _is_coat(problem, one, index) else 0.0] for one in used]),
    )


def _says(problem: Problem, one: ThicknessReading, index: dict[str, int]) -> bool:
    if one.layer not in index or problem.porosity_at[index[one.layer]] < 0:
        return False
    return not _is_coat(problem, one, index) or problem.surface_cm2 > 0


def _is_coat(problem: Problem, one: ThicknessReading, index: dict[str, int]) -> bool:
    return problem.layers[index[one.layer]][0].place is Place.COAT


def _lies_in(host: str | None, place: Place, layer_id: str) -> bool:
    return place is Place.INCLUSION and host == layer_id


def _relative_sd(problem: Problem, one: ThicknessReading, index: dict[str, int], count: int) -> float:
    """Of the model and of where it was measured [share]."""
    layer, family = problem.layers[index[one.layer]]
    model = _MODEL_OF_AIR if family.porosity_typical >= _POROUS_FROM else _MODEL
    spot = _ONE_SPOT if layer.place is Place.COAT and one.spot is not Spot.ANYWHERE else 0.0
    return float(np.sqrt(model**2 + _BETWEEN**2 / count + spot**2))


def _evidence(problem: Problem, one: ThicknessReading, index: dict[str, int]) -> Evidence:
    layer, _ = problem.layers[index[one.layer]]
    mean = float(np.mean(one.millimetres))
    where = "" if one.spot is Spot.ANYWHERE else f", {one.spot}"
    count = f" ({len(one.millimetres)} readings)" if len(one.millimetres) > 1 else ""
    return Evidence(
        id=f"thickness:{one.layer}:{one.spot}",
        kind=THICKNESS,
        title=f"{layer.name}, thickness{where}",
        seen=f"{mean:.1f} mm{count}",
        unit="mm",
        seen_low=min(one.millimetres),
        seen_high=max(one.millimetres),
        centre=mean,
    )
