"""Properties that hold for any wheel: mirroring mirrors, and the planner's figures agree with themselves."""

import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from felloe.core.components import Flange, Hub, Rim, SideLacing, Wheel
from felloe.core.errors import ImpossibleGeometry
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading
from felloe.core.naming import Side
from felloe.core.tension.evenness import side_evenness
from felloe.core.tension.statics import expected_left_over_right
from felloe.core.truing.plan import PlanOptions, make_plan
from tests.core.wheels import REAR, influence

COUNTS = st.sampled_from([8, 10, 12, 14, 16, 18, 20, 24])


@st.composite
def wheels(draw) -> Wheel:
    """Any ordinary wheel, symmetric or dished, 16 to 48 spokes."""
    count = draw(COUNTS)
    side = SideLacing(count, draw(st.integers(0, min(4, count // 4))) if count % 2 == 0 else 0)
    rim = Rim(
        draw(st.floats(380, 610)),
        spoke_bed_offset_mm=draw(st.floats(-3, 3)),
        centroid_depth_mm=draw(st.floats(3, 15)),
        ei_lat_nm2=draw(st.floats(120, 400)),
        ei_rad_nm2=draw(st.floats(80, 400)),
        gj_nm2=draw(st.floats(25, 120)),
    )
    hub = Hub(
        140, Flange(draw(st.floats(38, 70)), draw(st.floats(16, 38))), Flange(draw(st.floats(38, 70)), draw(st.floats(16, 38)))
    )
    return Wheel(rim, hub, side, side, draw(st.sampled_from(list(Side))))


def mirrored(wheel: Wheel) -> Wheel:
    """The wheel seen in a mirror: left and right changed over."""
    return Wheel(
        replace(wheel.rim, spoke_bed_offset_mm=-wheel.rim.spoke_bed_offset_mm),
        Hub(wheel.hub.old_mm, wheel.hub.left, wheel.hub.right),
        wheel.left,
        wheel.right,
        wheel.first_side.other,
    )


class Anywhere(unittest.TestCase):
    @settings(max_examples=40, deadline=None, derandomize=True)
    @given(wheels())
    def test_reciprocity_and_mirror(self, wheel: Wheel) -> None:
        one, two = influence_of(wheel), influence_of(mirrored(wheel))
        k, p = one.stiffness_n_mm, one.pitch_mm
        scaled = one.tension_n / (k[:, None] * (k * p)[None, :])
        np.testing.assert_allclose(scaled, scaled.T, atol=1e-10)
        np.testing.assert_allclose(one.lateral_mm, -two.lateral_mm, atol=1e-7)
        np.testing.assert_allclose(one.radial_mm, two.radial_mm, atol=1e-7)
        self.assertAlmostEqual(expected_left_over_right(wheel) * expected_left_over_right(mirrored(wheel)), 1)

    @settings(max_examples=40, deadline=None, derandomize=True)
    @given(wheels(), st.integers(0, 1000))
    def test_evenness_is_blind_to_a_common_factor(self, wheel: Wheel, seed: int) -> None:
        tension = np.random.default_rng(seed).uniform(300, 1200, wheel.spoke_count)
        for side in Side:
            one, two = (side_evenness(wheel, (f * tension).tolist(), side, 20) for f in (1.0, 1.7))
            self.assertAlmostEqual(one.spread_percent, two.spread_percent)
            self.assertEqual(one.outside, two.outside)
            self.assertTrue(one.min_n <= one.mean_n <= one.max_n)

    @settings(max_examples=60, deadline=None, derandomize=True)
    @given(st.floats(allow_nan=True), st.floats(allow_nan=True))
    def test_no_number_makes_a_silent_wheel(self, erd: float, flange: float) -> None:
        """Any float at all either makes a wheel that stands or is refused as impossible."""
        try:
            wheel = replace(
                REAR, rim=replace(REAR.rim, erd_mm=erd, bead_seat_mm=None), hub=replace(REAR.hub, left=Flange(45, flange))
            )
        except ImpossibleGeometry:
            return
        self.assertTrue(np.isfinite(influence_of(wheel).tension_n).all())


class Mirror(unittest.TestCase):
    def test_mirroring_the_readings_mirrors_the_plan(self) -> None:
        rng = np.random.default_rng(17)
        other = mirrored(REAR)
        swap = {"R": "L", "L": "R"}
        tension = [TensionReading(str(n), float(t)) for n, t in zip(REAR.names, rng.normal(700, 150, 36), strict=True)]
        lateral = [
            RunoutReading(a, float(v))
            for a, v in zip(REAR.angles_deg, 0.6 * np.cos(np.radians(REAR.angles_deg) * 2), strict=True)
        ]
        straight = Readings(tension, lateral, [], [DishReading(0.4)])
        changed = Readings(
            [TensionReading(swap[r.spoke[0]] + r.spoke[1:], r.tension_n, r.sd_n) for r in tension],
            [RunoutReading(r.angle_deg, -r.deviation_mm, r.sd_mm) for r in lateral],
            [],
            [DishReading(-0.4)],
        )
        one = make_plan(estimate_state(influence(REAR), straight), PlanOptions(limit_turns=1.0))
        two = make_plan(estimate_state(influence(other), changed), PlanOptions(limit_turns=1.0))
        np.testing.assert_allclose(one.turns, two.turns)
        self.assertAlmostEqual(one.after.dish_mm, -two.after.dish_mm, places=6)
