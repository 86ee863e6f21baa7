"""The ratio of left to right tension that holds the rim where it is."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from felloe.core.components import Wheel
from felloe.core.lacing.pattern import lace
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side


@dataclass(frozen=True)
class SideRatio:
    """Left mean over right mean: what statics asks, what is measured, and the difference in percent."""

    expected: float
    measured: float

    @property
    def difference_percent(self) -> float:
        return 100 * (self.measured / self.expected - 1)

    @property
    def warns(self) -> bool:
        """More than 10 % apart (common practice, no source): wrong dish, wrong geometry or a wrong reading."""
        return abs(self.difference_percent) > 10


@lru_cache(maxsize=64)
def expected_left_over_right(wheel: Wheel) -> float:
    """T_L/T_R from lateral balance, Σ_R T·w/L = Σ_L T·w/L. Source: static equilibrium."""
    sideways = np.abs(lace(wheel).toward_hub[:, 2])
    right = float(sideways[wheel.on_side(Side.RIGHT)].sum())
    return right / float(sideways[wheel.on_side(Side.LEFT)].sum())


def side_targets_n(wheel: Wheel) -> dict[Side, float]:
    """Target mean of each side: the rim's target on the tight side, the other by statics."""
    ratio = expected_left_over_right(wheel)
    target = wheel.rim.tension_target_n
    if ratio <= 1:
        return {Side.RIGHT: target, Side.LEFT: target * ratio}
    return {Side.RIGHT: target / ratio, Side.LEFT: target}


def tight_side(wheel: Wheel) -> Side:
    """The side that statics makes the tighter one; the right where they are equal."""
    return Side.RIGHT if expected_left_over_right(wheel) <= 1 + 1e-9 else Side.LEFT


def measured_means_n(wheel: Wheel, readings: Readings) -> dict[Side, float] | None:
    """Mean of the tensions as read, per side [N]; None where a side has none.

    The estimated state always obeys the geometry that was entered, so only raw readings can contradict it.
    """
    means = {}
    for side in Side:
        values = [r.tension_n for r in readings.tension if r.spoke.startswith(side.value)]
        if not values:
            return None
        means[side] = float(np.mean(values))
    return means


def side_ratio(wheel: Wheel, mean_right_n: float, mean_left_n: float) -> SideRatio:
    """Expected against measured ratio of the sides' mean tensions."""
    measured = mean_left_n / mean_right_n if mean_right_n > 0 else float("inf")
    return SideRatio(expected=expected_left_over_right(wheel), measured=measured)
