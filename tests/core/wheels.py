"""Wheels that tests share: the generic kinds, which are invented, by short names."""

from __future__ import annotations

import numpy as np

from felloe.core.components import Wheel
from felloe.core.mechanics.influence import Influence, influence_of
from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.wheel_kinds import WHEEL_KINDS

REAR = WHEEL_KINDS["rim-brake-rear-36"].wheel
SYMMETRIC = WHEEL_KINDS["rim-brake-front-32"].wheel
DISC_FRONT = WHEEL_KINDS["disc-front-28"].wheel
ALL = {key: kind.wheel for key, kind in WHEEL_KINDS.items()}

_made: dict[Wheel, Influence] = {}


def influence(wheel: Wheel) -> Influence:
    """The influence of a wheel, made once per test run."""
    if wheel not in _made:
        _made[wheel] = influence_of(wheel)
    return _made[wheel]


def read_fully(virtual: VirtualWheel, rng: np.random.Generator, tension_sd: float = 25.0, dial_sd: float = 0.02) -> Readings:
    """Every spoke and every hole of a virtual wheel, with noise."""
    wheel = virtual.wheel
    names = [str(name) for name in wheel.names]
    angles = np.array(wheel.angles_deg)
    tension = np.maximum(0, virtual.tension_n + rng.normal(0, tension_sd, len(names)))
    lateral = virtual.lateral_mm(angles) + rng.normal(0, dial_sd, len(names)) + 3.0
    radial = virtual.radial_mm(angles) + rng.normal(0, dial_sd, len(names)) - 1.0
    return Readings(
        tension=[TensionReading(n, float(t), tension_sd or 1.0) for n, t in zip(names, tension, strict=True)],
        lateral=[RunoutReading(float(a), float(v), 0.03) for a, v in zip(angles, lateral, strict=True)],
        radial=[RunoutReading(float(a), float(v), 0.03) for a, v in zip(angles, radial, strict=True)],
        dish=[DishReading(virtual.dish_mm + float(rng.normal(0, 0.05)))],
    )
