"""Spoke length by the law of cosines."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.naming import Side

Array = NDArray[np.float64]


def length_at_mm(wheel: Wheel, side: Side, lead_rad: Array) -> Array:
    """Length [mm] of a spoke of `side` whose flange hole lies `lead_rad` round from its rim hole; any shape.

    L = √(R² + r² + w² − 2·R·r·cos α) − h/2 with R = ERD/2, r the flange's pitch-circle radius, w the distance from
    spoke bed to flange plane, h the flange hole. A straight-pull spoke has no h/2. Source: plane trigonometry, law of cosines.
    """
    flange = wheel.hub.flange(side)
    rim_radius = wheel.rim.erd_mm / 2
    flange_radius = flange.pitch_circle_mm / 2
    bracing = wheel.bracing_mm(side) - wheel.rim.stagger_mm
    square = rim_radius**2 + flange_radius**2 + bracing**2 - 2 * rim_radius * flange_radius * np.cos(lead_rad)
    elbow = 0.0 if flange.straight_pull_angle_deg is not None else flange.hole_diameter_mm / 2
    return np.asarray(np.sqrt(square) - elbow, dtype=np.float64)


def spoke_length_mm(wheel: Wheel, side: Side) -> float:
    """Length [mm] of the spokes of one side, from the elbow's inside to the end of the thread, as the wheel is laced."""
    return float(length_at_mm(wheel, side, np.array(wheel.lead_angle_rad(side))))


def stretch_mm(wheel: Wheel, side: Side, tension_n: float) -> float:
    """How much a spoke of this side grows under `tension_n` [mm]: T/k, Hooke's law."""
    length_mm = spoke_length_mm(wheel, side)
    return tension_n / wheel.side(side).spoke.axial_stiffness_n_mm(length_mm)
