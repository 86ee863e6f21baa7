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


def prestressed_turn(model: Any, wheel: Wheel, i: int, turns: float, tension_n: np.ndarray) -> dict[str, np.ndarray]:
    """As `turn_nipple`, with every spoke already under `tension_n` (n,): the package's own geometric stiffness of each member.

    Each rim element bears the pull of the spokes as a hoop does; the arm from the section to the seat bears its spoke's.
    """
    laced = lace(wheel)
    count = wheel.spoke_count
    model.analyze_linear()
    total = np.asarray(model.Ke("Combo 1", sparse=False), dtype=float)
    hub = np.linalg.norm(laced.hub_hole_mm[:, :2], axis=1)
    # By the law of cosines in the wheel's plane: how much of a spoke's pull goes straight inward at its seat.
    seat = np.linalg.norm(laced.seat_mm[:, :2], axis=1)
    flat = np.linalg.norm(laced.hub_hole_mm[:, :2] - laced.seat_mm[:, :2], axis=1)
    inward = (flat**2 + seat**2 - hub**2) / (2 * flat * seat) * flat / laced.span_mm
    hoop = float(np.sum(tension_n * inward)) / (2 * np.pi)
    for j in range(count):
        for name, force in ((f"r{j}", -hoop), (f"k{j}", float(tension_n[j])), (f"a{j}", float(tension_n[j] * inward[j]))):
            _add_geometric(total, model.members[name], force)
    held = [6 * model.nodes[f"h{j}"].ID + axis for j in range(count) for axis in range(6)]
    free = np.setdiff1d(np.arange(len(total)), held)
    stiffness = wheel.side(wheel.names[i].side).spoke.axial_stiffness_n_mm(laced.span_mm[i])
    force = stiffness * wheel.side(wheel.names[i].side).pitch_mm * turns
    load = np.zeros(len(total))
    start = 6 * model.nodes[f"s{i}"].ID
    load[start : start + 3] = force * laced.toward_hub[i]
    moved = np.zeros(len(total))
    moved[free] = np.linalg.solve(total[np.ix_(free, free)], load[free])
    at = {kind: np.array([6 * model.nodes[f"{kind}{j}"].ID for j in range(count)]) for kind in "ns"}
    seats = np.column_stack([moved[at["s"] + axis] for axis in range(3)])
    along = np.array(
        [wheel.side(name.side).spoke.axial_stiffness_n_mm(s) for name, s in zip(wheel.names, laced.span_mm, strict=True)]
    )
    change = -along * np.sum(seats * laced.toward_hub, axis=1)
    change[i] += force
    angles = laced.rim_angle_rad
    return {
        "lateral_mm": moved[at["n"] + 2],
        "radial_mm": np.cos(angles) * moved[at["n"]] + np.sin(angles) * moved[at["n"] + 1],
        "tension_n": change,
    }


def _add_geometric(total: np.ndarray, member: Any, pull_n: float) -> None:
    """By the package's matrix itself a pull is positive, whatever its text says: it stiffens."""
    where = np.concatenate([6 * node.ID + np.arange(6) for node in (member.i_node, member.j_node)])
    total[np.ix_(where, where)] += member.Kg(pull_n)
