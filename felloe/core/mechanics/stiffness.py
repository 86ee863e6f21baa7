"""How a wheel's answer changes with the stiffness of its rim: derivatives by the logarithms of its three stiffnesses."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.lacing.pattern import lace
from felloe.core.mechanics.influence import Influence, rim_radius_mm
from felloe.core.mechanics.ring import RingSection, ring_stiffness

Array = NDArray[np.float64]


@lru_cache(maxsize=32)
def _rim_parts(wheel: Wheel) -> Array:
    """The rim's stiffness by EI sideways, EI in plane and GJ alone, (3, 6n, 6n)."""
    section = RingSection.of(wheel.rim)
    angles, radius = lace(wheel).rim_angle_rad, rim_radius_mm(wheel)
    parts = (
        RingSection(0, section.ei_lat_nmm2, 0, 0),
        RingSection(0, 0, section.ei_rad_nmm2, 0),
        RingSection(0, 0, 0, section.gj_nmm2),
    )
    return np.array([ring_stiffness(part, angles, radius) for part in parts])


def stiffness_slopes(influence: Influence, shapes: Array, moved: Array) -> tuple[Array, Array]:
    """Change of `moved` (6n, c), the node unknowns under loads that do not change or under free `shapes` (6n, c) of the rim,
    per unit of the logarithm of EI sideways, EI in plane and GJ: (3, 6n, c), and of the tensions (3, n, c)."""
    displacement = np.array([influence.response_to(part @ (shapes - moved)) for part in _rim_parts(influence.wheel)])
    return displacement, np.array([influence.tension_change(part) for part in displacement])
