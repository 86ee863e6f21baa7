"""The rim as a closed ring of straight 3D Euler-Bernoulli beam elements.

Nodes lie on a circle of radius R about the z axis; each has six unknowns in global axes: displacements x, y, z [mm]
and rotations about x, y, z [rad]. Stiffness in N/mm, N and N·mm.
"""

from __future__ import annotations

from dataclasses import astuple, dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Rim

Array = NDArray[np.float64]
NM2_TO_NMM2 = 1e6


@dataclass(frozen=True)
class RingSection:
    """Section stiffnesses: EA [N], EI out of and in the wheel's plane [N·mm²], GJ [N·mm²]."""

    ea_n: float
    ei_lat_nmm2: float
    ei_rad_nmm2: float
    gj_nmm2: float

    @classmethod
    def of(cls, rim: Rim) -> RingSection:
        return cls(rim.ea_n, rim.ei_lat_nm2 * NM2_TO_NMM2, rim.ei_rad_nm2 * NM2_TO_NMM2, rim.gj_nm2 * NM2_TO_NMM2)


def local_element_stiffness(section: RingSection, length_mm: float) -> Array:
    """12×12 stiffness of one element: local x along it, y in the wheel's plane, z lateral."""
    l1, l2, l3 = length_mm, length_mm**2, length_mm**3
    k = np.zeros((12, 12))

    def pair(i: int, j: int, value: float) -> None:
        k[i, i] += value
        k[j, j] += value
        k[i, j] -= value
        k[j, i] -= value

    pair(0, 6, section.ea_n / l1)
    pair(3, 9, section.gj_nmm2 / l1)

    def bend(u1: int, r1: int, u2: int, r2: int, ei: float, sense: int) -> None:
        block = ei * np.array(
            [
                [12 / l3, sense * 6 / l2, -12 / l3, sense * 6 / l2],
                [sense * 6 / l2, 4 / l1, -sense * 6 / l2, 2 / l1],
                [-12 / l3, -sense * 6 / l2, 12 / l3, -sense * 6 / l2],
                [sense * 6 / l2, 2 / l1, -sense * 6 / l2, 4 / l1],
            ]
        )
        where = np.ix_([u1, r1, u2, r2], [u1, r1, u2, r2])
        k[where] += block

    bend(1, 5, 7, 11, section.ei_rad_nmm2, 1)
    bend(2, 4, 8, 10, section.ei_lat_nmm2, -1)
    return k


def local_element_geometric_stiffness(length_mm: float) -> Array:
    """12×12 geometric stiffness of one element for unit axial tension [1/mm]; consistent form, both planes."""
    length = length_mm
    k = np.zeros((12, 12))

    def bend(u1: int, r1: int, u2: int, r2: int, sense: int) -> None:
        block = np.array(
            [
                [6 / (5 * length), sense / 10, -6 / (5 * length), sense / 10],
                [sense / 10, 2 * length / 15, -sense / 10, -length / 30],
                [-6 / (5 * length), -sense / 10, 6 / (5 * length), -sense / 10],
                [sense / 10, -length / 30, -sense / 10, 2 * length / 15],
            ]
        )
        k[np.ix_([u1, r1, u2, r2], [u1, r1, u2, r2])] += block

    bend(1, 5, 7, 11, 1)
    bend(2, 4, 8, 10, -1)
    return k


def element_rotations(angles_rad: Array, radius_mm: float) -> tuple[Array, Array]:
    """Local axes of the elements from node i to i+1: (n, 3, 3) with rows x, y, z, and their lengths (n,) [mm]."""
    points = radius_mm * np.column_stack([np.cos(angles_rad), np.sin(angles_rad), np.zeros_like(angles_rad)])
    along = np.roll(points, -1, axis=0) - points
    lengths = np.linalg.norm(along, axis=1)
    x = along / lengths[:, None]
    z = np.tile([0.0, 0.0, 1.0], (len(points), 1))
    y = np.cross(z, x)
    return np.stack([x, y, z], axis=1), lengths


@lru_cache(maxsize=32)
def _of_geometry(angles_rad: bytes, radius_mm: float) -> tuple[Array, Array]:
    """The elements in global axes by each of the section's stiffnesses alone, (4, n, 12, 12), and what each newton of axial
    force adds, (n, 12, 12): the same for every stiffness that a rim is thought to have."""
    rotations, lengths = element_rotations(np.frombuffer(angles_rad), radius_mm)
    kinds, of_kind = np.unique(np.round(lengths, 9), return_inverse=True)
    units = [RingSection(*unit) for unit in np.eye(4)]
    local = np.array(
        [[local_element_stiffness(unit, float(length)) for length in kinds] for unit in units]
        + [[local_element_geometric_stiffness(float(length)) for length in kinds]]
    )
    turn = np.zeros((len(rotations), 12, 12))
    for block in range(0, 12, 3):
        turn[:, block : block + 3, block : block + 3] = rotations
    elements = np.swapaxes(turn, 1, 2) @ local[:, of_kind] @ turn
    return elements[:4], elements[4]


def ring_stiffness(section: RingSection, angles_rad: Array, radius_mm: float) -> Array:
    """Elastic stiffness of the closed ring, (6n, 6n), for nodes at `angles_rad` in rising order."""
    return assembled(ring_elements(section, angles_rad, radius_mm)[0])


def ring_elements(section: RingSection, angles_rad: Array, radius_mm: float) -> tuple[Array, Array]:
    """The ring's elements in global axes, (n, 12, 12) each: elastic, and what each newton of axial force adds [1/mm]."""
    by_stiffness, geometric = _of_geometry(angles_rad.tobytes(), radius_mm)
    return np.asarray(np.tensordot(astuple(section), by_stiffness, 1)), geometric


def assembled(elements: Array) -> Array:
    """Elements (n, 12, 12) from each node to the next put together to a closed ring, (6n, 6n)."""
    count = len(elements)
    first = np.arange(count)
    second = (first + 1) % count
    # Node, unknown, node, unknown: as the whole matrix lies in memory. Each place is met once but the node's own.
    whole = np.zeros((count, 6, count, 6))
    whole[first, :, first, :] = elements[:, :6, :6] + np.roll(elements[:, 6:, 6:], 1, axis=0)
    whole[first, :, second, :] += elements[:, :6, 6:]
    whole[second, :, first, :] += elements[:, 6:, :6]
    return whole.reshape(6 * count, 6 * count)
