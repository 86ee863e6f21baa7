"""First-order uncertainty of lengths against a Monte Carlo simulation (JCGM 101, the GUM's first supplement, from memory);
chords against points in the plane; swapped and unequal sides against distances in space."""

import math
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.stats import norm

from felloe.core.components import Flange, Hub, Rim, SideLacing, Wheel
from felloe.core.lacing.pattern import lace
from felloe.core.naming import Side
from felloe.core.spokes.fit import fit
from felloe.core.spokes.length import spoke_length_mm
from felloe.core.spokes.measuring import diameter_of_chord_mm
from felloe.core.spokes.nipple import Nipple
from felloe.core.spokes.uncertainty import FROM_LOCKNUT, OF_ITS_KIND_SD_MM, checked_sds, known_length
from felloe.core.wheel_kinds import WHEEL_KINDS


def shaken(wheel: Wheel, sds: dict[str, float], rng: np.random.Generator, from_locknuts: bool) -> Wheel:
    """The wheel with every dimension drawn from its normal distribution."""

    def off(name: str) -> float:
        return float(rng.normal(0, sds[name]))

    half_old = off("hub.old_mm") / 2 if from_locknuts else 0.0

    def flange(side: Side) -> Flange:
        old, path = wheel.hub.flange(side), f"hub.{side.word}"
        return Flange(
            old.pitch_circle_mm + off(f"{path}.pitch_circle_mm"),
            old.center_to_flange_mm + half_old + off(f"{path}.{'locknut' if from_locknuts else 'center'}_to_flange_mm"),
            old.hole_diameter_mm + off(f"{path}.hole_diameter_mm"),
        )

    rim = replace(
        wheel.rim,
        erd_mm=wheel.rim.erd_mm + off("rim.erd_mm"),
        spoke_bed_offset_mm=wheel.rim.spoke_bed_offset_mm + off("rim.spoke_bed_offset_mm"),
        bead_seat_mm=None,
    )
    return replace(wheel, rim=rim, hub=Hub(wheel.hub.old_mm, flange(Side.RIGHT), flange(Side.LEFT)))


class Uncertainty(unittest.TestCase):
    def test_first_order_against_monte_carlo(self) -> None:
        rng = np.random.default_rng(11)
        locknuts_sds = {"hub.old_mm": 2.0, "rim.erd_mm": 0.2, **dict.fromkeys(FROM_LOCKNUT, 1.0)}
        for key in ("rim-brake-rear-36", "disc-front-28", "hub-gear-rear-36"):
            for given_sds, locknuts in (
                ({}, False),
                (locknuts_sds, True),
                (OF_ITS_KIND_SD_MM, False),
            ):
                wheel = WHEEL_KINDS[key].wheel
                sds = checked_sds(given_sds, True)
                drawn = [shaken(wheel, sds, rng, locknuts) for _ in range(4000)]
                for side in Side:
                    lengths = np.array([spoke_length_mm(w, side) for w in drawn])
                    found = known_length(wheel, side, sds)
                    with self.subTest(key, side=side, locknuts=locknuts):
                        self.assertAlmostEqual(found.sd_mm / lengths.std(), 1, delta=0.05)
                        self.assertAlmostEqual(lengths.mean(), found.length_mm, delta=4 * found.sd_mm / math.sqrt(4000) + 0.02)
                        self.assertAlmostEqual(sum(share for _, share in found.shares), 1)

    def test_chance_in_the_nipple_by_a_reference_distribution(self) -> None:
        """scipy.stats.norm is the reference."""
        nipple = Nipple()
        for end in (-2.5, -0.4, 0.9):
            found = fit(290 + end, 290.6, 0.6, 0.5)
            expected = norm.cdf(1.0, end, 0.5) - norm.cdf(nipple.head_base_mm, end, 0.5)
            self.assertAlmostEqual(found.chance, expected, places=9)


class Geometry(unittest.TestCase):
    @settings(max_examples=100, deadline=None, derandomize=True)
    @given(st.floats(300, 620), st.integers(12, 48), st.integers(1, 47), st.floats(0, 6))
    def test_chords_against_points_on_a_circle(self, erd: float, holes: int, apart: int, sideways: float) -> None:
        apart = 1 + apart % (holes - 1)
        angle = 2 * math.pi * apart / holes
        first, second = np.array([erd / 2, 0, 0]), np.array([erd / 2 * math.cos(angle), erd / 2 * math.sin(angle), sideways])
        chord = float(np.linalg.norm(first - second))
        self.assertAlmostEqual(diameter_of_chord_mm(chord, holes, apart, sideways), erd, places=6)

    @settings(max_examples=60, deadline=None, derandomize=True)
    @given(
        st.floats(350, 620),
        st.floats(35, 70),
        st.floats(16, 40),
        st.floats(0, 3),
        st.floats(-3, 3),
        st.integers(0, 3),
        st.booleans(),
    )
    def test_every_length_in_space(self, erd, circle, lean, stagger, offset, crossings, unequal) -> None:
        """Stagger, offset bed and 16 against 8: the laced points in space are as far apart as the formula says."""
        right, left = (
            (SideLacing(16, crossings), SideLacing(8, 0)) if unequal else (SideLacing(14, crossings), SideLacing(14, 1))
        )
        rim = Rim(erd, spoke_bed_offset_mm=offset, stagger_mm=stagger)
        wheel = Wheel(rim, Hub(140, Flange(circle, lean + 5), Flange(circle + 4, 35)), right, left)
        laced = lace(wheel)
        for side in Side:
            elbow = wheel.hub.flange(side).hole_diameter_mm / 2
            np.testing.assert_allclose(laced.span_mm[wheel.on_side(side)] - elbow, spoke_length_mm(wheel, side), atol=1e-9)

    def test_flange_of_sixteen_is_evenly_drilled(self) -> None:
        wheel = WHEEL_KINDS["rear-24-two-to-one"].wheel
        laced = lace(wheel)
        angles = np.sort(np.mod(laced.hub_angle_rad[wheel.on_side(Side.RIGHT)], 2 * np.pi))
        np.testing.assert_allclose(np.diff(angles), 2 * np.pi / 16, atol=1e-9)
