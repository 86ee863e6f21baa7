"""The influence of a wheel: what one turn of each nipple does to the rim's shape and to every tension."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import LinAlgError, cho_factor, cho_solve

from felloe.core.components import Wheel
from felloe.core.errors import UnsolvableWheel
from felloe.core.lacing.pattern import Lacing, lace
from felloe.core.mechanics.between import Between, between
from felloe.core.mechanics.ring import RingSection, assembled, ring_elements, ring_stiffness
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.tension.statics import side_targets_n

Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Influence:
    """Linear response of a wheel with n spokes.

    `lateral_mm`, `radial_mm`: (n, n), movement of the rim's centroid at hole i per turn of nipple j.
    `tension_n`: (n, n), change of spoke i per turn of nipple j. `stiffness_n_mm`, `pitch_mm`: (n,).
    `displacement`: (6n, n), all unknowns per turn.
    `pull`: (6n, n), the load of unit tension in each spoke. `factor`: Cholesky factor of the whole wheel.
    """

    wheel: Wheel
    lacing: Lacing
    stiffness_n_mm: Array
    pitch_mm: Array
    displacement: Array
    lateral_mm: Array
    radial_mm: Array
    tension_n: Array
    factor: tuple[Array, bool]
    pull: Array

    @cached_property
    def ring(self) -> Array:
        """The rim's elastic stiffness alone, (6n, 6n)."""
        return ring_stiffness(RingSection.of(self.wheel.rim), self.lacing.rim_angle_rad, rim_radius_mm(self.wheel))

    def between(self, angles_deg: Array) -> Between:
        """The rim at any angles, nodes or not."""
        return between(self.lacing.rim_angle_rad, rim_radius_mm(self.wheel), angles_deg)

    def lateral_at(self, angles_deg: Array) -> Array:
        """Lateral movement per turn at any angles, (len(angles), n) [mm/turn], by the beam's shape functions."""
        return self.between(angles_deg).lateral_of(self.displacement)

    def radial_at(self, angles_deg: Array) -> Array:
        """Radial movement per turn at any angles, (len(angles), n) [mm/turn]."""
        return self.between(angles_deg).radial_of(self.displacement)

    @cached_property
    def figure_angles_deg(self) -> Array:
        """Angles at which runout figures are taken: from the valve, four to a spoke, (4n,)."""
        count = 4 * self.wheel.spoke_count
        return np.asarray(np.arange(count) * (360.0 / count), dtype=np.float64)

    @cached_property
    def figure_operators(self) -> tuple[Array, Array]:
        """`trace_operators` at `figure_angles_deg`."""
        return trace_operators(self, self.figure_angles_deg)

    def changed(self, displacement: Array, tension_n: Array) -> Influence:
        """The same wheel answering a turn of each nipple by so much more: node unknowns (6n, n), tensions (n, n)."""
        cos, sin = np.cos(self.lacing.rim_angle_rad)[:, None], np.sin(self.lacing.rim_angle_rad)[:, None]
        moved = self.displacement + displacement
        return replace(
            self,
            displacement=moved,
            lateral_mm=moved[2::6],
            radial_mm=cos * moved[0::6] + sin * moved[1::6],
            tension_n=self.tension_n + tension_n,
        )

    def response_to(self, force: Array) -> Array:
        """Displacements (6n, …) of the wheel under loads (6n, …) on the rim's nodes [N, N·mm]."""
        return np.asarray(cho_solve(self.factor, force, check_finite=False))

    def tension_change(self, displacement: Array) -> Array:
        """Change of the spokes' tension (n, …) [N] when the rim moves by `displacement` with no nipple turned."""
        return -np.asarray(self.stiffness_n_mm).reshape(-1, *([1] * (displacement.ndim - 1))) * (self.pull.T @ displacement)


def rim_radius_mm(wheel: Wheel) -> float:
    """Radius of the rim section's centroid [mm]."""
    return wheel.rim.erd_mm / 2 + wheel.rim.centroid_depth_mm


def spoke_pull_directions(wheel: Wheel, laced: Lacing) -> Array:
    """Column i: the load of unit tension in spoke i on the rim's nodes, (6n, n), eccentric joint included."""
    count = wheel.spoke_count
    angles = laced.rim_angle_rad
    nodes = rim_radius_mm(wheel) * np.column_stack([np.cos(angles), np.sin(angles), np.zeros(count)])
    each = np.arange(count)
    pull = np.zeros((count, 6, count))
    pull[each, :3, each] = laced.toward_hub
    pull[each, 3:, each] = np.cross(laced.seat_mm - nodes, laced.toward_hub)
    return pull.reshape(6 * count, count)


def lever_stiffness(arm_mm: Array, force_n: Array) -> Array:
    """What forces (n, 3) on levers (n, 3) oppose to turning them, (n, 3, 3) [N·mm/rad].

    A lever turned by a small θ carries its force along to second order, by θ × (θ × arm)/2; its work is −θᵀKθ/2 with
    K = (F·a) I − (F aᵀ + a Fᵀ)/2. A pull along the lever holds it straight.
    """
    along = np.einsum("ni,ni->n", force_n, arm_mm)[:, None, None] * np.eye(3)
    crossed = force_n[:, :, None] * arm_mm[:, None, :]
    return np.asarray(along - (crossed + np.swapaxes(crossed, 1, 2)) / 2)


def influence_of(wheel: Wheel, tensioned: bool = True, missing: frozenset[int] = frozenset()) -> Influence:
    """Assemble and factorise the wheel: K u = f.

    `tensioned` adds the geometric stiffness of spokes and rim at the target tension. Spokes in `missing` (places
    round the rim) are out of the model. Raises UnsolvableWheel where the wheel has no stable balance.
    """
    count = wheel.spoke_count
    laced = lace(wheel)
    span = laced.span_mm
    spokes = {side: wheel.side(side).spoke for side in Side}
    stiffness = np.array([spokes[name.side].axial_stiffness_n_mm(span[i]) for i, name in enumerate(wheel.names)])
    pitch = np.array([wheel.side(name.side).pitch_mm for name in wheel.names])
    present = np.array([i not in missing for i in range(count)])
    stiffness = np.where(present, stiffness, 0.0)
    targets = side_targets_n(wheel)
    tension = np.where(present, [targets[name.side] for name in wheel.names], 0.0) if tensioned else np.zeros(count)
    pull = spoke_pull_directions(wheel, laced)
    radius = rim_radius_mm(wheel)
    inward = -np.sum(
        laced.toward_hub[:, :2] * np.column_stack([np.cos(laced.rim_angle_rad), np.sin(laced.rim_angle_rad)]), axis=1
    )
    ring_force = -float(np.sum(tension * inward)) / (2 * np.pi)
    section = RingSection.of(wheel.rim)
    elastic, geometric = ring_elements(section, laced.rim_angle_rad, radius)
    total = assembled(elastic + ring_force * geometric)
    arms = laced.seat_mm - radius * np.column_stack([np.cos(laced.rim_angle_rad), np.sin(laced.rim_angle_rad), np.zeros(count)])
    seats = np.zeros((count, 3, 6))
    seats[:, :, :3] = np.eye(3)
    # A small rotation θ moves the seat by θ × arm.
    seats[:, 0, 4], seats[:, 0, 5] = arms[:, 2], -arms[:, 1]
    seats[:, 1, 3], seats[:, 1, 5] = -arms[:, 2], arms[:, 0]
    seats[:, 2, 3], seats[:, 2, 4] = arms[:, 1], -arms[:, 0]
    along = laced.toward_hub
    sideways = (tension / span)[:, None, None] * (np.eye(3) - along[:, :, None] * along[:, None, :])
    held = np.swapaxes(seats, 1, 2) @ sideways @ seats
    held[:, 3:, 3:] += lever_stiffness(arms, tension[:, None] * along)
    nodes = np.arange(count)
    # A spoke pulls at its own node alone.
    own = pull.reshape(count, 6, count)[nodes, :, nodes]
    held += stiffness[:, None, None] * own[:, :, None] * own[:, None, :]
    total.reshape(count, 6, count, 6)[nodes, :, nodes, :] += held
    try:
        # Symmetric, so that its transpose is itself, and lies in memory as LAPACK wants it.
        factor = cho_factor(total.T, overwrite_a=True, check_finite=False)
    except LinAlgError as error:
        raise UnsolvableWheel(
            say("this wheel has no stable balance: the rim would buckle, or too few spokes hold it"), "wheel"
        ) from error
    displacement = np.asarray(cho_solve(factor, pull * (stiffness * pitch), check_finite=False))
    tension_per_turn = np.diag(stiffness * pitch) - stiffness[:, None] * (pull.T @ displacement)
    cos, sin = np.cos(laced.rim_angle_rad)[:, None], np.sin(laced.rim_angle_rad)[:, None]
    return Influence(
        wheel=wheel,
        lacing=laced,
        stiffness_n_mm=stiffness,
        pitch_mm=pitch,
        displacement=displacement,
        lateral_mm=displacement[2::6],
        radial_mm=cos * displacement[0::6] + sin * displacement[1::6],
        tension_n=tension_per_turn,
        factor=factor,
        pull=pull,
    )


def trace_operators(influence: Influence, angles_deg: Array) -> tuple[Array, Array]:
    """Rows that read lateral and radial displacement at any angles from the node unknowns, each (len, 6n)."""
    return influence.between(angles_deg).whole()
