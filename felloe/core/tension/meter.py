"""From a meter's reading to a force: by its table for that spoke, inside the table only."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np

from felloe.core.errors import BadTable, OutsideCalibration
from felloe.core.said import say

if TYPE_CHECKING:
    from scipy.interpolate import PchipInterpolator

#: The smallest step that most meters show, in their own units. Common practice, no source.
USUAL_RESOLUTION = 0.5


def interpolator() -> type[PchipInterpolator]:
    """Loaded by whoever reads a table: a plan from a record, which holds forces, need not wait for it a third of a second."""
    from scipy.interpolate import PchipInterpolator

    return PchipInterpolator


@dataclass(frozen=True)
class Tension:
    """A tension [N] with its standard deviation [N]."""

    tension_n: float
    sd_n: float


@dataclass(frozen=True)
class MeterTable:
    """Readings against forces for one kind of spoke, as its maker or the shop's calibration gives them.

    `readings` rise strictly and `forces_n` rise or fall strictly with them. `resolution` is the smallest step that a
    person reads, half a unit at best (common practice, no source). `residual_n` is the calibration's own scatter.
    """

    spoke_kind: str
    readings: tuple[float, ...]
    forces_n: tuple[float, ...]
    resolution: float = USUAL_RESOLUTION
    residual_n: float = 20.0

    def __post_init__(self) -> None:
        if len(self.readings) != len(self.forces_n):
            raise BadTable(
                say(
                    "{readings_count} readings stand against {forces_n_count} forces",
                    readings_count=len(self.readings),
                    forces_n_count=len(self.forces_n),
                ),
                "forces_n",
            )
        if len(self.readings) < 3:
            raise BadTable(
                say("a table needs at least 3 points; found {readings_count}", readings_count=len(self.readings)), "readings"
            )
        if not np.all(np.isfinite(self.readings)) or np.any(np.diff(self.readings) <= 0):
            raise BadTable(say("readings must rise from row to row"), "readings")
        steps = np.diff(self.forces_n)
        if not np.all(np.isfinite(self.forces_n)) or not (np.all(steps > 0) or np.all(steps < 0)):
            raise BadTable(say("forces must rise (or fall) steadily with the readings"), "forces_n")
        if min(self.forces_n) < 0 or max(self.forces_n) > 5000:
            raise BadTable(say("forces must lie between 0 and 5000 N"), "forces_n")
        if not (0 < self.resolution < math.inf and 0 <= self.residual_n < math.inf):
            raise BadTable(say("resolution must be above 0 and the residual not below 0"), "resolution")

    @cached_property
    def _curve(self) -> PchipInterpolator:
        return interpolator()(self.readings, self.forces_n, extrapolate=False)

    def tension(self, reading: float) -> Tension:
        """The force for `reading` by monotone interpolation (Fritsch & Carlson, SIAM J. Numer. Anal. 17, 1980).

        The standard deviation joins half a resolution step through the slope (taken as a uniform error, so divided
        by √3) with the calibration's residual. Raises OutsideCalibration beyond the table.
        """
        low, high = self.readings[0], self.readings[-1]
        if not np.isfinite(reading) or not low <= reading <= high:
            raise OutsideCalibration(
                say(
                    "the table for {spoke_kind} runs from {low:g} to {high:g}; {reading:g} lies outside it",
                    spoke_kind=self.spoke_kind,
                    low=low,
                    high=high,
                    reading=reading,
                ),
                "reading",
            )
        force = float(self._curve(reading))
        slope = abs(float(self._curve.derivative()(reading)))
        step_sd = slope * self.resolution / 2 / np.sqrt(3)
        return Tension(force, float(np.hypot(step_sd, self.residual_n)))

    def reading(self, tension_n: float) -> float | None:
        """What the meter will show for `tension_n`, to its resolution; None where the table does not reach."""
        forces = np.asarray(self.forces_n)
        if not forces.min() <= tension_n <= forces.max():
            return None
        order = np.argsort(forces)
        inverse = interpolator()(forces[order], np.asarray(self.readings)[order], extrapolate=False)
        return float(np.round(float(inverse(tension_n)) / self.resolution) * self.resolution)
