"""Statics of the wheel's model: reciprocity, symmetry, balance, interpolation."""

import unittest
from dataclasses import replace

import numpy as np

from felloe.core.errors import UnsolvableWheel
from felloe.core.mechanics.influence import influence_of
from felloe.core.naming import Side
from tests.core.wheels import ALL, REAR, SYMMETRIC, influence


class Statics(unittest.TestCase):
    def test_reciprocity(self) -> None:
        """Maxwell-Betti: dT_ij/(k_i k_j p_j) is symmetric."""
        for key, wheel in ALL.items():
            inf = influence(wheel)
            k, p = inf.stiffness_n_mm, inf.pitch_mm
            scaled = inf.tension_n / (k[:, None] * (k * p)[None, :])
            with self.subTest(key):
                np.testing.assert_allclose(scaled, scaled.T, atol=1e-12)

    def test_equal_turns_on_a_symmetric_wheel_move_nothing_sideways(self) -> None:
        inf = influence(SYMMETRIC)
        lateral = inf.lateral_mm @ np.ones(32)
        self.assertLess(abs(lateral.mean()), 1e-9)
        # Single holes zigzag by a micron between left and right pulls; the rim as a whole stays.
        self.assertLess(np.abs(lateral).max(), 2e-3)
        self.assertLess(np.ptp(inf.radial_mm @ np.ones(32)), 5e-3)

    def test_tightening_pulls_toward_its_own_side_and_inward(self) -> None:
        for key, wheel in ALL.items():
            inf = influence(wheel)
            for i in (0, 1):
                with self.subTest(key, spoke=str(wheel.names[i])):
                    self.assertGreater(inf.lateral_mm[i, i] * wheel.names[i].side.sign, 0)
                    self.assertLess(inf.radial_mm[i, i], 0)
                    self.assertGreater(inf.tension_n[i, i], 0)

    def test_lateral_forces_stay_in_balance(self) -> None:
        """With no outer load, the change of the spokes' pull on the rim sums to nothing, geometric stiffness aside."""
        inf = influence_of(REAR, tensioned=False)
        pull = inf.lacing.toward_hub.T @ inf.tension_n
        np.testing.assert_allclose(pull, 0, atol=1e-6)

    def test_rotating_the_wheel_rotates_the_influence(self) -> None:
        """Two places of the lacing further on, every spoke meets the same wheel again."""
        inf = influence(REAR)
        turned = np.roll(np.roll(inf.tension_n, 4, axis=0), 4, axis=1)
        np.testing.assert_allclose(turned, inf.tension_n, atol=1e-6)

    def test_mirroring_the_wheel_mirrors_lateral(self) -> None:
        hub = replace(REAR.hub, right=REAR.hub.left, left=REAR.hub.right)
        mirrored = replace(REAR, hub=hub, first_side=Side.LEFT)
        np.testing.assert_allclose(influence_of(mirrored).lateral_mm, -influence(REAR).lateral_mm, atol=1e-9)
        np.testing.assert_allclose(influence_of(mirrored).tension_n, influence(REAR).tension_n, atol=1e-6)

    def test_interpolation_meets_the_nodes_and_closes(self) -> None:
        inf = influence(REAR)
        at_holes = np.array(REAR.angles_deg)
        np.testing.assert_allclose(inf.lateral_at(at_holes), inf.lateral_mm, atol=1e-12)
        np.testing.assert_allclose(inf.radial_at(at_holes), inf.radial_mm, atol=1e-12)
        ends = inf.lateral_at(np.array([0.0, 360.0, 359.999999]))
        np.testing.assert_allclose(ends[0], ends[1], atol=1e-12)
        np.testing.assert_allclose(ends[0], ends[2], atol=1e-6)

    def test_a_missing_spoke_carries_nothing_and_moves_nothing(self) -> None:
        inf = influence_of(REAR, missing=frozenset({4}))
        self.assertEqual(np.abs(inf.tension_n[4]).max(), 0)
        self.assertEqual(np.abs(inf.lateral_mm[:, 4]).max(), 0)

    def test_a_wheel_that_would_buckle_is_refused(self) -> None:
        weak = replace(REAR, rim=replace(REAR.rim, ei_lat_nm2=5, gj_nm2=1, ei_rad_nm2=5, target_n=2400, cap_n=2800))
        with self.assertRaises(UnsolvableWheel):
            influence_of(weak)
