"""Meters, calibration and pitch against textbook statics and scipy, at their borders."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

import numpy as np
from scipy.integrate import solve_bvp
from scipy.interpolate import pchip_interpolate
from scipy.stats import t as student

from felloe.core.components import SideLacing, Spoke
from felloe.core.errors import BadReading, BadTable, OutsideCalibration
from felloe.core.lacing.pattern import lace
from felloe.core.mechanics.readings import Readings, TensionReading
from felloe.core.naming import Side
from felloe.core.tension.calibration import calibrate, drift
from felloe.core.tension.evenness import side_evenness
from felloe.core.tension.meter import MeterTable
from felloe.core.tension.pitch import (
    CROSSING,
    FreeLength,
    _period,
    evenness_percent,
    free_length,
    pitch_of_tension,
    plucks,
    tension_from_pitch,
)
from felloe.core.tension.statics import expected_left_over_right, measured_means_n, side_ratio, side_targets_n, tight_side
from felloe.core.tension.three_point import (
    BendingMeter,
    bending_stiffness_n_mm2,
    carried_over,
    fit_meter,
    mid_stiffness_n_mm,
    pressed_thickness_mm,
)
from tests.core.wheels import ALL, REAR

ROUND = Spoke(2.0)
RISING = MeterTable("round 2.0", (10.0, 15.0, 20.0, 26.0), (400.0, 700.0, 1000.0, 1300.0), 0.5, 20.0)


class Tables(unittest.TestCase):
    def test_between_its_points_by_scipy_and_with_its_doubt(self) -> None:
        for reading in (10.0, 12.3, 15.0, 19.1, 26.0):
            found = RISING.tension(reading)
            self.assertAlmostEqual(found.tension_n, float(pchip_interpolate(RISING.readings, RISING.forces_n, reading)))
            slope = float(pchip_interpolate(RISING.readings, RISING.forces_n, reading, der=1))
            # Half a step either way, equally likely: its width over the root of twelve.
            self.assertAlmostEqual(found.sd_n, math.hypot(slope * 0.5 / math.sqrt(12), 20.0))
        for outside in (9.99, 26.01, float("nan"), float("inf")):
            with self.assertRaises(OutsideCalibration):
                RISING.tension(outside)

    def test_the_other_way_round(self) -> None:
        for force, reading in ((400.0, 10.0), (1300.0, 26.0), (700.0, 15.0), (399.9, None), (1300.1, None)):
            self.assertEqual(RISING.reading(force), reading)
        falling = MeterTable("x", (10.0, 15.0, 20.0), (1200.0, 800.0, 500.0), 0.25)
        self.assertEqual(falling.reading(800.0), 15.0)
        back = falling.reading(950.0)
        assert back is not None
        self.assertEqual(back * 4, round(back * 4))
        self.assertAlmostEqual(falling.tension(back).tension_n, 950, delta=25)

    def test_what_is_no_table(self) -> None:
        MeterTable("x", (1, 2, 3), (0, 10, 5000))
        MeterTable("x", (1, 2, 3), (0, 10, 50), 0.01, 0.0)
        self.assertEqual(
            (MeterTable("x", (1, 2, 3), (1, 2, 3)).resolution, MeterTable("x", (1, 2, 3), (1, 2, 3)).residual_n), (0.5, 20.0)
        )
        for field, readings, forces, more in (
            ("forces_n", (1, 2, 3), (3, 2, 2), {}),
            ("forces_n", (1, 2, 3), (1, 2), {}), ("readings", (1, 2), (1, 2), {}), ("readings", (1, 2, 2), (1, 2, 3), {}),
            ("readings", (1, 3, 2), (1, 2, 3), {}), ("readings", (1, 2, float("nan")), (1, 2, 3), {}),
            ("forces_n", (1, 2, 3), (1, 2, 2), {}),
            ("forces_n", (1, 2, 3), (1, 3, 2), {}), ("forces_n", (1, 2, 3), (-1, 2, 3), {}), ("forces_n", (1, 2, 3),
            (1, 2, 5001), {}),
            ("forces_n", (1, 2, 3), (1, 2, float("inf")), {}), ("resolution", (1, 2, 3), (1, 2, 3), {"resolution": 0.0}),
            ("resolution", (1, 2, 3), (1, 2, 3), {"residual_n": -1.0}), ("resolution", (1, 2, 3),
            (1, 2, 3), {"resolution": float("inf")}),
            ("resolution", (1, 2, 3), (1, 2, 3), {"residual_n": float("inf")}),
        ):  # fmt: skip
            with self.subTest(readings=readings, forces=forces, more=more), self.assertRaises(BadTable) as caught:
                MeterTable("x", readings, forces, **more)  # type: ignore[arg-type]
            self.assertEqual(caught.exception.field, field)


class Calibrated(unittest.TestCase):
    READINGS = (10, 12, 14, 16, 18, 20, 22, 24)
    LOADS = (310, 405, 520, 610, 730, 845, 975, 1120)

    def test_curve_and_band_as_linear_regression_has_them(self) -> None:
        """Where no step turns back the fit is the plain cubic of least squares; the band is s·t·√(x(XᵀX)⁻¹xᵀ)
        (NIST/SEMATECH e-Handbook, §4.1)."""
        found = calibrate("round 2.0", self.READINGS, self.LOADS)
        x, y = np.array(self.READINGS, dtype=float), np.array(self.LOADS, dtype=float)
        cubic = np.polynomial.Polynomial.fit(x, y, 3)
        at = np.linspace(10, 24, 9)
        np.testing.assert_allclose(found.force_n(at), cubic(at), rtol=1e-6)
        residual = y - cubic(x)
        s = math.sqrt(float(residual @ residual) / 4)
        self.assertAlmostEqual(found.sd_n, s, 5)
        self.assertEqual(found.freedom, 4)
        np.testing.assert_allclose(found.residuals_n, residual, atol=1e-5)
        rows = np.vander((x - 17) / 7, 4)
        points = np.vander((at - 17) / 7, 4)
        spread = np.sqrt(np.einsum("ij,jk,ik->i", points, np.linalg.inv(rows.T @ rows), points))
        np.testing.assert_allclose(found.band_n(at), s * student.ppf(0.975, 4) * spread, rtol=1e-5)
        self.assertTrue(found.rising)
        self.assertEqual((found.low, found.high), (10, 24))

    def test_its_table(self) -> None:
        found = calibrate("round 2.0", self.READINGS, self.LOADS, 0.25)
        table = found.table()
        self.assertEqual((len(table.readings), table.resolution, table.spoke_kind), (13, 0.25, "round 2.0"))
        self.assertAlmostEqual(table.residual_n, max(found.sd_n, 1.0))
        np.testing.assert_allclose(table.forces_n, found.force_n(np.array(table.readings)), atol=0.1)
        self.assertEqual((table.readings[0], table.readings[-1]), (10, 24))
        exact = calibrate("x", (10, 12, 14, 16, 18), (300, 400, 500, 600, 700)).table()
        self.assertEqual(exact.residual_n, 1.0)

    def test_few_points_bend_less(self) -> None:
        """Of four readings a parabola, of five and more a cubic: what is left shows in the degrees of freedom."""
        self.assertEqual(calibrate("x", (10, 12, 14, 16), (300, 400, 510, 600)).freedom, 1)
        self.assertEqual(calibrate("x", (10, 12, 14, 16, 18), (300, 400, 510, 600, 720)).freedom, 1)
        self.assertEqual(calibrate("x", (10, 12, 14, 16, 16, 16), (300, 400, 510, 600, 605, 610)).freedom, 3)
        falling = calibrate("x", (24, 20, 16, 12), (300, 400, 510, 600))
        self.assertFalse(falling.rising)
        self.assertTrue(np.all(np.diff(falling.force_n(np.linspace(12, 24, 50))) < 0))

    def test_refused(self) -> None:
        calibrate("x", (10, 12, 14, 16), (0, 1600, 3300, 5000))
        for field, readings, loads, resolution in (
            ("loads_n", (1, 2, 3, 4), (1, 2, 3), 0.5), ("readings", (1, 2, 3, float("nan")), (1, 2, 3, 4), 0.5),
            ("readings", (1, 2, 3, 4), (1, 2, 3, float("inf")), 0.5), ("loads_n", (1, 2, 3, 4), (-1, 200, 300, 400), 0.5),
            ("loads_n", (1, 2, 3, 4), (100, 200, 300, 5001), 0.5), ("loads_n", (1, 2, 3, 3), (100, 200, 300, 400), 0.5),
            ("loads_n", (1, 2, 3, 4), (100, 200, 300, 300), 0.5), ("resolution", (1, 2, 3, 4), (100, 200, 300, 400), 0.0),
            ("readings", (1, 4, 2, 3), (100, 200, 300, 400), 0.5),
        ):  # fmt: skip
            with self.subTest(readings=readings, loads=loads), self.assertRaises(BadTable) as caught:
                calibrate("x", readings, loads, resolution)
            self.assertEqual(caught.exception.field, field)

    def test_drift(self) -> None:
        """It has drifted beyond 5 % of the force and beyond 40 N."""

        def table(add: float = 0.0, times: float = 1.0, low: float = 10.0) -> MeterTable:
            readings = tuple(low + 5 * i for i in range(4))
            return MeterTable("x", readings, tuple(times * (400 + 60 * (r - 10)) + add for r in readings))

        for new, drifted in (
            (table(39), False),
            (table(41), True),
            (table(-41), True),
            (table(times=1.051), True),
            (table(times=1.049), False),
        ):
            found = drift(new, table())
            assert found is not None
            self.assertEqual(found.drifted, drifted)
        moved = drift(table(39), table())
        assert moved is not None
        self.assertAlmostEqual(moved.mean_n, 39)
        self.assertAlmostEqual(moved.largest_n, 39)
        wider = drift(table(times=1.1), table())
        assert wider is not None
        self.assertAlmostEqual(wider.largest_n, 130)
        self.assertEqual(wider.at_reading, 25)
        self.assertIsNone(drift(table(low=25.0), table()))
        self.assertIsNone(drift(table(low=30.0), table()))
        part = drift(table(low=20.0), table())
        assert part is not None
        self.assertAlmostEqual(part.largest_n, 0, 6)


class Beam(unittest.TestCase):
    def test_a_pressed_spoke_by_the_differential_equation(self) -> None:
        """EI w'' = T w − F x/2 over half the span, w(0) = 0, w'(s/2) = 0, by scipy's boundary-value solver (tie rod
        with a load in
        its middle: Timoshenko, Strength of Materials II)."""
        ei = bending_stiffness_n_mm2(ROUND)
        span, force = 110.0, 20.0
        for tension in (50.0, 400.0, 1200.0):

            def slope(x: np.ndarray, y: np.ndarray, tension: float = tension) -> np.ndarray:
                return np.vstack([y[1], (tension * y[0] - force * x / 2) / ei])

            def ends(a: np.ndarray, b: np.ndarray) -> np.ndarray:
                return np.array([a[0], b[1]])

            x = np.linspace(0, span / 2, 201)
            solved = solve_bvp(slope, ends, x, np.zeros((2, len(x))), tol=1e-8, max_nodes=20000)
            with self.subTest(tension=tension):
                self.assertAlmostEqual(mid_stiffness_n_mm(tension, span, ei) / (force / solved.y[0, -1]), 1, 4)
        self.assertAlmostEqual(mid_stiffness_n_mm(0.0, span, ei), 48 * ei / span**3)
        # Little tension: 1 + T s²/(10 EI) of it, by the series.
        little = 0.002
        self.assertAlmostEqual(mid_stiffness_n_mm(little, span, ei) / (48 * ei / span**3), 1 + little * span**2 / (10 * ei), 7)

    def test_stiffness_of_round_butted_and_bladed(self) -> None:
        young = ROUND.elastic.youngs_modulus_mpa
        self.assertAlmostEqual(bending_stiffness_n_mm2(ROUND), young * math.pi * 2.0**4 / 64)
        self.assertAlmostEqual(bending_stiffness_n_mm2(Spoke(2.0, 1.8)), young * math.pi * 1.8**4 / 64)
        blade = Spoke(2.0, blade_thickness_mm=0.9, blade_width_mm=2.2)
        # The flat and its half-round ends, by slices across the thickness.
        z = np.linspace(-0.45, 0.45, 4001)
        width = 1.3 + 2 * np.sqrt(np.maximum(0.45**2 - z**2, 0))
        self.assertAlmostEqual(bending_stiffness_n_mm2(blade) / (young * float(np.trapezoid(width * z**2, z))), 1, 4)
        self.assertEqual([pressed_thickness_mm(s) for s in (ROUND, Spoke(2.0, 1.8), blade)], [2.0, 1.8, 0.9])

    def meter(self) -> BendingMeter:
        return BendingMeter(100.0, 0.05, 0.4, 30.0, 0.4, 2.0)

    def table(self, spoke: Spoke = ROUND, readings: tuple[float, ...] = (6.0, 9.0, 12.0, 15.0, 18.0)) -> MeterTable:
        meter = self.meter()
        forces = [meter.tension_n(r, spoke) for r in readings]
        assert all(f is not None for f in forces)
        return MeterTable(spoke.kind, readings, tuple(f for f in forces if f is not None), 0.5, 15.0)

    def test_spring_and_start_are_found_again_and_carried_to_another_wire(self) -> None:
        table = self.table()
        found = fit_meter(table, ROUND, 100.0, 0.05)
        self.assertAlmostEqual(found.start_mm, 0.4, 3)
        self.assertAlmostEqual(found.preload_n, 30.0, 1)
        self.assertAlmostEqual(found.n_per_unit, 0.4, 2)
        self.assertEqual((found.span_mm, found.mm_per_unit, found.thickness_mm), (100, 0.05, 2.0))
        thin = Spoke(2.0, 1.8)
        carried = carried_over(found, table, thin)
        self.assertEqual(carried.spoke_kind, "round 1.8")
        for reading, force in zip(carried.readings, carried.forces_n, strict=True):
            self.assertAlmostEqual(force, self.meter().tension_n(reading, thin) or 0, delta=2)
        self.assertAlmostEqual(carried.residual_n, 2 * 15 + 0.03 * max(carried.forces_n), delta=0.1)
        self.assertEqual(carried.resolution, 0.5)

    def test_balance_of_spring_and_spoke(self) -> None:
        """At the tension found, bend times stiffness is the spring's force."""
        meter = self.meter()
        for spoke in (ROUND, Spoke(2.0, 1.8)):
            for reading in (8.0, 14.0):
                tension = meter.tension_n(reading, spoke)
                assert tension is not None
                bent = 0.4 + 0.05 * reading + pressed_thickness_mm(spoke) - 2.0
                held = mid_stiffness_n_mm(tension, 100.0, bending_stiffness_n_mm2(spoke)) * bent
                self.assertAlmostEqual(held, 30 + 0.4 * reading, 3)
        self.assertIsNone(meter.tension_n(-8.0, ROUND))
        self.assertIsNone(meter.tension_n(-7.9, ROUND))
        self.assertIsNone(BendingMeter(100.0, 0.05, 4.0, 3.0, 0.0, 2.0).tension_n(5.0, ROUND))
        # None above 3000 N: no spoke stands so.
        for most, found in ((2990.0, True), (3010.0, False)):
            force = mid_stiffness_n_mm(most, 100.0, bending_stiffness_n_mm2(ROUND)) * 1.0
            self.assertEqual(BendingMeter(100.0, 0.0, 1.0, force, 0.0, 2.0).tension_n(5.0, ROUND) is not None, found)

    def test_refused(self) -> None:
        table = self.table()
        for field, span, per_unit in (
            ("span_mm", 29.9, 0.05), ("span_mm", 250.1, 0.05), ("mm_per_unit", 100, 0.0), ("mm_per_unit", 100, 2.1),
            ("mm_per_unit", 100, -2.1),
            ("mm_per_unit", 100, 9e-5),
        ):  # fmt: skip
            with self.subTest(span=span, per_unit=per_unit), self.assertRaises(BadTable) as caught:
                fit_meter(table, ROUND, span, per_unit)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(BadTable):
            fit_meter(table, ROUND, 100.0, -0.05)
        # A table that bends the other way is read by no such meter.
        with self.assertRaises(BadTable):
            fit_meter(MeterTable("x", (6.0, 9.0, 12.0, 15.0, 18.0), (200.0, 230.0, 300.0, 1500.0, 4000.0)), ROUND, 100.0, 0.05)
        with self.assertRaises(BadTable) as caught:
            carried_over(self.meter(), table, Spoke(3.4))
        self.assertEqual(caught.exception.field, "spoke")


class Evenness(unittest.TestCase):
    def test_two_left_of_a_side(self) -> None:
        """The sample's standard deviation of two is their difference over the root of two."""
        tension = np.full(36, 900.0)
        tension[REAR.index_of["R1"]], tension[REAR.index_of["R2"]] = 800.0, 1000.0
        gone = {f"R{i}" for i in range(3, 19)}
        found = side_evenness(REAR, list(tension), Side.RIGHT, 20, gone)
        self.assertEqual((found.count, found.mean_n, found.min_n, found.max_n), (2, 900, 800, 1000))
        self.assertAlmostEqual(found.sd_n, 200 / math.sqrt(2))


class Statics(unittest.TestCase):
    def test_ratio_by_moments_of_a_plane_triangle(self) -> None:
        """Each spoke pulls sideways with bracing over length; the sides must balance."""
        for key in ("rim-brake-rear-36", "disc-front-28", "rim-brake-front-32"):
            wheel = ALL[key]
            laced = lace(wheel)
            pull = {}
            for side in Side:
                spans = [laced.span_mm[i] for i, name in enumerate(wheel.names) if name.side is side]
                pull[side] = sum(wheel.bracing_mm(side) / span for span in spans)
            ratio = pull[Side.RIGHT] / pull[Side.LEFT]
            with self.subTest(key):
                self.assertAlmostEqual(expected_left_over_right(wheel), ratio, 9)
                targets = side_targets_n(wheel)
                self.assertAlmostEqual(max(targets.values()), wheel.rim.tension_target_n)
                self.assertAlmostEqual(targets[Side.LEFT] / targets[Side.RIGHT], ratio, 9)
                self.assertIs(tight_side(wheel), Side.RIGHT if ratio <= 1 + 1e-9 else Side.LEFT)

    def test_warns_beyond_a_tenth(self) -> None:
        expected = expected_left_over_right(REAR)
        for off, warns in ((1.099, False), (1.101, True), (0.901, False), (0.899, True)):
            found = side_ratio(REAR, 1000.0, 1000 * expected * off)
            self.assertAlmostEqual(found.difference_percent, 100 * (off - 1), 6)
            self.assertEqual(found.warns, warns)
        self.assertEqual(side_ratio(REAR, 0.0, 500).measured, math.inf)

    def test_means_of_what_was_read(self) -> None:
        readings = Readings([TensionReading("R1", 900), TensionReading("R2", 1000), TensionReading("L1", 600)])
        self.assertEqual(measured_means_n(REAR, readings), {Side.RIGHT: 950, Side.LEFT: 600})
        self.assertIsNone(measured_means_n(REAR, Readings([TensionReading("R1", 900)])))
        self.assertGreater(side_ratio(REAR, 0.5, 500).measured, 900)


class Pitch(unittest.TestCase):
    FREE = FreeLength(200.0, 3.0, 0.0247, 157_000.0)

    def test_a_stiff_string(self) -> None:
        """Mersenne's law, T = μ(2ℓf)², less the stiffness of pinned ends."""
        hz = 500.0
        string = 0.0247 * (2 * 0.2 * hz) ** 2
        stiff = math.pi**2 * 157_000 / 200**2
        found = tension_from_pitch(hz, self.FREE, 2.0)
        self.assertAlmostEqual(found.tension_n, string - stiff)
        ends = string * 2 * math.sqrt(157_000 / found.tension_n) / 200
        self.assertAlmostEqual(found.sd_n, math.sqrt((2 * 2 / 500 * string) ** 2 + (2 * 3 / 200 * string) ** 2 + ends**2))
        self.assertAlmostEqual(pitch_of_tension(found.tension_n, self.FREE), hz)
        for hz in (44.9, 2800.1, float("nan")):
            with self.assertRaises(BadReading):
                tension_from_pitch(hz, self.FREE)
        long = replace(self.FREE, length_mm=900.0)
        for hz in (44.9, 2800.1):
            with self.assertRaises(BadReading) as caught:
                tension_from_pitch(hz, long)
            self.assertIn("no spoke sounds", caught.exception.message)
        self.assertGreater(tension_from_pitch(45.0, long).tension_n, 0)
        tension_from_pitch(2800.0, self.FREE)
        with self.assertRaises(BadReading):
            tension_from_pitch(90.0, replace(self.FREE, length_mm=60.0))

    def test_evenness_goes_with_the_square(self) -> None:
        np.testing.assert_allclose(evenness_percent([400, 400, 440]), 100 * (np.array([1, 1, 1.21]) / (3.21 / 3) - 1))

    def test_free_length_to_the_last_crossing(self) -> None:
        """By lines in the plane of the wheel: the nearest crossing with a spoke of the same side, or the whole spoke."""
        butted = SideLacing(10, 0, Spoke(2.0, 1.7))
        radial = replace(ALL["small-front-20"], right=butted, left=butted)
        for key, wheel in (
            (k, ALL.get(k, radial)) for k in ("rim-brake-rear-36", "rim-brake-front-32", "small-front-20", "radial")
        ):
            laced = lace(wheel)
            for spoke in ("R1", "R2", "L3"):
                i = wheel.index_of[spoke]
                side = Side.RIGHT if spoke[0] == "R" else Side.LEFT
                shares = []
                for j, name in enumerate(wheel.names):
                    if j == i or name.side is not side:
                        continue
                    way, other = (laced.hub_hole_mm[k, :2] - laced.seat_mm[k, :2] for k in (i, j))
                    matrix = np.column_stack([way, -other])
                    if abs(np.linalg.det(matrix)) < 1e-6:
                        continue
                    t, u = np.linalg.solve(matrix, laced.seat_mm[j, :2] - laced.seat_mm[i, :2])
                    if 0.02 < t < 0.98 and 0.02 < u < 0.98:
                        shares.append(t)
                whole = laced.span_mm[i]
                expected = min(shares, default=1.0) * whole
                found = free_length(wheel, spoke)
                with self.subTest(key, spoke=spoke):
                    self.assertAlmostEqual(found.length_mm, expected)
                    self.assertEqual(found.sd_mm, 8.0 if shares else 3.0)
                    kind = wheel.side(side).spoke
                    ends = 1 if shares else 2
                    thick = min(ends * kind.end_length_mm, expected)
                    area = (thick * kind.end_area_mm2 + (expected - thick) * kind.middle_area_mm2) / expected
                    self.assertAlmostEqual(found.mass_kg_m, area * 1e-6 * kind.elastic.density_kg_m3)
                    self.assertAlmostEqual(found.ei_n_mm2, bending_stiffness_n_mm2(kind))
                    self.assertAlmostEqual(free_length(wheel, spoke, "whole").length_mm, whole)
                    self.assertEqual(free_length(wheel, spoke, CROSSING), found)

    def tone(self, hz: float, rate: int = 22_050, seconds: float = 0.6, stiff: float = 0.0) -> np.ndarray:
        t = np.arange(int(seconds * rate)) / rate
        parts = [np.sin(2 * np.pi * n * hz * math.sqrt(1 + stiff * n**2) * t) * np.exp(-t * (2 + n)) / n for n in range(1, 6)]
        return np.asarray(np.sum(parts, axis=0))

    def test_pitches_are_heard_to_a_hundred_thousandth(self) -> None:
        silence = np.zeros(2205)
        for hz in (92.0, 110.0, 233.0, 456.0, 880.0, 1300.0, 1390.0):
            heard = plucks(np.concatenate([silence, self.tone(hz)]), 22_050)
            with self.subTest(hz=hz):
                self.assertEqual(len(heard), 1)
                self.assertAlmostEqual(heard[0].hz / hz, 1, 5)
                self.assertAlmostEqual(heard[0].sd_hz / hz, 0.001, 6)
                self.assertAlmostEqual(heard[0].at_s, 0.1, delta=0.011)
                self.assertGreater(heard[0].clarity, 0.8)
                self.assertLess(heard[0].sd_hz, 0.02 * hz)
                self.assertGreaterEqual(heard[0].sd_hz, 0.001 * heard[0].hz)

    def test_a_stiff_string_s_partials_are_stretched(self) -> None:
        """f_n = n f0 √(1 + B n²) (Fletcher 1964): the first partial is what is heard."""
        for stiff, places in ((0.001, 5), (0.002, 5), (0.02, 2), (0.06, 2)):
            for hz in (180.0, 400.0, 720.0):
                heard = plucks(np.concatenate([np.zeros(2205), self.tone(hz, stiff=stiff)]), 22_050)
                with self.subTest(hz=hz, stiff=stiff):
                    self.assertAlmostEqual(heard[0].hz / (hz * math.sqrt(1 + stiff)), 1, places)
                    if stiff <= 0.002:
                        self.assertAlmostEqual(heard[0].sd_hz / heard[0].hz, 0.001, 6)

    def test_one_partial_alone_is_its_own_pitch_and_less_sure(self) -> None:
        t = np.arange(13_230) / 22_050
        heard = plucks(np.concatenate([np.zeros(2205), np.sin(2 * np.pi * 523.0 * t) * np.exp(-3 * t)]), 22_050)
        self.assertAlmostEqual(heard[0].hz, 523.0, 1)
        self.assertAlmostEqual(heard[0].sd_hz, 5.23, 2)

    def test_what_hums_on_is_no_pluck(self) -> None:
        """Four times what is there nine tenths of the time, a rise begins to count."""
        rng = np.random.default_rng(3)
        hum = rng.normal(0, 0.02, 3 * 8000)
        tone = self.tone(300.0, 8000, 0.5) * np.exp(-8 * np.arange(4000) / 8000)
        loud, soft = hum.copy(), hum.copy()
        for part in (loud, soft):
            part[2000:6000] += tone
        loud[12_000:16_000] += 0.3 * tone
        soft[12_000:16_000] += 0.08 * tone
        self.assertEqual((len(plucks(loud, 8000)), len(plucks(soft, 8000))), (2, 1))

    def test_a_weak_first_partial_is_still_the_pitch(self) -> None:
        """The second and third stand an octave and a fifth and so on apart: the tone below them is what sounds."""
        t = np.arange(13_230) / 22_050
        sound = sum(a * np.sin(2 * np.pi * n * 300 * t) * np.exp(-3 * t) for n, a in ((1, 0.05), (2, 1.0), (3, 0.8), (4, 0.5)))
        heard = plucks(np.concatenate([np.zeros(2205), np.asarray(sound)]), 22_050)
        self.assertAlmostEqual(heard[0].hz, 300, 1)

    def test_the_period_by_its_definition(self) -> None:
        """McLeod's normalised square difference, 2Σxx'/Σ(x² + x'²), summed as written: the first peak within 85 % of
        the best."""
        rng = np.random.default_rng(2)
        for hz in (150.0, 420.0, 1200.0):
            window = self.tone(hz, 8000, 0.3) + rng.normal(0, 0.05, 2400)
            nsdf = np.array(
                [
                    2 * window[: 2400 - k] @ window[k:] / (window[: 2400 - k] @ window[: 2400 - k] + window[k:] @ window[k:])
                    for k in range(200)
                ]
            )
            first = int(np.argmax(nsdf < 0))
            peaks = [k for k in range(first + 1, 89) if nsdf[k] > nsdf[k - 1] and nsdf[k] >= nsdf[k + 1]]
            best = max(nsdf[k] for k in peaks)
            chosen = next(k for k in peaks if nsdf[k] >= 0.85 * best)
            bend = np.polyfit([-1, 0, 1], nsdf[chosen - 1 : chosen + 2], 2)
            period, clarity = _period(window, 8000)
            self.assertAlmostEqual(period or 0, chosen - bend[1] / (2 * bend[0]), 6)
            self.assertAlmostEqual(clarity, nsdf[chosen], 9)
        self.assertEqual(_period(np.ones(12), 8000), (None, 0.0))
        rising = np.arange(400.0)
        self.assertEqual(_period(rising, 8000), (None, 0.0))

    def test_where_plucks_begin(self) -> None:
        """Each pluck at its frame of ten milliseconds, not sooner than a quarter of a second after the last."""
        rate = 8000
        tone = self.tone(300.0, rate, 0.5) * np.exp(-8 * np.arange(4000) / rate)
        close = np.concatenate([np.zeros(800), tone[:1600], tone[:1600], tone])
        self.assertEqual([round(t.at_s, 3) for t in plucks(close, rate)], [0.1, 0.5])
        apart = np.concatenate([np.zeros(800), tone[:2000], tone[:2080], tone])
        self.assertEqual([round(t.at_s, 2) for t in plucks(apart, rate)], [0.1, 0.35, 0.61])
        self.assertEqual([t.at_s for t in plucks(tone, rate)], [0.0])
        # A last pluck of which less than a tenth of a second is left says nothing.
        self.assertEqual(len(plucks(np.concatenate([np.zeros(800), tone, tone[:800]]), rate)), 1)
        self.assertEqual(len(plucks(np.concatenate([np.zeros(800), tone, tone[:960]]), rate)), 2)
        quiet = np.concatenate([np.zeros(800), tone, 0.05 * tone])
        self.assertEqual(len(plucks(quiet, rate)), 1)
        self.assertEqual(len(plucks(np.concatenate([np.zeros(800), tone, 0.2 * tone]), rate)), 2)

    def test_several_in_order_and_noise_is_no_tone(self) -> None:
        several = np.concatenate([np.zeros(2205), self.tone(300.0), self.tone(420.0), self.tone(360.0)])
        heard = plucks(several, 22_050)
        self.assertEqual([round(t.hz / 10) * 10 for t in heard], [300, 420, 360])
        np.testing.assert_allclose([t.at_s for t in heard], [0.1, 0.7, 1.3], atol=0.011)
        rng = np.random.default_rng(0)
        self.assertEqual(plucks(rng.normal(0, 1, 22_050), 22_050), [])

    def test_recordings_that_cannot_be(self) -> None:
        good = np.concatenate([np.zeros(300), self.tone(300.0, 5600, 0.5)])
        plucks(good, 5600)
        for samples, rate in (
            (good, 5599),
            (np.zeros(5600), 5600),
            (good[:559], 5600),
            (np.append(good, np.nan), 5600),
            (np.ones(5600 * 241), 5600),
        ):
            with self.assertRaises(BadReading):
                plucks(samples, rate)


if __name__ == "__main__":
    unittest.main()
