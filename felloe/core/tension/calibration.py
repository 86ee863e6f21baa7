"""Calibrating a tension meter against known loads: a monotone fit with residuals, a band, and drift from the last one.

The force is a polynomial of the reading in Bernstein form whose coefficients may only rise (or only fall), so the curve is
monotone by construction (Carnicer & Peña, shape-preserving representations; de Boor). Fitted by bounded least squares.
The band is that of linear regression: s·t·sqrt(x (XᵀX)⁻¹ xᵀ), Student's t at 95 % (NIST/SEMATECH e-Handbook, §4.1).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from math import comb

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import lsq_linear
from scipy.special import stdtrit

from felloe.core.errors import BadTable
from felloe.core.said import say
from felloe.core.tension.meter import USUAL_RESOLUTION, MeterTable

Array = NDArray[np.float64]

FEWEST_POINTS = 4
HIGHEST_DEGREE = 3
#: Rows of the table that a calibration makes.
TABLE_ROWS = 13
#: A meter has drifted when two calibrations differ by more than this share of the force, and by more than the least [N];
#: common practice, no source.
DRIFT_SHARE = 0.05
DRIFT_LEAST_N = 40.0


@dataclass(frozen=True)
class Calibration:
    """A fitted calibration: `readings`, `loads_n` as taken, `fitted_n` and `residuals_n` there, `sd_n` of the residuals.

    `rising`: force grows with the reading. Band and curve by `force_n` and `band_n`.
    """

    spoke_kind: str
    readings: Array
    loads_n: Array
    coefficients: Array
    rising: bool
    residuals_n: Array
    sd_n: float
    freedom: int
    resolution: float
    _inverse: Array = field(repr=False)

    @property
    def low(self) -> float:
        return float(self.readings.min())

    @property
    def high(self) -> float:
        return float(self.readings.max())

    def _basis(self, readings: Array) -> Array:
        return _bernstein((np.asarray(readings, dtype=float) - self.low) / (self.high - self.low), len(self.coefficients) - 1)

    def force_n(self, readings: Array) -> Array:
        """The fitted force at readings inside the calibrated range [N]."""
        return np.asarray(self._basis(readings) @ self.coefficients)

    def band_n(self, readings: Array) -> Array:
        """Half-width of the 95 % band of the curve at readings [N]."""
        rows = self._basis(readings)
        spread = np.sqrt(np.maximum(np.einsum("ij,jk,ik->i", rows, self._inverse, rows), 0))
        return np.asarray(self.sd_n * float(stdtrit(self.freedom, 0.975)) * spread)

    def table(self) -> MeterTable:
        """The meter's table for this spoke kind, its residual the scatter of the calibration."""
        grid = np.linspace(self.low, self.high, TABLE_ROWS)
        forces = np.maximum(self.force_n(grid), 0.0)
        keep = np.concatenate([[True], np.abs(np.diff(forces)) > 0.05])
        return MeterTable(
            self.spoke_kind,
            tuple(round(float(r), 3) for r in grid[keep]),
            tuple(round(float(f), 1) for f in forces[keep]),
            self.resolution,
            max(self.sd_n, 1.0),
        )


def _bernstein(x: Array, degree: int) -> Array:
    return np.stack([comb(degree, k) * x**k * (1 - x) ** (degree - k) for k in range(degree + 1)], axis=-1)


def calibrate(
    spoke_kind: str, readings: Sequence[float], loads_n: Sequence[float], resolution: float = USUAL_RESOLUTION
) -> Calibration:
    """Fit known loads [N] against a meter's readings; at least four different loads, repeats welcome.

    Raises BadTable with the field at fault: too few points, no number, no range, or readings that do not follow the loads.
    """
    x, y = np.asarray(readings, dtype=float), np.asarray(loads_n, dtype=float)
    _check(x, y, resolution)
    rising = float(np.corrcoef(x, y)[0, 1]) > 0
    distinct = len(np.unique(x))
    degree = min(HIGHEST_DEGREE, distinct - 2)
    basis = _bernstein((x - x.min()) / (x.max() - x.min()), degree)
    # Coefficients as a start and steps that all go one way.
    steps = basis @ np.tril(np.ones((degree + 1, degree + 1)))
    sign = 1.0 if rising else -1.0
    low, high = np.full(degree + 1, -np.inf), np.full(degree + 1, np.inf)
    (low if rising else high)[1:] = sign * 1e-9
    coefficients = np.cumsum(lsq_linear(steps, y, (low, high), tol=1e-12).x)
    residuals = y - basis @ coefficients
    freedom = len(y) - (degree + 1)
    sd = float(np.sqrt(residuals @ residuals / freedom))
    inverse = np.asarray(np.linalg.pinv(basis.T @ basis), dtype=np.float64)
    return Calibration(spoke_kind, x, y, coefficients, rising, residuals, sd, freedom, resolution, inverse)


def _check(x: Array, y: Array, resolution: float) -> None:
    if len(x) != len(y):
        raise BadTable(say("{readings} readings stand against {loads} loads", readings=len(x), loads=len(y)), "loads_n")
    if not (np.all(np.isfinite(x)) and np.all(np.isfinite(y))):
        raise BadTable(say("every point needs a reading and a load"), "readings")
    if np.any(y < 0) or np.any(y > 5000):
        raise BadTable(say("loads must lie between 0 and 5000 N"), "loads_n")
    if len(np.unique(y)) < FEWEST_POINTS or len(np.unique(x)) < FEWEST_POINTS:
        raise BadTable(
            say(
                "a calibration needs at least {fewest_points} different loads with different readings",
                fewest_points=FEWEST_POINTS,
            ),
            "loads_n",
        )
    if not resolution > 0:
        raise BadTable(say("the resolution must be above 0"), "resolution")
    if abs(float(np.corrcoef(x, y)[0, 1])) < 0.9:
        raise BadTable(say("the readings do not follow the loads: look for a slip, or for a meter that sticks"), "readings")


@dataclass(frozen=True)
class Drift:
    """Difference of a new curve from an old table over their common range [N]: mean, largest, where, and whether it warns."""

    mean_n: float
    largest_n: float
    at_reading: float
    drifted: bool


def drift(new: MeterTable, old: MeterTable) -> Drift | None:
    """How far a meter has gone from its last table for the same spoke; None where their ranges do not meet."""
    low, high = max(new.readings[0], old.readings[0]), min(new.readings[-1], old.readings[-1])
    if high <= low:
        return None
    grid = np.linspace(low, high, 41)
    before = np.array([old.tension(float(r)).tension_n for r in grid])
    gap = np.array([new.tension(float(r)).tension_n for r in grid]) - before
    worst = int(np.argmax(np.abs(gap)))
    limit = np.maximum(DRIFT_SHARE * before, DRIFT_LEAST_N)
    return Drift(float(gap.mean()), float(gap[worst]), float(grid[worst]), bool(np.any(np.abs(gap) > limit)))
