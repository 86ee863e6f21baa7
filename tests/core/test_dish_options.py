"""Ways to correct dish: each centres the rim, and the proposed one also mends the tension."""

import unittest

import numpy as np

from felloe.core.errors import BadReading
from felloe.core.mechanics.estimate import WheelState, estimate_state
from felloe.core.mechanics.readings import DishReading, Readings, TensionReading
from felloe.core.naming import Side
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.truing.dish_options import dish_advice, dish_plan, side_turns
from felloe.core.truing.options import PlanOptions
from tests.core.wheels import REAR, SYMMETRIC, influence, read_fully


def wheel_off(dish_mm: float, tension: float) -> WheelState:
    readings = [TensionReading(str(n), tension) for n in SYMMETRIC.names]
    return estimate_state(influence(SYMMETRIC), Readings(tension=readings, dish=[DishReading(dish_mm, 0.02)]))


class DishOptions(unittest.TestCase):
    def test_each_brings_the_rim_near_the_middle(self) -> None:
        for dish in (-1.2, 0.9):
            for option in dish_advice(wheel_off(dish, 1000)).options:
                with self.subTest(dish=dish, option=option.key):
                    self.assertLess(abs(option.after.dish_mm), 0.12)

    def test_sides_and_signs(self) -> None:
        """A rim that sits right goes left: tighten the left, ease the right (common practice, no source)."""
        tighten, ease, half = dish_advice(wheel_off(1.0, 1000)).options
        self.assertEqual((tighten.name, ease.name), ("Tighten the left", "Ease the right"))
        self.assertGreater(tighten.left_turns, 0)
        self.assertEqual(tighten.right_turns, 0)
        self.assertLess(ease.right_turns, 0)
        self.assertLess(half.right_turns, 0)
        self.assertGreater(half.left_turns, 0)
        self.assertGreater(tighten.left_mean_n + tighten.right_mean_n, ease.left_mean_n + ease.right_mean_n)

    def test_the_one_that_mends_the_tension_is_proposed(self) -> None:
        for tension, key in ((800, "tighten"), (1000, "half"), (1130, "ease")):
            with self.subTest(tension):
                proposed = [o.key for o in dish_advice(wheel_off(1.0, tension)).options if o.proposed]
                self.assertEqual(proposed, [key])

    def test_nothing_above_the_rims_limit_is_proposed_or_planned(self) -> None:
        state = wheel_off(2.5, 1000)
        tighten = dish_advice(state).options[0]
        self.assertTrue(tighten.over_cap)
        self.assertFalse(tighten.proposed)
        with self.assertRaises(BadReading):
            dish_plan(state, PlanOptions(), "tighten")

    def test_on_the_virtual_wheel(self) -> None:
        """The option's turns really centre a wheel of another model."""
        turns = np.where(REAR.on_side(Side.RIGHT), 0.25, 0.0)
        virtual = VirtualWheel.ideal(REAR).turned(turns)
        tension = [TensionReading(str(n), float(t)) for n, t in zip(REAR.names, virtual.tension_n, strict=True)]
        state = estimate_state(influence(REAR), Readings(tension=tension, dish=[DishReading(virtual.dish_mm, 0.02)]))
        for option in dish_advice(state).options:
            after = virtual.turned(side_turns(state, option.right_turns, option.left_turns))
            with self.subTest(option.key):
                self.assertLess(abs(after.dish_mm), 0.25 * abs(virtual.dish_mm))

    def test_the_plan_behind_it(self) -> None:
        state = wheel_off(1.0, 900)
        plan = dish_plan(state, PlanOptions(), "tighten")
        self.assertEqual(len(plan.moves), 16)
        self.assertEqual({m.spoke[0] for m in plan.moves}, {"L"})
        self.assertEqual(len({m.turns for m in plan.moves}), 1)
        with self.assertRaises(KeyError):
            dish_plan(state, PlanOptions(), "pray")

    def test_a_wheel_that_is_not_straight_is_said(self) -> None:
        self.assertTrue(dish_advice(wheel_off(1.0, 1000)).straight_enough)
        turns = np.zeros(32)
        turns[4] = 2.0
        readings = read_fully(VirtualWheel.ideal(SYMMETRIC).turned(turns), np.random.default_rng(0))
        self.assertFalse(dish_advice(estimate_state(influence(SYMMETRIC), readings)).straight_enough)
