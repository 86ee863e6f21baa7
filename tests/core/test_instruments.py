"""Calibration, standing of instruments, repeats, feel, lumps and materials."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from felloe.core.errors import BadReading, BadTable, OutsideCalibration
from felloe.core.measuring.coarse import FEEL, felt_tension, lump_readings
from felloe.core.measuring.instruments import DRIFTED, DUE_SOON, GOOD, NEVER, OVERDUE, stand_by_flipping, standing
from felloe.core.measuring.material import by_magnet
from felloe.core.measuring.repeats import joined
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side
from felloe.core.runout.dish import dish_from_stand
from felloe.core.tension.calibration import calibrate, drift
from felloe.core.tension.meter import MeterTable
from tests.core.wheels import REAR, influence

LOADS = [300.0, 500.0, 700.0, 900.0, 1100.0, 1300.0]


class Calibrating(unittest.TestCase):
    def test_a_straight_line_is_found_again(self) -> None:
        fit = calibrate("round 2.0", [(load + 100) / 40 for load in LOADS], LOADS)
        np.testing.assert_allclose(fit.force_n(np.array([12.5, 25.0])), [400, 900], atol=1e-3)
        self.assertLess(fit.sd_n, 0.01)
        self.assertTrue(fit.rising)

    def test_the_band_holds_the_truth_about_as_often_as_it_says(self) -> None:
        """95 % by linear regression: of 300 calibrations with known scatter about 95 in 100 hold the true force."""
        rng = np.random.default_rng(1)
        inside = 0
        loads = np.array(LOADS)
        for _ in range(300):
            fit = calibrate("x", (loads + 100) / 40, loads + rng.normal(0, 15, len(loads)))
            middle = np.array([20.0])
            inside += abs(float(fit.force_n(middle)[0]) - 700) <= float(fit.band_n(middle)[0])
        self.assertTrue(0.90 <= inside / 300 <= 0.99, inside / 300)

    @given(st.lists(st.floats(0.2, 3.0), min_size=5, max_size=12), st.integers(0, 10_000), st.booleans())
    def test_always_monotone(self, steps: list[float], seed: int, falling: bool) -> None:
        readings = np.cumsum(steps) + 5
        loads = 200 + np.linspace(0, 900, len(steps)) + np.random.default_rng(seed).normal(0, 25, len(steps))
        loads = np.clip(loads[::-1] if falling else loads, 0, 5000)
        try:
            fit = calibrate("x", readings.tolist(), loads.tolist())
        except BadTable:
            return
        forces = fit.force_n(np.linspace(fit.low, fit.high, 60))
        self.assertTrue(np.all(np.diff(forces) * (1 if fit.rising else -1) >= -1e-6))

    def test_its_table_serves_readings_inside_and_refuses_outside(self) -> None:
        table = calibrate("round 2.0", [17.5, 22.5, 25.5, 28, 30, 31.5], LOADS).table()
        self.assertAlmostEqual(table.tension(25.5).tension_n, 700, delta=25)
        for reading in (17.0, 32.0):
            with self.assertRaises(OutsideCalibration):
                table.tension(reading)

    def test_refusals(self) -> None:
        cases = (
            ([1, 2, 3], [100, 200, 300]),
            ([1, 2, 3, 4], [100, 200, 300]),
            ([1, 2, 3, float("nan")], [100, 200, 300, 400]),
            ([1, 2, 3, 4], [100, 200, 300, 9000]),
            ([5, 1, 4, 2], [100, 200, 300, 400]),
            ([2, 2, 2, 2], [100, 200, 300, 400]),
        )
        for readings, loads in cases:
            with self.subTest(readings=readings), self.assertRaises(BadTable):
                calibrate("x", readings, loads)

    def test_drift(self) -> None:
        old = MeterTable("x", (10, 20, 30), (300, 700, 1200))
        same, gone = MeterTable("x", (10, 20, 30), (305, 710, 1190)), MeterTable("x", (10, 20, 30), (300, 800, 1350))
        found, other = drift(gone, old), drift(same, old)
        assert found is not None
        assert other is not None
        self.assertEqual((found.drifted, other.drifted), (True, False))
        self.assertAlmostEqual(found.largest_n, 150, delta=1)
        self.assertIsNone(drift(MeterTable("x", (40, 50, 60), (300, 700, 1200)), old))


class Standings(unittest.TestCase):
    def test_by_the_calendar(self) -> None:
        today = date(2026, 6, 1)

        def word(days_ago: int | None, passed: bool = True) -> str:
            return standing(today - timedelta(days=days_ago) if days_ago is not None else None, passed, 180, today).word

        found = [word(None), word(10), word(170), word(181), word(10, passed=False)]
        self.assertEqual(found, [NEVER, GOOD, DUE_SOON, OVERDUE, DRIFTED])

    def test_a_stand_in_space(self) -> None:
        """A wheel of points in space, hung in a stand and turned round in it: what is seen against what was built."""
        around = np.linspace(0, 2 * np.pi, 24, endpoint=False)
        turned = np.diag([-1.0, -1.0, 1.0])  # half a turn about the upright: the hub's right end to the stand's left arm

        def seen(wheel: np.ndarray, pointer_mm: float) -> tuple[float, Side]:
            aside = float(wheel[:, 0].mean()) - pointer_mm
            return abs(aside), Side.RIGHT if aside > 0 else Side.LEFT

        def wheel(dish_mm: float) -> np.ndarray:
            # x runs along the axle to the right, from midway between the locknuts; the arms hold the locknuts.
            return np.column_stack([np.full(24, dish_mm), 300 * np.cos(around), 300 * np.sin(around)])

        for pointer_mm in (-1.4, 0.0, 0.3, 1.0):
            for dish_mm in (-0.9, 0.0, 0.6):
                with self.subTest(pointer_mm=pointer_mm, dish_mm=dish_mm):
                    proof = wheel(dish_mm)
                    check = stand_by_flipping(*seen(proof, pointer_mm), *seen(proof @ turned, pointer_mm))
                    self.assertAlmostEqual(check.stand_error_mm, pointer_mm)
                    self.assertAlmostEqual(check.wheel_dish_mm, dish_mm)
                    # Any other wheel that is read in this stand afterwards has its true dish.
                    for other_mm in (-2.0, 0.0, 1.1):
                        read = dish_from_stand(*seen(wheel(other_mm), pointer_mm), check.stand_error_mm)
                        self.assertAlmostEqual(read.dish_mm, other_mm)

    def test_a_stand_by_flipping(self) -> None:
        """By hand: a wheel 0.4 mm right of its middle in a stand that points 1.2 mm right is seen 0.8 left, then 1.6 left."""
        found = stand_by_flipping(0.8, Side.LEFT, 1.6, Side.LEFT)
        self.assertAlmostEqual(found.stand_error_mm, 1.2)
        self.assertAlmostEqual(found.wheel_dish_mm, 0.4)
        self.assertFalse(found.passed)
        self.assertIn("1.2 mm to the right", found.why)
        self.assertIn("adjust the stand, not the wheel", found.why)
        self.assertTrue(stand_by_flipping(0.5, Side.RIGHT, 0.5, Side.LEFT).passed)
        with self.assertRaises(BadReading):
            stand_by_flipping(-1, Side.LEFT, 0, Side.LEFT)


class RepeatsAndFeel(unittest.TestCase):
    def test_outliers_are_left_out_and_shown(self) -> None:
        found = joined([1000, 1010, 990, 1005, 1600], 10)
        self.assertEqual(found.outliers, (4,))
        self.assertAlmostEqual(found.mean, 1001.25)
        self.assertEqual(joined([5.0, 5.0, 5.0, 5.01], 0.01).outliers, ())
        self.assertEqual(joined([1, 2, 300]).outliers, ())

    def test_by_feel(self) -> None:
        tensions = [felt_tension(REAR, "L3", word).tension_n for word in FEEL]
        self.assertEqual(tensions, sorted(tensions))
        self.assertLess(felt_tension(REAR, "L3", "right").tension_n, felt_tension(REAR, "R3", "right").tension_n)
        with self.assertRaises(BadReading):
            felt_tension(REAR, "L3", "mushy")

    def test_feel_alone_finds_a_slack_spoke(self) -> None:
        readings = [felt_tension(REAR, str(n), "slack" if str(n) == "R6" else "right") for n in REAR.names]
        state = estimate_state(influence(REAR), Readings(readings))
        right = REAR.on_side(Side.RIGHT)
        self.assertEqual(int(np.flatnonzero(right)[np.argmin(state.tension_n[right])]), REAR.index_of["R6"])

    def test_a_lump_by_its_extremes(self) -> None:
        """0.6 mm to the right from R7 to R9: the estimate bulges there, to the right, by about that."""
        found = lump_readings(REAR, "R7", "R9", 0.6, Side.RIGHT)
        state = estimate_state(influence(REAR), Readings(lateral=found))
        self.assertIn(int(np.argmax(state.lateral_mm)), range(REAR.index_of["R7"], REAR.index_of["R9"] + 1))
        self.assertAlmostEqual(float(np.ptp(state.lateral_mm)), 0.6, delta=0.25)
        for first, last, height in (("R7", "Q1", 0.6), ("R7", "R9", 0.0), ("R9", "R7", 0.6)):
            with self.subTest(first=first, last=last), self.assertRaises(BadReading):
                lump_readings(REAR, first, last, height, Side.RIGHT)

    def test_a_lump_across_the_valve(self) -> None:
        middle = lump_readings(REAR, "R18", "R2", 0.5, None)[0].angle_deg
        wanted = (REAR.angles_deg[REAR.index_of["R18"]] + REAR.angles_deg[REAR.index_of["R2"]] + 360) / 2 % 360
        self.assertAlmostEqual(middle, wanted)


class Magnet(unittest.TestCase):
    def test_materials(self) -> None:
        self.assertEqual(by_magnet("strong", 2.0).materials[0], "carbon steel")
        self.assertEqual(by_magnet("weak", 1.8).materials[0], "stainless")
        self.assertEqual(by_magnet("none", 3.0).materials[0], "aluminium")
        self.assertEqual(by_magnet("none", 1.8).materials[0], "titanium")
        self.assertEqual(by_magnet("none", 2.0, tied=True).materials, ("fibre",))
        for pull, mm in (("odd", 2.0), ("weak", 20.0)):
            with self.assertRaises(BadReading):
                by_magnet(pull, mm)
