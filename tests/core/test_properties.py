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
from felloe.core.tension.statics import expected_left_over_right, side_targets_n
from felloe.core.truing.options import FLOOR_SHARE, PlanOptions
from felloe.core.truing.outcome import Expected
from felloe.core.truing.plan import TruingPlan, make_plan
from tests.core.wheels import REAR

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


@st.composite
def read_wheels(draw) -> tuple[Wheel, Readings]:
    """A wheel read at every spoke: any tensions, a smooth rim, any dish."""
    wheel = draw(wheels().filter(lambda w: w.spoke_count <= 36))
    rng = np.random.default_rng(draw(st.integers(0, 10_000)))
    angles = np.radians(wheel.angles_deg)
    tension = np.clip(rng.normal(700, 150, wheel.spoke_count), 50, 1150)
    lateral = 0.6 * np.cos(2 * angles + rng.uniform(0, 6)) + 0.3 * np.cos(3 * angles + rng.uniform(0, 6))
    radial = 0.3 * np.cos(2 * angles + rng.uniform(0, 6))
    return wheel, Readings(
        [TensionReading(str(n), float(t)) for n, t in zip(wheel.names, tension, strict=True)],
        [RunoutReading(a, float(v)) for a, v in zip(wheel.angles_deg, lateral, strict=True)],
        [RunoutReading(a, float(v)) for a, v in zip(wheel.angles_deg, radial, strict=True)],
        [DishReading(float(rng.normal(0, 0.5)))],
    )


class Plans(unittest.TestCase):
    """What holds for every plan."""

    options = PlanOptions(limit_turns=0.5)

    @settings(max_examples=15, deadline=None, derandomize=True)
    @given(read_wheels())
    def test_mirroring_the_readings_mirrors_the_plan(self, drawn: tuple[Wheel, Readings]) -> None:
        wheel, readings = drawn
        swap = {"R": "L", "L": "R"}
        changed = Readings(
            [TensionReading(swap[r.spoke[0]] + r.spoke[1:], r.tension_n, r.sd_n) for r in readings.tension],
            [RunoutReading(r.angle_deg, -r.deviation_mm, r.sd_mm) for r in readings.lateral],
            readings.radial,
            [DishReading(-d.dish_mm, d.sd_mm) for d in readings.dish],
        )
        one = make_plan(estimate_state(influence_of(wheel), readings), self.options)
        two = make_plan(estimate_state(influence_of(mirrored(wheel)), changed), self.options)
        self.same(one, two, one.turns)
        self.assertAlmostEqual(one.after.dish_mm, -two.after.dish_mm, delta=0.02 if np.allclose(one.turns, two.turns) else 0.2)

    @settings(max_examples=15, deadline=None, derandomize=True)
    @given(read_wheels(), st.integers(1, 11))
    def test_rotating_the_numbering_rotates_the_plan(self, drawn: tuple[Wheel, Readings], by: int) -> None:
        """Shifted by two spokes of a side, so that leading spokes stay leading ones."""
        wheel, readings = drawn
        places = 4 * by % wheel.spoke_count
        rolled = np.roll(np.arange(wheel.spoke_count), places)

        def moved(values: list) -> list:
            return [values[i] for i in rolled]

        changed = Readings(
            [
                TensionReading(str(n), r.tension_n, r.sd_n)
                for n, r in zip(wheel.names, moved(list(readings.tension)), strict=True)
            ],
            [
                RunoutReading(a, r.deviation_mm, r.sd_mm)
                for a, r in zip(wheel.angles_deg, moved(list(readings.lateral)), strict=True)
            ],
            [
                RunoutReading(a, r.deviation_mm, r.sd_mm)
                for a, r in zip(wheel.angles_deg, moved(list(readings.radial)), strict=True)
            ],
            readings.dish,
        )
        model = influence_of(wheel)
        one = make_plan(estimate_state(model, readings), self.options)
        two = make_plan(estimate_state(model, changed), self.options)
        self.same(one, two, one.turns[rolled])

    def price(self, plan: TruingPlan, expected: Expected, nipples: int) -> float:
        """Nipples, what is short of the chance, and what is out: what a plan trades against each other."""
        return nipples + 30 * max(0.0, 0.9 - expected.chance) + 40 * expected.excess

    def same(self, one: TruingPlan, two: TruingPlan, expected: np.ndarray) -> None:
        """The same plan; where rounding or the draws broke a tie otherwise, one that is as good within some nipples."""
        if not np.allclose(two.turns, expected):
            mine, other = (self.price(plan, plan.expected, plan.nipples) for plan in (one, two))
            self.assertAlmostEqual(mine, other, delta=5 + 0.2 * mine)
        self.assertAlmostEqual(one.before.excess, two.before.excess, delta=0.03 + 0.03 * one.before.excess)

    @settings(max_examples=25, deadline=None, derandomize=True)
    @given(read_wheels(), st.sampled_from(["balanced", "tighten_only", "ease_only", "straight_first", "round_first"]))
    def test_never_worse_than_nothing_and_never_above_the_cap_on_the_way(
        self, drawn: tuple[Wheel, Readings], mode: str
    ) -> None:
        wheel, readings = drawn
        state = estimate_state(influence_of(wheel), readings)
        plan = make_plan(state, PlanOptions(mode=mode))
        highest = float(state.tension_n.max())
        cap = wheel.rim.tension_cap_n
        if "No order keeps" not in plan.caution:
            self.assertLessEqual(plan.worst_tension_n, max(cap, highest) + 0.5 + 1e-6)
        targets = side_targets_n(wheel)
        floors = np.array([FLOOR_SHARE * targets[name.side] for name in wheel.names])
        if highest <= cap and np.all(state.tension_n >= floors):
            before, after = self.price(plan, plan.before, 0), self.price(plan, plan.expected, plan.nipples)
            self.assertLessEqual(after, before + 1.0)
        if mode == "tighten_only":
            self.assertGreaterEqual(plan.turns.min(), 0)
        if mode == "ease_only":
            self.assertLessEqual(plan.turns.max(), 0)
