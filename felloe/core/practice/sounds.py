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
    parts = [_string(virtual, i, rng, rate_hz, apart_s) for i, name in enumerate(virtual.wheel.names) if name.side is side]
    whole = np.concatenate([np.zeros(rate_hz // 5), *parts])
    whole += rng.normal(0, noise * np.abs(whole).max(), len(whole))
    return np.asarray(whole / np.abs(whole).max() * 0.9)


def plucked(virtual: VirtualWheel, place: int, rng: Generator, rate_hz: int = 44_100, lasts_s: float = 0.9) -> Array:
    """One spoke plucked, by its place round the rim; samples between −1 and 1."""
    sound = _string(virtual, place, rng, rate_hz, lasts_s)
    return np.asarray(sound / np.abs(sound).max() * 0.9)


def _string(virtual: VirtualWheel, place: int, rng: Generator, rate_hz: int, lasts_s: float) -> Array:
    free = free_length(virtual.wheel, str(virtual.wheel.names[place]), CROSSING)
    tension = max(float(virtual.tension_n[place]), 50.0)
    f0 = np.sqrt(tension / free.mass_kg_m) / (2 * free.length_mm / 1000)
    stiff = np.pi**2 * free.ei_n_mm2 / free.length_mm**2 / tension
    t = np.arange(int(lasts_s * rate_hz)) / rate_hz
    sound = np.zeros_like(t)
    for n in range(1, 8):
        hz = n * f0 * np.sqrt(1 + stiff * n**2)
        # What the samples cannot hold would come back as another pitch.
        if hz < rate_hz / 2:
            sound += rng.uniform(0.4, 1) / n * np.exp(-t * (3 + 2 * n)) * np.sin(2 * np.pi * hz * t)
    return sound
