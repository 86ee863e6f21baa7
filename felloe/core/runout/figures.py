"""Runout figures."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike


def total_indicator_reading_mm(deviation_mm: ArrayLike) -> float:
    """TIR: max − min over the turn [mm] (definition)."""
    values = np.asarray(deviation_mm, dtype=float)
    return float(values.max() - values.min())
