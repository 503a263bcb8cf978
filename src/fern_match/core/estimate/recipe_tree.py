"""Shares of ingredients within layers: windows of roles, splits within a role, on and off, and gradients back.

A layer's roles are siblings, a role's ingredients are siblings, and where a chocolate is opened its own roles stand between.
Every node has a raw weight; its share is its weight over its siblings' sum, and an ingredient's share of its layer is the
product of the shares on its way up.
"""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray
from scipy.special import expit

Floats = NDArray[np.float64]
SPLIT_SD = 1.0  # how unevenly a role is split among its ingredients [log]
_EDGE = 0.06  # a typical share this near an edge of its window (as a share of the window) peaks here instead


@dataclass(slots=True)
class Node:
    """One role or ingredient on the way from layer to ingredient."""

    group: int  # its siblings share this number
    unknown: int  # index among the unknowns, -1 where it is fixed
    low: float = 1.0  # window of the raw weight; equal ends for a split
    high: float = 1.0
    centre: float = 0.0  # logit at which the window peaks
    window: bool = False


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
        """The index of a node, now in the plan.

        Args:
            node: The new one.
        """
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

    of_layer: Floats  # [particles, parts], sums to 1 within a layer
    of_siblings: Floats  # [particles, nodes]
    slope: Floats  # d log(raw weight) / d unknown [particles, nodes]


class RecipeTree:
    """The finished tree, as arrays over nodes."""

    def __init__(self, plan: TreePlan, unknowns: int) -> None:
        """Arrays from a plan.

        Args:
            plan: All nodes and paths.
            unknowns: How many unknowns there are in all.
        """
        nodes = plan.nodes
        count = len(nodes)
        self.low = np.array([node.low for node in nodes])
        self.width = np.array([node.high - node.low for node in nodes])
        self.centre = np.array([node.centre for node in nodes])
        self.window = np.array([node.window for node in nodes], dtype=bool)
        self.known = np.array([node.unknown < 0 for node in nodes], dtype=bool)
        self.unknown = np.array([max(node.unknown, 0) for node in nodes])
        self.group = np.array([node.group for node in nodes])
        self.in_group = np.zeros((count, plan.groups))
        self.in_group[np.arange(count), self.group] = 1.0
        self.above = np.zeros((len(plan.paths), count))
        for part, path in enumerate(plan.paths):
            self.above[part, list(path)] = 1.0
        self.to_unknown = np.zeros((count, unknowns))
        for index, node in enumerate(nodes):
            if node.unknown >= 0:
                self.to_unknown[index, node.unknown] = 1.0
        siblings = self.in_group.sum(axis=0)[self.group]
        self.checked = self.window & (siblings > 1)
        self.check_scale = np.maximum(self.width / 10.0 + 0.003, 0.003)

    def shares(self, unknowns: Floats, on: Floats) -> Shares:
        """Shares for all particles.

        Args:
            unknowns: [particles, unknowns].
            on: 1 where a part is present, else 0 [particles, parts].
        """
        z = np.where(self.known, 0.0, unknowns[:, self.unknown])
        rise = expit(self.centre + z)
        weight = np.where(self.window, self.low + self.width * rise, np.exp(SPLIT_SD * z))
        slope = np.where(self.window, self.width * rise * (1 - rise) / weight, SPLIT_SD)
        present = (on @ self.above) > 0
        weight = np.where(present, weight, 0.0)
        total = weight @ self.in_group
        share = weight / np.where(total > 0, total, 1.0)[:, self.group]
        log_share = np.log(np.where(present, share, 1.0))
        of_layer = np.exp(log_share @ self.above.T) * on
        return Shares(of_layer, share, slope)

    def window_penalty(self, shares: Shares) -> tuple[Floats, Floats]:
        """Log penalty of roles that leave their window after normalising, and its gradient in log share.

        Args:
            shares: As computed.
        """
        share = shares.of_siblings
        present = share > 0
        excess = np.where(self.checked & present, np.maximum(share - (self.low + self.width), 0) - np.maximum(self.low - share, 0), 0.0)
        scaled = excess / self.check_scale
        return -0.5 * np.sum(scaled**2, axis=1), -(scaled / self.check_scale) * share

    def gradient(self, shares: Shares, by_part: Floats, by_node: Floats) -> Floats:
        """The gradient in the unknowns [particles, unknowns].

        Args:
            shares: As computed.
            by_part: Gradient in each part's log share of its layer.
            by_node: Gradient in each node's log share of its siblings.
        """
        flow = by_part @ self.above + by_node
        pull = flow - shares.of_siblings * (flow @ self.in_group)[:, self.group]
        return np.where(shares.of_siblings > 0, pull * shares.slope, 0.0) @ self.to_unknown
