"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date


@dataclass(frozen=True)
class Standing:
    word: str
    due_on: date | None
    why: str
    warns: bool


@dataclass(frozen=True)
class FitPoint:
    reading: float
    load_n: float
    residual_n: float


@dataclass(frozen=True)
class FitCurve:
    reading: float
    force_n: float
    band_n: float


@dataclass(frozen=True)
class Drift:
    mean_n: float
    largest_n: float
    at_reading: float
    drifted: bool


@dataclass(frozen=True)
class Fit:
    spoke_kind: str
    sd_n: float
    points: list[FitPoint]
    curve: list[FitCurve]
    drift: Drift | None


@dataclass(frozen=True)
class Sample:
    kind: str
    value: float
    unit: str
    spoke: str
    angle_deg: float | None


@dataclass(frozen=True)
class Live:
    connected: bool
    message: str
    sample: Sample | None
    steady: bool
