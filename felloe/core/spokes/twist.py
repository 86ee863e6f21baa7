"""How far a spoke turns along with its nipple before the thread slips: the twist to go past by, and back.

The thread is a power screw (Shigley, *Mechanical Engineering Design*: torque to raise and to lower a load, thread of 60°);
the spoke is a torsion bar (round and rectangular sections: Roark, *Formulas for Stress and Strain*, torsion).
"""

from __future__ import annotations

import math

from felloe.core.components import Spoke

#: Friction in a thread with a drop of oil: common practice, no source. Dry and corroded threads reach twice that.
OILED_FRICTION = 0.15
POISSON = 0.3
#: Half the angle of the thread's flanks: 60° in all.
HALF_ANGLE_RAD = math.radians(30)


def thread_torque_nmm(
    tension_n: float,
    pitch_mm: float,
    diameter_mm: float,
    tighten: bool,
    friction: float,
    half_angle_rad: float = HALF_ANGLE_RAD,
) -> float:
    """Torque that the thread passes on to the spoke while it slips under `tension_n` [N·mm], never below 0.

    T/2·d·(p + π μ d sec α)/(π d − μ p sec α) to tighten, (π μ d sec α − p)/(π d + μ p sec α) to ease.
    """
    grip = friction / math.cos(half_angle_rad)
    circle = math.pi * diameter_mm
    if tighten:
        share = (pitch_mm + circle * grip) / (circle - grip * pitch_mm)
    else:
        share = (circle * grip - pitch_mm) / (circle + grip * pitch_mm)
    return max(0.0, tension_n * diameter_mm / 2 * share)


def torsion_constant_mm4(spoke: Spoke) -> tuple[float, float]:
    """Torsion constants of a spoke's thick ends and of its middle [mm⁴]; a blade counts as a rectangle."""
    ends = math.pi * spoke.end_diameter_mm**4 / 32
    if spoke.blade_thickness_mm is not None and spoke.blade_width_mm is not None:
        thick, wide = spoke.blade_thickness_mm, spoke.blade_width_mm
        ratio = thick / wide
        return ends, wide * thick**3 * (1 / 3 - 0.21 * ratio * (1 - ratio**4 / 12))
    return ends, math.pi * (spoke.middle_diameter_mm or spoke.end_diameter_mm) ** 4 / 32


def twist_turns(
    spoke: Spoke, length_mm: float, pitch_mm: float, tension_n: float, tighten: bool, friction: float = OILED_FRICTION
) -> float:
    """How far a free spoke of `length_mm` twists before its thread slips under `tension_n` [turns], + in size."""
    ends_mm = min(2 * spoke.end_length_mm, length_mm)
    ends, middle = torsion_constant_mm4(spoke)
    compliance = ends_mm / ends + (length_mm - ends_mm) / middle
    shear_mpa = spoke.elastic.youngs_modulus_mpa / (2 * (1 + POISSON))
    torque = thread_torque_nmm(tension_n, pitch_mm, spoke.end_diameter_mm, tighten, friction)
    return torque * compliance / shear_mpa / (2 * math.pi)
