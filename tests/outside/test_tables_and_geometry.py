"""Tables against their standards, lengths against plain 3D geometry."""

import math
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from felloe.core.bead_seats import BEAD_SEAT_DIAMETERS_MM
from felloe.core.components import THREAD_PITCH_MM, Flange, Hub, Rim, SideLacing, Wheel
from felloe.core.lacing.pattern import lace
from felloe.core.materials import MATERIALS
from felloe.core.naming import Side
from felloe.core.spokes.length import spoke_length_mm, stretch_mm
from felloe.core.units import KGF_N, kgf_from_newton, newton_from_kgf, turns_as_fraction
from felloe.core.wire_gauges import SWG_DIAMETER_MM, nearest_gauge
from tests.core.wheels import ALL


class Tables(unittest.TestCase):
    def test_swg_by_bs_3737(self) -> None:
        """BS 3737 gives inches: 12 = 0.104, 13 = 0.092, 14 = 0.080, 15 = 0.072, 16 = 0.064."""
        inches = {12: 0.104, 13: 0.092, 14: 0.080, 15: 0.072, 16: 0.064}
        for gauge, inch in inches.items():
            self.assertAlmostEqual(SWG_DIAMETER_MM[gauge], inch * 25.4, places=3)
        self.assertEqual(nearest_gauge(2.0), 14)
        self.assertEqual(nearest_gauge(1.8), 15)
        self.assertIsNone(nearest_gauge(2.15))

    def test_bead_seats_by_iso_5775(self) -> None:
        """ISO 5775, the sixteen in use; checked by their sum as typed from the standard's list."""
        self.assertEqual(len(set(BEAD_SEAT_DIAMETERS_MM)), 16)
        self.assertEqual(
            sum(BEAD_SEAT_DIAMETERS_MM),
            635 + 630 + 622 + 590 + 584 + 571 + 559 + 547 + 540 + 520 + 507 + 451 + 406 + 355 + 349 + 305,
        )

    def test_kgf_by_iso_80000(self) -> None:
        """ISO 80000-4: standard gravity 9.80665 m/s², exact."""
        self.assertEqual(KGF_N, 9.80665)
        self.assertAlmostEqual(newton_from_kgf(100), 980.665)
        self.assertAlmostEqual(kgf_from_newton(newton_from_kgf(73.2)), 73.2)

    def test_thread_pitch(self) -> None:
        """56 threads per inch (BS 811 / ISO cycle thread, from memory): 0.4536 mm."""
        self.assertAlmostEqual(THREAD_PITCH_MM, 0.4536, places=4)

    def test_moduli(self) -> None:
        """EN 1993-1-1: carbon steel 210 GPa; EN 1993-1-4 (from memory): stainless 200 GPa."""
        self.assertEqual(MATERIALS["carbon_steel"].youngs_modulus_mpa, 210_000)
        self.assertEqual(MATERIALS["stainless"].youngs_modulus_mpa, 200_000)
        self.assertTrue(105_000 <= MATERIALS["titanium"].youngs_modulus_mpa <= 116_000)
        self.assertTrue(69_000 <= MATERIALS["aluminium"].youngs_modulus_mpa <= 72_000)

    def test_fractions(self) -> None:
        said = {0.125: "1/8", -0.25: "1/4", 0.5: "1/2", 0.625: "5/8", 1.0: "1", -1.25: "1 1/4", 0.0625: "1/16"}
        for turns, text in said.items():
            self.assertEqual(turns_as_fraction(turns), text)
        with self.assertRaises(ValueError):
            turns_as_fraction(0.1)


def seat_to_hole(erd: float, circle: float, bracing: float, count: int, crossings: int) -> float:
    """Distance of two points in space, built without the law of cosines."""
    alpha = 2 * math.pi * crossings / count
    seat = np.array([erd / 2, 0.0, 0.0])
    hole = np.array([circle / 2 * math.cos(alpha), circle / 2 * math.sin(alpha), bracing])
    return float(np.linalg.norm(seat - hole))


class Lengths(unittest.TestCase):
    @settings(max_examples=200, deadline=None, derandomize=True)
    @given(
        st.floats(350, 620),
        st.floats(35, 70),
        st.floats(16, 40),
        st.floats(16, 40),
        st.sampled_from([20, 24, 28, 32, 36, 40, 48]),
        st.integers(0, 4),
    )
    def test_law_of_cosines_against_points_in_space(self, erd, circle, right, left, count, crossings) -> None:
        side = SideLacing(count // 2, min(crossings, count // 8))
        wheel = Wheel(Rim(erd), Hub(140, Flange(circle, right), Flange(circle + 5, left)), side, side)
        for which, bracing, pitch_circle in ((Side.RIGHT, right, circle), (Side.LEFT, left, circle + 5)):
            by_points = seat_to_hole(erd, pitch_circle, bracing, side.count, side.crossings) - 2.6 / 2
            self.assertAlmostEqual(spoke_length_mm(wheel, which), by_points, places=9)

    def test_lacing_in_space_has_the_computed_lengths(self) -> None:
        for key, wheel in ALL.items():
            if wheel.right.count != wheel.left.count:
                continue
            laced = lace(wheel)
            for side in Side:
                hole = wheel.hub.flange(side).hole_diameter_mm
                with self.subTest(key, side=side):
                    np.testing.assert_allclose(
                        laced.span_mm[wheel.on_side(side)] - hole / 2, spoke_length_mm(wheel, side), atol=1e-9
                    )

    def test_worked_example_by_hand(self) -> None:
        """36 holes, 3-cross: R = 300, r = 22.5, w = 20, α = 60°: √(90000 + 506.25 + 400 − 6750) − 1.3 = 288.787 mm."""
        wheel = Wheel(Rim(600), Hub(130, Flange(45, 20), Flange(45, 36)), SideLacing(18, 3), SideLacing(18, 3))
        self.assertAlmostEqual(spoke_length_mm(wheel, Side.RIGHT), math.sqrt(84156.25) - 1.3, places=9)
        self.assertAlmostEqual(spoke_length_mm(wheel, Side.RIGHT), 288.797, places=3)

    def test_stretch_is_half_to_one_millimetre_at_1000_newton(self) -> None:
        """ΔL = T·L/(E·A), Hooke's law: about 0.5 mm at 1000 N for a 2.0 mm spoke."""
        wheel = ALL["rim-brake-rear-36"]
        length = spoke_length_mm(wheel, Side.RIGHT)
        self.assertAlmostEqual(stretch_mm(wheel, Side.RIGHT, 1000), 1000 * length / (200_000 * math.pi), places=6)
