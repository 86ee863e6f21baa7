"""Dishing gauge, flipping, stand and frame gauge against a wheel and a frame built in space, point by point.

Nothing here knows the formulas: gaps and clearances are distances between points.
"""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from felloe.core.errors import BadReading
from felloe.core.naming import Side
from felloe.core.runout.dish import dish_from_flipping, dish_from_gauge, dish_from_stand, dish_target_from_face
from felloe.core.runout.frame_gauge import LEAVE, REFER, SET_BY_BUILDER, frame_error

mm = st.floats(-6, 6, allow_nan=False)


def wheel_points(dish_mm: float, old_mm: float, rim_width_mm: float, radius_mm: float) -> dict[str, np.ndarray]:
    """Axle ends and rim edges in a frame whose z points right, the locknuts' middle at 0."""
    angles = np.linspace(0, 2 * np.pi, 24, endpoint=False)
    ring = np.column_stack([radius_mm * np.cos(angles), radius_mm * np.sin(angles), np.zeros(24)])
    z = np.array([0, 0, 1.0])
    return {
        "R": z * old_mm / 2,
        "L": -z * old_mm / 2,
        "rim_R": ring + z * (dish_mm + rim_width_mm / 2),
        "rim_L": ring + z * (dish_mm - rim_width_mm / 2),
    }


def gauge_depth(points: dict[str, np.ndarray], side: Side) -> float:
    """Feet on the rim's edge of one side: how far out the locknut stands beyond the plane of the feet."""
    feet = points[f"rim_{side.value}"]
    normal = np.cross(feet[6] - feet[0], feet[12] - feet[0])
    normal = normal / np.linalg.norm(normal) * np.sign(normal[2]) * side.sign
    return float((points[side.value] - feet[0]) @ normal)


class Dish(unittest.TestCase):
    @given(mm, st.floats(90, 150), st.floats(15, 40), st.sampled_from(list(Side)))
    def test_gauge(self, dish_mm: float, old_mm: float, width_mm: float, set_on: Side) -> None:
        points = wheel_points(dish_mm, old_mm, width_mm, 300)
        # Set to the locknut on one side; on the other the pointer stands off by the difference of the two depths.
        gap = gauge_depth(points, set_on) - gauge_depth(points, set_on.other)
        self.assertAlmostEqual(dish_from_gauge(gap, set_on.other).dish_mm, dish_mm, places=9)

    @given(mm, st.floats(30, 60), st.floats(15, 40))
    def test_flipping(self, dish_mm: float, pointer_mm: float, width_mm: float) -> None:
        points = wheel_points(dish_mm, 130, width_mm, 300)
        right_way = pointer_mm - points["rim_R"][0, 2]
        about_vertical = np.diag([1.0, -1.0, -1.0])
        flipped = pointer_mm - float((points["rim_L"] @ about_vertical)[:, 2].max())
        self.assertAlmostEqual(dish_from_flipping(right_way, flipped).dish_mm, dish_mm, places=9)

    @given(mm, st.floats(-3, 3))
    def test_a_stand_that_points_aside(self, dish_mm: float, stand_error_mm: float) -> None:
        seen = dish_mm - stand_error_mm
        side = Side.RIGHT if seen >= 0 else Side.LEFT
        found = dish_from_stand(abs(seen), side, stand_error_mm)
        self.assertAlmostEqual(found.dish_mm, dish_mm, places=9)
        self.assertGreater(found.sd_mm, dish_from_flipping(1, 1).sd_mm)

    def test_a_rim_stated_from_a_face(self) -> None:
        self.assertAlmostEqual(dish_target_from_face(130, Side.RIGHT, 61.5), 3.5)
        self.assertAlmostEqual(dish_target_from_face(130, Side.LEFT, 68.5), 3.5)


class Frame(unittest.TestCase):
    """A frame gauge lies on head tube and seat tube; stays that swing about their root carry axle and wheel along."""

    @given(st.floats(-5, 5).filter(lambda v: abs(v) > 0.01), st.floats(380, 480), st.floats(200, 340))
    def test_gap_and_share_at_the_rim(self, offset_mm: float, stay_mm: float, rim_mm: float) -> None:
        half = 65.0
        swing = np.arcsin(offset_mm / stay_mm)
        turn = np.array([[np.cos(swing), -np.sin(swing)], [np.sin(swing), np.cos(swing)]])
        # x back along the frame from the stays' root, y to the right.
        right, left, rim = (turn @ np.array(p) for p in ((stay_mm, half), (stay_mm, -half), (stay_mm - rim_mm, 0.0)))
        pointer = max(right[1], -left[1])
        gaps = pointer - right[1], pointer + left[1]
        found = frame_error(max(gaps[0], 0), max(gaps[1], 0), "steel", "rear", rim_mm, stay_mm)
        self.assertAlmostEqual(found.offset_mm, offset_mm, delta=1e-6)
        self.assertAlmostEqual(found.at_rim_mm[0], rim[1], delta=1e-3)
        self.assertAlmostEqual(found.at_rim_mm[1], offset_mm, delta=1e-6)

    def test_setting_each_stay_by_half_the_gap_centres_it_and_keeps_the_width(self) -> None:
        found = frame_error(0, 6, "steel", "rear", 311)
        right, left = 65.0 + 3, -65.0 + 3
        self.assertEqual(found.toward, Side.RIGHT)
        set_right, set_left = right - found.each_stay_mm, left - found.each_stay_mm
        self.assertAlmostEqual(set_right + set_left, 0)
        self.assertAlmostEqual(set_right - set_left, 130)

    def test_only_steel_is_set_and_little_is_left(self) -> None:
        self.assertEqual(frame_error(0, 6, "steel", "rear", 311).advice, SET_BY_BUILDER)
        for material in ("aluminium", "carbon", "titanium", "unknown"):
            self.assertEqual(frame_error(0, 6, material, "rear", 311).advice, REFER, material)
            self.assertEqual(frame_error(3, 0, material, "rear", 311).advice, LEAVE, material)

    def test_refusals(self) -> None:
        for gaps in ((-1, 0), (2, 2), (99, 0), (float("nan"), 0)):
            with self.subTest(gaps=gaps), self.assertRaises(BadReading):
                frame_error(*gaps, "steel", "rear", 311)
        with self.assertRaises(BadReading):
            frame_error(0, 1, "bamboo", "rear", 311)
