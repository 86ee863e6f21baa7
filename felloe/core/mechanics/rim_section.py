"""The rim's stiffness from its section, or from hanging a weight on the wheel.

A thin-walled closed box: second moments by summing its walls; torsion by Bredt's second formula, J = 4A²/∮(ds/t)
(Bredt 1896; Timoshenko, *Strength of Materials* II; Roark's *Formulas for Stress and Strain*, torsion of thin closed tubes).
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import brentq

from felloe.core.components import Rim, Wheel
from felloe.core.errors import ImpossibleGeometry
from felloe.core.mechanics.influence import Influence, influence_of, trace_operators
from felloe.core.said import joined, say
from felloe.core.units import KGF_N

#: Young's and shear modulus of rim materials [MPa]: handbook for the metals; a quasi-isotropic carbon laminate, from memory.
RIM_MATERIALS: dict[str, tuple[float, float]] = {
    "aluminium": (70_000.0, 26_000.0),
    "steel": (210_000.0, 81_000.0),
    "carbon": (50_000.0, 19_000.0),
}
#: Real sections have a bridge, thicker corners and holes: what comes of a plain box is so uncertain (common practice).
SECTION_SPREAD = 0.25
#: Factors beyond these say that something else gave way: the hub's hold, a dial that slipped.
LEAST_FACTOR, MOST_FACTOR = 0.2, 5.0


@dataclass(frozen=True)
class SectionStiffness:
    """EA [N], EI sideways and in plane, GJ [N·m²], and the share by which they may be off."""

    ea_n: float
    ei_lat_nm2: float
    ei_rad_nm2: float
    gj_nm2: float
    spread: float

    def applied(self, rim: Rim) -> Rim:
        """The rim with these stiffnesses."""
        return replace(rim, ea_n=self.ea_n, ei_lat_nm2=self.ei_lat_nm2, ei_rad_nm2=self.ei_rad_nm2, gj_nm2=self.gj_nm2)


def box_section(width_mm: float, height_mm: float, wall_mm: float, material: str) -> SectionStiffness:
    """Stiffness of a closed box `width_mm` wide (along the axle), `height_mm` high, with walls of `wall_mm`, outer measures.

    Raises ImpossibleGeometry with the field at fault.
    """
    limits = (("width_mm", width_mm, 8, 80), ("height_mm", height_mm, 6, 120), ("wall_mm", wall_mm, 0.4, 6))
    for field, value, low, high in limits:
        if not low <= value <= high:
            raise ImpossibleGeometry(
                say("expected {low} to {high} mm; found {value:g}", low=low, high=high, value=value), field
            )
    if 2 * wall_mm >= min(width_mm, height_mm):
        raise ImpossibleGeometry(say("walls as thick as that leave no box"), "wall_mm")
    if material not in RIM_MATERIALS:
        raise ImpossibleGeometry(say("the material is one of {materials}", materials=joined(", ", RIM_MATERIALS)), "material")
    young, shear = RIM_MATERIALS[material]
    inner_w, inner_h = width_mm - 2 * wall_mm, height_mm - 2 * wall_mm
    area = width_mm * height_mm - inner_w * inner_h
    # Sideways the rim bends about the axis along its height; in plane about the axis along its width.
    sideways = (height_mm * width_mm**3 - inner_h * inner_w**3) / 12
    in_plane = (width_mm * height_mm**3 - inner_w * inner_h**3) / 12
    middle_w, middle_h = width_mm - wall_mm, height_mm - wall_mm
    torsion = 4 * (middle_w * middle_h) ** 2 * wall_mm / (2 * (middle_w + middle_h))
    return SectionStiffness(
        young * area, young * sideways * 1e-6, young * in_plane * 1e-6, shear * torsion * 1e-6, SECTION_SPREAD
    )


@dataclass(frozen=True)
class HangTest:
    """What hanging a weight says: the factor on the rim's stiffness, how surely, and what the model gave before."""

    factor: float
    log_sd: float
    predicted_mm: float
    rim: Rim


def deflection_mm(influence: Influence, angle_deg: float, mass_kg: float, sideways: bool) -> float:
    """How far the rim gives way where a mass hangs, the hub held: in plane, or sideways with the wheel lying flat [mm]."""
    lateral_op, radial_op = trace_operators(influence, np.array([angle_deg]))
    row = (lateral_op if sideways else radial_op)[0]
    return float(row @ influence.response_to(row * mass_kg * KGF_N))


def hang_test(
    wheel: Wheel, angle_deg: float, mass_kg: float, measured_mm: float, sideways: bool, sd_mm: float = 0.02
) -> HangTest:
    """Fit one factor on the rim's bending and torsion to the deflection under a known mass.

    The hub is held, the dial stands where the mass hangs. Raises ImpossibleGeometry for figures that no rim gives.
    """
    if not 1 <= mass_kg <= 60:
        raise ImpossibleGeometry(say("hang 1 to 60 kg; found {mass_kg:g}", mass_kg=mass_kg), "mass_kg")
    if not 0 < measured_mm <= 20:
        raise ImpossibleGeometry(
            say("the rim gives way by 0 to 20 mm; found {measured_mm:g}", measured_mm=measured_mm), "measured_mm"
        )

    def stiffened(log_factor: float) -> Wheel:
        factor, rim = float(np.exp(log_factor)), wheel.rim
        return replace(
            wheel,
            rim=replace(
                rim, ei_lat_nm2=rim.ei_lat_nm2 * factor, ei_rad_nm2=rim.ei_rad_nm2 * factor, gj_nm2=rim.gj_nm2 * factor
            ),
        )

    def off(log_factor: float) -> float:
        return deflection_mm(influence_of(stiffened(log_factor)), angle_deg, mass_kg, sideways) - measured_mm

    low, high = float(np.log(LEAST_FACTOR)), float(np.log(MOST_FACTOR))
    if off(low) < 0 or off(high) > 0:
        span = say("{low_mm:.2f} to {high_mm:.2f}", low_mm=measured_mm + off(high), high_mm=measured_mm + off(low))
        text = say("a wheel of this kind gives way by {span} mm: look at the dial, and at how the hub is held", span=span)
        raise ImpossibleGeometry(text, "measured_mm")
    found = float(brentq(off, low, high, xtol=1e-4))
    slope = (off(found + 0.05) - off(found - 0.05)) / 0.1
    return HangTest(float(np.exp(found)), abs(sd_mm / slope), measured_mm + off(0.0), stiffened(found).rim)
