"""A rim that belongs aside: everything counts dish from there."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from felloe.core.components import Wheel
from felloe.core.errors import BadReading, ImpossibleGeometry
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.readings import DishReading, Readings
from felloe.core.naming import Side
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.specification import wheel_from_dict, wheel_to_dict
from felloe.core.spokes.length import spoke_length_mm
from felloe.core.tension.statics import expected_left_over_right
from felloe.core.truing.headline import headline
from felloe.core.truing.tiers import SOUND
from tests.core.wheels import REAR

ASIDE = replace(REAR, dish_target_mm=4.0)
#: The same flanges, counted from the rim's own plane.
MOVED = replace(
    REAR,
    hub=replace(
        REAR.hub,
        right=replace(REAR.hub.right, center_to_flange_mm=REAR.hub.right.center_to_flange_mm - 4),
        left=replace(REAR.hub.left, center_to_flange_mm=REAR.hub.left.center_to_flange_mm + 4),
    ),
)


class OffCentre(unittest.TestCase):
    def test_the_same_wheel_described_from_the_rims_own_plane(self) -> None:
        """A rim 4 mm right of the middle is a hub whose flanges lie 4 mm further left of the rim."""
        for side in Side:
            self.assertAlmostEqual(spoke_length_mm(ASIDE, side), spoke_length_mm(MOVED, side), places=9)
        self.assertAlmostEqual(expected_left_over_right(ASIDE), expected_left_over_right(MOVED), places=9)
        np.testing.assert_allclose(influence_of(ASIDE).tension_n, influence_of(MOVED).tension_n, rtol=1e-9)

    def test_a_reading_on_the_mark_is_no_error(self) -> None:
        state = estimate_state(influence_of(ASIDE), Readings(dish=[DishReading(4.0, 0.05)]))
        self.assertAlmostEqual(state.dish_mm, 0, places=3)
        off = estimate_state(influence_of(ASIDE), Readings(dish=[DishReading(2.5, 0.05)]))
        self.assertAlmostEqual(off.dish_mm, -1.5, delta=0.01)
        self.assertIn("left of where it belongs", headline(off, SOUND))
        with self.assertRaises(BadReading):
            estimate_state(influence_of(ASIDE), Readings(dish=[DishReading(-17.0)]))

    def test_the_virtual_wheel_agrees(self) -> None:
        self.assertAlmostEqual(VirtualWheel.ideal(ASIDE).dish_mm, VirtualWheel.ideal(MOVED).dish_mm, places=9)

    def test_written_and_read_and_refused(self) -> None:
        self.assertEqual(wheel_from_dict(wheel_to_dict(ASIDE)), ASIDE)
        self.assertNotIn("dish_target_mm", wheel_to_dict(REAR))
        with self.assertRaises(ImpossibleGeometry) as caught:
            Wheel(REAR.rim, REAR.hub, REAR.right, REAR.left, dish_target_mm=50)
        self.assertEqual(caught.exception.field, "dish_target_mm")
