"""Meters, evenness and the ratio of the sides."""

import unittest

import numpy as np

from felloe.core.errors import BadTable, OutsideCalibration
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side
from felloe.core.tension.evenness import side_evenness
from felloe.core.tension.meter import MeterTable
from felloe.core.tension.statics import expected_left_over_right, side_ratio, side_targets_n, tight_side
from tests.core.wheels import ALL, DISC_FRONT, REAR, SYMMETRIC, influence

TABLE = MeterTable("round 2.0", (10, 14, 18, 22, 26), (200, 420, 700, 1050, 1500), 0.5, 15.0)


class Meters(unittest.TestCase):
    def test_goes_through_its_points(self) -> None:
        for reading, force in zip(TABLE.readings, TABLE.forces_n, strict=True):
            self.assertAlmostEqual(TABLE.tension(reading).tension_n, force)

    def test_is_monotone_between_them(self) -> None:
        forces = [TABLE.tension(r).tension_n for r in np.linspace(10, 26, 161)]
        self.assertTrue(np.all(np.diff(forces) > 0))

    def test_refuses_outside_its_table(self) -> None:
        for reading in (9.99, 26.01, -1, float("nan"), float("inf")):
            with self.subTest(reading), self.assertRaises(OutsideCalibration):
                TABLE.tension(reading)

    def test_uncertainty_joins_step_and_residual(self) -> None:
        straight = MeterTable("round 2.0", (0, 10, 20), (0, 500, 1000), 0.5, 30.0)
        # Half of 0.5 through a slope of 50 N a unit, uniform: 12.5/√3 = 7.217 N, with 30 N: 30.856 N.
        self.assertAlmostEqual(straight.tension(10).sd_n, 30.8558, places=3)

    def test_reading_is_the_inverse_to_half_a_unit(self) -> None:
        self.assertEqual(TABLE.reading(1050), 22.0)
        self.assertIsNone(TABLE.reading(3000))
        for reading in np.arange(10, 26.1, 0.5):
            self.assertAlmostEqual(TABLE.reading(TABLE.tension(reading).tension_n), reading)

    def test_falling_tables_work_too(self) -> None:
        falling = MeterTable("round 2.0", (1, 2, 3), (900, 600, 100))
        self.assertAlmostEqual(falling.tension(2).tension_n, 600)
        self.assertEqual(falling.reading(600), 2.0)

    def test_no_table_at_all(self) -> None:
        bad = [((1, 2), (1, 2)), ((1, 2, 2), (1, 2, 3)), ((1, 2, 3), (1, 3, 2)), ((1, 2, 3), (1, 2)), ((1, 2, 3), (-5, 2, 3))]
        for readings, forces in bad:
            with self.subTest(readings=readings, forces=forces), self.assertRaises(BadTable):
                MeterTable("round 2.0", readings, forces)


class Evenness(unittest.TestCase):
    def test_figures_by_hand(self) -> None:
        tension = np.where(SYMMETRIC.on_side(Side.RIGHT), 1000.0, 800.0)
        tension[SYMMETRIC.index_of["R3"]] = 700
        tension[SYMMETRIC.index_of["R4"]] = 1300
        even = side_evenness(SYMMETRIC, tension.tolist(), Side.RIGHT, 20)
        self.assertAlmostEqual(even.mean_n, 1000)
        # two of sixteen 300 N off: variance 2·300²/15
        self.assertAlmostEqual(even.sd_n, (2 * 300**2 / 15) ** 0.5)
        self.assertEqual(even.outside, ("R3", "R4"))
        self.assertAlmostEqual(even.spread_percent, 30)
        self.assertEqual(side_evenness(SYMMETRIC, tension.tolist(), Side.LEFT, 20).outside, ())


class Sides(unittest.TestCase):
    def test_tight_side_is_right_on_a_rear_and_left_on_a_disc_front(self) -> None:
        self.assertIs(tight_side(REAR), Side.RIGHT)
        self.assertIs(tight_side(DISC_FRONT), Side.LEFT)
        self.assertAlmostEqual(expected_left_over_right(SYMMETRIC), 1.0)

    def test_targets_hold_the_rim_in_place(self) -> None:
        """At its targets the model's wheel stands in the middle: lateral pull sums to nothing."""
        for key, wheel in ALL.items():
            with self.subTest(key):
                targets = side_targets_n(wheel)
                directions = influence(wheel).lacing.toward_hub
                pull = sum(targets[n.side] * directions[i, 2] for i, n in enumerate(wheel.names))
                self.assertAlmostEqual(pull, 0, places=6)
                self.assertAlmostEqual(max(targets.values()), wheel.rim.tension_target_n)

    def test_ratio_by_bracing_over_length(self) -> None:
        """T_L/T_R = (w_R/L_R)/(w_L/L_L) for equal counts."""
        laced = influence(REAR).lacing
        right, left = REAR.on_side(Side.RIGHT), REAR.on_side(Side.LEFT)
        by_hand = (17.5 / laced.span_mm[right].mean()) / (36.5 / laced.span_mm[left].mean())
        self.assertAlmostEqual(expected_left_over_right(REAR), by_hand, places=9)

    def test_warns_beyond_ten_percent(self) -> None:
        expected = expected_left_over_right(REAR)
        self.assertFalse(side_ratio(REAR, 1000, 1000 * expected * 1.09).warns)
        self.assertTrue(side_ratio(REAR, 1000, 1000 * expected * 1.11).warns)
        self.assertTrue(side_ratio(REAR, 0, 500).warns)

    def test_prior_alone_stands_at_the_targets(self) -> None:
        state = estimate_state(influence(REAR), Readings())
        self.assertAlmostEqual(float(state.tension_n[REAR.on_side(Side.RIGHT)].mean()), 1000, places=6)
