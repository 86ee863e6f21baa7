"""Readings of one place taken more than once: their mean, spread and outliers.

Sums are exactly rounded (math.fsum), as NIST's numerically hard data sets ask. An outlier has a modified z-score above 3.5
(Iglewicz & Hoaglin, *How to Detect and Handle Outliers*, 1993; NIST/SEMATECH e-Handbook, §1.3.5.17).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

OUTLIER_Z = 3.5
#: Below so many repeats nothing is called an outlier.
FEWEST_FOR_OUTLIERS = 4


@dataclass(frozen=True)
class Repeats:
    """Repeated values: mean and sample standard deviation of those kept; the places (from 0) of outliers left out."""

    values: tuple[float, ...]
    mean: float
    sd: float
    outliers: tuple[int, ...]

    @property
    def kept(self) -> int:
        return len(self.values) - len(self.outliers)


def mean_and_sd(values: Sequence[float]) -> tuple[float, float]:
    """Mean and sample standard deviation (n − 1), by two passes with exact sums; sd 0 for a single value."""
    mean = math.fsum(values) / len(values)
    if len(values) < 2:
        return mean, 0.0
    # The second term takes back what rounding left in the mean.
    off = [v - mean for v in values]
    square = math.fsum(d * d for d in off) - math.fsum(off) ** 2 / len(values)
    return mean, math.sqrt(max(square, 0.0) / (len(values) - 1))


def joined(values: Sequence[float], step: float = 0.0) -> Repeats:
    """Join repeats of one place. `step`: the instrument's smallest, so that equal readings make no outlier of the next."""
    array = np.asarray(values, dtype=float)
    outliers: tuple[int, ...] = ()
    if len(array) >= FEWEST_FOR_OUTLIERS:
        middle = float(np.median(array))
        mad = max(float(np.median(np.abs(array - middle))), step / 2, 1e-12)
        outliers = tuple(int(i) for i in np.flatnonzero(0.6745 * np.abs(array - middle) / mad > OUTLIER_Z))
    kept = [float(v) for i, v in enumerate(array) if i not in outliers]
    return Repeats(tuple(float(v) for v in array), *mean_and_sd(kept), outliers)


#: Smallest steps that repeats are judged by: N and mm.
REPEAT_STEP = {"tension": 10.0, "lateral": 0.01, "radial": 0.01, "dish": 0.05}
#: So much of an instrument's error is common to its repeats; common practice, no source.
COMMON_SHARE = 0.7


def repeated_sd(found: Repeats, single_sd: float) -> float:
    """Standard deviation of a mean of repeats, in the unit of `single_sd`, that of one reading.

    The instrument's own error is common to all repeats; only their scatter shrinks with their number.
    """
    if found.kept < 2:
        return math.hypot(single_sd, found.sd)
    return math.hypot(single_sd * COMMON_SHARE, found.sd / found.kept**0.5)
