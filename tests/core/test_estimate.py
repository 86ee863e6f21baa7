"""The state from readings: full ones are given back, few ones say how unsure they are."""

import unittest

import numpy as np

from felloe.core.errors import BadReading, UnknownSpoke
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading
from felloe.core.practice.damage import used_wheel
from tests.core.wheels import DISC_FRONT, REAR, SYMMETRIC, influence, read_fully


class Full(unittest.TestCase):
    def test_full_readings_are_reproduced_within_their_uncertainty(self) -> None:
        for seed, wheel in enumerate((REAR, SYMMETRIC, DISC_FRONT)):
            rng = np.random.default_rng(seed)
            virtual = used_wheel(wheel, rng, 0.35)
            state = estimate_state(influence(wheel), read_fully(virtual, rng))
            angles = np.array(wheel.angles_deg)
            lateral = virtual.lateral_mm(angles)
            with self.subTest(seed):
                self.assertLess(np.sqrt(np.mean((state.lateral_mm - (lateral - lateral.mean())) ** 2)), 0.03)
                self.assertLess(np.sqrt(np.mean((state.tension_n - virtual.tension_n) ** 2)), 30)
                self.assertAlmostEqual(state.dish_mm, virtual.dish_mm, delta=0.15)
                radial = virtual.radial_mm(angles)
                self.assertLess(np.sqrt(np.mean((state.radial_mm - (radial - radial.mean())) ** 2)), 0.03)

    def test_the_dials_zero_does_not_matter(self) -> None:
        rng = np.random.default_rng(5)
        readings = read_fully(used_wheel(REAR, rng), rng)
        shifted = Readings(
            readings.tension,
            [RunoutReading(r.angle_deg, r.deviation_mm + 7, r.sd_mm) for r in readings.lateral],
            readings.radial,
            readings.dish,
        )
        one, two = (estimate_state(influence(REAR), r) for r in (readings, shifted))
        np.testing.assert_allclose(one.lateral_mm, two.lateral_mm, atol=1e-4)
        # Each group has a zero of its own: half the rim read by another dial changes nothing but its datum.
        half = [
            RunoutReading(r.angle_deg, r.deviation_mm + 3 * (i % 2), r.sd_mm, i % 2) for i, r in enumerate(readings.lateral)
        ]
        split = estimate_state(influence(REAR), Readings(readings.tension, half, readings.radial, readings.dish))
        np.testing.assert_allclose(one.lateral_mm, split.lateral_mm, atol=0.03)
        self.assertAlmostEqual(split.datums_mm["lateral", 1] - split.datums_mm["lateral", 0], 3, delta=0.05)
        self.assertAlmostEqual(one.dish_mm, two.dish_mm, places=3)
        self.assertAlmostEqual(two.datums_mm["lateral", 0] - one.datums_mm["lateral", 0], 7, places=3)


class Partial(unittest.TestCase):
    def setUp(self) -> None:
        rng = np.random.default_rng(11)
        self.virtual = used_wheel(REAR, rng, 0.35)
        self.full = read_fully(self.virtual, rng)

    def test_each_reading_makes_its_place_surer(self) -> None:
        nothing = estimate_state(influence(REAR), Readings())
        one = estimate_state(influence(REAR), Readings(tension=[TensionReading("R5", 900)]))
        i = REAR.index_of["R5"]
        self.assertLess(one.tension_sd_n[i], 26)
        self.assertGreater(nothing.tension_sd_n[i], 200)
        self.assertTrue(np.all(one.tension_sd_n <= nothing.tension_sd_n + 1e-9))

    def test_its_uncertainty_is_honest(self) -> None:
        """From a quarter of the readings, the truth lies within two standard deviations at nine spokes of ten."""
        hits, total = 0, 0
        for seed in range(12):
            rng = np.random.default_rng(100 + seed)
            virtual = used_wheel(REAR, rng, 0.35)
            full = read_fully(virtual, rng)
            quarter = Readings(full.tension[::4], full.lateral[::4], full.radial[::4], full.dish)
            state = estimate_state(influence(REAR), quarter)
            hits += int(np.sum(np.abs(state.tension_n - virtual.tension_n) < 2 * state.tension_sd_n))
            total += 36
        self.assertGreater(hits / total, 0.9)

    def test_half_the_lateral_readings_draw_the_other_half(self) -> None:
        half = Readings(lateral=self.full.lateral[::2], dish=self.full.dish)
        state = estimate_state(influence(REAR), half)
        angles = np.array(REAR.angles_deg)
        truth = self.virtual.lateral_mm(angles)
        self.assertLess(np.abs(state.lateral_mm - (truth - truth.mean())).max(), 0.15)

    def test_order_does_not_matter(self) -> None:
        turned = Readings(self.full.tension[::-1], self.full.lateral[::-1], self.full.radial[::-1], self.full.dish)
        one, two = estimate_state(influence(REAR), self.full), estimate_state(influence(REAR), turned)
        np.testing.assert_allclose(one.tension_n, two.tension_n, atol=1e-6)

    def test_the_trace_meets_the_holes(self) -> None:
        state = estimate_state(influence(REAR), self.full)
        trace = state.trace(np.array(REAR.angles_deg))
        np.testing.assert_allclose(trace.lateral_mm, state.lateral_mm, atol=1e-9)
        np.testing.assert_allclose(trace.radial_mm, state.radial_mm, atol=1e-9)
        np.testing.assert_allclose(trace.lateral_sd_mm, state.lateral_sd_mm, atol=1e-9)


class Refusals(unittest.TestCase):
    def test_named_and_placed(self) -> None:
        cases = [
            (UnknownSpoke, "tension.0.spoke", Readings(tension=[TensionReading("R19", 900)])),
            (BadReading, "tension.0.tension_n", Readings(tension=[TensionReading("R1", -1)])),
            (BadReading, "tension.0.tension_n", Readings(tension=[TensionReading("R1", float("nan"))])),
            (BadReading, "tension.0.sd_n", Readings(tension=[TensionReading("R1", 900, 0)])),
            (BadReading, "lateral.0.deviation_mm", Readings(lateral=[RunoutReading(5, 99)])),
            (BadReading, "radial.1.angle_deg", Readings(radial=[RunoutReading(5, 0), RunoutReading(360, 0)])),
            (BadReading, "dish.0.dish_mm", Readings(dish=[DishReading(30)])),
        ]
        for error, field, readings in cases:
            with self.subTest(field), self.assertRaises(error) as caught:
                estimate_state(influence(REAR), readings)
            self.assertEqual(caught.exception.field, field)
