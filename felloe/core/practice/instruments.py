"""Instruments that read a virtual wheel, with their noise and their steps."""

from __future__ import annotations

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.tension.meter import MeterTable

Array = NDArray[np.float64]


def dial_mm(true_mm: Array, rng: Generator, zero_mm: float = 0.0, noise_mm: float = 0.02) -> Array:
    """A dial's readings to its hundredth, its zero anywhere."""
    return np.asarray(np.round(true_mm - zero_mm + rng.normal(0, noise_mm, len(true_mm)), 2))


def meter_readings(
    wheel: VirtualWheel, tables: dict[str, MeterTable], rng: Generator, noise_n: float = 20.0
) -> list[float | None]:
    """What a meter shows on each spoke, to half a unit; None where its table does not reach or does not exist."""
    readings: list[float | None] = []
    for name, tension_n in zip(wheel.wheel.names, wheel.tension_n, strict=True):
        table = tables.get(wheel.wheel.side(name.side).spoke.kind)
        felt_n = max(0.0, float(tension_n) + rng.normal(0, noise_n))
        readings.append(table.reading(felt_n) if table else None)
    return readings


def turned_by_hand(turns: Array, rng: Generator, miss: float = 0.04) -> Array:
    """What a hand really turns when asked for `turns` (n,): off by a few per cent."""
    return np.asarray(turns * (1 + rng.normal(0, miss, len(turns))))
