"""Ordinary and extraordinary faults for virtual wheels, drawn from a seeded generator."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.random import Generator

from felloe.core.components import Wheel
from felloe.core.practice.virtual_wheel import VirtualWheel


def with_own_stiffness(wheel: Wheel, rng: Generator, spread: float = 0.25) -> Wheel:
    """The same wheel with a rim whose stiffnesses are drawn within ±`spread`: no planner knows them."""
    factors = rng.uniform(1 - spread, 1 + spread, 4)
    rim = wheel.rim
    return replace(
        wheel,
        rim=replace(
            rim,
            ei_lat_nm2=rim.ei_lat_nm2 * factors[0],
            ei_rad_nm2=rim.ei_rad_nm2 * factors[1],
            gj_nm2=rim.gj_nm2 * factors[2],
            ea_n=rim.ea_n * factors[3],
        ),
    )


def used_wheel(
    wheel: Wheel, rng: Generator, nipple_sd_turns: float = 0.3, slack_turns: float = 0.0, dish_turns: float = 0.0
) -> VirtualWheel:
    """A wheel after some years: an imperfect rim, nipples that wandered, a common loss of tension, a dish error."""
    count = wheel.spoke_count
    lateral = {m: complex(*rng.normal(0, 0.12 * (2 / m) ** 2, 2)) for m in range(2, 9)}
    radial = {m: complex(*rng.normal(0, 0.05 * (2 / m) ** 2, 2)) for m in range(2, 9)}
    turns = rng.normal(0, nipple_sd_turns, count) - slack_turns
    turns += dish_turns * np.array([name.side.sign for name in wheel.names])
    return VirtualWheel.ideal(with_own_stiffness(wheel, rng)).bent(lateral, radial).turned(turns)
