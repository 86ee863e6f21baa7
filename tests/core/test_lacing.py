"""Lacing: every hole once, crossings counted, valve free."""

import unittest
from dataclasses import replace

import numpy as np

from felloe.core.components import SideLacing
from felloe.core.lacing.pattern import flange_hole_angles_rad, lace
from felloe.core.naming import Side
from tests.core.wheels import ALL, REAR


class Pattern(unittest.TestCase):
    def test_flange_holes_are_evenly_spaced_and_used_once(self) -> None:
        for key, wheel in ALL.items():
            for side in Side:
                with self.subTest(key, side=side):
                    angles = flange_hole_angles_rad(wheel, side)
                    gaps = np.diff(np.append(angles, angles[0] + 2 * np.pi))
                    if wheel.right.count == wheel.left.count:
                        np.testing.assert_allclose(gaps, 2 * np.pi / len(angles), atol=1e-9)
                    self.assertGreater(gaps.min(), 1e-6)

    def test_half_lead_and_half_trail(self) -> None:
        leans = lace(REAR).leans
        self.assertEqual((leans == 1).sum(), 18)
        self.assertEqual((leans == -1).sum(), 18)

    def test_a_spoke_crosses_as_many_as_it_is_named_for(self) -> None:
        """Seen from the side, count crossings by intersecting the spokes of one side as segments."""
        for crossings in (0, 1, 2, 3, 4):
            with self.subTest(crossings):
                wheel = replace(REAR, right=SideLacing(18, crossings), left=SideLacing(18, crossings))
                laced = lace(wheel)
                mine = [i for i, n in enumerate(wheel.names) if n.side is Side.RIGHT]
                a, b = laced.hub_hole_mm[mine, :2], laced.seat_mm[mine, :2]

                def crosses(i: int, j: int, a=a, b=b) -> bool:
                    def turn(p, q, r) -> float:
                        return (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])

                    return (
                        turn(a[i], b[i], a[j]) * turn(a[i], b[i], b[j]) < -1e-9
                        and turn(a[j], b[j], a[i]) * turn(a[j], b[j], b[i]) < -1e-9
                    )

                self.assertEqual(sum(crosses(0, j) for j in range(1, len(mine))), crossings)

    def test_spokes_beside_the_valve_lean_away_from_it(self) -> None:
        for key, wheel in ALL.items():
            laced = lace(wheel)
            with self.subTest(key):
                self.assertGreaterEqual(laced.leans[0], 0)
                self.assertLessEqual(laced.leans[-1], 0)

    def test_left_flange_holes_lie_half_a_spacing_from_the_right(self) -> None:
        right, left = (flange_hole_angles_rad(REAR, side) for side in Side)
        spacing = 2 * np.pi / 18
        shift = np.mod(left[:, None] - right[None, :], spacing)
        np.testing.assert_allclose(shift, spacing / 2, atol=1e-9)
