"""The virtual wheel: an independent, harsher wheel to take readings from and to judge plans on.

Spokes pull along their current line and carry nothing in compression; the ring is a curved beam in a trigonometric
(Ritz) basis with the hoop-compression term. It shares component dataclasses with the planner, but no stiffness assembly.
Source of the ring's strains: Love, *Mathematical Theory of Elasticity*, curved rods.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import LinAlgError, solve

from felloe.core.components import Wheel
from felloe.core.errors import UnsolvableWheel
from felloe.core.lacing.pattern import lace
from felloe.core.said import say
from felloe.core.tension.statics import side_targets_n

Array = NDArray[np.float64]
_NM2 = 1e6


def harmonic_rows(angles_rad: Array, highest: int) -> Array:
    """The basis 1, cos θ, sin θ, … cos Mθ, sin Mθ at each angle, (len, 2M+1)."""
    rows = np.ones((len(angles_rad), 2 * highest + 1))
    for m in range(1, highest + 1):
        rows[:, 2 * m - 1] = np.cos(m * angles_rad)
        rows[:, 2 * m] = np.sin(m * angles_rad)
    return rows


def harmonic_derivative(highest: int) -> Array:
    """d/dθ on coefficients of the basis, (2M+1, 2M+1)."""
    derivative = np.zeros((2 * highest + 1, 2 * highest + 1))
    for m in range(1, highest + 1):
        derivative[2 * m, 2 * m - 1] = -m
        derivative[2 * m - 1, 2 * m] = m
    return derivative


@dataclass(frozen=True)
class RingBasis:
    """Curved-beam ring: coefficients of radial, tangential, lateral displacement and twist, each 2M+1 long."""

    radius_mm: float
    highest: int

    @cached_property
    def selectors(self) -> tuple[Array, Array, Array, Array]:
        """Matrices that pick radial, tangential, lateral and twist coefficients from all unknowns."""
        size = 2 * self.highest + 1
        eye = np.eye(4 * size)
        return eye[:size], eye[size : 2 * size], eye[2 * size : 3 * size], eye[3 * size :]

    @cached_property
    def weight(self) -> Array:
        """∫ basis² dθ, the diagonal (2M+1,)."""
        return np.concatenate([[2 * np.pi], np.full(2 * self.highest, np.pi)])

    def elastic(self, ea_n: float, ei_lat_nmm2: float, ei_rad_nmm2: float, gj_nmm2: float) -> Array:
        """Elastic stiffness over all unknowns."""
        radial, tangential, lateral, twist = self.selectors
        d, r = harmonic_derivative(self.highest), self.radius_mm
        stretch = (d @ tangential + radial) / r
        bend_in = (d @ d @ radial - d @ tangential) / r**2
        bend_out = twist / r - d @ d @ lateral / r**2
        torsion = d @ twist / r + d @ lateral / r**2
        total = np.zeros((radial.shape[1], radial.shape[1]))
        for modulus, strain in ((ea_n, stretch), (ei_rad_nmm2, bend_in), (ei_lat_nmm2, bend_out), (gj_nmm2, torsion)):
            total += modulus * r * strain.T @ (self.weight[:, None] * strain)
        return total

    @cached_property
    def geometric(self) -> Array:
        """Geometric stiffness per unit of hoop tension [1/mm]."""
        radial, tangential, lateral, _ = self.selectors
        d = harmonic_derivative(self.highest)
        total = np.zeros((radial.shape[1], radial.shape[1]))
        for slope in (d @ lateral, d @ radial - tangential):
            total += slope.T @ (self.weight[:, None] * slope) / self.radius_mm
        return total


@dataclass(frozen=True)
class Balance:
    """A solved wheel: unknowns of the ring, spoke tensions (n,) [N], Newton iterations, remaining force [N]."""

    unknowns: Array
    tension_n: Array
    iterations: int
    residual_n: float


@dataclass(frozen=True)
class VirtualWheel:
    """A wheel that answers to turns as a real one does.

    `turns` (n,) are turns of the threads from the ideal build; `free_shape` are ring coefficients of the unloaded rim;
    `twist_turns` (n,) is how far each spoke is twisted along with its nipple, + as tightening does.
    """

    wheel: Wheel
    turns: Array
    free_shape: Array
    highest: int
    twist_turns: Array
    #: Where Newton's method begins: the balance before the last turn; None from the free rim.
    near: Array | None = field(default=None, repr=False)

    @classmethod
    def ideal(cls, wheel: Wheel) -> VirtualWheel:
        """A perfect rim with every nipple where an ideal build leaves it."""
        highest = wheel.spoke_count
        still = np.zeros(wheel.spoke_count)
        return cls(wheel, still, np.zeros(4 * (2 * highest + 1)), highest, still)

    def turned(self, turns: Array) -> VirtualWheel:
        """The wheel after each thread moved by `turns` (n,), + tightens; `practice.hands` tells what a hand makes of it."""
        known = self.__dict__.get("balance")
        near = known.unknowns if known is not None else self.near
        return self._kept(replace(self, turns=self.turns + np.asarray(turns, dtype=float), near=near))

    def twisted(self, twist_turns: Array) -> VirtualWheel:
        """The wheel with its spokes twisted by `twist_turns` (n,), threads where they are: nothing else moves."""
        return self._kept(replace(self, twist_turns=np.asarray(twist_turns, dtype=float)), "balance")

    def at(self, turns: Array, twist_turns: Array, near: Array) -> VirtualWheel:
        """The same rim with its threads and spokes elsewhere; `near` is a balance to begin from."""
        return self._kept(replace(self, turns=turns, twist_turns=twist_turns, near=near))

    def prepare(self) -> None:
        """Work out what does not change with a turn."""
        _ = self._basis, self._seat_rows, self._turn_rows, self._elastic

    def _kept(self, after: VirtualWheel, *more: str) -> VirtualWheel:
        """`after` with what was worked out already and does not change with a turn: neither the rim nor its seats do."""
        for name in ("_basis", "_seat_rows", "_turn_rows", "_elastic", *more):
            if name in self.__dict__:
                after.__dict__[name] = self.__dict__[name]
        return after

    def bent(self, lateral_mm: dict[int, complex], radial_mm: dict[int, complex]) -> VirtualWheel:
        """With a free rim bent by harmonics: number → cosine + i·sine amplitude [mm]."""
        shape = self.free_shape.copy()
        size = 2 * self.highest + 1
        for start, harmonics in ((0, radial_mm), (2 * size, lateral_mm)):
            for m, amplitude in harmonics.items():
                shape[start + 2 * m - 1] += amplitude.real
                shape[start + 2 * m] += amplitude.imag
                if start == 0:
                    shape[size + 2 * m] += -amplitude.real / m
                    shape[size + 2 * m - 1] += amplitude.imag / m
        return replace(self, free_shape=shape, near=None)

    def dented(self, angle_deg: float, width_deg: float, inward_mm: float, sideways_mm: float = 0.0) -> VirtualWheel:
        """With a local dent: a Gaussian of `width_deg` (standard deviation) at `angle_deg`, from harmonic 2 up."""
        half, centre = np.radians(width_deg), np.radians(angle_deg)
        lateral, radial = {}, {}
        for m in range(2, self.highest + 1):
            size = half / np.sqrt(2 * np.pi) * 2 * np.exp(-((m * half) ** 2) / 2)
            wave = size * complex(np.cos(m * centre), np.sin(m * centre))
            radial[m], lateral[m] = -inward_mm * wave, sideways_mm * wave
        return self.bent(lateral, radial)

    @cached_property
    def _basis(self) -> RingBasis:
        return RingBasis(self.wheel.rim.erd_mm / 2 + self.wheel.rim.centroid_depth_mm, self.highest)

    @cached_property
    def _seat_rows(self) -> Array:
        """Global displacement of each spoke's seat per unknown, (n, 3, unknowns)."""
        wheel, basis = self.wheel, self._basis
        laced = lace(wheel)
        rows = harmonic_rows(laced.rim_angle_rad, self.highest)
        radial, tangential, lateral, twist = (rows @ s for s in basis.selectors)
        d = harmonic_derivative(self.highest)
        slope_in = rows @ (d @ basis.selectors[0] - basis.selectors[1])
        slope_out = rows @ d @ basis.selectors[2]
        depth, radius = wheel.rim.centroid_depth_mm, basis.radius_mm
        offset = laced.seat_mm[:, 2][:, None]
        seat_radial = radial + offset * twist
        seat_along = tangential + depth * slope_in / radius - offset * slope_out / radius
        seat_lateral = lateral + depth * twist
        cos, sin = np.cos(laced.rim_angle_rad)[:, None], np.sin(laced.rim_angle_rad)[:, None]
        return np.stack([cos * seat_radial - sin * seat_along, sin * seat_radial + cos * seat_along, seat_lateral], axis=1)

    @cached_property
    def _turn_rows(self) -> Array:
        """Global rotation of the section at each spoke per unknown, (n, 3, unknowns)."""
        basis = self._basis
        angle = lace(self.wheel).rim_angle_rad
        rows = harmonic_rows(angle, self.highest)
        d = harmonic_derivative(self.highest)
        about_radius = rows @ d @ basis.selectors[2] / basis.radius_mm
        about_tangent = rows @ basis.selectors[3]
        about_axle = rows @ (basis.selectors[1] - d @ basis.selectors[0]) / basis.radius_mm
        cos, sin = np.cos(angle)[:, None], np.sin(angle)[:, None]
        x, y = cos * about_radius - sin * about_tangent, sin * about_radius + cos * about_tangent
        return np.stack([x, y, about_axle], axis=1)

    @cached_property
    def _elastic(self) -> Array:
        rim = self.wheel.rim
        return self._basis.elastic(rim.ea_n, rim.ei_lat_nm2 * _NM2, rim.ei_rad_nm2 * _NM2, rim.gj_nm2 * _NM2)

    @cached_property
    def balance(self) -> Balance:
        """Solve for equilibrium by Newton's method; raises UnsolvableWheel with the residual where it fails."""
        wheel, basis = self.wheel, self._basis
        rim = wheel.rim
        laced = lace(wheel)
        stiffness = np.array(
            [wheel.side(s.side).spoke.axial_stiffness_n_mm(laced.span_mm[i]) for i, s in enumerate(wheel.names)]
        )
        pitch = np.array([wheel.side(s.side).pitch_mm for s in wheel.names])
        targets = side_targets_n(wheel)
        target = np.array([targets[s.side] for s in wheel.names])
        inward = -np.einsum("ij,ij->i", laced.toward_hub[:, :2], laced.seat_mm[:, :2]) / (rim.erd_mm / 2)
        hoop_n = float(np.sum(target * inward)) / (2 * np.pi)
        shrink = hoop_n * basis.radius_mm / rim.ea_n
        unloaded = laced.span_mm - target / stiffness - shrink * inward - self.turns * pitch
        elastic = self._elastic
        rows, turn_rows = self._seat_rows, self._turn_rows
        middle = basis.radius_mm * np.column_stack([np.cos(laced.rim_angle_rad), np.sin(laced.rim_angle_rad), 0 * target])
        arm = laced.seat_mm - middle
        q = self.free_shape.copy()
        q[0] = -shrink
        if self.near is not None:
            q = self.near.copy()

        def forces(at: Array) -> tuple[Array, Array, Array, Array]:
            """Unbalanced force, spoke lengths, directions and tensions for ring unknowns `at`."""
            # To second order: a seat on its arm swings, θ × arm + θ × (θ × arm)/2.
            theta = turn_rows @ at
            swing = np.cross(theta, np.cross(theta, arm)) / 2
            reach = laced.hub_hole_mm - laced.seat_mm - rows @ at - swing
            length = np.linalg.norm(reach, axis=1)
            direction = reach / length[:, None]
            tension = stiffness * np.maximum(0, length - unloaded)
            hoop = rim.ea_n * at[0] / basis.radius_mm
            gradient = elastic @ (at - self.free_shape) + hoop * (basis.geometric @ at)
            pull = direction * tension[:, None]
            gradient -= np.einsum("nij,ni->j", rows, pull)
            # The swing's own derivative against the pull: ((F·a)θ·2 − F(θ·a) − a(F·θ))/2, by the rule for θ × (θ × a).
            moment = 2 * np.sum(pull * arm, 1)[:, None] * theta
            moment -= pull * np.sum(theta * arm, 1)[:, None] + arm * np.sum(pull * theta, 1)[:, None]
            gradient += np.einsum("nij,ni->j", turn_rows, moment / 2)
            return gradient, length, direction, tension

        flat, flat_turns = rows.reshape(-1, rows.shape[2]), turn_rows.reshape(-1, rows.shape[2])
        gradient, length, direction, tension = forces(q)
        for iteration in range(1, 121):
            residual = float(np.abs(gradient).max())
            if residual < 1e-6 * max(1.0, float(target.max())):
                return Balance(q, tension, iteration, residual)
            axial = stiffness * (tension > 0)
            local = (axial - tension / length)[:, None, None] * direction[:, :, None] * direction[:, None, :]
            local += (tension / length)[:, None, None] * np.eye(3)
            tangent = elastic + rim.ea_n * q[0] / basis.radius_mm * basis.geometric
            tangent = tangent + flat.T @ np.einsum("nij,njk->nik", local, rows).reshape(flat.shape)
            pull = direction * tension[:, None]
            levers = np.sum(pull * arm, 1)[:, None, None] * np.eye(3)
            levers = levers - (pull[:, :, None] * arm[:, None, :] + arm[:, :, None] * pull[:, None, :]) / 2
            tangent = tangent + flat_turns.T @ np.einsum("nij,njk->nik", levers, turn_rows).reshape(flat_turns.shape)
            try:
                step = solve(tangent, -gradient, assume_a="sym")
            except LinAlgError as error:
                raise UnsolvableWheel(say("the virtual wheel has collapsed: its stiffness is singular"), "wheel") from error
            longest = float(np.abs(step[: 2 * self.highest + 1]).max())
            size = min(1.0, 5.0 / max(longest, 1e-9))
            before = float(np.linalg.norm(gradient))
            for _ in range(6):
                trial = forces(q + size * step)
                if np.linalg.norm(trial[0]) < before:
                    break
                size /= 2
            q = q + size * step
            gradient, length, direction, tension = trial
        raise UnsolvableWheel(
            say("the virtual wheel found no balance in 120 steps; {residual:.3g} N remain", residual=residual), "wheel"
        )

    @property
    def tension_n(self) -> Array:
        """True tension of every spoke, (n,) [N]."""
        return self.balance.tension_n

    def _at(self, field: int, angles_deg: Array) -> Array:
        rows = harmonic_rows(np.radians(np.asarray(angles_deg, dtype=float)), self.highest)
        return np.asarray(rows @ self._basis.selectors[field] @ self.balance.unknowns)

    def lateral_mm(self, angles_deg: Array) -> Array:
        """True lateral place of the rim, + right, from the middle of the over-locknut width, (len,) [mm]."""
        return self._at(2, angles_deg)

    def radial_mm(self, angles_deg: Array) -> Array:
        """True radial departure from the mean, + outward, (len,) [mm]."""
        values = self._at(0, angles_deg)
        return np.asarray(values - self.balance.unknowns[0])

    @property
    def dish_mm(self) -> float:
        """True dish: the mean lateral place of the rim [mm]."""
        return float(self.balance.unknowns[2 * (2 * self.highest + 1)])
