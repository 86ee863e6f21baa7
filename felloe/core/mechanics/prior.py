"""What is plausible of a wheel before anything is read: nipples, sides, the rim's smooth shape, and damage at a place.

Damage is sparse: most rims have none, a few have much at one place. Each hole has a narrow bump of the free rim, sideways
and in and out, under a Student prior of one degree of freedom: small ones are shrunk to nothing, a real one is let be.
Source of sparse priors with a scale for each unknown: Tipping, *Sparse Bayesian Learning* (J. Mach. Learn. Res. 1, 2001).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from felloe.core.mechanics.influence import Influence, rim_radius_mm
from felloe.core.naming import Side
from felloe.core.tension.statics import side_targets_n

Array = NDArray[np.float64]

#: Plausible spreads; from memory of ordinary repair work, not from a published source.
NIPPLE_SD_TURNS = 0.8
SIDE_SD_TURNS = 3.0
FREE_LATERAL_SD_MM = 0.7
FREE_RADIAL_SD_MM = 0.3
HIGHEST_HARMONIC = 8
#: The scale of the damage prior [mm]; what it starts from, so that real damage is found; and the bumps' width in holes.
DAMAGE_SCALE_MM = 0.03
DAMAGE_START_MM = 0.5
DAMAGE_WIDTH_HOLES = 0.5


@dataclass(frozen=True, eq=False)
class Prior:
    """Maps from the unknowns to node displacement (6n, u) and tension (n, u), tension of an ideal build (n,), and the
    unknowns' spread (u,). The last 2n unknowns are local damage, lateral then radial [mm of the free rim]."""

    displacement: Array
    tension: Array
    base_tension: Array
    sd: Array

    @property
    def first_local(self) -> int:
        """Where the unknowns of local damage begin."""
        return len(self.sd) - 2 * len(self.base_tension)


def free_shape_displacements(influence: Influence, harmonics: Sequence[int]) -> tuple[Array, Array]:
    """Node unknowns of a free rim bent by 1 mm in each harmonic: lateral (6n, 2H) and radial (6n, 2H)."""
    return _free_shape_displacements(
        tuple(influence.lacing.rim_angle_rad.tolist()), rim_radius_mm(influence.wheel), tuple(harmonics)
    )


@lru_cache(maxsize=64)
def _free_shape_displacements(angles_rad: tuple[float, ...], radius: float, harmonics: tuple[int, ...]) -> tuple[Array, Array]:
    """By geometry alone: the same for every stiffness that the rim is thought to have."""
    angles = np.array(angles_rad)
    out = np.column_stack([np.cos(angles), np.sin(angles), np.zeros_like(angles)])
    along = np.column_stack([-np.sin(angles), np.cos(angles), np.zeros_like(angles)])
    lateral, radial = [], []
    for m in harmonics:
        for value, slope, integral in (
            (np.cos(m * angles), -m * np.sin(m * angles), np.sin(m * angles) / m),
            (np.sin(m * angles), m * np.cos(m * angles), -np.cos(m * angles) / m),
        ):
            bent = np.zeros((len(angles), 6))
            bent[:, 2] = value
            bent[:, 3:6] = (slope / radius)[:, None] * out
            lateral.append(bent.ravel())
            hopping = np.zeros((len(angles), 6))
            hopping[:, 0:3] = value[:, None] * out - integral[:, None] * along
            hopping[:, 5] = (-integral - slope) / radius
            radial.append(hopping.ravel())
    return np.array(lateral).T, np.array(radial).T


def bumps(influence: Influence) -> tuple[Array, Array]:
    """Node unknowns of a free rim with a bump of about 1 mm at each hole: lateral (6n, n) and radial (6n, n).

    A Gaussian made of harmonics 2 and up: a shift of the whole rim is no damage.
    """
    return _bumps(tuple(influence.lacing.rim_angle_rad.tolist()), rim_radius_mm(influence.wheel))


def _bumps(angles_rad: tuple[float, ...], radius: float) -> tuple[Array, Array]:
    angles, count = np.array(angles_rad), len(angles_rad)
    harmonics = tuple(range(2, count // 2 + 1))
    lateral, radial = _free_shape_displacements(angles_rad, radius, harmonics)
    half = 2 * np.pi / count * DAMAGE_WIDTH_HOLES
    waves = []
    for m in harmonics:
        size = np.sqrt(2 / np.pi) * half * np.exp(-((m * half) ** 2) / 2)
        waves += [size * np.cos(m * angles), size * np.sin(m * angles)]
    mix = np.array(waves)
    return lateral @ mix, radial @ mix


def free_shapes(influence: Influence) -> Array:
    """Node unknowns of a free rim bent by each unknown of its shape, smooth and local, (6n, s)."""
    return _free_shapes(tuple(influence.lacing.rim_angle_rad.tolist()), rim_radius_mm(influence.wheel))


@lru_cache(maxsize=32)
def _free_shapes(angles_rad: tuple[float, ...], radius: float) -> Array:
    smooth = _free_shape_displacements(angles_rad, radius, tuple(_harmonics(len(angles_rad))))
    return np.hstack([*smooth, *_bumps(angles_rad, radius)])


def _harmonics(count: int) -> range:
    return range(2, min(HIGHEST_HARMONIC, count // 3) + 1)


@lru_cache(maxsize=32)
def prior_of(influence: Influence) -> Prior:
    """The prior of one wheel; kept with its influence."""
    wheel = influence.wheel
    count = wheel.spoke_count
    harmonics = _harmonics(count)
    free = np.asarray(influence.response_to(influence.ring @ free_shapes(influence)))
    sides = np.array([[name.side is Side.RIGHT, name.side is Side.LEFT] for name in wheel.names], dtype=float)
    turns = np.hstack([np.eye(count), sides])
    free_sd = np.repeat([(2 / m) ** 2 for m in harmonics], 2)
    targets = side_targets_n(wheel)
    return Prior(
        displacement=np.hstack([influence.displacement @ turns, free]),
        tension=np.hstack([influence.tension_n @ turns, influence.tension_change(free)]),
        base_tension=np.array([targets[name.side] for name in wheel.names]),
        sd=np.concatenate(
            [
                np.full(count, NIPPLE_SD_TURNS),
                [SIDE_SD_TURNS] * 2,
                FREE_LATERAL_SD_MM * free_sd,
                FREE_RADIAL_SD_MM * free_sd,
                np.full(2 * count, DAMAGE_START_MM),
            ]
        ),
    )
