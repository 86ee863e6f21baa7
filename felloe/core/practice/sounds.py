"""What a virtual wheel's spokes sound like when they are plucked: stiff strings that die away, and some noise."""

from __future__ import annotations

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from felloe.core.naming import Side
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.tension.pitch import CROSSING, free_length

Array = NDArray[np.float64]


def plucked_side(
    virtual: VirtualWheel, side: Side, rng: Generator, rate_hz: int = 44_100, apart_s: float = 0.6, noise: float = 0.01
) -> Array:
    """One side plucked in order from the valve, each spoke to its last crossing; samples between −1 and 1.

    Partials f_n = n·f0·sqrt(1 + B n²) (Fletcher, J. Acoust. Soc. Am. 36, 1964).
    """
    wheel = virtual.wheel
    parts = []
    t = np.arange(int(apart_s * rate_hz)) / rate_hz
    for i, name in enumerate(wheel.names):
        if name.side is not side:
            continue
        free = free_length(wheel, str(name), CROSSING)
        tension = max(float(virtual.tension_n[i]), 50.0)
        f0 = np.sqrt(tension / free.mass_kg_m) / (2 * free.length_mm / 1000)
        stiff = np.pi**2 * free.ei_n_mm2 / free.length_mm**2 / tension
        sound = np.zeros_like(t)
        for n in range(1, 8):
            hz = n * f0 * np.sqrt(1 + stiff * n**2)
            sound += rng.uniform(0.4, 1) / n * np.exp(-t * (3 + 2 * n)) * np.sin(2 * np.pi * hz * t)
        parts.append(sound)
    whole = np.concatenate([np.zeros(rate_hz // 5), *parts])
    whole += rng.normal(0, noise * np.abs(whole).max(), len(whole))
    return np.asarray(whole / np.abs(whole).max() * 0.9)
