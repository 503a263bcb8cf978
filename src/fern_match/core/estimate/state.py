"""What one set of unknowns says about the piece, for all particles at once, and the way gradients go back."""

from dataclasses import dataclass

import numpy as np

from fern_match.core.estimate.problem import Problem
from fern_match.core.estimate.recipe_tree import FAR, Floats, Shares, peak_logit

_LEAST_AIR = 0.01  # how far the air of a dense layer may differ from none
MASS_SD = 0.3  # prior of the mean piece's mass [log]; net weight and weighings are evidence
KNIFE_SCALE = 0.008  # usual share of a sticky layer that stays on the knife


@dataclass(frozen=True, slots=True)
class State:
    """Amounts of all particles. Per 100 g of finished piece, but for the mass."""

    shares: Shares
    layer_share: Floats  # [layers, particles], sums to 1
    lost: Floats  # g of water lost per g as added [layers, particles]
    lost_slope: Floats  # d lost / d unknown
    amount: Floats  # g as added per 100 g finished [parts, particles]
    lost_g: Floats  # g of water lost per 100 g finished [layers, particles]
    moisture: Floats  # of the finished layer [layers, particles]
    mass_g: Floats  # mean piece [particles]
    knife: Floats  # share left on the knife [particles]
    knife_slope: Floats
    porosity: Floats  # volume share of air [layers, particles]
    porosity_slope: Floats  # d porosity / d unknown
    log_area: Floats  # of the footprint [cm2; particles]


@dataclass(slots=True)
class Pull:
    """Gradients collected from the evidence."""

    amount: Floats  # in g as added per 100 g [parts, particles]
    lost_g: Floats  # in g lost per 100 g [layers, particles]
    log_share: Floats  # in the log of a layer's share, beyond what amounts carry [layers, particles]
    moisture: Floats  # [layers, particles]
    log_mass: Floats  # [particles]
    knife: Floats  # [particles]
    porosity: Floats  # [layers, particles]
    log_area: Floats  # [particles]


def state_of(problem: Problem, unknowns: Floats) -> State:
    """The amounts that unknowns stand for.

    Args:
        unknowns: [unknowns, particles].
    """
    layers = len(problem.layers)
    shares = problem.tree.shares(unknowns)
    weight = problem.usual_log_share + problem.share_root @ unknowns[problem.share_at : problem.share_at + layers]
    layer_share = np.exp(weight - weight.max(axis=0))
    layer_share /= layer_share.sum(axis=0)
    lost, slope = np.zeros_like(layer_share), np.zeros_like(layer_share)
    heated = [layer for layer, at in enumerate(problem.lost_at) if at >= 0]
    if heated:
        z = np.clip(unknowns[[problem.lost_at[layer] for layer in heated]], -FAR, FAR)
        rise = 1.0 / (1.0 + np.exp(-(problem.lost_centre[heated] + z)))
        lost[heated] = problem.lost_most[heated] * rise
        slope[heated] = lost[heated] * (1 - rise)
    kept = 1 - lost
    finished = 100 * layer_share / kept
    porosity, porosity_slope = _air(problem, unknowns)
    area_z = np.clip(unknowns[problem.area_at], -FAR, FAR) if problem.area_at >= 0 else np.zeros(unknowns.shape[1])
    knife_z = unknowns[problem.knife_at] if problem.knife_at >= 0 else np.zeros(unknowns.shape[1])
    return State(
        shares=shares,
        layer_share=layer_share,
        lost=lost,
        lost_slope=slope,
        amount=shares.of_layer * finished[problem.layer_of_part],
        lost_g=finished * lost,
        moisture=((problem.in_layer * problem.water.T) @ shares.of_layer - lost) / kept,
        mass_g=problem.mass_centre_g * np.exp(MASS_SD * np.clip(unknowns[problem.mass_at], -20, 20)),
        knife=KNIFE_SCALE * np.abs(knife_z),
        knife_slope=KNIFE_SCALE * np.sign(knife_z),
        porosity=porosity,
        porosity_slope=porosity_slope,
        log_area=problem.area_centre + problem.area_sd * area_z,
    )


def _air(problem: Problem, unknowns: Floats) -> tuple[Floats, Floats]:
    """Porosity of each layer and its slope; the family's usual where no thickness was measured."""
    low, typical, high = (column[:, None] for column in problem.porosity.T)
    porosity = np.repeat(typical, unknowns.shape[1], axis=1)
    slope = np.zeros_like(porosity)
    for layer, at in enumerate(problem.porosity_at):
        if at >= 0:
            width = max(float(high[layer, 0] - low[layer, 0]), _LEAST_AIR)
            centre = peak_logit(float(low[layer, 0]), float(typical[layer, 0]), float(low[layer, 0]) + width)
            rise = 1.0 / (1.0 + np.exp(-(centre + np.clip(unknowns[at], -FAR, FAR))))
            porosity[layer] = low[layer] + width * rise
            slope[layer] = width * rise * (1 - rise)
    return porosity, slope


def no_pull(problem: Problem, particles: int) -> Pull:
    """A pull of nothing, to add to.

    Args:
        particles: How many.
    """
    parts, layers = len(problem.parts), len(problem.layers)
    return Pull(
        np.zeros((parts, particles)),
        np.zeros((layers, particles)),
        np.zeros((layers, particles)),
        np.zeros((layers, particles)),
        np.zeros(particles),
        np.zeros(particles),
        np.zeros((layers, particles)),
        np.zeros(particles),
    )


def gradient(problem: Problem, state: State, pull: Pull, by_role: Floats) -> Floats:
    """The evidence's gradient in the unknowns [unknowns, particles].

    Args:
        pull: What the evidence asks for.
        by_role: What the role windows ask for, in each role's log share.
    """
    layers = len(problem.layers)
    kept = 1 - state.lost
    by_log_amount = pull.amount * state.amount
    per_layer = problem.in_layer @ by_log_amount
    by_water = (pull.moisture / kept)[problem.layer_of_part] * problem.water * state.shares.of_layer
    result = problem.tree.gradient(state.shares, by_log_amount + by_water, by_role)
    by_share = per_layer + pull.lost_g * state.lost_g + pull.log_share
    by_weight = by_share - state.layer_share * by_share.sum(axis=0)
    result[problem.share_at : problem.share_at + layers] += problem.share_root.T @ by_weight
    by_lost = per_layer / kept + pull.lost_g * 100 * state.layer_share / kept**2 + pull.moisture * (state.moisture - 1) / kept
    for layer, at in enumerate(problem.lost_at):
        if at >= 0:
            result[at] += by_lost[layer] * state.lost_slope[layer]
    result[problem.mass_at] += MASS_SD * pull.log_mass
    if problem.knife_at >= 0:
        result[problem.knife_at] += pull.knife * state.knife_slope
    for layer, at in enumerate(problem.porosity_at):
        if at >= 0:
            result[at] += pull.porosity[layer] * state.porosity_slope[layer]
    if problem.area_at >= 0:
        result[problem.area_at] += problem.area_sd * pull.log_area
    return result
