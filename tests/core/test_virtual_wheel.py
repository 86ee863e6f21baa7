"""The virtual wheel: balanced, nonlinear where it must be, and its own model."""

import unittest

import numpy as np

from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.instruments import dial_mm, meter_readings
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.tension.meter import MeterTable
from tests.core.wheels import ALL, REAR, SYMMETRIC, influence


class Balanced(unittest.TestCase):
    def test_an_ideal_build_stands_near_its_targets(self) -> None:
        for key in ("rim-brake-rear-36", "disc-front-28", "small-front-20", "tandem-rear-40", "rear-24-two-to-one"):
            wheel = ALL[key]
            virtual = VirtualWheel.ideal(wheel)
            tight = virtual.tension_n.max()
            with self.subTest(key):
                self.assertAlmostEqual(tight / wheel.rim.tension_target_n, 1, delta=0.06)
                self.assertLess(np.ptp(virtual.lateral_mm(np.array(wheel.angles_deg))), 0.1)
                self.assertLess(abs(virtual.dish_mm), 0.25)

    def test_residual_is_reported_and_small(self) -> None:
        virtual = used_wheel(REAR, np.random.default_rng(1), 0.5)
        self.assertLess(virtual.balance.residual_n, 0.01)
        self.assertLess(virtual.balance.iterations, 30)

    def test_small_turns_agree_with_the_planners_model(self) -> None:
        """Two models with no stiffness code in common answer one turn's twentieth alike, within 2 %."""
        for wheel in (REAR, SYMMETRIC):
            inf = influence(wheel)
            angles = np.array(wheel.angles_deg)
            before = VirtualWheel.ideal(wheel)
            for i in (0, 7):
                turns = np.zeros(wheel.spoke_count)
                turns[i] = 0.05
                after = before.turned(turns)
                lateral = (after.lateral_mm(angles) - before.lateral_mm(angles)) / 0.05
                tension = (after.tension_n - before.tension_n) / 0.05
                self.assertLess(np.abs(lateral - inf.lateral_mm[:, i]).max(), 0.02 * np.abs(inf.lateral_mm[:, i]).max())
                self.assertLess(np.abs(tension - inf.tension_n[:, i]).max(), 0.02 * inf.tension_n[i, i])

    def test_a_slack_spoke_pulls_nothing(self) -> None:
        turns = np.zeros(36)
        turns[5] = -6
        tension = VirtualWheel.ideal(REAR).turned(turns).tension_n
        self.assertEqual(tension[5], 0)
        self.assertGreater(tension.min(), -1e-9)

    def test_a_dent_shows_where_it_was_made(self) -> None:
        virtual = VirtualWheel.ideal(SYMMETRIC).dented(180, 8, 2.0)
        angles = np.arange(0, 360, 2.0)
        radial = virtual.radial_mm(angles)
        self.assertAlmostEqual(angles[int(np.argmin(radial))], 180, delta=4)
        self.assertLess(radial.min(), -0.5)


class Instruments(unittest.TestCase):
    def test_same_seed_same_readings(self) -> None:
        one, two = (used_wheel(REAR, np.random.default_rng(7)) for _ in range(2))
        np.testing.assert_array_equal(one.tension_n, two.tension_n)

    def test_dial_reads_to_its_hundredth(self) -> None:
        shown = dial_mm(np.array([0.123456, 1.0]), np.random.default_rng(0), zero_mm=0.5)
        np.testing.assert_allclose(shown, np.round(shown, 2))
        self.assertAlmostEqual(shown[0], -0.38, delta=0.1)

    def test_meter_reads_half_units_and_knows_its_spokes(self) -> None:
        table = MeterTable("round 2.0", (0, 10, 20, 30), (0, 400, 900, 1600))
        virtual = VirtualWheel.ideal(REAR)
        shown = meter_readings(virtual, {"round 2.0": table}, np.random.default_rng(0))
        self.assertTrue(all(r is not None and r * 2 == round(r * 2) for r in shown))
        self.assertEqual(meter_readings(virtual, {}, np.random.default_rng(0)), [None] * 36)
        mean_right = np.mean([r for r, n in zip(shown, REAR.names, strict=True) if n.side is Side.RIGHT])
        self.assertAlmostEqual(mean_right, 21.5, delta=1.5)
