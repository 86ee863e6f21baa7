"""The rim between its nodes: how far it stands out at any angle, from the unknowns of the two nodes beside it.

Cubic Hermite shape functions across the beam, linear along it: what the elements themselves assume.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from felloe.core.mechanics.ring import element_rotations

Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Between:
    """k angles on a ring of n nodes: the nodes before and behind each (k, 2), and what each of their unknowns counts in the
    lateral and in the radial movement there, (k, 12) each."""

    count: int
    nodes: NDArray[np.intp]
    lateral: Array
    radial: Array

    def lateral_of(self, node_map: Array) -> Array:
        """Lateral movement (k, u) where the node unknowns move by `node_map` (6n, u)."""
        return self._of(self.lateral, node_map)

    def radial_of(self, node_map: Array) -> Array:
        """Radial movement (k, u) where the node unknowns move by `node_map` (6n, u)."""
        return self._of(self.radial, node_map)

    def _of(self, weights: Array, node_map: Array) -> Array:
        unknowns = node_map.shape[1]
        beside = node_map.reshape(self.count, 6, unknowns)[self.nodes].reshape(len(weights), 12, unknowns)
        return np.asarray((weights[:, None, :] @ beside)[:, 0])

    def whole(self) -> tuple[Array, Array]:
        """Rows that read lateral and radial movement from all node unknowns, each (k, 6n)."""
        found = []
        for weights in (self.lateral, self.radial):
            rows = np.zeros((len(weights), self.count, 6))
            for beside in range(2):
                rows[np.arange(len(weights)), self.nodes[:, beside]] += weights[:, 6 * beside : 6 * beside + 6]
            found.append(rows.reshape(len(weights), 6 * self.count))
        return found[0], found[1]


def between(nodes_rad: Array, radius_mm: float, angles_deg: Array) -> Between:
    """The rim of radius `radius_mm` with nodes at `nodes_rad` (n,), in rising order, at `angles_deg` (k,)."""
    return _between(nodes_rad.tobytes(), radius_mm, np.asarray(angles_deg, dtype=np.float64).tobytes())


@lru_cache(maxsize=64)
def _between(nodes_rad: bytes, radius_mm: float, angles_deg: bytes) -> Between:
    nodes = np.frombuffer(nodes_rad)
    angles = np.mod(np.radians(np.frombuffer(angles_deg)), 2 * np.pi)
    rotations, lengths = element_rotations(nodes, radius_mm)
    first = (np.searchsorted(nodes, angles, side="right") - 1) % len(nodes)
    second = (first + 1) % len(nodes)
    gap = np.mod(nodes[second] - nodes[first], 2 * np.pi)
    s = np.mod(angles - nodes[first], 2 * np.pi) / gap
    length, axes = lengths[first], rotations[first]
    out = np.column_stack([np.cos(angles), np.sin(angles), np.zeros_like(angles)])
    out_along = np.einsum("ai,ai->a", out, axes[:, 0])
    out_across = np.einsum("ai,ai->a", out, axes[:, 1])
    shapes = (1 - 3 * s**2 + 2 * s**3, length * (s - 2 * s**2 + s**3)), (3 * s**2 - 2 * s**3, length * (s**3 - s**2))
    lateral, radial = [], []
    for linear, (shape, slope) in zip((1 - s, s), shapes, strict=True):
        lateral += [shape[:, None] * axes[:, 2], -slope[:, None] * axes[:, 1]]
        radial += [
            (linear * out_along)[:, None] * axes[:, 0] + (shape * out_across)[:, None] * axes[:, 1],
            (slope * out_across)[:, None] * axes[:, 2],
        ]
    return Between(len(nodes), np.column_stack([first, second]), np.hstack(lateral), np.hstack(radial))
