"""A dial's trace over a turn: thinned to what the rim can do, and what it says of how the wheel sits in the stand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from felloe.core.errors import BadReading
from felloe.core.said import say

#: Bins round the rim; a rim bends smoothly between its holes.
BINS = 144
#: A bin's mean is never surer than this [mm]: the wheel moves in its bearings.
LEAST_SD_MM = 0.01
DENSE_SD_MM = 0.03
#: A wider stretch without a value is no whole turn [deg].
WIDEST_GAP_DEG = 60.0
FEWEST_ANGLES = 12


@dataclass(frozen=True)
class TurnTrace:
    """A trace in bins: `points` of angle [deg], mean deviation and its standard deviation [mm]; the first harmonic, + where its
    top stands.
    """

    points: tuple[tuple[float, float, float], ...]
    first_harmonic_mm: float
    first_harmonic_deg: float

    def said(self, kind: str) -> str:
        """One line on the first harmonic: what of the trace is the wheel's place in the stand rather than its shape."""
        if self.first_harmonic_mm < 0.05:
            return say("{points_count} places round the rim", points_count=len(self.points))
        what = say("runs out of centre") if kind == "radial" else say("stands askew to its axle")
        return say(
            "{points_count} places; the rim as a whole {what} by {first_harmonic_mm:.2f} mm, most at {first_harmonic_deg:.0f}°",
            points_count=len(self.points),
            what=what,
            first_harmonic_mm=self.first_harmonic_mm,
            first_harmonic_deg=self.first_harmonic_deg,
        )


def turn_trace(angles_deg: Sequence[float], deviations_mm: Sequence[float]) -> TurnTrace:
    """Thin a trace to BINS round the rim. Raises BadReading for too few angles or an impossible deviation."""
    angles, values = np.mod(np.asarray(angles_deg, dtype=float), 360), np.asarray(deviations_mm, dtype=float)
    if len(angles) != len(values) or len(np.unique(np.round(angles, 1))) < FEWEST_ANGLES:
        raise BadReading(say("a trace needs at least {fewest_angles} different angles", fewest_angles=FEWEST_ANGLES), "points")
    gaps = np.diff(np.sort(angles), append=angles.min() + 360)
    if gaps.max() > WIDEST_GAP_DEG:
        raise BadReading(
            say("the trace leaves out {gap:.0f}° of the rim: turn the wheel all the way round", gap=gaps.max()), "points"
        )
    if not np.all(np.isfinite(values)) or np.ptp(values) > 60:
        raise BadReading(say("no rim runs out by so much: look for a slip of the decimal sign"), "points")
    places = np.floor(angles / (360 / BINS)).astype(int)
    points = []
    for place in np.unique(places):
        mine = places == place
        # Angles of one bin lie close together, so their plain mean is theirs.
        sd = max(DENSE_SD_MM / np.sqrt(mine.sum()), LEAST_SD_MM)
        points.append((round(float(angles[mine].mean()), 3), round(float(values[mine].mean()), 4), round(float(sd), 4)))
    theta = np.radians([p[0] for p in points])
    rows = np.column_stack([np.ones_like(theta), np.cos(theta), np.sin(theta)])
    _, a, b = np.linalg.lstsq(rows, np.array([p[1] for p in points]), rcond=None)[0]
    return TurnTrace(tuple(points), float(np.hypot(a, b)), float(np.degrees(np.arctan2(b, a)) % 360))
