"""A meter that bends the spoke between two posts, as a beam under tension: to carry a calibration to another thickness.

A simply supported beam of span s under axial tension T, pressed in the middle by F, gives way by
δ = F·s/(4T)·(1 − tanh u/u), u = (s/2)·sqrt(T/EI). Source: Timoshenko, *Strength of Materials* II, tie rods with
lateral load; also Roark's *Formulas for Stress and Strain*, beams under axial tension. As T → 0 it is F·s³/(48 EI).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

from felloe.core.components import Spoke
from felloe.core.errors import BadTable
from felloe.core.said import say
from felloe.core.tension.meter import MeterTable

Array = NDArray[np.float64]

#: A derived table is so much less sure than the one it came from: its residual is doubled, and this share of the force is
#: added; common practice, no source.
DERIVED_FACTOR = 2.0
DERIVED_SHARE = 0.03
MOST_N = 3000.0


def bending_stiffness_n_mm2(spoke: Spoke) -> float:
    """EI of the spoke's middle [N·mm²]: round π·d⁴/64; a blade about its thin way, as the meter presses it flat."""
    modulus = spoke.elastic.youngs_modulus_mpa
    if spoke.blade_thickness_mm is not None and spoke.blade_width_mm is not None:
        t, w = spoke.blade_thickness_mm, spoke.blade_width_mm
        # A flat with half-round ends, bent about its wide axis.
        return modulus * ((w - t) * t**3 / 12 + np.pi * t**4 / 64)
    d = spoke.middle_diameter_mm or spoke.end_diameter_mm
    return modulus * np.pi * d**4 / 64


def pressed_thickness_mm(spoke: Spoke) -> float:
    """What the meter holds between posts and plunger [mm]."""
    return spoke.blade_thickness_mm or spoke.middle_diameter_mm or spoke.end_diameter_mm


def mid_stiffness_n_mm(tension_n: float, span_mm: float, ei_n_mm2: float) -> float:
    """F/δ in the middle of the span [N/mm]."""
    if tension_n < 1e-6:
        return 48 * ei_n_mm2 / span_mm**3
    u = span_mm / 2 * np.sqrt(tension_n / ei_n_mm2)
    # tanh u/u, by its series where the difference from 1 would cancel.
    lost = u**2 / 3 - 2 * u**4 / 15 if u < 1e-2 else 1 - np.tanh(u) / u
    return float(4 * tension_n / (span_mm * lost))


@dataclass(frozen=True)
class BendingMeter:
    """A meter as spring and plunger: at reading r its plunger stands at `start_mm` + r·`mm_per_unit` beyond a straight spoke of
    the thickness it was fitted with, and presses with `preload_n` + r·`n_per_unit`.
    """

    span_mm: float
    mm_per_unit: float
    start_mm: float
    preload_n: float
    n_per_unit: float
    thickness_mm: float

    def tension_n(self, reading: float, spoke: Spoke) -> float | None:
        """The tension at which `spoke` would show `reading`; None where none up to MOST_N does."""
        bent = self.start_mm + reading * self.mm_per_unit + pressed_thickness_mm(spoke) - self.thickness_mm
        force = self.preload_n + reading * self.n_per_unit
        ei = bending_stiffness_n_mm2(spoke)

        def left_over(tension_n: float) -> float:
            return mid_stiffness_n_mm(tension_n, self.span_mm, ei) * bent - force

        if bent <= 0 or left_over(0.0) > 0 or left_over(MOST_N) < 0:
            return None
        return float(brentq(left_over, 0.0, MOST_N, xtol=1e-6))


def fit_meter(table: MeterTable, spoke: Spoke, span_mm: float, mm_per_unit: float) -> BendingMeter:
    """Find spring and start of a meter from its table for a known spoke; `span_mm` between the posts' middles, and how far the
    plunger goes per unit of reading (minus where the reading falls as it goes in).

    Linear least squares in start, preload and spring. Raises BadTable where the figures describe no such meter.
    """
    if not 30 <= span_mm <= 250:
        raise BadTable(say("a span of {span_mm:g} mm cannot be; expected 30 to 250", span_mm=span_mm), "span_mm")
    if not 1e-4 <= abs(mm_per_unit) <= 2:
        raise BadTable(say("the plunger moves 0.0001 to 2 mm per unit of reading"), "mm_per_unit")
    ei = bending_stiffness_n_mm2(spoke)
    readings = np.array(table.readings)
    k = np.array([mid_stiffness_n_mm(force, span_mm, ei) for force in table.forces_n])
    # F0 + n·r − k·start = k·mm_per_unit·r, each row weighed so that an error counts as one of deflection.
    rows = np.column_stack([-np.ones_like(k), 1 / k, readings / k])
    start, preload, spring = np.linalg.lstsq(rows, mm_per_unit * readings, rcond=None)[0]
    meter = BendingMeter(span_mm, mm_per_unit, float(start), float(preload), float(spring), pressed_thickness_mm(spoke))
    back = [meter.tension_n(r, spoke) for r in table.readings]
    errors = [abs(b - f) for b, f in zip(back, table.forces_n, strict=True) if b is not None]
    if len(errors) < len(back) or max(errors) > 0.1 * max(table.forces_n):
        raise BadTable(say("span and plunger do not fit this table: a meter of that kind would read otherwise"), "mm_per_unit")
    return meter


def carried_over(meter: BendingMeter, table: MeterTable, to: Spoke) -> MeterTable:
    """The table for another spoke, derived through the model and marked by its wider residual.

    Raises BadTable where fewer than three readings of the table can be carried over.
    """
    found: list[tuple[float, float]] = []
    for reading in _fine(table.readings):
        force = meter.tension_n(reading, to)
        if force is not None:
            found.append((reading, force))
    if len(found) < 3:
        raise BadTable(say("readings of this table say nothing about a {kind} spoke", kind=to.kind), "spoke")
    residual = DERIVED_FACTOR * table.residual_n + DERIVED_SHARE * max(force for _, force in found)
    return MeterTable(to.kind, tuple(r for r, _ in found), tuple(round(f, 1) for _, f in found), table.resolution, residual)


def _fine(readings: Sequence[float]) -> list[float]:
    return [round(float(r), 3) for r in np.linspace(readings[0], readings[-1], 17)]
