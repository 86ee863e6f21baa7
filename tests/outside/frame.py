"""A wheel in a general-purpose 3D frame package (PyNiteFEA), for comparing influence with."""

from __future__ import annotations

from typing import Any

import numpy as np

from felloe.core.components import Wheel
from felloe.core.lacing.pattern import lace
from felloe.core.mechanics.influence import rim_radius_mm

E_SPOKE = 200_000.0


def frame_of(wheel: Wheel) -> Any:
    """Rim as beams, spokes as pinned bars, the nipple's seat on a stiff arm from the section's centroid."""
    from Pynite import FEModel3D

    laced = lace(wheel)
    count = wheel.spoke_count
    rim = wheel.rim
    model = FEModel3D()
    # One elastic law for the rim: choose E and G, and section values that give the wanted stiffnesses.
    e, g = 70_000.0, 26_000.0
    model.add_material("rim", e, g, 0.3, 1e-9)
    model.add_section("rim", rim.ea_n / e, rim.ei_lat_nm2 * 1e6 / e, rim.ei_rad_nm2 * 1e6 / e, rim.gj_nm2 * 1e6 / g)
    model.add_material("arm", 1_000_000.0, 400_000.0, 0.3, 1e-9)
    model.add_section("arm", 1000.0, 1e5, 1e5, 1e5)
    model.add_material("spoke", E_SPOKE, 77_000.0, 0.3, 1e-9)
    radius = rim_radius_mm(wheel)
    for i in range(count):
        angle = laced.rim_angle_rad[i]
        model.add_node(f"n{i}", radius * np.cos(angle), radius * np.sin(angle), 0.0)
        model.add_node(f"s{i}", *laced.seat_mm[i])
        model.add_node(f"h{i}", *laced.hub_hole_mm[i])
        model.def_support(f"h{i}", True, True, True, True, True, True)
        stiffness = wheel.side(wheel.names[i].side).spoke.axial_stiffness_n_mm(laced.span_mm[i])
        model.add_section(f"spoke{i}", stiffness * laced.span_mm[i] / E_SPOKE, 1.0, 1.0, 1.0)
    for i in range(count):
        j = (i + 1) % count
        model.add_member(f"r{i}", f"n{i}", f"n{j}", "rim", "rim")
        model.add_member(f"a{i}", f"n{i}", f"s{i}", "arm", "arm")
        model.add_member(f"k{i}", f"s{i}", f"h{i}", "spoke", f"spoke{i}")
        model.def_releases(f"k{i}", Ryi=True, Rzi=True, Ryj=True, Rzj=True)
    return model


def orient_rim(model: Any, count: int) -> None:
    """The package's local axes: check that a member's strong axis is the one meant, by its own rotation matrix."""
    for i in range(count):
        member = model.members[f"r{i}"]
        axes = member.T()[:3, :3]
        if abs(axes[1, 2]) > 0.5:  # local y along the wheel's axle: bending in the plane is then about local y
            member.rotation = 90.0


def turn_nipple(model: Any, wheel: Wheel, i: int, turns: float) -> dict[str, np.ndarray]:
    """Response to shortening spoke i by `turns`: equal and opposite axial loads on its ends, (n,) arrays."""
    laced = lace(wheel)
    lacing = wheel.side(wheel.names[i].side)
    k = lacing.spoke.axial_stiffness_n_mm(laced.span_mm[i])
    force = k * lacing.pitch_mm * turns
    direction = laced.toward_hub[i]
    for axis, value in zip(("FX", "FY", "FZ"), force * direction, strict=True):
        model.add_node_load(f"s{i}", axis, float(value))
    model.analyze_linear()
    count = wheel.spoke_count
    moved = np.array(
        [
            [model.nodes[f"n{j}"].DX["Combo 1"], model.nodes[f"n{j}"].DY["Combo 1"], model.nodes[f"n{j}"].DZ["Combo 1"]]
            for j in range(count)
        ],
        dtype=float,
    )
    # Axial sign of the package: + is compression.
    tension = -np.array([float(model.members[f"k{j}"].axial(0.0)) for j in range(count)])
    tension[i] += force
    angles = laced.rim_angle_rad
    return {
        "lateral_mm": moved[:, 2],
        "radial_mm": np.cos(angles) * moved[:, 0] + np.sin(angles) * moved[:, 1],
        "tension_n": tension,
    }
