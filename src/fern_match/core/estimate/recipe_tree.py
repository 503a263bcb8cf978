"""Shares of ingredients within layers: windows of roles, splits within a role, and gradients back.

A layer's roles are siblings, a role's ingredients are siblings, and where a chocolate is opened its own roles stand between.
Every node has a raw weight; its share is its weight over its siblings' sum, and an ingredient's share of its layer is the
product of the shares on its way up. A node without siblings has the share 1 and is left out. Whether an ingredient is there
at all is a matter of share: splits are wide, so that one of two ways takes nearly everything, and odds shift them. Arrays are
[rows, particles].
"""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
_EDGE = 0.08  # a typical share this near an edge of its window (as a share of the window) peaks here instead
_REACH_UP, _REACH = 1.2, 0.6  # makers leave our working windows, upwards sooner than downwards: reach so many widths beyond ...
_SOFT_UP, _SOFT = 0.4, 0.22  # ... where leaving becomes unlikely at this rate, in widths
_STRONG_BELOW = 0.08  # roles that never exceed this share work by strength (gels, foams, salt): their windows are firmer
_STRONG_FIRMNESS = 0.6
_LEAST_SOFT = 0.004
_LEAST = 0.002  # of what its window allows, the least a role can be: it is absent then
_ABSENT_SD = 2.0  # of the logit of a role that may be absent
_SPLIT_SD = 1.8  # of the log weight of an ingredient beside others of its role
FAR = 30.0  # where an unknown stops mattering


@dataclass(frozen=True, slots=True, kw_only=True)
class Node:
    """One role or ingredient on the way from layer to ingredient, with siblings."""

    group: int  # its siblings share this number
    unknown: int
    least: float = 0.0  # the family's window, for a role
    typical: float = 0.0
    most: float = 0.0
    is_role: bool = False
    odds: float = 0.0  # log odds: of a role that may be absent, of an ingredient beside the others of its role
    strength: float = 0.0  # log of how much of an ingredient does the work of the usual one
    sd: float = 0.0  # of an ingredient's log weight; 0 stands for the usual


@dataclass(slots=True)
class TreePlan:
    """The tree while it is being built, node by node."""

    nodes: list[Node] = field(default_factory=list)
    paths: list[tuple[int, ...]] = field(default_factory=list)  # per part, its nodes from the layer down
    groups: int = 0

    def new_group(self) -> int:
        """A number for a fresh set of siblings."""
        self.groups += 1
        return self.groups - 1

    def add(self, node: Node) -> int:
        """The index of a node, now in the plan."""
        self.nodes.append(node)
        return len(self.nodes) - 1


def peak_logit(low: float, typical: float, high: float) -> float:
    """Where a window peaks, as a logit of its width; the middle when the typical share is 0 (absent unless named).

    Args:
        low: Least share [g/g].
        typical: Usual share [g/g].
        high: Most [g/g].
    """
    if high <= low:
        return 0.0
    at = 0.5 if typical <= 0 else (typical - low) / (high - low)
    at = min(max(at, _EDGE), 1 - _EDGE)
    return float(np.log(at / (1 - at)))


@dataclass(frozen=True, slots=True)
class Shares:
    """Shares of every part in its layer, for all particles, with what the gradient needs."""

    of_layer: Floats  # [parts, particles], sums to 1 within a layer
    of_siblings: Floats  # [nodes + 1, particles]; the last row is 1
    slope: Floats  # d log(raw weight) / d unknown [nodes, particles]


class RecipeTree:
    """The finished tree, as arrays over nodes: roles first, then ingredients."""

    def __init__(self, plan: TreePlan, unknowns: int) -> None:
        """Arrays from a plan.

        Args:
            unknowns: How many unknowns there are in all.
        """
        order = sorted(range(len(plan.nodes)), key=lambda index: not plan.nodes[index].is_role)
        nodes = [plan.nodes[index] for index in order]
        count = len(nodes)
        self.roles = sum(node.is_role for node in nodes)
        self._set_windows(nodes[: self.roles])
        self.offset = np.array([[node.odds + node.strength] for node in nodes[self.roles :]]).reshape(-1, 1)
        self.split_sd = np.array([[node.sd or _SPLIT_SD] for node in nodes[self.roles :]]).reshape(-1, 1)
        self.unknown = np.array([node.unknown for node in nodes], dtype=np.intp)
        self.group = np.array([node.group for node in nodes], dtype=np.intp)
        self.in_group = np.zeros((plan.groups, count))
        self.in_group[self.group, np.arange(count)] = 1.0
        new_index = {old: new for new, old in enumerate(order)}
        self.above = np.zeros((len(plan.paths), count))
        self.path = np.full((3, len(plan.paths)), count, dtype=np.intp)
        for part, path in enumerate(plan.paths):
            for depth, old in enumerate(path):
                self.above[part, new_index[old]] = 1.0
                self.path[depth, part] = new_index[old]
        self.to_unknown = np.zeros((unknowns, count))
        self.to_unknown[self.unknown, np.arange(count)] = 1.0

    def _set_windows(self, roles: list[Node]) -> None:
        self.least = np.array([node.least for node in roles])[:, None]
        self.most = np.array([node.most for node in roles])[:, None]
        width = self.most - self.least
        firmness = np.where(self.most < _STRONG_BELOW, _STRONG_FIRMNESS, 1.0)
        self.reach_low = np.maximum(self.least - _REACH * firmness * width, _LEAST * self.most)
        self.reach_width = np.minimum(self.most + _REACH_UP * firmness * width, 1.0) - self.reach_low
        peaks = [
            peak_logit(low, node.typical if node.typical > 0 else (node.least + node.most) / 2, low + reach)
            for node, low, reach in zip(roles, self.reach_low[:, 0], self.reach_width[:, 0], strict=True)
        ]
        may_lack = self.least[:, 0] <= 0
        odds = np.array([min(0.0, node.odds) for node in roles])
        self.centre = (np.array(peaks) + np.where(may_lack, odds, 0.0))[:, None]
        self.role_sd = np.where(may_lack, _ABSENT_SD, 1.0)[:, None]
        self.soft_up = np.maximum(_SOFT_UP * firmness * width, _LEAST_SOFT * firmness)
        self.soft = np.maximum(_SOFT * firmness * width, _LEAST_SOFT * firmness)

    def shares(self, unknowns: Floats) -> Shares:
        """Shares for all particles.

        Args:
            unknowns: [unknowns, particles].
        """
        z = np.clip(unknowns[self.unknown], -FAR, FAR)
        weight = np.empty_like(z)
        slope = np.ones_like(z)
        rise = 1.0 / (1.0 + np.exp(-(self.centre + self.role_sd * z[: self.roles])))
        weight[: self.roles] = self.reach_low + self.reach_width * rise
        slope[: self.roles] = self.role_sd * self.reach_width * rise * (1 - rise) / weight[: self.roles]
        np.exp(self.split_sd * z[self.roles :] + self.offset, out=weight[self.roles :])
        slope[self.roles :] = self.split_sd
        total = self.in_group @ weight
        share = np.ones((len(z) + 1, z.shape[1]))
        np.divide(weight, total[self.group], out=share[:-1])
        of_layer = share[self.path[0]] * share[self.path[1]]
        of_layer *= share[self.path[2]]
        return Shares(of_layer, share, slope)

    def window_penalty(self, shares: Shares) -> tuple[Floats, Floats]:
        """Log penalty of roles that leave their window after normalising, and its gradient in log share [roles, particles]."""
        share = shares.of_siblings[: self.roles]
        soft = np.where(share > self.most, self.soft_up, self.soft)
        scaled = (np.maximum(share - self.most, 0) - np.maximum(self.least - share, 0)) / soft
        return -0.5 * np.sum(scaled * scaled, axis=0), -(scaled / soft) * share

    def gradient(self, shares: Shares, by_part: Floats, by_role: Floats) -> Floats:
        """The gradient in the unknowns [unknowns, particles].

        Args:
            by_part: Gradient in each part's log share of its layer.
            by_role: Gradient in each role's log share of its siblings.
        """
        flow = self.above.T @ by_part
        flow[: self.roles] += by_role
        flow -= shares.of_siblings[:-1] * (self.in_group @ flow)[self.group]
        flow *= shares.slope
        return np.asarray(self.to_unknown @ flow)
