"""Synthesised plucks of stiff strings, for tests: nothing of the code that listens is used."""

from __future__ import annotations

import io
import wave

import numpy as np

from felloe.core.tension.pitch import FreeLength

RATE = 44_100


def plucked(
    free: FreeLength, tension_n: float, rng: np.random.Generator, noise: float = 0.02, seconds: float = 0.9
) -> np.ndarray:
    """A plucked stiff string by its partials, f_n = n·f0·sqrt(1 + B n²) (Fletcher 1964), each dying in its own time."""
    length_m = free.length_mm / 1000
    f0 = np.sqrt(tension_n / free.mass_kg_m) / (2 * length_m)
    stiffness = np.pi**2 * free.ei_n_mm2 / free.length_mm**2 / tension_n
    t = np.arange(int(seconds * RATE)) / RATE
    sound = rng.normal(0, noise, len(t))
    for n in range(1, 9):
        hz = n * f0 * np.sqrt(1 + stiffness * n**2)
        sound += rng.uniform(0.3, 1) / n * np.exp(-t * (3 + 2 * n)) * np.sin(2 * np.pi * hz * t + rng.uniform(0, 6))
    return np.concatenate([rng.normal(0, noise, int(0.15 * RATE)), sound])


def as_wav(sound: np.ndarray) -> bytes:
    """16-bit mono WAV."""
    out = io.BytesIO()
    with wave.open(out, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(RATE)
        file.writeframes((sound / np.abs(sound).max() * 30_000).astype("<i2").tobytes())
    return out.getvalue()
