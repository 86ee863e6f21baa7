"""The bend of a spoke at its nipple, by drawing it; and which generic kinds belong to an end of the bike and its brake.

The bend is worked out here by coordinates and the scalar product, and by the law of sines for one worked example, neither of
which the code uses.
"""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

import numpy as np

from felloe.core.components import Flange, Hub, Rim, SideLacing, Spoke, Wheel
from felloe.core.lacing.crossings import bend_deg, bent, crossings_table
from felloe.core.naming import Side
from felloe.core.spokes.suspicions import suspicions
from felloe.core.wheel_kinds import WHEEL_KINDS, kinds_for

#: A big drum hub in a small rim: 90 mm pitch circle, ERD 388, 14 spokes a side.
DRUM = Wheel(
    Rim(388, 406),
    Hub(100, Flange(90, 28), Flange(90, 28)),
    SideLacing(14, 3, Spoke(2.0)),
    SideLacing(14, 3, Spoke(2.0)),
)


def drawn_deg(wheel: Wheel, side: Side) -> float:
    """The same angle from vectors: seat to hole against seat to axle."""
    alpha = wheel.lead_angle_rad(side)
    hole = np.array([wheel.hub.flange(side).pitch_circle_mm / 2, 0.0])
    seat = wheel.rim.erd_mm / 2 * np.array([math.cos(alpha), math.sin(alpha)])
    one, two = hole - seat, -seat
    return math.degrees(math.acos(float(one @ two) / float(np.linalg.norm(one) * np.linalg.norm(two))))


class Bend(unittest.TestCase):
    def test_against_a_drawing_for_every_kind(self) -> None:
        for key, kind in WHEEL_KINDS.items():
            for side in Side:
                with self.subTest(key, side=side.value):
                    self.assertAlmostEqual(bend_deg(kind.wheel, side), drawn_deg(kind.wheel, side), places=6)

    def test_a_worked_example_by_the_law_of_sines(self) -> None:
        """3-cross with 14: α = 3 · 360/14 = 77.14°; the spoke's run 189.2; sin β = 45 · sin α / run: 13.4°."""
        alpha = math.radians(3 * 360 / 14)
        run = math.sqrt(45**2 + 194**2 - 2 * 45 * 194 * math.cos(alpha))
        self.assertAlmostEqual(bend_deg(DRUM, Side.RIGHT), math.degrees(math.asin(45 * math.sin(alpha) / run)), places=6)
        self.assertAlmostEqual(bend_deg(DRUM, Side.RIGHT), 13.4, delta=0.2)

    def test_radial_spokes_leave_straight_and_more_crossings_bend_more(self) -> None:
        angles = [row.bend_deg for row in crossings_table(DRUM, Side.RIGHT)[:4]]
        self.assertAlmostEqual(angles[0] or 0.0, 0.0, places=9)
        self.assertEqual(angles, sorted(angles, key=lambda a: a or 0.0))
        self.assertIsNone(crossings_table(DRUM, Side.RIGHT)[4].bend_deg)

    def test_a_big_hub_in_a_small_rim_is_not_called_good(self) -> None:
        rows = crossings_table(DRUM, Side.RIGHT)
        self.assertIn("not good", rows[3].why)
        self.assertNotIn("good for drive", rows[3].why)
        self.assertNotIn("not good", rows[1].why)
        usual = crossings_table(WHEEL_KINDS["rim-brake-rear-36"].wheel, Side.RIGHT)
        self.assertIn("good for drive", usual[3].why)

    def test_the_border_of_good_and_bad(self) -> None:
        self.assertEqual(bent(7.4), "")
        self.assertIn("by hand", bent(7.6))
        self.assertNotIn("not good", bent(9.9))
        self.assertIn("not good", bent(10.1))

    def test_it_is_caught_where_the_wheel_is_measured(self) -> None:
        fields = {s.field for s in suspicions(DRUM)}
        self.assertIn("right.crossings", fields)
        fewer = replace(DRUM, right=replace(DRUM.right, crossings=1), left=replace(DRUM.left, crossings=1))
        self.assertNotIn("right.crossings", {s.field for s in suspicions(fewer)})
        for key, kind in WHEEL_KINDS.items():
            self.assertFalse({s.field for s in suspicions(kind.wheel)} & {"right.crossings", "left.crossings"}, key)


class Kinds(unittest.TestCase):
    def test_each_kind_belongs_to_one_end(self) -> None:
        front, rear = kinds_for("front", ""), kinds_for("rear", "")
        self.assertEqual({k.key for k in front} | {k.key for k in rear}, set(WHEEL_KINDS))
        self.assertFalse({k.key for k in front} & {k.key for k in rear})
        self.assertTrue(all("front" in k.key for k in front))

    def test_a_brake_leaves_out_what_is_built_for_another(self) -> None:
        for brake, never in (("rim", "disc-"), ("disc", "rim-brake"), ("disc", "bladed"), ("hub", "disc-")):
            for position in ("front", "rear"):
                keys = {k.key for k in kinds_for(position, brake)}
                with self.subTest(brake, position=position):
                    self.assertTrue(keys)
                    self.assertFalse({key for key in keys if key.startswith(never)})
