"""The virtual wheel where spokes go slack, against a finely stepped integration of its equilibrium.

Rate form of equilibrium, K(q) dq = −∂F/∂s ds, integrated by Heun's method (any textbook of numerical analysis) without
any correction towards balance: a spoke drops out at the step where its length falls below its unloaded length.
"""

import unittest

import numpy as np

from felloe.core.lacing.pattern import lace
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.tension.statics import side_targets_n
from tests.core.wheels import ALL

_NM2 = 1e6


def finely_stepped(virtual: VirtualWheel, turns: np.ndarray, steps: int) -> np.ndarray:
    """Tensions after walking from `virtual` to `turns` more in equal small steps, (n,) [N]."""
    wheel, basis, rim = virtual.wheel, virtual._basis, virtual.wheel.rim
    laced, plain, turn = lace(wheel), virtual._seat_rows, virtual._turn_rows
    arm = laced.seat_mm - basis.radius_mm * np.column_stack(
        [np.cos(laced.rim_angle_rad), np.sin(laced.rim_angle_rad), np.zeros(wheel.spoke_count)]
    )
    stiffness = np.array([wheel.side(s.side).spoke.axial_stiffness_n_mm(laced.span_mm[i]) for i, s in enumerate(wheel.names)])
    pitch = np.array([wheel.side(s.side).pitch_mm for s in wheel.names])
    targets = side_targets_n(wheel)
    target = np.array([targets[s.side] for s in wheel.names])
    inward = -np.einsum("ij,ij->i", laced.toward_hub[:, :2], laced.seat_mm[:, :2]) / (rim.erd_mm / 2)
    shrink = float(np.sum(target * inward)) / (2 * np.pi) * basis.radius_mm / rim.ea_n
    start = laced.span_mm - target / stiffness - shrink * inward - virtual.turns * pitch
    elastic = basis.elastic(rim.ea_n, rim.ei_lat_nm2 * _NM2, rim.ei_rad_nm2 * _NM2, rim.gj_nm2 * _NM2)

    def moved(q):
        """Where the seats go, their arms turned to second order, and how that goes with each unknown."""
        theta = turn @ q
        along = np.einsum("ni,ni->n", theta, arm)
        seat = plain @ q + (theta * along[:, None] - arm * np.einsum("ni,ni->n", theta, theta)[:, None]) / 2
        slope = turn * along[:, None, None] + theta[:, :, None] * np.einsum("ni,nia->na", arm, turn)[:, None, :]
        slope -= 2 * arm[:, :, None] * np.einsum("ni,nia->na", theta, turn)[:, None, :]
        return seat, plain + slope / 2

    def spokes(q, s):
        reach = laced.hub_hole_mm - laced.seat_mm - moved(q)[0]
        length = np.linalg.norm(reach, axis=1)
        tension = stiffness * np.maximum(0, length - start + s * turns * pitch)
        return reach / length[:, None], length, tension

    def rate(q, s):
        direction, length, tension = spokes(q, s)
        rows = moved(q)[1]
        taut = stiffness * (tension > 0)
        local = (taut - tension / length)[:, None, None] * direction[:, :, None] * direction[:, None, :]
        local += (tension / length)[:, None, None] * np.eye(3)
        tangent = elastic + rim.ea_n * q[0] / basis.radius_mm * basis.geometric
        # The hoop's own share of the tangent: its tension follows the mean radius.
        tangent[:, 0] += rim.ea_n / basis.radius_mm * (basis.geometric @ q)
        tangent += np.einsum("nia,nij,njb->ab", rows, local, rows, optimize=True)
        force = direction * tension[:, None]
        crossed = np.einsum("ni,nia,nj,njb->ab", force, turn, arm, turn, optimize=True)
        tangent += np.einsum("n,nia,nib->ab", np.einsum("ni,ni->n", force, arm), turn, turn, optimize=True)
        tangent -= (crossed + crossed.T) / 2
        pull = np.einsum("nij,ni,n->j", rows, direction, taut * pitch * turns)
        return np.linalg.solve(tangent, pull)

    q, h = virtual.balance.unknowns.copy(), 1 / steps
    for k in range(steps):
        first = rate(q, k * h)
        second = rate(q + h * first, (k + 1) * h)
        q = q + h * (first + second) / 2
    return spokes(q, 1.0)[2]


class Slack(unittest.TestCase):
    def test_newton_ends_where_the_fine_steps_end(self) -> None:
        wheel = ALL["small-front-20"]
        rng = np.random.default_rng(6)
        virtual = VirtualWheel.ideal(wheel).bent({2: 0.3 + 0.1j}, {3: 0.1 + 0j})
        turns = rng.normal(0, 0.15, wheel.spoke_count)
        turns[[2, 3, 9]] = -4.0
        newton = virtual.turned(turns).tension_n
        self.assertGreaterEqual(int(np.sum(newton == 0)), 3, "the case must reach the slack range")
        coarse, fine = (finely_stepped(virtual, turns, steps) for steps in (120, 1000))
        np.testing.assert_allclose(fine, newton, atol=0.5)
        self.assertLess(np.abs(fine - newton).max(), np.abs(coarse - newton).max() / 2)
