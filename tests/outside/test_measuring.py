"""Tension by ear, three-point bending and statistics, each against something outside the project."""

from __future__ import annotations

import unittest

import numpy as np
from scipy.integrate import solve_bvp

from felloe.core.components import Spoke
from felloe.core.lacing.pattern import lace
from felloe.core.measuring.repeats import mean_and_sd
from felloe.core.tension.meter import MeterTable
from felloe.core.tension.pitch import CROSSING, WHOLE, FreeLength, free_length, pitch_of_tension, plucks, tension_from_pitch
from felloe.core.tension.three_point import (
    BendingMeter,
    bending_stiffness_n_mm2,
    carried_over,
    fit_meter,
    mid_stiffness_n_mm,
)
from felloe.core.units import INCH_MM, KGF_N, POUND_KG
from tests.core.wheels import REAR
from tests.plucking import RATE, plucked


class Mersenne(unittest.TestCase):
    """Mersenne, *Harmonie universelle* (1636): f = (1/2ℓ)·sqrt(T/μ)."""

    def test_the_law_itself_for_a_string_without_stiffness(self) -> None:
        free = FreeLength(250.0, 0.0, 0.0248, 0.0)
        for tension in (200.0, 900.0):
            wanted = np.sqrt(tension / 0.0248) / (2 * 0.25)
            self.assertAlmostEqual(pitch_of_tension(tension, free), wanted, places=9)
            self.assertAlmostEqual(tension_from_pitch(wanted, free).tension_n, tension, places=6)

    def test_twice_as_long_an_octave_lower_and_four_times_as_tight_one_higher(self) -> None:
        short, long = FreeLength(200.0, 0, 0.0248, 0), FreeLength(400.0, 0, 0.0248, 0)
        self.assertAlmostEqual(pitch_of_tension(800, short) / pitch_of_tension(800, long), 2)
        self.assertAlmostEqual(pitch_of_tension(1200, short) / pitch_of_tension(300, short), 2)

    def test_synthesised_plucks_with_stiffness_and_noise(self) -> None:
        rng = np.random.default_rng(0)
        errors = []
        for trial in range(30):
            free = free_length(REAR, "R1" if trial % 2 else "L1", CROSSING if trial % 3 else WHOLE)
            tension = float(rng.uniform(300, 1300))
            tones = plucks(plucked(free, tension, rng), RATE)
            self.assertEqual(len(tones), 1, f"{trial}: {tension:.0f} N")
            errors.append(tension_from_pitch(tones[0].hz, free).tension_n / tension - 1)
        self.assertLess(max(np.abs(errors)), 0.06)
        self.assertLess(float(np.median(np.abs(errors))), 0.015)

    def test_a_whole_side_in_order(self) -> None:
        rng = np.random.default_rng(3)
        free = free_length(REAR, "R1")
        tensions = rng.uniform(700, 1200, 18)
        sound = np.concatenate([plucked(free, t, rng, seconds=0.5) for t in tensions])
        tones = plucks(sound, RATE)
        self.assertEqual(len(tones), 18)
        heard = np.array([tension_from_pitch(tone.hz, free).tension_n for tone in tones])
        np.testing.assert_allclose(heard, tensions, rtol=0.06)

    def test_the_crossing_lies_where_two_lines_meet(self) -> None:
        """A 3-cross spoke's last crossing: its line solved with every other of its side, in the wheel's plane."""
        laced = lace(REAR)
        i = REAR.index_of["R3"]
        a, b = laced.seat_mm[i, :2], laced.hub_hole_mm[i, :2]
        shares = []
        for j, name in enumerate(REAR.names):
            if j != i and name.side.value == "R":
                c, d = laced.seat_mm[j, :2], laced.hub_hole_mm[j, :2]
                columns = np.column_stack([b - a, c - d])
                if abs(np.linalg.det(columns)) < 1e-6:
                    continue
                t, u = np.linalg.solve(columns, c - a)
                if 0.001 < t < 0.999 and 0.001 < u < 0.999:
                    shares.append(t)
        self.assertEqual(len(shares), 3)
        wanted = min(shares) * np.linalg.norm(laced.hub_hole_mm[i] - laced.seat_mm[i])
        self.assertAlmostEqual(free_length(REAR, "R3").length_mm, wanted, places=6)


class ThreePoint(unittest.TestCase):
    """A beam under tension, against its differential equation solved by collocation and the handbook's limits."""

    def test_against_the_differential_equation(self) -> None:
        """EI times the fourth derivative = T times the second, a point load in the middle, by scipy's solve_bvp."""
        ei, span, load = 157_080.0, 100.0, 60.0
        for tension in (50.0, 400.0, 1200.0):

            def rhs(_: np.ndarray, y: np.ndarray, tension: float = tension) -> np.ndarray:
                return np.vstack([y[1], y[2], y[3], tension / ei * y[2]])

            def ends(left: np.ndarray, middle: np.ndarray, tension: float = tension) -> np.ndarray:
                # Held at the post; in the middle no slope, and the shear carries half the load.
                return np.array([left[0], left[2], middle[1], ei * middle[3] - tension * middle[1] - load / 2])

            x = np.linspace(0, span / 2, 60)
            solved = solve_bvp(rhs, ends, x, np.zeros((4, len(x))), tol=1e-8, max_nodes=20_000)
            self.assertTrue(solved.success)
            deflection = abs(float(solved.sol(span / 2)[0]))
            self.assertAlmostEqual(load / deflection / mid_stiffness_n_mm(tension, span, ei), 1, places=5)

    def test_the_handbooks_limits(self) -> None:
        """Roark, simple beam with a central load: 48 EI/s^3; a cord without stiffness: 4 T/s."""
        self.assertAlmostEqual(mid_stiffness_n_mm(0, 100, 1e5), 48 * 1e5 / 100**3)
        self.assertAlmostEqual(mid_stiffness_n_mm(1e-4, 100, 1e5) / (48 * 1e5 / 100**3), 1, places=5)
        self.assertAlmostEqual(mid_stiffness_n_mm(1000, 400, 1e-3) / (4 * 1000 / 400), 1, places=4)

    def test_bending_stiffness(self) -> None:
        """Second moments of area: a circle's; a blade's lies between the flat inside it and the flat round it."""
        steel = Spoke(2.0).elastic.youngs_modulus_mpa
        self.assertAlmostEqual(bending_stiffness_n_mm2(Spoke(2.0)), steel * np.pi * 16 / 64)
        blade = bending_stiffness_n_mm2(Spoke(2.0, blade_thickness_mm=0.9, blade_width_mm=2.2)) / steel
        self.assertTrue((2.2 - 0.9) * 0.9**3 / 12 < blade < 2.2 * 0.9**3 / 12)

    def test_carried_over_to_another_thickness(self) -> None:
        """A meter that is exactly spring and plunger: its table for 2.0 mm gives its own table for 1.8 mm back."""
        meter = BendingMeter(100, -0.05, 2.6, 30, 1.2, 2.0)
        readings = [float(r) for r in np.linspace(8, 32, 13)]
        table = MeterTable("round 2.0", tuple(readings), tuple(meter.tension_n(r, Spoke(2.0)) or 0.0 for r in readings))
        thin = Spoke(2.0, middle_diameter_mm=1.8)
        derived = carried_over(fit_meter(table, Spoke(2.0), 100, -0.05), table, thin)
        for reading, force in zip(derived.readings, derived.forces_n, strict=True):
            self.assertAlmostEqual(force / (meter.tension_n(reading, thin) or 1), 1, delta=0.002)
        self.assertGreater(derived.residual_n, 2 * table.residual_n)


class Statistics(unittest.TestCase):
    """NIST StRD, univariate summary statistics: the sets whose data are given by a rule. Certified values from memory."""

    def test_numacc(self) -> None:
        for name, start, low, high, count, mean, sd in (
            ("NumAcc1", 10000001.0, 10000003.0, 10000002.0, 3, 10000002.0, 1.0),
            ("NumAcc2", 1.2, 1.1, 1.3, 1001, 1.2, 0.1),
            ("NumAcc3", 1000000.2, 1000000.1, 1000000.3, 1001, 1000000.2, 0.1),
            ("NumAcc4", 10000000.2, 10000000.1, 10000000.3, 1001, 10000000.2, 0.1),
        ):
            values = [start] + [low if i % 2 == 0 else high for i in range(count - 1)]
            found_mean, found_sd = mean_and_sd(values)
            with self.subTest(name):
                self.assertAlmostEqual(found_mean / mean, 1, places=14)
                # The data themselves are rounded in binary: nine digits at NumAcc3, eight at NumAcc4.
                self.assertAlmostEqual(found_sd / sd, 1, places=7 if name == "NumAcc4" else 8)

    def test_the_formula_that_cancels_would_fail(self) -> None:
        """The one-pass formula loses NumAcc4 altogether; this is why two passes are taken."""
        values = np.array([10000000.2] + [10000000.1, 10000000.3] * 500)
        naive = np.sqrt(max(0.0, float(np.sum(values**2) - len(values) * values.mean() ** 2)) / (len(values) - 1))
        self.assertGreater(abs(naive / 0.1 - 1), 1e-6)


class Units(unittest.TestCase):
    def test_exact_by_definition(self) -> None:
        """ISO 80000-4 (standard gravity); international yard and pound agreement of 1959."""
        self.assertAlmostEqual(POUND_KG * KGF_N, 4.4482216152605, places=13)
        self.assertEqual(INCH_MM, 25.4)
